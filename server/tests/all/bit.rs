//! The bit contract: its form, what it refuses, and the same bytes twice.

use cavesson::cli::bit;
use serde_json::{Value, json};

pub(crate) fn sample() -> Value {
    json!({
        "bit": { "kind": "leverage", "purchase": 1.75, "shank": 5.0, "sweep": 15.0 },
        "curb": { "fingers": 2 },
        "chin": { "behind": 2.0, "below": 0.25 },
        "headstall": { "length": 18.0, "give": 0.05 },
        "rein": { "rise": 10.0, "nose_out": 30.0 },
        "weights": [0.5, 5.0, 15.0]
    })
}

pub(crate) fn compared() -> Value {
    let mut first = sample();
    first.as_object_mut().unwrap().remove("weights");
    let bosal = json!({ "bit": { "kind": "bosal", "length": 11, "jaw": 8, "lean": 35 } });
    json!({ "compare": [first, bosal], "weights": [1.0, 15.0], "scale": { "egg": 0.6 } })
}

fn refused(document: &Value) -> Vec<String> {
    bit(&document.to_string()).unwrap_err().iter().map(ToString::to_string).collect()
}

#[test]
fn a_bit_is_answered_in_inches_degrees_and_newtons() {
    let answer = bit(&sample().to_string()).unwrap();
    let number = |at: &str| answer.pointer(at).and_then(Value::as_f64).unwrap_or_else(|| panic!("{at}"));
    assert!((number("/turn/tight") - 46.5).abs() < 0.05);
    assert!((number("/turn/over") - 115.0).abs() < 1e-6, "90 + 40 - 15 degrees");
    assert_eq!(answer["turn"]["state"], "good");
    assert!(answer["turn"]["why"].as_str().unwrap().contains("tight at 47 degrees"));
    assert!(
        (number("/strap/tight") - number("/strap/rest") - 0.75).abs() < 1e-5,
        "half the slack: the strap goes double"
    );
    assert!((number("/sensitivity/less/slack") - 1.25).abs() < 1e-6);
    assert_eq!(answer["weights"][0]["strap"], "slack");
    assert_eq!(answer["weights"][2]["word"], "hand");
    assert_eq!(bit(&sample().to_string()).unwrap().to_string(), answer.to_string());
}

#[test]
fn a_measured_angle_is_told_as_it_was_measured() {
    let mut measured = sample();
    measured["chin"] = json!({ "behind": 2.0, "tight_at": 45.3 });
    let answer = bit(&measured.to_string()).unwrap();
    assert_eq!(answer["turn"]["tight"], 45.3);
    let below = answer["chin"]["below"].as_f64().unwrap();
    measured["chin"] = json!({ "behind": 2.0, "below": below });
    let again = bit(&measured.to_string()).unwrap();
    assert!((again["turn"]["tight"].as_f64().unwrap() - 45.3).abs() < 1e-3);
}

#[test]
fn two_bits_are_compared_where_both_are_in_the_mouth() {
    let answer = bit(&compared().to_string()).unwrap();
    assert_eq!(answer["compare"][1]["kind"], "bosal");
    assert_eq!((&answer["mouth"][0]["second"], &answer["mouth"][0]["ratio"]), (&Value::Null, &Value::Null));
    let mut two = compared();
    two["compare"][1] = json!({ "bit": { "kind": "snaffle" }, "rein": { "rise": 0, "nose_out": 30 } });
    let answer = bit(&two.to_string()).unwrap();
    assert_eq!(answer["mouth"][1]["second"], 30.0);
    let first = answer["compare"][0]["weights"][1]["mouth"]["force"].as_f64().unwrap();
    assert!((answer["mouth"][1]["ratio"].as_f64().unwrap() - 30.0 / first).abs() < 1e-5);
}

#[test]
fn what_cannot_be_used_is_refused_with_its_place() {
    let cases: [(&str, Value, &[&str]); 19] = [
        ("/bit/kind", json!("gag"), &["bit.kind: is not a kind of bit"]),
        ("/bit/purchase", json!(0.4), &["bit.purchase: 0.4 is not within 0.5 to 6"]),
        ("/bit/shank", json!("5"), &["bit.shank: \"5\" is not a number"]),
        ("/bit/sweep", json!(60.5), &["bit.sweep: 60.5 is not within"]),
        ("/curb", json!({}), &["curb: \"slack\" or \"fingers\" is missing"]),
        ("/curb", json!({ "slack": 1, "fingers": 1 }), &["curb: the strap is told by"]),
        ("/curb/fingers", json!(-1), &["curb.fingers: -1 is not within 0 to 8"]),
        ("/chin/below", json!(3.1), &["chin.below: 3.1 is not within"]),
        ("/chin", json!({ "behind": 2 }), &["chin: \"below\" or \"tight_at\" is missing"]),
        ("/chin", json!({ "behind": 2, "tight_at": 180 }), &["chin.tight_at: 180 is not under 180"]),
        ("/chin", json!({ "behind": 2, "tight_at": 80 }), &["chin.tight_at: no chin in this range"]),
        (
            "/chin",
            json!({ "behind": 2, "tight_at": 116 }),
            &["chin.tight_at: at this angle rein and shank are in line"],
        ),
        ("/headstall/give", json!(0), &["headstall.give: 0 is not within"]),
        ("/rein/nose_out", json!(-30), &[]),
        ("/weights", json!([]), &["weights: 0 weights"]),
        (
            "/weights",
            json!([0, 251, true]),
            &["weights[0]: 0 is not over 0", "weights[1]: 251 is not", "weights[2]: true is not a number"],
        ),
        (
            "/rein",
            json!({ "rise": 60, "nose_out": 46 }),
            &["rein.rise: the rein lies at 106", "rein.nose_out: ", "bit.sweep: "],
        ),
        ("/rein", Value::Null, &["rein: null is not an object"]),
        (
            "/bit",
            json!({ "kind": "leverage", "purchase": 1, "shank": 5, "sweep": 0, "port": 1 }),
            &["bit.port: this key is not known"],
        ),
    ];
    for (at, value, says) in cases {
        let mut bad = sample();
        *bad.pointer_mut(at).unwrap() = value;
        if says.is_empty() {
            assert!(bit(&bad.to_string()).is_ok(), "{at}: ends of ranges are in");
            continue;
        }
        let lines = refused(&bad);
        for line in says {
            assert!(lines.iter().any(|l| l.starts_with(line)), "{at} {line}: {lines:?}");
        }
    }
    assert_eq!(refused(&json!({ "weights": [1] })), ["bit: is missing"]);
    let mut scale = sample();
    scale["scale"] = json!({ "egg": 1.5 });
    assert_eq!(refused(&scale), ["scale.egg: a lemon must be over an egg and over 0"]);
    scale["scale"] = json!({ "none": 1 });
    assert_eq!(refused(&scale), ["scale.none: this key is not known here"]);
    let mut three = compared();
    three["compare"].as_array_mut().unwrap().push(json!({}));
    assert_eq!(refused(&three), ["compare: 3 bits cannot be compared; it takes two"]);
    let mut inner = compared();
    inner["compare"][0]["chin"]["behind"] = json!(9);
    inner["compare"][1]["bit"]["jaw"] = json!(12);
    let lines = refused(&inner);
    assert!(
        lines[0].starts_with("compare[0].chin.behind: 9")
            && lines[1].starts_with("compare[1].bit.jaw: 12 is not within 1 to 11"),
        "{lines:?}"
    );
}
