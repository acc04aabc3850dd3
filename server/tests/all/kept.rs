//! Answers that are kept: the same as those that are made anew, whatever is changed, and whoever changes it.

use axum::http::Method;
use chrono::{Datelike, Days, NaiveDate};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, today};

fn monday() -> NaiveDate {
    today() - Days::new(u64::from(today().weekday().num_days_from_monday()))
}

fn kept_paths() -> [String; 4] {
    ["/api/today".into(), format!("/api/weeks/{}", monday()), "/api/balance".into(), "/api/day".into()]
}

/// What a browser is told by this server, and by one that has nothing of it in memory.
async fn told(client: &mut Client, db: &PgPool) -> Vec<Value> {
    let fresh = Client::new(db);
    let mut fresh = Client { router: fresh.router, ..client.clone() };
    let mut all = vec![];
    for path in kept_paths() {
        let kept = client.get(&path).await.is(200);
        assert_eq!(kept, fresh.get(&path).await.is(200), "{path} is made anew otherwise");
        all.push(kept);
    }
    all
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_answer_is_kept_longer_than_what_it_is_made_from(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (me, horse, ride) = (ada.my_id().await, ada.horse("Juniper").await, Uuid::new_v4());
    let id = Uuid::new_v4;
    let mut body = ride_body(horse, me, today());
    body["starts_at"] = json!("07:00");
    let planned = ride_body(horse, me, today() - Days::new(2));
    let farrier = json!({ "version": 0, "kind": "farrier", "title": "Farrier", "day": today(), "days": 1, "from": "09:00", "to": "11:00",
                          "rule": null, "people": [], "horses": [horse] });
    let off = json!({ "off_since": today() - Days::new(31), "back_on": today() - Days::new(1), "why": "injury" });
    // Each is seen in at least one of them.
    let changes: Vec<(Method, String, Value)> = vec![
        (Method::PUT, format!("/api/rides/{ride}"), body),
        (Method::PUT, format!("/api/rides/{ride}/reps/{}", id()), rep_body(id(), "S1", "stand", "left")),
        (Method::PUT, format!("/api/rides/{}", id()), planned),
        (
            Method::PUT,
            format!("/api/horses/{horse}"),
            json!({ "version": 1, "name": "Juniper Two", "posture": "patient" }),
        ),
        (Method::PUT, format!("/api/appointments/{}", id()), farrier),
        (Method::PUT, format!("/api/horses/{horse}/layoffs/{}", id()), off),
        (
            Method::PUT,
            format!("/api/people/{me}/hours"),
            json!({ "hours": [{ "weekday": 0, "from": "07:00", "to": "09:00" }] }),
        ),
        (Method::PUT, format!("/api/horses/{horse}/rides-a-week"), json!({ "least": 1, "most": 2 })),
        (
            Method::PUT,
            format!("/api/people/{}", id()),
            json!({ "name": "Cy", "email": "cy@low.example", "role": "assistant" }),
        ),
        (Method::PUT, format!("/api/horses/{}", id()), json!({ "name": "Biscuit" })),
    ];
    let mut before = told(&mut ada, &db).await;
    for (method, path, body) in changes {
        let answer = ada.call(method, &path, Some(&body)).await;
        assert!(answer.status.is_success(), "{path}: {}", answer.body);
        let now = told(&mut ada, &db).await;
        assert_ne!(now, before, "nobody sees that {path} was written");
        before = now;
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_another_server_wrote_is_seen_at_once_and_what_is_kept_is_one_persons(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let other = Client::new(&db);
    let mut elsewhere = Client { router: other.router, ..ada.clone() };
    assert_eq!(ada.get("/api/today").await.is(200)["rides"], json!([]));
    elsewhere.ride(horse).await;
    assert_eq!(ada.get("/api/today").await.is(200)["rides"].as_array().unwrap().len(), 1);
    // An owner gets nothing that was kept of the trainer's.
    let (_, email) = ada.person("Dee", "owner").await;
    let mut dee = ada.visitor();
    dee.sign_in(&email).await;
    let seen = format!("{}", dee.get("/api/today").await.body);
    assert!(!seen.contains("Juniper"), "{seen}");
}
