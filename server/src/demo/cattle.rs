//! The demo's herd, and three weeks of works on it.

use cavesson_core::cattle::{CattleEvent, CowHealth, CowSpeed, FlagEnd, Manner, Position, StopTold, Stopped, Way};
use cavesson_store::{
    Scope,
    cattle::{self, CowFields, NewOnCattle},
    log::bulk::WholeRide,
};
use chrono::{DateTime, Days, Duration, NaiveDate, NaiveTime, Utc};
use rand::{Rng, RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use sqlx::PgPool;
use uuid::Uuid;

use super::id;

/// A cow: tag, looks, manner, health, note.
type Told = (&'static str, &'static str, Manner, CowHealth, &'static str);

const HERD: [Told; 20] = [
    ("4", "red, white face", Manner::Slow, CowHealth::Well, ""),
    ("7", "black, small", Manner::Slow, CowHealth::Well, "Turns well off the left fence"),
    ("9", "red brockle", Manner::Honest, CowHealth::Well, ""),
    ("11", "black baldy", Manner::Honest, CowHealth::Well, ""),
    ("12", "yellow", Manner::Honest, CowHealth::Well, "Honest both ways"),
    ("15", "red, one horn", Manner::Honest, CowHealth::RunnyEyes, ""),
    ("16", "black", Manner::Slow, CowHealth::Well, ""),
    ("18", "grey", Manner::Honest, CowHealth::Well, ""),
    ("21", "red, long", Manner::BobAndWeave, CowHealth::Well, ""),
    ("22", "black, white sock", Manner::Slow, CowHealth::Well, ""),
    ("25", "tiger stripe", Manner::BobAndWeave, CowHealth::Well, "Bobs hard to the right"),
    ("27", "red", Manner::Honest, CowHealth::Well, ""),
    ("28", "black, tall", Manner::Running, CowHealth::Well, "Runs the first lap"),
    ("30", "smoky", Manner::Honest, CowHealth::Lame, "Near hind, since the gate"),
    ("33", "red, white belly", Manner::Slow, CowHealth::Well, ""),
    ("34", "black", Manner::Honest, CowHealth::Well, ""),
    ("36", "brindle", Manner::Running, CowHealth::Well, ""),
    ("38", "red", Manner::Sour, CowHealth::Well, "Walks through a horse"),
    ("41", "black baldy, small", Manner::Slow, CowHealth::Well, ""),
    ("44", "yellow, white tail", Manner::Honest, CowHealth::Well, ""),
];

/// One that was sold a while ago.
const SOLD: Told = ("2", "red", Manner::Sour, CowHealth::Well, "Ran through the gate twice");

/// How long the log of the herd goes back, days.
const LOG: u64 = 21;
/// The rungs that are worked on a single cow by the demo's horses, the easiest first.
const ON_A_COW: [&str; 3] = ["C5", "C6", "C7"];
/// The horse that is worked on the flag.
const FLAGGED: &str = "Lantern";
/// The horse whose shoulders poke out, and to which side.
const POKES: (&str, Way) = ("Bristle", Way::Right);

fn cow(tag: &str) -> Uuid {
    id(&format!("cow/{tag}"))
}

async fn herd(db: &PgPool, scope: &Scope, today: NaiveDate) -> anyhow::Result<()> {
    for (told, left) in HERD.iter().map(|cow| (cow, None)).chain([(&SOLD, Some(today - Days::new(9)))]) {
        let (tag, looks, manner, health, note) = *told;
        let fields = CowFields {
            tag: tag.into(),
            looks: looks.into(),
            manner,
            health,
            source: "Leased until spring".into(),
            came_on: today - Days::new(75),
            left_on: left,
            note: note.into(),
        };
        cattle::put(db, scope, cow(tag), 0, &fields).await?;
    }
    Ok(())
}

/// Puts the herd there, with what was logged on it in three weeks of rides.
pub(super) async fn load(db: &PgPool, scope: &Scope, rides: &[WholeRide], today: NaiveDate) -> anyhow::Result<()> {
    herd(db, scope, today).await?;
    let since = today - Days::new(LOG);
    let on_cows = |ride: &&WholeRide| ride.sets.iter().any(|set| ON_A_COW.contains(&set.rung.as_str()));
    let mut ridden: Vec<&WholeRide> = rides.iter().filter(|r| r.ridden_on >= since).filter(on_cows).collect();
    ridden.sort_by_key(|ride| (ride.ridden_on, ride.starts_at, ride.id));
    let steady: Vec<&Told> = HERD
        .iter()
        .filter(|(_, _, manner, health, _)| {
            matches!(manner, Manner::Slow | Manner::Honest) && *health == CowHealth::Well
        })
        .collect();
    let mut rng = ChaCha8Rng::seed_from_u64(18);
    let (mut events, mut next) = (vec![], 0);
    for ride in ridden {
        for go in 0..2 + usize::from(rng.random_bool(0.4)) {
            // The same few come first to hand, and some are worn by it.
            next += 1;
            let picked = if next % 5 < 3 { steady[next % 3] } else { steady[next % steady.len()] };
            work(ride, go, picked, &mut rng, &mut events);
        }
    }
    on_the_flag(rides, since, &mut rng, &mut events);
    Ok(cattle::put_all(db, scope, &events).await?)
}

/// Stops on the flag of a horse that runs past it at the left end.
fn on_the_flag(rides: &[WholeRide], since: NaiveDate, rng: &mut impl Rng, events: &mut Vec<(Uuid, Uuid, NewOnCattle)>) {
    let mut works: Vec<&WholeRide> =
        rides.iter().filter(|r| r.horse_id == id(FLAGGED) && r.ridden_on >= since && !r.sets.is_empty()).collect();
    works.sort_by_key(|ride| ride.ridden_on);
    for ride in works.iter().rev().step_by(3).take(4) {
        let starts = ride.ridden_on.and_time(ride.starts_at.unwrap_or(NaiveTime::MIN)).and_utc();
        for n in 0..8 {
            let end = if n % 2 == 0 { FlagEnd::Left } else { FlagEnd::Right };
            let past = if n % 2 == 0 { rng.random_range(0..4) } else { rng.random_range(-1..2) };
            let stop = StopTold { end, past: 10 * past, late: false, guessed: rng.random_bool(0.1) };
            let at = starts + Duration::minutes(15) + Duration::seconds(20 * n);
            let new = NewOnCattle { at, event: CattleEvent::Flag { stop }, removed: false, version: 1 };
            events.push((ride.id, id(&format!("{}/flag/{n}", ride.id)), new));
        }
    }
}

/// One work: some turns, fewer right the faster the cow comes.
fn work(ride: &WholeRide, go: usize, told: &Told, rng: &mut impl Rng, events: &mut Vec<(Uuid, Uuid, NewOnCattle)>) {
    let starts = ride.ridden_on.and_time(ride.starts_at.unwrap_or(NaiveTime::MIN)).and_utc();
    let mut at: DateTime<Utc> = starts + Duration::minutes(18 + 6 * go as i64);
    let cow = cow(told.0);
    let mut log = |at: DateTime<Utc>, n: usize, event: CattleEvent<Uuid>| {
        let of = id(&format!("{}/cattle/{go}/{n}", ride.id));
        events.push((ride.id, of, NewOnCattle { at, event, removed: false, version: 1 }));
    };
    log(at, 0, CattleEvent::Work { cow, why: None });
    for n in 1..=rng.random_range(3..7) {
        at += Duration::seconds(rng.random_range(15..40));
        let speed = match rng.random_range(0..10) {
            0..5 => CowSpeed::Slow,
            5..9 => CowSpeed::Lively,
            _ => CowSpeed::Fast,
        };
        let way = if rng.random_bool(0.5) { Way::Left } else { Way::Right };
        let holds = match speed {
            CowSpeed::Slow => 0.95,
            CowSpeed::Lively => 0.65,
            CowSpeed::Fast => 0.2,
        };
        let late = if rng.random_bool(0.7) { Stopped::Past } else { Stopped::Short };
        let stopped = if rng.random_bool(holds) { Stopped::Even } else { late };
        let pokes = ride.horse_id == id(POKES.0) && way == POKES.1;
        let through = rng.random_bool(if pokes { 0.6 } else { 0.92 });
        let position = if rng.random_bool(0.6) { Position::Leg } else { Position::Pad };
        let honoured = rng.random_bool(if told.2 == Manner::Slow { 0.93 } else { 0.88 });
        log(at, n, CattleEvent::Turn { cow, way, position, stopped, through, speed, honoured });
    }
}
