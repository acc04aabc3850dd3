//! The log in shorthand: one line for each set, in the trainer's own short words.
//!
//! `flex L 6/8 egg 1.5s, R 4/8 orange head-up · jog stop 5/7 lemon`
//!
//! The grammar stands in `docs/shorthand.md`. Reading never fails as a whole and loses nothing: each character that is not
//! blank ends in a [`Word`] that is explained or in a [`Diagnostic`] that points at it. What is read can be written back
//! with [`write`], and is then read as the same.

mod facts;
mod grammar;
mod lexicon;
mod parse;
mod set;
mod tokens;
mod write;

use chrono::NaiveDate;

pub use facts::write as write_facts;
pub use lexicon::{AliasError, Lexicon};
pub use parse::parse;
pub use write::{write, write_count, write_set};

use cavesson_core::{
    count::Count,
    curriculum::{Gait, Side},
    load::GaitMinutes,
    response::{Answer, Rep, ResponseTime, Weight},
};

/// Where something stands: the line from 0, and characters of it from `from` up to, not including, `to`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[allow(missing_docs)]
pub struct Span {
    pub line: usize,
    pub from: usize,
    pub to: usize,
}

/// A word that was understood.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Word {
    /// Where.
    pub span: Span,
    /// What it means here.
    pub says: String,
}

/// Something that was not understood, or does not go together.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Diagnostic {
    /// Where.
    pub span: Span,
    /// What is wrong, and what would be right.
    pub says: String,
    /// The nearest word that is known.
    pub nearest: Option<String>,
}

/// The result of a set.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum SetResult {
    /// Reps: whole answers, tries, and none.
    #[allow(missing_docs)]
    Reps { gave: u8, tried: u8, none: u8 },
    /// A count, on a rung that is counted otherwise.
    Counted(Count),
}

/// A set as it was written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Set {
    /// The rung's id.
    pub rung: String,
    /// The gait.
    pub gait: Gait,
    /// The side.
    pub side: Side,
    /// Its result.
    pub result: SetResult,
    /// What the usual rep took; a lemon where nothing is said.
    pub weight: Weight,
    /// Seconds of the usual rep.
    pub time: Option<ResponseTime>,
    /// Tags of faults.
    pub faults: Vec<String>,
}

/// What else is told of a ride, by the names that the barn knows.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct RideFacts {
    /// Who rode.
    pub rider: Option<String>,
    /// Where.
    pub place: Option<String>,
    /// What the horse wore.
    pub gear: Vec<String>,
    /// How long at each gait.
    pub minutes: Option<GaitMinutes>,
}

/// A ride as it was written.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct ParsedRide {
    /// The line it begins on.
    pub line: usize,
    /// Whose it is, as the barn knows the horse; none where the text does not say.
    pub horse: Option<String>,
    /// Its day, where the text says.
    pub date: Option<NaiveDate>,
    /// What else is told of it.
    pub facts: RideFacts,
    /// Its sets.
    pub sets: Vec<Set>,
    /// Tags of signs.
    pub signs: Vec<String>,
    /// The note for tomorrow.
    pub note: String,
}

/// All that a text says.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct ParsedLog {
    /// The rides.
    pub rides: Vec<ParsedRide>,
    /// Every word that was understood, in order.
    pub words: Vec<Word>,
    /// Everything that was not, in order. A text is of use only without any.
    pub diagnostics: Vec<Diagnostic>,
}

impl Set {
    /// The reps of a set, each with the weight and the time of the usual one; the first of those that were not whole
    /// carries the faults, or the first of all where every answer was whole.
    pub fn reps(&self) -> Vec<(Rep, Vec<String>)> {
        let SetResult::Reps { gave, tried, none } = self.result else { return vec![] };
        let answers = [(Answer::Gave, gave), (Answer::Tried { missing: None }, tried), (Answer::None, none)];
        let reps = answers.into_iter().flat_map(|(answer, n)| std::iter::repeat_n(answer, usize::from(n)));
        let mut out: Vec<(Rep, Vec<String>)> =
            reps.map(|answer| (Rep { answer, weight: self.weight, time: self.time }, vec![])).collect();
        let at = if usize::from(gave) < out.len() { usize::from(gave) } else { 0 };
        if let Some(rep) = out.get_mut(at) {
            rep.1.clone_from(&self.faults);
        }
        out
    }
}
