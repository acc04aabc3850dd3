//! The hypotheses about a horse: how fast it learns. Under each, everything is normal but losses.

use super::{
    barn_prior::{BarnPrior, HYPOTHESES, HorseEvidence, Hypothesis, Weights},
    common::{self, Common},
    day_model::{self, DayPrior, SideBefore},
    loss::{self, AMOUNTS, CommonLoss, LEVELS, Lost},
    normal::{self, Mixture, Part},
    rep_model::{Likelihood, STEP, state, window},
    settings::ModelSettings,
    step_filter::StepFilter,
};
use crate::curriculum::{Course, Side, Step, StepIx};

/// Days with reps before a side has something to lose.
const NEW_DAYS: u32 = 3;
/// Readings with less than this precision, and what is less likely than this, say nothing.
pub(super) const FAINT: f64 = 1e-4;

/// The reps of one step and side on one day, read.
#[derive(Debug)]
pub(super) struct DayReading {
    pub step: StepIx,
    pub side: Side,
    pub shown: Likelihood,
    /// Days on which the side was ridden before.
    pub days: u32,
}

/// Every hypothesis about one horse, each with all that follows from it.
#[derive(Debug, Clone)]
pub(super) struct HypothesisBank {
    hypotheses: Vec<Hypothesis>,
    common: Vec<Common>,
    /// For each step with reps, what is believed of it under each hypothesis: side by side, so that a step is fetched from memory
    /// in one piece.
    filters: Vec<Option<Vec<StepFilter>>>,
    /// What each side of each step has lost by itself: left or both, then right.
    own: Vec<[Lost; 2]>,
    /// What is lost in common.
    common_loss: CommonLoss,
    days: DayPrior,
    /// Steps and sides worked on the last day: besides days off, only these change until the next.
    worked: Vec<(StepIx, Side)>,
    /// Days off up to which all filters have faded.
    faded: f64,
    /// Logarithm of the probability of all that was seen, under each hypothesis.
    evidence: HorseEvidence,
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
            own: vec![[loss::SOUND; 2]; steps],
            common_loss: CommonLoss::none(),
            days: DayPrior::new(&a.days),
            worked: vec![],
            faded: 0.0,
            evidence: HorseEvidence::none(),
        }
    }

    /// About how many bytes it takes up.
    pub(super) fn bytes(&self) -> usize {
        let filters = |f: &Option<Vec<StepFilter>>| f.as_ref().map_or(0, |f| size_of_val(&f[..]));
        size_of_val(&self.filters[..]) + size_of_val(&self.own[..]) + self.filters.iter().map(filters).sum::<usize>()
    }

    pub(super) fn evidence(&self) -> HorseEvidence {
        self.evidence
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
            let mut steps: Vec<StepIx> = self.worked.iter().map(|w| w.0).collect();
            steps.dedup();
            steps.iter().for_each(|&ix| predict(&mut self.filters[ix]));
        }
        for (ix, side) in std::mem::take(&mut self.worked) {
            let own = &mut self.own[ix][at(side)];
            *own = loss::next_day(own, &a.losses);
        }
        self.common_loss.next_day(&a.losses);
    }

    /// Updates on the work of one day, by step and side. Every side is measured against what was believed that morning, so that
    /// their order does not matter.
    pub(super) fn update(
        &mut self,
        a: &ModelSettings,
        course: &Course,
        work: &[DayReading],
        weights: &Weights,
        faded: f64,
    ) {
        let mut unseen: Vec<StepIx> = work.iter().map(|w| w.step).filter(|&ix| self.filters[ix].is_none()).collect();
        unseen.dedup();
        let new: Vec<(StepIx, Vec<StepFilter>)> = unseen
            .into_iter()
            .map(|ix| (ix, (0..HYPOTHESES).map(|n| self.new_filter(a, course, n, course.step(ix), faded)).collect()))
            .collect();
        for (ix, filters) in new {
            self.filters[ix] = Some(filters);
        }
        let sides: Vec<SideBefore<'_>> = work
            .iter()
            .map(|w| SideBefore {
                side: w.side,
                sound: self.pooled(w.step, w.side, weights),
                own: self.own[w.step][at(w.side)],
                is_new: w.days < NEW_DAYS,
                likelihood: &w.shown.parts,
            })
            .collect();
        let shared = self.shared(work, weights);
        let day = day_model::weigh(&self.days, &weights.spreads, &self.common_loss, shared, &sides);
        for (sum, shown) in self.evidence.spreads.iter_mut().zip(day.spreads) {
            *sum += shown.max(1e-300).ln();
        }
        self.begin_day(work, day.effect);
        let mut measurements: Vec<[Measurement; HYPOTHESES]> = vec![];
        for (w, after) in work.iter().zip(&day.sides) {
            let shown = w.shown.with_parts(day_model::spread(&w.shown.parts, &after.expected));
            measurements.push(std::array::from_fn(|n| self.measurement(w, n, &shown)));
            self.own[w.step][at(w.side)] = after.own;
        }
        self.common_loss = day.common;
        for (w, measured) in work.iter().zip(&measurements) {
            let filters = self.filters[w.step].iter_mut().flatten();
            for (n, ((filter, common), m)) in filters.zip(&mut self.common).zip(measured).enumerate() {
                let (mean, variance) = filter.state(w.side, common);
                self.evidence.hypotheses[n] += m.ln_scale + normal::ln_density_of(m.z - mean, variance + m.v);
                filter.kalman_update(w.side, m.z, m.v, common);
            }
            self.worked.push((w.step, w.side));
        }
        self.end_day(work);
    }

    fn begin_day(&mut self, work: &[DayReading], (mean, variance): (f64, f64)) {
        self.common.iter_mut().for_each(|c| c.begin_day(mean, variance));
        for ix in steps(work) {
            self.filters[ix].iter_mut().flatten().for_each(StepFilter::begin_day);
        }
    }

    fn end_day(&mut self, work: &[DayReading]) {
        for (n, common) in self.common.iter().enumerate() {
            let day = common.day_given();
            for ix in steps(work) {
                if let Some(filters) = &mut self.filters[ix] {
                    filters[n].end_day(&day);
                }
            }
        }
    }

    /// The state of a side without losses, all hypotheses together: mean and variance.
    fn pooled(&self, ix: StepIx, side: Side, weights: &Weights) -> (f64, f64) {
        let states = (0..HYPOTHESES).filter_map(|n| self.now(ix, side, n)).zip(&weights.hypotheses);
        let (mut mean, mut square) = (0.0, 0.0);
        for ((m, v), w) in states {
            mean += w * m;
            square += w * (v + m * m);
        }
        (mean, (square - mean * mean).max(1e-4))
    }

    /// The variance that the states of a day's sides have in common: their mean covariance, pair by pair.
    fn shared(&self, work: &[DayReading], weights: &Weights) -> f64 {
        let pairs = (work.len() * work.len().saturating_sub(1)) as f64;
        if pairs == 0.0 {
            return 0.0;
        }
        let mut covariance = 0.0;
        let mut least = f64::INFINITY;
        let pooled: Vec<(f64, f64)> = work.iter().map(|w| self.pooled(w.step, w.side, weights)).collect();
        pooled.iter().for_each(|p| least = least.min(p.1));
        for (n, weight) in weights.hypotheses.iter().enumerate().filter(|(_, w)| **w > FAINT) {
            let mut along = [0.0; common::SIZE];
            let (mut own, mut off, mut off_square) = (0.0, 0.0, 0.0);
            for (w, (mean, _)) in work.iter().zip(&pooled) {
                let Some(filter) = self.filters[w.step].as_ref().map(|f| &f[n]) else { continue };
                let loadings = filter.loadings(w.side);
                along.iter_mut().zip(loadings).for_each(|(a, l)| *a += l);
                own += self.common[n].variance_along(loadings);
                let m = filter.state(w.side, &self.common[n]).0 - mean;
                off += m;
                off_square += m * m;
            }
            covariance += weight * (self.common[n].variance_along(&along) - own + off * off - off_square);
        }
        (covariance / pairs).clamp(0.0, 0.95 * least)
    }

    /// What a side's reps say of its state on this day, as a normal: what turns the state before them into the state after them.
    fn measurement(&self, work: &DayReading, n: usize, shown: &Likelihood) -> Measurement {
        let Some((mean, variance)) = self.now(work.step, work.side, n) else { return Measurement::default() };
        let (ln_total, seen_mean, seen_variance) = moment_match(mean, variance, shown);
        // Where it is open whether something was lost, a day may leave more doubt than it found: then it moves the mean alone.
        let precision = (1.0 / seen_variance - 1.0 / variance).max(FAINT);
        let z = mean + (seen_mean - mean) * (1.0 / variance + precision) / precision;
        let v = 1.0 / precision;
        Measurement { z, v, ln_scale: ln_total - normal::ln_density_of(z - mean, variance + v) }
    }

    /// How likely it is that a side has lost each amount, by itself or with others.
    pub(super) fn lost(&self, ix: StepIx, side: Side) -> Lost {
        loss::together(&self.own[ix][at(side)], &self.common_loss.of(side))
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

    /// How likely it is that something is lost on one side alone.
    pub(super) fn side_lost(&self, side: Side) -> f64 {
        self.common_loss.lost[1 + at(side)].iter().sum()
    }

    /// The state of a step and side with reps, losses included; on a later day, as of when `later` days off were over.
    pub(super) fn state(
        &self,
        a: &ModelSettings,
        ix: StepIx,
        side: Side,
        weights: &Weights,
        later: Option<f64>,
    ) -> Option<Mixture> {
        let filters = self.filters[ix].as_ref()?;
        let lost = self.lost(ix, side);
        let mut parts = Vec::with_capacity(HYPOTHESES * LEVELS);
        for (((filter, common), h), weight) in
            filters.iter().zip(&self.common).zip(&self.hypotheses).zip(&weights.hypotheses)
        {
            if *weight < FAINT {
                continue;
            }
            let (mean, variance) = match later {
                None => filter.state(side, common),
                Some(faded) => {
                    let mut filter = filter.clone();
                    filter.predict(h.pace, a.learning.chance_sd, faded);
                    filter.state(side, common)
                }
            };
            let sd = variance.max(1e-6).sqrt() * a.caution;
            let part = |(amount, p): (&f64, &f64)| Part { weight: weight * p, mean: mean - amount, sd };
            parts.extend(AMOUNTS.iter().zip(&lost).filter(|(_, p)| **p > FAINT).map(part));
        }
        Some(Mixture::of(parts))
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

/// A normal in place of a likelihood: `exp(ln_scale) · N(z; state, v)`.
#[derive(Debug, Clone, Copy, Default)]
struct Measurement {
    z: f64,
    v: f64,
    ln_scale: f64,
}

/// The steps of a day's work, each once.
fn steps(work: &[DayReading]) -> impl Iterator<Item = StepIx> + '_ {
    work.iter().enumerate().filter(|(n, w)| *n == 0 || work[n - 1].step != w.step).map(|(_, w)| w.step)
}

/// Where a side has its place.
const fn at(side: Side) -> usize {
    matches!(side, Side::Right) as usize
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
    let ln = |i: usize| shown.ln_top + shown.parts[i].max(1e-300).ln() - (state(i) - mean).powi(2) / (2.0 * variance);
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
