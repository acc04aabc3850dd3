//! An advisor that is put by: a horse of years takes long to watch again, and stands today as it stood a moment ago.

use super::Advisor;
use crate::ladder::{Course, NO_STEPS};

/// All that an advisor has seen, without the course that it was seen on.
#[derive(Debug, Clone)]
pub struct Stored {
    advisor: Advisor<'static>,
    steps: usize,
}

impl Advisor<'_> {
    /// Puts it by.
    pub fn store(self) -> Stored {
        let steps = self.observer().course().steps().len();
        Stored { advisor: self.over(&NO_STEPS), steps }
    }
}

impl Stored {
    /// The advisor as it was put by.
    ///
    /// # Panics
    /// If this is not the course that it was made for: what was seen is known by its place in that.
    pub fn on<'a>(&self, course: &'a Course) -> Advisor<'a> {
        assert_eq!(self.steps, course.steps().len(), "an advisor was put by on another course");
        self.advisor.clone().over(course)
    }
}
