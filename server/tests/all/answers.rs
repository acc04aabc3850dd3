//! What a trace tells of the answers themselves: first ask and best of a day, a change of hands, a faster gait.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_trace_tells_first_and_best_and_what_a_change_of_hands_and_a_gait_cost(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    // The first ask after each change of hands is missed; at the jog half of all are.
    for ago in 1..=4_u64 {
        let ride = Uuid::new_v4();
        let body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(ago), "place": "arena", "entered": "pen",
                           "sets": [] });
        ada.put(&format!("/api/rides/{ride}"), body).await.is(201);
        let sets: Vec<Uuid> = (0..4).map(|_| Uuid::new_v4()).collect();
        for n in 0..16_u32 {
            let (turn, first) = (n / 4, n % 4 == 0);
            let (side, gait) = (if turn % 2 == 0 { "left" } else { "right" }, if turn < 2 { "walk" } else { "jog" });
            let missed = (first && turn > 0) || (turn >= 2 && n % 2 == 0);
            let (outcome, weight, seconds) = if missed { ("none", "hand", 6.0) } else { ("gave", "egg", 1.0) };
            let body = json!({
                "set": { "id": sets[turn as usize], "position": turn, "rung": "G7", "gait": gait, "side": side },
                "position": n % 4, "outcome": outcome, "weight": weight, "seconds": seconds,
                "asked_at": format!("2026-03-02T08:{n:02}:00Z"),
            });
            ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), body).await.is(201);
        }
    }
    let trace = ada.get(&format!("/api/horses/{horse}/trace?step=G7@walk")).await.is(200);
    let of = |side: &str| -> Vec<Value> {
        trace["answers"].as_array().unwrap().iter().filter(|a| a["side"] == side).cloned().collect()
    };
    assert_eq!((of("left").len(), of("right").len()), (4, 4));
    let right = &of("right")[0];
    assert_eq!((&right["first"]["weight"], &right["best"]["weight"]), (&json!("hand"), &json!("egg")));
    assert_eq!((&right["seconds"], &right["weight"]), (&json!(1.0), &json!(2.0)));
    let says = trace["says"].to_string();
    assert!(says.contains("Right begins a day at a full hand, 6.0 s and comes to an egg, 1.0 s"), "{says}");
    assert!(!says.contains("Left begins"), "its first ask is as good as its best: {says}");
    assert!(
        says.contains("At the jog ") && says.contains("in 100 fewer meet the standard than at the walk, over 1 rung"),
        "{says}"
    );
    let few = "four changes a step are too few to say";
    assert!(!says.contains("change of hands"), "{few}: {says}");
    let jog = ada.get(&format!("/api/horses/{horse}/trace?step=G7@jog")).await.is(200)["says"].to_string();
    assert!(
        jog.contains("The first ask after a change of hands met 0 of 8, the others 16 of 24: the change costs"),
        "{jog}"
    );
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_first_ask_of_a_ride_is_set_against_the_first_asks_of_earlier_days(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    for ago in 1..=6_u64 {
        let rep =
            |seconds: f64| json!({ "id": Uuid::new_v4(), "outcome": "gave", "weight": "lemon", "seconds": seconds });
        let reps = [rep(2.0 + 0.1 * ago as f64), rep(0.8), rep(0.7)];
        let set =
            json!({ "id": Uuid::new_v4(), "position": 0, "rung": "S1", "gait": "stand", "side": "left", "reps": reps });
        let body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(ago), "place": "arena",
                           "entered": "afterwards", "sets": [set] });
        ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201);
    }
    let ride = ada.ride(horse).await;
    let set = Uuid::new_v4();
    let ask = async |ada: &mut Client, seconds: f64, position: u32, side: &str| {
        let mut rep = rep_body(if side == "left" { set } else { Uuid::new_v4() }, "S1", "stand", side);
        (rep["seconds"], rep["weight"], rep["position"]) = (json!(seconds), json!("lemon"), json!(position));
        rep["asked_at"] = json!(format!("2026-03-02T08:{position:02}:00Z"));
        ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
        ada.get(&format!("/api/rides/{ride}/coach")).await.is(200)["trend"].clone()
    };
    let first = ask(&mut ada, 1.2, 0, "left").await;
    assert_eq!(
        (&first["change"], &first["says"]),
        (&json!("sooner"), &json!("First ask 1.2 s, sooner than 6 of its last 6 first asks"))
    );
    assert_eq!(ask(&mut ada, 1.2, 1, "left").await, Value::Null, "the second is no first ask");
    assert_eq!(ask(&mut ada, 1.2, 2, "right").await, Value::Null, "the right has no days before");
}
