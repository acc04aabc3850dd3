//! Weeks and what stands in them, on a real database: plans, published rides, months looked back on, appointments.

use cavesson_core::{barn::MissedReason, curriculum::Side, response::Answer};
use cavesson_store::{
    Put, Scope, Update,
    appointment::{self, Appointment},
    horse, hours,
    log::{rep, ride},
    week::{self, PlannedRide, WeekPlan},
};
use chrono::{Days, NaiveDate, NaiveTime};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

async fn save(db: &PgPool, barn: &Barn, version: i32, draft: Value) -> Update<WeekPlan> {
    week::save(db, &barn.scope, TODAY, version, &draft).await.unwrap()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn of_two_drafts_made_from_the_same_version_one_is_kept(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    assert!(matches!(save(&db, &barn, 3, json!([])).await, Update::Missing), "nothing was begun");
    assert!(matches!(save(&db, &barn, 0, json!(["a"])).await, Update::Done(p) if p.version == 1));
    assert!(matches!(save(&db, &barn, 0, json!(["b"])).await, Update::Stale(p) if p.draft == json!(["a"])));
    assert!(matches!(save(&db, &barn, 1, json!(["c"])).await, Update::Done(p) if p.version == 2));
    assert!(matches!(save(&db, &barn, 1, json!(["d"])).await, Update::Stale(p) if p.draft == json!(["c"])));
    assert_eq!(week::get(&db, &other.scope, TODAY).await.unwrap(), None, "another barn's week is its own");
    assert!(matches!(save(&db, &other, 0, json!([])).await, Update::Done(p) if p.version == 1));
}

fn planned(barn: &Barn, day: u64, hour: u32) -> PlannedRide {
    PlannedRide {
        id: Uuid::new_v4(),
        horse_id: barn.horse,
        rider_id: barn.scope.person(),
        ridden_on: TODAY + Days::new(day),
        starts_at: NaiveTime::from_hms_opt(hour, 0, 0).unwrap(),
        place: "arena".parse().unwrap(),
        work: format!("{}/S1@stand", barn.horse),
    }
}

async fn on_day(db: &PgPool, barn: &Barn, day: u64) -> Vec<Uuid> {
    let rides = ride::on_day(db, &barn.scope, TODAY + Days::new(day)).await.unwrap();
    rides.into_iter().map(|r| r.id).collect()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn publishing_replaces_what_was_not_begun_and_nothing_else(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    save(&db, &barn, 0, json!([])).await;
    let publish = async |version, from: u64, rides: &[PlannedRide]| {
        week::publish(&db, &barn.scope, TODAY, version, TODAY + Days::new(from), rides).await.unwrap()
    };
    // By hand on the fourth day: the plan leaves it that day.
    let by_hand = new_ride(&db, &barn, TODAY + Days::new(4)).await;
    let first: Vec<PlannedRide> = (0..5).map(|day| planned(&barn, day, 8)).collect();
    assert!(matches!(publish(1, 0, &first).await, Update::Done(p) if p.published == Some(json!([]))));
    assert_eq!(on_day(&db, &barn, 4).await, [by_hand]);
    // Begun, said why not, and over before the day from which is published: those stay.
    rep::put(&db, &barn.scope, &set(first[1].id, Side::Left), &new_rep(Answer::Gave)).await.unwrap();
    assert!(ride::set_missed(&db, &barn.scope, first[2].id, Some(MissedReason::Weather)).await.unwrap());
    let second: Vec<PlannedRide> = (0..4).map(|day| planned(&barn, day, 10)).collect();
    assert!(matches!(publish(1, 1, &second).await, Update::Stale(_)), "made from a version that is not the last");
    assert_eq!(on_day(&db, &barn, 3).await, [first[3].id], "and nothing of it happened");
    assert!(matches!(publish(2, 1, &second).await, Update::Done(p) if p.version == 3));
    for (day, id) in (0..).zip([first[0].id, first[1].id, first[2].id, first[3].id]) {
        assert_eq!(on_day(&db, &barn, day).await, [id], "day {day}");
    }
    // A ride that only moves keeps its id; where what was ridden has it, the one that is planned gets another.
    let moved = [planned(&barn, 5, 7)];
    assert!(matches!(publish(3, 3, &moved).await, Update::Done(_)));
    assert_eq!((on_day(&db, &barn, 3).await.len(), on_day(&db, &barn, 5).await), (0, vec![first[3].id]));
    rep::put(&db, &barn.scope, &set(first[3].id, Side::Left), &new_rep(Answer::Gave)).await.unwrap();
    let again = [PlannedRide { id: first[3].id, ..planned(&barn, 3, 7) }];
    assert!(matches!(publish(4, 3, &again).await, Update::Done(_)));
    let new = on_day(&db, &barn, 3).await;
    assert!(new.len() == 1 && new[0] != first[3].id && on_day(&db, &barn, 5).await == [first[3].id]);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn months_are_looked_back_on_in_one_barn_and_by_an_owner_on_their_own_horses(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let hers = Uuid::new_v4();
    let owned = horse::HorseFields { owner_id: Some(barn.scope.person()), ..horse_fields("Hers") };
    assert_eq!(horse::put(&db, &barn.scope, hers, &owned).await.unwrap(), Put::Created);
    let hers = Barn { scope: barn.scope, horse: hers };
    for (of, day) in [(&barn, 0), (&barn, 9), (&hers, 3), (&other, 1)] {
        let id = new_ride(&db, of, TODAY + Days::new(day)).await;
        rep::put(&db, &of.scope, &set(id, Side::Left), &new_rep(Answer::Gave)).await.unwrap();
    }
    new_ride(&db, &hers, TODAY).await;
    let to = TODAY + Days::new(6);
    let seen = async |scope: &Scope| {
        let mut rides: Vec<(Uuid, NaiveDate, bool)> = week::worked(&db, scope, TODAY, to)
            .await
            .unwrap()
            .iter()
            .map(|r| (r.horse_id, r.ridden_on, r.waits))
            .collect();
        rides.sort_unstable();
        rides
    };
    let mut mine =
        vec![(barn.horse, TODAY, false), (hers.horse, TODAY, true), (hers.horse, TODAY + Days::new(3), false)];
    mine.sort_unstable();
    assert_eq!(seen(&barn.scope).await, mine, "the ninth day is later, the other barn's not here");
    let reads = Scope::owner_in(barn.scope.shared(), barn.scope.person());
    assert_eq!(seen(&reads).await, [(hers.horse, TODAY, true), (hers.horse, TODAY + Days::new(3), false)]);
    let worked = week::worked(&db, &other.scope, TODAY, to).await.unwrap();
    assert_eq!(worked[0].steps, "S1@stand");
    // A horse that is only planned was not ridden yet.
    let mut days = week::first_ridden(&db, &barn.scope).await.unwrap();
    days.sort_unstable();
    let mut want = vec![(barn.horse, TODAY), (hers.horse, TODAY + Days::new(3))];
    want.sort_unstable();
    assert_eq!(days, want);
    assert_eq!(week::first_ridden(&db, &reads).await.unwrap(), [(hers.horse, TODAY + Days::new(3))]);
}

fn appointment(barn: &Barn, uid: Option<&str>) -> Appointment {
    Appointment {
        id: Uuid::new_v4(),
        kind: "farrier".parse().unwrap(),
        title: "Shoes".into(),
        day: TODAY,
        days: 1,
        from: 540,
        to: 600,
        rule: None,
        skipped: vec![],
        wants: vec![],
        uid: uid.map(str::to_owned),
        version: 1,
        people: vec![barn.scope.person()],
        horses: vec![barn.horse],
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_appointment_is_of_one_barn_and_takes_only_whom_that_barn_has(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let farrier = appointment(&barn, None);
    assert!(matches!(appointment::save(&db, &barn.scope, 0, &farrier).await.unwrap(), Update::Done(a) if a == farrier));
    assert!(matches!(appointment::save(&db, &barn.scope, 0, &farrier).await.unwrap(), Update::Done(_)), "sent again");
    let changed = Appointment { title: "Trim".into(), ..farrier.clone() };
    assert!(
        matches!(appointment::save(&db, &barn.scope, 0, &changed).await.unwrap(), Update::Stale(a) if a == farrier)
    );
    assert!(
        matches!(appointment::save(&db, &barn.scope, 1, &changed).await.unwrap(), Update::Done(a) if a.version == 2)
    );
    let strange = Appointment { id: Uuid::new_v4(), horses: vec![other.horse], ..farrier.clone() };
    assert!(matches!(appointment::save(&db, &barn.scope, 0, &strange).await.unwrap(), Update::Missing));
    assert_eq!(appointment::get(&db, &other.scope, farrier.id).await.unwrap(), None);
    assert!(!appointment::drop(&db, &other.scope, farrier.id).await.unwrap());
    // An owner sees what takes their own horses: here none.
    let reads = Scope::owner_in(barn.scope.shared(), barn.scope.person());
    assert_eq!(appointment::between(&db, &reads, TODAY, TODAY).await.unwrap(), []);
    assert_eq!(appointment::between(&db, &barn.scope, TODAY, TODAY).await.unwrap().len(), 1);
    assert!(appointment::drop(&db, &barn.scope, farrier.id).await.unwrap());
    assert!(!appointment::drop(&db, &barn.scope, farrier.id).await.unwrap());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_calendar_that_comes_in_twice_is_in_once(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let all = [appointment(&barn, Some("a@x")), appointment(&barn, Some("b@x"))];
    assert_eq!(appointment::add_all(&db, &barn.scope, &all).await.unwrap(), 2);
    let again = [appointment(&barn, Some("b@x")), appointment(&barn, Some("c@x"))];
    assert_eq!(appointment::add_all(&db, &barn.scope, &again).await.unwrap(), 1);
    let names = ["a@x", "c@x", "d@x"].map(str::to_owned);
    let mut known = appointment::known(&db, &barn.scope, &names).await.unwrap();
    known.sort_unstable();
    assert_eq!(known, ["a@x", "c@x"]);
    assert_eq!(appointment::known(&db, &other.scope, &names).await.unwrap(), Vec::<String>::new());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn cattle_and_agreements_are_the_barns_own(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    hours::set_cattle(&db, &barn.scope, &[0, 0, 12, 0, 0, 6, 0]).await.unwrap();
    hours::set_cattle(&db, &barn.scope, &[0, 0, 10, 0, 0, 6, 0]).await.unwrap();
    let mut cattle = hours::cattle(&db, &barn.scope).await.unwrap();
    cattle.sort_unstable();
    assert_eq!(cattle[2], (2, 10));
    assert!(hours::cattle(&db, &other.scope).await.unwrap().is_empty());
    assert!(hours::set_agreed(&db, &barn.scope, barn.horse, Some((3, 4))).await.unwrap());
    assert!(!hours::set_agreed(&db, &other.scope, barn.horse, Some((1, 1))).await.unwrap(), "not its horse");
    assert_eq!(hours::agreed(&db, &barn.scope).await.unwrap(), [(barn.horse, 3, 4)]);
    assert!(hours::set_agreed(&db, &barn.scope, barn.horse, None).await.unwrap());
    assert!(hours::agreed(&db, &barn.scope).await.unwrap().is_empty());
}
