//! What to ride today, and what to do next while riding: loosen on what is owned, work on what is next, quit on a good answer.

mod checks;
mod choice;
mod coach;
mod outline;
mod plan;
pub mod shorthand;

pub use checks::{Before, Check, Mouthpiece, checks, has_sore_mouth, is_tight, is_unsettled};
pub use choice::{Because, Habits, Swap, choices};
pub use coach::{Advice, AskedRep, Coached, SoFar, best, coach};
pub use outline::{Main, Outline, Split, outline};
pub use plan::{Conditions, Edit, NextBest, Part, Purpose, RidePlan, plan};
