//! Around the ride: plan and changes to it, checks, gear, heat, coach, what it came to, and rides from shorthand.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, today};

/// Days of one set on a side, entered afterwards: met, missed.
async fn worked(ada: &mut Client, horse: Uuid, days: &[u64], sets: &[(&str, &str, &str, usize, usize)]) {
    let me = ada.my_id().await;
    for &ago in days {
        let sets: Vec<Value> = sets
            .iter()
            .enumerate()
            .map(|(n, (rung, gait, side, met, missed))| {
                let rep = |good: bool| {
                    let (outcome, weight) = if good { ("gave", "feather") } else { ("none", "hand") };
                    json!({ "id": Uuid::new_v4(), "outcome": outcome, "weight": weight })
                };
                let reps: Vec<Value> = (0..met + missed).map(|m| rep(m < *met)).collect();
                json!({ "id": Uuid::new_v4(), "position": n, "rung": rung, "gait": gait, "side": side, "reps": reps })
            })
            .collect();
        let body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(ago), "place": "arena",
                           "entered": "afterwards", "sets": sets });
        ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201);
    }
}

const OWNED: [(&str, &str, &str, usize, usize); 5] = [
    ("G10", "walk", "both", 8, 0),
    ("G7", "walk", "left", 8, 0),
    ("G7", "walk", "right", 8, 0),
    ("S1", "stand", "left", 8, 0),
    ("S1", "stand", "right", 8, 0),
];

