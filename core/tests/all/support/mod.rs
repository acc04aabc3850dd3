//! A small course and days for the tests.

use cavesson_core::{
    belief::{Day, Work},
    curriculum::{Course, Gait, Side, Sides, Step, StepIx},
    response::{Answer, Rep, Standard, Weight},
};
use chrono::{Days, NaiveDate};

pub(crate) fn date(n: u64) -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 3, 2).unwrap() + Days::new(n)
}

/// `first` with two sides, and `second` that needs it.
pub(crate) fn course() -> Course {
    let step = |id: &str, sides, gait| {
        let mut step = Step::plain(id, gait, sides, Standard::default());
        step.name = format!("{id} rung");
        step
    };
    Course::new(vec![
        (step("first", Sides::Each, Gait::Stand), vec![]),
        (step("second", Sides::Both, Gait::Jog), vec!["first".into()]),
    ])
    .unwrap()
}

pub(crate) const MET: Rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
pub(crate) const HEAVY: Rep = Rep { answer: Answer::Gave, weight: Weight::Hand, time: None };
pub(crate) const MISSED: Rep = Rep { answer: Answer::None, weight: Weight::Hand, time: None };

pub(crate) fn work(step: StepIx, side: Side, met: usize, missed: usize) -> Work {
    let mut reps = vec![MET; met];
    reps.extend(vec![MISSED; missed]);
    Work::reps(step, side, reps)
}

pub(crate) fn day(n: u64, work: Vec<Work>) -> Day {
    Day::new(date(n), work)
}
