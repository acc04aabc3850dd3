//! The log in shorthand: what it reads, what it points at, that nothing is lost, and that it writes back what it read.

use cavesson_core::{
    count::{Count, ObstacleStage},
    curriculum::{Curriculum, Gait, Measure, Side},
    load::GaitMinutes,
    response::{Answer, ResponseTime, Weight},
};
use cavesson_formats::shorthand::{Lexicon, ParsedLog, ParsedRide, RideFacts, Set, SetResult, Span, parse, write};
use chrono::{Days, NaiveDate};
use proptest::prelude::*;

fn lexicon() -> Lexicon<'static> {
    let aliases = [("rump".to_owned(), "S4".to_owned())];
    let horses = ["Juniper".to_owned(), "Old Copper".to_owned()];
    let own = |names: &[&str]| names.iter().map(|&n| n.to_owned()).collect::<Vec<_>>();
    Lexicon::new(Curriculum::standard(), &aliases, &horses).unwrap().knowing(
        &own(&["Ada Ro", "Dell"]),
        &own(&["Back pasture", "Arena"]),
        &own(&["3/8 bosal", "Work saddle"]),
    )
}

fn one(text: &str) -> ParsedRide {
    let all = parse(text, &lexicon());
    assert!(all.diagnostics.is_empty(), "{text}: {:?}", all.diagnostics);
    assert_eq!(all.rides.len(), 1);
    all.rides.into_iter().next().unwrap()
}

fn told(text: &str) -> String {
    let set = &one(text).sets[0];
    format!("{} {} {} {:?}", set.rung, set.gait, set.side, set.result)
}

#[test]
fn the_issue_of_a_morning_is_read_word_by_word() {
    let all = parse("flex L 6/8 egg 1.5s, R 4/8 orange head-up · jog stop 5/7 lemon", &lexicon());
    assert!(all.diagnostics.is_empty(), "{:?}", all.diagnostics);
    let sets = &all.rides[0].sets;
    let rows: Vec<_> = sets.iter().map(|s| (s.rung.as_str(), s.gait, s.side, s.weight, s.result.clone())).collect();
    let reps = |gave, none| SetResult::Reps { gave, tried: 0, none };
    assert_eq!(
        rows,
        [
            ("S1", Gait::Stand, Side::Left, Weight::Egg, reps(6, 2)),
            ("S1", Gait::Stand, Side::Right, Weight::Orange, reps(4, 4)),
            ("T3", Gait::Jog, Side::Both, Weight::Lemon, reps(5, 2)),
        ]
    );
    assert_eq!((sets[0].time, sets[1].time), (ResponseTime::from_seconds(1.5).ok(), None));
    assert_eq!(sets[1].faults, ["head-up"]);
    let words: Vec<&str> = all.words.iter().map(|w| w.says.as_str()).collect();
    assert_eq!(words[..5], ["S1 Flexion", "side: left", "6 of 8", "at an egg", "in 1.5 s"]);
}

#[test]
fn what_else_is_told_of_a_ride_stands_in_parentheses() {
    let ride = one("Juniper 2026-03-02 (dell, back PASTURE, 3/8 bosal, trot 10 walk 20): flex L 6/8");
    assert_eq!(ride.horse.as_deref(), Some("Juniper"));
    let facts = RideFacts {
        rider: Some("Dell".into()),
        place: Some("Back pasture".into()),
        gear: vec!["3/8 bosal".into()],
        minutes: Some(GaitMinutes { walk: 20, jog: 10, ..GaitMinutes::default() }),
    };
    assert_eq!(ride.facts, facts);
    assert_eq!(
        write(&ride).split(": ").next(),
        Some("Juniper 2026-03-02 (Dell, Back pasture, 3/8 bosal, walk 20 jog 10)")
    );
    let near = parse("Juniper (Bak pasture): flex L 6/8", &lexicon());
    assert_eq!(near.diagnostics[0].nearest.as_deref(), Some("Back pasture"));
}

