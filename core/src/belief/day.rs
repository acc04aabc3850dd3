use chrono::NaiveDate;

use crate::{
    count::Count,
    curriculum::{Hands, Place, Side, StepIx},
    response::Rep,
};

/// The work on one step and side on one day, in one place and in the same hands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Work {
    /// What was asked.
    pub step: StepIx,
    /// On which side.
    pub side: Side,
    /// The answers. Their order does not matter here.
    pub reps: Vec<Rep>,
    /// What was counted, on a step that is not counted in asks.
    pub counts: Vec<Count>,
    /// Where, where that is known.
    pub place: Option<Place>,
    /// In whose hands, where that is known.
    pub hands: Option<Hands>,
}

impl Work {
    /// Reps alone, in a place and in hands that are not told.
    pub fn reps(step: StepIx, side: Side, reps: Vec<Rep>) -> Work {
        Work { step, side, reps, counts: vec![], place: None, hands: None }
    }
}

/// A sign that a day was not one for something new.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[allow(missing_docs)]
pub enum Off {
    Sour,
    Hot,
    Sore,
    Tired,
    InSeason,
}

impl Off {
    /// From the tag of a sign: `sour`.
    pub fn of_tag(tag: &str) -> Option<Off> {
        Some(match tag {
            "sour" => Off::Sour,
            "hot" => Off::Hot,
            "sore" => Off::Sore,
            "tired" => Off::Tired,
            "in-season" => Off::InSeason,
            _ => return None,
        })
    }

    /// In a sentence: `sour`.
    pub const fn word(self) -> &'static str {
        match self {
            Off::Sour => "sour",
            Off::Hot => "hot",
            Off::Sore => "sore",
            Off::Tired => "tired",
            Off::InSeason => "in season",
        }
    }
}

/// One day of one horse. Two rides on one day are one day.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Day {
    /// The date.
    pub date: NaiveDate,
    /// What was worked; a step and side may come several times.
    pub work: Vec<Work>,
    /// Signs that it was not a day for something new.
    pub off: Vec<Off>,
}

impl Day {
    /// A day without such signs.
    pub fn new(date: NaiveDate, work: Vec<Work>) -> Day {
        Day { date, work, off: vec![] }
    }
}

/// A day that came before one already seen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("{day} comes before {seen}, which was already seen")]
pub struct OutOfOrder {
    /// The day that was offered.
    pub day: NaiveDate,
    /// The latest day seen.
    pub seen: NaiveDate,
}
