//! From reps to what the horse does on an ordinary day.

mod barn_prior;
mod common;
mod count;
mod day;
mod hypotheses;
mod normal;
mod observer;
mod rep_model;
mod settings;
mod step_filter;

pub use barn_prior::{BarnEvidence, BarnPrior, HYPOTHESES, Hypotheses};
pub use count::{AskedBy, Count, CountError, ObstacleStage};
pub use day::{Day, Off, OutOfOrder, Work};
pub use observer::{Belief, Foreseen, Interval, Observer};
pub use settings::{InitialState, Learning, ModelSettings, ObservationModel, Spread};

/// Probability that a standard normal is over `z`.
///
/// ```
/// use cavesson_core::belief::normal_upper_tail;
/// assert!((normal_upper_tail(1.959_964) - 0.025).abs() < 1e-6);
/// ```
pub fn normal_upper_tail(z: f64) -> f64 {
    normal::below(-z)
}
