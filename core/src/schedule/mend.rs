//! What of a week stands when it is planned again: what was ridden, what is locked, and what still can be ridden.

use super::{Ix, Ride, Span, WeekProblem, Work, breaks, ride_load};
use crate::{curriculum::Gait, words::words};

words! {
    "what planning keeps";
    /// What planning a week again leaves as it is.
    pub enum Keep {
        /// Locked rides alone: the rest is planned again.
        Locked,
        /// All that still can be ridden: only the rest is planned, so that little moves.
        All,
    }
}

/// The rides of a plan that stay as they are, each with whether it is locked. `ridden` are the rides of the week that were ridden.
///
/// They are looked at one by one, the locked ones first: what breaks a rule beside those that stay already has to go.
///
/// ```
/// use cavesson_core::schedule::{DAYS, Horse, Place, Ride, Rider, Span, WeekProblem, Work, Keep, kept_rides};
/// let morning = vec![Span { day: 0, from: 480, to: 720 }];
/// let week = WeekProblem {
///     slot_minutes: 15,
///     riders: vec![Rider { id: "Ada".into(), hours: morning.clone() }],
///     places: vec![Place { id: "arena".into(), at_once: 1, hours: morning }],
///     horses: vec![Horse { id: "Wren".into(), least: 1, most: 2, two_days: 180, week: 480, away: vec![] }],
///     works: vec![Work { id: "stop".into(), horse: 0, minutes: 45, load: 60, places: vec![0], riders: vec![(0, 0)], worth: vec![20], gap_days: 1, cows: 0 }],
///     heat: vec![],
///     cows: [0; DAYS],
///     before: vec![],
///     day_names: WeekProblem::numbered_days(),
///     fixed: vec![],
/// };
/// let fits = Ride { work: 0, day: 0, start: 480, place: 0, rider: 0 };
/// let too_early = Ride { start: 420, ..fits };
/// assert_eq!(kept_rides(&week, &[], &[(fits, false)], Keep::All), [(fits, false)]);
/// assert_eq!(kept_rides(&week, &[], &[(too_early, false)], Keep::All), []);
/// assert_eq!(kept_rides(&week, &[], &[(fits, false)], Keep::Locked), []);
/// ```
pub fn kept_rides(week: &WeekProblem, ridden: &[Ride], planned: &[(Ride, bool)], keep: Keep) -> Vec<(Ride, bool)> {
    if keep == Keep::Locked {
        return planned.iter().copied().filter(|p| p.1).collect();
    }
    let mut order: Vec<&(Ride, bool)> = planned.iter().collect();
    order.sort_by_key(|p| !p.1);
    let mut week = WeekProblem { fixed: ridden.to_vec(), ..week.clone() };
    let mut rides = ridden.to_vec();
    let mut kept = vec![];
    for &(ride, locked) in order {
        rides.push(ride);
        if locked || breaks(&week, &rides).is_empty() {
            kept.push((ride, locked));
        } else {
            rides.pop();
        }
        if locked {
            week.fixed.push(ride);
        }
    }
    kept
}

/// The week as it can still be planned: with what stands, and without hours that are over. `first` is the first day that is not over,
/// 0 to 7, and `now` the minute of that day from which on it is open, where that is today.
pub fn still_open(week: &WeekProblem, stands: Vec<Ride>, first: u8, now: Option<u16>) -> WeekProblem {
    let mut open = WeekProblem { fixed: stands, ..week.clone() };
    for rider in &mut open.riders {
        rider.hours.retain(|s| s.day >= first);
        for span in rider.hours.iter_mut().filter(|s| s.day == first) {
            span.from = now.map_or(span.from, |now| span.from.max(now));
        }
        rider.hours.retain(|s: &Span| s.from < s.to);
    }
    open
}

/// The work of a ride that was ridden though nothing called for it: worth nothing, so that its load and its rider's time count and
/// nothing is planned for it. `load` is that of the ride, the rest that of a ride at the jog.
pub fn unplanned_work(horse: Ix, name: &str, age: Option<u32>, load: u32, (rider, place): (Ix, Ix)) -> Work {
    Work {
        id: format!("{name}: ridden"),
        horse,
        minutes: ride_load(Gait::Jog, age).total,
        load,
        places: vec![place],
        riders: vec![(rider, 0)],
        worth: vec![0],
        gap_days: 1,
        cows: 0,
    }
}

/// The rest of a day, for a horse or a rider that is off it: whole, since what was ridden stands anyway. `today` is 0 to 6.
///
/// ```
/// use cavesson_core::schedule::off_for_the_day;
/// assert!(off_for_the_day(2).overlaps(2, 0, 1) && !off_for_the_day(2).overlaps(3, 0, 1440));
/// ```
pub fn off_for_the_day(today: u8) -> Span {
    Span { day: today, from: 0, to: 24 * 60 }
}
