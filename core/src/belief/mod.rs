//! From reps and counts to what the horse does on an ordinary day.

mod barn;
mod barn_prior;
mod common;
mod count_model;
mod day;
mod day_model;
mod hypotheses;
mod log_habits;
mod loss;
mod memo;
mod normal;
mod observer;
mod readings;
mod rep_model;
mod settings;
mod shares;
mod step_filter;
mod told;

pub use barn::{BarnFacts, BarnWeeks, HorseWeek, week_of};
pub use barn_prior::{BarnPrior, HorseEvidence};
pub use day::{Day, Off, OutOfOrder, Work};
pub use observer::Observer;
pub use readings::ReadingTally;
pub use settings::{DaySettings, InitialState, Learning, LossSettings, ModelSettings, ObservationModel, Spread};
pub use told::{Belief, Foreseen, Interval};

/// Probability that a standard normal is over `z`.
///
/// ```
/// use cavesson_core::belief::normal_upper_tail;
/// assert!((normal_upper_tail(1.959_964) - 0.025).abs() < 1e-6);
/// ```
pub fn normal_upper_tail(z: f64) -> f64 {
    normal::below(-z)
}
