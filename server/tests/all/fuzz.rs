//! Spoiled inputs for everything that reads a text from outside: none brings a reader down, takes it long, or makes it say nothing.
//!
//! A few thousand a reader in every run, the same each time. `scripts/fuzz MINUTES` goes on for as long as it is told, from a seed of
//! its own, and writes the last input down before it is read, for one that ends the process.

use std::{
    fs,
    panic::{AssertUnwindSafe, catch_unwind},
    time::{Duration, Instant},
};

use cavesson::cli;
use cavesson_core::{
    curriculum::{Curriculum, Gait},
    figure::{Figure, ride},
    pattern::{Barrel, Hand, Horse, Pocket, Point, Run, SetUp, TrackPoint, lay_over, quickest_run, timer_run},
};
use cavesson_formats::{
    calendar::{read::entries, recurrence::Recurrence},
    csv, gpx,
    shorthand::{Lexicon, parse},
    timer,
};
use chrono::NaiveDate;
use chrono_tz::America::Denver;
use rand::{Rng, RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde_json::json;

/// Longer than any of these takes on a slow machine, by far.
const LONG: Duration = Duration::from_secs(5);
/// The longest input.
const MOST: usize = 40_000;

/// What can be done to a text. Words are what the format gives meaning to, and what tends to break readers.
fn spoiled(rng: &mut impl Rng, seeds: &[String], words: &[&str]) -> String {
    let mut text: Vec<char> = seeds[rng.random_range(0..seeds.len())].chars().collect();
    for _ in 0..rng.random_range(1..8) {
        let at = rng.random_range(0..=text.len());
        let end = (at + rng.random_range(0..40_usize)).min(text.len());
        let word: Vec<char> = words[rng.random_range(0..words.len())].chars().collect();
        match rng.random_range(0..9_u8) {
            0 => drop(text.drain(at..end)),
            1 => drop(text.splice(at..end, word)),
            2 => drop(text.splice(at..at, word)),
            3 => {
                let part: Vec<char> = text[at..end].to_vec();
                let times = rng.random_range(1..200);
                text.splice(at..at, part.into_iter().cycle().take((end - at) * times));
            }
            4 => {
                let times = rng.random_range(1..3_000);
                text.splice(at..at, word.iter().copied().cycle().take(word.len() * times));
            }
            5 => text.truncate(at),
            6 => {
                let other: Vec<char> = seeds[rng.random_range(0..seeds.len())].chars().collect();
                let from = rng.random_range(0..=other.len());
                text.truncate(at);
                text.extend(&other[from..]);
            }
            7 if at < text.len() => text[at] = char::from_u32(rng.random_range(0..0x11_0000)).unwrap_or('\u{FFFD}'),
            _ => {
                let digits: Vec<usize> = (0..text.len()).filter(|&n| text[n].is_ascii_digit()).collect();
                if !digits.is_empty() {
                    text[digits[rng.random_range(0..digits.len())]] = (b'0' + rng.random_range(0..10_u8)) as char;
                }
            }
        }
        text.truncate(MOST);
    }
    text.into_iter().collect()
}

const NUMBERS: [&str; 14] = [
    "0",
    "-1",
    "1e308",
    "-0.0",
    "9223372036854775807",
    "18446744073709551616",
    "4294967296",
    "0001-01-01",
    "9999-12-31",
    "2026-02-30",
    "\u{202E}",
    "\0",
    "\u{FEFF}",
    "\u{1F40E}",
];

fn words<'w>(own: &[&'w str]) -> Vec<&'w str> {
    own.iter().copied().chain(NUMBERS).collect()
}

