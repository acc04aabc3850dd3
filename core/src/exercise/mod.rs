//! Exercises as they are ridden: the moves of a drill, tries at an obstacle, set-ups for the lope and changes of lead; and what to do
//! next of each.

mod change;
mod event;
mod set_up;
mod tries;

pub use change::{
    ChangeAdvice, ChangeCheck, ChangeLedger, ChangePart, ChangePlace, LeadChange, change_advice, change_ledger,
};
pub use event::{ExerciseError, ExerciseEvent, MoveAnswer};
pub use set_up::{GoShare, LopeSetUp, NextSetUp, SetUpLedger, SetUpTold, coming, go_share, next_set_up, set_up_ledger};
pub use tries::{NextTry, ObstacleTry, TryAdvice, next_try};
