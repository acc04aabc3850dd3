//! What happens with the tack on a ride, as devices log it: other pieces, shares, the test for a brace, the first day in leverage.

use axum::http::Method;
use chrono::{DateTime, Duration, NaiveDate, Utc};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, today};

async fn piece(ada: &mut Client, horse: Uuid, name: &str, mouthpiece: &str) -> Uuid {
    let id = Uuid::new_v4();
    let body = json!({ "kind": "bit", "name": name, "mouthpiece": mouthpiece, "since": "2026-01-05",
                       "mouth_seen": "2026-01-05", "teeth_seen": "2026-01-05" });
    ada.put(&format!("/api/horses/{horse}/gear/{id}"), body).await.is(201);
    id
}

fn event(at: DateTime<Utc>, event: &Value) -> Value {
    json!({ "at": at, "version": 1, "event": event })
}

fn share(bridle: u8, asked: Option<&str>) -> Value {
    json!({ "kind": "share", "bridle": bridle, "asked": asked })
}

fn step(step: u8, came: &str) -> Value {
    json!({ "kind": "step", "step": step, "came": came, "tossed": false, "hole": null, "turned": null, "corner": null })
}

fn url(ride: Uuid) -> String {
    format!("/api/rides/{ride}/tack/{}", Uuid::new_v4())
}

