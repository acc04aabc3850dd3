//! How the horses of one barn go: learned from all of their records together.
//!
//! Each horse is weighed under a fixed set of hypotheses: how fast it learns, and how far its days differ. How common each
//! is among this barn's horses is itself not known; a few possible barns are weighed by how well they fit every horse but the
//! one asked about. That is a hierarchical model, computed whole on its grid.

use super::{assumptions::Assumptions, normal};

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
pub struct Barn {
    /// For each sort of barn: its probability, and the logarithm of how common each hypothesis is in it.
    sorts: Vec<(f64, Hypotheses)>,
}

impl Barn {
    /// A barn of which no horse was seen.
    pub fn new(assumptions: &Assumptions) -> Barn {
        let sort = |n: usize| {
            let (off, weight) = BARN_PACES[n % BARN_PACES.len()];
            (weight / 3.0, common_in(assumptions, off, &BARN_DAYS[n / BARN_PACES.len()]))
        };
        Barn { sorts: (0..SORTS).map(sort).collect() }
    }

    /// Probability of each hypothesis for a horse that has shown `evidence`.
    pub(super) fn weigh(&self, evidence: &Hypotheses) -> Hypotheses {
        let mut out = [0.0; HYPOTHESES];
        let ln: Vec<(f64, Hypotheses)> = self
            .sorts
            .iter()
            .map(|(p, common)| {
                let each: Hypotheses = std::array::from_fn(|n| common[n] + evidence[n]);
                (p.max(1e-300).ln(), each)
            })
            .collect();
        let top = ln.iter().flat_map(|(p, each)| each.iter().map(move |e| p + e)).fold(f64::NEG_INFINITY, f64::max);
        for (p, each) in &ln {
            for (o, e) in out.iter_mut().zip(each) {
                *o += (p + e - top).exp();
            }
        }
        let total: f64 = out.iter().sum();
        out.map(|o| o / total)
    }

    pub(super) fn hypothesis(a: &Assumptions, n: usize) -> Hypothesis {
        let by_habit = n / PACES == DAYS;
        let spread = if by_habit { 1.0 } else { DAY_SPREADS[n / PACES] };
        let pace = (a.learning.ln_pace.mean + pace_off(a, n)).exp().min(0.7);
        Hypothesis { pace, day_sd: a.day_sd * spread, by_habit }
    }
}

/// What the horses of one barn have shown so far.
#[derive(Debug, Clone)]
pub struct Barnmates {
    blank: Barn,
    /// For each horse, the logarithm of the probability of its record in each sort of barn.
    shown: Vec<[f64; SORTS]>,
}

impl Barnmates {
    /// A barn with this many horses, none of them seen.
    pub fn new(assumptions: &Assumptions, horses: usize) -> Barnmates {
        Barnmates { blank: Barn::new(assumptions), shown: vec![[0.0; SORTS]; horses] }
    }

    /// Takes in what a horse has shown by now: its [`super::Observer::evidence`], in place of what it had shown before.
    pub fn show(&mut self, horse: usize, evidence: &Hypotheses) {
        self.shown[horse] = std::array::from_fn(|n| {
            let common = &self.blank.sorts[n].1;
            ln_sum(common.iter().zip(evidence).map(|(c, e)| c + e))
        });
    }

    /// What every other horse says of the barn.
    pub fn without(&self, horse: usize) -> Barn {
        let mut barn = self.blank.clone();
        let mut ln: [f64; SORTS] = std::array::from_fn(|n| barn.sorts[n].0.ln());
        for (_, others) in self.shown.iter().enumerate().filter(|(n, _)| *n != horse) {
            ln.iter_mut().zip(others).for_each(|(total, l)| *total += l);
        }
        let whole = ln_sum(ln.iter().copied());
        for (sort, l) in barn.sorts.iter_mut().zip(ln) {
            sort.0 = (l - whole).exp();
        }
        barn
    }
}

/// Logarithm of the pace of a hypothesis over the middle one.
fn pace_off(a: &Assumptions, n: usize) -> f64 {
    let sd = a.learning.ln_pace.sd.hypot(a.learning.barn_pace_sd);
    ((n % PACES) as f64 - (PACES / 2) as f64) * 0.75 * sd
}

fn common_in(a: &Assumptions, off: f64, days: &[f64; DAYS]) -> Hypotheses {
    let bell = |n: usize| normal::density((pace_off(a, n) - off * a.learning.barn_pace_sd) / a.learning.ln_pace.sd);
    let total: f64 = (0..PACES).map(bell).sum();
    let day = |n: usize| days.get(n).map_or(BY_HABIT, |d| d * (1.0 - BY_HABIT));
    std::array::from_fn(|n| (bell(n % PACES) / total * day(n / PACES)).ln())
}

/// Logarithm of the sum of exponentials.
fn ln_sum(values: impl Iterator<Item = f64> + Clone) -> f64 {
    let top = values.clone().fold(f64::NEG_INFINITY, f64::max);
    top + values.map(|v| (v - top).exp()).sum::<f64>().ln()
}
