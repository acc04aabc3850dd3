//! One ask of a ride, and what came of it.

use chrono::NaiveDate;

use crate::{
    advice::ANTICIPATES,
    count::Count,
    curriculum::{Course, Side, StepIx},
    response::{Outcome, Rep, rank},
};

/// What came of an ask, in the measure of its rung.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Shown {
    /// An answer.
    Rep(Rep),
    /// A count.
    Count(Count),
}

/// One ask of the ride.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Asked {
    /// What was asked.
    pub step: StepIx,
    /// On which side.
    pub side: Side,
    /// What came of it.
    pub shown: Shown,
    /// Tags of the faults that showed.
    pub faults: Vec<String>,
    /// Seconds from the first ask of the ride, where that is known.
    pub at: Option<u32>,
}

impl Asked {
    /// The answer, where it was one.
    pub fn rep(&self) -> Option<&Rep> {
        match &self.shown {
            Shown::Rep(rep) => Some(rep),
            Shown::Count(_) => None,
        }
    }

    /// The count, where it was one.
    pub fn count(&self) -> Option<&Count> {
        match &self.shown {
            Shown::Rep(_) => None,
            Shown::Count(count) => Some(count),
        }
    }

    /// Whether it came before the ask.
    pub fn is_early(&self) -> bool {
        self.faults.iter().any(|f| f == ANTICIPATES)
    }

    /// Whether it met the standard of its step on a day. A count of several did where every one of them did.
    pub fn met(&self, course: &Course, on: NaiveDate) -> bool {
        let step = course.step(self.step);
        match &self.shown {
            Shown::Rep(rep) => step.standard_on(on).is_met_by(rep),
            Shown::Count(count) => count.outcome(step.measure) == Outcome::Gave,
        }
    }

    /// Gave, tried or none.
    pub fn outcome(&self, course: &Course) -> Outcome {
        match &self.shown {
            Shown::Rep(rep) => rep.answer.outcome(),
            Shown::Count(count) => count.outcome(course.step(self.step).measure),
        }
    }

    /// What it came to, in a few words: `an egg, 1.2 s`, or `soft after 2 laps`.
    pub fn in_words(&self) -> String {
        match &self.shown {
            Shown::Rep(Rep { weight, time: Some(time), .. }) => format!("{}, {time}", weight.phrase()),
            Shown::Rep(Rep { weight, time: None, .. }) => weight.phrase().to_owned(),
            Shown::Count(count) => count.in_words(),
        }
    }

    /// Lower is better among asks of one step; `None` where one that met the standard is as good as another.
    pub(super) fn rank(&self) -> Option<(i32, u32)> {
        match &self.shown {
            Shown::Rep(rep) => {
                let (weight, time) = rank(rep);
                Some((weight as i32, time))
            }
            Shown::Count(count) => count.rank().map(|n| (n, 0)),
        }
    }
}

/// The best ask of a step among those that met its standard; of counts without a better or worse, the first.
pub fn best_asked<'r>(course: &Course, on: NaiveDate, asked: impl IntoIterator<Item = &'r Asked>) -> Option<&'r Asked> {
    asked.into_iter().filter(|a| a.met(course, on)).min_by_key(|a| a.rank())
}
