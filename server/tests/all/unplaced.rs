//! What was logged and could not land is kept whole, and a trainer places or discards it; the same id never stands for two things.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, today};

/// A ride of a horse that was today's when it was read, and is next week's now.
async fn moved_ride(ada: &mut Client, horse: Uuid) -> Uuid {
    let rider = ada.my_id().await;
    let ride = Uuid::new_v4();
    ada.put(&format!("/api/rides/{ride}"), ride_body(horse, rider, today() + Days::new(7))).await.is(201);
    ride
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn asks_of_a_ride_that_was_moved_ahead_wait_to_be_placed_and_land_whole(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (_, email) = ada.person("Dee", "assistant").await;
    let mut dee = ada.visitor();
    dee.sign_in(&email).await;
    let horse = ada.horse("Juniper").await;
    let moved = moved_ride(&mut ada, horse).await;
    let set = Uuid::new_v4();
    let mut reps = vec![];
    for position in 0..3 {
        let (id, mut body) = (Uuid::new_v4(), rep_body(set, "S1", "stand", "left"));
        body["position"] = json!(position);
        let url = format!("/api/rides/{moved}/reps/{id}");
        let kept = dee.put(&url, body.clone()).await.is(202);
        assert!(kept["to_be_placed"].as_str().unwrap().contains("has not come yet"));
        dee.put(&url, body.clone()).await.is(202);
        body["outcome"] = json!("none");
        dee.put(&url, body).await.is(409);
        reps.push(id);
    }
    let count = Uuid::new_v4();
    let body = json!({ "set": { "id": count, "position": 1, "rung": "R2", "gait": "walk", "side": "left" },
                       "count": { "kind": "laps", "laps": 2, "soft": true } });
    dee.put(&format!("/api/rides/{moved}/counts/{count}"), body).await.is(202);

    dee.get("/api/unplaced").await.is(403);
    let list = ada.get("/api/unplaced").await.is(200);
    let items = list["items"].as_array().unwrap();
    assert_eq!(items.len(), 4);
    assert_eq!((&items[0]["horse_name"], &items[0]["person"]), (&json!("Juniper"), &json!("Dee")));
    assert_eq!(items[0]["body"]["set"]["rung"], "S1", "it is shown whole");

    let now = ada.ride(horse).await;
    let ids: Vec<Uuid> = reps.iter().copied().chain([count]).collect();
    let early = json!({ "ids": ids, "ride_id": moved });
    ada.post("/api/unplaced/place", early).await.is(422);
    let placed = ada.post("/api/unplaced/place", json!({ "ids": ids, "ride_id": now })).await.is(200);
    assert_eq!(placed, json!({ "placed": 4, "refused": [] }));
    assert_eq!(ada.get("/api/unplaced").await.is(200)["items"], json!([]));
    let ride = ada.get(&format!("/api/rides/{now}")).await.is(200);
    let logged: Vec<_> =
        ride["sets"].as_array().unwrap().iter().map(|s| s["reps"].as_array().map_or(0, Vec::len)).collect();
    assert_eq!(logged, [3, 0], "{ride}");
    let by: Vec<String> = sqlx::query_scalar("select p.name from rep r join person p on p.id = r.logged_by")
        .fetch_all(&db)
        .await
        .unwrap();
    assert_eq!(by, ["Dee", "Dee", "Dee"]);
    let again = ada.post("/api/unplaced/place", json!({ "ids": ids, "ride_id": now })).await.is(200);
    assert_eq!(again["placed"], 0, "nothing lands twice");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_another_logged_is_handed_in_as_theirs_by_a_trainer_alone(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (dee, email) = ada.person("Dee", "assistant").await;
    let (bea, bea_email) = ada.person("Bea", "assistant").await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let archived = json!({ "version": 1, "name": "Dee", "email": email, "role": "assistant", "archived": true });
    ada.put(&format!("/api/people/{dee}"), archived).await.is(200);
    let body = |person: Uuid| {
        json!({ "kind": "rep", "ride_id": ride, "person_id": person, "why": "kept on the barn's phone",
                "body": rep_body(Uuid::nil(), "S1", "stand", "left") })
    };
    let id = Uuid::new_v4();
    let mut as_bea = ada.visitor();
    as_bea.sign_in(&bea_email).await;
    as_bea.put(&format!("/api/unplaced/{id}"), body(dee)).await.is(403);
    ada.put(&format!("/api/unplaced/{id}"), body(dee)).await.is(201);
    ada.put(&format!("/api/unplaced/{id}"), body(dee)).await.is(200);
    assert_eq!(ada.get("/api/unplaced").await.is(200)["items"][0]["person"], "Dee");
    // A person who only reads by now hands their own in.
    let owner = json!({ "version": 1, "name": "Bea", "email": bea_email, "role": "owner" });
    ada.put(&format!("/api/people/{bea}"), owner).await.is(200);
    let hers = Uuid::new_v4();
    as_bea
        .put(&format!("/api/rides/{ride}/reps/{hers}"), rep_body(Uuid::new_v4(), "S1", "stand", "left"))
        .await
        .is(403);
    as_bea.put(&format!("/api/unplaced/{hers}"), body(bea)).await.is(201);
    for (field, wrong) in [("body", json!({ "set": 1 })), ("why", json!(""))] {
        let mut sent = body(bea);
        sent[field] = wrong;
        as_bea.put(&format!("/api/unplaced/{}", Uuid::new_v4()), sent).await.names(422, field);
    }
    // A rung that there is none of is refused and goes on waiting; the others are not held up.
    let odd = Uuid::new_v4();
    let mut sent = body(bea);
    sent["body"]["set"] = json!({ "id": odd, "position": 0, "rung": "Q77", "gait": "stand", "side": "left" });
    as_bea.put(&format!("/api/unplaced/{odd}"), sent).await.is(201);
    let placed = ada.post("/api/unplaced/place", json!({ "ids": [odd, id, hers], "ride_id": ride })).await.is(200);
    assert_eq!((&placed["placed"], &placed["refused"][0]["id"]), (&json!(2), &json!(odd)));

    sqlx::query("update session set confirmed_at = now() - interval '1 hour'").execute(&db).await.unwrap();
    ada.post("/api/unplaced/discard", json!({ "ids": [odd] })).await.is(403);
    ada.post("/api/confirm", json!({ "password": crate::support::PASSWORD })).await.is(204);
    ada.post("/api/unplaced/discard", json!({ "ids": [odd] })).await.is(204);
    assert_eq!(ada.get("/api/unplaced").await.is(200)["items"], json!([]));
    let kept: i64 =
        sqlx::query_scalar("select count(*) from unplaced where settled_at is not null and placed_on is null")
            .fetch_one(&db)
            .await
            .unwrap();
    assert_eq!(kept, 1, "what was discarded stays in the records");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_same_id_never_stands_for_two_things(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let url = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
    let body = rep_body(Uuid::new_v4(), "S1", "stand", "left");
    ada.put(&url, body.clone()).await.is(201);
    ada.put(&url, body.clone()).await.is(200);
    let others =
        [("faults", json!(["gapes"])), ("position", json!(4)), ("weight", json!("tug")), ("seconds", json!(2.5))];
    for (field, other) in others {
        let mut changed = body.clone();
        changed[field] = other;
        let status = ada.put(&url, changed).await.status;
        assert_eq!(status, 409, "{field}");
    }
    let text =
        |text: &str| json!({ "id": Uuid::nil(), "form": "shorthand", "text": text, "date": today(), "dry_run": false });
    let one = "Juniper: S1 L 3/5 feather";
    let first = ada.post("/api/shorthand", text(one)).await.is(200);
    assert_eq!(first["stored"], true, "{first}");
    assert_eq!(ada.post("/api/shorthand", text(one)).await.is(200)["stored"], true);
    let longer = format!("{one}\nJuniper: S1 R 4/5 feather");
    let refused = ada.post("/api/shorthand", text(&longer)).await.is(409);
    assert_eq!(refused["type"], "/problems/id-taken");
    let sets: i64 = sqlx::query_scalar("select count(*) from ride_set").fetch_one(&db).await.unwrap();
    assert_eq!(sets, 2);
    let _: Value = ada.get(&format!("/api/rides/{ride}")).await.is(200);
}
