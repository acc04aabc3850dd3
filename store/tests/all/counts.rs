//! What is counted in something else than asks: kept once, corrected with a trace, taken out and brought back.

use cavesson_core::{
    count::{AskedBy, Count},
    curriculum::{Gait, Side},
};
use cavesson_store::{
    Put, Update, horse,
    log::{
        correction,
        count::{self, CountCorrection, NewCount},
        evidence::{self, Of},
        rep, ride,
    },
};
use chrono::{Days, Utc};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

fn share(bridle: u8) -> NewCount {
    NewCount::plain(Count::ReinShare { bridle, soft: true, asked: Some(AskedBy::Roots) })
}

fn key(ride: Uuid) -> rep::SetKey {
    rep::SetKey { rung: "B22".into(), gait: Gait::Walk, cow: None, ..set(ride, Side::Both) }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn counts_are_kept_once_and_read_back_as_evidence(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let id = new_ride(&db, &barn, TODAY).await;
    let key = key(id);
    let put = async |new: &NewCount| count::put(&db, &barn.scope, &key, new).await.unwrap();
    let first = NewCount { faults: vec!["leans".into()], asked_at: Some(Utc::now()), ..share(30) };
    assert_eq!(put(&first).await, Put::Created);
    assert_eq!(put(&first).await, Put::Same);
    assert_eq!(put(&share(40)).await, Put::Taken);
    let read = count::of_rides(&db, &barn.scope, &[id], false).await.unwrap();
    assert_eq!((read.len(), &read[0].0, &read[0].1.count, &read[0].1.faults), (1, &key, &first.count, &first.faults));
    assert!(read[0].1.asked_at.is_some());
    let counted = evidence::counts(&db, &barn.scope, Of::Horses(&[barn.horse])).await.unwrap();
    assert_eq!((counted.len(), &counted[0].count, counted[0].hands.word()), (1, &first.count, "trainer"));
    let faulted = evidence::faults(&db, &barn.scope, &[barn.horse], TODAY - Days::new(1)).await.unwrap();
    assert_eq!((faulted.len(), faulted[0].faults.as_slice()), (1, first.faults.as_slice()));
    let of_ride = ride::get(&db, &barn.scope, id).await.unwrap().unwrap();
    assert_eq!(of_ride.reps, 1, "a count is something that was logged");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_corrected_count_leaves_a_trace_and_a_removed_one_is_no_evidence(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let id = new_ride(&db, &barn, TODAY).await;
    let set = key(id);
    count::put(&db, &barn.scope, &set, &share(30)).await.unwrap();
    let correct = async |version, new: NewCount, removed| {
        let to = CountCorrection { count: new.count, faults: vec!["pulls".into()], removed };
        count::correct(&db, &barn.scope, set.id, version, &to).await.unwrap()
    };
    let revision = async || horse::get(&db, &barn.scope, barn.horse).await.unwrap().unwrap().log_revision;
    let before = revision().await;
    let Update::Done(now) = correct(1, share(40), false).await else { panic!("it was at version 1") };
    assert_eq!((now.version, now.faults.as_slice()), (2, &["pulls".to_owned()][..]));
    assert_eq!(revision().await, before + 1, "what was worked out from it is worked out again");
    assert!(matches!(correct(1, share(50), false).await, Update::Stale(s) if s.version == 2));
    assert_eq!(count::put(&db, &barn.scope, &set, &share(30)).await.unwrap(), Put::Same, "sent again by a late device");

    let evidence = async || evidence::counts(&db, &barn.scope, Of::Horses(&[barn.horse])).await.unwrap();
    assert_eq!(evidence().await[0].count, share(40).count);
    assert!(matches!(correct(2, share(40), true).await, Update::Done(c) if c.removed));
    assert!(evidence().await.is_empty());
    assert!(evidence::faults(&db, &barn.scope, &[barn.horse], TODAY - Days::new(1)).await.unwrap().is_empty());
    assert!(count::of_rides(&db, &barn.scope, &[id], false).await.unwrap().is_empty());
    assert_eq!(count::of_rides(&db, &barn.scope, &[id], true).await.unwrap().len(), 1, "it stays in the record");
    assert!(matches!(correct(3, share(40), false).await, Update::Done(c) if !c.removed));
    assert_eq!(evidence().await.len(), 1);

    let changes = correction::changes(&db, &barn.scope, barn.horse, 0, 10).await.unwrap().items;
    let removed: Vec<bool> = changes.iter().map(|c| c.after.as_ref().unwrap()["removed"] == true).collect();
    assert_eq!(removed, [false, true, false], "latest first");
    assert_eq!(changes[2].before["count"]["bridle"], 30);
    assert_eq!(changes[0].person_name, changes[2].person_name);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn another_barn_sees_and_changes_none_of_it(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let id = new_ride(&db, &barn, TODAY).await;
    let set = key(id);
    count::put(&db, &barn.scope, &set, &share(30)).await.unwrap();
    assert_eq!(count::get(&db, &barn.scope, set.id).await.unwrap().unwrap().0, set);
    assert!(count::get(&db, &other.scope, set.id).await.unwrap().is_none());
    assert!(count::of_rides(&db, &other.scope, &[id], true).await.unwrap().is_empty());
    assert_eq!(count::put(&db, &other.scope, &set, &share(30)).await.unwrap(), Put::Missing);
    let to = CountCorrection { count: share(50).count, faults: vec![], removed: true };
    assert!(matches!(count::correct(&db, &other.scope, set.id, 1, &to).await.unwrap(), Update::Missing));
    assert!(evidence::counts(&db, &other.scope, Of::Horses(&[barn.horse])).await.unwrap().is_empty());
}
