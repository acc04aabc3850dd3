//! How fresh a cow is: what its works of the last days wore off, and the chance that it still honours a horse.
//!
//! Half-lives are invented defaults that the trainer sets.

/// A work of a cow.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WorkDone {
    /// The day, counted from today: 0 today, -1 yesterday.
    pub day: i32,
    /// Minutes.
    pub minutes: f64,
    /// Turns that were tried on it.
    pub tried: f64,
    /// And that it honoured: it turned with the horse.
    pub honoured: f64,
}

/// How fast works wear a cow and rest mends it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Wear {
    /// Half of the wear is gone after so many days, over 0.
    pub rest_half_days: f64,
    /// Half of its honour is gone after so many minutes of wear, over 0.
    pub wear_half_minutes: f64,
}

/// What is believed of a rested cow before its log says more: turns tried and honoured.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Start {
    /// Turns.
    pub tried: f64,
    /// Of which honoured, at most as many.
    pub honoured: f64,
}

/// A cow as it stands today.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CowDay {
    /// Chance that it honours a horse in position when it is rested, at most 0.98.
    pub rested: f64,
    /// Wear, minutes.
    pub wear: f64,
    how: Wear,
}

/// No cow honours every turn.
const MOST: f64 = 0.98;

impl Wear {
    /// What is left of a cow's honour at a wear, 0 to 1.
    fn leaves(self, minutes: f64) -> f64 {
        (-minutes / self.wear_half_minutes).exp2()
    }

    /// The wear of works by a day, minutes.
    fn of(self, works: &[WorkDone], day: i32) -> f64 {
        works.iter().map(|w| w.minutes * (-f64::from(day - w.day) / self.rest_half_days).exp2()).sum()
    }
}

impl CowDay {
    /// A cow by its log, oldest first.
    ///
    /// ```
    /// use cavesson_core::cattle::{CowDay, Start, Wear, WorkDone};
    /// let wear = Wear { rest_half_days: 4.0, wear_half_minutes: 20.0 };
    /// let start = Start { tried: 10.0, honoured: 8.5 };
    /// let log = [WorkDone { day: -2, minutes: 3.0, tried: 5.0, honoured: 4.0 }];
    /// let cow = CowDay::of(&log, start, wear);
    /// assert!((cow.rested - 12.5 / 15.0).abs() < 1e-12, "worked fresh: nothing is taken off");
    /// assert!((cow.wear - 3.0 / 2_f64.sqrt()).abs() < 1e-12, "two of four days take a root of two off");
    /// assert_eq!(cow.honour(0.0), 774);
    /// ```
    pub fn of(log: &[WorkDone], start: Start, how: Wear) -> CowDay {
        let (mut tried, mut honoured) = (start.tried, start.honoured);
        for (n, work) in log.iter().enumerate() {
            honoured += work.honoured;
            tried += work.tried * how.leaves(how.of(&log[..n], work.day));
        }
        CowDay { rested: (honoured / tried).min(MOST), wear: how.of(log, 0), how }
    }

    /// The chance that it honours a horse after so many minutes more today, in thousandths.
    pub fn honour(&self, minutes: f64) -> u32 {
        (1000.0 * self.rested * self.how.leaves(self.wear + minutes) + 0.5).floor() as u32
    }
}
