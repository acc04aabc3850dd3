use chrono::NaiveDate;

use super::{LeaveAlone, Pain};
use crate::{
    belief::Belief,
    curriculum::{Course, Hands, Place, Side, StepIx},
    words::words,
};

words! {
    "a call";
    /// What to do about a step.
    pub enum Call {
        /// Go on: the next gait, the next rung, the next place, other hands.
        Advance,
        /// Stay here.
        Hold,
        /// It was owned and is not now: go back to it.
        Back,
        /// Possible pain: no training until someone has looked.
        LookAt,
        /// Sour, hot, tired, too many days running: not today.
        LeaveAlone,
    }
}

words! {
    "a status";
    /// Where a horse stands on a step or a side of it.
    pub enum Status {
        /// No reps yet.
        Untried,
        /// Under way.
        Learning,
        /// Owned.
        Owned,
        /// Was owned, and is now probably more than 0.05 under the standard.
        Slipping,
    }
}

/// The best that an owned side was believed to be.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Best {
    /// The ordinary-day share.
    pub(super) share: f64,
    /// The day on which that was last so.
    pub(super) on: NaiveDate,
}

/// The call on one side of a step.
#[derive(Debug, Clone, PartialEq)]
pub struct SideCall {
    /// The side.
    pub side: Side,
    /// What the record says.
    pub belief: Belief,
    /// What to do.
    pub call: Call,
    /// Where the side stands.
    pub status: Status,
    /// Plain sentences, the deciding one first; at least one carries figures.
    pub why: Vec<String>,
}

/// The call on a whole step.
#[derive(Debug, Clone, PartialEq)]
pub struct StepCall {
    /// The step.
    pub step: StepIx,
    /// What to do.
    pub call: Call,
    /// Where the step stands: owned only when every side is.
    pub status: Status,
    /// Every side with reps, left before right.
    pub sides: Vec<SideCall>,
    /// The side that holds the step up, where one does.
    pub weaker: Option<Side>,
    /// Needs of this step that are not owned, lowest first.
    pub holes: Vec<StepIx>,
    /// Where an advance leads: steps whose needs are now all owned and that are not owned themselves.
    pub next: Vec<StepIx>,
    /// The next place for it, where it is owned in the last.
    pub place: Option<Place>,
    /// The next hands for it, where it is owned in the last.
    pub hands: Option<Hands>,
    /// Where a back leads: a hole below, the gait below, or the step itself.
    pub back_to: Option<StepIx>,
    /// Owned, and not asked for so long that a few reps are due.
    pub due: bool,
    /// Plain sentences, the deciding one first.
    pub why: Vec<String>,
}

/// A call on the whole horse, before any on a rung.
#[derive(Debug, Clone, PartialEq)]
pub enum HorseCall {
    /// One side fell off at once: possible pain.
    LookAt(Pain),
    /// It was noted sore.
    Sore {
        /// On which day.
        since: NaiveDate,
    },
    /// Not today.
    LeaveAlone(LeaveAlone),
}

impl HorseCall {
    /// The call.
    pub const fn call(&self) -> Call {
        match self {
            HorseCall::LookAt(_) | HorseCall::Sore { .. } => Call::LookAt,
            HorseCall::LeaveAlone(_) => Call::LeaveAlone,
        }
    }

    /// Plain sentences, the deciding one first.
    pub fn why(&self, course: &Course) -> Vec<String> {
        match self {
            HorseCall::LookAt(pain) => pain.why(course),
            HorseCall::Sore { since } => vec![
                format!("Noted sore on {}: no training until someone has looked", since.format("%-d %B")),
                "Mouth, feet, back, saddle first: dentist, farrier, vet, saddler. Write down what was found".to_owned(),
            ],
            HorseCall::LeaveAlone(leave) => vec![leave.to_string()],
        }
    }
}
