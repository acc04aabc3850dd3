//! What was left out of a plan, and why.

use std::collections::BTreeMap;

use super::{
    Ix, Ride, WeekProblem,
    search::{Hours, PlacedRide as Placed, RideOptions, SearchState as State},
};

/// A work with fewer rides than its worth has entries.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LeftOut {
    /// The work.
    pub work: Ix,
    /// How many rides are missing.
    pub missed: usize,
    /// Why, in plain words.
    pub why: String,
}

/// A horse under its least.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Short {
    /// The horse.
    pub horse: Ix,
    /// Its rides.
    pub rides: usize,
    /// Its least.
    pub least: usize,
    /// Why, in plain words.
    pub why: String,
}

/// What keeps one way of riding a work out of a plan: the horse's own first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Blocker {
    Most,
    WeekLoad,
    Gap,
    Cows,
    TwoDays,
    Day,
    Rider(usize),
    Place(usize),
    Cost,
}

/// Every work that lacks rides, in the order of the works.
///
/// ```
/// use cavesson_core::schedule::{DAYS, Horse, Place, Rider, Span, WeekProblem, Work, left_out};
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
/// let missing = left_out(&week, &[]);
/// assert_eq!((missing.len(), missing[0].missed), (1, 1));
/// ```
pub fn left_out(week: &WeekProblem, rides: &[Ride]) -> Vec<LeftOut> {
    let (state, mut hours) = (state_of(week, rides), Hours::of(week));
    let lacks = |w: &Ix| state.of_work[*w].len() < week.works[*w].worth.len();
    (0..week.works.len())
        .filter(lacks)
        .map(|w| LeftOut {
            work: w,
            missed: week.works[w].worth.len() - state.of_work[w].len(),
            why: why(week, &state, w, &hours.groups(w)),
        })
        .collect()
}

/// Every horse under its least, in the order of the horses.
pub fn short(week: &WeekProblem, rides: &[Ride]) -> Vec<Short> {
    let (state, mut hours) = (state_of(week, rides), Hours::of(week));
    let mut out = vec![];
    for (h, horse) in week.horses.iter().enumerate() {
        let (rides, least) = (state.of_horse[h].len(), usize::from(horse.least));
        if rides >= least {
            continue;
        }
        let works: Vec<Ix> = (0..week.works.len()).filter(|&w| week.works[w].horse == h).collect();
        let lacking = works.iter().copied().filter(|&w| state.of_work[w].len() < week.works[w].worth.len());
        let best = lacking.max_by_key(|&w| (state.gain(w), std::cmp::Reverse(w)));
        let why = match best {
            None if works.is_empty() => "it has no works".to_owned(),
            None => format!("its works have {rides} rides in all"),
            Some(w) => format!("{}: {}", week.works[w].id, why(week, &state, w, &hours.groups(w))),
        };
        out.push(Short { horse: h, rides, least, why });
    }
    out
}

fn state_of<'w>(week: &'w WeekProblem, rides: &[Ride]) -> State<'w> {
    let mut state = State::new(week);
    for &ride in rides.iter().filter(|r| !week.fixed.contains(r)) {
        state.put(Placed { ride, cost: 0, fixed: false });
    }
    state
}

/// The commonest blocker over all ways; of two that are as common, the one nearer to the hour.
fn why(week: &WeekProblem, state: &State<'_>, w: Ix, ways: &[RideOptions]) -> String {
    let work = &week.works[w];
    // Days on which it is ridden already say nothing, where there are others.
    let mine: Vec<u8> = state.of_work[w].iter().map(|&s| state.placed(s).ride.day).collect();
    let others: Vec<&RideOptions> = ways.iter().filter(|group| !mine.contains(&group.day)).collect();
    let asked = if others.is_empty() { ways.iter().collect() } else { others };
    let mut blockers: BTreeMap<Blocker, u32> = BTreeMap::new();
    for of_day in asked.chunk_by(|a, b| a.day == b.day) {
        let of_horse = blocker_of_day(week, state, w, of_day[0].day);
        for group in of_day {
            let by = state.count_starts(w, group);
            let counts = match of_horse {
                Some(blocker) => vec![(blocker, by.rider + by.place + by.free)],
                None => vec![
                    (Blocker::Rider(group.rider.into()), by.rider),
                    (Blocker::Place(group.place.into()), by.place),
                    (Blocker::Cost, by.free),
                ],
            };
            counts.into_iter().for_each(|(blocker, n)| *blockers.entry(blocker).or_default() += n);
        }
    }
    let Some((top, _)) = blockers.into_iter().max_by_key(|(_, n)| *n) else { return no_way(week, w) };
    let horse = &week.horses[work.horse];
    match top {
        Blocker::Most => format!("{} has its {} rides", horse.id, horse.most),
        Blocker::WeekLoad => format!("{} would be over its load of {} for the week", horse.id, horse.week),
        Blocker::Gap => format!("it needs {} days between rides", work.gap_days),
        Blocker::Cows => "the cows of those days are worked".to_owned(),
        Blocker::TwoDays => format!("{} would be over its load of {} for two days", horse.id, horse.two_days),
        Blocker::Day => format!("{} is ridden on the days that are left for it", horse.id),
        Blocker::Rider(r) => format!("{} is full on the days that are left for it", week.riders[r].id),
        Blocker::Place(p) => format!("{} is full at the hours that are left for it", week.places[p].id),
        Blocker::Cost => "it is worth less than its rider costs, or than what it would push out".to_owned(),
    }
}

fn no_way(week: &WeekProblem, w: Ix) -> String {
    let work = &week.works[w];
    let horse = &week.horses[work.horse];
    if horse.most == 0 {
        format!("{} is to have no rides", horse.id)
    } else if work.load > horse.week || work.load > horse.two_days {
        format!("its load of {} is more than {} may have", work.load, horse.id)
    } else if work.cows > week.cows.iter().copied().max().unwrap_or(0) {
        "there are no cows for it on any day".to_owned()
    } else {
        format!("no hour fits its rider, its place, {} and the heat at once", horse.id)
    }
}

/// What keeps a work out of a day whoever rides it where and when.
fn blocker_of_day(week: &WeekProblem, state: &State<'_>, w: Ix, day: u8) -> Option<Blocker> {
    let work = &week.works[w];
    let horse = &week.horses[work.horse];
    let mine = || state.of_horse[work.horse].iter().map(|&s| state.placed(s).ride);
    let load = &state.load[work.horse];
    let d = usize::from(day);
    let beside = |day: Option<usize>| day.and_then(|day| load.get(day)).copied().unwrap_or(0);
    let near = |r: Ride| r.work == w && r.day.abs_diff(day) < work.gap_days;
    if mine().count() >= usize::from(horse.most) {
        Some(Blocker::Most)
    } else if load.iter().sum::<u32>() + work.load > horse.week {
        Some(Blocker::WeekLoad)
    } else if mine().any(|r| r.work != w && r.day == day) {
        Some(Blocker::Day)
    } else if mine().any(near) {
        Some(Blocker::Gap)
    } else if work.cows > 0 && state.cows[d] + u32::from(work.cows) > u32::from(week.cows[d]) {
        Some(Blocker::Cows)
    } else if beside(d.checked_sub(1)).max(beside(Some(d + 1))) + work.load > horse.two_days {
        Some(Blocker::TwoDays)
    } else {
        None
    }
}