async fn school(ada: &mut Client, horse: Uuid, choice: &str) {
    let change = json!({ "kind": "school", "school": "road", "choice": choice });
    let body = json!({ "horse_id": horse, "change": change });
    ada.put(&format!("/api/curriculum/changes/{}", Uuid::new_v4()), body).await.is(201);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_event_sent_twice_or_out_of_order_is_kept_once(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let juniper = ada.horse("Juniper").await;
    let ride = ada.ride(juniper).await;
    let (now, one) = (Utc::now(), url(ride));
    let first = event(now, &share(20, None));
    ada.put(&one, first.clone()).await.is(204);
    ada.put(&one, first.clone()).await.is(204);
    let mut later = event(now, &share(20, Some("bears")));
    later["version"] = json!(3);
    ada.put(&one, later.clone()).await.is(204);
    ada.put(&one, first).await.is(204);
    let seen = ada.get(&format!("/api/rides/{ride}/tack")).await.is(200);
    assert_eq!(seen["events"].as_array().unwrap().len(), 1);
    assert_eq!((&seen["events"][0]["event"]["asked"], &seen["events"][0]["version"]), (&json!("bears"), &json!(3)));
    assert_eq!(ada.get(&format!("/api/rides/{ride}")).await.is(200)["state"], "open", "a planned ride is under way");

    // The same version told otherwise, and the same id on another ride.
    let mut other = later.clone();
    other["event"]["bridle"] = json!(50);
    ada.put(&one, other).await.is(409);
    let second = ada.ride(juniper).await;
    ada.put(&one.replace(&ride.to_string(), &second.to_string()), later.clone()).await.is(409);
    later["removed"] = json!(true);
    later["version"] = json!(4);
    ada.put(&one, later).await.is(204);
    assert_eq!(ada.get(&format!("/api/rides/{ride}/tack")).await.is(200)["events"], json!([]));

    let bad = |event: Value| json!({ "at": now, "version": 1, "event": event });
    ada.put(&url(ride), bad(share(101, None))).await.names(422, "event.bridle");
    ada.put(&url(ride), bad(json!({ "kind": "worn", "gear": [] }))).await.names(422, "event.gear");
    ada.put(&url(ride), bad(json!({ "kind": "worn", "gear": [Uuid::new_v4()] }))).await.names(422, "event.gear[0]");
    ada.put(&url(ride), event(now + Duration::days(3), &share(10, None))).await.names(422, "at");
    let mut none = event(now, &share(10, None));
    none["version"] = json!(0);
    ada.put(&url(ride), none).await.names(422, "version");
    ada.put(&url(Uuid::new_v4()), event(now, &share(10, None))).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn shares_from_the_saddle_are_a_ride_in_the_two_rein(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let juniper = ada.horse("Juniper").await;
    let ride = ada.ride(juniper).await;
    let begin = Utc::now() - Duration::minutes(40);
    // The second comes first: the network was away.
    ada.put(&url(ride), event(begin + Duration::minutes(10), &share(30, Some("bears")))).await.is(204);
    ada.put(&url(ride), event(begin, &share(10, None))).await.is(204);
    let mut rep = rep_body(Uuid::new_v4(), "S2", "walk", "left");
    rep["asked_at"] = json!(begin + Duration::minutes(20));
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
    let read = ada.get(&format!("/api/horses/{juniper}/two-rein")).await.is(200);
    let kept = &read["rides"][0];
    assert_eq!((&kept["begins"], &kept["seconds"], &kept["version"]), (&json!(10), &json!(1200), &json!(0)));
    assert_eq!(kept["moves"], json!([{ "at": 600, "bridle": 30, "asked": "bears" }]));
    assert!((kept["mean"].as_f64().unwrap() - 0.2).abs() < 1e-9, "ten minutes at 10, ten at 30");

    // Noted by hand, that is what stands, and what a device still has is refused with a word.
    let by_hand = json!({ "version": 0, "seconds": 2400, "begins": 15, "moves": [] });
    ada.put(&format!("/api/rides/{ride}/shares"), by_hand).await.is(200);
    ada.put(&url(ride), event(Utc::now(), &share(40, None))).await.is(409);
    let read = ada.get(&format!("/api/horses/{juniper}/two-rein")).await.is(200);
    assert_eq!((read["rides"].as_array().unwrap().len(), &read["rides"][0]["begins"]), (1, &json!(15)));
    let next = ada.ride(juniper).await;
    let seen = ada.get(&format!("/api/rides/{next}/tack")).await.is(200);
    assert_eq!(seen["share"]["bridle"], 15);
}

/// A change in the middle of a ride begins a new stretch: what was asked before it is the old piece's.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_change_of_bit_parts_the_ride(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let juniper = ada.horse("Juniper").await;
    let (old, new) =
        (piece(&mut ada, juniper, "Smooth", "snaffle").await, piece(&mut ada, juniper, "Twisted", "snaffle").await);
    for n in 0..5 {
        let (ride, rider, set) = (Uuid::new_v4(), ada.my_id().await, Uuid::new_v4());
        let on = today() - Duration::days(20 - 2 * n);
        ada.put(&format!("/api/rides/{ride}"), ride_body(juniper, rider, on)).await.is(201);
        ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [old] })).await.is(200);
        let noon = on.and_hms_opt(12, 0, 0).unwrap().and_utc();
        ada.put(&url(ride), event(noon, &json!({ "kind": "worn", "gear": [new] }))).await.is(204);
        for (k, weight) in ["orange", "orange", "egg", "egg"].iter().enumerate() {
            let mut body = rep_body(set, "S2", "walk", "left");
            body["position"] = json!(k);
            body["weight"] = json!(weight);
            body["asked_at"] = json!(noon + Duration::minutes(if k < 2 { -5 } else { 5 }));
            ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), body).await.is(201);
        }
    }
    let compared = format!("/api/horses/{juniper}/pieces-compared?first={old}&second={new}");
    let found = ada.get(&compared).await.is(200);
    assert_eq!((&found["days"], &found["found"]["asks"]), (&json!([5, 5]), &json!([10, 10])), "{found}");
    assert_eq!(found["found"]["verdict"], "lighter");
    // The wall counts both as worn, and the next ride begins in what the last one ended in.
    let wall = ada.get("/api/tack").await.is(200);
    assert!(wall["items"].as_array().unwrap().iter().all(|p| p["days"] == 5), "{wall}");
    let gear = ada.get(&format!("/api/horses/{juniper}/gear")).await.is(200);
    assert_eq!(gear["last_worn"], json!([new]));

    // A piece that a ride of today wears is not put away.
    let ride = ada.ride(juniper).await;
    ada.put(&url(ride), event(Utc::now(), &json!({ "kind": "worn", "gear": [new] }))).await.is(204);
    let mut away = gear["items"].as_array().unwrap().iter().find(|g| g["id"] == json!(new)).unwrap().clone();
    for key in ["id", "horse_id", "days", "adjusting", "why"] {
        away.as_object_mut().unwrap().remove(key);
    }
    let known = ["version", "kind", "name", "mouthpiece", "since", "mouth_seen", "teeth_seen", "note", "archived"];
    away.as_object_mut().unwrap().retain(|key, _| known.contains(&key.as_str()));
    away["archived"] = json!(true);
    ada.put(&format!("/api/horses/{juniper}/gear/{new}"), away).await.names(422, "archived");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_first_day_in_leverage_waits_and_goes_step_by_step(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let copper = ada.horse("Copper").await;
    let of_horse = format!("/api/horses/{copper}/tack");
    assert_eq!(ada.get(&of_horse).await.is(200)["first_day"], Value::Null, "no leverage bit, no first day");
    let ride = ada.ride(copper).await;
    let now = Utc::now();
    ada.put(&url(ride), event(now, &step(0, "passed"))).await.names(422, "event.step");
    piece(&mut ada, copper, "Short shank", "leverage").await;
    let list = ada.get(&of_horse).await.is(200)["first_day"].clone();
    assert_eq!((&list["next"], list["steps"].as_array().unwrap().len()), (&json!(0), 10));
    assert!(!list["lacks"].as_array().unwrap().is_empty(), "nothing is owned in the snaffle");
    let said = ada.put(&url(ride), event(now, &step(0, "passed"))).await.names(422, "event.step");
    assert!(said.contains("not owned in the snaffle yet"), "{said}");

    // An assistant does not sign for it; the trainer does.
    let (_, email) = ada.person("Dell", "assistant").await;
    let mut dell = ada.visitor();
    dell.sign_in(&email).await;
    let anyway = event(now, &json!({ "kind": "anyway", "why": "He wore one for years" }));
    dell.put(&url(ride), anyway.clone()).await.is(403);
    ada.put(&url(ride), anyway).await.is(204);
    for n in 0..4 {
        dell.put(&url(ride), event(now + Duration::seconds(n), &step(n as u8, "passed"))).await.is(204);
    }
    dell.put(&url(ride), event(now + Duration::seconds(4), &step(4, "fretted"))).await.is(204);
    let list = ada.get(&of_horse).await.is(200);
    assert_eq!((&list["first_day"]["next"], &list["next"]), (&json!(3), &json!("It fretted: back to stand and feel")));
    assert_eq!(
        list["stages"].as_array().unwrap().iter().find(|s| s["state"] == "now").unwrap()["name"],
        "First day in leverage"
    );
    let mut tossed = step(3, "fretted");
    tossed["tossed"] = json!(true);
    dell.put(&url(ride), event(now + Duration::seconds(5), &tossed)).await.is(204);
    assert_eq!(ada.get(&of_horse).await.is(200)["first_day"]["next"], 2, "the strap first");
    tossed["came"] = json!("passed");
    dell.put(&url(ride), event(now + Duration::seconds(6), &tossed)).await.names(422, "event.came");
    dell.put(&url(ride), event(now + Duration::seconds(6), &step(40, "passed"))).await.names(422, "event.step");
    dell.put(&url(ride), event(now + Duration::seconds(7), &step(2, "left"))).await.is(204);
    let list = ada.get(&format!("/api/rides/{ride}/tack")).await.is(200)["first_day"].clone();
    assert_eq!((&list["another_day"], &list["anyway"]), (&json!(true), &json!("Ada: He wore one for years")));
    assert_eq!(list["noted"].as_array().unwrap().len(), 7);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_test_for_a_brace_says_which_to_ask_next_and_when_two_reins_may_be(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let copper = ada.horse("Copper").await;
    let ride = ada.ride(copper).await;
    let of_ride = format!("/api/rides/{ride}/tack");
    assert_eq!(ada.get(&of_ride).await.is(200)["orders"], json!([]), "only on the way down");
    school(&mut ada, copper, "spoiled").await;
    let ask = |reins: &str, braced: bool| json!({ "kind": "ask", "gait": "walk", "reins": reins, "braced": braced, "head": if braced { "up" } else { "low" } });
    let begin = Utc::now() - Duration::minutes(30);
    let at_walk = |seen: &Value| {
        seen["orders"].as_array().unwrap().iter().find(|o| o["gait"] == "walk").unwrap()["reins"].clone()
    };
    let order = at_walk(&ada.get(&of_ride).await.is(200));
    for n in 0..12 {
        let reins = order[n].as_str().unwrap().to_owned();
        let braced = reins == "two";
        ada.put(&url(ride), event(begin + Duration::seconds(n as i64), &ask(&reins, braced))).await.is(204);
    }
    let after = at_walk(&ada.get(&of_ride).await.is(200));
    assert_eq!(after.as_array().unwrap()[..8], order.as_array().unwrap()[12..20], "the device knew what comes next");
    let tack = ada.get(&format!("/api/horses/{copper}/tack")).await.is(200);
    let down = &tack["step_down"];
    assert_eq!((&down["said"], &down["pairs"], &down["gaits"][0]["may"]), (&json!("on-two"), &json!(6), &json!(false)));
    assert_eq!(down["heads"], json!([[6, 0], [6, 6]]));
    assert!(tack["next"].as_str().unwrap().starts_with("One rein at a time"), "{tack}");
    let now = tack["stages"].as_array().unwrap().iter().find(|s| s["state"] == "now").unwrap().clone();
    let date = |key: &str| now[key].as_str().unwrap().parse::<NaiveDate>().unwrap();
    assert!(date("from") < date("to"));

    // An owner reads their own horse's tack, and logs nothing.
    let (owner, email) = ada.person("Petra", "owner").await;
    let horse = ada.get(&format!("/api/horses/{copper}")).await.is(200);
    let mut body = json!({ "name": "Copper", "version": horse["version"], "owner_id": owner });
    body["posture"] = Value::Null;
    ada.call(Method::PUT, &format!("/api/horses/{copper}"), Some(&body)).await.is(200);
    let mut petra = ada.visitor();
    petra.sign_in(&email).await;
    petra.get(&format!("/api/horses/{copper}/tack")).await.is(200);
    petra.put(&url(ride), event(begin, &ask("one", false))).await.is(403);
}
