//! A ride entered afterwards, or in shorthand, fills the one that was planned for its horse and day.

use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

async fn planned(ada: &mut Client, horse: Uuid, at: &str, place: &str) -> Uuid {
    let (me, id) = (ada.my_id().await, Uuid::new_v4());
    let body = json!({ "horse_id": horse, "rider_id": me, "date": today(), "starts_at": at, "place": place, "entered": "pen" });
    ada.put(&format!("/api/rides/{id}"), body).await.is(201);
    id
}

async fn waiting(ada: &mut Client, horse: Uuid) -> Vec<Value> {
    let told = ada.get(&format!("/api/horses/{horse}/planned?date={}", today())).await.is(200);
    told["items"].as_array().unwrap().clone()
}

async fn rides(ada: &mut Client, horse: Uuid) -> Vec<Value> {
    ada.get(&format!("/api/horses/{horse}/rides")).await.is(200)["items"].as_array().unwrap().clone()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_is_entered_under_a_planned_ride_is_that_ride(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let id = planned(&mut ada, horse, "07:45:00", "round-pen").await;
    assert_eq!((waiting(&mut ada, horse).await.len(), rides(&mut ada, horse).await.len()), (1, 0));
    let rep = json!([{ "id": Uuid::new_v4(), "outcome": "gave", "weight": "egg" }]);
    let set =
        json!({ "id": Uuid::new_v4(), "position": 0, "rung": "S1", "gait": "stand", "side": "left", "reps": rep });
    let body = json!({ "horse_id": horse, "rider_id": me, "date": today(), "place": "arena", "entered": "afterwards", "sets": [set] });
    ada.put(&format!("/api/rides/{id}"), body.clone()).await.is(201);
    ada.put(&format!("/api/rides/{id}"), body).await.is(200);
    assert!(waiting(&mut ada, horse).await.is_empty());
    let all = rides(&mut ada, horse).await;
    assert_eq!((all.len(), &all[0]["place"], &all[0]["starts_at"]), (1, &json!("arena"), &json!("07:45:00")));
    assert_eq!((&all[0]["state"], &all[0]["reps"]), (&json!("closed"), &json!(1)));
    let other = ada.horse("Gravel").await;
    let of_another = planned(&mut ada, other, "09:00:00", "arena").await;
    let body = json!({ "horse_id": horse, "rider_id": me, "date": today(), "place": "arena", "entered": "afterwards" });
    ada.put(&format!("/api/rides/{of_another}"), body).await.is(409);
    ada.get(&format!("/api/horses/{}/planned?date={}", Uuid::new_v4(), today())).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn shorthand_fills_the_one_ride_that_was_planned_and_once(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (one, two) = (ada.horse("Juniper").await, ada.horse("Gravel").await);
    planned(&mut ada, one, "07:45:00", "round-pen").await;
    for at in ["08:00:00", "16:00:00"] {
        planned(&mut ada, two, at, "round-pen").await;
    }
    let text = "Juniper: flex L 6/8 licks\nGravel: flex L 4/8\nJuniper: hip stand R 3/4";
    let body = |dry: bool| json!({ "id": Uuid::from_u128(7), "form": "shorthand", "text": text, "date": today(), "place": "trail", "dry_run": dry });
    let fills =
        |told: &Value| -> Vec<Value> { told["rides"].as_array().unwrap().iter().map(|r| r["fills"].clone()).collect() };
    let told = ada.post("/api/shorthand", body(true)).await.is(200);
    let expected = [json!("the ride planned for 07:45 with Ada"), Value::Null, Value::Null];
    assert_eq!(fills(&told), expected, "the second of a day, and a day with two planned, are rides of their own");
    for _ in 0..2 {
        ada.post("/api/shorthand", body(false)).await.is(200);
    }
    assert!(waiting(&mut ada, one).await.is_empty());
    let of_one = rides(&mut ada, one).await;
    let filled = of_one.iter().find(|r| r["starts_at"] == "07:45:00").unwrap();
    assert_eq!((of_one.len(), &filled["place"], &filled["signs"]), (2, &json!("round-pen"), &json!(["licks"])));
    assert_eq!((waiting(&mut ada, two).await.len(), rides(&mut ada, two).await.len()), (2, 1));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn shorthand_tells_who_rode_where_in_what_and_how_long(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, other) = (ada.horse("Juniper").await, ada.horse("Gravel").await);
    let me = ada.my_id().await;
    planned(&mut ada, horse, "07:45:00", "round-pen").await;
    let (pasture, saddle) = (Uuid::new_v4(), Uuid::new_v4());
    ada.put(
        &format!("/api/grounds/{pasture}"),
        json!({ "name": "Back pasture", "place": "outside", "surface": "grass" }),
    )
    .await
    .is(201);
    let piece = json!({ "kind": "saddle", "name": "Work saddle", "mouthpiece": null, "since": today() });
    ada.put(&format!("/api/horses/{horse}/gear/{saddle}"), piece).await.is(201);
    let send = |text: &str, dry: bool| json!({ "id": Uuid::from_u128(9), "form": "shorthand", "text": text, "date": today(), "dry_run": dry });
    let whose = "Gravel (Work saddle): flex L 4/8";
    let told = ada.post("/api/shorthand", send(whose, true)).await.is(200);
    assert!(told["diagnostics"][0]["says"].as_str().unwrap().contains("no Work saddle among its gear"), "{told}");
    let text = "Juniper (ada, back pasture, work saddle, walk 20 jog 10): flex L 6/8";
    let told = ada.post("/api/shorthand", send(text, true)).await.is(200);
    assert_eq!(told["rides"][0]["told"], "Ada, Back pasture, Work saddle, walk 20 jog 10");
    ada.post("/api/shorthand", send(text, false)).await.is(200);
    ada.post("/api/shorthand", send(text, false)).await.is(200);
    let all = rides(&mut ada, horse).await;
    let ride = &all[0];
    assert_eq!((all.len(), &ride["ground_id"], &ride["place"]), (1, &json!(pasture), &json!("outside")));
    assert_eq!(
        (&ride["rider_id"], &ride["minutes"]["walk"], &ride["starts_at"]),
        (&json!(me), &json!(20), &json!("07:45:00"))
    );
    // A kind of place has a name too, where the barn has none of its own.
    for kind in ["round pen", "Arena", "outside", "trail"] {
        let told = ada.post("/api/shorthand", send(&format!("Gravel ({kind}): flex L 4/8"), true)).await.is(200);
        assert_eq!(told["diagnostics"], json!([]), "{kind}");
    }
    let worn = ada.get(&format!("/api/horses/{horse}/gear")).await.is(200);
    assert_eq!(worn["last_worn"], json!([saddle]));
    assert!(rides(&mut ada, other).await.is_empty());
}
