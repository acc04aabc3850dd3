//! What remedies did in a barn, and what is said of a fault after that.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

/// A ride entered afterwards: so many asks of a rung, of which the first have their heads up.
async fn enter(ada: &mut Client, horse: Uuid, ago: u64, rung: (&str, &str, &str), asks: usize, faults: usize) {
    let (rung, gait, side) = rung;
    let rep = |n: usize| {
        let outcome = if n < faults { "none" } else { "gave" };
        let faults = if n < faults { vec!["head-up"] } else { vec![] };
        json!({ "id": Uuid::new_v4(), "outcome": outcome, "weight": "egg", "seconds": 1.0, "faults": faults })
    };
    let set = json!({ "id": Uuid::new_v4(), "position": 0, "rung": rung, "gait": gait, "side": side,
                      "reps": (0..asks).map(rep).collect::<Vec<_>>() });
    let me = ada.my_id().await;
    let body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(ago), "place": "arena",
                       "entered": "afterwards", "sets": [set] });
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201);
}

const STOP: (&str, &str, &str) = ("T2", "walk", "both");
const BEND: (&str, &str, &str) = ("S2", "walk", "left");
const POLL: (&str, &str, &str) = ("S6", "stand", "both");

/// The remedy for a head that goes up in the stop of a horse that has ridden bend and poll, with the same fault in both.
async fn remedy(ada: &mut Client, name: &str) -> Value {
    let horse = ada.horse(name).await;
    for rung in [BEND, POLL] {
        enter(ada, horse, 1, rung, 8, 6).await;
    }
    ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
    let ride = ada.ride(horse).await;
    let mut rep = rep_body(Uuid::new_v4(), "T2", "walk", "both");
    (rep["outcome"], rep["missing"], rep["faults"]) = (json!("none"), Value::Null, json!(["head-up"]));
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
    ada.get(&format!("/api/rides/{ride}/coach")).await.is(200)["remedy"].clone()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_remedy_that_did_not_help_the_barns_horses_is_not_named_first_any_more(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let named = remedy(&mut ada, "Before").await;
    assert_eq!(named["step"], "S2", "{named}");
    assert!(!named["says"].as_str().unwrap().contains("times here"), "nothing was tried yet: {named}");
    // Four horses whose heads go up in the stop as often after three rides of the bend as before.
    for n in 0..4 {
        let horse = ada.horse(&format!("In vain {n}")).await;
        for (ago, rung, faults) in
            [(40, STOP, 4), (38, STOP, 4), (36, BEND, 0), (34, BEND, 0), (32, BEND, 0), (30, STOP, 5), (28, STOP, 5)]
        {
            enter(&mut ada, horse, ago, rung, 8, faults).await;
        }
    }
    let named = remedy(&mut ada, "After").await;
    assert_eq!(named["step"], "S6@stand", "{named}");
}
