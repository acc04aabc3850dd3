//! One hypothesis about a horse: how fast it learns, and how far its days differ. Under it, everything is normal.

use super::{
    assumptions::Assumptions,
    barn::Hypothesis,
    common::Common,
    nearness::{Likelihood, STEP, Shown, state, window},
    strand::Strand,
};
use crate::ladder::{Course, Side, Step, StepIx};

/// Readings with less than this precision say nothing.
const FAINT: f64 = 1e-4;

/// The reps of one step and side on one day, read.
#[derive(Debug)]
pub(super) struct Read {
    pub step: StepIx,
    pub side: Side,
    pub shown: Shown,
}

#[derive(Debug, Clone)]
pub(super) struct Learner {
    pace: f64,
    day_variance: f64,
    /// Whether the hands that log tell no more than whether the standard was met.
    by_habit: bool,
    common: Common,
    strands: Vec<Option<Strand>>,
    /// Steps worked on the last day: besides days off, only these change until the next.
    worked: Vec<StepIx>,
    /// Room for what the sides of a day say.
    readings: Vec<Option<(f64, f64)>>,
    /// Days off up to which all strands have faded.
    faded: f64,
    /// Logarithm of the probability of all that was seen, under this hypothesis.
    pub(super) ln_evidence: f64,
}

impl Learner {
    pub(super) fn new(a: &Assumptions, steps: usize, hypothesis: &Hypothesis) -> Learner {
        let common = Common::new(
            [a.starts.level.mean, a.learning.ceiling.mean, a.learning.fade.mean, 0.0],
            [a.starts.level.sd, a.learning.ceiling.sd, a.learning.fade.sd, a.lean_sd],
        );
        let Hypothesis { pace, day_sd, by_habit } = *hypothesis;
        Learner {
            pace,
            day_variance: day_sd * day_sd,
            by_habit,
            common,
            strands: vec![None; steps],
            worked: vec![],
            readings: vec![],
            faded: 0.0,
            ln_evidence: 0.0,
        }
    }

    /// The horse comes out on a later day; `faded` are its days off so far, over the free ones.
    pub(super) fn next_day(&mut self, a: &Assumptions, faded: f64) {
        let mut rest = |strand: &mut Option<Strand>| {
            if let Some(strand) = strand {
                strand.rest(self.pace, a.learning.chance_sd, faded);
            }
        };
        if faded > self.faded {
            self.strands.iter_mut().for_each(&mut rest);
            self.faded = faded;
        } else {
            self.worked.iter().for_each(|&ix| rest(&mut self.strands[ix]));
        }
        self.worked.clear();
    }

    /// Takes in the work of one day. Every side is read against what was believed that morning, so that none comes first.
    pub(super) fn read(&mut self, a: &Assumptions, course: &Course, work: &[Read], faded: f64) {
        let new: Vec<(StepIx, Strand)> = work
            .iter()
            .filter(|w| self.strands[w.step].is_none())
            .map(|w| {
                let step = course.step(w.step);
                (w.step, self.new_strand(a, course, step, faded))
            })
            .collect();
        for (ix, strand) in new {
            self.strands[ix].get_or_insert(strand);
        }
        let mut readings = std::mem::take(&mut self.readings);
        readings.extend(work.iter().map(|w| self.reading(w)));
        for (w, reading) in work.iter().zip(readings.drain(..)) {
            if let (Some(strand), Some((z, v))) = (self.strands[w.step].as_mut(), reading) {
                strand.read(w.side, z, v, &mut self.common);
                self.worked.push(w.step);
            }
        }
        self.readings = readings;
    }

    /// What a side's reps say of its state, as a normal: what turns the state before them into the state after them.
    fn reading(&mut self, work: &Read) -> Option<(f64, f64)> {
        let (mean, variance) = self.strands[work.step].as_ref()?.state(work.side, &self.common);
        let day = variance + self.day_variance;
        let shown = if self.by_habit { &work.shown.coarse } else { &work.shown.fine };
        let (ln_total, seen_mean, seen_variance) = meet(mean, day, shown);
        self.ln_evidence += ln_total;
        let precision = 1.0 / seen_variance - 1.0 / day;
        Some(if precision > FAINT {
            let z = (seen_mean / seen_variance - mean / day) / precision;
            (z, 1.0 / precision + self.day_variance)
        } else {
            (mean, 1.0 / FAINT)
        })
    }

    fn new_strand(&self, a: &Assumptions, course: &Course, step: &Step, faded: f64) -> Strand {
        let both = step.sides.has(Side::Both);
        let sides = if both { [Side::Both; 2] } else { [Side::Left, Side::Right] };
        Strand::new(a, step.gait, both, sides.map(|s| self.owned_of_needs(course, step, s)), faded)
    }

    /// The mean state of the needs that have reps, on the same side where they have one.
    fn owned_of_needs(&self, course: &Course, step: &Step, side: Side) -> Option<f64> {
        let of = |need: &StepIx| {
            let strand = self.strands[*need].as_ref()?;
            let of = |side: Side| strand.state(side, &self.common).0;
            Some(match side {
                _ if course.step(*need).sides.has(Side::Both) => of(Side::Both),
                Side::Left | Side::Right => of(side),
                Side::Both => 0.5 * (of(Side::Left) + of(Side::Right)),
            })
        };
        let states: Vec<f64> = step.needs.iter().filter_map(of).collect();
        (!states.is_empty()).then(|| states.iter().sum::<f64>() / states.len() as f64)
    }

    /// Mean and variance of the state of a step and side with reps, as of a day on which `faded` days off were over.
    pub(super) fn state(&self, a: &Assumptions, ix: StepIx, side: Side, later: Option<f64>) -> Option<(f64, f64)> {
        let strand = self.strands[ix].as_ref()?;
        Some(match later {
            None => strand.state(side, &self.common),
            Some(faded) => {
                let mut strand = strand.clone();
                strand.rest(self.pace, a.learning.chance_sd, faded);
                strand.state(side, &self.common)
            }
        })
    }

    /// Mean and variance of the state after 0, 1, 2, … more days of work, each on the day after the last.
    pub(super) fn ahead(
        &self,
        a: &Assumptions,
        course: &Course,
        ix: StepIx,
        side: Side,
        faded: f64,
        days: usize,
    ) -> Vec<(f64, f64)> {
        let mut strand = self.strands[ix].clone().unwrap_or_else(|| self.new_strand(a, course, course.step(ix), faded));
        let mut path = Vec::with_capacity(days + 1);
        for _ in 0..=days {
            path.push(strand.state(side, &self.common));
            strand.work(side);
            strand.rest(self.pace, a.learning.chance_sd, faded);
        }
        path
    }
}

/// Under this, what is left of a normal and a likelihood far apart is too faint for plain arithmetic.
const TOO_FAINT: f64 = 1e-200;

/// A normal met with a likelihood: logarithm of the total, mean and variance of what is left (midpoint rule on the grid,
/// six standard deviations to either side). The normal is worked out from place to place: each is the last times a factor
/// that itself changes by a constant factor.
fn meet(mean: f64, variance: f64, shown: &Likelihood) -> (f64, f64, f64) {
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
        return meet_far(mean, variance, shown);
    }
    let shift = once / total;
    let left = (twice / total - shift * shift).max(1e-6);
    (shown.ln_top + (total / variance.sqrt()).ln(), mean + shift, left)
}

/// The same by logarithms, for a day far from all that came before.
fn meet_far(mean: f64, variance: f64, shown: &Likelihood) -> (f64, f64, f64) {
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