#[test]
fn reps_carry_the_usual_weight_and_the_first_miss_its_faults() {
    let reps = one("flex L 2+1/4 egg 1.2s leans").sets[0].reps();
    let answers: Vec<Answer> = reps.iter().map(|r| r.0.answer).collect();
    assert_eq!(answers, [Answer::Gave, Answer::Gave, Answer::Tried { missing: None }, Answer::None]);
    assert!(reps.iter().all(|r| r.0.weight == Weight::Egg));
    assert_eq!(reps.iter().map(|r| r.1.len()).collect::<Vec<_>>(), [0, 0, 1, 0]);
}

#[test]
fn ids_names_and_the_barns_own_words_all_lead_to_the_rung() {
    assert_eq!(told("S6 jog 3/5"), r#"S6 jog both Reps { gave: 3, tried: 0, none: 2 }"#);
    assert_eq!(told("poll on two reins at the jog 3/5"), told("S6 jog 3/5"));
    assert_eq!(told("rump walk R 3/5"), r#"S4 walk right Reps { gave: 3, tried: 0, none: 2 }"#);
    assert_eq!(told("walk stop 1/1"), r#"T2 walk both Reps { gave: 1, tried: 0, none: 0 }"#);
    assert_eq!(told("Stop lope 1/1"), r#"T4 lope both Reps { gave: 1, tried: 0, none: 0 }"#);
    let wrong = [("rump".to_owned(), "Z1".to_owned())];
    assert!(Lexicon::new(Curriculum::standard(), &wrong, &[]).is_err());
}

#[test]
fn what_is_counted_otherwise_is_written_otherwise() {
    assert_eq!(one("R2 jog L 3 laps soft").sets[0].result, SetResult::Counted(Count::Laps { laps: 3, soft: true }));
    assert_eq!(one("cocked L 1/4").sets[0].result, SetResult::Counted(Count::NoseUps { circles: 4, ups: 1 }));
    assert_eq!(one("setups R 6/8").sets[0].result, SetResult::Counted(Count::SetUps { asked: 8, accepted: 6 }));
    let tries = vec![ObstacleStage::Looks, ObstacleStage::TwoFeet, ObstacleStage::Crosses];
    assert_eq!(one("bridge looks>two>crosses").sets[0].result, SetResult::Counted(Count::Tries { tries }));
    let share = Count::ReinShare { bridle: 30, soft: false, asked: None };
    assert_eq!(one("B22 walk 30% stiff").sets[0].result, SetResult::Counted(share));
    let held = Count::Held { seconds: 8, lost: true };
    assert_eq!(one("top line jog 8.4s stiff").sets[0].result, SetResult::Counted(held));
    let steps = Count::Steps { steps: 7, broke: true };
    let back = one("back 7 steps stiff crooked");
    assert_eq!((&back.sets[0].result, &back.sets[0].faults), (&SetResult::Counted(steps), &vec!["crooked".to_owned()]));
    assert_eq!(one("mounts L 10/12").sets[0].result, SetResult::Counted(Count::Mounts { mounts: 12, loose: 10 }));
}

#[test]
fn several_horses_days_signs_and_notes_go_in_one_paste() {
    let text =
        "Juniper 2026-03-02: flex L 6/8 · licks\n \"bring the left along\"\n\nold copper: jog stop 5/5\nback 8 steps";
    let all = parse(text, &lexicon());
    assert!(all.diagnostics.is_empty(), "{:?}", all.diagnostics);
    let [first, second] = all.rides.as_slice() else { panic!("{:?}", all.rides) };
    assert_eq!((first.horse.as_deref(), second.horse.as_deref()), (Some("Juniper"), Some("Old Copper")));
    assert_eq!(first.date, NaiveDate::from_ymd_opt(2026, 3, 2));
    assert_eq!((first.signs.as_slice(), first.note.as_str()), (&["licks".to_owned()][..], "bring the left along"));
    assert_eq!((second.sets.len(), second.line), (2, 3));
}

#[test]
fn what_is_not_known_is_pointed_at_by_column_with_the_nearest_word() {
    let point = |text: &str| {
        let all = parse(text, &lexicon());
        let t = all.diagnostics.first().unwrap_or_else(|| panic!("{text} was taken")).clone();
        (t.span.line, t.span.from, t.span.to, t.nearest, t.says)
    };
    let (line, from, to, nearest, _) = point("flex L 6/8\nflexx R 4/8");
    assert_eq!((line, from, to, nearest.as_deref()), (1, 0, 5, Some("flex")));
    let all = parse("flex L 6/8 lemmon", &lexicon());
    let word = all.diagnostics.iter().find(|t| t.says.contains("lemmon")).unwrap();
    assert_eq!((word.span, word.nearest.as_deref()), (Span { line: 0, from: 11, to: 17 }, Some("lemon")));
    assert_eq!(point("Junipper: flex L 1/1").3.as_deref(), Some("Juniper"));
    for (text, says) in [
        ("flex 6/8", "two sides"),
        ("flex L", "how many of how many"),
        ("flex L 9/8", "no more good ones than all"),
        ("flex L jog 6/8", "is not trained at the jog"),
        ("jog stop L 5/7", "has no side"),
        ("6/8", "which rung"),
        ("flex L 6/8 7/8", "another count"),
        ("flex hip L 6/8", "one rung"),
        ("flex L 6/8 soft", "counted in asks"),
        ("bridge crosses egg", "no weight and no seconds"),
        ("back 8/10", "counted in steps"),
        ("top line jog", "how long did it hold"),
        ("bridge 6/8", "counted in tries"),
        ("flex L 6/8 99999s", "3600"),
        ("flex L 6/8 \"open", "not closed"),
        (": flex L 6/8", "before a colon"),
        ("Juniper (Del): flex L 6/8", "no rider, place"),
        ("Juniper (Dell, Ada Ro): flex L 6/8", "told already"),
        ("Juniper (Dell: flex L 6/8", "not closed before"),
        ("Juniper (): flex L 6/8", "nothing is told"),
        ("Juniper (walk 0): flex L 6/8", "no rider, place"),
    ] {
        let all = parse(text, &lexicon());
        assert!(all.diagnostics.iter().any(|t| t.says.contains(says)), "{text}: {:?}", all.diagnostics);
    }
}

/// Characters that are neither blank nor inside a word that was understood or a trouble.
fn lost(text: &str, all: &ParsedLog) -> Option<(usize, usize, char)> {
    let covers = |s: Span, line: usize, at: usize| s.line == line && (s.from..s.to).contains(&at);
    let spans: Vec<Span> = all.words.iter().map(|w| w.span).chain(all.diagnostics.iter().map(|t| t.span)).collect();
    text.lines().enumerate().find_map(|(line, l)| {
        let mut chars = l.chars().enumerate().filter(|(_, c)| !c.is_whitespace());
        chars.find(|&(at, _)| !spans.iter().any(|&s| covers(s, line, at))).map(|(at, c)| (line, at, c))
    })
}

fn any_set() -> impl Strategy<Value = Set> {
    let rungs = Curriculum::standard().rungs().to_vec();
    let pick = (prop::sample::select(rungs), any::<prop::sample::Index>(), any::<prop::sample::Index>());
    let weight = prop::sample::select(Weight::ALL.to_vec());
    let faults = prop::sample::subsequence(vec!["leans".to_owned(), "head-up".to_owned(), "pulls".to_owned()], 0..3);
    (pick, weight, prop::option::of(0u32..20_000), faults, 0u8..60, 0u8..20, 1u8..60).prop_map(
        |((rung, gait, side), weight, millis, faults, a, b, c)| {
            let (gait, side) = (*gait.get(&rung.gaits), *side.get(rung.sides.list()));
            let result = match rung.measure {
                Measure::Reps => SetResult::Reps { gave: a, tried: b, none: c },
                Measure::Laps { .. } => SetResult::Counted(Count::Laps { laps: c, soft: a % 2 == 0 }),
                Measure::NoseUps => SetResult::Counted(Count::NoseUps { circles: c, ups: a }),
                Measure::SetUps => SetResult::Counted(Count::SetUps { asked: c, accepted: a.min(c) }),
                Measure::Mounts { .. } => SetResult::Counted(Count::Mounts { mounts: c, loose: a.min(c) }),
                Measure::ReinShare { .. } => {
                    SetResult::Counted(Count::ReinShare { bridle: c, soft: a % 2 == 0, asked: None })
                }
                Measure::Tries { .. } => SetResult::Counted(Count::Tries {
                    tries: vec![ObstacleStage::Looks, ObstacleStage::TwoFeet, ObstacleStage::Crosses],
                }),
                Measure::Held { .. } => SetResult::Counted(Count::Held { seconds: c.into(), lost: a % 2 == 0 }),
                Measure::Steps { .. } => SetResult::Counted(Count::Steps { steps: c, broke: a % 2 == 0 }),
            };
            let reps = matches!(result, SetResult::Reps { .. });
            let time = millis.filter(|_| reps).and_then(|m| ResponseTime::new(m).ok());
            let weight = if reps { weight } else { Weight::Lemon };
            Set { rung: rung.id, gait, side, result, weight, time, faults }
        },
    )
}

fn any_facts() -> impl Strategy<Value = RideFacts> {
    let rider = prop::sample::select(vec![None, Some("Ada Ro".to_owned()), Some("Dell".to_owned())]);
    let place = prop::sample::select(vec![None, Some("Back pasture".to_owned()), Some("Arena".to_owned())]);
    let gear = prop::sample::subsequence(vec!["3/8 bosal".to_owned(), "Work saddle".to_owned()], 0..=2);
    let minutes = prop::option::of((1u16..=600, 0u16..90));
    (rider, place, gear, minutes).prop_map(|(rider, place, gear, minutes)| RideFacts {
        rider,
        place,
        gear,
        minutes: minutes.map(|(walk, jog)| GaitMinutes { walk, jog, ..GaitMinutes::default() }),
    })
}

fn any_ride() -> impl Strategy<Value = ParsedRide> {
    let horse = prop::sample::select(vec![None, Some("Juniper".to_owned()), Some("Old Copper".to_owned())]);
    let signs = prop::sample::subsequence(vec!["licks".to_owned(), "sour".to_owned()], 0..2);
    let day = prop::option::of(0u64..3000);
    (horse, day, any_facts(), prop::collection::vec(any_set(), 1..6), signs, "[a-z]{0,8}( [a-z]{1,9}){0,3}").prop_map(
        |(horse, day, facts, sets, signs, note)| {
            let date = day.map(|n| NaiveDate::from_ymd_opt(2020, 1, 1).unwrap() + Days::new(n));
            ParsedRide { line: 0, horse, date, facts, sets, signs, note: note.trim().to_owned() }
        },
    )
}

proptest! {
    #[test]
    fn what_is_written_is_read_as_the_same(ride in any_ride()) {
        let text = write(&ride);
        let all = parse(&text, &lexicon());
        prop_assert!(all.diagnostics.is_empty(), "{}: {:?}", text, all.diagnostics);
        prop_assert_eq!(&all.rides, &vec![ride]);
        prop_assert_eq!(write(&all.rides[0]), text);
    }

    /// Any text at all: it does not panic, and each character ends in a word or in a message.
    #[test]
    fn nothing_is_lost_of_any_text(text in "\\PC{0,80}(\n\\PC{0,60}){0,3}") {
        let all = parse(&text, &lexicon());
        prop_assert_eq!(lost(&text, &all), None);
    }

    /// Texts made of the shorthand's own words in any order.
    #[test]
    fn nothing_is_lost_of_words_in_any_order(words in prop::collection::vec(prop::sample::select(vec![
        "flex", "L", "R", "6/8", "9/8", "1+1/3", "egg", "1.5s", "1.5", "s", ",", "·", ";", "jog", "stop", "head-up", "Juniper:",
        "licks", "\"note", "\"", "3", "laps", "steps", "7steps", "back", "soft", "30%", "looks>two", "at", "the", "x", ":", "\n", "2026-03-02:", "300/400",
        "(", ")", "):", "(dell,", "dell", "walk", "20",
    ]), 0..30)) {
        let text = words.join(" ");
        let all = parse(&text, &lexicon());
        prop_assert_eq!(lost(&text, &all), None);
        // A set that was taken came from a text without diagnostics in its line, or from another part of it.
        let sets: usize = all.rides.iter().map(|r| r.sets.len()).sum();
        prop_assert!(sets <= text.split([',', '·', ';', '\n']).count());
    }
}
