//! What is taught and in which order: rungs, gaits, sides and needs, read from data files and checked as a whole.

mod change;
mod check;
mod course;
mod definition;
mod gait;
mod place;
mod remedies;
mod road;
mod rung;
mod school;
mod work_needs;

pub use change::{Change, DatedChange};
pub(crate) use course::EMPTY_COURSE;
pub use course::{Course, CourseError, Step, StepIx};
pub use definition::{Curriculum, CurriculumError, ONE_REIN_STOP};
pub use gait::{Gait, Side, Sides};
pub use place::{Hands, Place};
pub use remedies::Heights;
pub use road::{Mouthpiece, Road, RoadStep, Stage};
pub use rung::{Fault, Ladder, Measure, Need, PatternPart, Rung, Sign, SignKind, Zone};
pub use school::{Choice, ExtraNeed, School, Shows};
pub use work_needs::{BitRoad, SubjectKind, WorkNeeds};
