//! What is taught and in which order: rungs, gaits, sides and needs, read from data files and checked as a whole.

mod change;
mod course;
mod curriculum;
mod gait;
mod place;
mod rung;
mod school;

pub use change::{Change, Dated};
pub(crate) use course::NO_STEPS;
pub use course::{Course, CourseFlaw, Step, StepIx};
pub use curriculum::{Curriculum, Flaw};
pub use gait::{Gait, Side, Sides};
pub use place::{Hands, Place};
pub use rung::{Fault, Ladder, Measure, Need, Rung, Sign, SignKind, Zone};
pub use school::{Choice, ExtraNeed, School};
