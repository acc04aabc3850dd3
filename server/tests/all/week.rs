//! The week: planned from what the barn knows, changed by hand, published, and mended.

use axum::http::Method;
use chrono::{Datelike, Days, NaiveDate};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, today};

/// The Monday after today's week: all of it can still be planned.
fn next_monday() -> NaiveDate {
    today() + Days::new(u64::from(7 - today().weekday().num_days_from_monday()))
}

/// Plans, and gives the last line of the answer with how many came before it.
async fn plan(ada: &mut Client, day: NaiveDate, body: Value) -> (usize, Value) {
    let request = axum::http::Request::builder()
        .method(Method::POST)
        .uri(format!("/api/weeks/{day}/plan"))
        .header("x-csrf-token", &ada.csrf)
        .header("cookie", ada.cookie.clone().unwrap())
        .header("content-type", "application/json")
        .body(axum::body::Body::from(body.to_string()))
        .unwrap();
    let (status, headers, bytes) = ada.raw(request).await;
    assert_eq!(status, 200, "{}", String::from_utf8_lossy(&bytes));
    assert_eq!(headers["content-type"], "application/x-ndjson");
    let text = String::from_utf8(bytes).unwrap();
    let lines: Vec<Value> = text.lines().map(|l| serde_json::from_str(l).unwrap()).collect();
    (lines.len() - 1, lines.last().unwrap().clone())
}

fn rides(week: &Value) -> Vec<Value> {
    week["rides"].as_array().unwrap().clone()
}

