//! Tack over HTTP: what pieces measure, what they do under a hand, and the same answers in two of them.

use cavesson_core::tack::INCH;
use chrono::{Days, NaiveDate};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, ride_body, today};

async fn piece(ada: &mut Client, horse: Uuid, name: &str, mouthpiece: &str) -> Uuid {
    let id = Uuid::new_v4();
    let kind = if mouthpiece == "bitless" { "bosal" } else { "bit" };
    let body = json!({ "kind": kind, "name": name, "mouthpiece": mouthpiece, "since": "2026-01-05",
                       "mouth_seen": "2026-01-05", "teeth_seen": "2026-01-05" });
    ada.put(&format!("/api/horses/{horse}/gear/{id}"), body).await.is(201);
    id
}

fn leverage() -> Value {
    json!({ "kind": "leverage", "purchase": 1.75 * INCH, "shank": 5.0 * INCH, "sweep": 15f64.to_radians(),
            "slack": 1.5 * INCH, "chin_behind": 2.0 * INCH, "chin": { "by": "tape", "below": 0.25 * INCH },
            "headstall": 18.0 * INCH, "give": 0.05 * INCH })
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_piece_is_measured_and_hangs_on_the_wall(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let juniper = ada.horse("Juniper").await;
    let (bit, bosal) =
        (piece(&mut ada, juniper, "Short shank", "leverage").await, piece(&mut ada, juniper, "5/8", "bitless").await);
    let url = format!("/api/gear/{bit}/measures");
    let first = json!({ "version": 0, "measures": leverage() });
    assert_eq!(ada.put(&url, first.clone()).await.is(200)["version"], 1);
    assert_eq!(ada.put(&url, first.clone()).await.is(200)["version"], 1, "the same twice is once");
    let mut longer = first.clone();
    longer["measures"]["slack"] = json!(2.5 * INCH);
    ada.put(&url, longer.clone()).await.is(409);
    longer["version"] = json!(1);
    assert_eq!(ada.put(&url, longer).await.is(200)["version"], 2);
    let ride = ada.ride(juniper).await;
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [bit] })).await.is(200);
    let wall = ada.get("/api/tack").await.is(200);
    let on = |id: Uuid| wall["items"].as_array().unwrap().iter().find(|p| p["id"] == json!(id)).unwrap().clone();
    assert_eq!(
        (&on(bit)["today"], &on(bit)["takes_hold"]),
        (&json!(true), &json!("never")),
        "two and a half inches is too long"
    );
    assert_eq!((&on(bosal)["today"], &on(bosal)["measured"]), (&json!(false), &Value::Null));
    assert_eq!(on(bit)["days"], 0, "today's ride is only planned");
    assert_eq!(on(bit)["shown"], Value::Null, "nobody said how old it is");

    let mut of_bosal = first.clone();
    of_bosal["measures"] =
        json!({ "kind": "bosal", "length": 11.0 * INCH, "jaw": 8.0 * INCH, "thick": 0.016, "lean": 0.6 });
    ada.put(&url, of_bosal.clone()).await.names(422, "measures.kind");
    ada.put(&format!("/api/gear/{bosal}/measures"), of_bosal).await.is(200);
    ada.put(&format!("/api/gear/{}/measures", Uuid::new_v4()), first).await.is(404);
}

