//! What the database's planner knows of the tables, and what it does where it knows nothing of a barn.

use cavesson_core::{
    barn::RideState,
    curriculum::{Gait, Side},
    response::{Answer, Rep, Weight},
};
use cavesson_store::log::{
    bulk::{self, WholeRide, WholeSet},
    evidence::{self, Of},
};
use chrono::Days;
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Barn, TODAY, new_barn};

/// The database as the server opens it.
async fn opened(db: &PgPool) -> PgPool {
    let base = std::env::var("DATABASE_URL").unwrap();
    let name = db.connect_options().get_database().unwrap().to_owned();
    cavesson_store::open(&format!("{}/{name}", base.rsplit_once('/').unwrap().0)).await.unwrap()
}

const SETS: usize = 10;
const REPS: usize = 5;

async fn ride_for(db: &PgPool, barn: &Barn, days: u64) {
    let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
    let set =
        WholeSet { rung: "S1".into(), gait: Gait::Stand, side: Side::Left, reps: vec![(rep, None); REPS], count: None };
    let ride = |n| WholeRide {
        id: Uuid::new_v4(),
        horse_id: barn.horse,
        rider_id: barn.scope.person(),
        ridden_on: TODAY - Days::new(n),
        starts_at: None,
        place: "arena".parse().unwrap(),
        ground_id: None,
        state: RideState::Closed,
        note: String::new(),
        signs: vec![],
        bit: None,
        hot: None,
        sets: vec![set.clone(); SETS],
    };
    let rides: Vec<_> = (0..days).map(ride).collect();
    let mut tx = db.begin().await.unwrap();
    bulk::insert(&mut tx, barn.scope.shared(), &rides).await.unwrap();
    tx.commit().await.unwrap();
}

/// Entries of indexes that were read so far, by connections that are closed.
async fn read_of_indexes(db: &PgPool) -> i64 {
    sqlx::query_scalar("select sum(idx_tup_read)::bigint from pg_stat_user_indexes").fetch_one(db).await.unwrap()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_barn_that_is_newer_than_the_statistics_is_read_once_and_not_for_each_of_its_sets(db: PgPool) {
    let old = new_barn(&db, "Old").await;
    ride_for(&db, &old, 200).await;
    sqlx::query("analyze").execute(&db).await.unwrap();
    let new = new_barn(&db, "New").await;
    ride_for(&db, &new, 100).await;

    let before = read_of_indexes(&db).await;
    let open = opened(&db).await;
    let reps = evidence::reps(&open, &new.scope, Of::Horses(&[new.horse])).await.unwrap();
    open.close().await;
    assert_eq!(reps.len(), 100 * SETS * REPS);
    let read = read_of_indexes(&db).await - before;
    assert!(read < 20 * reps.len() as i64, "{read} entries of indexes were read for {} reps", reps.len());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn tables_that_were_never_analyzed_are_when_the_database_is_opened(db: PgPool) {
    let barn = new_barn(&db, "Restored").await;
    ride_for(&db, &barn, 20).await;
    let known = "select reltuples::bigint from pg_class where relname = 'rep'";
    assert_eq!(sqlx::query_scalar::<_, i64>(known).fetch_one(&db).await.unwrap(), -1);
    opened(&db).await.close().await;
    let reps = (20 * SETS * REPS) as i64;
    assert_eq!(sqlx::query_scalar::<_, i64>(known).fetch_one(&db).await.unwrap(), reps);
}