fn steps(plan: &Value, purpose: &str) -> Vec<String> {
    let parts = plan["parts"].as_array().unwrap().iter().filter(|p| p["purpose"] == purpose);
    parts.map(|p| p["step"].as_str().unwrap_or_default().to_owned()).collect()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_is_planned_with_reasons_and_the_trainers_swaps_are_remembered(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    worked(&mut ada, horse, &[20, 18, 16, 14, 12, 10, 8], &OWNED).await;
    let ride = ada.ride(horse).await;
    let path = format!("/api/rides/{ride}/plan");
    let plan = ada.get(&path).await.is(200);
    assert_eq!(plan["parts"][0]["purpose"], "ground");
    let main = steps(&plan, "main")[0].clone();
    assert!(!plan["why"].as_array().unwrap().is_empty() && plan["next_best"]["why"].is_string(), "{plan}");
    assert!(plan["quit"].as_str().unwrap().starts_with("quit on"));

    let other = if main == "S4@stand" { "G8@stand" } else { "S4@stand" };
    let swap = json!({ "edit": "swap", "step": main, "into": other });
    let edit = format!("{path}/{}", Uuid::new_v4());
    ada.put(&edit, json!({ "edit": "swap", "step": main })).await.is(422);
    ada.put(&edit, json!({ "edit": "drop", "step": "Z9" })).await.is(422);
    let swapped = ada.put(&edit, swap.clone()).await.is(201);
    assert_eq!((steps(&swapped, "main"), &swapped["edited"]), (vec![other.to_owned()], &json!(true)));
    ada.put(&edit, swap.clone()).await.is(200);
    ada.put(&edit, json!({ "edit": "drop", "step": "S1" })).await.is(409);
    let back = ada.call(axum::http::Method::DELETE, &path, None).await.is(200);
    assert_eq!(steps(&back, "main")[0], main);
    // Twice within four weeks: the third time it is planned so, on Today too.
    for _ in 0..2 {
        let again = ada.ride(horse).await;
        ada.put(&format!("/api/rides/{again}/plan/{}", Uuid::new_v4()), swap.clone()).await.is(201);
    }
    let plan = ada.get(&path).await.is(200);
    assert_eq!(steps(&plan, "main")[0], other);
    assert!(plan["why"].to_string().contains("you chose it"), "{plan}");
    let day = ada.get("/api/today").await.is(200);
    assert_eq!(day["rides"][0]["line"]["main"]["id"], other);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_new_leverage_bit_in_the_heat_keeps_the_ride_waiting(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let bit = |teeth: Option<String>, mouthpiece: &str| {
        json!({ "kind": "bit", "name": "Short shank, low port", "mouthpiece": mouthpiece, "since": today(),
                "mouth_seen": today(), "teeth_seen": teeth })
    };
    let id = Uuid::new_v4();
    let path = format!("/api/horses/{horse}/gear/{id}");
    assert_eq!(ada.put(&path, bit(None, "leverage")).await.is(422)["errors"][0]["field"], "teeth_seen");
    let seen = (today() - Days::new(500)).to_string();
    assert_eq!(ada.put(&path, bit(Some(seen.clone()), "bitless")).await.is(422)["errors"][0]["field"], "mouthpiece");
    ada.put(&path, bit(Some(seen.clone()), "leverage")).await.is(201);
    ada.put(&path, bit(Some(seen.clone()), "leverage")).await.is(200);
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [id] })).await.is(200);
    assert_eq!(ada.get(&format!("/api/rides/{ride}")).await.is(200)["bit"], "Short shank, low port");
    assert_eq!(
        ada.put("/api/weather", json!({ "degrees": 99, "scale": "celsius", "humidity": 50 })).await.is(422)["errors"]
            [0]["field"],
        "degrees"
    );
    let heat = ada.put("/api/weather", json!({ "degrees": 98.6, "scale": "fahrenheit", "humidity": 85 })).await.is(200)
        ["heat"]
        .clone();
    assert_eq!((&heat["band"], &heat["typed"]), (&json!("no-hard-work"), &json!(true)));

    let plan = ada.get(&format!("/api/rides/{ride}/plan")).await.is(200);
    assert_eq!(plan["waits_for"], json!(["teeth", "first-leverage", "heat"]));
    let check = |id: &str| format!("/api/rides/{ride}/checks/{id}");
    ada.put(&check("teeth"), json!({ "side": "both", "answer": "overruled" })).await.is(422);
    let (_, email) = ada.person("Bea", "assistant").await;
    let mut bea = ada.visitor();
    bea.sign_in(&email).await;
    let overruled =
        json!({ "side": "both", "answer": "overruled", "words": "Dentist comes tomorrow; halter only today" });
    bea.put(&check("teeth"), overruled.clone()).await.is(403);
    ada.put(&check("teeth"), overruled).await.is(204);
    bea.put(&check("first-leverage"), json!({ "side": "both", "answer": "not" })).await.is(204);
    bea.put(&check("heat"), json!({ "side": "both", "answer": "well" })).await.is(204);
    let plan = ada.get(&format!("/api/rides/{ride}/plan")).await.is(200);
    assert_eq!(plan["waits_for"], json!(["first-leverage"]), "what does not hold keeps it waiting");
    bea.put(&check("first-leverage"), json!({ "side": "both", "answer": "well" })).await.is(204);
    let plan = ada.get(&format!("/api/rides/{ride}/plan")).await.is(200);
    assert_eq!(plan["waits_for"], json!([]));
    let teeth = plan["checks"].as_array().unwrap().iter().find(|c| c["id"] == "teeth").unwrap();
    assert_eq!((&teeth["answers"][0]["who"], &teeth["answers"][0]["answer"]), (&json!("Ada"), &json!("overruled")));
    // The air is noted with the ride when it begins.
    let begun = json!({ "version": ada.get(&format!("/api/rides/{ride}")).await.is(200)["version"], "rider_id": ada.my_id().await,
        "place": "arena", "state": "open", "note": "", "signs": [], "minutes": { "walk": 700 } });
    assert_eq!(ada.patch(&format!("/api/rides/{ride}"), begun.clone()).await.is(422)["errors"][0]["field"], "minutes");
    let mut begun = begun;
    begun["minutes"] = json!({ "walk": 20, "jog": 10 });
    ada.patch(&format!("/api/rides/{ride}"), begun).await.is(200);
    let ride = ada.get(&format!("/api/rides/{ride}")).await.is(200);
    assert_eq!((&ride["celsius"], &ride["humidity"], &ride["hot"]), (&json!(37.0), &json!(85), &json!(true)));
}

