use std::fmt;

use serde::{Deserialize, Serialize};

use super::Weight;
use crate::words::words;

words! {
    "an outcome";
    /// Whether the horse answered.
    pub enum Outcome {
        /// The whole answer.
        Gave,
        /// Part of it, or the right direction.
        Tried,
        /// No answer, or a wrong one.
        None,
    }
}

words! {
    "a part of an answer";
    /// A half of a two-part answer: "the feet have stopped" is the first of a stop, "it is off the bridle" the second.
    pub enum Part {
        /// The part named first in the rung.
        First,
        /// The part named second.
        Second,
    }
}

/// The horse's answer. A two-part answer counts only when it is whole, so half of one is a try
/// that knows which half was missing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Answer {
    /// The whole answer.
    Gave,
    /// Part of it. `missing` is known only on rungs whose answer has two parts.
    Tried {
        /// The part that did not come.
        missing: Option<Part>,
    },
    /// No answer, or a wrong one.
    None,
}

impl Answer {
    /// The answer that follows from the two parts of a two-part answer.
    ///
    /// ```
    /// use cavesson_core::response::{Answer, Outcome, Part};
    /// // A stop where the feet stopped but the horse stayed on the bridle is not a stop.
    /// let stiff = Answer::of_parts(true, false);
    /// assert_eq!(stiff, Answer::Tried { missing: Some(Part::Second) });
    /// assert_eq!(stiff.outcome(), Outcome::Tried);
    /// ```
    pub const fn of_parts(first: bool, second: bool) -> Answer {
        match (first, second) {
            (true, true) => Answer::Gave,
            (true, false) => Answer::Tried { missing: Some(Part::Second) },
            (false, true) => Answer::Tried { missing: Some(Part::First) },
            (false, false) => Answer::None,
        }
    }

    /// The answer as logged: an outcome, and for a try the part that was missing.
    /// `None` when a missing part is named on an answer that is not a try.
    ///
    /// ```
    /// use cavesson_core::response::{Answer, Outcome, Part};
    /// assert_eq!(Answer::of_outcome(Outcome::Gave, None), Some(Answer::Gave));
    /// assert_eq!(Answer::of_outcome(Outcome::Gave, Some(Part::First)), None, "a whole answer lacks nothing");
    /// ```
    pub const fn of_outcome(outcome: Outcome, missing: Option<Part>) -> Option<Answer> {
        match (outcome, missing) {
            (Outcome::Tried, missing) => Some(Answer::Tried { missing }),
            (Outcome::Gave, None) => Some(Answer::Gave),
            (Outcome::None, None) => Some(Answer::None),
            (Outcome::Gave | Outcome::None, Some(_)) => None,
        }
    }

    /// The three-way outcome.
    pub const fn outcome(self) -> Outcome {
        match self {
            Answer::Gave => Outcome::Gave,
            Answer::Tried { .. } => Outcome::Tried,
            Answer::None => Outcome::None,
        }
    }
}

/// Time from the ask to the give in milliseconds, 0 to one hour.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
pub struct ResponseTime(u32);

/// A time below zero, above an hour, or not a number.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("{0} s is not a time from ask to give; it must be from 0 to 3600 s")]
pub struct TimeOutOfRange(pub f64);

impl ResponseTime {
    /// One hour, the longest that one ask can take.
    pub const MAX: ResponseTime = ResponseTime(3_600_000);

    /// From whole milliseconds.
    ///
    /// # Errors
    /// Above [`ResponseTime::MAX`].
    pub fn new(millis: u32) -> Result<ResponseTime, TimeOutOfRange> {
        if millis <= Self::MAX.0 { Ok(ResponseTime(millis)) } else { Err(TimeOutOfRange(f64::from(millis) / 1000.0)) }
    }

    /// From seconds, rounded to the nearest millisecond.
    ///
    /// ```
    /// use cavesson_core::response::ResponseTime;
    /// assert_eq!(ResponseTime::from_seconds(1.2345).unwrap().get(), 1235);
    /// assert!(ResponseTime::from_seconds(-0.1).is_err() && ResponseTime::from_seconds(f64::NAN).is_err());
    /// ```
    ///
    /// # Errors
    /// Below zero, above an hour, or not a number.
    pub fn from_seconds(seconds: f64) -> Result<ResponseTime, TimeOutOfRange> {
        if (0.0..=3600.0).contains(&seconds) {
            Ok(ResponseTime((seconds * 1000.0).round() as u32))
        } else {
            Err(TimeOutOfRange(seconds))
        }
    }

    /// Whole milliseconds.
    pub const fn get(self) -> u32 {
        self.0
    }

    /// Seconds.
    pub fn seconds(self) -> f64 {
        f64::from(self.0) / 1000.0
    }
}

impl TryFrom<f64> for ResponseTime {
    type Error = TimeOutOfRange;
    fn try_from(seconds: f64) -> Result<Self, Self::Error> {
        ResponseTime::from_seconds(seconds)
    }
}

impl From<ResponseTime> for f64 {
    fn from(time: ResponseTime) -> f64 {
        time.seconds()
    }
}

impl fmt::Display for ResponseTime {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:.1} s", self.seconds())
    }
}

/// One ask, one answer, one release.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Rep {
    /// What the horse answered.
    pub answer: Answer,
    /// What it took in the hand.
    pub weight: Weight,
    /// From the ask to the give, where it was measured.
    pub time: Option<ResponseTime>,
}
