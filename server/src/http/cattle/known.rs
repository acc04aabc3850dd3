//! What the barn knows of its cattle: the herd with its log, and how fast a cow each horse holds.

use std::collections::HashMap;

use cavesson_core::cattle::{
    CattleEvent, CowWork, HeldTurn, HerdCow, HerdRules, SpeedLimit, Stopped, Turn, Way, WorkDone, cow_works,
    speed_limit,
};
use cavesson_store::cattle::{self, Cow, KeptOnCattle};
use chrono::{Days, NaiveDate};
use uuid::Uuid;

use crate::{App, Problem, auth::SignedIn};

/// Days that are looked back on: after so many nothing is left of a work, and a horse has changed.
const DAYS: u64 = 60;

/// A herd as it is known on a day.
pub(super) struct Herd {
    pub(super) cows: Vec<Cow>,
    /// Each with its log, in the same order.
    pub(super) known: Vec<HerdCow>,
    pub(super) rules: HerdRules,
    pub(super) rules_version: i32,
    events: Vec<KeptOnCattle>,
}

/// A work of a ride on a day.
pub(super) struct DayWork {
    pub(super) ride: Uuid,
    pub(super) horse: Uuid,
    pub(super) on: NaiveDate,
    pub(super) work: CowWork<Uuid>,
}

/// The works of rides, ride by ride in order of time.
pub(super) fn works_of(events: &[KeptOnCattle]) -> Vec<DayWork> {
    let mut rides: Vec<Vec<&KeptOnCattle>> = vec![];
    let mut place: HashMap<Uuid, usize> = HashMap::new();
    for kept in events {
        let at = *place.entry(kept.ride_id).or_insert_with(|| {
            rides.push(vec![]);
            rides.len() - 1
        });
        rides[at].push(kept);
    }
    let of_ride = |events: &Vec<&KeptOnCattle>| {
        let timed: Vec<(i64, CattleEvent<Uuid>)> =
            events.iter().map(|kept| (kept.at.timestamp(), kept.event.clone())).collect();
        let (ride, horse, on) = (events[0].ride_id, events[0].horse_id, events[0].on);
        cow_works(&timed).into_iter().map(move |work| DayWork { ride, horse, on, work }).collect::<Vec<_>>()
    };
    rides.iter().flat_map(of_ride).collect()
}

impl Herd {
    /// The herd of a day.
    pub(super) async fn of(app: &App, signed: &SignedIn, day: NaiveDate) -> Result<Herd, Problem> {
        let cows = cattle::herd(&app.db, &signed.scope, day).await?;
        let (rules, rules_version) = cattle::rules(&app.db, &signed.scope).await?;
        let events = cattle::between(&app.db, &signed.scope, day - Days::new(DAYS), day).await?;
        let mut logs: HashMap<Uuid, Vec<WorkDone>> = HashMap::new();
        for DayWork { on, work, .. } in works_of(&events) {
            let day = i32::try_from((on - day).num_days()).unwrap_or(i32::MIN);
            let (tried, honoured) = (f64::from(work.tried()), f64::from(work.honoured()));
            logs.entry(work.cow).or_default().push(WorkDone { day, minutes: work.minutes(), tried, honoured });
        }
        let known = cows
            .iter()
            .map(|cow| {
                let log = logs.remove(&cow.id).unwrap_or_default();
                HerdCow { manner: cow.fields.manner, health: cow.fields.health, log }
            })
            .collect();
        Ok(Herd { cows, known, rules, rules_version, events })
    }

    /// Where a cow stands in the herd.
    pub(super) fn place(&self, cow: Uuid) -> Option<usize> {
        self.cows.iter().position(|c| c.id == cow)
    }

    /// The works of the last weeks.
    pub(super) fn works(&self) -> Vec<DayWork> {
        works_of(&self.events)
    }
}

/// How fast a cow a horse holds, to the left and to the right, by its turns.
pub(super) fn limits(turns: &[Turn]) -> [SpeedLimit; 2] {
    [Way::Left, Way::Right].map(|way| {
        let held = |turn: &Turn| HeldTurn { speed: turn.speed.feet(), held: turn.stopped == Stopped::Even };
        speed_limit(&turns.iter().filter(|turn| turn.way == way).map(held).collect::<Vec<_>>())
    })
}

/// The slower of two limits that rest on something.
pub(super) fn slower(limits: [SpeedLimit; 2]) -> Option<SpeedLimit> {
    let seen = limits.into_iter().filter(|limit| limit.turns > 0);
    seen.reduce(|a, b| if b.limit < a.limit { b } else { a })
}
