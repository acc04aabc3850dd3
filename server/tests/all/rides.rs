//! Rides and reps: logged once whatever is sent twice, bad input told by field, corrections with a trace, and calls
//! that follow from the reps.

use axum::http::Method;
use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, second_barn, today};

async fn pen(db: &PgPool) -> (Client, Uuid, Uuid) {
    let mut ada = first_barn(db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    (ada, horse, ride)
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_rep_sent_three_times_is_there_once(db: PgPool) {
    let (mut ada, _, ride) = pen(&db).await;
    let (set, rep) = (Uuid::new_v4(), Uuid::new_v4());
    let path = format!("/api/rides/{ride}/reps/{rep}");
    ada.put(&path, rep_body(set, "S1", "stand", "left")).await.is(201);
    ada.put(&path, rep_body(set, "S1", "stand", "left")).await.is(200);
    ada.put(&path, rep_body(set, "S1", "stand", "left")).await.is(200);
    let whole = ada.get(&format!("/api/rides/{ride}")).await.is(200);
    assert_eq!((whole["reps"].as_i64(), whole["state"].as_str()), (Some(1), Some("open")));
    assert_eq!(whole["sets"][0]["reps"][0]["seconds"], 1.2);

    let mut other = rep_body(set, "S1", "stand", "left");
    other["weight"] = json!("tug");
    ada.put(&path, other).await.is(409);
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep_body(set, "S1", "stand", "right")).await.is(409);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn bad_reps_are_told_by_field_and_leave_nothing(db: PgPool) {
    let (mut ada, _, ride) = pen(&db).await;
    let good = rep_body(Uuid::new_v4(), "S1", "stand", "left");
    let table: [(&str, Value, &str); 13] = [
        ("/set/rung", json!("Z9"), "set.rung"),
        ("/set/gait", json!("lope"), "set.gait"),
        ("/set/gait", json!("hop"), "set.gait"),
        ("/set/side", json!("both"), "set.side"),
        ("/set/side", json!("up"), "set.side"),
        ("/set/id", json!("not-an-id"), "set.id"),
        ("/seconds", json!(-0.5), "seconds"),
        ("/seconds", json!(3600.5), "seconds"),
        ("/seconds", json!("two"), "body"),
        ("/weight", json!("brick"), "body"),
        ("/missing", json!("first"), "missing"),
        ("/faults", json!(["nonesuch"]), "faults"),
        ("/position", json!(-1), "position"),
    ];
    for (at, value, field) in table {
        let mut bad = good.clone();
        match bad.pointer_mut(at) {
            Some(place) => *place = value.clone(),
            None => bad[&at[1..]] = value.clone(),
        }
        let path = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
        let answer = ada.put(&path, bad).await;
        assert_eq!(answer.status, 422, "{at} = {value}: {}", answer.body);
        let fields: Vec<&str> =
            answer.body["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect();
        assert!(fields.contains(&field), "{at} = {value}: {fields:?}");
    }
    ada.put(&format!("/api/rides/{}/reps/{}", Uuid::new_v4(), Uuid::new_v4()), good.clone()).await.is(404);
    ada.put(&format!("/api/rides/{ride}/reps/not-an-id"), good).await.is(400);
    ada.call(Method::PUT, &format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), None).await.is(400);
    assert_eq!(ada.get(&format!("/api/rides/{ride}")).await.is(200)["reps"], 0);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn nothing_is_ridden_before_its_day(db: PgPool) {
    let (mut ada, horse, _) = pen(&db).await;
    let me = ada.my_id().await;
    let tomorrow = today() + Days::new(1);
    let id = Uuid::new_v4();
    ada.put(&format!("/api/rides/{id}"), ride_body(horse, me, tomorrow)).await.is(201);
    let early = rep_body(Uuid::new_v4(), "S1", "stand", "left");
    ada.put(&format!("/api/rides/{id}/reps/{}", Uuid::new_v4()), early).await.is(202);
    assert_eq!(ada.get(&format!("/api/rides/{id}")).await.is(200)["sets"], json!([]), "it waits to be placed");
    let mut late = ride_body(horse, me, tomorrow);
    late["entered"] = json!("afterwards");
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), late).await.names(422, "date");
    let far = ride_body(horse, me, today() + Days::new(400));
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), far).await.names(422, "date");
}

