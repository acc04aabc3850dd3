//! The hypotheses about a horse: how fast it learns, and how far its days differ. Under each, everything is normal.

use super::{
    barn_prior::{BarnPrior, HYPOTHESES, Hypotheses, Hypothesis},
    common::Common,
    rep_model::{DayLikelihood, Likelihood, STEP, state, window},
    settings::ModelSettings,
    step_filter::StepFilter,
};
use crate::curriculum::{Course, Side, Step, StepIx};

/// Readings with less than this precision say nothing.
const FAINT: f64 = 1e-4;

/// The reps of one step and side on one day, read.
#[derive(Debug)]
pub(super) struct DayReading {
    pub step: StepIx,
    pub side: Side,
    pub shown: DayLikelihood,
}

/// Every hypothesis about one horse, each with all that follows from it.
#[derive(Debug, Clone)]
pub(super) struct HypothesisBank {
    hypotheses: Vec<Hypothesis>,
    common: Vec<Common>,
    /// For each step with reps, what is believed of it under each hypothesis: side by side, so that a step is fetched from memory
    /// in one piece.
    filters: Vec<Option<Vec<StepFilter>>>,
    /// Steps worked on the last day: besides days off, only these change until the next.
    worked: Vec<StepIx>,
    /// Days off up to which all filters have faded.
    faded: f64,
    /// Logarithm of the probability of all that was seen, under each hypothesis.
    ln_evidence: Hypotheses,
}

impl HypothesisBank {
    pub(super) fn new(a: &ModelSettings, steps: usize) -> HypothesisBank {
        let common = Common::new(
            [a.starts.level.mean, a.learning.ceiling.mean, a.learning.fade.mean, 0.0],
            [a.starts.level.sd, a.learning.ceiling.sd, a.learning.fade.sd, a.lean_sd],
        );
        HypothesisBank {
            hypotheses: (0..HYPOTHESES).map(|n| BarnPrior::hypothesis(a, n)).collect(),
            common: vec![common; HYPOTHESES],
            filters: vec![None; steps],
            worked: vec![],
            faded: 0.0,
            ln_evidence: [0.0; HYPOTHESES],
        }
    }

    pub(super) fn evidence(&self) -> Hypotheses {
        self.ln_evidence
    }

    /// The horse comes out on a later day; `faded` are its days off so far, over the free ones.
    pub(super) fn next_day(&mut self, a: &ModelSettings, faded: f64) {
        let predict = |filters: &mut Option<Vec<StepFilter>>| {
            for (filter, h) in filters.iter_mut().flatten().zip(&self.hypotheses) {
                filter.predict(h.pace, a.learning.chance_sd, faded);
            }
        };
        if faded > self.faded {
            self.filters.iter_mut().for_each(predict);
            self.faded = faded;
        } else {
            self.worked.iter().for_each(|&ix| predict(&mut self.filters[ix]));
        }
        self.worked.clear();
    }

    /// Updates on the work of one day. Every side is measured against what was believed that morning, so that their order does
    /// not matter.
    pub(super) fn update(&mut self, a: &ModelSettings, course: &Course, work: &[DayReading], faded: f64) {
        let unseen = work.iter().map(|w| w.step).filter(|&ix| self.filters[ix].is_none());
        let new: Vec<(StepIx, Vec<StepFilter>)> = unseen
            .map(|ix| (ix, (0..HYPOTHESES).map(|n| self.new_filter(a, course, n, course.step(ix), faded)).collect()))
            .collect();
        for (ix, filters) in new {
            self.filters[ix].get_or_insert(filters);
        }
        let measurements: Vec<(f64, f64)> = work
            .iter()
            .flat_map(|w| (0..HYPOTHESES).map(move |n| (w, n)))
            .map(|(w, n)| self.measurement(w, n))
            .collect();
        for (w, measured) in work.iter().zip(measurements.chunks(HYPOTHESES)) {
            let filters = self.filters[w.step].iter_mut().flatten();
            for ((filter, common), &(z, v)) in filters.zip(&mut self.common).zip(measured) {
                filter.kalman_update(w.side, z, v, common);
            }
            self.worked.push(w.step);
        }
    }

    /// What a side's reps say of its state, as a normal: what turns the state before them into the state after them.
    fn measurement(&mut self, work: &DayReading, n: usize) -> (f64, f64) {
        let h = self.hypotheses[n];
        let Some((mean, variance)) = self.now(work.step, work.side, n) else { return (0.0, 1.0 / FAINT) };
        let day_variance = h.day_sd * h.day_sd;
        let day = variance + day_variance;
        let shown = if h.by_habit { &work.shown.coarse } else { &work.shown.fine };
        let (ln_total, seen_mean, seen_variance) = moment_match(mean, day, shown);
        self.ln_evidence[n] += ln_total;
        let precision = 1.0 / seen_variance - 1.0 / day;
        if precision > FAINT {
            let z = (seen_mean / seen_variance - mean / day) / precision;
            (z, 1.0 / precision + day_variance)
        } else {
            (mean, 1.0 / FAINT)
        }
    }

