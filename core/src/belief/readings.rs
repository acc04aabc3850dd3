//! What weight and seconds say at each rung, learned from the logs of a barn.
//!
//! Among tries the nearness lies within a narrow stretch, whatever the state of the horse: so what they weigh and how long they take
//! tells where the scale of a rung sits, without any belief about the horses.

use std::collections::BTreeMap;

use super::{day::Day, settings::ObservationModel};
use crate::{
    curriculum::Course,
    response::{Outcome, Rep, Standard},
};

/// Thousandths of a logarithm: sums of whole numbers come to the same in any order.
const MILLI: f64 = 1000.0;

/// What tries on one step have shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
struct Tries {
    weights: u32,
    /// Steps over the standard's weight, and their squares.
    weight: i64,
    weight_square: i64,
    times: u32,
    /// Thousandths of the logarithm of the seconds over the standard's, and their squares.
    time: i64,
    time_square: i64,
}

/// What the logs of a barn have shown of its readings, by the id of the step.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct ReadingTally {
    tries: BTreeMap<String, Tries>,
    /// Asks without an answer, and all that were not whole, on days on which most were.
    none: u32,
    not_whole: u32,
}

impl ReadingTally {
    /// Takes in a day of a horse.
    pub fn note(&mut self, course: &Course, day: &Day) {
        for work in day.work.iter().filter(|w| !w.reps.is_empty()) {
            let step = course.step(work.step);
            let of = |outcome: Outcome| work.reps.iter().filter(move |r| r.answer.outcome() == outcome);
            let whole = of(Outcome::Gave).count();
            if whole * 10 >= work.reps.len() * 6 {
                self.none += of(Outcome::None).count() as u32;
                self.not_whole += (work.reps.len() - whole) as u32;
            }
            if of(Outcome::Tried).next().is_some() {
                let tries = self.tries.entry(step.id.clone()).or_default();
                of(Outcome::Tried).for_each(|r| tries.note(&step.standard, r));
            }
        }
    }

    /// Adds what another log has shown.
    pub fn add(&mut self, other: &ReadingTally) {
        for (id, t) in &other.tries {
            let tries = self.tries.entry(id.clone()).or_default();
            tries.weights += t.weights;
            tries.weight += t.weight;
            tries.weight_square += t.weight_square;
            tries.times += t.times;
            tries.time += t.time;
            tries.time_square += t.time_square;
        }
        self.none += other.none;
        self.not_whole += other.not_whole;
    }
}

impl Tries {
    fn note(&mut self, standard: &Standard, rep: &Rep) {
        let over = rep.weight as i64 - standard.weight as i64;
        self.weights += 1;
        self.weight += over;
        self.weight_square += over * over;
        if let Some(time) = rep.time {
            let ln = (time.seconds().max(0.05) / standard.seconds.seconds().max(0.05)).ln();
            let milli = (ln * MILLI).round() as i64;
            self.times += 1;
            self.time += milli;
            self.time_square += milli * milli;
        }
    }
}

/// How one rung is read.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct RungReading {
    pub try_width: f64,
    pub weight_at_zero: f64,
    pub weight_sd: f64,
    pub time_at_zero: f64,
    pub time_sd: f64,
}

/// How a barn's logs are read, step by step of a course.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Readings(Vec<RungReading>);