fn late_ride(horse: Uuid, rider: Uuid, reps: usize) -> Value {
    let mut body = ride_body(horse, rider, today());
    let reps: Vec<Value> = (0..reps)
        .map(|_| json!({ "id": Uuid::new_v4(), "outcome": "gave", "weight": "egg", "seconds": 1.0 }))
        .collect();
    body["entered"] = json!("afterwards");
    body["note"] = json!("Begin slower on the left");
    body["sets"] =
        json!([{ "id": Uuid::new_v4(), "position": 0, "rung": "S6", "gait": "stand", "side": "both", "reps": reps }]);
    body
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_entered_afterwards_comes_whole_once_or_not_at_all(db: PgPool) {
    let (mut ada, horse, _) = pen(&db).await;
    let me = ada.my_id().await;
    let path = format!("/api/rides/{}", Uuid::new_v4());
    let mut broken = late_ride(horse, me, 3);
    broken["sets"][0]["reps"][2]["seconds"] = json!(-4);
    ada.put(&path, broken).await.names(422, "sets[0].reps[2].seconds");
    ada.get(&path).await.is(404);

    let ride = late_ride(horse, me, 3);
    let first = ada.put(&path, ride.clone()).await.is(201);
    assert_eq!(
        (first["reps"].as_i64(), first["state"].as_str(), first["note"].as_str()),
        (Some(3), Some("closed"), Some("Begin slower on the left"))
    );
    assert_eq!(ada.put(&path, ride).await.is(200)["reps"], 3);
    let another = late_ride(ada.horse("Wren").await, me, 1);
    ada.put(&path, another).await.is(409);

    let too_many = late_ride(horse, me, 201);
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), too_many).await.names(422, "sets[0].reps");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn corrections_keep_who_and_what_and_never_overwrite_unseen(db: PgPool) {
    let (mut ada, horse, ride) = pen(&db).await;
    let rep = Uuid::new_v4();
    ada.put(&format!("/api/rides/{ride}/reps/{rep}"), rep_body(Uuid::new_v4(), "S1", "stand", "left")).await.is(201);
    let path = format!("/api/reps/{rep}");
    let correction = json!({ "version": 1, "outcome": "tried", "missing": "second", "weight": "orange", "seconds": 2.4, "faults": ["leans"] });
    let now = ada.patch(&path, correction.clone()).await.is(200);
    assert_eq!((now["version"].as_i64(), now["outcome"].as_str()), (Some(2), Some("tried")));
    ada.patch(&path, correction).await.is(200);

    let stale = json!({ "version": 1, "outcome": "none", "weight": "tug" });
    let told = ada.patch(&path, stale).await.is(409);
    assert_eq!(
        (told["type"].as_str(), told["current"]["weight"].as_str()),
        (Some("/problems/changed-meanwhile"), Some("orange"))
    );

    ada.patch(&path, json!({ "version": 2, "outcome": "tried", "weight": "orange", "removed": true })).await.is(200);
    assert_eq!(ada.get(&format!("/api/rides/{ride}")).await.is(200)["reps"], 0);
    let trail = ada.get(&format!("/api/horses/{horse}/changes")).await.is(200);
    let items = trail["items"].as_array().unwrap();
    assert_eq!(items.len(), 2);
    assert_eq!((items[0]["who"].as_str(), items[0]["after"].as_str()), (Some("Ada"), None));
    assert_eq!(items[1]["before"], "gave at a feather, 1.2 s");
    assert_eq!(items[1]["after"], "tried at an orange, 2.4 s, leans");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn changing_from_an_old_version_overwrites_nothing(db: PgPool) {
    let (mut ada, horse, ride) = pen(&db).await;
    let path = format!("/api/horses/{horse}");
    ada.put(&path, json!({ "version": 1, "name": "Juniper Sky" })).await.is(200);
    let stale = ada.put(&path, json!({ "version": 1, "name": "Mine" })).await.is(409);
    assert_eq!(stale["current"]["name"], "Juniper Sky");
    let me = ada.my_id().await;
    let change = |version: i32, note: &str| json!({ "version": version, "rider_id": me, "place": "arena", "state": "open", "note": note, "signs": [] });
    let path = format!("/api/rides/{ride}");
    ada.patch(&path, change(1, "one")).await.is(200);
    assert_eq!(ada.patch(&path, change(1, "two")).await.is(409)["current"]["note"], "one");
    ada.patch(&path, change(2, &"x".repeat(501))).await.names(422, "note");
    ada.patch(
        &path,
        json!({ "version": 2, "rider_id": Uuid::new_v4(), "place": "arena", "state": "open", "note": "", "signs": [] }),
    )
    .await
    .names(422, "rider_id");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn nothing_that_was_ridden_is_deleted(db: PgPool) {
    let (mut ada, horse, ride) = pen(&db).await;
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep_body(Uuid::new_v4(), "S1", "stand", "left"))
        .await
        .is(201);
    ada.call(Method::DELETE, &format!("/api/rides/{ride}"), None).await.is(409);
    let planned = ada.ride(horse).await;
    ada.call(Method::DELETE, &format!("/api/rides/{planned}"), None).await.is(204);
    ada.put(&format!("/api/horses/{horse}"), json!({ "version": 1, "name": "Juniper", "archived": true }))
        .await
        .is(200);
    assert_eq!(ada.get("/api/horses").await.is(200)["items"], json!([]));
    assert_eq!(ada.get(&format!("/api/horses/{horse}/rides")).await.is(200)["items"][0]["reps"], 1);
}

fn step<'a>(standing: &'a Value, id: &str) -> &'a Value {
    standing["steps"].as_array().unwrap().iter().find(|s| s["id"] == id).unwrap()
}

