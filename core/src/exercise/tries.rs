//! Tries at an obstacle: when to ask again, when to confirm at once, and when to make it smaller.

use serde::{Deserialize, Serialize};

use crate::{count::ObstacleStage, pattern::Hand, words::words};

/// A try at an obstacle.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ObstacleTry {
    /// How far it got.
    pub reached: ObstacleStage,
    /// The side it leaked to.
    #[serde(default)]
    pub leaked: Option<Hand>,
}

words! {
    "what to do next at an obstacle";
    /// What to do next.
    pub enum NextTry {
        /// Ask.
        Ask,
        /// Ask again.
        Again,
        /// It crossed for the first time: ask again at once.
        Confirm,
        /// A smaller piece of it.
        Smaller,
        /// Leave it at that.
        Leave,
    }
}

/// What to do next at an obstacle, and why.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TryAdvice {
    /// What.
    pub next: NextTry,
    /// In a sentence.
    pub why: String,
    /// The side to guard with rein and leg.
    pub guard: Option<Hand>,
}

/// So many tries without a step further are one piece too many (common practice).
const STUCK: usize = 3;

/// What to do next at an obstacle after the tries of today, in order. Common practice: every step further is released for, a first
/// crossing is confirmed at once, and what does not come is made smaller, not harder.
///
/// ```
/// use cavesson_core::{count::ObstacleStage, exercise::{NextTry, ObstacleTry, next_try}};
/// let reached = |reached| ObstacleTry { reached, leaked: None };
/// let mut tries = vec![reached(ObstacleStage::TwoFeet), reached(ObstacleStage::Crosses)];
/// assert_eq!(next_try(&tries).next, NextTry::Confirm);
/// tries.push(reached(ObstacleStage::Crosses));
/// assert_eq!(next_try(&tries).next, NextTry::Leave);
/// ```
pub fn next_try(tries: &[ObstacleTry]) -> TryAdvice {
    let guard = leaks_to(tries);
    let (next, why) = match tries {
        [] => (NextTry::Ask, "Let it look, and release for one step toward it.".to_owned()),
        [.., before, last] if last.reached == ObstacleStage::Crosses && before.reached == ObstacleStage::Crosses => {
            (NextTry::Leave, "It crossed twice running. Leave it at that.".to_owned())
        }
        [.., last] if last.reached == ObstacleStage::Crosses => {
            (NextTry::Confirm, "It crossed. Ask again at once, so that it knows that was it.".to_owned())
        }
        _ if is_stuck(tries) => {
            let why = format!("{STUCK} tries and no step further. Make it smaller: half of it, or one foot and away.");
            (NextTry::Smaller, why)
        }
        [before @ .., last] if before.iter().all(|it| it.reached < last.reached) => {
            (NextTry::Again, "A step further. Release, let it stand, then ask again.".to_owned())
        }
        _ => (NextTry::Again, "Ask again, no louder than before.".to_owned()),
    };
    let why = match guard {
        Some(hand) if !matches!(next, NextTry::Leave) => {
            format!("{why} It leaks {hand}: guard there with rein and leg.")
        }
        _ => why,
    };
    TryAdvice { next, why, guard }
}

/// None of the last tries got further than the best before them.
fn is_stuck(tries: &[ObstacleTry]) -> bool {
    if tries.len() < STUCK {
        return false;
    }
    // Where there were no more than these, the first of them is what the others are held against.
    let (before, last) = tries.split_at((tries.len() - STUCK).max(1));
    let best = before.iter().map(|it| it.reached).max();
    last.iter().all(|it| Some(it.reached) <= best)
}

/// The side of two of the last three tries.
fn leaks_to(tries: &[ObstacleTry]) -> Option<Hand> {
    let last = &tries[tries.len().saturating_sub(3)..];
    Hand::ALL.into_iter().find(|hand| last.iter().filter(|it| it.leaked == Some(*hand)).count() >= 2)
}
