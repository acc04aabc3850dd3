//! Whether a step is good enough for what needs it to begin, where that takes less than owning it.
//!
//! The model of the horse reads weights against the standard that finishes a step; a horse that answers every time and never as
//! lightly as that lies outside of it. So the opening standard is asked of the asks themselves: of the last days, how many met it.

use std::collections::BTreeMap;

use chrono::NaiveDate;
use statrs::distribution::{Beta, ContinuousCDF};

use crate::{
    belief::Day,
    curriculum::{Course, Side, StepIx},
    response::{Standard, Tally},
};

/// Days that are looked at (common practice, no published source).
const LATELY: usize = 3;

/// The asks that met the opening standards, by step, side and day.
#[derive(Debug, Clone, Default)]
pub(super) struct Openings(BTreeMap<(StepIx, Side), Vec<(NaiveDate, Tally)>>);

impl Openings {
    pub(super) fn watch(&mut self, course: &Course, day: &Day) {
        for w in day.work.iter().filter(|w| !w.reps.is_empty()) {
            let Some(opening) = &course.step(w.step).opening else { continue };
            let tally = Tally::of(opening, &w.reps);
            let days = self.0.entry((w.step, w.side)).or_default();
            match days.last_mut().filter(|(last, _)| *last == day.date) {
                Some((_, sum)) => *sum += tally,
                None => days.push((day.date, tally)),
            }
        }
    }

    /// How likely a side meets an opening standard, 0 to 1, by its last three days under a uniform prior; 0 on too few days.
    pub(super) fn likely(&self, step: StepIx, side: Side, opening: &Standard) -> f64 {
        let days = self.0.get(&(step, side)).map_or(&[][..], Vec::as_slice);
        if days.len() < usize::from(opening.days) {
            return 0.0;
        }
        let mut lately = Tally::default();
        days.iter().rev().take(LATELY).for_each(|&(_, tally)| lately += tally);
        let met = f64::from(lately.met);
        match Beta::new(1.0 + met, 1.0 + f64::from(lately.reps) - met) {
            Ok(share) => 1.0 - share.cdf(opening.share.fraction()),
            Err(_) => 0.0,
        }
    }
}
