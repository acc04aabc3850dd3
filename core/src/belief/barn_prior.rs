//! How the horses of one barn go: learned from all of their records together.
//!
//! Each horse is weighed under a fixed set of hypotheses: how fast it learns, and how far its days differ. How common each
//! is among this barn's horses is itself not known; a few possible barns are weighed by how well they fit every horse but the
//! one asked about. That is a hierarchical model, computed whole on its grid.

use std::sync::Arc;

use super::{
    day_model::{SPREADS, Spreads},
    normal,
    settings::ModelSettings,
};

const PACES: usize = 9;
/// How many hypotheses a horse is weighed under: one for each pace.
pub(super) const HYPOTHESES: usize = PACES;
/// How many sorts of barn are weighed.
const SORTS: usize = 15;

/// What a horse may be like.
#[derive(Debug, Clone, Copy)]
pub(super) struct Hypothesis {
    /// Share of what is left to learn that one day of work adds.
    pub pace: f64,
}

/// A value for each hypothesis.
pub(super) type Hypotheses = [f64; HYPOTHESES];

/// What a horse has shown: the logarithm of the probability of its record under each hypothesis, and under each spread of days.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HorseEvidence {
    pub(super) hypotheses: Hypotheses,
    pub(super) spreads: Spreads,
}

impl HorseEvidence {
    /// Nothing was shown.
    pub fn none() -> HorseEvidence {
        HorseEvidence { hypotheses: [0.0; HYPOTHESES], spreads: [0.0; SPREADS] }
    }
}

/// How likely each hypothesis and each spread of days is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Weights {
    pub hypotheses: Hypotheses,
    pub spreads: Spreads,
}

/// Middle pace of a barn, in its standard deviations from the middle of all, with its weight.
const BARN_PACES: [(f64, f64); 5] = [(-1.6, 0.1), (-0.8, 0.22), (0.0, 0.36), (0.8, 0.22), (1.6, 0.1)];
/// How common each spread of days is, in a barn of even, of ordinary and of moody horses.
const BARN_DAYS: [Spreads; 3] =
    [[0.35, 0.4, 0.17, 0.06, 0.02], [0.1, 0.25, 0.35, 0.22, 0.08], [0.03, 0.09, 0.25, 0.38, 0.25]];

/// What is believed of a barn.
#[derive(Debug, Clone, PartialEq)]
pub struct BarnPrior {
    /// The probability of each sort of barn.
    sorts: [f64; SORTS],
    /// How common each hypothesis is in each sort.
    common: Arc<[Weights; SORTS]>,
}

impl BarnPrior {
    /// A barn of which no horse was seen.
    pub fn new(settings: &ModelSettings) -> BarnPrior {
        let common =
            |n: usize| common_in(settings, BARN_PACES[n % BARN_PACES.len()].0, &BARN_DAYS[n / BARN_PACES.len()]);
        BarnPrior {
            sorts: std::array::from_fn(|n| BARN_PACES[n % BARN_PACES.len()].1 / BARN_DAYS.len() as f64),
            common: Arc::new(std::array::from_fn(common)),
        }
    }

    /// Probability of each hypothesis for a horse that has shown `evidence`.
    pub(super) fn weigh(&self, evidence: &HorseEvidence) -> Weights {
        let (_, hypotheses) = from_top(&evidence.hypotheses);
        let (_, spreads) = from_top(&evidence.spreads);
        let mut out = Weights { hypotheses: [0.0; HYPOTHESES], spreads: [0.0; SPREADS] };
        for (p, common) in self.sorts.iter().zip(self.common.iter()) {
            // A sort of barn is as likely as it makes both of what the horse has shown.
            let (of_hypotheses, of_spreads) = (dot(&common.hypotheses, &hypotheses), dot(&common.spreads, &spreads));
            let each = common.hypotheses.iter().zip(&hypotheses);
            out.hypotheses.iter_mut().zip(each).for_each(|(o, (c, e))| *o += p * of_spreads * c * e);
            let each = common.spreads.iter().zip(&spreads);
            out.spreads.iter_mut().zip(each).for_each(|(o, (c, e))| *o += p * of_hypotheses * c * e);
        }
        let total: f64 = out.hypotheses.iter().sum();
        Weights { hypotheses: out.hypotheses.map(|o| o / total), spreads: out.spreads.map(|o| o / total) }
    }

    pub(super) fn hypothesis(a: &ModelSettings, n: usize) -> Hypothesis {
        Hypothesis { pace: (a.learning.ln_pace.mean + pace_off(a, n)).exp().min(0.7) }
    }
}

/// What the horses of one barn have shown so far.
#[derive(Debug, Clone)]
pub(super) struct BarnEvidence {
    blank: BarnPrior,
    /// For each horse, the logarithm of the probability of its record in each sort of barn.
    shown: Vec<[f64; SORTS]>,
}

impl BarnEvidence {
    /// A barn with this many horses, none of them seen.
    pub(super) fn new(settings: &ModelSettings, horses: usize) -> BarnEvidence {
        BarnEvidence { blank: BarnPrior::new(settings), shown: vec![[0.0; SORTS]; horses] }
    }

    /// Takes in what a horse has shown by now: its [`super::Observer::evidence`], in place of what it had shown before.
    pub(super) fn show(&mut self, horse: usize, evidence: &HorseEvidence) {
        let (top, hypotheses) = from_top(&evidence.hypotheses);
        let (top_days, spreads) = from_top(&evidence.spreads);
        self.shown[horse] = std::array::from_fn(|n| {
            let common = &self.blank.common[n];
            top + top_days + dot(&common.hypotheses, &hypotheses).ln() + dot(&common.spreads, &spreads).ln()
        });
    }

    /// What every other horse says of the barn.
    pub(super) fn prior_without(&self, horse: usize) -> BarnPrior {
        let mut barn = self.blank.clone();
        let mut ln: [f64; SORTS] = barn.sorts.map(f64::ln);
        for (_, others) in self.shown.iter().enumerate().filter(|(n, _)| *n != horse) {
            ln.iter_mut().zip(others).for_each(|(total, l)| *total += l);
        }
        let (_, sorts) = from_top(&ln);
        let total: f64 = sorts.iter().sum();
        barn.sorts = sorts.map(|p| p / total);
        barn
    }
}

/// Logarithm of the pace of a hypothesis over the middle one.
fn pace_off(a: &ModelSettings, n: usize) -> f64 {
    let sd = a.learning.ln_pace.sd.hypot(a.learning.barn_pace_sd);
    (n as f64 - (PACES / 2) as f64) * 0.6 * sd
}

fn common_in(a: &ModelSettings, off: f64, days: &Spreads) -> Weights {
    let bell = |n: usize| normal::density((pace_off(a, n) - off * a.learning.barn_pace_sd) / a.learning.ln_pace.sd);
    let total: f64 = (0..PACES).map(bell).sum();
    Weights { hypotheses: std::array::from_fn(|n| bell(n) / total), spreads: *days }
}

fn dot<const N: usize>(a: &[f64; N], b: &[f64; N]) -> f64 {
    a.iter().zip(b).map(|(a, b)| a * b).sum()
}

/// The greatest of some logarithms, and each as a part of it.
fn from_top<const N: usize>(ln: &[f64; N]) -> (f64, [f64; N]) {
    let top = ln.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    (top, ln.map(|l| (l - top).exp()))
}
