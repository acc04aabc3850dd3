//! What to ride today, and what to do next while riding: loosen on what is owned, work on what is next, quit on a good answer.

mod ask_trend;
mod asked;
mod checks;
mod choice;
mod coach;
mod outline;
mod plan;
mod trend;

pub use crate::curriculum::Mouthpiece;
pub use ask_trend::{AskTrend, Odds, ask_trend};
pub use asked::{Asked, Shown, best_asked};
pub use checks::{Check, CheckContext, checks, has_sore_mouth, is_tight, is_unsettled, teeth_are_due};
pub use choice::{Faulted, Habits, Hangs, Reason, Swap, choices};
pub use coach::{Advice, CoachLine, FORESEEN_FROM_DAYS, RideProgress, coach};
pub use outline::{Main, Outline, Split, outline};
pub use plan::{Conditions, Edit, NextBest, Part, Purpose, RidePlan, plan};
pub use trend::{AskChange, TrendLine, against_usual, trend};
