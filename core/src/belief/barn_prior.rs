//! How the horses of one barn go: learned from all of their records together.
//!
//! Each horse is weighed under a fixed set of hypotheses: how fast it learns, and how far its days differ. How common each
//! is among this barn's horses is itself not known; a few possible barns are weighed by how well they fit every horse but the
//! one asked about. That is a hierarchical model, computed whole on its grid.

use std::sync::Arc;

use super::{normal, settings::ModelSettings};

const PACES: usize = 7;
const DAYS: usize = 3;
/// How many hypotheses a horse is weighed under: every pace with every day spread, and every pace once more with the
/// ordinary day spread and hands that log by habit.
pub const HYPOTHESES: usize = PACES * (DAYS + 1);
/// How common hands that log by habit are.
const BY_HABIT: f64 = 0.15;
/// How many sorts of barn are weighed.
const SORTS: usize = 15;

/// What a horse may be like, and the hands that log it.
#[derive(Debug, Clone, Copy)]
pub(super) struct Hypothesis {
    /// Share of what is left to learn that one day of work adds.
    pub pace: f64,
    /// How far good and bad days move it: log-odds, standard deviation.
    pub day_sd: f64,
    /// Whether what is logged tells no more than whether the standard was met.
    pub by_habit: bool,
}

/// A value for each hypothesis.
pub type Hypotheses = [f64; HYPOTHESES];

/// Middle pace of a barn, in its standard deviations from the middle of all, with its weight.
const BARN_PACES: [(f64, f64); 5] = [(-1.6, 0.1), (-0.8, 0.22), (0.0, 0.36), (0.8, 0.22), (1.6, 0.1)];
/// How common even, ordinary and moody horses are, in three sorts of barn.
const BARN_DAYS: [[f64; DAYS]; 3] = [[0.6, 0.35, 0.05], [0.2, 0.6, 0.2], [0.05, 0.35, 0.6]];
/// Day spreads of even, ordinary and moody horses, in parts of the ordinary one.
const DAY_SPREADS: [f64; DAYS] = [0.6, 1.0, 1.5];

/// What is believed of a barn.
#[derive(Debug, Clone)]
pub struct BarnPrior {
    /// The probability of each sort of barn.
    sorts: [f64; SORTS],
    /// How common each hypothesis is in each sort.
    common: Arc<[Hypotheses; SORTS]>,
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
    pub(super) fn weigh(&self, evidence: &Hypotheses) -> Hypotheses {
        let mut out = [0.0; HYPOTHESES];
        for (p, common) in self.sorts.iter().zip(self.common.iter()) {
            out.iter_mut().zip(common).for_each(|(o, c)| *o += p * c);
        }
        let (_, shown) = from_top(evidence);
        out.iter_mut().zip(&shown).for_each(|(o, e)| *o *= e);
        let total: f64 = out.iter().sum();
        out.map(|o| o / total)
    }

    pub(super) fn hypothesis(a: &ModelSettings, n: usize) -> Hypothesis {
        let by_habit = n / PACES == DAYS;
        let spread = if by_habit { 1.0 } else { DAY_SPREADS[n / PACES] };
        let pace = (a.learning.ln_pace.mean + pace_off(a, n)).exp().min(0.7);
        Hypothesis { pace, day_sd: a.day_sd * spread, by_habit }
    }
}

/// What the horses of one barn have shown so far.
#[derive(Debug, Clone)]
pub struct BarnEvidence {
    blank: BarnPrior,
    /// For each horse, the logarithm of the probability of its record in each sort of barn.
    shown: Vec<[f64; SORTS]>,
}

impl BarnEvidence {
    /// A barn with this many horses, none of them seen.
    pub fn new(settings: &ModelSettings, horses: usize) -> BarnEvidence {
        BarnEvidence { blank: BarnPrior::new(settings), shown: vec![[0.0; SORTS]; horses] }
    }

    /// Takes in what a horse has shown by now: its [`super::Observer::evidence`], in place of what it had shown before.
    pub fn show(&mut self, horse: usize, evidence: &Hypotheses) {
        let (top, shown) = from_top(evidence);
        self.shown[horse] = std::array::from_fn(|n| {
            top + self.blank.common[n].iter().zip(&shown).map(|(c, e)| c * e).sum::<f64>().ln()
        });
    }

    /// What every other horse says of the barn.
    pub fn prior_without(&self, horse: usize) -> BarnPrior {
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
    ((n % PACES) as f64 - (PACES / 2) as f64) * 0.75 * sd
}

fn common_in(a: &ModelSettings, off: f64, days: &[f64; DAYS]) -> Hypotheses {
    let bell = |n: usize| normal::density((pace_off(a, n) - off * a.learning.barn_pace_sd) / a.learning.ln_pace.sd);
    let total: f64 = (0..PACES).map(bell).sum();
    let day = |n: usize| days.get(n).map_or(BY_HABIT, |d| d * (1.0 - BY_HABIT));
    std::array::from_fn(|n| bell(n % PACES) / total * day(n / PACES))
}

/// The greatest of some logarithms, and each as a part of it.
fn from_top<const N: usize>(ln: &[f64; N]) -> (f64, [f64; N]) {
    let top = ln.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    (top, ln.map(|l| (l - top).exp()))
}
