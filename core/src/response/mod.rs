//! One ask, one answer, one release: the rep, what it took, and what meets a standard.

mod rep;
mod standard;
mod weight;

pub use rep::{Answer, Outcome, Part, Rep, ResponseTime, TimeOutOfRange};
pub use standard::{Share, ShareOutOfRange, Shortfall, Standard, Tally};
pub use weight::{UnknownWeight, Weight};
