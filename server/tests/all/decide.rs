//! The contract of `cavesson decide`: its form, its refusals, and that it learns nothing from the future.

use cavesson::cli::decide;
use serde_json::{Value, json};

fn log(sessions: &Value, trace: bool) -> Value {
    json!({ "posture": "steady", "trace": trace,
        "rungs": [{ "id": "stop", "sides": ["both"], "gait": "walk", "needs": ["flex"], "standard": { "share": 0.8, "weight": "lemon", "seconds": 2.0, "days": 3 } },
                  { "id": "flex", "sides": ["left", "right"], "gait": "stand", "needs": [], "standard": { "share": 0.825, "weight": "egg", "seconds": 1.5, "days": 2 } }],
        "horses": [{ "id": "h1", "sessions": sessions }] })
}

fn sessions(days: usize) -> Value {
    let rep = |met: bool| json!({ "outcome": if met { "gave" } else { "tried" }, "weight": "egg", "seconds": 1.2 });
    (1..=days)
        .map(|d| {
            let reps: Vec<Value> = (0..8).map(|n| rep(n % 4 != 0 || d > 4)).collect();
            json!({ "date": format!("2026-03-{d:02}"), "sets": [{ "rung": "flex", "side": "left", "reps": reps }, { "rung": "stop", "side": "both", "reps": [] }] })
        })
        .collect::<Vec<_>>()
        .into()
}

/// A log of a few days.
pub(crate) fn sample() -> Value {
    log(&sessions(4), true)
}

fn calls(document: &Value) -> Vec<Value> {
    decide(&document.to_string()).unwrap()["horses"][0]["calls"].as_array().unwrap().clone()
}

#[test]
fn answers_come_in_order_with_figures_and_bounds() {
    let all = calls(&log(&sessions(9), true));
    assert_eq!(all.len(), 9, "only the side with reps is answered for");
    for (n, call) in all.iter().enumerate() {
        assert_eq!(
            (call["session"].as_u64(), call["rung"].as_str(), call["side"].as_str()),
            (Some(n as u64), Some("flex"), Some("left"))
        );
        let [low, mean, high] = ["low", "mean", "high"].map(|k| call["share"][k].as_f64().unwrap());
        assert!(0.0 <= low && low <= mean && mean <= high && high <= 1.0);
        assert!(call["why"].to_string().chars().any(|c| c.is_ascii_digit()));
    }
    assert_eq!(all.last().unwrap()["call"], "advance");
}

#[test]
fn nothing_is_learned_from_the_future_and_the_last_state_is_the_same_without_trace() {
    let whole = calls(&log(&sessions(9), true));
    assert_eq!(calls(&log(&sessions(5), true)), whole[..5]);
    assert_eq!(calls(&log(&sessions(9), false)), whole[8..]);
    let document = log(&sessions(9), true).to_string();
    assert_eq!(decide(&document).unwrap().to_string(), decide(&document).unwrap().to_string());
}

#[test]
fn what_cannot_be_used_is_refused_with_its_path() {
    let good = log(&sessions(2), true);
    let table: [(&str, Value, &str); 12] = [
        ("/horses/0/sessions/0/date", json!("2026-02-30"), "horses[0].sessions[0].date: \"2026-02-30\" is not a date"),
        ("/horses/0/sessions/1/date", json!("2026-03-01"), "horses[0].sessions[1]: 2026-03-01 does not come after"),
        ("/horses/0/sessions/0/sets/0/rung", json!("nil"), "sets[0].rung: no rung has this id"),
        ("/horses/0/sessions/0/sets/0/side", json!("both"), "sets[0].side: the rung has no side"),
        ("/horses/0/sessions/0/sets/0/reps/0/weight", json!("brick"), "reps[0].weight: \"brick\" is not a weight"),
        ("/horses/0/sessions/0/sets/0/reps/0/seconds", json!(-1), "reps[0].seconds"),
        ("/posture", json!("bold"), "posture: \"bold\" is not a posture"),
        ("/trace", json!(1), "trace: 1 is neither true nor false"),
        ("/rungs/0/needs", json!(["gone"]), "rungs: stop: it needs gone"),
        ("/rungs/0/standard/share", json!(1), "rungs[0].standard.share"),
        ("/rungs/1/sides", json!(["left"]), "rungs[1].sides"),
        ("/horses", json!({}), "horses: {} is not a list"),
    ];
    for (at, value, expected) in table {
        let mut bad = good.clone();
        *bad.pointer_mut(at).unwrap() = value;
        let said: Vec<String> = decide(&bad.to_string()).unwrap_err().iter().map(ToString::to_string).collect();
        assert!(said.iter().any(|s| s.contains(expected)), "{at}: {said:?}");
    }
    let mut extra = good.clone();
    extra["horses"][0]["colour"] = json!("bay");
    assert_eq!(decide(&extra.to_string()).unwrap_err()[0].to_string(), "horses[0].colour: this key is not known here");
    assert!(decide("{").unwrap_err()[0].to_string().contains("not JSON"));
}
