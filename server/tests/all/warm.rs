//! What is worked out before anyone asks for it.

use std::{
    collections::BTreeMap,
    time::{Duration, Instant},
};

use cavesson::{App, Options, http};
use serde_json::json;
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body};

async fn worked(ada: &mut Client, ride: Uuid) {
    for (rung, gait) in [("G7", "walk"), ("S1", "stand")] {
        let set = Uuid::new_v4();
        for _ in 0..4 {
            let rep = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
            ada.put(&rep, rep_body(set, rung, gait, "left")).await.is(201);
        }
    }
}

/// Which horses' standings are kept, and which write of the row each is.
async fn kept(db: &PgPool) -> BTreeMap<Uuid, String> {
    let rows: Vec<(Uuid, String)> =
        sqlx::query_as("select horse_id, xmin::text from standing").fetch_all(db).await.unwrap();
    rows.into_iter().collect()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn every_horse_in_work_is_worked_out_ahead_and_asking_works_out_nothing_more(db: PgPool) {
    let mut ada = first_barn(&db).await;
    // More horses than are looked at in one go.
    let mut horses = BTreeMap::new();
    for n in 0..11 {
        let horse = ada.horse(&format!("Horse {n}")).await;
        let ride = ada.ride(horse).await;
        worked(&mut ada, ride).await;
        horses.insert(horse, ride);
    }
    let gone = ada.horse("Archived").await;
    ada.put(&format!("/api/horses/{gone}"), json!({ "version": 1, "name": "Archived", "archived": true }))
        .await
        .is(200);
    assert!(kept(&db).await.is_empty());

    let options = Options { site: "no-site".into(), ..Options::default() };
    let app = App::new(db.clone(), options);
    let mut ada = Client { router: http::app(app.clone()), ..ada };
    let ahead = tokio::spawn(cavesson::keep_warm(app));
    let patience = Instant::now() + Duration::from_secs(60);
    while kept(&db).await.len() < horses.len() {
        assert!(Instant::now() < patience, "not every standing was worked out ahead");
        tokio::time::sleep(Duration::from_millis(50)).await;
    }
    let before = kept(&db).await;
    assert_eq!(before.keys().collect::<Vec<_>>(), horses.keys().collect::<Vec<_>>());

    let owned = ada.get("/api/owned").await.is(200);
    assert_eq!(owned["horses"].as_array().unwrap().len(), horses.len());
    for (horse, ride) in &horses {
        let standing = ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
        assert!(standing["steps"].as_array().unwrap().iter().any(|s| s["status"] == "learning"), "{standing}");
        ada.get(&format!("/api/rides/{ride}/plan")).await.is(200);
    }
    assert_eq!(kept(&db).await, before, "it was all there");

    // What is logged afterwards is worked out when it is asked for, for its horse alone.
    let (horse, ride) = horses.first_key_value().unwrap();
    worked(&mut ada, *ride).await;
    ada.get("/api/owned").await.is(200);
    let computed_again = async || {
        let now = kept(&db).await;
        now.into_iter().filter(|(horse, write)| *write != before[horse]).map(|(horse, _)| horse).collect::<Vec<_>>()
    };
    // Whoever asked did not wait until it was kept.
    while computed_again().await.is_empty() {
        assert!(Instant::now() < patience, "what was worked out was not kept");
        tokio::time::sleep(Duration::from_millis(20)).await;
    }
    assert_eq!(computed_again().await, [*horse]);
    ahead.abort();
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_barn_where_nothing_was_written_is_left_alone(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let app = App::new(db.clone(), Options { site: "no-site".into(), ..Options::default() });
    let mut ada = Client { router: http::app(app.clone()), ..ada };
    assert_eq!(cavesson::warm_up(&app).await, 1, "nothing was looked at yet");
    assert_eq!(cavesson::warm_up(&app).await, 0);
    ada.get("/api/today").await.is(200);
    assert_eq!(cavesson::warm_up(&app).await, 0, "looking changes nothing");
    worked(&mut ada, ride).await;
    assert_eq!(cavesson::warm_up(&app).await, 1);
    assert_eq!(kept(&db).await.keys().collect::<Vec<_>>(), [&horse]);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_barn_that_fails_does_not_keep_the_others_waiting(db: PgPool) {
    let mut ada = first_barn(&db).await;
    crate::support::second_barn(&db, &ada).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    worked(&mut ada, ride).await;
    // A change of its curriculum that cannot be read.
    sqlx::query(
        "insert into curriculum_change (barn_id, id, holds_on, body, made_by)
         select barn_id, $2, current_date, '{\"kind\": \"unheard-of\"}', $3 from horse where id = $1",
    )
    .bind(horse)
    .bind(Uuid::new_v4())
    .bind(ada.my_id().await)
    .execute(&db)
    .await
    .unwrap();
    let app = App::new(db, Options { site: "no-site".into(), ..Options::default() });
    assert_eq!(cavesson::warm_up(&app).await, 1, "the other barn was looked after");
    assert_eq!(cavesson::warm_up(&app).await, 0, "and is not looked at again, while the broken one is tried each time");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn of_two_servers_one_at_a_time_computes_ahead_for_a_barn(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    worked(&mut ada, ride).await;
    let server = || App::new(db.clone(), Options { site: "no-site".into(), ..Options::default() });
    let barn: Uuid = sqlx::query_scalar("select id from barn").fetch_one(&db).await.unwrap();
    assert!(cavesson_store::ahead::take(&db, barn).await.unwrap(), "a server begins");
    let other = server();
    assert_eq!(cavesson::warm_up(&other).await, 0, "it is left to the one that is at it");
    assert!(kept(&db).await.is_empty());
    cavesson_store::ahead::give_back(&db, barn).await.unwrap();
    assert_eq!(cavesson::warm_up(&other).await, 1, "and looked at the next time");
    assert_eq!(cavesson::warm_up(&server()).await, 1, "each gives its lease back");
    // One that was killed at it keeps the barn for a while only.
    assert!(cavesson_store::ahead::take(&db, barn).await.unwrap());
    sqlx::query("update ahead_lease set until = now() - interval '1 second'").execute(&db).await.unwrap();
    assert_eq!(cavesson::warm_up(&server()).await, 1);
}

/// How often a standing was written to its table.
async fn writes(db: &PgPool) -> Vec<(Uuid, i64)> {
    let count = "select horse_id, count(*) from kept_writes group by horse_id order by horse_id";
    sqlx::query_as(count).fetch_all(db).await.unwrap()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn of_four_who_look_at_the_same_time_one_computes(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let mut horses = vec![];
    for n in 0..6 {
        let horse = ada.horse(&format!("Horse {n}")).await;
        let ride = ada.ride(horse).await;
        worked(&mut ada, ride).await;
        horses.push(horse);
    }
    horses.sort_unstable();
    // Whatever is computed is kept, once.
    sqlx::raw_sql(
        "create table kept_writes (horse_id uuid);
         create function note_kept() returns trigger language plpgsql as
             'begin insert into kept_writes values (new.horse_id); return null; end';
         create trigger note_kept after insert or update on standing for each row execute function note_kept()",
    )
    .execute(&db)
    .await
    .unwrap();
    // A server that has nothing of it in memory.
    let fresh = Client { router: Client::new(&db).router, ..ada.clone() };
    let look = async |path: &str| fresh.clone().get(path).await.is(200);
    let (one, other, ..) =
        tokio::join!(look("/api/today"), look("/api/today"), look("/api/owned"), look("/api/overview"));
    assert_eq!(one, other);
    // They are kept after the answers.
    let until = Instant::now() + Duration::from_secs(20);
    while writes(&db).await.len() < horses.len() && Instant::now() < until {
        tokio::time::sleep(Duration::from_millis(20)).await;
    }
    tokio::time::sleep(Duration::from_millis(300)).await;
    assert_eq!(writes(&db).await, horses.into_iter().map(|horse| (horse, 1)).collect::<Vec<_>>());
}
