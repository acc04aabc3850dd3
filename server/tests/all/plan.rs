//! The planning contract: its words, what it refuses, and the same bytes twice.

use cavesson::cli::plan;
use serde_json::{Value, json};

pub(crate) fn week() -> Value {
    json!({
        "week_start": "2026-03-02", "slot_minutes": 15, "seed": 7, "time_limit_ms": 250,
        "riders": [{ "id": "r1", "hours": [{ "day": 0, "from": "07:00", "to": "09:00" }, { "day": 3, "from": "07:00", "to": "24:00" }] }],
        "places": [{ "id": "arena", "at_once": 1, "hours": [{ "day": 0, "from": "06:00", "to": "20:00" }, { "day": 3, "from": "06:00", "to": "20:00" }] }],
        "horses": [{ "id": "h1", "rides": { "least": 3, "most": 4 }, "load": { "two_days": 90, "week": 240 }, "away": [] }],
        "works": [{ "id": "h1-stop", "horse": "h1", "minutes": 45, "load": 35, "places": ["arena"], "riders": [{ "id": "r1", "cost": 2 }],
                    "worth": [10, 6, 3], "gap_days": 2, "cows": 0 }],
        "heat": [{ "day": 3, "from": "12:00", "to": "20:00", "most_load": 20 }],
        "cows": [{ "day": 0, "works": 6 }],
        "before": [{ "work": "h1-stop", "day": -1, "load": 35 }],
        "fixed": [{ "work": "h1-stop", "day": 3, "start": "08:00", "place": "arena", "rider": "r1" }]
    })
}

#[test]
fn a_week_is_answered_with_reasons_and_twice_with_the_same_bytes() {
    let answer = plan(&week().to_string()).unwrap();
    // Day 0 comes too soon after the day before; the locked ride stands; two short of three.
    assert_eq!(
        answer["rides"],
        json!([{ "work": "h1-stop", "day": 3, "start": "08:00", "place": "arena", "rider": "r1" }])
    );
    assert_eq!(answer["score"], 10 - 2 - 50);
    assert_eq!((&answer["left_out"][0]["missed"], &answer["short"][0]["least"]), (&json!(2), &json!(3)));
    assert!(answer["left_out"][0]["why"].as_str().is_some_and(|w| !w.is_empty()));
    assert_eq!(plan(&week().to_string()).unwrap().to_string(), answer.to_string());
}

#[test]
fn what_cannot_be_used_is_refused_with_its_place() {
    let cases: [(&str, Value, &str); 12] = [
        ("/riders/0/hours/0/to", json!("06:00"), "riders[0].hours[0]: it ends before it starts"),
        ("/riders/0/hours/0/from", json!("7:00"), "riders[0].hours[0].from: \"7:00\" is not a time"),
        ("/horses/0/rides/least", json!(5), "horses[0].rides: least is 5, which is over most, 4"),
        ("/works/0/worth", json!([3, 10]), "works[0].worth: what a ride is worth never rises"),
        ("/works/0/worth", json!([3, -1]), "works[0].worth[1]: -1 is not a whole number from 0"),
        ("/works/0/gap_days", json!(0), "works[0].gap_days: 0 is not a whole number from 1"),
        ("/works/0/horse", json!("h2"), "works[0].horse: no horse has the id \"h2\""),
        ("/works/0/places/0", json!("moon"), "works[0].places[0]: no place has the id \"moon\""),
        ("/cows", json!([{ "day": 0, "works": 1 }, { "day": 0, "works": 2 }]), "cows[1]: day 0 has two entries"),
        ("/before/0/day", json!(0), "before[0].day: 0 is not a whole number from -7 to -1"),
        ("/fixed/0/rider", json!("r9"), "fixed[0].rider: no rider has the id \"r9\""),
        ("/week_start", json!("2026-02-30"), "week_start: \"2026-02-30\" is not a date"),
    ];
    for (at, value, told) in cases {
        let mut doc = week();
        *doc.pointer_mut(at).unwrap() = value;
        let problems: Vec<String> = plan(&doc.to_string()).unwrap_err().iter().map(ToString::to_string).collect();
        assert!(problems.iter().any(|p| p.starts_with(told)), "{at}: {problems:?}");
    }
    let mut twice = week();
    twice["horses"] = json!([week()["horses"][0], week()["horses"][0]]);
    assert!(plan(&twice.to_string()).unwrap_err()[0].to_string().contains("horses[1]: the id \"h1\" is used twice"));
    let mut more = week();
    more["colour"] = json!("red");
    assert!(plan(&more.to_string()).unwrap_err()[0].to_string().contains("colour: this key is not known here"));
    assert!(plan("{").is_err());
}