/// Signs of a day's ride that is already closed.
async fn signed(ada: &mut Client, horse: Uuid, ago: u64, signs: &[&str]) {
    let body = json!({ "horse_id": horse, "rider_id": ada.my_id().await, "date": today() - Days::new(ago), "place": "arena",
                       "entered": "afterwards", "signs": signs });
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn spurs_come_off_a_horse_that_was_tight_the_last_time_and_stay_on_one_that_was_not(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let spurs = Uuid::new_v4();
    let gear = json!({ "kind": "spurs", "name": "Short blunt spurs", "mouthpiece": null, "since": today(), "mouth_seen": null,
                       "teeth_seen": null });
    ada.put(&format!("/api/horses/{horse}/gear/{spurs}"), gear).await.is(201);
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [spurs] })).await.is(200);
    let told = async |ada: &mut Client| {
        let plan = ada.get(&format!("/api/rides/{ride}/plan")).await.is(200);
        plan["checks"].as_array().unwrap().iter().any(|c| c["id"] == "spurs")
    };
    worked(&mut ada, horse, &[9], &OWNED).await;
    assert!(!told(&mut ada).await, "nothing was noted");
    signed(&mut ada, horse, 9, &["quick-feet"]).await;
    assert!(told(&mut ada).await, "tight on the last day of work");
    worked(&mut ada, horse, &[5], &OWNED).await;
    assert!(!told(&mut ada).await, "worked well since");
    signed(&mut ada, horse, 3, &["licks"]).await;
    assert!(!told(&mut ada).await, "soft signs are no warning");
    signed(&mut ada, horse, 2, &["tail"]).await;
    assert!(told(&mut ada).await, "seen on a day without work");
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep_body(Uuid::new_v4(), "S1", "stand", "left"))
        .await
        .is(201);
    assert!(told(&mut ada).await, "the first rep of today does not make it settled");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_coach_speaks_after_each_rep_and_the_close_sums_up(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let coach = format!("/api/rides/{ride}/coach");
    assert_eq!(ada.get(&coach).await.is(200)["advice"], Value::Null);
    let set = Uuid::new_v4();
    for (n, (outcome, weight)) in [("tried", "orange"), ("tried", "fingers"), ("none", "tug")].into_iter().enumerate() {
        let mut body = rep_body(set, "T2", "walk", "both");
        body["position"] = json!(n);
        body["outcome"] = json!(outcome);
        body["weight"] = json!(weight);
        body["asked_at"] = json!(format!("{}T10:0{n}:00Z", today()));
        ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), body).await.is(201);
    }
    let said = ada.get(&coach).await.is(200);
    assert_eq!((&said["advice"], &said["reps"]), (&json!("stop-asking"), &json!(3)));
    assert!(said["why"].as_str().unwrap().starts_with("orange, fingers, tug"));
    let mut good = rep_body(set, "T2", "walk", "both");
    good["position"] = json!(3);
    good["asked_at"] = json!(format!("{}T10:05:00Z", today()));
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), good).await.is(201);
    let sum = ada.get(&format!("/api/rides/{ride}/summary")).await.is(200);
    assert_eq!((&sum["best"]["step"], &sum["best"]["words"]), (&json!("T2"), &json!("a feather, 1.2 s")));
    assert_eq!(
        (&sum["noted"], &sum["minutes"]["walk"], &sum["minutes"]["stand"]),
        (&json!(false), &json!(4), &json!(2))
    );
    assert_eq!(sum["calls"][0]["call"], "hold");
    assert_eq!((&sum["load"], &sum["week_load"], &sum["class"]), (&json!(4), &json!(4), &json!("light")));
}

