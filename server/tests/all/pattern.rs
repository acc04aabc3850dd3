//! The pattern contract: its form, what it refuses, and the same bytes twice.

use cavesson::cli::pattern;
use serde_json::{Value, json};

pub(crate) fn sample() -> Value {
    json!({
        "kind": "barrels", "start": { "x": 0, "y": 0 }, "finish": { "x": 0, "y": 0 }, "barrel_radius": 0.96,
        "barrels": [
            { "id": "1", "x": 45, "y": 60, "turn": "right", "entry": 4, "back": 4, "exit": 3 },
            { "id": "2", "x": -45, "y": 60, "turn": "left", "entry": 4, "back": 5, "exit": 3 },
            { "id": "3", "x": 0, "y": 154.87, "turn": "left", "entry": 4, "back": 4, "exit": 3 }
        ],
        "horse": { "top_speed": 34, "speed_up": 10, "slow_down": 16, "side_grip": 22, "start_speed": 30, "stride": 17 }
    })
}

/// The tangent between circles of 3.96 and 4.96 ft turned to opposite hands, 90 ft apart: sqrt(90² - 8.92²) ft.
#[test]
fn a_pattern_is_answered_in_feet() {
    let answer = pattern(&sample().to_string()).unwrap();
    let number = |at: &str| answer.pointer(at).and_then(Value::as_f64).unwrap_or_else(|| panic!("{at}"));
    assert!((number("/legs/1/length") - (90.0_f64.powi(2) - 8.92_f64.powi(2)).sqrt()).abs() < 1e-5);
    assert_eq!(answer["legs"][0]["from"], "start");
    assert_eq!(answer["legs"][3]["to"], "finish");
    assert_eq!(answer["strides"], (number("/length") / 17.0).round() as u64);
    assert_eq!(answer["lead_change"]["after"], "1", "one change stands by itself");
    let path = answer["path"].as_array().unwrap();
    let of = |n: usize, key: &str| path[n][key].as_f64().unwrap();
    assert!((1..path.len()).all(|n| of(n, "s") - of(n - 1, "s") <= 1.0 + 1e-6 && of(n, "t") >= of(n - 1, "t")));
    assert!((of(path.len() - 1, "t") - number("/time")).abs() < 1e-6);
    assert_eq!(pattern(&sample().to_string()).unwrap().to_string(), answer.to_string());
}

#[test]
fn lead_changes_are_none_one_or_a_list() {
    let mut hands = sample();
    hands["barrels"][2]["turn"] = json!("right");
    assert_eq!(pattern(&hands.to_string()).unwrap()["lead_change"].as_array().unwrap().len(), 2);
    for n in 0..3 {
        hands["barrels"][n]["turn"] = json!("left");
    }
    assert_eq!(pattern(&hands.to_string()).unwrap()["lead_change"], Value::Null);
}

#[test]
fn what_cannot_be_used_is_refused_with_its_place() {
    let cases: [(&str, Value, &str); 15] = [
        ("/kind", json!("poles"), "kind: is not a kind of pattern that is known"),
        (
            "/start",
            json!({ "x": 44, "y": 60 }),
            "start: 1.00 ft from the middle of the first barrel, inside its pocket",
        ),
        ("/finish", json!({ "x": 0, "y": 153 }), "finish: 1.87 ft from the middle of the last barrel"),
        ("/start/x", json!("0"), "start.x: \"0\" is not a number"),
        ("/finish/y", json!(1e9), "finish.y: 1000000000 is not within"),
        ("/barrel_radius", json!(0), "barrel_radius: 0 is not over 0"),
        ("/barrels", json!([]), "barrels: there is no barrel"),
        ("/barrels/0/entry", json!(0), "barrels[0].entry: 0 is not over 0"),
        ("/barrels/1/back", json!(-3), "barrels[1].back: -3 is not within"),
        ("/barrels/1/turn", json!("up"), "barrels[1].turn: \"up\" is not a hand"),
        ("/barrels/1/id", json!("1"), "barrels[1].id: \"1\" names something else already"),
        ("/barrels/1/x", json!(41), "barrels[1]: stands inside the turn about barrel \"1\""),
        ("/barrels/1/x", json!(37), "barrels[1]: no straight leads here from barrel \"1\""),
        ("/horse/stride", json!(null), "horse.stride: null is not a number"),
        ("/horse/start_speed", json!(-1), "horse.start_speed: -1 is not within"),
    ];
    for (at, value, says) in cases {
        let mut bad = sample();
        *bad.pointer_mut(at).unwrap() = value;
        let problems = pattern(&bad.to_string()).unwrap_err();
        let lines: Vec<String> = problems.iter().map(ToString::to_string).collect();
        assert!(lines.iter().any(|l| l.starts_with(says)), "{at}: {lines:?}");
    }
    let mut more = sample();
    more["gait"] = json!("run");
    assert!(pattern(&more.to_string()).unwrap_err()[0].to_string().contains("gait: this key is not known"));
}
