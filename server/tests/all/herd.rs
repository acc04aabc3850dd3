//! The herd, the day's draw and what is logged on cattle, over HTTP.

use axum::http::Method;
use chrono::{DateTime, Days, Duration, Utc};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, today};

async fn cow(ada: &mut Client, tag: &str, manner: &str) -> Uuid {
    let id = Uuid::new_v4();
    let body = json!({ "version": 0, "tag": tag, "manner": manner, "health": "well", "came_on": today() });
    ada.put(&format!("/api/cattle/{id}"), body).await.is(200);
    id
}

fn event(at: DateTime<Utc>, version: i32, event: &Value) -> Value {
    json!({ "at": at, "version": version, "event": event })
}

fn turn(cow: Uuid, way: &str, stopped: &str) -> Value {
    json!({ "kind": "turn", "cow": cow, "way": way, "position": "leg", "stopped": stopped, "through": true,
            "speed": "slow", "honoured": true })
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_herd_is_kept_and_nobody_overwrites_another(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let id = cow(&mut ada, "12", "honest").await;
    let url = format!("/api/cattle/{id}");
    let mut lame = json!({ "version": 1, "tag": "12", "manner": "honest", "health": "lame", "came_on": today() });
    assert_eq!(ada.put(&url, lame.clone()).await.is(200)["version"], 2);
    assert_eq!(ada.put(&url, lame.clone()).await.is(200)["version"], 2, "the same twice is once");
    lame["health"] = json!("well");
    assert_eq!(ada.put(&url, lame.clone()).await.is(409)["current"]["health"], "lame");
    let herd = ada.get("/api/cattle").await.is(200);
    let spared = herd["items"][0]["spared"].as_str().unwrap();
    assert!(spared.contains("lame") && herd["items"][0]["works_left"] == 0, "{herd}");
    assert_eq!(herd["rules_version"], 0, "nobody set them: they are assumed");

    lame["version"] = json!(0);
    ada.put(&format!("/api/cattle/{}", Uuid::new_v4()), lame.clone()).await.names(422, "tag");
    lame["tag"] = json!(" ");
    ada.put(&format!("/api/cattle/{}", Uuid::new_v4()), lame.clone()).await.names(422, "tag");
    (lame["version"], lame["tag"], lame["left_on"]) = (json!(2), json!("12"), json!(today() - Days::new(1)));
    ada.put(&url, lame.clone()).await.names(422, "left_on");
    lame["left_on"] = json!(today());
    ada.put(&url, lame).await.is(200);
    assert_eq!(ada.get("/api/cattle").await.is(200)["items"], json!([]), "what left is no longer there");
    cow(&mut ada, "12", "slow").await;

    let mut rules = ada.get("/api/cattle").await.is(200)["rules"].clone();
    rules["week"] = json!(1);
    ada.put("/api/cattle-rules", json!({ "version": 0, "rules": rules })).await.names(422, "rules.week");
    rules["week"] = json!(5);
    assert_eq!(ada.put("/api/cattle-rules", json!({ "version": 0, "rules": rules })).await.is(200)["version"], 1);
    rules["week"] = json!(6);
    ada.put("/api/cattle-rules", json!({ "version": 0, "rules": rules })).await.is(409);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn turns_arrive_in_any_order_wear_the_cow_and_are_answered(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let (slow, other) = (cow(&mut ada, "4", "slow").await, cow(&mut ada, "7", "slow").await);
    let at = |seconds: i64| Utc::now() - Duration::seconds(300 - seconds);
    let url = |id: Uuid| format!("/api/rides/{ride}/cattle/{id}");
    let (begin, second) = (Uuid::new_v4(), Uuid::new_v4());
    // The correction comes before what it corrects, and everything twice.
    let (first_at, begin_at) = (at(60), at(0));
    for _ in 0..2 {
        ada.put(&url(second), event(first_at, 2, &turn(slow, "left", "past"))).await.is(204);
        ada.put(&url(second), event(first_at, 1, &turn(slow, "left", "even"))).await.is(204);
        ada.put(&url(begin), event(begin_at, 1, &json!({ "kind": "work", "cow": slow }))).await.is(204);
    }
    ada.put(&url(second), event(first_at, 2, &turn(slow, "left", "short"))).await.is(409);
    let told = ada.get(&format!("/api/rides/{ride}/cattle")).await.is(200);
    assert_eq!(told["events"].as_array().unwrap().len(), 2);
    assert_eq!((&told["events"][1]["event"]["stopped"], &told["advice"]["next"]), (&json!("past"), &json!("go-on")));
    ada.put(&url(Uuid::new_v4()), event(at(90), 1, &turn(slow, "left", "past"))).await.is(204);
    let told = ada.get(&format!("/api/rides/{ride}/cattle")).await.is(200);
    assert_eq!(told["advice"]["next"], "leave-cattle", "{}", told["advice"]);
    let limit = |way: usize| told["limits"][way].clone();
    assert_eq!((&limit(0)["turns"], &limit(1)["turns"]), (&json!(2), &json!(0)));
    assert!(limit(0)["limit"].as_f64() < limit(1)["limit"].as_f64(), "{told}");

    let herd = ada.get("/api/cattle").await.is(200);
    let of = |tag: &str| herd["items"].as_array().unwrap().iter().find(|c| c["tag"] == tag).unwrap().clone();
    assert_eq!(
        (&of("4")["works_today"], &of("4")["works_left"], &of("4")["turns"]),
        (&json!(1), &json!(2), &json!(2.0))
    );
    assert!(of("4")["honour"].as_i64() < of("7")["honour"].as_i64(), "{herd}");

    // Another horse is told who is on that cow.
    let second_horse = ada.horse("Tansy").await;
    let second_ride = ada.ride(second_horse).await;
    ada.put(&url(Uuid::new_v4()), event(Utc::now(), 1, &turn(slow, "right", "even"))).await.is(204);
    let told = ada.get(&format!("/api/rides/{second_ride}/cattle")).await.is(200);
    let pick =
        |id: Uuid| told["cows"].as_array().unwrap().iter().find(|c| c["id"] == json!(id)).unwrap()["with"].clone();
    assert_eq!((pick(slow), pick(other)), (json!("Juniper"), Value::Null));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_cannot_be_is_named_at_its_field(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let sold = cow(&mut ada, "2", "slow").await;
    let url = || format!("/api/rides/{ride}/cattle/{}", Uuid::new_v4());
    ada.put(&url(), event(Utc::now(), 1, &turn(Uuid::new_v4(), "left", "even"))).await.names(422, "event.cow");
    let ahead = Utc::now() + Duration::days(2);
    ada.put(&url(), event(ahead, 1, &turn(sold, "left", "even"))).await.names(422, "at");
    ada.put(&url(), event(Utc::now(), 0, &turn(sold, "left", "even"))).await.names(422, "version");
    let no_reason = json!({ "kind": "work", "cow": sold, "why": " " });
    ada.put(&url(), event(Utc::now(), 1, &no_reason)).await.names(422, "event.why");
    let no_cow = json!({ "kind": "turn", "way": "left", "position": "leg", "stopped": "even", "through": true,
                         "speed": "slow", "honoured": true });
    ada.put(&url(), event(Utc::now(), 1, &no_cow)).await.is(422);
    let gone =
        json!({ "version": 1, "tag": "2", "manner": "slow", "health": "well", "came_on": today(), "left_on": today() });
    ada.put(&format!("/api/cattle/{sold}"), gone).await.is(200);
    let problem = ada.put(&url(), event(Utc::now(), 1, &turn(sold, "left", "even"))).await.is(422);
    assert!(problem["errors"][0]["detail"].as_str().unwrap().contains("2 left on"), "{problem}");
    let planned = Uuid::new_v4();
    let body = ride_body(horse, ada.my_id().await, today() + Days::new(3));
    ada.put(&format!("/api/rides/{planned}"), body).await.is(201);
    let early = event(Utc::now(), 1, &json!({ "kind": "left" }));
    let answer = ada.put(&format!("/api/rides/{planned}/cattle/{}", Uuid::new_v4()), early).await.is(422);
    assert_eq!(answer["type"], "/problems/not-yet");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_day_is_drawn_changed_by_hand_and_done(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    for tag in ["4", "7", "9"] {
        cow(&mut ada, tag, "slow").await;
    }
    let runs = cow(&mut ada, "28", "running").await;
    assert_eq!(
        ada.get("/api/cattle-draw").await.is(200)["horses"],
        json!([]),
        "nothing on cattle was ever asked of it"
    );
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep_body(Uuid::new_v4(), "C6", "walk", "left"))
        .await
        .is(201);
    let drawn = ada.get("/api/cattle-draw").await.is(200);
    assert_eq!(
        (&drawn["horses"][0]["rung"], &drawn["by_hand"], &drawn["version"]),
        (&json!("C6"), &json!(false), &json!(0))
    );
    let goes = drawn["goes"].as_array().unwrap();
    assert_eq!(goes.len(), 3, "{drawn}");
    assert!(goes.iter().all(|go| go["cow_id"] != json!(runs) && !go["why"].as_str().unwrap().is_empty()));
    assert_eq!(drawn["goes"], ada.get("/api/cattle-draw").await.is(200)["goes"], "the same twice");

    let go = |n: usize| json!({ "horse_id": goes[n]["horse_id"], "cow_id": goes[n]["cow_id"] });
    let by_hand = |version: i32, goes: Value| json!({ "version": version, "goes": goes });
    let kept = ada.put("/api/cattle-draw", by_hand(0, json!([go(1), go(0)]))).await.is(200);
    assert_eq!((&kept["by_hand"], &kept["version"]), (&json!(true), &json!(1)));
    assert!(kept["cost"].as_f64().unwrap() > 0.0, "a go fewer costs something: {kept}");
    ada.put("/api/cattle-draw", by_hand(0, json!([go(0)]))).await.is(409);
    let wild = json!({ "horse_id": horse, "cow_id": runs });
    let too_wild = by_hand(1, json!([wild, null, go(0), go(0)]));
    let why = ada.put("/api/cattle-draw", too_wild.clone()).await.names(422, "goes[0]");
    assert!(why.contains("does not suit") || why.contains("faster"), "{why}");
    ada.put("/api/cattle-draw", too_wild).await.names(422, "goes[3]");
    let nobody = json!({ "horse_id": Uuid::new_v4(), "cow_id": Uuid::new_v4() });
    ada.put("/api/cattle-draw", by_hand(1, json!([nobody]))).await.names(422, "goes[0].horse_id");
    ada.call(Method::DELETE, "/api/cattle-draw", None).await.is(204);
    assert_eq!(ada.get("/api/cattle-draw").await.is(200)["goes"], drawn["goes"]);

    // What the week counts on for the day is not gone over.
    ada.put("/api/cattle-days", json!({ "works": [2, 2, 2, 2, 2, 2, 2] })).await.is(200);
    let short = ada.get("/api/cattle-draw").await.is(200);
    assert_eq!((&short["works"], short["goes"].as_array().unwrap().len()), (&json!(2), 2), "{short}");
    assert_eq!(short["left_out"][0]["missed"], 1);

    let at = Utc::now();
    let body = event(at, 1, &turn(goes[0]["cow_id"].as_str().unwrap().parse().unwrap(), "left", "even"));
    ada.put(&format!("/api/rides/{ride}/cattle/{}", Uuid::new_v4()), body).await.is(204);
    assert_eq!(ada.get("/api/cattle-draw").await.is(200)["horses"], json!([]), "it had its cattle today");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn leaving_the_cattle_says_what_to_ride_and_coming_back_is_compared(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let (slow, like) = (cow(&mut ada, "4", "slow").await, cow(&mut ada, "7", "slow").await);
    let begun = Utc::now() - Duration::minutes(10);
    let mut minute = 0;
    let mut log = async |event: Value| {
        minute += 1;
        let at = begun + Duration::seconds(30 * minute);
        let body = json!({ "at": at, "version": 1, "event": event });
        ada.put(&format!("/api/rides/{ride}/cattle/{}", Uuid::new_v4()), body).await.is(204);
        ada.get(&format!("/api/rides/{ride}/cattle")).await.is(200)
    };
    let out = |cow: Uuid| {
        let mut turned = turn(cow, "right", "even");
        turned["through"] = json!(false);
        turned
    };
    log(turn(slow, "right", "even")).await;
    log(out(slow)).await;
    let told = log(out(slow)).await;
    assert_eq!(told["advice"]["next"], "leave-cattle");
    // The curriculum sends a shoulder that pokes out to the back-up and the pivot, away from cattle.
    let steps: Vec<&str> =
        told["advice"]["ride"].as_array().unwrap().iter().map(|s| s["rung"].as_str().unwrap()).collect();
    assert_eq!(steps, ["T1", "R1"]);
    assert_eq!(told["came_back"], json!([]), "it has not left yet");
    log(json!({ "kind": "left" })).await;
    let told = log(turn(like, "right", "even")).await;
    assert_eq!(
        told["came_back"],
        json!(["Shoulders out to the right: 2 of 3 turns before, 0 of 1 since, on the same kind of cow"])
    );
    assert_eq!((&told["limits"][1]["held"], &told["limits"][1]["next"]), (&Value::Null, &json!("leg")));
    assert_eq!(told["limits"][1]["seen"], json!([2, 4]));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_flag_is_quit_on_a_stop_by_itself(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let url = || format!("/api/rides/{ride}/cattle/{}", Uuid::new_v4());
    for past in [25, 20, 30, 5] {
        let stop = json!({ "end": "left", "past": past, "late": false, "guessed": false });
        ada.put(&url(), event(Utc::now(), 1, &json!({ "kind": "flag", "stop": stop }))).await.is(204);
    }
    let told = ada.get(&format!("/api/rides/{ride}/flag")).await.is(200);
    assert_eq!(told["advice"]["next"], "quit-here", "{told}");
    let right: Vec<&Value> = told["stops"].as_array().unwrap().iter().map(|stop| &stop["right"]).collect();
    assert_eq!(right, [false, false, false, true]);
}

/// The worked figures of heading off and holding stand in `cattle.rs`; here they come back by position, and what cannot be is named.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_fence_says_whether_the_cow_is_headed_off(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let asked = json!({ "long": 180, "room": 12, "cow_at": 24, "cow_speed": 17, "cow_tires_to": 9, "cow_brake": 20, "nose": 12,
                        "across": 0, "speed": 14, "delay": 0.4, "accel": 8, "top": 32, "brake": 12 });
    let told = ada.post("/api/cattle-fence", asked.clone()).await.is(200);
    let marks: Vec<&str> = told["marks"].as_array().unwrap().iter().map(|m| m["position"].as_str().unwrap()).collect();
    assert_eq!(marks, ["leg", "pad", "hip", "off"]);
    let seconds = |n: usize| told["marks"][n]["made"]["seconds"].as_f64().unwrap();
    assert!((0..3).all(|n| seconds(n) < seconds(n + 1)), "further back of the nose takes longer: {told}");
    assert!((told["past"][0]["past"].as_f64().unwrap() - (4.0 * 0.4 + 8.0 / 12.0 - 0.4)).abs() < 1e-9);
    let mut hopeless = asked.clone();
    (hopeless["top"], hopeless["cow_tires_to"]) = (json!(15), json!(17));
    let told = ada.post("/api/cattle-fence", hopeless).await.is(200);
    assert_eq!(told["marks"][0]["made"], Value::Null);
    assert!(
        told["marks"][0]["least_top"].as_f64().unwrap() > 15.0 && told["marks"][0]["start"].as_f64().unwrap() < 0.0
    );
    for (field, wrong) in [("long", 5.0), ("cow_tires_to", 18.0), ("nose", 170.0), ("speed", 40.0), ("accel", 0.0)] {
        let mut bad = asked.clone();
        bad[field] = json!(wrong);
        ada.post("/api/cattle-fence", bad).await.names(422, field);
    }
}
