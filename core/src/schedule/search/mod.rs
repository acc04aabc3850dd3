//! The search: simulated annealing (Kirkpatrick, Gelatt and Vecchi 1983; memory) of a crowd of plans, of which the weaker half
//! is let go now and then, so that the last two have all the moves to themselves: "go with the winners" (Aldous and Vazirani
//! 1994; memory). What is scarce, cattle above all, is given out early while a plan is hot, and not moved again by small
//! steps when it has cooled: hence the crowd, which begins with different options of giving it out.
//!
//! The whole course depends on the week and the seed alone, in rounds of a fixed number of moves, so that more rounds only go
//! further along it: a longer search never ends lower. Which thread takes which plan makes no difference.

use std::sync::Mutex;

mod anneal;
mod bits;
mod conflicts;
mod knapsack;
mod one_horse;
mod options;
mod pace;
mod place;
mod rebuild;
mod repack;
mod state;
mod time_grid;

use anneal::{Annealer, Options};
use options::Choice;
use state::{Placed, Slot, State};

use super::{Ix, Ride, SHORT, WeekProblem};
use crate::threads;
pub(super) use options::{Group as RideOptions, Hours};
pub use pace::{Pace, Pacer};
pub(super) use state::{Placed as PlacedRide, State as SearchState};

/// How long to search.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Effort {
    /// Makes the same plan each time.
    pub seed: u64,
    /// Rounds of moves.
    pub rounds: u32,
}

/// How far a search is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Progress<'p> {
    /// Rounds done.
    pub rounds: u32,
    /// The best score so far.
    pub score: i64,
    /// The plan of that score, in no order.
    pub rides: &'p [Ride],
}

/// Moves of one round, shared by all plans of the crowd.
const MOVES: u32 = 12_000;
/// Threads that work at a time.
const THREADS: usize = 2;
/// Hottest and coldest, in units of the score.
const HOT: f64 = 2.0;
const COLD: f64 = 0.2;
/// What a ride too few counts for at first, and after which share of the way it counts in full. Where some horse has to be short, which
/// one it is could hardly change otherwise: a plan would have to lose all of it on the way.
const SHORT_AT_FIRST: f64 = 12.0;
const SHORT_IN_FULL: f64 = 0.6;
/// Weeks of up to so many works are small enough for a large crowd in a few seconds.
const MIDDLING: usize = 120;

/// One way from hot to cold.
struct Cycle {
    rounds: u32,
    crowd: usize,
}

/// A short cycle first, so that there soon is something to show; then long ones, each twice as long as the last.
fn cycle(n: u32, works: usize) -> Cycle {
    match n {
        0 => Cycle { rounds: 3, crowd: THREADS },
        _ => Cycle { rounds: 48 << (n - 1).min(20), crowd: if works > MIDDLING { 4 } else { 32 } },
    }
}

impl Cycle {
    fn heat(&self, round: u32) -> f64 {
        HOT * (COLD / HOT).powf(f64::from(round) / f64::from(self.rounds - 1))
    }

    /// What a ride that a horse is short of counts for in a round.
    fn short_cost(&self, round: u32) -> i64 {
        let way = f64::from(round) / f64::from(self.rounds - 1) / SHORT_IN_FULL;
        (SHORT_AT_FIRST + (SHORT as f64 - SHORT_AT_FIRST) * way.min(1.0)).round() as i64
    }

    /// How many plans are left in the crowd when a round begins: half of them go at each eighth of the way.
    fn left(&self, round: u32) -> usize {
        (self.crowd >> (8 * round / self.rounds)).max(THREADS)
    }
}

struct SearchSpace<'w> {
    empty: State<'w>,
    options: Options<'w>,
    open: &'w [Ix],
    seed: u64,
}