/// Reads spoiled inputs until the time is up, or a few thousand of them.
fn fuzz(name: &str, seeds: &[String], words: &[&str], read: impl Fn(&str)) {
    let minutes: Option<u64> = std::env::var("FUZZ_MINUTES").ok().map(|m| m.parse().unwrap());
    let seed = std::env::var("FUZZ_SEED").map_or(20_260_301, |s| s.parse().unwrap());
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let last = std::env::temp_dir().join(format!("fuzz-{name}-last"));
    for seed in seeds {
        read(seed);
    }
    let (began, mut inputs, mut slowest) = (Instant::now(), 0_u64, Duration::ZERO);
    while minutes.map_or(inputs < 1_500, |m| began.elapsed() < Duration::from_secs(60 * m)) {
        let text = spoiled(&mut rng, seeds, words);
        if minutes.is_some() {
            fs::write(&last, &text).unwrap();
        }
        let since = Instant::now();
        let read = catch_unwind(AssertUnwindSafe(|| read(&text)));
        let took = since.elapsed();
        slowest = slowest.max(took);
        inputs += 1;
        if read.is_err() || took > LONG {
            let found = std::env::temp_dir().join(format!("fuzz-{name}-found"));
            fs::write(&found, &text).unwrap();
            panic!("{name}: input {inputs} took {took:?}, or panicked; it is in {}", found.display());
        }
    }
    if minutes.is_some() {
        println!("{name}: {inputs} inputs, none found, the slowest took {} ms", slowest.as_millis());
    }
}

#[test]
fn calendar() {
    let event = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VTIMEZONE\r\nTZID:America/Denver\r\nEND:VTIMEZONE\r\nBEGIN:VEVENT\r\nUID:1\r\n\
                 SUMMARY:Farrier\\, all\r\nDTSTART;TZID=America/Denver:20260302T090000\r\nDURATION:PT1H30M\r\n\
                 RRULE:FREQ=WEEKLY;INTERVAL=6;BYDAY=MO,-1SU;UNTIL=20270101T000000Z\r\nEXDATE:20260413T090000\r\n\
                 BEGIN:VALARM\r\nTRIGGER:-PT15M\r\nEND:VALARM\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
    let day = "BEGIN:VCALENDAR\nBEGIN:VEVENT\nUID:2\nSUMMARY:Show\n  goes on\nDTSTART;VALUE=DATE:20260307\nDTEND;VALUE=DATE:20260309\n\
               RRULE:FREQ=MONTHLY;BYMONTHDAY=31;COUNT=9\nEND:VEVENT\nEND:VCALENDAR\n";
    let seeds = [event, day].map(str::to_owned);
    let words = words(&[
        "BEGIN:VEVENT\r\n",
        "END:VEVENT\r\n",
        "BEGIN:X\r\n",
        "RRULE:FREQ=DAILY\r\n",
        "FREQ=YEARLY",
        "BYSETPOS=-366",
        "BYYEARDAY=1",
        "COUNT=99999999",
        "INTERVAL=0",
        "DURATION:P9999999W\r\n",
        "UNTIL=",
        ";",
        ":",
        "\r\n ",
        "\\",
        "\"",
        "TZID=Nowhere/At_all",
    ]);
    let window = |y| NaiveDate::from_ymd_opt(y, 1, 1).unwrap();
    fuzz("calendar", &seeds, &words, |text| {
        for entry in entries(text, Denver).into_iter().flatten().flatten().take(200) {
            let Some(rule) = &entry.rule else { continue };
            if let Ok(series) = Recurrence::new(rule, entry.from, Denver, &entry.skipped) {
                let comes = series.comes();
                let found = series.between(window(2026), window(2027));
                assert!(found.is_empty() || comes, "a series that never comes was found");
            }
        }
    });
}

/// The words of a barn, as its page has them.
fn lexicon() -> Lexicon<'static> {
    let own = |names: &[&str]| names.iter().map(|&n| n.to_owned()).collect::<Vec<_>>();
    Lexicon::new(Curriculum::standard(), &[("rump".to_owned(), "S4".to_owned())], &own(&["Juniper", "Old Copper"]))
        .unwrap()
        .knowing(&own(&["Ada Ro", "Dell"]), &own(&["Back pasture", "Arena"]), &own(&["3/8 bosal", "Work saddle"]))
}

