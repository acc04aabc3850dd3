//! What horses are ridden in: added once, changed from its version, worn on rides, and counted in days.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, today};

fn snaffle(name: &str) -> Value {
    json!({ "kind": "bit", "name": name, "mouthpiece": "snaffle", "since": today() - Days::new(30),
            "mouth_seen": today() - Days::new(30), "teeth_seen": today() - Days::new(90) })
}

fn saddle(name: &str) -> Value {
    json!({ "kind": "saddle", "name": name, "mouthpiece": null, "since": today(), "mouth_seen": null, "teeth_seen": null })
}

fn with(mut body: Value, field: &str, value: Value) -> Value {
    body[field] = value;
    body
}

/// A day so long ago on which the horse was ridden in this.
async fn ridden_in(ada: &mut Client, horse: Uuid, ago: u64, gear: &[Uuid]) {
    let (ride, me) = (Uuid::new_v4(), ada.my_id().await);
    ada.put(&format!("/api/rides/{ride}"), ride_body(horse, me, today() - Days::new(ago))).await.is(201);
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": gear })).await.is(200);
    let rep = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
    ada.put(&rep, rep_body(Uuid::new_v4(), "S1", "stand", "left")).await.is(201);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_piece_is_added_once_changed_from_its_version_and_put_away(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let (bit, tack) = (Uuid::new_v4(), format!("/api/horses/{horse}/gear"));
    let path = format!("{tack}/{bit}");
    ada.put(&path, snaffle("Smooth snaffle")).await.is(201);
    ada.put(&path, snaffle("Smooth snaffle")).await.is(200);
    ada.put(&path, snaffle("Another")).await.is(409);
    for ago in [9, 9, 4] {
        ridden_in(&mut ada, horse, ago, &[bit]).await;
    }
    let change = |version: u32, name: &str| with(snaffle(name), "version", json!(version));
    let now = ada.put(&path, change(1, "D-ring snaffle")).await.is(200);
    assert_eq!((&now["name"], &now["version"], &now["days"]), (&json!("D-ring snaffle"), &json!(2), &json!(2)));
    let stale = ada.put(&path, change(1, "Loose ring")).await.is(409);
    assert_eq!(stale["current"]["name"], "D-ring snaffle", "{stale}");

    ada.put(&format!("{tack}/{}", Uuid::new_v4()), saddle("Work saddle")).await.is(201);
    ada.put(&path, with(change(2, "D-ring snaffle"), "archived", json!(true))).await.is(200);
    let list = ada.get(&tack).await.is(200);
    let told: Vec<(&str, bool)> = list["items"]
        .as_array()
        .unwrap()
        .iter()
        .map(|g| (g["kind"].as_str().unwrap(), g["archived"].as_bool().unwrap()))
        .collect();
    assert_eq!(told, [("saddle", false), ("bit", true)], "what is in use comes first");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_piece_stays_what_it_is_and_whose_it_is(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, other) = (ada.horse("Juniper").await, ada.horse("Wren").await);
    let bit = Uuid::new_v4();
    let path = format!("/api/horses/{horse}/gear/{bit}");
    ada.put(&path, snaffle("Smooth snaffle")).await.is(201);
    let shanks = with(with(snaffle("Smooth snaffle"), "mouthpiece", json!("leverage")), "version", json!(1));
    ada.put(&path, shanks).await.names(422, "kind");
    ada.put(&path, with(saddle("A saddle now"), "version", json!(1))).await.names(422, "kind");
    let elsewhere = format!("/api/horses/{other}/gear/{bit}");
    ada.put(&elsewhere, with(snaffle("Wren's now"), "version", json!(1))).await.is(404);
    ada.put(&elsewhere, snaffle("Smooth snaffle")).await.is(409);
    assert_eq!(ada.get(&format!("/api/horses/{other}/gear")).await.is(200)["items"], json!([]));

    let ride = ada.ride(other).await;
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [bit] })).await.names(422, "gear");
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [Uuid::new_v4()] })).await.names(422, "gear");
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [] })).await.is(200);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_cannot_be_is_named_by_its_field(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let tomorrow = json!(today() + Days::new(1));
    let cases = [
        (with(snaffle(""), "note", json!("")), "name"),
        (snaffle(&"x".repeat(61)), "name"),
        (with(snaffle("Snaffle"), "since", tomorrow.clone()), "since"),
        (with(snaffle("Snaffle"), "mouth_seen", tomorrow.clone()), "mouth_seen"),
        (with(snaffle("Snaffle"), "teeth_seen", tomorrow), "teeth_seen"),
        (with(snaffle("Snaffle"), "mouth_seen", Value::Null), "mouth_seen"),
        (with(snaffle("Snaffle"), "mouthpiece", Value::Null), "mouthpiece"),
        (with(snaffle("Snaffle"), "kind", json!("bosal")), "mouthpiece"),
        (with(saddle("Saddle"), "mouthpiece", json!("bitless")), "mouthpiece"),
        (with(saddle("Saddle"), "kind", json!("cart")), "kind"),
        (with(saddle("Saddle"), "note", json!("x".repeat(501))), "note"),
    ];
    for (body, field) in cases {
        ada.put(&format!("/api/horses/{horse}/gear/{}", Uuid::new_v4()), body).await.names(422, field);
    }
    assert_eq!(ada.get(&format!("/api/horses/{horse}/gear")).await.is(200)["items"], json!([]));
}

/// A side that falls off soon after a saddle that the horse had not worn before: the saddler is asked first. What is said changes with
/// the gear alone, though nothing was logged.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_loss_soon_after_a_change_of_saddle_says_so(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    for ago in (1..=8).map(|n| 2 * n - 1) {
        let ride = Uuid::new_v4();
        ada.put(&format!("/api/rides/{ride}"), ride_body(horse, me, today() - Days::new(ago))).await.is(201);
        for (rung, gait) in [("S1", "stand"), ("G7", "walk"), ("S4", "stand")] {
            for side in ["left", "right"] {
                let set = Uuid::new_v4();
                for n in 0..8 {
                    let mut rep = rep_body(set, rung, gait, side);
                    rep["position"] = json!(n);
                    // The left is gone on the last day.
                    if ago == 1 && side == "left" {
                        (rep["outcome"], rep["weight"]) = (json!("none"), json!("hand"));
                    }
                    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
                }
            }
        }
    }
    let standing = format!("/api/horses/{horse}/standing");
    let why = async |ada: &mut Client| {
        let told = ada.get(&standing).await.is(200);
        assert_eq!(told["horse"]["call"], "look-at", "{told}");
        told["horse"]["why"].to_string()
    };
    let saddler = "after a change of saddle: ask the saddler first";
    assert!(!why(&mut ada).await.contains("saddler first"));
    let tack = format!("/api/horses/{horse}/gear");
    let since = |ago| with(saddle("A saddle"), "since", json!(today() - Days::new(ago)));
    ada.put(&format!("{tack}/{}", Uuid::new_v4()), since(300)).await.is(201);
    assert!(!why(&mut ada).await.contains("saddler first"), "the only saddle it ever wore");
    ada.put(&format!("{tack}/{}", Uuid::new_v4()), since(4)).await.is(201);
    assert!(why(&mut ada).await.contains(saddler), "{}", why(&mut ada).await);
}
