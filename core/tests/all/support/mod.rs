//! A small course and days for the tests.

use cavesson_core::{
    advice::{Advisor, Posture, TrainerInput},
    belief::{Day, ModelSettings, Work},
    curriculum::{Course, Curriculum, Gait, Side, Sides, Step, StepIx},
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

/// The course of the standard curriculum.
pub(crate) fn standard_course() -> Course {
    Curriculum::standard().course()
}

/// A steady advisor that knows nothing of the horse yet but what was written down.
pub(crate) fn advisor<'a>(course: &'a Course, written: TrainerInput) -> Advisor<'a> {
    let a = ModelSettings::default();
    Advisor::with(course, Posture::Steady, a, written)
}

/// A rung, and how many reps met and missed on the left and on the right.
pub(crate) type Ridden = (&'static str, (usize, usize), (usize, usize));

/// The same ride on several days.
pub(crate) fn ride(advisor: &mut Advisor<'_>, course: &Course, days: &[u64], steps: &[Ridden]) {
    for &n in days {
        let sides = steps.iter().flat_map(|(id, left, right)| {
            let step = course.find(id).unwrap();
            [work(step, Side::Left, left.0, left.1), work(step, Side::Right, right.0, right.1)]
        });
        advisor.watch(&day(n, sides.collect())).unwrap();
    }
}
