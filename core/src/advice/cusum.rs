//! A watch on what a horse owns: the tabular CUSUM, which hears a small steady loss before the eye does.

/// The watch's settings, in standard deviations of one day.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CusumSettings {
    /// Slack: half of the loss that it should hear soonest.
    pub k: f64,
    /// Where it goes off.
    pub h: f64,
}

impl Default for CusumSettings {
    /// `k` = 0.5 and `h` = 4, downward only: on a horse that loses nothing it goes off once in about 336 days of reps on a side;
    /// a loss of one standard deviation is heard after 8.4 days on average. (Two-sided 168 and 8.4: Montgomery,
    /// Statistical Quality Control; memory. One side alone goes off half as often.)
    fn default() -> Self {
        CusumSettings { k: 0.5, h: 4.0 }
    }
}

/// One watch at work.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct CusumState {
    sum: f64,
    /// Days since the sum last stood at zero: when the loss began, if there is one.
    days: u32,
}

impl CusumState {
    /// Takes in a day: `z` is the day's share over what is owned, in standard deviations.
    ///
    /// ```
    /// use cavesson_core::advice::{CusumSettings, CusumState};
    /// let settings = CusumSettings::default();
    /// // Two days three standard deviations under: 2.5 + 2.5 is over h = 4.
    /// let state = CusumState::default().updated(settings, -3.0).updated(settings, -3.0);
    /// assert_eq!(state.alarm(settings), Some(2));
    /// ```
    #[must_use]
    pub fn updated(self, watch: CusumSettings, z: f64) -> CusumState {
        let sum = (self.sum - z - watch.k).max(0.0);
        CusumState { sum, days: if sum > 0.0 { self.days + 1 } else { 0 } }
    }

    /// Whether it has gone off, and how many days ago the loss began.
    pub fn alarm(self, watch: CusumSettings) -> Option<u32> {
        (self.sum > watch.h).then_some(self.days)
    }

    /// How far it has gone, in standard deviations.
    pub fn sum(self) -> f64 {
        self.sum
    }
}