    fn now(&self, ix: StepIx, side: Side, n: usize) -> Option<(f64, f64)> {
        Some(self.filters[ix].as_ref()?[n].state(side, &self.common[n]))
    }

    fn new_filter(&self, a: &ModelSettings, course: &Course, n: usize, step: &Step, faded: f64) -> StepFilter {
        let both = step.sides.has(Side::Both);
        let sides = if both { [Side::Both; 2] } else { [Side::Left, Side::Right] };
        StepFilter::new(a, step.gait, both, sides.map(|s| self.owned_of_needs(course, n, step, s)), faded)
    }

    /// The mean state of the needs that have reps, on the same side where they have one.
    fn owned_of_needs(&self, course: &Course, n: usize, step: &Step, side: Side) -> Option<f64> {
        let of = |need: &StepIx| {
            let of = |side: Side| Some(self.now(*need, side, n)?.0);
            match side {
                _ if course.step(*need).sides.has(Side::Both) => of(Side::Both),
                Side::Left | Side::Right => of(side),
                Side::Both => Some(0.5 * (of(Side::Left)? + of(Side::Right)?)),
            }
        };
        let states: Vec<f64> = step.needs.iter().filter_map(of).collect();
        (!states.is_empty()).then(|| states.iter().sum::<f64>() / states.len() as f64)
    }

    /// Mean and variance under each hypothesis of the state of a step and side with reps; on a later day, as of when `later`
    /// days off were over.
    pub(super) fn states(
        &self,
        a: &ModelSettings,
        ix: StepIx,
        side: Side,
        later: Option<f64>,
    ) -> Option<impl Iterator<Item = (f64, f64)> + '_> {
        let filters = self.filters[ix].as_ref()?;
        let chance_sd = a.learning.chance_sd;
        Some(filters.iter().zip(&self.common).zip(&self.hypotheses).map(move |((filter, common), h)| match later {
            None => filter.state(side, common),
            Some(faded) => {
                let mut filter = filter.clone();
                filter.predict(h.pace, chance_sd, faded);
                filter.state(side, common)
            }
        }))
    }

    /// Mean and variance of the state under one hypothesis after 0, 1, 2, … more days of work, each on the day after the last.
    pub(super) fn ahead(
        &self,
        a: &ModelSettings,
        course: &Course,
        n: usize,
        (ix, side): (StepIx, Side),
        days: usize,
    ) -> Vec<(f64, f64)> {
        let known = self.filters[ix].as_ref().map(|s| s[n].clone());
        let mut filter = known.unwrap_or_else(|| self.new_filter(a, course, n, course.step(ix), self.faded));
        let mut path = Vec::with_capacity(days + 1);
        for _ in 0..=days {
            path.push(filter.state(side, &self.common[n]));
            filter.note_work(side);
            filter.predict(self.hypotheses[n].pace, a.learning.chance_sd, self.faded);
        }
        path
    }
}

/// Under this, what is left of a normal and a likelihood far apart is too faint for plain arithmetic.
const TOO_FAINT: f64 = 1e-200;

/// A normal met with a likelihood: logarithm of the total, mean and variance of what is left (midpoint rule on the grid,
/// six standard deviations to either side). The normal is worked out from place to place: each is the last times a factor
/// that itself changes by a constant factor.
fn moment_match(mean: f64, variance: f64, shown: &Likelihood) -> (f64, f64, f64) {
    let near = window(mean, 6.0 * variance.sqrt());
    let first = state(*near.start()) - mean;
    let mut bell = (-0.5 * first * first / variance).exp();
    let mut factor = (-STEP * (first + 0.5 * STEP) / variance).exp();
    let change = (-STEP * STEP / variance).exp();
    let (mut total, mut once, mut twice) = (0.0, 0.0, 0.0);
    let mut x = first;
    for part in &shown.parts[near] {
        let w = bell * part;
        total += w;
        once += w * x;
        twice += w * x * x;
        bell *= factor;
        factor *= change;
        x += STEP;
    }
    if total < TOO_FAINT {
        return moment_match_log(mean, variance, shown);
    }
    let shift = once / total;
    let left = (twice / total - shift * shift).max(1e-6);
    (shown.ln_top + (total / variance.sqrt()).ln(), mean + shift, left)
}

/// The same by logarithms, for a day far from all that came before.
fn moment_match_log(mean: f64, variance: f64, shown: &Likelihood) -> (f64, f64, f64) {
    let near = window(mean, 6.0 * variance.sqrt());
    let ln = |i: usize| shown.ln[i] - (state(i) - mean).powi(2) / (2.0 * variance);
    let top = near.clone().map(ln).fold(f64::NEG_INFINITY, f64::max);
    let (mut total, mut once, mut twice) = (0.0, 0.0, 0.0);
    for i in near {
        let w = (ln(i) - top).exp();
        let x = state(i) - mean;
        total += w;
        once += w * x;
        twice += w * x * x;
    }
    let shift = once / total;
    let left = (twice / total - shift * shift).max(1e-6);
    (top + (total / variance.sqrt()).ln(), mean + shift, left)
}