/// Millimetres typed as inches are asked about, not turned into something.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_measure_that_cannot_be_is_asked_about(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let juniper = ada.horse("Juniper").await;
    let bit = piece(&mut ada, juniper, "Short shank", "leverage").await;
    let mut wrong = json!({ "version": 0, "measures": leverage() });
    wrong["measures"]["purchase"] = json!(44.0 * INCH);
    let url = format!("/api/gear/{bit}/measures");
    let said = ada.put(&url, wrong.clone()).await.names(422, "measures.purchase");
    assert_eq!(said, "0.5 to 6 in; were these 44 millimetres? That is 1.73 in");
    wrong["measures"]["purchase"] = json!(0.04);
    wrong["measures"]["chin"] = json!({ "by": "angle", "tight": 80f64.to_radians() });
    let said = ada.put(&url, wrong).await.names(422, "measures.chin.tight");
    assert!(said.contains("measure strap and angle again"), "{said}");
    assert_eq!(ada.get("/api/tack").await.is(200)["items"][0]["measured"], Value::Null, "nothing was kept");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_bench_follows_a_hand_from_a_feather_to_a_tug(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let body = json!({ "measures": leverage(), "rise": 10f64.to_radians(), "nose_out": 30f64.to_radians() });
    let bench = ada.post("/api/tack/bench", body.clone()).await.is(200);
    assert!((bench["hung"]["tight"].as_f64().unwrap().to_degrees() - 46.5).abs() < 0.05);
    assert_eq!(bench["hung"]["takes_hold"], "good");
    let held = bench["held"].as_array().unwrap();
    let of = |n: usize, key: &str| held[n][key].as_f64().unwrap();
    assert!((1..held.len()).all(|n| of(n, "weight") > of(n - 1, "weight") && of(n, "turn") >= of(n - 1, "turn")));
    assert_eq!((&held[0]["word"], &held[held.len() - 1]["word"]), (&json!("feather"), &json!("tug")));
    assert!(!bench["cautions"].as_array().unwrap().is_empty() && !bench["assumed"].as_array().unwrap().is_empty());
    let mut over = body.clone();
    over["rise"] = json!(60f64.to_radians());
    over["nose_out"] = json!(90f64.to_radians());
    ada.post("/api/tack/bench", over).await.names(422, "measures.sweep");
    let mut high = body;
    high["rise"] = json!(2.0);
    ada.post("/api/tack/bench", high).await.names(422, "rise");
    let bosal = json!({ "kind": "bosal", "length": 11.0 * INCH, "jaw": 8.0 * INCH, "thick": 0.016, "lean": 35f64.to_radians() });
    let bench = ada.post("/api/tack/bench", json!({ "measures": bosal, "rise": 0, "nose_out": 0 })).await.is(200);
    let last = bench["held"].as_array().unwrap().last().unwrap().clone();
    assert!((last["jaw"].as_f64().unwrap() / (2.0 * last["weight"].as_f64().unwrap()) - 0.789).abs() < 5e-4);
}

