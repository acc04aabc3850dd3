//! The table of `cavesson judge`, on a log small enough to work out by hand.

use cavesson::cli::{family, fit, forecasts, herds, judge, kinds, trends};
use cavesson_judge::Descent;
use cavesson_sim::KINDS;
use serde_json::{Value, json};

/// One horse on one rung: every rep met from the third session on, none before; ready from the fifth.
fn log_and_truth() -> (Value, Value) {
    let rep = |met: bool| json!({ "outcome": if met { "gave" } else { "none" }, "weight": if met { "feather" } else { "hand" } });
    let sessions: Vec<Value> = (0..16)
        .map(|s| {
            let reps = vec![rep(s >= 2); 8];
            json!({ "date": format!("2026-03-{:02}", s + 1), "sets": [{ "rung": "r", "side": "both", "reps": reps }] })
        })
        .collect();
    let log = json!({ "posture": "steady", "trace": true, "horses": [{ "id": "h", "sessions": sessions }],
        "rungs": [{ "id": "r", "sides": ["both"], "gait": "walk", "needs": [],
                    "standard": { "share": 0.8, "weight": "lemon", "seconds": 2.0, "days": 3 } }] });
    let share: Vec<f64> = (0..16).map(|s| if s < 4 { 0.6 } else { 0.9 }).collect();
    let ready: Vec<bool> = (0..16).map(|s| s >= 4).collect();
    let truth = json!({ "oracle": { "log_loss": 0.5 },
        "horses": [{ "id": "h", "rungs": [{ "rung": "r", "side": "both", "share": share, "ready": ready }] }] });
    (log, truth)
}

fn row(table: &str, name: &str) -> Vec<String> {
    let line = table.lines().find(|l| l.starts_with(name)).unwrap_or_else(|| panic!("{name} is missing:\n{table}"));
    line[name.len()..].split_whitespace().map(str::to_owned).collect()
}

#[test]
fn rules_of_thumb_are_counted_as_by_hand() {
    let (log, truth) = log_and_truth();
    let table = judge(&family("log", &log.to_string(), &truth.to_string()).unwrap());
    // Three good days running come with the fifth session, where the horse is ready: nothing wrong, nothing lost.
    assert_eq!(row(&table, "three days running"), ["0.0%", "0.00", "1"]);
    // Eight of the last ten met with the third session, at a true 60 %: wrong, and before it was ready.
    assert_eq!(row(&table, "eight of ten"), ["100.0%", "0.00", "1"]);
    // The tenth session is five after the first in which it was ready.
    assert_eq!(row(&table, "ten sessions"), ["0.0%", "5.00", "1"]);
    for posture in ["patient", "steady", "go-ahead"] {
        let figures = row(&table, posture);
        let (loss, times): (f64, f64) = (figures[0].parse().unwrap(), figures[1].parse().unwrap());
        assert!((times - loss / 0.5).abs() < 0.001);
    }
}

#[test]
fn what_cannot_be_read_is_told() {
    let (log, truth) = log_and_truth();
    assert!(family("log", "{", &truth.to_string()).is_err());
    assert!(family("log", &log.to_string(), "nonsense").is_err());
    assert!(family("log", "{\"posture\":\"steady\"}", &truth.to_string()).is_err());
}

#[test]
fn a_truth_of_other_sessions_is_told() {
    let (log, truth) = log_and_truth();
    let told = |change: &dyn Fn(&mut Value)| {
        let mut other = truth.clone();
        change(&mut other);
        let problems = family("log", &log.to_string(), &other.to_string()).unwrap_err();
        problems.iter().map(ToString::to_string).collect::<String>()
    };
    let short = told(&|t| drop(t["horses"][0]["rungs"][0]["share"].as_array_mut().unwrap().pop()));
    assert!(short.contains("does not go with its sessions"), "{short}");
    let strange = told(&|t| t["horses"][0]["rungs"][0]["rung"] = json!("s"));
    assert!(strange.contains("does not go with its sessions"), "{strange}");
    let gap = told(&|t| t["horses"][0]["rungs"][0]["share"][3] = Value::Null);
    assert!(gap.contains("does not go with its sessions"), "{gap}");
    assert!(told(&|t| t["horses"] = json!([])).contains("nothing of horse h"));
}

/// Each table of the commands has the lines that it promises, with figures that can be read as such.
#[test]
fn the_tables_of_the_commands_have_their_lines() {
    let herds = herds(3, 1);
    for kind in &KINDS {
        let figures = row(&herds, kind.name);
        assert!(figures[0].parse::<f64>().is_ok_and(|loss| loss > 0.0), "{herds}");
        assert!(figures[1].ends_with('%') && figures[2].ends_with('%'), "{herds}");
    }
    let families = kinds(3, 1);
    let ahead = forecasts(&families);
    for line in ["begun, 2 weeks", "begun, 6 weeks", "begun, 12 weeks", "not begun, 2 weeks", "not begun, 12 weeks"] {
        assert!(ahead.lines().any(|l| l.starts_with(line)), "{line} is missing:\n{ahead}");
    }
    let told = trends(20, 1);
    for line in ["sooner or later, 50%", "lighter or heavier, 75%", "more or less of it, 90%"] {
        assert!(told.lines().any(|l| l.starts_with(line)), "{line} is missing:\n{told}");
    }
}

/// A fit that makes no sweep tells of the family left out, then of every setting, where it is and where it would go.
#[test]
fn a_fit_tells_of_the_family_left_out_and_of_every_setting() {
    let families = kinds(2, 1);
    let mut heard = vec![];
    let table = fit(&families, &[0], Descent { sweeps: 0, threads: 1 }, &mut |line| heard.push(line));
    assert_eq!(heard, ["without even", "to all of them"]);
    assert!(table.contains("even, in use") && table.contains("even, without it"), "{table}");
    let setting = row(&table, "starts.level.mean");
    assert_eq!(setting, ["-0.2500", "0.0000"], "in use, and the round number that the fit began from");
    assert_eq!(table.lines().filter(|l| l.starts_with("learning.")).count(), 10, "{table}");
}

/// The judge counts what `decide` says: the same log gives the same first advance in both.
#[test]
fn the_judge_counts_what_decide_says() {
    let (mut log, truth) = log_and_truth();
    for posture in ["patient", "steady", "go-ahead"] {
        log["posture"] = json!(posture);
        let answer = cavesson::cli::decide(&log.to_string()).unwrap();
        let calls = answer["horses"][0]["calls"].as_array().unwrap().clone();
        let first = calls.iter().position(|c| c["call"] == "advance").unwrap();
        let table = judge(&family("log", &log.to_string(), &truth.to_string()).unwrap());
        let figures = row(&table, posture);
        // The horse is ready from its fifth session on.
        let lost: f64 = figures[4].parse().unwrap();
        assert!((lost - first.saturating_sub(4) as f64).abs() < 1e-9, "{posture}: {first} {figures:?}");
        let wrong = if first < 4 { "100.0%" } else { "0.0%" };
        assert_eq!(figures[3], wrong, "{posture}: at a true 60 % until then");
    }
}
