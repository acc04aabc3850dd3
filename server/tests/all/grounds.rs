//! The barn's own places to ride, and where a ride is when nobody says.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, second_barn, today};

fn ground(name: &str, place: &str) -> Value {
    json!({ "name": name, "place": place, "surface": "sand", "length": 60.0, "width": 30.0 })
}

async fn own(ada: &mut Client, name: &str, place: &str) -> Uuid {
    let id = Uuid::new_v4();
    ada.put(&format!("/api/grounds/{id}"), ground(name, place)).await.is(201);
    id
}

/// A ride of some days ago, entered afterwards; where is what is merged into it.
async fn ridden(ada: &mut Client, horse: Uuid, ago: u64, wherever: Value) -> Value {
    let me = ada.my_id().await;
    let rep = json!({ "id": Uuid::new_v4(), "outcome": "gave", "weight": "egg" });
    let set =
        json!({ "id": Uuid::new_v4(), "position": 0, "rung": "S1", "gait": "stand", "side": "left", "reps": [rep] });
    let mut body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(ago), "entered": "afterwards",
                           "sets": [set] });
    body.as_object_mut().unwrap().extend(wherever.as_object().unwrap().clone());
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201)
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_barn_has_places_of_its_own_each_of_a_kind(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let path = format!("/api/grounds/{}", Uuid::new_v4());
    let mut wrong = ground("Big arena", "arena");
    wrong["width"] = Value::Null;
    ada.put(&path, wrong).await.names(422, "width");
    let mut wrong = ground("Big arena", "arena");
    wrong["length"] = json!(0.5);
    ada.put(&path, wrong).await.names(422, "length");
    ada.put(&path, ground("Big arena", "arena")).await.is(201);
    ada.put(&path, ground("Big arena", "arena")).await.is(200);
    ada.put(&path, ground("Bigger arena", "arena")).await.is(409);
    ada.put(&format!("/api/grounds/{}", Uuid::new_v4()), ground("big Arena", "outside")).await.names(422, "name");
    let mut pen = ground("Round pen", "round-pen");
    pen["length"] = json!(13.0);
    pen["width"] = json!(13.0);
    let small = ada.put(&format!("/api/grounds/{}", Uuid::new_v4()), pen).await.is(201);
    assert_eq!(small["caution"], "A small pen: no lope, the circle is too tight");
    let mut moved = ground("Big arena", "outside");
    moved["version"] = json!(1);
    ada.put(&path, moved).await.names(422, "place");
    let mut gone = ground("Old arena", "arena");
    gone["version"] = json!(1);
    gone["archived"] = json!(true);
    ada.put(&path, gone.clone()).await.is(200);
    ada.put(&path, gone).await.is(409);
    let all = ada.get("/api/grounds").await.is(200);
    let names: Vec<&str> = all["items"].as_array().unwrap().iter().map(|g| g["name"].as_str().unwrap()).collect();
    assert_eq!(names, ["Round pen"]);
    // An assistant or another barn changes nothing of it.
    let mut bo = second_barn(&db, &ada).await;
    assert_eq!(bo.get("/api/grounds").await.is(200)["items"], json!([]));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_is_where_it_is_said_else_where_the_horse_was_last(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (north, south) = (own(&mut ada, "North arena", "arena").await, own(&mut ada, "South arena", "arena").await);
    let range = own(&mut ada, "The creek", "outside").await;
    let horse = ada.horse("Juniper").await;
    let of = |ride: &Value| (ride["place"].clone(), ride["ground_id"].clone());
    // Nobody knows better: the arena, and which of the two is not guessed.
    assert_eq!(of(&ridden(&mut ada, horse, 9, json!({})).await), (json!("arena"), Value::Null));
    let said = ridden(&mut ada, horse, 8, json!({ "ground_id": range })).await;
    assert_eq!((of(&said), &said["ground_name"]), ((json!("outside"), json!(range)), &json!("The creek")));
    assert_eq!(of(&ridden(&mut ada, horse, 7, json!({})).await), (json!("outside"), json!(range)), "as the last time");
    // The only ground of its kind is the one that is meant.
    assert_eq!(of(&ridden(&mut ada, horse, 6, json!({ "place": "outside" })).await).1, json!(range));
    assert_eq!(of(&ridden(&mut ada, horse, 5, json!({ "place": "arena" })).await).1, Value::Null);
    let me = ada.my_id().await;
    let elsewhere =
        json!({ "horse_id": horse, "rider_id": me, "date": today(), "entered": "pen", "ground_id": Uuid::new_v4() });
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), elsewhere).await.names(422, "ground_id");

    // A planned ride keeps its ground until the place changes or another is named.
    let id = Uuid::new_v4();
    let planned = json!({ "horse_id": horse, "rider_id": me, "date": today(), "entered": "pen", "ground_id": north });
    ada.put(&format!("/api/rides/{id}"), planned).await.is(201);
    let change = |version: i32, place: &str, ground: Option<Uuid>| {
        json!({ "version": version, "rider_id": me, "place": place, "ground_id": ground, "state": "planned", "note": "",
                "signs": [] })
    };
    let path = format!("/api/rides/{id}");
    assert_eq!(of(&ada.patch(&path, change(1, "arena", None)).await.is(200)).1, json!(north));
    assert_eq!(of(&ada.patch(&path, change(2, "arena", Some(south))).await.is(200)).1, json!(south));
    assert_eq!(of(&ada.patch(&path, change(3, "trail", None)).await.is(200)), (json!("trail"), Value::Null));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_entered_afterwards_takes_minutes_signs_and_what_it_wore(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, other) = (ada.horse("Juniper").await, ada.horse("Larkspur").await);
    let gear = Uuid::new_v4();
    let bit = json!({ "kind": "bit", "name": "Loose-ring snaffle", "mouthpiece": "snaffle", "since": today(),
                      "mouth_seen": today(), "teeth_seen": today() });
    ada.put(&format!("/api/horses/{horse}/gear/{gear}"), bit).await.is(201);
    let told = json!({ "minutes": { "walk": 20, "jog": 10 }, "signs": ["licks"], "gear": [gear] });
    let kept = ridden(&mut ada, horse, 1, told.clone()).await;
    assert_eq!((&kept["minutes"]["walk"], &kept["signs"]), (&json!(20), &json!(["licks"])));
    let id = kept["id"].as_str().unwrap();
    let ride = ada.get(&format!("/api/rides/{id}")).await.is(200);
    assert_eq!(ride["bit"], "Loose-ring snaffle");
    // Another horse does not wear it, and nothing of such a ride is kept.
    let me = ada.my_id().await;
    let mut theirs = json!({ "horse_id": other, "rider_id": me, "date": today(), "entered": "afterwards", "sets": [] });
    theirs.as_object_mut().unwrap().extend(told.as_object().unwrap().clone());
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), theirs.clone()).await.names(422, "gear");
    assert_eq!(ada.get(&format!("/api/horses/{other}/rides")).await.is(200)["items"], json!([]));
    theirs["gear"] = Value::Null;
    theirs["minutes"]["walk"] = json!(9_000);
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), theirs.clone()).await.names(422, "minutes");
    theirs["minutes"]["walk"] = json!(9);
    theirs["entered"] = json!("pen");
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), theirs).await.names(422, "minutes");
}
