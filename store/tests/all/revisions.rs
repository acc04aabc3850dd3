//! Revisions: what is read again after a change, and that none is lost where many write at once.

use cavesson_core::{curriculum::Side, response::Answer};
use cavesson_store::{
    Put,
    log::{
        correction::{self, Correction},
        rep, revision,
    },
};
use chrono::Days;
use sqlx::PgPool;

use crate::support::*;

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn every_rep_counts_up_once_however_many_phones_log_at_the_same_time(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let mut sets = vec![];
    for ago in 0..4 {
        let ride = new_ride(&db, &barn, TODAY - Days::new(ago)).await;
        sets.push(set(ride, Side::Left));
    }
    let phone = async |n: usize| {
        for _ in 0..25 {
            let new = new_rep(Answer::Gave);
            // Each goes through the rides in another order, and sends every rep twice.
            let key = &sets[n % 4];
            assert_eq!(rep::put(&db, &barn.scope, key, &new).await.unwrap(), Put::Created);
            assert_eq!(rep::put(&db, &barn.scope, key, &new).await.unwrap(), Put::Same);
            let other = new_rep(Answer::None);
            assert_eq!(rep::put(&db, &barn.scope, &sets[(n + 1) % 4], &other).await.unwrap(), Put::Created);
        }
    };
    tokio::join!(phone(0), phone(1), phone(2), phone(3));
    let counted = revision::of_barn(&db, &barn.scope).await.unwrap();
    assert_eq!((counted.len(), counted[0].horse_id, counted[0].revision), (1, barn.horse, 200));
    let changed = revision::changed_since(&db, &barn.scope, &[(barn.horse, 199)]).await.unwrap();
    assert_eq!(changed.len(), 1, "the last rep is of one ride: {changed:?}");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_rep_of_another_set_under_the_same_id_is_refused_and_changes_nothing(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let ride = new_ride(&db, &barn, TODAY).await;
    let (left, right) = (set(ride, Side::Left), set(ride, Side::Right));
    let new = new_rep(Answer::Gave);
    assert_eq!(rep::put(&db, &barn.scope, &left, &new).await.unwrap(), Put::Created);
    assert_eq!(rep::put(&db, &barn.scope, &right, &new_rep(Answer::Gave)).await.unwrap(), Put::Created);
    let before = revision::of_barn(&db, &barn.scope).await.unwrap();
    assert_eq!(rep::put(&db, &barn.scope, &right, &new).await.unwrap(), Put::Taken);
    let turned = rep::SetKey { side: Side::Right, ..left };
    assert_eq!(rep::put(&db, &barn.scope, &turned, &new_rep(Answer::Gave)).await.unwrap(), Put::Taken);
    assert_eq!(revision::of_barn(&db, &barn.scope).await.unwrap(), before);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_changed_before_a_day_is_told_of_that_barn_alone(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let old = new_ride(&db, &barn, TODAY - Days::new(9)).await;
    let now = new_ride(&db, &barn, TODAY).await;
    let first = new_rep(Answer::Gave);
    rep::put(&db, &barn.scope, &set(old, Side::Left), &first).await.unwrap();
    let changed =
        async |since| revision::changed_before(&db, &barn.scope, &[(barn.horse, since)], TODAY).await.unwrap();
    assert!(changed(0).await);
    rep::put(&db, &barn.scope, &set(now, Side::Left), &new_rep(Answer::Gave)).await.unwrap();
    assert!(!changed(1).await, "the rep of today is not from before today");
    let removal = Correction { rep: first.rep, faults: vec![], removed: true };
    correction::put(&db, &barn.scope, first.id, 1, &removal).await.unwrap();
    assert!(changed(2).await);
    let from_other = revision::changed_before(&db, &other.scope, &[(barn.horse, 0)], TODAY).await.unwrap();
    assert!(!from_other, "another barn's horse is not seen");
    let ridden = revision::ridden_before(&db, &barn.scope, TODAY).await.unwrap();
    assert_eq!(ridden, [(barn.horse, 1, 3)]);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_barn_is_as_it_was_only_while_nothing_in_it_was_written(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let state = async || revision::barn_state(&db, &barn.scope).await.unwrap();
    let mut before = state().await;
    new_ride(&db, &other, TODAY).await;
    assert_eq!(state().await, before, "that was in another barn");
    let ride = new_ride(&db, &barn, TODAY).await;
    assert_ne!(state().await, before);
    before = state().await;
    let (set, new) = (set(ride, Side::Left), new_rep(Answer::Gave));
    // The first rep makes its set, the second is a rep alone.
    for rep in [&new, &new_rep(Answer::None)] {
        assert_eq!(rep::put(&db, &barn.scope, &set, rep).await.unwrap(), Put::Created);
        assert_ne!(state().await, before);
        before = state().await;
    }
    assert_eq!(rep::put(&db, &barn.scope, &set, &new).await.unwrap(), Put::Same);
    assert_eq!(state().await, before, "nothing was written");
    let mut tx = db.begin().await.unwrap();
    sqlx::query("update horse set name = 'Another' where id = $1").bind(barn.horse).execute(&mut *tx).await.unwrap();
    assert_eq!(state().await, before, "it is not there yet");
    tx.commit().await.unwrap();
    assert_ne!(state().await, before);
    before = state().await;
    // Much in one transaction is one change.
    sqlx::query("update horse set name = name || n from generate_series(1, 3) n").execute(&db).await.unwrap();
    sqlx::query("insert into alias (barn_id, word, rung) select $1, 'x' || n, 'S1' from generate_series(1, 2000) n")
        .bind(barn.scope.shared())
        .execute(&db)
        .await
        .unwrap();
    assert_ne!(state().await, before);
}

/// What is not of the barn's work, or told by the revision of a horse.
const NOT_NOTED: [&str; 11] = [
    "account_link",
    "ahead_lease",
    "barn_change",
    "horse_revision",
    "known_device",
    "rep",
    "rep_change",
    "ride_revision",
    "security_event",
    "session",
    "standing",
];

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn every_table_of_a_barn_tells_when_it_is_changed(db: PgPool) {
    let silent: Vec<String> = sqlx::query_scalar(
        "select c.relname::text from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'barn_id'
         where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
           and not exists (select from pg_trigger t where t.tgrelid = c.oid and t.tgname = 'barn_change' and t.tgtype & 28 = 28)
         order by 1",
    )
    .fetch_all(&db)
    .await
    .unwrap();
    assert_eq!(silent, NOT_NOTED, "a table is made without the trigger barn_change: see its migration");
}
