//! Where one more ride goes on a day that was picked by hand.

use super::{DAYS, Ix, Ride, WeekProblem, breaks};

/// A ride that is asked for: its day is certain, who rides and where may be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct SlotRequest {
    /// Of which work.
    pub work: Ix,
    /// 0 to 6.
    pub day: u8,
    /// By whom; by anyone who may where it is left open.
    pub rider: Option<Ix>,
    /// Where; anywhere that the work is ridden where it is left open.
    pub place: Option<Ix>,
}

/// The ride that breaks the fewest rules beside others; of those the one whose rider costs least, then the earliest. It may break
/// some all the same: the trainer asked for it, and is told. `None` where nobody may ride the work, or nowhere, or it does not fit
/// into a day.
///
/// ```
/// use cavesson_core::schedule::{DAYS, Horse, Place, Rider, Span, WeekProblem, Work, SlotRequest, best_slot};
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
/// let request = SlotRequest { work: 0, day: 0, rider: None, place: None };
/// assert_eq!(best_slot(&week, &[], request).map(|r| r.start), Some(480), "as early as it breaks nothing");
/// ```
pub fn best_slot(week: &WeekProblem, rides: &[Ride], request: SlotRequest) -> Option<Ride> {
    let SlotRequest { work, day, .. } = request;
    debug_assert!(usize::from(day) < DAYS);
    let it = &week.works[work];
    // Only what is ridden on that day or on that horse can be in its way.
    let near = |r: &&Ride| r.day == day || week.works[r.work].horse == it.horse;
    let mut beside: Vec<Ride> = rides.iter().filter(near).copied().collect();
    let stands = breaks(week, &beside).len();
    let riders: Vec<(i64, Ix)> = match request.rider {
        Some(rider) => vec![(0, rider)],
        None => it.riders.iter().map(|&(rider, cost)| (cost, rider)).collect(),
    };
    let places = request.place.map_or_else(|| it.places.clone(), |p| vec![p]);
    let starts = (0..24 * 60_u16).step_by(week.slot_minutes.into()).filter(|s| s + it.minutes <= 24 * 60);
    let mut ways: Vec<(i64, u16, Ix, Ix)> = starts
        .flat_map(|start| riders.iter().map(move |&(cost, rider)| (cost, start, rider)))
        .flat_map(|(cost, start, rider)| places.iter().map(move |&place| (cost, start, place, rider)))
        .collect();
    ways.sort_by_key(|&(cost, start, ..)| (cost, start));
    let mut best: Option<(usize, Ride)> = None;
    for (_, start, place, rider) in ways {
        let ride = Ride { work, day, start, place, rider };
        beside.push(ride);
        let more = breaks(week, &beside).len().saturating_sub(stands);
        beside.pop();
        if best.is_none_or(|(fewest, _)| more < fewest) {
            best = Some((more, ride));
        }
        if more == 0 {
            break;
        }
    }
    best.map(|(_, ride)| ride)
}
