//! What is logged of an exercise, from the saddle or by a helper.

use serde::{Deserialize, Serialize};

use super::{LeadChange, LopeSetUp, ObstacleTry};
use crate::{figure::Obstacle, words::words};

words! {
    "an answer to a move";
    /// What came of a move of a drill that was called.
    pub enum MoveAnswer {
        /// It was right.
        Done,
        /// It was not, and is ridden again.
        Again,
    }
}

/// Something of an exercise.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum ExerciseEvent {
    /// A call of a figure was ridden.
    Move {
        /// The figure's name.
        #[cfg_attr(feature = "schema", schema(min_length = 1, max_length = 60))]
        figure: String,
        /// Which call of it, from 0.
        #[cfg_attr(feature = "schema", schema(maximum = 1000))]
        call: u16,
        /// What was called: `Circle left`.
        #[cfg_attr(feature = "schema", schema(min_length = 1, max_length = 200))]
        says: String,
        /// What came of it.
        answer: MoveAnswer,
    },
    /// A try at an obstacle.
    Try {
        /// What kind of obstacle.
        obstacle: Obstacle,
        /// Which one of the course: `Bridge 2`.
        #[cfg_attr(feature = "schema", schema(min_length = 1, max_length = 60))]
        name: String,
        /// How it went.
        of: ObstacleTry,
    },
    /// A set-up for the lope.
    SetUp {
        /// How it went.
        of: LopeSetUp,
    },
    /// A change of lead.
    Change {
        /// How it went.
        of: LeadChange,
    },
}

/// Why an event is not taken: the field and the mend.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{field}: {mend}")]
pub struct ExerciseError {
    /// Where it is, within the event.
    pub field: &'static str,
    /// What should stand there.
    pub mend: &'static str,
}

impl ExerciseEvent {
    /// Checks its texts and numbers.
    ///
    /// ```
    /// use cavesson_core::exercise::{ExerciseEvent, MoveAnswer};
    /// let says = "Circle left".to_owned();
    /// let event = ExerciseEvent::Move { figure: " ".to_owned(), call: 0, says, answer: MoveAnswer::Done };
    /// assert_eq!(event.check().unwrap_err().field, "figure");
    /// ```
    ///
    /// # Errors
    /// A name that is empty or too long, more calls than a figure has, or a change that is later than anybody sees.
    pub fn check(&self) -> Result<(), ExerciseError> {
        let text = |it: &str, most: usize| (1..=most).contains(&it.trim().chars().count()) && !it.contains('\0');
        let wrong = |field, mend| Err(ExerciseError { field, mend });
        match self {
            ExerciseEvent::Move { figure, .. } if !text(figure, 60) => wrong("figure", "1 to 60 characters"),
            ExerciseEvent::Move { says, .. } if !text(says, 200) => wrong("says", "1 to 200 characters"),
            ExerciseEvent::Move { call, .. } if *call > 1000 => wrong("call", "at most 1000"),
            ExerciseEvent::Try { name, .. } if !text(name, 60) => wrong("name", "1 to 60 characters"),
            ExerciseEvent::Change { of } if of.tenths.is_some_and(|tenths| tenths.abs() > 50) => {
                wrong("of.tenths", "at most five seconds either way, in tenths")
            }
            ExerciseEvent::Change { of } if of.strides.is_some_and(|strides| strides > 20) => {
                wrong("of.strides", "at most 20")
            }
            _ => Ok(()),
        }
    }
}
