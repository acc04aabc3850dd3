//! What is told of a step and side.

use chrono::NaiveDate;

use crate::response::Tally;

/// Mean and 90 % interval of a share, `0 ≤ low ≤ mean ≤ high ≤ 1`.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Interval {
    /// Expected value.
    pub mean: f64,
    /// The share is below this one time in twenty.
    pub low: f64,
    /// The share is above this one time in twenty.
    pub high: f64,
}

/// What the record says about one step and side.
#[derive(Debug, Clone, PartialEq)]
pub struct Belief {
    /// Probability that the ordinary-day share is at least the standard's.
    pub ready: f64,
    /// Probability that it is more than 0.05 under the standard's.
    pub under: f64,
    /// The ordinary-day share of reps that meet the standard.
    pub share: Interval,
    /// Separate days with reps.
    pub days: u32,
    /// The last day with reps.
    pub last: NaiveDate,
    /// All reps of the last three days with reps.
    pub recent: Tally,
}

/// What a day is foreseen to show, before it is ridden.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Foreseen {
    /// The share of reps that will meet the standard.
    pub share: f64,
    /// How far the share of a day may lie from that, for reps without end: what is not known of the horse, and the day.
    pub sd: f64,
}