impl Readings {
    pub(super) fn of(course: &Course, model: &ObservationModel, tally: &ReadingTally) -> Readings {
        let try_width = try_width(model, tally);
        let middle = mean_of_tries(try_width);
        let usual = |standard: &Standard| {
            // A standard that asks for more of the reps sits where they are lighter and quicker.
            let stricter = logit(standard.share.fraction()) - logit(0.8);
            let at = |zero: f64, slope: f64| zero - slope * model.strictness * stricter;
            (at(model.weight_at_zero, model.weight_slope), at(model.time_at_zero, model.time_slope))
        };
        let blank = Tries::default();
        let rung = |id: &str, standard: &Standard| {
            let t = tally.tries.get(id).unwrap_or(&blank);
            let (weight, time) = usual(standard);
            let over = Over {
                weight: t.weight as f64 - f64::from(t.weights) * (weight - model.weight_slope * middle),
                time: t.time as f64 / MILLI - f64::from(t.times) * (time - model.time_slope * middle),
            };
            (over, weight, time, t)
        };
        // The barn's own habit of writing heavy or light, then each rung around that.
        let (mut weight, mut weights, mut time, mut times) = (0.0, 0.0, 0.0, 0.0);
        for step in course.steps() {
            let (over, _, _, t) = rung(&step.id, &step.standard);
            weight += over.weight;
            weights += f64::from(t.weights);
            time += over.time;
            times += f64::from(t.times);
        }
        let barn = (weight / (weights + model.barn_tries), time / (times + model.barn_tries));
        let spread = Spreads::of(model, tally, try_width);
        let read = |step: &crate::curriculum::Step| {
            let (over, weight, time, t) = rung(&step.id, &step.standard);
            let own =
                |over: f64, n: u32, barn: f64| (over + model.rung_tries * barn) / (f64::from(n) + model.rung_tries);
            RungReading {
                try_width: rounded(try_width, 0.05),
                weight_at_zero: rounded(weight + own(over.weight, t.weights, barn.0), 0.05),
                weight_sd: rounded(spread.weight, 0.02),
                time_at_zero: rounded(time + own(over.time, t.times, barn.1), 0.01),
                time_sd: rounded(spread.time, 0.005),
            }
        };
        Readings(course.steps().iter().map(read).collect())
    }

    pub(super) fn rung(&self, step: usize) -> &RungReading {
        &self.0[step]
    }
}

/// To the nearest step: what changes less than that from week to week is read as before, and what was worked out for it is kept.
fn rounded(x: f64, step: f64) -> f64 {
    (x / step).round() * step
}

/// How far tries lie over what is usual, added up.
struct Over {
    weight: f64,
    time: f64,
}

/// How rough the barn's weights and seconds are.
struct Spreads {
    weight: f64,
    time: f64,
}

impl Spreads {
    /// From the spread within the tries of each rung, less what nearness and rounding put there.
    fn of(model: &ObservationModel, tally: &ReadingTally, try_width: f64) -> Spreads {
        let (mut weight, mut weights, mut time, mut times) = (0.0, 0.0, 0.0, 0.0);
        let within = |sum: i64, square: i64, n: u32| square as f64 - (sum as f64).powi(2) / f64::from(n.max(1));
        for t in tally.tries.values() {
            weight += within(t.weight, t.weight_square, t.weights);
            weights += f64::from(t.weights.saturating_sub(1));
            time += within(t.time, t.time_square, t.times) / (MILLI * MILLI);
            times += f64::from(t.times.saturating_sub(1));
        }
        let near = variance_of_tries(try_width);
        let rounding = 1.0 / 12.0;
        let part = |sum: f64, n: f64, usual: f64, other: f64| {
            let expected = usual * usual + other;
            ((sum + model.spread_tries * expected) / (n + model.spread_tries) - other).max(0.25 * usual * usual).sqrt()
        };
        Spreads {
            weight: part(weight, weights, model.weight_sd, model.weight_slope * model.weight_slope * near + rounding),
            time: part(time, times, model.time_sd, model.time_slope * model.time_slope * near),
        }
    }
}

fn logit(p: f64) -> f64 {
    let p = p.clamp(0.01, 0.99);
    (p / (1.0 - p)).ln()
}

/// Mean and variance of nearness among tries, from a horse that gives the whole answer mostly: there the logistic density rises as
/// `exp(u)`, and is that of an exponential cut off at the width of a try.
fn mean_of_tries(width: f64) -> f64 {
    let e = (-width).exp();
    -1.0 + width * e / (1.0 - e)
}

fn variance_of_tries(width: f64) -> f64 {
    let e = (-width).exp();
    1.0 - width * width * e / (1.0 - e).powi(2)
}

/// The width of a try, from how many of the asks that fell short had no answer at all: `exp(−width)` of them, on days that went
/// well.
fn try_width(model: &ObservationModel, tally: &ReadingTally) -> f64 {
    let usual = (-model.try_width).exp();
    let share = (f64::from(tally.none) + model.try_asks * usual) / (f64::from(tally.not_whole) + model.try_asks);
    (-share.clamp(0.02, 0.9).ln()).clamp(0.4, 3.0)
}
