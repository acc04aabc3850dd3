//! Appointments: written down, repeated, read out of a calendar, planned around, and shows that say early what they will not see.

use axum::http::Method;
use chrono::{Datelike, Days, NaiveDate};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, today};

fn next_monday() -> NaiveDate {
    today() + Days::new(u64::from(7 - today().weekday().num_days_from_monday()))
}

fn farrier(horse: Uuid, day: NaiveDate) -> Value {
    json!({ "version": 0, "kind": "farrier", "title": "Farrier", "day": day, "days": 1, "from": "09:00", "to": "11:00",
            "rule": null, "people": [], "horses": [horse] })
}

fn with(mut body: Value, changes: &Value) -> Value {
    for (key, value) in changes.as_object().unwrap() {
        body[key] = value.clone();
    }
    body
}

async fn week(ada: &mut Client, day: NaiveDate) -> Value {
    ada.get(&format!("/api/weeks/{day}")).await.is(200)
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_appointment_is_kept_once_changed_from_its_version_and_taken_off(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let path = format!("/api/appointments/{}", Uuid::new_v4());
    let body = farrier(horse, today());
    assert_eq!(ada.put(&path, body.clone()).await.is(200)["version"], 1);
    assert_eq!(ada.put(&path, body.clone()).await.is(200)["version"], 1, "sent twice, kept once");
    let changed = ada.put(&path, with(body.clone(), &json!({ "version": 1, "title": "Resets" }))).await.is(200);
    assert_eq!((&changed["title"], &changed["version"]), (&json!("Resets"), &json!(2)));
    let stale = ada.put(&path, with(body.clone(), &json!({ "version": 1, "title": "Late" }))).await.is(409);
    assert_eq!(stale["current"]["title"], "Resets");
    let listed = ada.get("/api/appointments").await.is(200);
    assert_eq!(listed["items"][0]["comes"], json!([today()]));
    // Everyone sees it; only its own horses' owner of the owners does.
    let (_, cleo) = ada.person("Cleo", "owner").await;
    let mut cleo_sees = ada.visitor();
    cleo_sees.sign_in(&cleo).await;
    assert_eq!(cleo_sees.get("/api/appointments").await.is(200)["items"], json!([]));
    cleo_sees.put(&path, with(body, &json!({ "version": 2 }))).await.is(403);
    ada.call(Method::DELETE, &path, None).await.is(204);
    ada.call(Method::DELETE, &path, None).await.is(404);
    assert_eq!(ada.get("/api/appointments").await.is(200)["items"], json!([]));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_cannot_be_is_named_by_its_field(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let body = farrier(horse, today());
    let mut refused = async |changes: Value, field: &str| {
        let path = format!("/api/appointments/{}", Uuid::new_v4());
        ada.put(&path, with(body.clone(), &changes)).await.names(422, field)
    };
    assert!(refused(json!({ "from": "11:00", "to": "09:00" }), "to").await.contains("ends before it starts"));
    assert!(refused(json!({ "rule": "FREQ=HOURLY" }), "rule").await.contains("within a day"));
    assert!(refused(json!({ "rule": "now and then" }), "rule").await.contains("RFC 5545"));
    refused(json!({ "kind": "party" }), "kind").await;
    refused(json!({ "title": "  " }), "title").await;
    refused(json!({ "days": 3 }), "days").await;
    refused(json!({ "kind": "show", "days": 0 }), "days").await;
    refused(json!({ "horses": [] }), "horses").await;
    refused(json!({ "wants": ["S1"] }), "wants").await;
    assert!(refused(json!({ "kind": "show", "wants": ["Z9"] }), "wants").await.contains("Z9"));
    let path = format!("/api/appointments/{}", Uuid::new_v4());
    ada.put(&path, with(body.clone(), &json!({ "horses": [Uuid::new_v4()] }))).await.is(404);
    ada.put(&path, with(body, &json!({ "version": 3 }))).await.is(404);
    ada.get("/api/appointments?from=2026-01-01&to=2029-01-01").await.names(422, "to");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_week_is_planned_around_what_stands_in_it(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let monday = next_monday();
    // Every second week from a fortnight ago, at Wednesday's first hours; and a lay-up from Thursday on.
    let wednesday = monday + Days::new(2) - Days::new(14);
    let series = with(
        farrier(horse, wednesday),
        &json!({ "rule": "FREQ=WEEKLY;INTERVAL=2", "from": "06:00", "to": "10:00", "people": [me] }),
    );
    ada.put(&format!("/api/appointments/{}", Uuid::new_v4()), series).await.is(200);
    let lay_up = with(
        farrier(horse, monday + Days::new(3)),
        &json!({ "kind": "lay-up", "title": "Turned out", "days": 20, "from": "00:00", "to": "24:00" }),
    );
    ada.put(&format!("/api/appointments/{}", Uuid::new_v4()), lay_up).await.is(200);
    let now = week(&mut ada, monday).await;
    let days: Vec<(i64, &str)> = now["appointments"]
        .as_array()
        .unwrap()
        .iter()
        .map(|a| (a["day"].as_i64().unwrap(), a["title"].as_str().unwrap()))
        .collect();
    let turned_out = "Turned out";
    assert_eq!(days, [(2, "Farrier"), (3, turned_out), (4, turned_out), (5, turned_out), (6, turned_out)]);
    let hours = now["riders"][0]["hours"].as_array().unwrap().iter().filter(|h| h["day"] == 2);
    assert_eq!(hours.map(|h| h["from"].as_str().unwrap()).collect::<Vec<_>>(), ["10:00", "13:30"]);
    // Three days are left of the four rides that are usual.
    assert_eq!(now["horses"][0]["least"], 3);
    assert!(now["horses"][0]["why"].as_str().unwrap().contains("here on 3 days"), "{}", now["horses"][0]);
    // The week after the next has no farrier, and none of the horse.
    let after = week(&mut ada, monday + Days::new(7)).await;
    assert!(after["appointments"].as_array().unwrap().iter().all(|a| a["title"] == turned_out));
    assert_eq!(after["horses"][0]["least"], 0);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_show_says_early_what_it_will_not_see(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let day = today() + Days::new(30);
    let show = with(
        farrier(horse, day),
        &json!({ "kind": "show", "title": "Spring show", "days": 3, "from": "00:00", "to": "24:00", "wants": ["S1", "T3"] }),
    );
    ada.put(&format!("/api/appointments/{}", Uuid::new_v4()), show).await.is(200);
    let listed = ada.get("/api/appointments").await.is(200);
    let outlook = &listed["items"][0]["outlook"][0];
    assert_eq!(outlook["horse_name"], "Juniper");
    // Nothing was ridden yet: what needs other rungs first is out of sight, and that is said on the week too.
    let stop = outlook["wants"].as_array().unwrap().iter().find(|w| w["step"] == "T3").unwrap();
    assert_eq!((&stop["outlook"], &stop["chance"]), (&json!("not-in-sight"), &Value::Null));
    assert!(outlook["warning"].as_str().unwrap().contains("from the show"), "{outlook}");
    let now = week(&mut ada, today()).await;
    assert_eq!(now["warnings"][0]["show"], "Spring show");
    assert_eq!(now["warnings"][0]["says"], outlook["warning"]);
    let wanted = |w: &&Value| w["why"].to_string().contains("Spring show");
    assert!(now["works"].as_array().unwrap().iter().any(|w| wanted(&w)), "what it rests on is drawn in for it");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_calendar_comes_in_after_a_look_all_of_it_and_once(db: PgPool) {
    let mut ada = first_barn(&db).await;
    ada.horse("Juniper").await;
    ada.horse("Juniper Two").await;
    let event = |uid: &str, lines: &str| format!("BEGIN:VEVENT\r\nUID:{uid}\r\n{lines}\r\nEND:VEVENT\r\n");
    let day = today().format("%Y%m%d");
    let text = format!(
        "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\n{}{}{}{}END:VCALENDAR\r\n",
        event(
            "a",
            &format!(
                "SUMMARY:Farrier: Juniper\r\nDTSTART:{day}T090000\r\nDTEND:{day}T100000\r\nRRULE:FREQ=WEEKLY;INTERVAL=6"
            )
        ),
        event("b", &format!("SUMMARY:Hay delivery\r\nDTSTART:{day}T090000")),
        event("c", &format!("SUMMARY:Juniper turned out\r\nDTSTART;VALUE=DATE:{day}\r\nDURATION:P5D")),
        event("d", "SUMMARY:Vet"),
    );
    let sent = |dry: bool| json!({ "text": text, "dry_run": dry });
    let told = ada.post("/api/appointments/import", sent(true)).await.is(200);
    let fates: Vec<&str> = told["lines"].as_array().unwrap().iter().map(|l| l["fate"].as_str().unwrap()).collect();
    assert_eq!((fates, &told["added"]), (vec!["new", "nobody", "new", "refused"], &json!(2)));
    assert_eq!(told["lines"][0]["kind"], "farrier");
    assert_eq!(told["lines"][2]["days"], 5);
    assert_eq!(told["lines"][0]["horses"], json!(["Juniper"]), "a name inside a longer one is another horse");
    assert_eq!(ada.get("/api/appointments").await.is(200)["items"], json!([]), "a look changes nothing");
    assert_eq!(ada.post("/api/appointments/import", sent(false)).await.is(200)["added"], 2);
    let again = ada.post("/api/appointments/import", sent(false)).await.is(200);
    assert_eq!((&again["added"], &again["lines"][0]["fate"]), (&json!(0), &json!("known")));
    let listed = ada.get("/api/appointments").await.is(200);
    assert_eq!(listed["items"].as_array().unwrap().len(), 2);
    let no_calendar = json!({ "text": "Farrier on Wednesday", "dry_run": true });
    ada.post("/api/appointments/import", no_calendar).await.names(422, "text");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn appointments_stand_in_the_calendars_of_those_they_take(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, other, me) = (ada.horse("Juniper").await, ada.horse("Biscuit").await, ada.my_id().await);
    let series = with(farrier(horse, today()), &json!({ "rule": "FREQ=WEEKLY;INTERVAL=6" }));
    ada.put(&format!("/api/appointments/{}", Uuid::new_v4()), series).await.is(200);
    let mut text = async |query: &str| {
        let request = axum::http::Request::builder()
            .uri(format!("/api/calendar?{query}"))
            .header("cookie", ada.cookie.clone().unwrap())
            .body(axum::body::Body::empty())
            .unwrap();
        let (status, headers, bytes) = ada.raw(request).await;
        assert_eq!(status, 200);
        assert!(headers["content-disposition"].to_str().unwrap().contains("rides.ics"));
        String::from_utf8(bytes).unwrap()
    };
    // Today and every six weeks within the four months that a calendar shows.
    assert_eq!(text(&format!("horse={horse}")).await.matches("SUMMARY:Farrier").count(), 3);
    assert_eq!(text(&format!("horse={other}")).await.matches("SUMMARY:Farrier").count(), 0);
    assert_eq!(text(&format!("person={me}")).await.matches("SUMMARY:Farrier").count(), 0);
    ada.get(&format!("/api/calendar?person={me}&horse={horse}")).await.names(422, "person");
    ada.get(&format!("/api/calendar?horse={}", Uuid::new_v4())).await.is(404);
}