/// A closed ride on a day, in a piece, with so many asks of one weight.
async fn ridden(ada: &mut Client, horse: Uuid, on: NaiveDate, gear: Uuid, weights: &[&str]) {
    let (ride, rider, set) = (Uuid::new_v4(), ada.my_id().await, Uuid::new_v4());
    ada.put(&format!("/api/rides/{ride}"), ride_body(horse, rider, on)).await.is(201);
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [gear] })).await.is(200);
    for (n, weight) in weights.iter().enumerate() {
        let body = json!({ "set": { "id": set, "position": 0, "rung": "S2", "gait": "walk", "side": "left" }, "position": n,
                           "outcome": "gave", "weight": weight, "seconds": 1.5 });
        ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), body).await.is(201);
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_same_answers_in_two_pieces(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let juniper = ada.horse("Juniper").await;
    let (old, new) =
        (piece(&mut ada, juniper, "Smooth", "snaffle").await, piece(&mut ada, juniper, "Twisted", "snaffle").await);
    let url = format!("/api/horses/{juniper}/pieces-compared?first={old}&second={new}");
    let few = ada.get(&url).await.is(200);
    assert_eq!((&few["found"], &few["days"]), (&Value::Null, &json!([0, 0])));
    for n in 0..10_u64 {
        let (gear, weights) = match n % 2 {
            0 => (old, ["fingers", "orange", "fingers", "orange"]),
            _ => (new, ["lemon", "egg", "lemon", "lemon"]),
        };
        ridden(&mut ada, juniper, today() - Days::new(20 - 2 * n), gear, &weights).await;
    }
    // Both on one ride say nothing of either.
    let both = ada.ride(juniper).await;
    ada.put(&format!("/api/rides/{both}/gear"), json!({ "gear": [old, new] })).await.is(200);
    let found = ada.get(&url).await.is(200);
    assert_eq!(found["days"], json!([5, 5]));
    let found = &found["found"];
    assert_eq!((&found["verdict"], &found["kinds"], &found["asks"]), (&json!("lighter"), &json!(1), &json!([20, 20])));
    // From sqrt(5 · 2) to the fourth root of 1 · 0.5 · 1 · 1, without noise between days.
    let times = (0.5_f64.powf(0.25)) / 10f64.sqrt();
    assert!((found["weight"]["times"].as_f64().unwrap() - times).abs() < 1e-6, "{found}");
    assert!((found["seconds"]["times"].as_f64().unwrap() - 1.0).abs() < 1e-6);
    ada.get(&format!("/api/horses/{juniper}/pieces-compared?first={old}&second={old}")).await.names(422, "second");
    let briar = ada.horse("Briar").await;
    ada.get(&format!("/api/horses/{briar}/pieces-compared?first={old}&second={new}")).await.names(422, "first");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_share_of_a_ride_moves_and_says_when_to_go_straight_up(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let juniper = ada.horse("Juniper").await;
    let of_horse = format!("/api/horses/{juniper}/two-rein");
    let none = ada.get(&of_horse).await.is(200);
    assert_eq!((&none["rides"], &none["readiness"]), (&json!([]), &Value::Null));
    for n in 0..12_u64 {
        let (ride, rider) = (Uuid::new_v4(), ada.my_id().await);
        ada.put(&format!("/api/rides/{ride}"), ride_body(juniper, rider, today() - Days::new(40 - 3 * n)))
            .await
            .is(201);
        let moves = json!([{ "at": 600, "bridle": 15 + 2 * n, "asked": "bears" }, { "at": 1800, "bridle": 20 + 2 * n, "asked": "roots" }]);
        let body = json!({ "version": 0, "seconds": 2400, "begins": 10 + 2 * n, "moves": moves });
        let url = format!("/api/rides/{ride}/shares");
        assert_eq!(ada.put(&url, body.clone()).await.is(200)["version"], 1);
        assert_eq!(ada.put(&url, body.clone()).await.is(200)["version"], 1, "the same twice is once");
        if n == 0 {
            let mut other = body.clone();
            other["begins"] = json!(20);
            ada.put(&url, other.clone()).await.is(409);
            other["version"] = json!(1);
            other["moves"][1]["at"] = json!(300);
            ada.put(&url, other.clone()).await.names(422, "moves[1].at");
            other["moves"][1] = json!({ "at": 1800, "bridle": 101 });
            ada.put(&url, other.clone()).await.names(422, "moves[1].bridle");
            other["moves"] = json!([]);
            other["begins"] = json!(101);
            ada.put(&url, other.clone()).await.names(422, "begins");
            other["seconds"] = json!(0);
            ada.put(&url, other).await.names(422, "seconds");
        }
    }
    let read = ada.get(&of_horse).await.is(200);
    let last = &read["rides"][11];
    // Ten minutes at 32, twenty at 37, ten at 42 of a hundred.
    assert!((last["mean"].as_f64().unwrap() - 0.37).abs() < 1e-9, "{last}");
    assert_eq!((&last["more"], &last["less"]), (&json!(2), &json!(0)));
    let now = &read["readiness"];
    let date = |key: &str| now[key].as_str().unwrap().parse::<NaiveDate>().unwrap();
    assert!(date("early") < date("middle") && date("middle") < date("late"));
    assert!(now["share"].as_f64().unwrap() > 0.25 && now["in_a_month"].as_f64().unwrap() > 0.05, "{now}");
    assert!(now["why"].as_str().unwrap().contains("asks for more"), "{now}");
    ada.put(
        &format!("/api/rides/{}/shares", Uuid::new_v4()),
        json!({ "version": 0, "seconds": 60, "begins": 1, "moves": [] }),
    )
    .await
    .is(404);
}