/// A fault is answered there and then: where it likely comes from on this horse, and the rung to go to.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_fault_is_answered_with_its_likely_cause(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    // Flexion is there; the bend is not, and heads go up in it.
    for ago in [6, 4, 2] {
        let ride = Uuid::new_v4();
        let body = ride_body(horse, me, today() - chrono::Days::new(ago));
        ada.put(&format!("/api/rides/{ride}"), body).await.is(201);
        for (rung, gait, good) in [("S1", "stand", true), ("S2", "walk", false)] {
            for side in ["left", "right"] {
                let set = Uuid::new_v4();
                for n in 0..8 {
                    let mut rep = rep_body(set, rung, gait, side);
                    rep["position"] = json!(n);
                    if !good && n % 2 == 0 {
                        (rep["outcome"], rep["weight"], rep["faults"]) =
                            (json!("none"), json!("hand"), json!(["head-up"]));
                    }
                    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
                }
            }
        }
    }
    ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
    let ride = ada.ride(horse).await;
    let set = Uuid::new_v4();
    let mut stop = rep_body(set, "T2", "walk", "both");
    (stop["outcome"], stop["asked_at"]) = (json!("tried"), json!(format!("{}T10:00:00Z", today())));
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), stop.clone()).await.is(201);
    let coach = format!("/api/rides/{ride}/coach");
    assert_eq!(ada.get(&coach).await.is(200)["remedy"], Value::Null, "no fault was tapped");
    (stop["position"], stop["faults"]) = (json!(1), json!(["head-up"]));
    stop["asked_at"] = json!(format!("{}T10:01:00Z", today()));
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), stop).await.is(201);
    let remedy = ada.get(&coach).await.is(200)["remedy"].clone();
    assert_eq!((&remedy["fault"], &remedy["step"]), (&json!("head-up"), &json!("S2")), "{remedy}");
    let says = remedy["says"].as_str().unwrap();
    assert!(says.starts_with("Head up: it is braced on a straight pull. Bend and walk first"), "{says}");
    assert!(says.contains("head up in 24 of 48 asks there"), "{says}");
}

