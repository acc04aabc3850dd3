//! What stands around a ride, on a real database: gear, plan, checks, weather, and who rode a set.

use cavesson_core::{
    barn::{CheckAnswer, GearKind},
    curriculum::Side,
    load::{GaitMinutes, Weather},
    response::Answer,
};
use cavesson_store::{
    Put, Update,
    gear::{self, GearFields},
    horse,
    log::{
        evidence::{self, Of},
        rep, ride, set as sets,
    },
    planned::{self, Edit},
};
use chrono::{Days, NaiveDate};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

fn bit(name: &str) -> GearFields {
    GearFields {
        kind: "bit".parse().unwrap(),
        name: name.into(),
        mouthpiece: Some("snaffle".parse().unwrap()),
        since: TODAY,
        mouth_seen: Some(TODAY),
        teeth_seen: Some(TODAY),
        note: String::new(),
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn gear_is_put_once_changed_by_version_and_stays_with_its_horse(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let id = Uuid::new_v4();
    let put =
        async |barn: &Barn, fields: &GearFields| gear::put(&db, &barn.scope, barn.horse, id, fields).await.unwrap();
    assert_eq!(put(&barn, &bit("snaffle")).await, Put::Created);
    assert_eq!(put(&barn, &bit("snaffle")).await, Put::Same);
    assert_eq!(put(&barn, &bit("ring snaffle")).await, Put::Taken);
    assert_eq!(put(&other, &bit("snaffle")).await, Put::Created, "ids are a barn's own");
    let strange = gear::put(&db, &other.scope, barn.horse, Uuid::new_v4(), &bit("x")).await.unwrap();
    assert_eq!(strange, Put::Missing, "a horse of another barn");
    let changed = gear::update(&db, &barn.scope, id, 1, &bit("D-ring"), false, TODAY).await.unwrap();
    assert!(matches!(changed, Update::Done(g) if g.name == "D-ring" && g.version == 2));
    let stale = gear::update(&db, &barn.scope, id, 1, &bit("late"), true, TODAY).await.unwrap();
    assert!(matches!(stale, Update::Stale(g) if g.name == "D-ring" && !g.archived));
    assert_eq!(
        gear::update(&db, &barn.scope, Uuid::new_v4(), 1, &bit("x"), false, TODAY).await.unwrap(),
        Update::Missing
    );
    let saddle_with_mouthpiece = GearFields { kind: "saddle".parse().unwrap(), ..bit("s") };
    assert!(gear::put(&db, &barn.scope, barn.horse, Uuid::new_v4(), &saddle_with_mouthpiece).await.is_err());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_wears_its_own_horses_gear_and_days_in_it_are_counted(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let (mine, theirs) = (Uuid::new_v4(), Uuid::new_v4());
    gear::put(&db, &barn.scope, barn.horse, mine, &bit("snaffle")).await.unwrap();
    gear::put(&db, &other.scope, other.horse, theirs, &bit("theirs")).await.unwrap();
    let days_ago = |n: u64| TODAY - Days::new(n);
    for ago in [3, 2] {
        let past = new_ride(&db, &barn, days_ago(ago)).await;
        assert!(gear::set_for_ride(&mut db.acquire().await.unwrap(), &barn.scope, past, &[mine]).await.unwrap());
        rep::put(&db, &barn.scope, &set(past, Side::Left), &new_rep(Answer::Gave)).await.unwrap();
    }
    let now = new_ride(&db, &barn, TODAY).await;
    assert!(!gear::set_for_ride(&mut db.acquire().await.unwrap(), &barn.scope, now, &[mine, theirs]).await.unwrap());
    assert!(!gear::set_for_ride(&mut db.acquire().await.unwrap(), &other.scope, now, &[theirs]).await.unwrap());
    assert_eq!(gear::of_last_rides(&db, &barn.scope, &[barn.horse], TODAY).await.unwrap(), [(barn.horse, mine)]);
    assert!(gear::of_rides(&db, &barn.scope, &[now]).await.unwrap().is_empty());
    assert_eq!(gear::get(&db, &barn.scope, mine, TODAY).await.unwrap().unwrap().days, 2);
    assert_eq!(gear::get(&db, &barn.scope, mine, days_ago(2)).await.unwrap().unwrap().days, 1);
    gear::set_for_ride(&mut db.acquire().await.unwrap(), &barn.scope, now, &[mine]).await.unwrap();
    assert_eq!(ride::get(&db, &barn.scope, now).await.unwrap().unwrap().bit.as_deref(), Some("snaffle"));
    assert!(ride::drop_planned(&db, &barn.scope, now).await.unwrap(), "what only was planned goes with what it wore");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn changes_to_a_plan_keep_their_order_and_a_swap_is_found_again(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let other = new_barn(&db, "Two").await;
    let id = new_ride(&db, &barn, TODAY).await;
    let edit = |edit: &str, step: &str, into: Option<&str>| Edit {
        id: Uuid::new_v4(),
        edit: edit.parse().unwrap(),
        step: step.into(),
        into_step: into.map(str::to_owned),
    };
    let all = [edit("add", "S1", None), edit("swap", "S1", Some("S2")), edit("drop", "S2", None)];
    let edits = async || -> Vec<Edit> {
        planned::edits(&db, &barn.scope, &[id]).await.unwrap().into_iter().map(|e| e.1).collect()
    };
    let put = async |e: &Edit| planned::put_edit(&db, &barn.scope, id, e).await.unwrap();
    for e in &all {
        assert_eq!(put(e).await, Put::Created);
    }
    assert_eq!(put(&all[1]).await, Put::Same);
    assert_eq!(put(&Edit { step: "S9".into(), ..all[1].clone() }).await, Put::Taken);
    assert_eq!(planned::put_edit(&db, &other.scope, id, &edit("add", "S1", None)).await.unwrap(), Put::Missing);
    assert_eq!(edits().await, all);
    assert!(planned::edits(&db, &other.scope, &[id]).await.unwrap().is_empty());
    let swaps = planned::swaps(&db, &barn.scope, &[barn.horse], TODAY - Days::new(1)).await.unwrap();
    assert_eq!((swaps.len(), swaps[0].from.as_str(), swaps[0].to.as_str()), (1, "S1", "S2"));
    assert!(planned::swaps(&db, &barn.scope, &[barn.horse], TODAY + Days::new(1)).await.unwrap().is_empty());
    planned::clear_edits(&db, &other.scope, id).await.unwrap();
    assert_eq!(edits().await.len(), 3);
    let revision = || async { horse::get(&db, &barn.scope, barn.horse).await.unwrap().unwrap().log_revision };
    let before = revision().await;
    planned::clear_edits(&db, &barn.scope, id).await.unwrap();
    assert!(edits().await.is_empty());
    assert!(revision().await > before, "a swap that is taken back is forgotten in the horse's standing too");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_check_keeps_its_last_answer_and_the_air_what_was_typed_last(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let id = new_ride(&db, &barn, TODAY).await;
    for (answer, words) in [(CheckAnswer::Not, ""), (CheckAnswer::Overruled, "ridden in a halter")] {
        assert!(planned::put_check(&db, &barn.scope, id, "teeth", Side::Both, answer, words).await.unwrap());
    }
    let kept = planned::checks(&db, &barn.scope, &[id]).await.unwrap();
    assert_eq!((kept.len(), kept[0].answer, kept[0].words.as_str()), (1, CheckAnswer::Overruled, "ridden in a halter"));
    assert!(!planned::put_check(&db, &other.scope, id, "teeth", Side::Both, CheckAnswer::Well, "").await.unwrap());
    for (celsius, humidity) in [(20.0, 40.0), (31.5, 44.0)] {
        planned::put_weather(&db, &barn.scope, TODAY, Weather::new(celsius, humidity).unwrap()).await.unwrap();
    }
    let air = planned::weather(&db, &barn.scope, TODAY).await.unwrap().unwrap();
    assert_eq!((air.celsius(), air.humidity()), (31.5, 44));
    assert_eq!(planned::weather(&db, &other.scope, TODAY).await.unwrap(), None);
    planned::note_air(&db, &barn.scope, id, air, true).await.unwrap();
    planned::note_air(&db, &barn.scope, id, Weather::new(5.0, 90.0).unwrap(), false).await.unwrap();
    let ride = ride::get(&db, &barn.scope, id).await.unwrap().unwrap();
    assert_eq!((ride.decicelsius, ride.hot), (Some(315), Some(true)), "the air in which it began stays");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_set_given_to_another_rider_is_that_riders_evidence_and_leaves_a_trace(db: PgPool) {
    let barn = new_barn(&db, "One").await;
    let owner = Uuid::new_v4();
    let fields = cavesson_store::person::PersonFields {
        name: "O".into(),
        email: format!("{owner}@x.example"),
        role: "owner".parse().unwrap(),
    };
    cavesson_store::person::insert(&mut db.acquire().await.unwrap(), barn.scope.shared(), owner, &fields, None)
        .await
        .unwrap();
    let id = new_ride(&db, &barn, TODAY).await;
    let key = set(id, Side::Left);
    rep::put(&db, &barn.scope, &key, &new_rep(Answer::Gave)).await.unwrap();
    let hands = async || evidence::reps(&db, &barn.scope, Of::Horses(&[barn.horse])).await.unwrap()[0].hands;
    assert_eq!(hands().await.word(), "trainer");
    assert!(sets::give_set(&db, &barn.scope, key.id, owner).await.unwrap());
    assert!(sets::give_set(&db, &barn.scope, key.id, owner).await.unwrap());
    assert_eq!(hands().await.word(), "owner");
    let traces: i64 = sqlx::query_scalar("select count(*) from set_change").fetch_one(&db).await.unwrap();
    assert_eq!(traces, 1, "the same thing said twice is one change");
    assert!(!sets::give_set(&db, &barn.scope, Uuid::new_v4(), owner).await.unwrap());
    assert!(sets::give_set(&db, &barn.scope, key.id, Uuid::new_v4()).await.is_err(), "nobody of this barn");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn words_of_a_barn_are_its_own_and_minutes_are_read_by_day(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    planned::put_alias(&db, &barn.scope, "noodle", Some("S1")).await.unwrap();
    planned::put_alias(&db, &barn.scope, "noodle", Some("S2")).await.unwrap();
    assert_eq!(planned::aliases(&db, &barn.scope).await.unwrap(), [("noodle".to_owned(), "S2".to_owned())]);
    assert!(planned::aliases(&db, &other.scope).await.unwrap().is_empty());
    planned::put_alias(&db, &other.scope, "noodle", None).await.unwrap();
    planned::put_alias(&db, &barn.scope, "noodle", None).await.unwrap();
    assert!(planned::aliases(&db, &barn.scope).await.unwrap().is_empty());

    let id = new_ride(&db, &barn, TODAY).await;
    let fields = ride::RideFields {
        rider_id: barn.scope.person(),
        starts_at: None,
        place: "arena".parse().unwrap(),
        ground_id: None,
        state: "closed".parse().unwrap(),
        note: String::new(),
        signs: vec![],
        bit: None,
        hot: None,
        minutes: Some(GaitMinutes { walk: 20, ..GaitMinutes::default() }),
    };
    ride::update(&db, &barn.scope, id, 1, &fields).await.unwrap();
    // What is not told does not take away what was.
    ride::update(&db, &barn.scope, id, 2, &ride::RideFields { minutes: None, ..fields }).await.unwrap();
    let days = |from: u64| (TODAY - Days::new(from), TODAY);
    let (from, to) = days(6);
    let read = ride::minutes(&db, &barn.scope, barn.horse, from, to).await.unwrap();
    assert_eq!(read, [(TODAY, GaitMinutes { walk: 20, ..GaitMinutes::default() })]);
    assert!(ride::minutes(&db, &other.scope, barn.horse, from, to).await.unwrap().is_empty());
}

/// What a horse had not worn before: not its first piece of a kind, nor what another barn's horse wears.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn only_a_change_of_gear_is_told_as_one(db: PgPool) {
    let (barn, other) = (new_barn(&db, "One").await, new_barn(&db, "Two").await);
    let day = |n: u64| TODAY - Days::new(n);
    let piece = |kind: GearKind, since: NaiveDate| GearFields {
        kind,
        name: "a piece".into(),
        mouthpiece: None,
        since,
        mouth_seen: None,
        teeth_seen: None,
        note: String::new(),
    };
    let put = async |barn: &Barn, fields: GearFields| {
        gear::put(&db, &barn.scope, barn.horse, Uuid::new_v4(), &fields).await.unwrap();
    };
    put(&barn, piece(GearKind::Saddle, day(400))).await;
    put(&barn, piece(GearKind::Boots, day(3))).await;
    let told = async |from| gear::fitted_since(&db, &barn.scope, from, TODAY).await.unwrap();
    assert_eq!(told(day(500)).await, [], "a first piece of its kind is no change");
    put(&barn, piece(GearKind::Saddle, day(5))).await;
    put(&other, piece(GearKind::Saddle, day(9))).await;
    put(&other, piece(GearKind::Saddle, day(2))).await;
    let fitted = gear::Fitted { horse_id: barn.horse, kind: GearKind::Saddle, since: day(5) };
    assert_eq!(told(day(60)).await, [fitted]);
    assert_eq!(told(day(4)).await, [], "before the days that are asked about");
}
