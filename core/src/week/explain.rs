//! What was left out of a plan, and why.

use super::{
    Ix, Ride, Week,
    options::{Choice, of_work},
    state::{Placed, State},
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

/// What keeps one way of riding a work out of a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Bar {
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
pub fn left_out(week: &Week, rides: &[Ride]) -> Vec<LeftOut> {
    let state = standing(week, rides);
    let lacks = |w: &Ix| state.of_work[*w].len() < week.works[*w].worth.len();
    (0..week.works.len())
        .filter(lacks)
        .map(|w| LeftOut {
            work: w,
            missed: week.works[w].worth.len() - state.of_work[w].len(),
            why: why(week, &state, w, &of_work(week, w)),
        })
        .collect()
}

/// Every horse under its least, in the order of the horses.
pub fn short(week: &Week, rides: &[Ride]) -> Vec<Short> {
    let state = standing(week, rides);
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
            Some(w) => format!("{}: {}", week.works[w].id, why(week, &state, w, &of_work(week, w))),
        };
        out.push(Short { horse: h, rides, least, why });
    }
    out
}

fn standing<'w>(week: &'w Week, rides: &[Ride]) -> State<'w> {
    let mut state = State::new(week);
    for &ride in rides.iter().filter(|r| !week.fixed.contains(r)) {
        state.put(Placed { ride, cost: 0, fixed: false });
    }
    state
}

/// The commonest bar over all ways, the horse's own first.
fn why(week: &Week, state: &State<'_>, w: Ix, ways: &[Choice]) -> String {
    let work = &week.works[w];
    if ways.is_empty() {
        return no_way(week, w);
    }
    // Days on which it is ridden already say nothing, where there are others.
    let mine: Vec<u8> = state.of_work[w].iter().map(|&s| state.placed(s).ride.day).collect();
    let others: Vec<Choice> = ways.iter().copied().filter(|c| !mine.contains(&c.day)).collect();
    let asked = if others.is_empty() { ways } else { &others };
    let bars: Vec<Bar> = asked.iter().map(|&c| bar(week, state, w, c)).collect();
    let count = |b: Bar| bars.iter().filter(|x| **x == b).count();
    let mut kinds = bars.clone();
    kinds.sort_unstable();
    kinds.dedup();
    let Some(top) = kinds.into_iter().max_by_key(|&b| count(b)) else { return no_way(week, w) };
    let horse = &week.horses[work.horse];
    match top {
        Bar::Most => format!("{} has its {} rides", horse.id, horse.most),
        Bar::WeekLoad => format!("{} would be over its load of {} for the week", horse.id, horse.week),
        Bar::Gap => format!("it needs {} days between rides", work.gap_days),
        Bar::Cows => "the cows of those days are worked".to_owned(),
        Bar::TwoDays => format!("{} would be over its load of {} for two days", horse.id, horse.two_days),
        Bar::Day => format!("{} is ridden on the days that are left for it", horse.id),
        Bar::Rider(r) => format!("{} is full on the days that are left for it", week.riders[r].id),
        Bar::Place(p) => format!("{} is full at the hours that are left for it", week.places[p].id),
        Bar::Cost => "it is worth less than its rider costs, or than what it would push out".to_owned(),
    }
}

fn no_way(week: &Week, w: Ix) -> String {
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

fn bar(week: &Week, state: &State<'_>, w: Ix, c: Choice) -> Bar {
    let work = &week.works[w];
    let horse = &week.horses[work.horse];
    let mine = || state.of_horse[work.horse].iter().map(|&s| state.placed(s).ride);
    let load = &state.load[work.horse];
    let d = usize::from(c.day);
    let beside = |day: Option<usize>| day.and_then(|day| load.get(day)).copied().unwrap_or(0);
    let near = |r: Ride| r.work == w && r.day.abs_diff(c.day) < work.gap_days;
    if mine().count() >= usize::from(horse.most) {
        Bar::Most
    } else if load.iter().sum::<u32>() + work.load > horse.week {
        Bar::WeekLoad
    } else if mine().any(|r| r.work != w && r.day == c.day) {
        Bar::Day
    } else if mine().any(near) {
        Bar::Gap
    } else if work.cows > 0 && state.cows[d] + u32::from(work.cows) > u32::from(week.cows[d]) {
        Bar::Cows
    } else if beside(d.checked_sub(1)).max(beside(Some(d + 1))) + work.load > horse.two_days {
        Bar::TwoDays
    } else if state.time_fits(w, c) {
        Bar::Cost
    } else if state.rider_is_free(w, c) {
        Bar::Place(c.place.into())
    } else {
        Bar::Rider(c.rider.into())
    }
}
