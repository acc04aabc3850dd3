//! A barn with a horse, and rides and reps of it.

use cavesson_core::{
    curriculum::{Gait, Side},
    response::{Answer, Rep, ResponseTime, Weight},
};
use cavesson_store::{
    Put, Scope,
    barn::{self, BarnSettings},
    horse::{self, HorseFields},
    log::{
        rep::{NewRep, SetKey},
        ride::{self, NewRide},
    },
    person::{self, PersonFields},
};
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

pub(crate) const TODAY: NaiveDate = NaiveDate::from_ymd_opt(2026, 3, 2).expect("a date");

pub(crate) struct Barn {
    pub(crate) scope: Scope,
    pub(crate) horse: Uuid,
}

pub(crate) async fn new_barn(db: &PgPool, name: &str) -> Barn {
    let (barn_id, person_id, horse_id) = (Uuid::new_v4(), Uuid::new_v4(), Uuid::new_v4());
    let settings = BarnSettings {
        name: name.into(),
        posture: "steady".parse().unwrap(),
        units: "imperial".parse().unwrap(),
        time_zone: "UTC".into(),
    };
    barn::create(db, barn_id, &settings, None).await.unwrap();
    let fields =
        PersonFields { name: "P".into(), email: format!("{barn_id}@x.example"), role: "trainer".parse().unwrap() };
    assert!(person::insert(&mut db.acquire().await.unwrap(), barn_id, person_id, &fields, Some("hash")).await.unwrap());
    let scope = Scope::staff_of(barn_id, person_id);
    assert_eq!(horse::put(db, &scope, horse_id, &horse_fields("Juniper")).await.unwrap(), Put::Created);
    Barn { scope, horse: horse_id }
}

pub(crate) fn horse_fields(name: &str) -> HorseFields {
    HorseFields {
        name: name.into(),
        foaled: Some(2022),
        sex: None,
        owner_id: None,
        usual_rider_id: None,
        posture: None,
        traits: vec![],
        note: String::new(),
    }
}

pub(crate) async fn new_ride(db: &PgPool, barn: &Barn, date: NaiveDate) -> Uuid {
    let id = Uuid::new_v4();
    let new = NewRide {
        bit: None,
        hot: None,
        horse_id: barn.horse,
        rider_id: barn.scope.person(),
        ridden_on: date,
        starts_at: None,
        place: "arena".parse().unwrap(),
        state: "planned".parse().unwrap(),
        entered: "pen".parse().unwrap(),
        note: String::new(),
        signs: vec![],
        ground_id: None,
        minutes: None,
    };
    let mut tx = db.begin().await.unwrap();
    assert_eq!(ride::put(&mut tx, &barn.scope, id, &new).await.unwrap(), Put::Created);
    tx.commit().await.unwrap();
    id
}

pub(crate) fn set(ride_id: Uuid, side: Side) -> SetKey {
    SetKey {
        id: Uuid::new_v4(),
        ride_id,
        position: 0,
        rung: "S1".into(),
        gait: Gait::Stand,
        side,
        rider_id: None,
        cow: None,
    }
}

pub(crate) fn new_rep(answer: Answer) -> NewRep {
    let rep = Rep { answer, weight: Weight::Orange, time: ResponseTime::new(1_234).ok() };
    NewRep { id: Uuid::new_v4(), position: 0, rep, faults: vec!["leans".into()], asked_at: None }
}
