//! The store on a real database: what the schema itself refuses, what is written twice, and what is kept.

use cavesson_core::{
    barn::RideState,
    curriculum::{Gait, Side},
    response::{Answer, Part},
};
use cavesson_store::{
    Put, Scope, StoreError, Update, account,
    attempt::{self, Attempt, Turn},
    horse::{self, HorseFields},
    hours,
    log::{
        bulk::{self, WholeRide, WholeSet},
        correction::{self, Correction},
        evidence::{self, Of},
        rep::{self, NewRep},
        revision,
        ride::{self},
    },
    person::{self, PersonFields},
    session,
    standing::{self, ComputedFrom},
};
use chrono::{Days, NaiveDate};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_schema_itself_refuses_a_row_that_points_into_another_barn(db: PgPool) {
    let (one, two) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let insert = "insert into ride (barn_id, id, horse_id, rider_id, ridden_on, place, state, entered, created_by)
                  values ($1, gen_random_uuid(), $2, $3, '2026-03-02', 'arena', 'planned', 'pen', $3)";
    for (horse, person, fits) in [
        (one.horse, one.scope.person(), true),
        (two.horse, one.scope.person(), false),
        (one.horse, two.scope.person(), false),
    ] {
        let done = sqlx::query(insert).bind(one.scope.shared()).bind(horse).bind(person).execute(&db).await;
        assert_eq!(done.is_ok(), fits);
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_same_id_in_two_barns_is_two_things(db: PgPool) {
    let (one, two) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let fields = horse_fields("Wren");
    assert_eq!(horse::put(&db, &two.scope, one.horse, &fields).await.unwrap(), Put::Created);
    assert_eq!(horse::put(&db, &two.scope, one.horse, &fields).await.unwrap(), Put::Same);
    assert_eq!(horse::put(&db, &two.scope, one.horse, &horse_fields("Else")).await.unwrap(), Put::Taken);
    assert_eq!(horse::get(&db, &one.scope, one.horse).await.unwrap().unwrap().name, "Juniper");
    assert_eq!(horse::get(&db, &two.scope, one.horse).await.unwrap().unwrap().name, "Wren");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn reps_come_back_as_they_were_logged(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let ride = new_ride(&db, &barn, TODAY).await;
    let key = set(ride, Side::Left);
    let answers = [
        Answer::Gave,
        Answer::Tried { missing: None },
        Answer::Tried { missing: Some(Part::First) },
        Answer::Tried { missing: Some(Part::Second) },
        Answer::None,
    ];
    for (position, answer) in (0..).zip(answers) {
        let new = NewRep { position, ..new_rep(answer) };
        assert_eq!(rep::put(&db, &barn.scope, &key, &new).await.unwrap(), Put::Created);
    }
    let sets = rep::of_rides(&db, &barn.scope, &[ride], false).await.unwrap();
    assert_eq!(sets.len(), 1);
    assert_eq!(sets[0].0, key);
    let back: Vec<Answer> = sets[0].1.iter().map(|r| r.rep.answer).collect();
    assert_eq!(back, answers);
    assert!(sets[0].1.iter().all(|r| r.rep.time.unwrap().get() == 1_234 && r.faults == ["leans"]));
    let evidence = evidence::reps(&db, &barn.scope, Of::Horses(&[barn.horse])).await.unwrap();
    let (on, before) = ((barn.horse, TODAY), (barn.horse, TODAY - Days::new(1)));
    assert_eq!(evidence::reps(&db, &barn.scope, Of::Days(&[before, on])).await.unwrap(), evidence);
    assert!(evidence::reps(&db, &barn.scope, Of::Days(&[before])).await.unwrap().is_empty());
    let other = new_barn(&db, "Two").await;
    assert!(evidence::reps(&db, &other.scope, Of::Days(&[on])).await.unwrap().is_empty());
    assert_eq!((evidence.len(), evidence[0].date, evidence[0].side), (5, TODAY, Side::Left));
    assert_eq!(
        ride::get(&db, &barn.scope, ride).await.unwrap().unwrap().state,
        RideState::Open,
        "the first rep opens the ride"
    );
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_rep_counts_the_log_up_once_and_a_removed_one_is_no_evidence(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let ride = new_ride(&db, &barn, TODAY).await;
    let (key, new) = (set(ride, Side::Right), new_rep(Answer::Gave));
    let revision = || async { horse::get(&db, &barn.scope, barn.horse).await.unwrap().unwrap().log_revision };
    for expected in [Put::Created, Put::Same, Put::Same] {
        assert_eq!(rep::put(&db, &barn.scope, &key, &new).await.unwrap(), expected);
    }
    assert_eq!(revision().await, 1);
    let removal = Correction { rep: new.rep, faults: vec![], removed: true };
    assert!(matches!(correction::put(&db, &barn.scope, new.id, 1, &removal).await.unwrap(), Update::Done(_)));
    assert_eq!(revision().await, 2);
    assert!(evidence::reps(&db, &barn.scope, Of::Horses(&[barn.horse])).await.unwrap().is_empty());
    assert!(matches!(correction::put(&db, &barn.scope, new.id, 1, &removal).await.unwrap(), Update::Stale(_)));
    assert_eq!(correction::put(&db, &barn.scope, Uuid::new_v4(), 1, &removal).await.unwrap(), Update::Missing);
    let back = Correction { removed: false, ..removal };
    correction::put(&db, &barn.scope, new.id, 2, &back).await.unwrap();
    assert_eq!(evidence::reps(&db, &barn.scope, Of::Horses(&[barn.horse])).await.unwrap().len(), 1);
    assert_eq!(correction::changes(&db, &barn.scope, barn.horse, 0, 10).await.unwrap().items.len(), 2);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn who_has_read_a_log_is_told_the_days_that_changed_since_and_no_others(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let days = [TODAY - Days::new(9), TODAY - Days::new(2), TODAY];
    let mut reps = vec![];
    for day in days {
        let ride = new_ride(&db, &barn, day).await;
        let new = new_rep(Answer::Gave);
        rep::put(&db, &barn.scope, &set(ride, Side::Left), &new).await.unwrap();
        reps.push((ride, new));
    }
    let count = async || horse::get(&db, &barn.scope, barn.horse).await.unwrap().unwrap().log_revision;
    let since = async |count| {
        let mut days: Vec<NaiveDate> = revision::changed_since(&db, &barn.scope, &[(barn.horse, count)])
            .await
            .unwrap()
            .iter()
            .map(|d| d.1)
            .collect();
        days.sort_unstable();
        days
    };
    assert_eq!(since(0).await, days);
    assert_eq!(since(1).await, days[1..]);
    let read = count().await;
    assert_eq!(since(read).await, []);
    // An old rep is corrected, and a ride's signs are noted: their days, and only those.
    let removal = Correction { rep: reps[0].1.rep, faults: vec![], removed: true };
    correction::put(&db, &barn.scope, reps[0].1.id, 1, &removal).await.unwrap();
    assert_eq!(since(read).await, days[..1]);
    // Sent again, a rep changes nothing.
    rep::put(&db, &barn.scope, &set(reps[2].0, Side::Left), &reps[2].1).await.unwrap();
    assert_eq!(since(read).await, days[..1]);
    assert!(revision::changed_since(&db, &other.scope, &[(barn.horse, 0)]).await.unwrap().is_empty());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_rep_finds_no_ride_of_another_barn(db: PgPool) {
    let (one, two) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let ride = new_ride(&db, &one, TODAY).await;
    let put = rep::put(&db, &two.scope, &set(ride, Side::Left), &new_rep(Answer::Gave)).await.unwrap();
    assert_eq!(put, Put::Missing);
    assert!(rep::of_rides(&db, &two.scope, &[ride], true).await.unwrap().is_empty());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_older_computation_never_replaces_a_newer_one(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let from = |revision| ComputedFrom { revision, as_of: TODAY, computed_with: "m/steady".into() };
    for (revision, word) in [(3, "new"), (2, "old"), (4, "newest")] {
        standing::put(&db, &barn.scope, barn.horse, &from(revision), &word).await.unwrap();
        let (made_from, expected) = if revision == 4 { (4, "newest") } else { (3, "new") };
        let latest = standing::latest(&db, &barn.scope, barn.horse).await.unwrap();
        assert_eq!(latest, Some(serde_json::json!(expected)));
        for asked in 2..=4 {
            let kept = standing::made_from(&db, &barn.scope, &[(barn.horse, &from(asked))]).await.unwrap();
            assert_eq!(kept.get(&barn.horse), (asked == made_from).then(|| format!("\"{expected}\"")).as_ref());
        }
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn many_rides_are_stored_as_single_ones_are(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let whole = |ago: u64, signs: Vec<String>| WholeRide {
        bit: None,
        hot: None,
        ground_id: None,
        id: Uuid::new_v4(),
        horse_id: barn.horse,
        rider_id: barn.scope.person(),
        ridden_on: TODAY - Days::new(ago),
        starts_at: None,
        place: "arena".parse().unwrap(),
        state: "closed".parse().unwrap(),
        note: format!("{ago} days ago"),
        signs,
        sets: vec![WholeSet {
            count: None,
            rung: "S1".into(),
            gait: Gait::Stand,
            side: Side::Left,
            reps: vec![(new_rep(Answer::Gave).rep, None), (new_rep(Answer::None).rep, Some("leans".into()))],
        }],
    };
    let rides: Vec<WholeRide> =
        (1..=450).map(|ago| whole(ago, if ago == 1 { vec!["licks".into(), "tail".into()] } else { vec![] })).collect();
    let mut tx = db.begin().await.unwrap();
    bulk::insert(&mut tx, barn.scope.shared(), &rides).await.unwrap();
    tx.commit().await.unwrap();
    assert_eq!(evidence::reps(&db, &barn.scope, Of::Horses(&[barn.horse])).await.unwrap().len(), 900);
    let (page, more) = ride::of_horse(&db, &barn.scope, barn.horse, None, 2).await.unwrap();
    assert!(more);
    assert_eq!((page[0].note.as_str(), page[0].reps), ("1 days ago", 2));
    assert_eq!((page[0].signs.as_slice(), page[1].signs.len()), (&["licks".to_owned(), "tail".to_owned()][..], 0));
    let notes = ride::last_notes(&db, &barn.scope, &[barn.horse], TODAY).await.unwrap();
    assert_eq!(notes, [(barn.horse, TODAY - Days::new(1), "1 days ago".to_owned())]);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_owners_scope_reaches_only_the_owners_horses(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let owner = Scope::owner_in(barn.scope.shared(), barn.scope.person());
    let ride = new_ride(&db, &barn, TODAY).await;
    assert_eq!(horse::get(&db, &owner, barn.horse).await.unwrap(), None);
    assert_eq!(ride::get(&db, &owner, ride).await.unwrap(), None);
    assert!(ride::on_day(&db, &owner, TODAY).await.unwrap().is_empty());
    assert!(
        matches!(hours::of_people(&db, &owner).await, Err(StoreError::StaffOnly)),
        "when people work is the staff's"
    );
    let written = horse::update(&db, &owner, barn.horse, 1, &horse_fields("Taken"), false).await;
    assert!(matches!(written, Err(StoreError::StaffOnly)), "an owner writes nothing");
    let theirs = HorseFields { owner_id: Some(barn.scope.person()), ..horse_fields("Juniper") };
    horse::update(&db, &barn.scope, barn.horse, 1, &theirs, false).await.unwrap();
    assert!(horse::get(&db, &owner, barn.horse).await.unwrap().is_some());
    assert_eq!(ride::on_day(&db, &owner, TODAY).await.unwrap().len(), 1);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn sessions_run_out_and_end_with_their_person(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let new = session::NewSession {
        token_hash: b"token",
        barn: barn.scope.shared(),
        person: barn.scope.person(),
        csrf: "csrf",
        kind: session::SessionKind::Office,
        device: "a test",
    };
    session::open(&db, &new).await.unwrap();
    assert_eq!(session::find(&db, b"token").await.unwrap().unwrap().csrf, "csrf");
    assert!(session::find(&db, b"other").await.unwrap().is_none());
    let fields = |email: &str| PersonFields { name: "P".into(), email: email.into(), role: "trainer".parse().unwrap() };
    // Someone has to be left who can manage the barn.
    person::insert(
        &mut db.acquire().await.unwrap(),
        barn.scope.shared(),
        Uuid::new_v4(),
        &fields("q@x.example"),
        Some("hash"),
    )
    .await
    .unwrap();
    let fields = fields("p@x.example");
    person::update(&db, &barn.scope, barn.scope.person(), 1, &fields, true).await.unwrap();
    assert!(session::find(&db, b"token").await.unwrap().is_none());
    assert!(account::by_email(&db, "P@X.example").await.unwrap().is_none(), "an archived person has no way in");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn attempts_are_counted_by_account_and_device_and_cleared(db: PgPool) {
    let of = |account: &'static str, device: Option<&'static [u8]>| Attempt { account, device, address: None };
    let mut latest = 0;
    for _ in 0..5 {
        let Turn::Now(id) = attempt::begin(&db, &of("ada", None)).await.unwrap() else { panic!("five are free") };
        latest = id;
    }
    assert_eq!(attempt::begin(&db, &of("ada", None)).await.unwrap(), Turn::In(4));
    for free in [of("bo", None), of("ada", Some(b"known"))] {
        assert!(matches!(attempt::begin(&db, &free).await.unwrap(), Turn::Now(_)), "{free:?}");
    }
    attempt::succeeded(&db, latest, &of("ada", None)).await.unwrap();
    assert!(matches!(attempt::begin(&db, &of("ada", None)).await.unwrap(), Turn::Now(_)));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_entered_afterwards_fills_the_planned_one_once(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let put = async |id: Uuid, new: &ride::NewRide| {
        let mut tx = db.begin().await.unwrap();
        let put = ride::put(&mut tx, &barn.scope, id, new).await.unwrap();
        tx.commit().await.unwrap();
        put
    };
    let planned = ride::NewRide {
        horse_id: barn.horse,
        rider_id: barn.scope.person(),
        ridden_on: TODAY,
        starts_at: chrono::NaiveTime::from_hms_opt(7, 45, 0),
        place: "round-pen".parse().unwrap(),
        state: "planned".parse().unwrap(),
        entered: "pen".parse().unwrap(),
        note: String::new(),
        signs: vec![],
        bit: Some("snaffle".into()),
        hot: None,
        ground_id: None,
        minutes: None,
    };
    let id = Uuid::new_v4();
    assert_eq!(put(id, &planned).await, Put::Created);
    let of = async |scope: &Scope| ride::planned_of(&db, scope, &[(barn.horse, TODAY)]).await.unwrap().len();
    assert_eq!((of(&barn.scope).await, of(&other.scope).await), (1, 0));
    assert!(
        ride::planned_of(&db, &barn.scope, &[(barn.horse, TODAY + chrono::Days::new(1))]).await.unwrap().is_empty()
    );
    let ridden = ride::NewRide {
        starts_at: None,
        place: "arena".parse().unwrap(),
        state: "closed".parse().unwrap(),
        entered: "afterwards".parse().unwrap(),
        note: "left was late".into(),
        signs: vec!["licks".into()],
        bit: None,
        ..planned.clone()
    };
    let elsewhen = ride::NewRide { ridden_on: TODAY - chrono::Days::new(1), ..ridden.clone() };
    assert_eq!(put(id, &elsewhen).await, Put::Taken, "it was planned for another day");
    assert_eq!(put(id, &ridden).await, Put::Created);
    assert_eq!(put(id, &ridden).await, Put::Same, "sent again, it is the same ride");
    assert_eq!(put(id, &planned).await, Put::Taken, "what was ridden is not planned any more");
    let now = ride::get(&db, &barn.scope, id).await.unwrap().unwrap();
    assert_eq!((now.place.word(), now.state.word(), now.note.as_str()), ("arena", "closed", "left was late"));
    assert_eq!(
        (now.starts_at, now.bit.as_deref()),
        (planned.starts_at, Some("snaffle")),
        "what was not said stays as planned"
    );
    assert_eq!(of(&barn.scope).await, 0);
}
