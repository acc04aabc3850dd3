//! The figure contract: its form, what it refuses, and the same bytes twice.

use cavesson::cli::figure;
use serde_json::{Value, json};

pub(crate) fn sample(text: &str) -> Value {
    json!({
        "text": text,
        "pen": { "outline": [{ "x": -60, "y": -70 }, { "x": 100, "y": -70 }, { "x": 100, "y": 70 }, { "x": -60, "y": 70 }], "keep": 4 },
        "markers": [
            { "id": "A", "shape": "disc", "x": 45, "y": 0, "radius": 1, "keep": 3 },
            { "id": "B", "shape": "box", "x": 0, "y": 60, "width": 12, "depth": 0.5, "turn": 30, "keep": 3 }
        ],
        "horse": {
            "gaits": {
                "walk": { "speed": 5.5, "stride": 4.2, "least_radius": 5 }, "jog": { "speed": 9, "stride": 6.4, "least_radius": 8 },
                "lope": { "speed": 15, "stride": 6.8, "least_radius": 20 }, "run": { "speed": 28, "stride": 14, "least_radius": 45 },
                "back": { "speed": 3, "stride": 3 }, "side": { "speed": 2, "stride": 2.5 }
            },
            "turn_rate": 180, "speed_up": 8
        },
        "owned": ["L3 right", "T4"], "close": { "feet": 1, "degrees": 5 }
    })
}

/// One circle of 40 ft about the cone at (45, 0): 5 ft off its middle, less its foot, and 251.3 ft round.
#[test]
fn a_figure_is_answered_in_feet() {
    let document = sample("lope right\nCircle RIGHT 40ft\n").to_string();
    let answer = figure(&document).unwrap();
    let number = |at: &str| answer.pointer(at).and_then(Value::as_f64).unwrap_or_else(|| panic!("{at}"));
    assert_eq!(answer["text"], "lope right\ncircle right 40\n");
    assert_eq!(answer["mirrored"], "lope left\ncircle left 40\n");
    assert!((number("/totals/length") - 80.0 * std::f64::consts::PI).abs() < 1e-5);
    assert!((number("/totals/gaits/lope/minutes") - 80.0 * std::f64::consts::PI / 15.0 / 60.0).abs() < 1e-6);
    assert!((number("/fit/markers/0/clearance") - 34.0).abs() < 1e-5, "{}", answer["fit"]);
    assert!((number("/fit/pen/clearance") - 20.0).abs() < 1e-5);
    assert_eq!((&answer["fit"]["fits"], &answer["close"]["closes"]), (&json!(true), &json!(true)));
    assert_eq!(answer["rungs"][0], json!({ "rung": "L2 right", "lines": [1], "owned": false }));
    assert_eq!(answer["rungs"][1], json!({ "rung": "L3 right", "lines": [2], "owned": true }));
    assert_eq!(answer["parts"], json!({ "asking": 2, "not_owned": 1 }));
    assert_eq!(figure(&document).unwrap().to_string(), answer.to_string());
}

fn refused(document: &Value) -> Vec<String> {
    figure(&document.to_string()).unwrap_err().iter().map(ToString::to_string).collect()
}

#[test]
fn faults_of_the_text_are_told_by_line_and_column() {
    let told = refused(&sample("jog\ncircle lft 20\nturnaround left 1.3\nline to C\n"));
    assert_eq!(
        told,
        [
            "text:2:8: expected hand, found \"lft\"",
            "text:3:17: range: turns are from 0.25 to 25, in quarters",
            "text:4:9: name: nothing has this name",
        ]
    );
    let ridden = refused(&sample("line 20\n"));
    assert_eq!(ridden, ["text:1:1: gait: the horse has to be moving here, and stands"]);
}

#[test]
fn what_cannot_be_used_is_refused_with_its_place() {
    let cases: [(&str, Value, &str); 16] = [
        ("/text", json!(5), "text: 5 is not a text"),
        ("/text", json!("#".repeat(20_001)), "text: a text has at most 20000 characters"),
        ("/pen/keep", json!(-1), "pen.keep: -1 is not within"),
        ("/pen/outline", json!([{ "x": 0, "y": 0 }]), "pen.outline: 1 corners"),
        ("/pen/outline/1", json!({ "x": -60, "y": 200 }), "pen.outline: sides 4 and 1 cross or touch"),
        (
            "/pen/outline",
            json!([{ "x": 0, "y": 0 }, { "x": 30, "y": 10 }, { "x": 40, "y": 30 }, { "x": 15, "y": 5 }, { "x": -20, "y": 40 }]),
            "pen.outline: sides 1 and 3 cross or touch",
        ),
        (
            "/pen/outline",
            json!([{ "x": 0, "y": 0 }, { "x": 40, "y": 0 }, { "x": 20, "y": 0 }, { "x": 20, "y": 40 }]),
            "pen.outline: sides 1 and 2 cross or touch",
        ),
        ("/markers/1/id", json!("A"), "markers[1].id: another marker has this id"),
        ("/markers/0/id", json!("2b"), "markers[0].id: \"2b\" is not a name"),
        ("/markers/0/shape", json!("star"), "markers[0].shape: is not a shape"),
        ("/markers/0/radius", json!(0), "markers[0].radius: 0 is not over 0"),
        ("/markers/1/turn", json!("east"), "markers[1].turn: \"east\" is not a number"),
        ("/horse/gaits/lope/stride", json!(0), "horse.gaits.lope.stride: 0 is not over 0"),
        (
            "/horse/gaits/back",
            json!({ "speed": 3, "stride": 3, "least_radius": 1 }),
            "horse.gaits.back.least_radius: this key",
        ),
        ("/owned/1", json!(4), "owned[1]: 4 is not a text"),
        ("/close/degrees", json!(-5), "close.degrees: -5 is not within"),
    ];
    for (at, value, says) in cases {
        let mut bad = sample("jog\nline 20\n");
        *bad.pointer_mut(at).unwrap() = value;
        let told = refused(&bad);
        assert!(told.iter().any(|line| line.starts_with(says)), "{at}: {told:?}");
    }
    let mut less = sample("jog\n");
    less.as_object_mut().unwrap().remove("close");
    assert_eq!(refused(&less), ["close: is missing"]);
}
