//! The day for a device: one answer that has what each ride's page would ask for by itself.

use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{first_barn, rep_body};

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_day_has_what_each_ride_would_ask_for(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (juniper, wren) = (ada.horse("Juniper").await, ada.horse("Wren").await);
    let (first, second) = (ada.ride(juniper).await, ada.ride(wren).await);
    let change = json!({ "horse_id": wren, "change": { "kind": "leave-out", "rung": "S2" } });
    ada.put(&format!("/api/curriculum/changes/{}", Uuid::new_v4()), change).await.is(201);
    let rep = rep_body(Uuid::new_v4(), "S1", "stand", "left");
    ada.put(&format!("/api/rides/{first}/reps/{}", Uuid::new_v4()), rep).await.is(201);

    let day = ada.get("/api/day").await.is(200);
    let rides = day["rides"].as_array().unwrap();
    assert_eq!(rides.len(), 2);
    for (ride, horse) in [(first, juniper), (second, wren)] {
        let told = rides.iter().find(|it| it["ride"]["id"] == json!(ride)).unwrap();
        for (part, url) in [
            ("ride", format!("/api/rides/{ride}")),
            ("plan", format!("/api/rides/{ride}/plan")),
            ("tack", format!("/api/rides/{ride}/tack")),
            ("exercises", format!("/api/rides/{ride}/exercises")),
            ("standing", format!("/api/horses/{horse}/standing")),
            ("gear", format!("/api/horses/{horse}/gear")),
        ] {
            assert_eq!(told[part], ada.get(&url).await.is(200), "{part}");
        }
        let own = ada.get(&format!("/api/curriculum?horse={horse}")).await.is(200);
        let curricula = day["curricula"].as_array().unwrap();
        let kept = curricula.iter().find(|it| it["horses"].as_array().unwrap().contains(&json!(horse))).unwrap();
        assert_eq!(kept["curriculum"], own);
    }
    assert_eq!(day["curricula"].as_array().unwrap().len(), 2, "each once: one of them was changed for one horse");
    assert_eq!(rides[0]["cattle"], Value::Null, "nothing on cattle is planned");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_is_over_is_not_brought(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    assert_eq!(ada.get("/api/day").await.is(200)["rides"].as_array().unwrap().len(), 1);
    let mut closed = ada.get(&format!("/api/rides/{ride}")).await.is(200);
    let body = json!({ "version": closed["version"], "rider_id": closed["rider_id"], "starts_at": null,
                       "place": closed["place"].take(), "state": "closed", "note": "", "signs": [] });
    ada.patch(&format!("/api/rides/{ride}"), body).await.is(200);
    assert_eq!(ada.get("/api/day").await.is(200)["rides"], json!([]));
}
