//! What came of exercises on a ride: logged once whatever is sent twice, put right, taken back, and what comes next.

use chrono::{Duration, Utc};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, ride_body, today};

async fn log(ada: &mut Client, ride: Uuid, event: Value) -> Uuid {
    let id = Uuid::new_v4();
    ada.put(&format!("/api/rides/{ride}/exercises/{id}"), sent(&event, 1)).await.is(204);
    id
}

fn sent(event: &Value, version: i32) -> Value {
    json!({ "at": Utc::now(), "version": version, "event": event })
}

fn tried(reached: &str, leaked: Option<&str>) -> Value {
    json!({ "kind": "try", "obstacle": "bridge", "name": "Bridge", "of": { "reached": reached, "leaked": leaked } })
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn tries_are_logged_put_right_and_answered(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let url = format!("/api/rides/{ride}/exercises");
    let empty = ada.get(&url).await.is(200);
    assert_eq!((&empty["events"], &empty["tried"]), (&json!([]), &json!([])));
    assert_eq!(empty["kinds"].as_array().unwrap().len(), 10);

    let first = Uuid::new_v4();
    let body = sent(&tried("toward", None), 1);
    ada.put(&format!("{url}/{first}"), body.clone()).await.is(204);
    ada.put(&format!("{url}/{first}"), body.clone()).await.is(204);
    assert_eq!(ada.get(&url).await.is(200)["events"].as_array().unwrap().len(), 1, "the same twice is once");
    // It leaked after all: the second version stands, also where the first comes again behind it.
    ada.put(&format!("{url}/{first}"), sent(&tried("toward", Some("left")), 2)).await.is(204);
    ada.put(&format!("{url}/{first}"), body).await.is(204);
    log(&mut ada, ride, tried("one-foot", Some("left"))).await;
    let told = ada.get(&url).await.is(200);
    let bridge = &told["tried"][0];
    assert_eq!(
        (&bridge["name"], &bridge["next"], &bridge["guard"]),
        (&json!("Bridge"), &json!("again"), &json!("left"))
    );
    assert_eq!(bridge["tries"][0], json!({ "reached": "toward", "leaked": "left" }));
    let crossed = log(&mut ada, ride, tried("crosses", None)).await;
    assert_eq!(ada.get(&url).await.is(200)["tried"][0]["next"], "confirm");
    let mut back = sent(&tried("crosses", None), 2);
    back["removed"] = json!(true);
    ada.put(&format!("{url}/{crossed}"), back).await.is(204);
    assert_eq!(ada.get(&url).await.is(200)["tried"][0]["tries"].as_array().unwrap().len(), 2);
    // The same version told otherwise is another thing.
    ada.put(&format!("{url}/{first}"), sent(&tried("looks", None), 2)).await.is(409);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn yesterdays_tries_are_told_today(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let yesterday = Uuid::new_v4();
    ada.put(&format!("/api/rides/{yesterday}"), ride_body(horse, me, today() - chrono::Days::new(1))).await.is(201);
    log(&mut ada, yesterday, tried("two-feet", Some("right"))).await;
    let ride = ada.ride(horse).await;
    let told = ada.get(&format!("/api/rides/{ride}/exercises")).await.is(200);
    assert_eq!(told["tried"], json!([]), "nothing was tried today");
    assert_eq!(told["before"][0]["tries"], json!([{ "reached": "two-feet", "leaked": "right" }]));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn set_ups_are_drawn_and_nothing_goes_after_a_guess(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let url = format!("/api/rides/{ride}/exercises");
    let told = ada.get(&url).await.is(200);
    let left = told["set_ups"][0].clone();
    assert_eq!(
        (&left["lead"], &left["share"], left["coming"].as_array().unwrap().len()),
        (&json!("left"), &json!(0.25), 20)
    );
    assert_eq!(ada.get(&url).await.is(200)["set_ups"][0]["coming"], left["coming"], "the same draw for whoever looks");
    let event = |told: &Value, guessed: bool| json!({ "kind": "set-up", "of": { "lead": "left", "told": told, "guessed": guessed } });
    log(&mut ada, ride, event(&left["coming"][0], false)).await;
    let after = ada.get(&url).await.is(200)["set_ups"][0].clone();
    assert_eq!(after["coming"].as_array().unwrap()[..19], left["coming"].as_array().unwrap()[1..]);
    log(&mut ada, ride, event(&json!("walk-on"), true)).await;
    let told = ada.get(&url).await.is(200);
    assert_eq!((&told["set_ups"][0]["coming"][0], &told["set_ups"][0]["guessed"]), (&json!("wait"), &json!(1)));
    assert_eq!(told["set_ups"][1]["guessed"], 0, "the right lead is counted by itself");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn changes_are_counted_and_not_offered_after_two_that_went_wrong(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let url = format!("/api/rides/{ride}/exercises");
    let check = json!({ "shoulders": true, "hip": true, "relaxed": true, "straight": true, "held": true });
    let change = |tenths: i64| json!({ "kind": "change", "of": { "to": "right", "check": check, "tenths": tenths, "place": "middle" } });
    let told = ada.get(&url).await.is(200);
    let parts: Vec<&str> = told["check"].as_array().unwrap().iter().map(|it| it["part"].as_str().unwrap()).collect();
    assert_eq!(parts, ["relaxed", "shoulders", "hip", "straight", "held"]);
    assert_eq!(told["changes"][1]["offered"], true);
    for _ in 0..2 {
        log(&mut ada, ride, change(-2)).await;
    }
    let right = ada.get(&url).await.is(200)["changes"][1].clone();
    assert_eq!((&right["all"], &right["front_first"], &right["median_tenths"]), (&json!(2), &json!(2), &json!(-2)));
    assert_eq!((&right["offered"], &right["instead"]), (&json!(false), &json!("L5")));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_cannot_be_is_refused_at_its_field(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let url = format!("/api/rides/{ride}/exercises/{}", Uuid::new_v4());
    let a_move = json!({ "kind": "move", "figure": "Laps", "call": 3, "says": "Stop", "answer": "again" });
    for (pointer, wrong, field) in [
        ("/event/figure", json!(" "), "event.figure"),
        ("/event/says", json!(""), "event.says"),
        ("/event/call", json!(1001), "event.call"),
        ("/version", json!(0), "version"),
        ("/at", json!(Utc::now() + Duration::days(3)), "at"),
    ] {
        let mut body = sent(&a_move, 1);
        *body.pointer_mut(pointer).unwrap() = wrong;
        ada.put(&url, body).await.names(422, field);
    }
    let unknown = json!({ "kind": "try", "obstacle": "ditch", "name": "Ditch", "of": { "reached": "looks" } });
    ada.put(&url, sent(&unknown, 1)).await.is(422);
    ada.put(&format!("/api/rides/{}/exercises/{}", Uuid::new_v4(), Uuid::new_v4()), sent(&a_move, 1)).await.is(404);
}