#[test]
fn shorthand() {
    let lexicon = lexicon();
    let seeds = [
        "flex L 6/8 egg 1.5s, R 4/8 orange head-up · jog stop 5/7 lemon",
        "Juniper 2026-03-02 (dell, back PASTURE, 3/8 bosal, trot 10 walk 20): flex L 6/8\nOld Copper: rump R 3/5 egg",
        "S6 8/10 feather; tail-swish\n# a remark\nR2 walk L soft after 3 laps",
    ]
    .map(str::to_owned);
    let words = words(&[
        "(",
        ")",
        ":",
        "/",
        ",",
        "·",
        "\n",
        "egg",
        "L",
        "flex",
        "99999/99999",
        "1.5s",
        "Juniper",
        "flxe",
        "soft",
    ]);
    fuzz("shorthand", &seeds, &words, |text| {
        let read = parse(text, &lexicon);
        let said = read.diagnostics.len() + read.words.len() + read.rides.len();
        assert!(said > 0 || text.chars().all(|c| !c.is_alphanumeric()), "nothing is said of {text:?}");
    });
}

#[test]
fn comma_separated_values() {
    let lexicon = lexicon();
    let log =
        parse("Juniper 2026-03-02 (dell): flex L 6/8 egg 1.5s, R 4/8 orange head-up · jog stop 5/7 lemon", &lexicon);
    let seeds =
        [csv::write(&log.rides).unwrap(), "horse,date,rung,side,gave,of\nJuniper,2026-03-02,S1,L,3,5\n".to_owned()];
    let words =
        words(&[",", "\"", "\"\"", "\r\n", "Juniper", "S1", "left", "egg", "horse", "date", ";", "\t", "65536"]);
    fuzz("csv", &seeds, &words, |text| drop(csv::read(text, &lexicon)));
}

#[test]
fn decide() {
    let seeds = [crate::decide::sample().to_string()];
    fuzz("decide", &seeds, &json_words(), |text| holds(cli::decide(text)));
}

#[test]
fn plan() {
    let seeds = [crate::plan::week().to_string()];
    fuzz("plan", &seeds, &json_words(), |text| {
        // A week is searched for as long as it asks for: a millisecond will do.
        let Ok(mut week) = serde_json::from_str::<serde_json::Value>(text) else { return holds(cli::plan(text)) };
        if week["time_limit_ms"].as_u64().is_some_and(|ms| ms > 1) {
            week["time_limit_ms"] = json!(1);
        }
        holds(cli::plan(&week.to_string()));
    });
}

#[test]
fn pattern() {
    let seeds = [crate::pattern::sample().to_string()];
    fuzz("pattern", &seeds, &json_words(), |text| holds(cli::pattern(text)));
}

#[test]
fn figures() {
    let text = "start 0 2.5 m heading 90 deg\nmark b -5 40 yd\nlope left  # easy\nrepeat 2\n  arc right 12 toward b\n  line to A past 3\nend\n\
                serpentine left 12 loops 3 straight 8 change flying\nrollback right leave jog\npoles 4 spacing 3 ft\nstop\n\
                backthrough ell left 8 6.5 wide 30 in\nwait 5 s\n";
    let words = words(&[
        "repeat 9\n",
        "end\n",
        "#",
        "\n",
        "\t",
        "line",
        "to",
        "toward",
        "left",
        "counter",
        "change simple",
        "mark a 0 0\n",
        "start at A heading 0\n",
        "circle right 20 times 99\n",
        "0.0001",
        "999999.9999",
        "3600",
        "-",
        ".",
        "lope left\n",
    ]);
    let ground = [("A".to_owned(), Point::new(4.0, 20.0))].into();
    fuzz("figures", &[text.to_owned()], &words, |text| {
        let Ok(figure) = Figure::read(text, &ground) else { return };
        let printed = figure.text();
        let again = Figure::read(&printed, &ground).unwrap_or_else(|faults| panic!("{printed}: {faults:?}"));
        assert_eq!(again.text(), printed);
        assert_eq!(
            ride(&again).map_err(|faults| faults.len()).map(|ridden| ridden.path.len()),
            ride(&figure).map_err(|f| f.len()).map(|r| r.path.len())
        );
    });
    fuzz("figure documents", &[crate::figure::sample(text).to_string()], &json_words(), |text| {
        holds(cli::figure(text));
    });
}