/// A barn with three horses, of which one has two rides agreed on.
async fn string(ada: &mut Client) -> [Uuid; 3] {
    let ids = [ada.horse("Juniper").await, ada.horse("Biscuit").await, ada.horse("Marlow").await];
    ada.put(&format!("/api/horses/{}/rides-a-week", ids[1]), json!({ "least": 1, "most": 2 })).await.is(200);
    ids
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_week_is_planned_changed_published_and_seen(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let [juniper, biscuit, _] = string(&mut ada).await;
    let (_, cleo) = ada.person("Cleo", "assistant").await;
    let mut cleo_sees = ada.visitor();
    cleo_sees.sign_in(&cleo).await;
    let monday = next_monday();
    let path = format!("/api/weeks/{monday}");
    let empty = ada.get(&path).await.is(200);
    assert_eq!((&empty["state"], &empty["version"], rides(&empty).len()), (&json!("empty"), &json!(0), 0));
    assert_eq!(empty["start"], monday.to_string());
    // Every figure has its reason.
    for work in empty["works"].as_array().unwrap() {
        assert!(work["why"].as_array().unwrap().len() >= 3, "{work}");
    }
    let (told, last) = plan(&mut ada, monday, json!({ "version": 0, "keep": "locked" })).await;
    assert!(told >= 1, "progress is told");
    let week = &last["week"];
    assert_eq!((&week["state"], &week["judged"]["breaks"], &week["version"]), (&json!("draft"), &json!([]), &json!(1)));
    let of = |week: &Value, horse: Uuid| {
        rides(week).iter().filter(|r| r["work"].as_str().unwrap().starts_with(&horse.to_string())).count()
    };
    assert_eq!(of(week, biscuit), 2, "no more than was agreed on");
    assert!(of(week, juniper) >= 3);

    // A draft is the trainer's alone.
    assert_eq!(rides(&cleo_sees.get(&path).await.is(200)), Vec::<Value>::new());
    cleo_sees.put(&path, json!({ "version": 1, "rides": [] })).await.is(403);

    // A ride put on another's hour is kept, and the rule is named.
    let mut changed = rides(week);
    let free = changed.iter().position(|r| r["day"] != changed[0]["day"]).unwrap();
    (changed[free]["day"], changed[free]["start"]) = (changed[0]["day"].clone(), changed[0]["start"].clone());
    changed[free]["rider"] = changed[0]["rider"].clone();
    let kept = ada.put(&path, json!({ "version": 1, "rides": changed })).await.is(200);
    let breaks = kept["judged"]["breaks"].to_string();
    assert!(breaks.contains("two horses at once") || breaks.contains("twice"), "{breaks}");
    assert_eq!(kept["version"], 2);
    // Two at once: the second is told, with the week as it is now.
    let stale = ada.put(&path, json!({ "version": 1, "rides": [] })).await.is(409);
    assert_eq!(stale["current"]["version"], 2);

    let version = ada.put(&path, json!({ "version": 2, "rides": rides(week) })).await.is(200)["version"].clone();
    ada.post(&format!("{path}/publish"), json!({ "version": 1 })).await.is(409);
    let published = ada.post(&format!("{path}/publish"), json!({ "version": version })).await.is(200);
    assert_eq!(published["state"], "published");
    assert_eq!(rides(&cleo_sees.get(&path).await.is(200)).len(), rides(week).len());
    // Each ride is on its day, once, also when it is published again.
    let on_days = "select count(*) from ride where work is not null and state = 'planned'";
    let count: i64 = sqlx::query_scalar(on_days).fetch_one(&db).await.unwrap();
    assert_eq!(count as usize, rides(week).len());
    ada.post(&format!("{path}/publish"), json!({ "version": published["version"] })).await.is(200);
    let again: i64 = sqlx::query_scalar(on_days).fetch_one(&db).await.unwrap();
    assert_eq!(again, count);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_was_logged_offline_lands_on_a_ride_that_a_republished_week_dropped(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let (monday, today) = (today().week(chrono::Weekday::Mon).first_day(), today());
    let rider = ada.my_id().await;
    let path = format!("/api/weeks/{monday}");
    let seen = ada.get(&path).await.is(200);
    let work = seen["works"][0]["id"].clone();
    let day = (today - monday).num_days();
    let ride = json!({ "work": work, "day": day, "start": "09:00", "place": "arena", "rider": rider });
    let drafted = ada.put(&path, json!({ "version": 0, "rides": [ride] })).await.is(200);
    let published = ada.post(&format!("{path}/publish"), json!({ "version": drafted["version"] })).await.is(200);
    let id: Uuid = sqlx::query_scalar("select id from ride").fetch_one(&db).await.unwrap();
    // A device has the ride, and loses the network; meanwhile the week is published without it.
    let dropped = ada.put(&path, json!({ "version": published["version"], "rides": [] })).await.is(200);
    ada.post(&format!("{path}/publish"), json!({ "version": dropped["version"] })).await.is(200);
    ada.get(&format!("/api/rides/{id}")).await.is(404);
    for (n, status) in [(1, 201), (1, 200), (2, 201)] {
        let mut rep = rep_body(Uuid::from_u128(7), "S1", "stand", "left");
        rep["position"] = json!(n);
        ada.put(&format!("/api/rides/{id}/reps/{}", Uuid::from_u128(n)), rep).await.is(status);
    }
    let whole = ada.get(&format!("/api/rides/{id}")).await.is(200);
    assert_eq!(
        (&whole["reps"], &whole["state"], &whole["date"]),
        (&json!(2), &json!("open"), &json!(today.to_string()))
    );
    assert_eq!((&whole["rider_id"], &whole["horse_id"]), (&json!(rider), &json!(horse)));
    assert!(ada.get("/api/today").await.is(200).to_string().contains(&id.to_string()), "Today shows it");
    // Publishing again leaves it: it was ridden.
    let again = ada.get(&path).await.is(200);
    let again = ada.put(&path, json!({ "version": again["version"], "rides": [] })).await.is(200);
    ada.post(&format!("{path}/publish"), json!({ "version": again["version"] })).await.is(200);
    ada.get(&format!("/api/rides/{id}")).await.is(200);
    // A ride taken off the day by hand comes back in the same way, for a check or a count too.
    let other = ada.horse("Biscuit").await;
    let by_hand = ada.ride(other).await;
    ada.call(Method::DELETE, &format!("/api/rides/{by_hand}"), None).await.is(204);
    let check = json!({ "side": "both", "answer": "well", "words": "" });
    ada.put(&format!("/api/rides/{by_hand}/checks/helmet"), check).await.is(204);
    ada.get(&format!("/api/rides/{by_hand}")).await.is(200);
    ada.put(
        &format!("/api/rides/{}/reps/{}", Uuid::new_v4(), Uuid::new_v4()),
        rep_body(Uuid::new_v4(), "S1", "stand", "left"),
    )
    .await
    .is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_draft_in_a_form_that_cannot_be_read_is_named_and_not_written_over(db: PgPool) {
    let mut ada = first_barn(&db).await;
    string(&mut ada).await;
    let path = format!("/api/weeks/{}", next_monday());
    ada.put(&path, json!({ "version": 0, "rides": [] })).await.is(200);
    for (kept, why) in [(json!({ "format": 9, "rides": [1] }), "format 9"), (json!([]), "names no format")] {
        sqlx::query("update week_plan set draft = $1").bind(&kept).execute(&db).await.unwrap();
        let told = ada.get(&path).await.is(500);
        assert!(told["detail"].as_str().unwrap().contains(why), "{told}");
        ada.put(&path, json!({ "version": 1, "rides": [] })).await.is(500);
        ada.post(&format!("{path}/publish"), json!({ "version": 1 })).await.is(500);
        let still: Value = sqlx::query_scalar("select draft from week_plan").fetch_one(&db).await.unwrap();
        assert_eq!(still, kept, "it stands as it was");
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn of_too_many_searches_at_once_some_are_told_to_come_again(db: PgPool) {
    let mut ada = first_barn(&db).await;
    string(&mut ada).await;
    let monday = next_monday();
    let asked = (0..8).map(|_| {
        let mut ada = ada.clone();
        tokio::spawn(async move { plan(&mut ada, monday, json!({ "version": 0, "keep": "locked" })).await.1 })
    });
    let mut told = vec![];
    for answer in asked.collect::<Vec<_>>() {
        let last = answer.await.unwrap();
        // Made from the same version: one is kept, the others that were searched are told what stands there now.
        told.push(last["problem"]["status"].as_u64().unwrap_or(200));
    }
    let count = |status: u64| told.iter().filter(|s| **s == status).count();
    assert_eq!((count(200), count(503) >= 1, told.len()), (1, true, count(200) + count(409) + count(503)), "{told:?}");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_ill_rider_moves_only_what_must_move(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horses = string(&mut ada).await;
    let (cleo, _) = ada.person("Cleo", "assistant").await;
    for horse in &horses[1..] {
        let now = ada.get(&format!("/api/horses/{horse}")).await.is(200);
        let body = json!({ "version": now["version"], "name": now["name"], "usual_rider_id": cleo });
        ada.put(&format!("/api/horses/{horse}"), body).await.is(200);
    }
    let monday = next_monday();
    let (_, last) = plan(&mut ada, monday, json!({ "version": 0, "keep": "locked" })).await;
    let before = rides(&last["week"]);
    let ill_on = before.iter().find(|r| r["rider"] == cleo.to_string()).unwrap()["day"].as_u64().unwrap();
    let away = Uuid::new_v4();
    let ill =
        json!({ "person_id": cleo, "day": monday + Days::new(ill_on), "from": "00:00", "to": "24:00", "why": "ill" });
    ada.put(&format!("/api/away/{away}"), ill.clone()).await.is(201);
    ada.put(&format!("/api/away/{away}"), ill).await.is(200);
    let broken = ada.get(&format!("/api/weeks/{monday}")).await.is(200);
    assert!(broken["judged"]["breaks"].to_string().contains("outside the hours of Cleo"), "{}", broken["judged"]);

    let (_, last) = plan(&mut ada, monday, json!({ "version": 1, "keep": "all" })).await;
    let after = rides(&last["week"]);
    assert_eq!(last["week"]["judged"]["breaks"], json!([]));
    assert!(!last["moved"].as_array().unwrap().is_empty());
    let must = |r: &Value| r["rider"] == cleo.to_string() && r["day"] == ill_on;
    assert!(!after.iter().any(must));
    for ride in before.iter().filter(|r| !must(r)) {
        assert!(after.contains(ride), "{ride} moved without need");
    }
    ada.call(Method::DELETE, &format!("/api/away/{away}"), None).await.is(204);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn locked_rides_stay_and_two_planners_do_not_overwrite_each_other(db: PgPool) {
    let mut ada = first_barn(&db).await;
    string(&mut ada).await;
    let monday = next_monday();
    let (_, last) = plan(&mut ada, monday, json!({ "version": 0, "keep": "locked" })).await;
    let mut all = rides(&last["week"]);
    all[0]["locked"] = json!(true);
    let locked = all[0].clone();
    ada.put(&format!("/api/weeks/{monday}"), json!({ "version": 1, "rides": all })).await.is(200);
    let (_, last) = plan(&mut ada, monday, json!({ "version": 2, "keep": "locked" })).await;
    assert!(rides(&last["week"]).contains(&locked));
    // Made from a version that is not the last: refused before anything is searched.
    ada.post(&format!("/api/weeks/{monday}/plan"), json!({ "version": 1, "keep": "all" })).await.is(409);
    let over = monday - Days::new(21);
    ada.post(&format!("/api/weeks/{over}/plan"), json!({ "version": 0, "keep": "all" })).await.is(409);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_is_put_in_where_there_is_room_and_what_names_nothing_is_told(db: PgPool) {
    let mut ada = first_barn(&db).await;
    string(&mut ada).await;
    let me = ada.my_id().await;
    let path = format!("/api/weeks/{}", next_monday());
    let room = format!("{path}/room");
    let week = ada.get(&path).await.is(200);
    let works = week["works"].as_array().unwrap();
    let mut all: Vec<Value> = vec![];
    // A work of each horse on one day, one after the other: none is in the way of those before it.
    for n in [0, works.len() / 2, works.len() - 1] {
        let body = json!({ "rides": all, "work": works[n]["id"], "on": 2, "rider": me });
        let ride = ada.post(&room, body).await.is(200);
        assert_eq!((&ride["day"], &ride["rider"], &ride["ridden"]), (&json!(2), &json!(me), &json!(false)));
        all.push(ride);
    }
    let kept = ada.put(&path, json!({ "version": 0, "rides": all })).await.is(200);
    assert_eq!(kept["judged"]["breaks"], json!([]), "{all:?}");
    let asked = |field: &str, value: Value| {
        let mut body = json!({ "rides": [], "work": works[0]["id"], "on": 2 });
        body[field] = value;
        body
    };
    ada.post(&room, asked("on", json!(7))).await.names(422, "on");
    ada.post(&room, asked("work", json!("x/S1"))).await.names(422, "work");
    ada.post(&room, asked("rider", json!(Uuid::new_v4()))).await.names(422, "rider");
    ada.post(&room, asked("place", json!("moon"))).await.is(422);
    let (_, cleo) = ada.person("Cleo", "assistant").await;
    let mut cleo_sees = ada.visitor();
    cleo_sees.sign_in(&cleo).await;
    cleo_sees.post(&room, asked("on", json!(2))).await.is(403);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_week_opens_after_its_riders_hours_were_cut_and_names_what_is_outside_of_them(db: PgPool) {
    let mut ada = first_barn(&db).await;
    string(&mut ada).await;
    let me = ada.my_id().await;
    let path = format!("/api/weeks/{}", next_monday());
    let work = ada.get(&path).await.is(200)["works"][0].clone();
    let late = json!({ "work": work["id"], "day": 1, "start": "22:00", "place": work["places"][0], "rider": me });
    ada.put(&path, json!({ "version": 0, "rides": [late] })).await.is(200);
    let hours = json!({ "hours": [{ "weekday": 1, "from": "07:00", "to": "09:00" }] });
    ada.put(&format!("/api/people/{me}/hours"), hours).await.is(200);
    let week = ada.get(&path).await.is(200);
    assert_eq!(rides(&week).len(), 1);
    assert!(week["judged"]["breaks"].to_string().contains("outside the hours of Ada"), "{}", week["judged"]);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn days_that_no_calendar_of_a_barn_reaches_are_refused_and_break_nothing(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    for day in ["+262142-12-31", "-262143-01-01", "1989-12-31", "2200-01-01"] {
        let address = day.replace('+', "%2B");
        ada.get(&format!("/api/weeks/{address}")).await.names(422, "day");
        ada.get(&format!("/api/appointments?from={address}")).await.names(422, "from");
        let away = json!({ "horse_id": horse, "day": day, "from": "00:00", "to": "24:00", "why": "ill" });
        ada.put(&format!("/api/away/{}", Uuid::new_v4()), away).await.names(422, "day");
        let visit = json!({ "version": 0, "kind": "vet", "title": "Vet", "day": day, "days": 1, "from": "09:00",
                            "to": "10:00", "rule": null, "people": [], "horses": [horse] });
        ada.put(&format!("/api/appointments/{}", Uuid::new_v4()), visit).await.names(422, "day");
    }
    ada.get("/api/weeks/2199-12-31").await.is(200);
    ada.get("/api/weeks/1990-01-01").await.is(200);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn nonsense_is_named_by_its_field_and_a_barn_without_anything_has_a_week(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let me = ada.my_id().await;
    let monday = next_monday();
    let empty = ada.get(&format!("/api/weeks/{monday}")).await.is(200);
    assert_eq!(empty["works"], json!([]));
    ada.get("/api/weeks/someday").await.is(400);
    let hours = |from: &str, to: &str| json!({ "hours": [{ "weekday": 0, "from": from, "to": to }] });
    let path = format!("/api/people/{me}/hours");
    assert!(ada.put(&path, hours("12:00", "07:00")).await.names(422, "hours[0].to").contains("ends before it starts"));
    ada.put(&path, hours("7", "12:00")).await.names(422, "hours[0].from");
    ada.put(&path, json!({ "hours": [{ "weekday": 9, "from": "07:00", "to": "08:00" }] }))
        .await
        .names(422, "hours[0].weekday");
    let twice = json!({ "hours": [{ "weekday": 1, "from": "07:00", "to": "09:00" }, { "weekday": 1, "from": "08:00", "to": "10:00" }] });
    ada.put(&path, twice).await.names(422, "hours[1].from");
    ada.put(&path, hours("07:00", "12:00")).await.is(200);
    assert_eq!(ada.get("/api/hours").await.is(200)["people"][0]["hours"][0]["from"], "07:00");
    ada.put("/api/places/moon", json!({ "at_once": 1, "from": "07:00", "to": "08:00" })).await.is(400);
    ada.put("/api/places/arena", json!({ "at_once": -1, "from": "07:00", "to": "08:00" })).await.names(422, "at_once");
    ada.put("/api/places/arena", json!({ "at_once": 0, "from": "07:00", "to": "08:00" })).await.is(200);
    ada.put("/api/cattle-days", json!({ "works": [0, 0, 0, 501, 0, 0, 0] })).await.names(422, "works[3]");
    let horse = ada.horse("Juniper").await;
    let rides_a_week = format!("/api/horses/{horse}/rides-a-week");
    ada.put(&rides_a_week, json!({ "least": 5, "most": 2 })).await.names(422, "most");
    ada.put(&rides_a_week, json!({ "least": 7, "most": 7 })).await.is(200);
    // Seven rides that cannot be, with one rider on one weekday: the best there is, and the reason.
    let (_, last) = plan(&mut ada, monday, json!({ "version": 0, "keep": "all" })).await;
    let short = &last["week"]["judged"]["short"][0];
    assert_eq!((&short["least"], short["horse_id"].as_str()), (&json!(7), Some(horse.to_string().as_str())));
    assert!(short["why"].as_str().unwrap().len() > 10, "{short}");
    let away = format!("/api/away/{}", Uuid::new_v4());
    ada.put(&away, json!({ "day": monday, "from": "00:00", "to": "24:00", "why": "ill" }))
        .await
        .names(422, "person_id");
    let nobody = json!({ "person_id": Uuid::new_v4(), "day": monday, "from": "00:00", "to": "24:00", "why": "ill" });
    ada.put(&away, nobody).await.is(404);
    let wrong = json!({ "work": "x", "day": 8, "start": "25:00", "place": "arena", "rider": Uuid::new_v4() });
    for field in ["work", "day", "start", "rider"] {
        let body = json!({ "version": 0, "rides": [wrong] });
        ada.put(&format!("/api/weeks/{monday}"), body).await.names(422, &format!("rides[0].{field}"));
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_calendar_is_read_by_its_address_alone_until_it_is_taken_back(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let ride = json!({ "horse_id": horse, "rider_id": me, "date": today(), "starts_at": "08:15:00", "place": "arena", "entered": "pen" });
    let ride_id = Uuid::new_v4();
    ada.put(&format!("/api/rides/{ride_id}"), ride).await.is(201);
    let feed = format!("/api/feeds/{}", Uuid::new_v4());
    ada.put(&feed, json!({})).await.names(422, "person_id");
    let address = |body: &Value| body["address"].as_str().unwrap().to_owned();
    let first = address(&ada.put(&feed, json!({ "person_id": me })).await.is(201));
    let mut anyone = ada.visitor();
    let mut read = async |path: &str| {
        let request = axum::http::Request::builder().uri(path).body(axum::body::Body::empty()).unwrap();
        let (status, headers, bytes) = anyone.raw(request).await;
        (status.as_u16(), headers, String::from_utf8(bytes).unwrap())
    };
    let (status, headers, text) = read(&first).await;
    assert_eq!((status, headers["content-type"].to_str().unwrap()), (200, "text/calendar; charset=utf-8"));
    let begins = format!("DTSTART:{}T081500Z\r\n", today().format("%Y%m%d"));
    assert!(text.contains(&begins) && text.contains("SUMMARY:Ride Juniper\r\n"), "{text}");
    // As long as such a ride takes; once it was ridden, as long as it took.
    let ends = |at: &str| format!("DTEND:{}T{at}00Z\r\n", today().format("%Y%m%d"));
    assert!(text.contains(&ends("0855")), "{text}");
    let took = "update ride set stand_minutes = 3, walk_minutes = 12, jog_minutes = 5, lope_minutes = 0, run_minutes = 0 where id = $1";
    sqlx::query(took).bind(ride_id).execute(&db).await.unwrap();
    assert!(read(&first).await.2.contains(&ends("0835")));
    // Given out again under the same id, the old address ends; taken back, the new one does too.
    let second = address(&ada.put(&feed, json!({ "person_id": me })).await.is(201));
    assert_eq!((read(&first).await.0, read(&second).await.0), (404, 200));
    let told = ada.get("/api/feeds").await.is(200);
    assert_eq!((&told["items"][0]["name"], told.to_string().contains("/calendar/")), (&json!("Ada"), false));
    ada.call(Method::DELETE, &feed, None).await.is(204);
    assert_eq!(read(&second).await.0, 404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn rules_are_not_held_against_what_was_ridden(db: PgPool) {
    let mut ada = first_barn(&db).await;
    // Both were logged with no time of day, so they stand on the same hour of the same rider.
    for name in ["Juniper", "Biscuit"] {
        let horse = ada.horse(name).await;
        let ride = ada.ride(horse).await;
        let rep = rep_body(Uuid::new_v4(), "S1", "stand", "left");
        ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
    }
    let week = ada.get(&format!("/api/weeks/{}", today())).await.is(200);
    let ridden = rides(&week);
    assert_eq!((ridden.len(), &ridden[0]["start"], &ridden[0]["rider"]), (2, &ridden[1]["start"], &ridden[1]["rider"]));
    assert_eq!(week["judged"]["breaks"], json!([]));
}
