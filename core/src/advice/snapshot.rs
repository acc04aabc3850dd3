//! An advisor or an observer that is put by: a horse of years takes long to watch again, and stands today as it stood a moment ago.

use super::Advisor;
use crate::{
    belief::Observer,
    curriculum::{Course, EMPTY_COURSE},
};

/// All that an advisor has seen, without the course that it was seen on.
#[derive(Debug, Clone)]
pub struct AdvisorSnapshot {
    advisor: Advisor<'static>,
    steps: usize,
}

impl Advisor<'_> {
    /// Puts it by.
    ///
    /// ```
    /// use cavesson_core::{
    ///     advice::{Advisor, Posture},
    ///     belief::{Day, ModelSettings, Work},
    ///     curriculum::{Course, Gait, Side, Sides, Step},
    ///     response::{Answer, Rep, Standard, Weight},
    /// };
    /// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
    /// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
    /// let mut advisor = Advisor::new(&course, Posture::Steady, ModelSettings::default());
    /// let on = "2026-03-02".parse()?;
    /// advisor.watch(&Day::new(on, vec![Work::reps(0, Side::Left, vec![rep; 8])]))?;
    /// let kept = advisor.snapshot();
    /// assert_eq!(kept.restore(&course).last_day(), Some(on));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn snapshot(self) -> AdvisorSnapshot {
        let steps = self.observer().course().steps().len();
        AdvisorSnapshot { advisor: self.with_course(&EMPTY_COURSE), steps }
    }
}

impl AdvisorSnapshot {
    /// About how many bytes it takes up.
    pub fn bytes(&self) -> usize {
        // The opening standards are counted by day as the standards are.
        2 * self.advisor.observer().bytes() + size_of_val(&self.advisor.days[..])
    }

    /// The advisor as it was put by. Standards may have come to its course since.
    ///
    /// # Panics
    /// If the course has other steps than the one it was made for: what was seen is known by its place in that.
    pub fn restore<'a>(&self, course: &'a Course) -> Advisor<'a> {
        assert_eq!(self.steps, course.steps().len(), "an advisor was put by on another course");
        let mut advisor = self.advisor.clone().with_course(course);
        advisor.observer.take_up_new_standards();
        advisor
    }
}

/// All that an observer has seen, without the course that it was seen on.
#[derive(Debug, Clone)]
pub struct ObserverSnapshot {
    observer: Observer<'static>,
    steps: usize,
}

impl Observer<'_> {
    /// Puts it by, as [`Advisor::snapshot`] does.
    pub fn snapshot(self) -> ObserverSnapshot {
        let steps = self.course().steps().len();
        ObserverSnapshot { observer: self.with_course(&EMPTY_COURSE), steps }
    }
}

impl ObserverSnapshot {
    /// About how many bytes it takes up.
    pub fn bytes(&self) -> usize {
        self.observer.bytes()
    }

    /// The observer as it was put by. Standards may have come to its course since.
    ///
    /// # Panics
    /// If the course has other steps than the one it was made for.
    pub fn restore<'a>(&self, course: &'a Course) -> Observer<'a> {
        assert_eq!(self.steps, course.steps().len(), "an observer was put by on another course");
        let mut observer = self.observer.clone().with_course(course);
        observer.take_up_new_standards();
        observer
    }
}
