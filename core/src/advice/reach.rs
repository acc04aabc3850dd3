//! Where, and in whose hands, a step that is owned at home is owned too.

use std::collections::BTreeMap;

use statrs::distribution::{Beta, ContinuousCDF};

use crate::{
    belief::{Belief, Day},
    curriculum::{Course, Hands, Place, Side, StepIx},
    response::{Standard, Tally},
};

/// What one step further out, or less experienced hands, cost at first (common practice, no published source).
const COST: f64 = 0.1;
/// How many reps what is known from elsewhere counts for.
const WORTH: f64 = 6.0;

/// Reps and days in one place or in the same hands.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct ReachRecord {
    /// All reps there.
    pub tally: Tally,
    /// Separate days.
    pub days: u32,
}

/// The record by place and by hands.
#[derive(Debug, Clone, Default)]
pub(super) struct Reach {
    places: BTreeMap<(StepIx, Side, Place), ReachRecord>,
    hands: BTreeMap<(StepIx, Side, Hands), ReachRecord>,
}

impl Reach {
    pub(super) fn watch(&mut self, course: &Course, day: &Day) {
        let mut places: BTreeMap<_, Tally> = BTreeMap::new();
        let mut hands: BTreeMap<_, Tally> = BTreeMap::new();
        for w in day.work.iter().filter(|w| !w.reps.is_empty()) {
            let tally = Tally::of(course.step(w.step).standard_on(day.date), &w.reps);
            if let Some(place) = w.place {
                *places.entry((w.step, w.side, place)).or_default() += tally;
            }
            if let Some(h) = w.hands {
                *hands.entry((w.step, w.side, h)).or_default() += tally;
            }
        }
        for (key, tally) in places {
            let there = self.places.entry(key).or_default();
            there.tally += tally;
            there.days += 1;
        }
        for (key, tally) in hands {
            let there = self.hands.entry(key).or_default();
            there.tally += tally;
            there.days += 1;
        }
    }

    pub(super) fn place(&self, step: StepIx, side: Side, place: Place) -> ReachRecord {
        self.places.get(&(step, side, place)).copied().unwrap_or_default()
    }

    pub(super) fn hands(&self, step: StepIx, side: Side, hands: Hands) -> ReachRecord {
        self.hands.get(&(step, side, hands)).copied().unwrap_or_default()
    }
}

/// Probability that the standard is held there: what is believed of the horse at large, less what the change costs,
/// weighed as a few reps, and the reps there.
pub(super) fn holds(belief: &Belief, standard: &Standard, steps_out: usize, there: ReachRecord) -> f64 {
    let start = (belief.share.mean - COST * steps_out as f64).clamp(0.02, 0.98);
    let met = f64::from(there.tally.met);
    let missed = f64::from(there.tally.reps) - met;
    match Beta::new(start * WORTH + met, (1.0 - start) * WORTH + missed) {
        Ok(beta) => 1.0 - beta.cdf(standard.share.fraction()),
        Err(_) => 0.0,
    }
}
