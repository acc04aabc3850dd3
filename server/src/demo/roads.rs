//! The demo's horses on the roads from one bit to the next: first days in leverage behind it, and a spoiled mouth on the way down.

use cavesson_core::tack::{Came, Corner, TackEvent};
use cavesson_sim::stepping_down;
use cavesson_store::{
    Scope,
    log::bulk::WholeRide,
    tack_event::{self, NewTackEvent},
};
use chrono::{DateTime, Duration, NaiveTime, Utc};
use sqlx::PgPool;
use uuid::Uuid;

use super::{
    cast::{HORSES, Member},
    id,
};

/// The rung that is asked in leverage.
pub(super) const IN_LEVERAGE: &str = "B14";

/// The horse that had its first days in leverage.
const LEVERAGE: &str = "Pilgrim";
/// The horse on the way down, and the seed of how it goes.
const DOWN: (&str, u64) = ("Saltlick", 7);

/// A step of the list: which, how it came out, whether the head was tossed, hole of the strap, degrees, corner.
type Noted = (u8, Came, bool, Option<(u8, f64, Corner)>);

/// The first day: the head went up in the jog circle, the strap was a hole too long, and the poll was left for another day.
const FIRST: [Noted; 11] = [
    (0, Came::Passed, false, None),
    (1, Came::Passed, false, None),
    (2, Came::Passed, false, Some((5, 52.0, Corner::Wrinkled))),
    (3, Came::Passed, false, None),
    (4, Came::Passed, false, None),
    (5, Came::Fretted, true, None),
    (2, Came::Passed, false, Some((4, 44.0, Corner::Quiet))),
    (3, Came::Passed, false, None),
    (4, Came::Passed, false, None),
    (5, Came::Passed, false, None),
    (6, Came::Left, false, None),
];
/// The second: all the rest.
const SECOND: [Noted; 4] = [
    (6, Came::Passed, false, None),
    (7, Came::Passed, false, None),
    (8, Came::Passed, false, None),
    (9, Came::Passed, false, None),
];

/// When the ride of a day was got on, about.
fn begins(ride: &WholeRide) -> DateTime<Utc> {
    ride.ridden_on.and_time(ride.starts_at.unwrap_or(NaiveTime::MIN)).and_utc()
}

fn of_ride(ride: &WholeRide, n: usize, event: TackEvent<Uuid>) -> (Uuid, Uuid, NewTackEvent) {
    let at = begins(ride) + Duration::seconds(60 * n as i64);
    (ride.id, id(&format!("{}/tack/{n}", ride.id)), NewTackEvent { at, event, removed: false, version: 1 })
}

fn step((step, came, tossed, strap): Noted) -> TackEvent<Uuid> {
    let (hole, turned, corner) = strap
        .map_or((None, None, None), |(hole, turned, corner)| (Some(hole), Some(f64::to_radians(turned)), Some(corner)));
    TackEvent::Step { step, came, tossed, hole, turned, corner }
}

/// Notes the first days in leverage, and the test on the way down.
pub(super) async fn load(db: &PgPool, scope: &Scope, rides: &[WholeRide]) -> anyhow::Result<()> {
    let of = |name: &str| {
        let mut mine: Vec<&WholeRide> = rides.iter().filter(|r| r.horse_id == id(name) && !r.sets.is_empty()).collect();
        mine.sort_by_key(|ride| ride.ridden_on);
        mine
    };
    let wears_it = |member: &&Member| member.name == LEVERAGE;
    let bit = HORSES.iter().find(wears_it).map_or("", |member| member.bit);
    let ridden: Vec<&WholeRide> = of(LEVERAGE).into_iter().filter(|ride| ride.bit.as_deref() == Some(bit)).collect();
    let mut events = vec![];
    for (ride, day) in ridden.iter().zip([&FIRST[..], &SECOND[..]]) {
        events.extend(day.iter().enumerate().map(|(n, noted)| of_ride(ride, n, step(*noted))));
    }
    let down = of(DOWN.0);
    let days: Vec<_> = down.iter().map(|ride| ride.ridden_on).collect();
    for (n, (ask, head)) in stepping_down(&days, DOWN.1).into_iter().enumerate() {
        let Some(ride) = down.iter().find(|ride| ride.ridden_on == ask.on) else { continue };
        let event = TackEvent::Ask { gait: ask.gait, reins: ask.reins, braced: ask.braced, head };
        events.push(of_ride(ride, n, event));
    }
    Ok(tack_event::put_all(db, scope, &events).await?)
}
