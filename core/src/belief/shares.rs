//! The shares of reps that meet the standards a step has had, from each state a horse may be in.

use std::sync::Arc;

use super::{
    count_model,
    log_habits::Written,
    readings::RungReading,
    rep_model::{Curve, RepModel},
};
use crate::curriculum::{Measure, Step};

/// Those of each standard, in their order, and what was written down when they were last worked out.
#[derive(Debug, Clone, Default)]
pub(super) struct StepShares {
    written: Written,
    of_standards: Vec<Shares>,
}

/// The share met from each state, with seconds taken and without, and what it was worked out from.
#[derive(Debug, Clone)]
struct Shares {
    from: (RungReading, (f64, f64)),
    curves: Arc<[Curve; 2]>,
}

impl StepShares {
    /// Makes them those of a step, as what was `written` in a log is to be read. Where nothing changed, they stay.
    pub(super) fn update(&mut self, step: &Step, model: &RepModel, reading: &RungReading, written: Written) {
        self.written = written;
        let standards = std::iter::once(&step.standard).chain(step.later.iter().map(|(_, standard)| standard));
        for (n, standard) in standards.enumerate() {
            let from = (*reading, written.met(standard));
            let worked_out = || Shares { from, curves: curves(step, model, reading, from.1) };
            match self.of_standards.get_mut(n) {
                Some(same) if same.from == from => {}
                Some(other) => *other = worked_out(),
                None => self.of_standards.push(worked_out()),
            }
        }
        self.of_standards.truncate(1 + step.later.len());
    }

    pub(super) fn written(&self) -> Written {
        self.written
    }

    /// With seconds taken and without, by the place of the standard.
    pub(super) fn curves(&self, standard: usize) -> Option<&[Curve; 2]> {
        self.of_standards.get(standard).map(|s| &*s.curves)
    }
}

/// The share met from each state, with seconds taken and without, where up to some weight and some logarithm of seconds meets the standard.
pub(super) fn curves(step: &Step, model: &RepModel, reading: &RungReading, met: (f64, f64)) -> Arc<[Curve; 2]> {
    match step.measure {
        Measure::Reps => model.shares(&step.standard, reading, met),
        _ => Arc::new([count_model::shares(); 2]),
    }
}
