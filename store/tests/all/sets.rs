//! Sets that come whole: kept once, told apart from what is there, and only into the barn's own rides.

use cavesson_core::{barn::RideState, count::Count, curriculum::Side, response::Answer};
use cavesson_store::{
    Put, Scope, horse,
    log::{
        correction::{self, Correction},
        count::{self as stored, NewCount},
        rep, ride,
        sets::{NewSet, put_sets},
    },
};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

fn reps_of(answers: &[Answer], key: rep::SetKey) -> NewSet {
    let reps = (0..).zip(answers).map(|(position, a)| rep::NewRep { position, ..new_rep(*a) }).collect();
    NewSet { key, reps, count: None }
}

/// Stores sets and keeps them only where they fit, as a request does.
async fn put(db: &PgPool, scope: &Scope, sets: &[NewSet]) -> Put {
    let mut tx = db.begin().await.unwrap();
    let put = put_sets(&mut tx, scope, sets).await.unwrap();
    if let Put::Created | Put::Same = put {
        tx.commit().await.unwrap();
    }
    put
}

async fn revision(db: &PgPool, barn: &Barn) -> i64 {
    horse::get(db, &barn.scope, barn.horse).await.unwrap().unwrap().log_revision
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn sets_of_several_rides_are_kept_once_and_count_the_log_up_once(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let rides = [new_ride(&db, &barn, TODAY).await, new_ride(&db, &barn, TODAY).await];
    let counted = NewCount {
        faults: vec!["head-up".into(), "anticipates".into()],
        ..NewCount::plain(Count::SetUps { asked: 6, accepted: 4 })
    };
    let sets = [
        reps_of(&[Answer::Gave, Answer::None], set(rides[0], Side::Left)),
        reps_of(&[Answer::Gave; 40], set(rides[0], Side::Right)),
        NewSet { key: set(rides[1], Side::Both), reps: vec![], count: Some(counted.clone()) },
    ];
    assert_eq!(put(&db, &barn.scope, &sets).await, Put::Created);
    assert_eq!(revision(&db, &barn).await, 1);
    let back = rep::of_rides(&db, &barn.scope, &rides, false).await.unwrap();
    let shape: Vec<(Side, usize)> = back.iter().map(|(key, reps)| (key.side, reps.len())).collect();
    assert_eq!(shape.len(), 2);
    assert!(shape.contains(&(Side::Left, 2)) && shape.contains(&(Side::Right, 40)));
    assert!(back.iter().flat_map(|s| &s.1).all(|r| r.faults == ["leans"] && r.rep.time.is_some()));
    let counts = stored::of_rides(&db, &barn.scope, &rides, false).await.unwrap();
    assert_eq!((counts.len(), &counts[0].0), (1, &sets[2].key));
    let back = &counts[0].1;
    assert_eq!((&back.count, &back.faults, back.version), (&counted.count, &counted.faults, 1));
    for id in rides {
        assert_eq!(ride::get(&db, &barn.scope, id).await.unwrap().unwrap().state, RideState::Open);
    }

    assert_eq!(put(&db, &barn.scope, &sets).await, Put::Same);
    assert_eq!(revision(&db, &barn).await, 1, "sent again, it changes nothing");
    assert_eq!(put(&db, &barn.scope, &[]).await, Put::Same);

    // More reps of a set that is there are new.
    let mut more = sets[0].clone();
    more.reps.push(rep::NewRep { position: 2, ..new_rep(Answer::Gave) });
    assert_eq!(put(&db, &barn.scope, &[more]).await, Put::Created);
    assert_eq!(revision(&db, &barn).await, 2);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_has_the_id_of_something_else_is_refused_and_nothing_of_it_kept(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let ride = new_ride(&db, &barn, TODAY).await;
    let there = reps_of(&[Answer::Gave, Answer::Gave], set(ride, Side::Left));
    assert_eq!(put(&db, &barn.scope, std::slice::from_ref(&there)).await, Put::Created);

    let fresh = reps_of(&[Answer::Gave], set(ride, Side::Right));
    let mut other_answer = there.clone();
    other_answer.reps[1].rep.answer = Answer::None;
    let mut other_side = there.clone();
    other_side.key.side = Side::Right;
    let other_set = NewSet { reps: there.reps.clone(), ..reps_of(&[], set(ride, Side::Left)) };
    let counted = NewSet { count: Some(NewCount::plain(Count::SetUps { asked: 1, accepted: 1 })), ..there.clone() };
    for (n, wrong) in [other_answer, other_side, other_set, counted].into_iter().enumerate() {
        assert_eq!(put(&db, &barn.scope, &[fresh.clone(), wrong]).await, Put::Taken, "case {n}");
        let kept = rep::of_rides(&db, &barn.scope, &[ride], true).await.unwrap();
        assert_eq!(kept.len(), 1, "case {n}: nothing came with it");
    }
    // The same rep twice in one text is one rep; under one id with two answers it is refused.
    let mut twice = fresh.clone();
    twice.reps.push(twice.reps[0].clone());
    assert_eq!(put(&db, &barn.scope, std::slice::from_ref(&twice)).await, Put::Created);
    twice.reps[1].rep.answer = Answer::None;
    assert_eq!(put(&db, &barn.scope, &[twice]).await, Put::Taken);

    // A corrected rep is sent again by a device that does not know of it.
    let to = Correction { rep: new_rep(Answer::None).rep, faults: vec![], removed: false };
    correction::put(&db, &barn.scope, there.reps[0].id, 1, &to).await.unwrap();
    assert_eq!(put(&db, &barn.scope, &[there]).await, Put::Same);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn sets_go_into_rides_of_the_barn_and_no_others(db: PgPool) {
    let (one, two) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let theirs = new_ride(&db, &two, TODAY).await;
    for ride in [theirs, Uuid::new_v4()] {
        assert_eq!(put(&db, &one.scope, &[reps_of(&[Answer::Gave], set(ride, Side::Left))]).await, Put::Missing);
    }
    assert!(rep::of_rides(&db, &two.scope, &[theirs], true).await.unwrap().is_empty());
    assert_eq!((revision(&db, &one).await, revision(&db, &two).await), (0, 0));
}