/// Once the remedy was worked, the fault is looked for where it was, and what came of it is told.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_cured_fault_is_told(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    // Heads up in the stop; then the bend three times; then the stop again.
    let days = [
        (14, "T2", "both", 4),
        (12, "T2", "both", 4),
        (10, "S2", "left", 0),
        (8, "S2", "left", 0),
        (6, "S2", "left", 0),
    ];
    for (ago, rung, side, faults) in days.into_iter().chain([(4, "T2", "both", 0)]) {
        let (ride, set) = (Uuid::new_v4(), Uuid::new_v4());
        let body = ride_body(horse, me, today() - chrono::Days::new(ago));
        ada.put(&format!("/api/rides/{ride}"), body).await.is(201);
        for n in 0..8 {
            let mut rep = rep_body(set, rung, "walk", side);
            rep["position"] = json!(n);
            if n < faults {
                (rep["outcome"], rep["faults"]) = (json!("none"), json!(["head-up"]));
            }
            ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
        }
        if ago == 6 {
            let standing = ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
            assert_eq!(standing["cures"], json!([]), "the stop was not asked again");
        }
    }
    let cures = ada.get(&format!("/api/horses/{horse}/standing")).await.is(200)["cures"].clone();
    assert_eq!(
        cures[0]["says"],
        "After 3 rides of bend and walk: head up in 0 of 8 asks of stop at the walk, before in 8 of 16: it helped",
        "{cures}"
    );
    assert_eq!((&cures[0]["remedy"], cures.as_array().unwrap().len()), (&json!("S2"), 1));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_is_handed_over_and_a_set_is_given_to_who_rode_it(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let (bea, _) = ada.person("Bea", "owner").await;
    let ride = ada.ride(horse).await;
    let set = Uuid::new_v4();
    let mut body = rep_body(set, "S1", "stand", "left");
    body["set"]["rider_id"] = json!(bea);
    body["set"]["cow"] = json!("");
    let path = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
    assert_eq!(ada.put(&path, body.clone()).await.is(422)["errors"][0]["field"], "set.cow");
    body["set"]["cow"] = json!("brindle 12");
    ada.put(&path, body.clone()).await.is(201);
    let told = ada.get(&format!("/api/rides/{ride}")).await.is(200);
    assert_eq!((&told["sets"][0]["rider_id"], &told["sets"][0]["cow"]), (&json!(bea), &json!("brindle 12")));
    body["set"]["id"] = json!(Uuid::new_v4());
    body["set"]["rider_id"] = json!(Uuid::new_v4());
    let stranger = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
    assert_eq!(ada.put(&stranger, body).await.is(422)["errors"][0]["field"], "rider_id");
    ada.put(&format!("/api/sets/{set}/rider"), json!({ "rider_id": me })).await.is(204);
    ada.put(&format!("/api/sets/{}/rider", Uuid::new_v4()), json!({ "rider_id": me })).await.is(404);
    let traced: (Value, Value) = sqlx::query_as("select before, after from set_change").fetch_one(&db).await.unwrap();
    assert_eq!(traced, (json!({ "rider_id": bea }), json!({ "rider_id": me })));
    let trail = ada.get(&format!("/api/horses/{horse}/changes")).await.is(200);
    assert_eq!(
        (&trail["items"][0]["before"], &trail["items"][0]["after"]),
        (&json!("ridden by Bea"), &json!("ridden by Ada"))
    );
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_text_is_stored_all_or_nothing_and_once(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (juniper, copper) = (ada.horse("Juniper").await, ada.horse("Old Copper").await);
    let id = Uuid::new_v4();
    let text = |form: &str, text: &str, dry: bool| json!({ "id": id, "form": form, "text": text, "date": today(), "place": "arena", "dry_run": dry });
    let good = "Juniper: flex L 6/8 egg 1.5s, R 4/8 orange head-up · jog stop 5/7 lemon\nOld Copper 2026-01-05: R2 walk L 3 laps soft \"slow\"";
    let told = ada.post("/api/shorthand", text("shorthand", good, true)).await.is(200);
    assert_eq!(
        (&told["stored"], &told["rides"][0]["sets"][0]["says"]),
        (&json!(false), &json!("Flexion, left: 6 of 8, an egg, 1.5 s"))
    );
    assert_eq!((&told["rides"][1]["horse_id"], &told["rides"][1]["date"]), (&json!(copper), &json!("2026-01-05")));
    let rides = |n: usize, ada: Value| assert_eq!(ada["items"].as_array().unwrap().len(), n);
    rides(0, ada.get(&format!("/api/horses/{juniper}/rides")).await.is(200));
    let bad = format!("{good}\nJuniper: flx L 6/8");
    let preview = ada.post("/api/shorthand", text("shorthand", &bad, true)).await.is(200);
    let trouble = &preview["diagnostics"][0];
    assert_eq!((&trouble["line"], &trouble["from"], &trouble["nearest"]), (&json!(3), &json!(10), &json!("flex")));
    let refused = ada.post("/api/shorthand", text("shorthand", &bad, false)).await.is(422);
    assert!(refused["errors"][0]["detail"].as_str().unwrap().starts_with("Line 3, column 10"), "{refused}");
    rides(0, ada.get(&format!("/api/horses/{juniper}/rides")).await.is(200));
    for _ in 0..3 {
        assert_eq!(ada.post("/api/shorthand", text("shorthand", good, false)).await.is(200)["stored"], true);
    }
    let told = ada.get(&format!("/api/horses/{juniper}/rides")).await.is(200);
    rides(1, told.clone());
    assert_eq!(told["items"][0]["reps"], 23);
    rides(1, ada.get(&format!("/api/horses/{copper}/rides")).await.is(200));
    let whose = ada.post("/api/shorthand", text("shorthand", "flex L 6/8", true)).await.is(200);
    assert!(whose["diagnostics"][0]["says"].as_str().unwrap().starts_with("whose ride?"));

    // The barn's own words, and rows.
    ada.put("/api/aliases", json!({ "word": "walk", "rung": "S1" })).await.is(422);
    ada.put("/api/aliases", json!({ "word": "Noodle", "rung": "S1" })).await.is(200);
    let mut rows = text("csv", "date,horse,rung,side,gave,none\r\n2026-01-06,Juniper,noodle,L,7,1\r\n", false);
    rows["id"] = json!(Uuid::new_v4());
    assert_eq!(
        ada.post("/api/shorthand", rows).await.is(200)["rides"][0]["sets"][0]["shorthand"],
        "S1 stand L 7/8 lemon"
    );
    ada.put("/api/aliases", json!({ "word": "noodle", "rung": null })).await.is(200);
    assert_eq!(ada.get("/api/aliases").await.is(200)["items"], json!([]));
}
