//! How fast a search goes where its time is short.
//!
//! A search that is cut off in the middle has not cooled, and ends far lower than one that went all the way with fewer moves at each
//! heat. So on a machine that turns out slow the rounds stay, and the moves in each become fewer.

use std::time::Duration;

/// The share of its moves that a round makes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Pace {
    sixteenths: u32,
}

impl Pace {
    /// All moves of each round.
    pub const FULL: Pace = Pace { sixteenths: 16 };

    /// Of all moves, 0 to 1.
    #[must_use]
    pub fn share(self) -> f64 {
        f64::from(self.sixteenths) / 16.0
    }

    /// The moves of a round at this pace.
    pub(super) fn of(self, moves: u32) -> u32 {
        moves * self.sixteenths / 16
    }
}

/// Finds the pace at which a search ends in time.
///
/// It looks at each eighth of the way, from a quarter on, and never goes faster again: a machine that is fast enough is not asked to
/// go slower, and so gives the same plan each time. It goes by the middle of the rounds since it looked last, so that one that was held
/// up does not count. Paces are few, so that a slow machine, too, mostly gives the plan that it gave the last time.
///
/// ```
/// use std::time::Duration;
/// use cavesson_core::schedule::{Pace, Pacer};
/// let after_a_quarter = |ms_a_round: u64| {
///     let mut pacer = Pacer::new(48, Duration::from_secs(2));
///     (1..=12).map(|n| pacer.after(n, Duration::from_millis(u64::from(n) * ms_a_round))).last()
/// };
/// assert_eq!(after_a_quarter(40), Some(Pace::FULL), "the others will fit");
/// assert!(after_a_quarter(80) < Some(Pace::FULL), "half of the time is left for three quarters of the work");
/// ```
#[derive(Debug, Clone)]
pub struct Pacer {
    rounds: u32,
    limit: Duration,
    pace: Pace,
    /// After how many rounds it looked the last time.
    looked: u32,
    /// How long each round since then took.
    took: Vec<Duration>,
    spent: Duration,
}

const LOOKS: u32 = 8;
/// The first rounds tell little of the others.
const FIRST_LOOK: u32 = 2;

impl Pacer {
    /// For a search of so many rounds that has so long.
    #[must_use]
    pub fn new(rounds: u32, limit: Duration) -> Pacer {
        Pacer { rounds: rounds.max(1), limit, pace: Pace::FULL, looked: 0, took: vec![], spent: Duration::ZERO }
    }

    /// The pace of the next round, after so many rounds and so long. It is asked after each round.
    pub fn after(&mut self, done: u32, spent: Duration) -> Pace {
        self.took.push(spent.saturating_sub(self.spent));
        self.spent = spent;
        let eighth = |done: u32| u64::from(LOOKS) * u64::from(done) / u64::from(self.rounds);
        if eighth(done) >= u64::from(FIRST_LOOK) && eighth(done) > eighth(self.looked) {
            self.looked = done;
            self.look(done);
        }
        self.pace
    }

    fn look(&mut self, done: u32) {
        let mut took = std::mem::take(&mut self.took);
        let middle = took.len() / 2;
        let (_, a_round, _) = took.select_nth_unstable(middle);
        let needs = *a_round * self.rounds.saturating_sub(done);
        let has = self.limit.saturating_sub(self.spent);
        if needs > has {
            let sixteenths = f64::from(self.pace.sixteenths) * has.as_secs_f64() / needs.as_secs_f64();
            self.pace = Pace { sixteenths: (sixteenths as u32).max(1) };
        }
    }
}
