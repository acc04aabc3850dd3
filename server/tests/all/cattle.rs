//! The cattle contract: its form, what it refuses, and the same bytes twice.

use cavesson::cli::cattle;
use serde_json::{Value, json};

fn a_draw() -> Value {
    json!({
        "kind": "draw", "seed": 7, "time_limit_ms": 250, "slots": 6, "go_minutes": 3, "bring": 2, "change": 1,
        "rest_half_days": 4, "wear_half_minutes": 20, "helper": [{ "from": 1, "to": 6 }],
        "horses": [
            { "id": "h1", "from": 1, "to": 6, "helper": true, "worth": [12, 6], "loss": 18, "least_honour": 500,
              "speed": { "least": 0, "most": 13 }, "manners": ["slow", "honest"], "not": [], "after": ["h2"] },
            { "id": "h2", "from": 1, "to": 6, "helper": false, "worth": [8], "loss": 4, "least_honour": 0,
              "speed": { "least": 0, "most": 20 }, "manners": ["honest", "running"], "not": ["c2"], "after": [] }
        ],
        "cows": [
            { "id": "c1", "manner": "honest", "speed": { "now": 12.5, "falls": 1, "least": 7 }, "cost": 1, "from": 1, "rest": 1,
              "day": 3, "week": 8, "start": { "honoured": 8.5, "tried": 10 },
              "log": [{ "day": -2, "minutes": 3, "tried": 5, "honoured": 4 }] },
            { "id": "c2", "manner": "slow", "speed": { "now": 9, "falls": 0.5, "least": 7 }, "cost": 0, "from": 1, "rest": 1,
              "day": 1, "week": 8, "start": { "honoured": 9, "tried": 10 }, "log": [] }
        ]
    })
}

fn a_chase() -> Value {
    json!({ "kind": "head-off", "cow": { "at": 24, "speed": 17, "tires": { "to": 9, "half_seconds": 6 } },
            "horse": { "nose": 12, "across": 0, "speed": 14, "delay": 0.4, "accel": 8, "top": 32, "brake": 14 },
            "pen": { "long": 180, "wide": 90 }, "room": 12, "holds": 12,
            "marks": [{ "id": "leg", "behind": 4 }, { "id": "hip", "behind": 8 }] })
}

fn a_stop() -> Value {
    json!({ "kind": "hold", "cow": { "brake": 20 }, "horse": { "off": 0.5, "delay": 0.35, "brake": 12 },
            "band": { "short": 2, "long": 3 }, "speeds": [4, 6] })
}

/// A flag that goes 20 ft to the right at 8 ft/s and stands, a horse that goes past it by two feet; some values are lost.
fn a_recording() -> Value {
    let at = |t: f64, begin: f64, feet: f64| {
        let t = (t - begin).clamp(0.0, feet / 8.0 + 0.8);
        let left = feet / 8.0 + 0.8 - t;
        if t < 0.8 {
            5.0 * t * t
        } else if left < 0.8 {
            feet - 5.0 * left * left
        } else {
            8.0 * (t - 0.4)
        }
    };
    let row = |n: i32| {
        let t = f64::from(n) / 15.0;
        json!([t, if n == 7 { Value::Null } else { json!(at(t, 1.0, 20.0)) }, at(t, 1.3, 22.0)])
    };
    json!({ "kind": "flag", "line": { "left": -25, "right": 25 }, "samples": (0..150).map(row).collect::<Vec<_>>() })
}

/// One question of each kind.
pub(crate) fn questions() -> [Value; 4] {
    [a_draw(), a_chase(), a_stop(), a_recording()]
}

#[test]
fn a_recording_is_read_in_the_words_of_the_contract() {
    let answer = cattle(&a_recording().to_string()).unwrap();
    assert_eq!(answer["stops"].as_array().unwrap().len(), 1, "{answer}");
    let stop = &answer["stops"][0];
    assert_eq!((&stop["came"], &stop["end"], &stop["went"]), (&json!("right"), &json!("right"), &Value::Null));
    assert_eq!((&stop["flag_leave"], &stop["leave_delay"], &stop["first"]), (&Value::Null, &Value::Null, &Value::Null));
    assert!((stop["flag_stop"].as_f64().unwrap() - 4.25).abs() < 0.05, "{stop}");
    assert!((stop["past"].as_f64().unwrap() - 2.0).abs() < 0.1, "{stop}");
    assert_eq!(answer["ends"][2]["stops"], 1);
    assert_eq!(answer["travel"][0], json!({ "way": "left", "off": null }));
}

fn refused(document: &Value) -> Vec<String> {
    cattle(&document.to_string()).unwrap_err().iter().map(ToString::to_string).collect()
}

/// The worked figures of the contract's own text.
#[test]
fn heading_off_and_holding_come_to_the_worked_figures() {
    let answer = cattle(&a_chase().to_string()).unwrap();
    let close = |at: &str, want: f64, most: f64| {
        let got = answer.pointer(at).and_then(Value::as_f64).unwrap_or_else(|| panic!("{at}"));
        assert!((got - want).abs() <= most, "{at}: {got}, not {want}");
    };
    for (key, want) in [("left", 10.22), ("t", 2.69), ("most_delay", 8.43)] {
        close(&format!("/marks/0/{key}"), want, 0.02);
    }
    for (key, want) in [
        ("cow", 66.77),
        ("nose", 70.77),
        ("speed", 32.0),
        ("stop", 107.35),
        ("clear", 72.65),
        ("start", 54.87),
        ("least_top", 15.32),
    ] {
        close(&format!("/marks/0/{key}"), want, 0.05);
    }
    close("/run_out/t", 8.49, 0.02);
    close("/run_out/feet", 119.7, 0.05);
    close("/run_out/laps", 0.22, 0.005);
    let answer = cattle(&a_stop().to_string()).unwrap();
    assert_eq!((&answer["speeds"][0]["past"], &answer["speeds"][0]["holds"]), (&json!(2.166667), &json!(true)));
    assert!((answer["most_speed"].as_f64().unwrap() - 5.63).abs() < 0.005);
}

