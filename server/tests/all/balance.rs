//! What was ridden over weeks, what was planned and not ridden, and why.

use axum::http::Method;
use chrono::{Datelike, Days};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, today};

async fn ridden(ada: &mut Client, horse: Uuid, me: Uuid, days_ago: u64, place: &str, sets: Value) {
    let body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(days_ago), "place": place,
                       "entered": "afterwards", "sets": sets });
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_balance_adds_up_by_horse_rider_and_ladder(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    ada.put(&format!("/api/horses/{horse}/rides-a-week"), json!({ "least": 2, "most": 4 })).await.is(200);
    let set = json!([{ "id": Uuid::new_v4(), "position": 0, "rung": "S1", "gait": "stand", "side": "left",
                       "reps": [{ "id": Uuid::new_v4(), "outcome": "gave", "weight": "egg", "millis": 1200 }] }]);
    // Last week's Monday and Tuesday, one of them out; and once the week before.
    let monday = u64::from(today().weekday().num_days_from_monday()) + 7;
    ridden(&mut ada, horse, me, monday, "arena", set).await;
    ridden(&mut ada, horse, me, monday - 1, "trail", json!([])).await;
    ridden(&mut ada, horse, me, monday + 6, "arena", json!([])).await;
    let told = ada.get("/api/balance?weeks=4").await.is(200);
    assert_eq!(told["weeks"].as_array().unwrap().len(), 4);
    let juniper = &told["horses"][0];
    let rides: Vec<u64> = juniper["weeks"].as_array().unwrap().iter().map(|w| w["rides"].as_u64().unwrap()).collect();
    assert_eq!(rides, [0, 1, 2, 0]);
    // The week in which it came is not judged, nor the one that is not over.
    assert_eq!((&juniper["kept"], &juniper["judged"]), (&json!(1), &json!(1)));
    assert_eq!(juniper["weeks"][2]["out"], 1);
    // Two rides of no told minutes count as rides at the jog: 15 walk, 15 jog and 10 standing make 60 each. Monotony is the mean
    // of the seven loads over their standard deviation (Foster 1998; memory): 60, 60 and five days of 0.
    assert_eq!(juniper["weeks"][2]["load"], 120);
    let mean: f64 = 120.0 / 7.0;
    let sd = ((2.0 * (60.0 - mean).powi(2) + 5.0 * mean.powi(2)) / 6.0).sqrt();
    assert!((juniper["weeks"][2]["monotony"].as_f64().unwrap() - mean / sd).abs() < 1e-9);
    assert_eq!(told["riders"][0]["rides"], json!([0, 1, 2, 0]));
    assert_eq!(told["subjects"][0]["id"], "S");
    assert_eq!(told["subjects"][0]["rides"], json!([0, 0, 1, 0]));
    for weeks in ["0", "53"] {
        ada.get(&format!("/api/balance?weeks={weeks}")).await.names(422, "weeks");
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_lay_up_is_not_held_against_the_rides_agreed_on(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    ada.put(&format!("/api/horses/{horse}/rides-a-week"), json!({ "least": 3, "most": 4 })).await.is(200);
    // It came five weeks ago; of the four weeks since it was ridden three times in the first, and once in the third.
    let monday = u64::from(today().weekday().num_days_from_monday());
    for days_ago in [monday + 35, monday + 28, monday + 27, monday + 26, monday + 14] {
        ridden(&mut ada, horse, me, days_ago, "arena", json!([])).await;
    }
    let told = async |ada: &mut Client| {
        let juniper = ada.get("/api/balance?weeks=6").await.is(200)["horses"][0].clone();
        (juniper["kept"].as_u64().unwrap(), juniper["judged"].as_u64().unwrap())
    };
    assert_eq!(told(&mut ada).await, (1, 4));
    // Laid up for all of the second week; and off for all days but the one it was ridden on in the third.
    let first = today() - Days::new(monday + 21);
    let lay_up = json!({ "version": 0, "kind": "lay-up", "title": "Turned out", "day": first, "days": 7, "from": "00:00",
                         "to": "24:00", "rule": null, "people": [], "horses": [horse] });
    ada.put(&format!("/api/appointments/{}", Uuid::new_v4()), lay_up).await.is(200);
    assert_eq!(told(&mut ada).await, (2, 4));
    for n in 0..6 {
        let day = today() - Days::new(monday + 13 - n);
        let off = json!({ "horse_id": horse, "day": day, "from": "00:00", "to": "24:00", "why": "sore" });
        ada.put(&format!("/api/away/{}", Uuid::new_v4()), off).await.is(201);
    }
    assert_eq!(told(&mut ada).await, (3, 4));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_that_was_not_ridden_says_why_and_the_week_is_mended_around_it(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    // Someone rides every day until midnight, so that there is something of today left whenever this runs.
    let hours: Vec<Value> = (0..7).map(|d| json!({ "weekday": d, "from": "00:00", "to": "24:00" })).collect();
    ada.put(&format!("/api/people/{me}/hours"), json!({ "hours": hours })).await.is(200);
    let week = format!("/api/weeks/{}", today());
    let now = ada.get(&week).await.is(200);
    let work = now["works"][0]["id"].clone();
    let day = today().weekday().num_days_from_monday();
    let ride =
        json!({ "work": work, "day": day, "start": "06:00", "place": now["works"][0]["places"][0], "rider": me });
    ada.put(&week, json!({ "version": 0, "rides": [ride] })).await.is(200);
    ada.post(&format!("{week}/publish"), json!({ "version": 1 })).await.is(200);
    let on_today = ada.get("/api/today").await.is(200)["rides"][0]["ride"].clone();
    assert_eq!((&on_today["from_week"], &on_today["missed"]), (&json!(true), &Value::Null));
    let path = format!("/api/rides/{}/missed", on_today["id"].as_str().unwrap());
    ada.put(&path, json!({ "why": "laziness" })).await.is(422);
    assert_eq!(ada.put(&path, json!({ "why": "weather" })).await.is(200)["missed"], "weather");
    ada.put(&path, json!({ "why": "rider" })).await.is(200);
    // Its day is free again for the rest, and the horse and its rider are off for today.
    let after = ada.get(&week).await.is(200);
    assert_eq!(after["rides"], json!([]));
    assert!(after["riders"][0]["hours"].as_array().unwrap().iter().all(|h| h["day"] != day));
    // Published again, it stays as it was told, and nothing comes beside it.
    ada.post(&format!("{week}/publish"), json!({ "version": after["version"] })).await.is(200);
    let rides = ada.get("/api/today").await.is(200)["rides"].clone();
    assert_eq!((rides.as_array().unwrap().len(), &rides[0]["ride"]["missed"]), (1, &json!("rider")));
    let told = ada.get("/api/balance?weeks=1").await.is(200);
    assert_eq!(told["missed"], json!([{ "why": "rider", "rides": 1 }]));
    ada.call(Method::DELETE, &path, None).await.is(200);
    assert_eq!(ada.get("/api/today").await.is(200)["rides"][0]["ride"]["missed"], Value::Null);
    // A ride that is still to come is moved or dropped, not missed.
    let later = Uuid::new_v4();
    let body = json!({ "horse_id": horse, "rider_id": me, "date": today() + Days::new(2), "place": "arena", "entered": "pen" });
    ada.put(&format!("/api/rides/{later}"), body).await.is(201);
    ada.put(&format!("/api/rides/{later}/missed"), json!({ "why": "time" })).await.is(409);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_of_the_last_days_that_nobody_logged_is_asked_after(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let mut planned = async |days_ago: u64| {
        let id = Uuid::new_v4();
        let body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(days_ago), "place": "arena", "entered": "pen" });
        ada.put(&format!("/api/rides/{id}"), body).await.is(201);
        id
    };
    let (yesterday, _) = (planned(1).await, planned(9).await);
    let asked = ada.get("/api/today").await.is(200)["unanswered"].clone();
    assert_eq!(asked.as_array().unwrap().iter().map(|r| r["id"].clone()).collect::<Vec<_>>(), [json!(yesterday)]);
    ada.put(&format!("/api/rides/{yesterday}/missed"), json!({ "why": "time" })).await.is(200);
    assert_eq!(ada.get("/api/today").await.is(200)["unanswered"], json!([]));
    // Ridden after all: a rep logged on it takes the answer back.
    let rep = crate::support::rep_body(Uuid::new_v4(), "S1", "stand", "left");
    ada.put(&format!("/api/rides/{yesterday}/reps/{}", Uuid::new_v4()), rep).await.is(201);
    let ride = ada.get(&format!("/api/rides/{yesterday}")).await.is(200);
    assert_eq!((&ride["state"], &ride["missed"]), (&json!("open"), &Value::Null));
    ada.put(&format!("/api/rides/{yesterday}/missed"), json!({ "why": "time" })).await.is(409);
}