/// Enters a day of rides `ago` days back: twelve good reps a side of the one-rein stop at the walk.
async fn good_day(ada: &mut Client, horse: Uuid, rider: Uuid, ago: u64) {
    day_with(ada, horse, rider, ago, &[]).await;
}

/// A day that would be good but for what shows on the left.
async fn day_with(ada: &mut Client, horse: Uuid, rider: Uuid, ago: u64, on_left: &[&str]) {
    let mut body = ride_body(horse, rider, today() - Days::new(ago));
    let set = |side: &str| {
        let faults = if side == "left" { on_left } else { &[] };
        let rep = json!({ "outcome": "gave", "weight": "egg", "seconds": 1.0, "faults": faults });
        let with_id = |mut rep: Value| {
            rep["id"] = json!(Uuid::new_v4());
            rep
        };
        let reps: Vec<Value> = (0..12).map(|_| with_id(rep.clone())).collect();
        json!({ "id": Uuid::new_v4(), "position": 0, "rung": "G7", "gait": "walk", "side": side, "reps": reps })
    };
    body["entered"] = json!("afterwards");
    body["sets"] = json!([set("left"), set("right")]);
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_call_follows_the_reps_and_says_why(db: PgPool) {
    let (mut ada, horse, _) = pen(&db).await;
    let me = ada.my_id().await;
    let path = format!("/api/horses/{horse}/standing");
    assert_eq!(step(&ada.get(&path).await.is(200), "G7@walk")["call"], Value::Null);
    good_day(&mut ada, horse, me, 9).await;
    let first = ada.get(&path).await.is(200);
    assert_eq!(step(&first, "G7@walk")["call"], "hold");
    assert!(step(&first, "G7@walk")["why"][0].as_str().unwrap().contains("1 of 3 days"));
    for ago in [7, 5, 3, 1] {
        good_day(&mut ada, horse, me, ago).await;
    }
    let now = ada.get(&path).await.is(200);
    assert_eq!(
        (step(&now, "G7@walk")["call"].as_str(), step(&now, "G7@walk")["status"].as_str()),
        (Some("advance"), Some("owned"))
    );
    assert_eq!(now["line"]["main"]["id"], "G8@stand");
    assert_eq!(ada.get(&path).await.is(200), now, "what was kept reads the same");
    let trace = ada.get(&format!("/api/horses/{horse}/trace?step=G7@walk")).await.is(200);
    assert_eq!(trace["points"].as_array().unwrap().len(), 10);

    // A more patient posture wants to be surer, and says how sure.
    ada.put(
        "/api/barn",
        json!({ "version": 1, "name": "Low Meadow", "posture": "patient", "units": "metric", "time_zone": "UTC" }),
    )
    .await
    .is(200);
    assert_eq!(ada.get(&path).await.is(200)["sure"], 0.9);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_log_that_is_followed_day_by_day_says_the_same_as_one_read_from_the_start(db: PgPool) {
    let (mut ada, horse, ride) = pen(&db).await;
    let me = ada.my_id().await;
    let pages = [
        format!("/api/horses/{horse}/standing"),
        format!("/api/horses/{horse}/trace?step=G7@walk"),
        format!("/api/rides/{ride}/plan"),
    ];
    let mut told: Vec<Vec<Value>> = vec![];
    for turn in 0..6 {
        match turn {
            // A day at the end, one between, a rep today, an old rep that goes, faults on some days, and an old ride's signs.
            0 => good_day(&mut ada, horse, me, 2).await,
            1 => good_day(&mut ada, horse, me, 6).await,
            2 => {
                let rep = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
                ada.put(&rep, rep_body(Uuid::new_v4(), "G7", "walk", "left")).await.is(201);
            }
            3 => {
                let rides = ada.get(&format!("/api/horses/{horse}/rides")).await.is(200);
                let rep = &rides["items"].as_array().unwrap().last().unwrap()["sets"][0]["reps"][0];
                let gone = json!({ "version": 1, "outcome": "gave", "weight": "egg", "removed": true });
                ada.patch(&format!("/api/reps/{}", rep["id"].as_str().unwrap()), gone).await.is(200);
            }
            4 => {
                for ago in [4, 8, 9] {
                    day_with(&mut ada, horse, me, ago, &["head-up"]).await;
                }
            }
            _ => {
                let rides = ada.get(&format!("/api/horses/{horse}/rides")).await.is(200);
                let old = rides["items"].as_array().unwrap().last().unwrap().clone();
                let signs = json!({ "version": old["version"], "rider_id": me, "place": "round-pen", "state": "closed",
                                    "note": "", "signs": ["sore-mouth"] });
                ada.patch(&format!("/api/rides/{}", old["id"].as_str().unwrap()), signs).await.is(200);
            }
        }
        sqlx::query("delete from standing").execute(&db).await.unwrap();
        let mut fresh = Client { router: Client::new(&db).router, ..ada.clone() };
        let mut now = vec![];
        for page in &pages {
            let followed = ada.get(page).await.is(200);
            assert_eq!(followed, fresh.get(page).await.is(200), "turn {turn}, {page}");
            now.push(followed);
        }
        assert_ne!(told.last(), Some(&now), "turn {turn} changed something");
        told.push(now);
    }
    let faults = |turn: usize| told[turn][0]["faults"].as_array().unwrap().len();
    assert!(faults(3) == 0 && faults(4) > 0, "a fault shows on one side alone: {}", told[4][0]["faults"]);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_server_that_saw_a_standard_change_comes_to_the_same_as_one_that_starts_after(db: PgPool) {
    let (mut ada, horse, ride) = pen(&db).await;
    let me = ada.my_id().await;
    for ago in [9, 10] {
        good_day(&mut ada, horse, me, ago).await;
    }
    let standing = format!("/api/horses/{horse}/standing");
    // What a standing was worked out from: the same for both, or each would work out again what the other kept.
    let made_from = async |client: &mut Client| {
        sqlx::query("delete from standing").execute(&db).await.unwrap();
        client.get(&standing).await.is(200);
        loop {
            let kept = sqlx::query_scalar::<_, String>("select computed_with from standing").fetch_optional(&db).await;
            match kept.unwrap() {
                Some(with) => break with,
                None => tokio::time::sleep(std::time::Duration::from_millis(5)).await,
            }
        }
    };
    let mut seen = vec![made_from(&mut ada).await];
    for turn in 0..2 {
        if turn == 0 {
            let change = json!({ "horse_id": null, "change": { "kind": "standard", "rung": "G7",
                "standard": { "share": 90, "weight": "egg", "seconds": 1.5, "days": 4 } } });
            ada.put(&format!("/api/curriculum/changes/{}", Uuid::new_v4()), change).await.is(201);
        } else {
            let horse_now = json!({ "version": 1, "name": "Juniper", "traits": ["idle-mouth"] });
            ada.put(&format!("/api/horses/{horse}"), horse_now).await.is(200);
        }
        let rep = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
        ada.put(&rep, rep_body(Uuid::new_v4(), "G7", "walk", "left")).await.is(201);
        let mut fresh = Client { router: Client::new(&db).router, ..ada.clone() };
        let with = made_from(&mut ada).await;
        assert_eq!(with, made_from(&mut fresh).await, "turn {turn}");
        assert!(!seen.contains(&with), "turn {turn} changed what it is made from");
        seen.push(with);
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn today_shows_the_days_rides_with_what_they_are_for(db: PgPool) {
    let (mut ada, horse, ride) = pen(&db).await;
    let me = ada.my_id().await;
    let mut before = late_ride(horse, me, 4);
    before["date"] = json!(today() - Days::new(1));
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), before).await.is(201);
    let day = ada.get("/api/today").await.is(200);
    let rides = day["rides"].as_array().unwrap();
    assert_eq!((rides.len(), rides[0]["ride"]["id"].as_str()), (1, Some(ride.to_string().as_str())));
    assert_eq!(rides[0]["last_note"], "Begin slower on the left");
    assert_eq!(rides[0]["line"]["main"]["id"], "G7@walk");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn lists_are_paged_and_their_bounds_checked(db: PgPool) {
    let mut ada = first_barn(&db).await;
    for n in 0..5 {
        ada.horse(&format!("Horse {n}")).await;
    }
    let page = ada.get("/api/horses?offset=2&limit=2").await.is(200);
    let names: Vec<&str> = page["items"].as_array().unwrap().iter().map(|h| h["name"].as_str().unwrap()).collect();
    assert_eq!((names, page["more"].as_bool()), (vec!["Horse 2", "Horse 3"], Some(true)));
    ada.get("/api/horses?limit=0").await.names(422, "limit");
    ada.get("/api/horses?offset=-1").await.names(422, "offset");
    ada.get("/api/horses?limit=many").await.is(400);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_horse_or_rider_of_another_barn_cannot_be_put_on_a_ride(db: PgPool) {
    let (mut ada, horse, _) = pen(&db).await;
    let mut bo = second_barn(&db, &ada).await;
    let (me, theirs, them) = (ada.my_id().await, bo.horse("Theirs").await, bo.my_id().await);
    for (horse, rider) in [(theirs, me), (horse, them)] {
        ada.put(&format!("/api/rides/{}", Uuid::new_v4()), ride_body(horse, rider, today())).await.is(422);
    }
    ada.put(&format!("/api/horses/{horse}"), json!({ "version": 1, "name": "Juniper", "owner_id": them }))
        .await
        .names(422, "owner_id");
}
