//! How a log is written: how fine its clock is, and which weights are used.

use std::collections::BTreeMap;

use crate::{
    curriculum::StepIx,
    response::{Answer, Outcome, Rep, ResponseTime, Standard, Weight},
};

/// Ticks of a clock, in milliseconds, finest first.
const TICKS: [u32; 5] = [10, 100, 200, 500, 1000];
/// Seconds taken before a coarse clock is believed.
const FEWEST_TIMES: u32 = 4;
/// A weight that its neighbours would have led one to expect this often is one that is not used in this log.
const EXPECTED: u32 = 10;
/// Whole answers on a step before one weight for all of them is believed to be a habit.
const HABIT: u32 = 20;
/// Whole answers of a side on a day that all have one weight, or one time, were written down as a set: one reading and no more.
const AS_A_SET: usize = 5;
/// Slips allowed: one reading in this many may be off the tick.
const SLIPS: u32 = 25;

/// What was written down stands for everything between two edges.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Stretch {
    pub from: f64,
    pub to: f64,
}

impl Stretch {
    /// Anything at all.
    const ANY: Stretch = Stretch { from: f64::NEG_INFINITY, to: f64::INFINITY };
}

/// A rep, its weight and seconds as stretches: steps of the scale and logarithms of seconds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct ReadRep {
    pub outcome: Outcome,
    pub weight: Stretch,
    pub time: Option<Stretch>,
}

/// What a log has shown of how it is written.
#[derive(Debug, Clone, Default)]
pub(super) struct LogHabits {
    written: Written,
    /// Weights of the whole answers on each step.
    whole: BTreeMap<StepIx, [u32; Weight::ALL.len()]>,
}

/// The weights and the seconds that were written down so far, on any step.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Written {
    weights: [u32; Weight::ALL.len()],
    times: u32,
    /// Seconds on each tick.
    on_tick: [u32; TICKS.len()],
}

impl Written {
    fn note(&mut self, rep: &Rep) {
        self.weights[rep.weight as usize] += 1;
        let Some(time) = rep.time else { return };
        self.times += 1;
        for (n, tick) in self.on_tick.iter_mut().zip(TICKS) {
            *n += u32::from(time.get().is_multiple_of(tick));
        }
    }

    /// The coarsest tick that the seconds so far stand on.
    fn tick(&self) -> f64 {
        let stands = |n: &u32| self.times >= FEWEST_TIMES && (self.times - n) * SLIPS <= self.times;
        let at = self.on_tick.iter().rposition(stands).unwrap_or(0);
        f64::from(TICKS[at]) / 1000.0
    }

    /// Whether a weight is used: it was written, or it is not missed yet.
    fn uses(&self, weight: usize) -> bool {
        if self.weights[weight] > 0 {
            return true;
        }
        let written = |n: &&u32| **n > 0;
        let lighter = self.weights[..weight].iter().rev().find(written);
        let heavier = self.weights[weight + 1..].iter().find(written);
        lighter.into_iter().chain(heavier).min().is_none_or(|n| *n < EXPECTED)
    }

    /// From which to which weight one that was written stands for.
    fn weight(&self, written: Weight) -> Stretch {
        let at = written as usize;
        let lighter = (0..at).rev().find(|w| self.uses(*w));
        let heavier = (at + 1..Weight::ALL.len()).find(|w| self.uses(*w));
        let between = |a: usize, b: usize| 0.5 * (a as f64 + b as f64);
        Stretch {
            from: lighter.map_or(f64::NEG_INFINITY, |l| between(l, at)),
            to: heavier.map_or(f64::INFINITY, |h| between(at, h)),
        }
    }

    fn seconds(&self, time: ResponseTime) -> Stretch {
        let half = 0.5 * self.tick();
        let at = time.seconds();
        // The least that a clock shows stands for everything quicker.
        let from = if at - half < half { f64::NEG_INFINITY } else { (at - half).ln() };
        Stretch { from, to: (at + half).ln() }
    }

    /// Up to which weight felt, and up to which logarithm of seconds, what is written down meets a standard.
    pub(super) fn met(&self, standard: &Standard) -> (f64, f64) {
        let at = standard.weight as usize;
        let used = (0..=at).rev().find(|w| self.uses(*w));
        // Where nothing as light was written so far, it will be when the horse gets there.
        let heaviest = used.map_or(at as f64 + 0.5, |w| self.weight(Weight::ALL[w]).to);
        let tick = self.tick();
        let last = (standard.seconds.seconds() / tick + 1e-9).floor() * tick;
        (heaviest, (last + 0.5 * tick).max(1e-3).ln())
    }
}

impl LogHabits {
    /// Takes in what was written of a step on a day.
    pub(super) fn note<'r>(&mut self, step: StepIx, reps: impl IntoIterator<Item = &'r Rep>) {
        let whole = self.whole.entry(step).or_default();
        for rep in reps {
            if rep.answer == Answer::Gave {
                whole[rep.weight as usize] += 1;
            }
            self.written.note(rep);
        }
    }

    /// What was written so far.
    pub(super) fn written(&self) -> Written {
        self.written
    }

    /// Whether one and the same weight is written for every whole answer on a step: then it tells nothing. Nothing in the hand
    /// at all is no such habit: it is as soft as it gets.
    fn is_habit(&self, step: StepIx, weight: Weight) -> bool {
        let Some(whole) = self.whole.get(&step).filter(|_| weight != Weight::None) else { return false };
        let all: u32 = whole.iter().sum();
        all >= HABIT && (all - whole[weight as usize]) * SLIPS <= all
    }

    /// Reads what was written of a side on a day.
    pub(super) fn read(&self, step: StepIx, reps: &[&Rep]) -> Vec<ReadRep> {
        let whole: Vec<&&Rep> = reps.iter().filter(|r| r.answer == Answer::Gave).collect();
        let as_a_set = |same: &dyn Fn(&Rep, &Rep) -> bool| {
            whole.len() >= AS_A_SET && whole.windows(2).all(|two| same(two[0], two[1]))
        };
        let one_weight = as_a_set(&|a, b| a.weight == b.weight && a.weight != Weight::None);
        let one_time = as_a_set(&|a, b| a.time == b.time);
        let mut seen = 0;
        let mut read = |rep: &Rep| {
            let is_whole = rep.answer == Answer::Gave;
            let again = is_whole && seen > 0;
            seen += u32::from(is_whole);
            let no_weight = is_whole && self.is_habit(step, rep.weight) || again && one_weight;
            let weight = if no_weight { Stretch::ANY } else { self.written.weight(rep.weight) };
            let time = rep.time.filter(|_| !(again && one_time)).map(|t| self.written.seconds(t));
            ReadRep { outcome: rep.answer.outcome(), weight, time }
        };
        reps.iter().map(|r| read(r)).collect()
    }
}