/// Plans a week. `on_progress` is told of the first plans and after each round. It answers at which pace the next round goes, and stops
/// the search by answering nothing; the best plan so far is given then too. What it gives breaks no rule beyond what the fixed rides
/// break among themselves. The same week, effort and paces give the same plan.
///
/// ```
/// use cavesson_core::schedule::{DAYS, Effort, Horse, Pace, Place, Rider, Span, WeekProblem, Work, breaks, plan};
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
/// let rides = plan(&week, Effort { seed: 1, rounds: 2 }, &mut |_progress| Some(Pace::FULL));
/// assert_eq!((rides.len(), breaks(&week, &rides).len()), (1, 0));
/// ```
pub fn plan(
    week: &WeekProblem,
    effort: Effort,
    on_progress: &mut dyn FnMut(Progress<'_>) -> Option<Pace>,
) -> Vec<Ride> {
    let (options, groups) = Hours::of(week).options();
    let empty = State::new(week);
    let open: Vec<Ix> = (0..week.works.len()).filter(|&w| !options[w].is_empty()).collect();
    let mut best = (empty.score(), empty.rides());
    let space = SearchSpace { empty, options: (&options, &groups), open: &open, seed: effort.seed };
    let most = upper_bound(week);
    let (mut n, mut into, mut rounds) = (0, 0, 0);
    let mut crowd = vec![];
    let mut pace = Pace::FULL;
    while rounds < effort.rounds && !open.is_empty() {
        let cycle = cycle(n, week.works.len());
        if into == 0 {
            crowd = space.crowd(u64::from(n) << 32, cycle.crowd);
        }
        if rounds == 0 {
            // What the first plans are filled with is shown before anything is searched.
            keep_best(&crowd, &mut best);
            let Some(first) = on_progress(Progress { rounds, score: best.0, rides: &best.1 }) else { break };
            pace = first;
        }
        drop_worst(&mut crowd, cycle.left(into));
        anneal_round(&mut crowd, (cycle.heat(into), cycle.short_cost(into)), pace.of(MOVES));
        keep_best(&crowd, &mut best);
        rounds += 1;
        into += 1;
        if into == cycle.rounds {
            (n, into) = (n + 1, 0);
        }
        match on_progress(Progress { rounds, score: best.0, rides: &best.1 }) {
            Some(next) if best.0 < most => pace = next,
            _ => break,
        }
    }
    let mut rides = best.1;
    week.in_order(&mut rides);
    rides
}

type Crowd<'w> = Vec<Mutex<Annealer<'w>>>;

impl<'w> SearchSpace<'w> {
    fn crowd(&self, first: u64, size: usize) -> Crowd<'w> {
        let annealer = |n: u64| Mutex::new(Annealer::new(&self.empty, self.options, self.open, self.seed, first + n));
        (0..size as u64).map(annealer).collect()
    }
}

fn keep_best(crowd: &Crowd<'_>, best: &mut (i64, Vec<Ride>)) {
    for annealer in crowd.iter().filter_map(|c| c.lock().ok()) {
        if annealer.best.0 > best.0 {
            best.clone_from(&annealer.best);
        }
    }
}

/// Lets go of those that did worse since the last time.
fn drop_worst(crowd: &mut Crowd<'_>, left: usize) {
    if crowd.len() > left {
        let sum = |c: &Mutex<Annealer<'_>>| c.lock().map_or(i64::MIN, |c| c.sum);
        crowd.sort_by_cached_key(|c| std::cmp::Reverse(sum(c)));
        crowd.truncate(left);
        crowd.iter_mut().filter_map(|c| c.get_mut().ok()).for_each(|c| c.sum = 0);
    }
}

/// A round of moves, shared by the plans; the threads take the plans as they come.
fn anneal_round(crowd: &mut Crowd<'_>, (heat, short_cost): (f64, i64), moves: u32) {
    let moves = moves / crowd.len() as u32;
    threads::each(THREADS, crowd, |annealer| annealer.round(heat, short_cost, moves));
}

/// The same rides with the same riders in the same places, each as early in its day as the others leave room for. The score does not
/// change, and no rule is broken that was not.
pub fn shift_early(week: &WeekProblem, rides: &[Ride]) -> Vec<Ride> {
    let (options, _) = Hours::of(week).options();
    let mut state = State::new(week);
    let mut out: Vec<Ride> = rides.iter().copied().filter(|r| week.fixed.contains(r)).collect();
    let mut free: Vec<Ride> = rides.iter().copied().filter(|r| !week.fixed.contains(r)).collect();
    free.sort_by_key(|r| (r.day, r.start));
    let placed = |ride| Placed { ride, cost: 0, fixed: false };
    let mut slots: Vec<Slot> = free.iter().map(|&r| state.put(placed(r))).collect();
    for (ride, slot) in free.iter_mut().zip(&mut slots) {
        state.take(*slot);
        let same = |c: &&Choice| {
            let r = c.ride(ride.work);
            (r.day, r.place, r.rider) == (ride.day, ride.place, ride.rider) && r.start < ride.start
        };
        if let Some(c) = options[ride.work].iter().filter(same).find(|c| state.time_fits(ride.work, **c)) {
            ride.start = c.start;
        }
        *slot = state.put(placed(*ride));
    }
    out.extend(free);
    week.in_order(&mut out);
    out
}

/// A score that no plan can pass: every ride of every work that has a way, by its cheapest rider, no horse short.
fn upper_bound(week: &WeekProblem) -> i64 {
    let of = |work: &super::Work| {
        let cheapest = work.riders.iter().map(|(_, cost)| *cost).min().unwrap_or(0);
        work.worth.iter().map(|w| w - cheapest).sum::<i64>()
    };
    week.works.iter().map(of).sum()
}