#[test]
fn a_draw_is_answered_and_is_the_same_twice() {
    let answer = cattle(&a_draw().to_string()).unwrap();
    assert_eq!(answer.to_string(), cattle(&a_draw().to_string()).unwrap().to_string());
    // h2 first, since h1 comes after it: on c1, the only one it may have; then h1 on the slow one and on c1.
    let goes = answer["goes"].as_array().unwrap();
    let told: Vec<[&Value; 2]> = goes.iter().map(|go| [&go["horse"], &go["cow"]]).collect();
    assert_eq!(told[0], [&json!("h2"), &json!("c1")]);
    assert!(goes.iter().all(|go| go["slot"].as_u64().unwrap() >= 1));
    assert_eq!(answer["herd"][0]["honour"], 774, "as worked out by hand from its log");
    assert_eq!(answer["herd"].as_array().unwrap().len(), 2);
}

#[test]
fn what_cannot_be_used_is_refused_with_its_path() {
    let draw = |change: fn(&mut Value)| {
        let mut document = a_draw();
        change(&mut document);
        refused(&document).join("\n")
    };
    for (path, said) in [
        ("horses[1].id: ", draw(|d| d["horses"][1]["id"] = json!("h1"))),
        ("cows[1].id: ", draw(|d| d["cows"][1]["id"] = json!("c1"))),
        ("horses[1].not[0]: ", draw(|d| d["horses"][1]["not"] = json!(["c9"]))),
        ("horses[0].after[0]: ", draw(|d| d["horses"][0]["after"] = json!(["h9"]))),
        ("horses[0].after: ", draw(|d| d["horses"][1]["after"] = json!(["h1"]))),
        ("horses[0].to: ", draw(|d| d["horses"][0]["from"] = json!(7))),
        ("helper[0].to: ", draw(|d| d["helper"][0]["from"] = json!(7))),
        ("horses[0].worth[1]: ", draw(|d| d["horses"][0]["worth"] = json!([6, 12]))),
        ("horses[0].worth[0]: ", draw(|d| d["horses"][0]["worth"] = json!([-1]))),
        ("horses[0].manners[0]: ", draw(|d| d["horses"][0]["manners"] = json!(["wild"]))),
        ("cows[0].start.honoured: ", draw(|d| d["cows"][0]["start"]["honoured"] = json!(11))),
        ("cows[0].log[0].honoured: ", draw(|d| d["cows"][0]["log"][0]["honoured"] = json!(6))),
        (
            "cows[0].log[1].day: ",
            draw(|d| {
                d["cows"][0]["log"] = json!([{ "day": -1, "minutes": 3, "tried": 5, "honoured": 4 },
                                         { "day": -2, "minutes": 3, "tried": 5, "honoured": 4 }]);
            }),
        ),
        ("rest_half_days: ", draw(|d| d["rest_half_days"] = json!(0))),
        ("more: ", draw(|d| d["more"] = json!(1))),
        ("kind: ", draw(|d| d["kind"] = json!("roping"))),
    ] {
        assert!(said.contains(path), "{path}{said}");
    }
    let chase = |change: fn(&mut Value)| {
        let mut document = a_chase();
        change(&mut document);
        refused(&document).join("\n")
    };
    for (path, said) in [
        ("cow.tires.to: ", chase(|d| d["cow"]["tires"]["to"] = json!(18))),
        ("cow.tires.half_seconds: ", chase(|d| d["cow"]["tires"]["half_seconds"] = json!(0))),
        ("horse.speed: ", chase(|d| d["horse"]["speed"] = json!(33))),
        ("horse.accel: ", chase(|d| d["horse"]["accel"] = json!(0))),
        ("horse.nose: ", chase(|d| d["horse"]["nose"] = json!(169))),
        ("marks[1].id: ", chase(|d| d["marks"][1]["id"] = json!("leg"))),
        ("marks[1].behind: ", chase(|d| d["marks"][1]["behind"] = json!(3))),
        ("marks[0].behind: ", chase(|d| d["cow"]["tires"] = json!({ "to": 0, "half_seconds": 1 }))),
    ] {
        assert!(said.contains(path), "{path}{said}");
    }
    let mut stop = a_stop();
    stop["horse"]["off"] = json!(4);
    assert!(refused(&stop)[0].starts_with("horse.off: "));
    let flag = |change: fn(&mut Value)| {
        let mut document = a_recording();
        change(&mut document);
        refused(&document).join("\n")
    };
    for (path, said) in [
        ("line.right: ", flag(|d| d["line"]["right"] = json!(-30))),
        ("samples[2][0]: ", flag(|d| d["samples"][2][0] = json!(0.05))),
        ("samples[1]: ", flag(|d| d["samples"][1] = json!([0.1, 2.0]))),
        ("samples[1][1]: ", flag(|d| d["samples"][1][1] = json!("left"))),
        ("samples: ", flag(|d| d["samples"].as_array_mut().unwrap().truncate(30))),
        ("more: ", flag(|d| d["more"] = json!(1))),
    ] {
        assert!(said.contains(path), "{path}{said}");
    }
    assert!(cattle("{").unwrap_err()[0].to_string().starts_with("document: not JSON"));
}
