//! The search: a ride is forced in, what is in its way comes out and is put elsewhere, and the change is kept by the rule of
//! simulated annealing (Kirkpatrick, Gelatt and Vecchi 1983; memory).
//!
//! Two chains go on side by side in rounds of a fixed number of moves; after each round the better plan is kept, and now and
//! then the other chain goes on from it. The whole course depends on the week and the seed alone, so that more rounds only
//! go further along it: a longer search never ends lower.

use super::{
    Ix, Ride, Week,
    chain::Chain,
    options::{Group, choices, groups},
    state::State,
};

/// How long to search.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Effort {
    /// Makes the same plan each time.
    pub seed: u64,
    /// Rounds of moves of both chains.
    pub rounds: u32,
}

/// How far a search is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Progress {
    /// Rounds done.
    pub rounds: u32,
    /// The best score so far.
    pub score: i64,
}

/// Rounds from hot to cold.
const CYCLE: u32 = 40;
/// Hottest and coldest, in units of the score.
const HOT: f64 = 2.6;
const COLD: f64 = 0.18;

/// Plans a week. `heard` is told after each round, and stops the search by answering false; the best plan so far is given then
/// too. What it gives breaks no rule beyond what the fixed rides break among themselves.
pub fn plan(week: &Week, effort: Effort, heard: &mut dyn FnMut(Progress) -> bool) -> Vec<Ride> {
    let ways = choices(week);
    let empty = State::new(week);
    let by_day: Vec<Vec<Group>> = ways.iter().map(|w| groups(w, empty.unit, empty.words)).collect();
    let open: Vec<Ix> = (0..week.works.len()).filter(|&w| !ways[w].is_empty()).collect();
    let mut chains: Vec<Chain<'_>> =
        (0..2).map(|n| Chain::new(&empty, (&ways, &by_day), &open, effort.seed, n)).collect();
    let mut best = (chains[0].state.score, chains[0].state.rides());
    let most = highest(week);
    for round in 0..effort.rounds {
        let at = f64::from(round % CYCLE) / f64::from(CYCLE - 1);
        let heat = HOT * (COLD / HOT).powf(at);
        std::thread::scope(|scope| {
            for chain in &mut chains {
                scope.spawn(move || chain.round(heat));
            }
        });
        for chain in &chains {
            if chain.best.0 > best.0 {
                best.clone_from(&chain.best);
            }
        }
        if (round + 1).is_multiple_of(CYCLE) {
            // The next cycle goes on from the best plan in the one chain, and from its own in the other.
            let weaker = usize::from(chains[0].best.0 >= chains[1].best.0);
            let to = if (round / CYCLE).is_multiple_of(2) { weaker } else { 1 - weaker };
            chains[to].go_on_from(&best.1);
        }
        if !heard(Progress { rounds: round + 1, score: best.0 }) || best.0 >= most || open.is_empty() {
            break;
        }
    }
    let mut rides = best.1;
    week.in_order(&mut rides);
    rides
}

/// A score that no plan can pass: every ride of every work that has a way, by its cheapest rider, no horse short.
fn highest(week: &Week) -> i64 {
    let of = |work: &super::Work| {
        let cheapest = work.riders.iter().map(|(_, cost)| *cost).min().unwrap_or(0);
        work.worth.iter().map(|w| w - cheapest).sum::<i64>()
    };
    week.works.iter().map(of).sum()
}