#[test]
fn cattle() {
    let seeds = crate::cattle::questions().map(|question| question.to_string());
    fuzz("cattle", &seeds, &json_words(), |text| {
        // A draw is searched for as long as it asks for: a millisecond will do.
        let Ok(mut asked) = serde_json::from_str::<serde_json::Value>(text) else { return holds(cli::cattle(text)) };
        if asked["time_limit_ms"].as_u64().is_some_and(|ms| ms > 1) {
            asked["time_limit_ms"] = json!(1);
        }
        holds(cli::cattle(&asked.to_string()));
    });
}

#[test]
fn bits() {
    let seeds = [crate::bit::sample().to_string(), crate::bit::compared().to_string()];
    fuzz("bits", &seeds, &json_words(), |text| holds(cli::bit(text)));
}

#[test]
fn tracks() {
    let point = |n: f64| TrackPoint { at: Point::new(n, -n), t: n };
    let seeds = [gpx::write("A & B", &[0.0, 1.0, 2.5].map(point), (33.2, -97.1), 1_770_000_000.0)];
    let words = words(&[
        "<trkpt lat=\"",
        "\" lon=\"",
        "</trkpt>",
        "<time>",
        "<!DOCTYPE",
        "&#0;",
        "<![CDATA[",
        "1e999",
        "-181",
        "<a>",
        "</a>",
    ]);
    fuzz("tracks", &seeds, &words, |text| {
        let Ok(track) = gpx::read(text) else { return };
        drop(lay_over(&standard_run(), 0.3, &track.points));
    });
}

#[test]
fn timers() {
    let seeds = ["event,seconds\r\nstart,0.5\nsplit,3.25\nblocked,4\nfinish,17.1\n".to_owned()];
    let words = words(&[
        "start",
        "split",
        "finish",
        "false-start",
        "no-signal",
        ",",
        "\"",
        "NaN",
        "inf",
        "1e308",
        "-1",
        "\r\n",
    ]);
    fuzz("timers", &seeds, &words, |text| {
        if let Ok(events) = timer::read(text) {
            assert_eq!(timer::read(&timer::write(&events)).map(|again| again.len()), Ok(events.len()));
            drop(timer_run(&events));
        }
    });
}

/// A run to lay tracks over.
fn standard_run() -> Run {
    let pocket = Pocket { entry: 1.2, back: 1.2, exit: 0.9 };
    let barrel = Barrel { at: Point::new(0.0, 20.0), turn: Hand::Left, pocket, early: 0.0 };
    let (start, finish) = (Point::new(3.0, 0.0), Point::new(-3.0, 0.0));
    let set_up = SetUp { start, finish, barrel_radius: 0.3, barrels: vec![barrel] };
    quickest_run(&set_up, &Horse::of_gait(Gait::Run).unwrap()).unwrap()
}

#[test]
fn judge() {
    let seeds = [crate::decide::sample().to_string()];
    fuzz("judge", &seeds, &json_words(), |text| drop(cli::family("spoiled", text, text)));
}

fn json_words() -> Vec<&'static str> {
    words(&[
        "{", "}", "[", "]", ":", ",", "\"", "\\u0000", "\\uD800", "null", "true", "[[", "{\"a\":", "NaN", "1e400",
        "\"gave\"", "\"left\"",
    ])
}

/// A refusal says what is wrong, and where.
fn holds(answer: Result<serde_json::Value, Vec<cli::Problem>>) {
    if let Err(problems) = answer {
        assert!(!problems.is_empty(), "a refusal that says nothing");
        assert!(problems.iter().all(|p| !p.to_string().trim().is_empty()));
    }
}
