//! Advance, hold, back, look at, leave alone: with the figures that decided it.
//!
//! [`Advisor`] follows a horse day by day and remembers what it was advanced on, since only what was owned can be lost. A
//! [`Survey`] is where the horse stands on a day: a [`SideCall`] weighs one step on one side, a [`StepCall`] the step as a
//! whole, where the weaker side and the needs below have their say, and a [`HorseCall`] comes before them all: possible
//! pain, or a horse better left alone.

mod advisor;
mod fault;
mod forecast;
mod overrule;
mod pain;
mod posture;
mod reach;
mod reasons;
mod rest;
mod softness;
mod step;
mod stored;
mod survey;
mod watch;

pub use advisor::{Advisor, Written};
pub use fault::{ANTICIPATES, Asked, FAULTS_SINCE, Factor, FaultPattern, fault_patterns, is_late};
pub use forecast::{Forecast, Shift, Spread, forecast, shift};
pub use overrule::{Overrule, Verdict};
pub use pain::{Fallen, Pain};
pub use posture::Posture;
pub(crate) use reasons::capitalised;
pub use rest::LeaveAlone;
pub use softness::{Softness, softness};
pub use step::{Call, HorseCall, Loss, SideCall, Standing, StepCall};
pub use stored::Stored;
pub use survey::Survey;
pub use watch::{Cusum, Watch};
