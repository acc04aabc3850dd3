//! From reps to what the horse does on an ordinary day.

mod assumptions;
mod barn;
mod common;
mod count;
mod day;
mod learner;
mod nearness;
mod normal;
mod observer;
mod strand;

pub use assumptions::{Assumptions, Learning, Signs, Spread, Starts};
pub use barn::{Barn, Barnmates, HYPOTHESES, Hypotheses};
pub use count::{AskedBy, Count, CountFlaw, Reached};
pub use day::{Day, Off, OutOfOrder, Work};
pub use observer::{Belief, Foreseen, Interval, Observer};

/// Probability that a standard normal is over `z`.
pub fn chance_over(z: f64) -> f64 {
    normal::below(-z)
}
