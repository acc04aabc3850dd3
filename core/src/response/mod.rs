//! One ask, one answer, one release: the rep, what it took, and what meets a standard.

mod rep;
mod standard;
mod weight;

pub use rep::{Answer, Outcome, Part, Rep, ResponseTime, TimeOutOfRange};
pub(crate) use standard::rank;
pub use standard::{Share, ShareOutOfRange, Shortfall, Standard, Tally, best};
pub use weight::{UnknownWeight, Weight};
