//! How a rider logs: how many reps, which weights and how fine a clock.

use cavesson_core::{
    curriculum::{Measure, Step},
    response::{Answer, Rep, ResponseTime, Standard, Weight},
};
use rand::RngExt;
use rand_chacha::ChaCha8Rng;

use super::{Kind, RungNature, Showing};
use crate::horse::normal;

/// One rider, as the log sees it.
#[derive(Debug)]
pub(super) struct RiderLog {
    showing: Showing,
    reps: (u32, u32),
    timed: f64,
    tick: f64,
    /// The weights that this rider uses.
    uses: Vec<Weight>,
}

impl RiderLog {
    pub(super) fn new(kind: &Kind, rng: &mut ChaCha8Rng) -> RiderLog {
        let few = rng.random_bool(kind.riders.few_weights);
        let uses = Weight::ALL.into_iter().filter(|w| {
            let end = matches!(w, Weight::None | Weight::Tug);
            end || !few || rng.random_bool(0.6)
        });
        let uses: Vec<Weight> = uses.collect();
        let (least, most) = kind.riders.timed;
        let timed = if most - least > 0.7 && rng.random_bool(0.2) { 0.0 } else { rng.random_range(least..=most) };
        let tick = f64::from(kind.riders.tick) / 1000.0;
        RiderLog { showing: kind.showing, reps: kind.riders.reps, timed, tick, uses }
    }

    pub(super) fn reps(&self, rng: &mut ChaCha8Rng) -> u32 {
        rng.random_range(self.reps.0..=self.reps.1)
    }

    /// The weight that is written for one felt, in steps of the scale: the nearest that this rider uses.
    fn written(&self, felt: f64) -> Weight {
        let off = |w: &Weight| (f64::from(*w as u8) - felt).abs();
        self.uses.iter().copied().min_by(|a, b| off(a).total_cmp(&off(b))).unwrap_or(Weight::None)
    }

    fn weight_at(&self, standard: &Standard, nature: RungNature, u: f64) -> f64 {
        f64::from(standard.weight as u8) + nature.weight - self.showing.weight_slope * u
    }

    fn ln_seconds_at(&self, standard: &Standard, nature: RungNature, u: f64) -> f64 {
        standard.seconds.seconds().ln() + nature.time - self.showing.time_slope * u
    }

    /// A rep as it is written down.
    pub(super) fn log(&self, standard: &Standard, nature: RungNature, u: f64, rng: &mut ChaCha8Rng) -> Rep {
        let answer = match u {
            u if u > 0.0 => Answer::Gave,
            u if u > -self.showing.try_width => Answer::Tried { missing: None },
            _ => Answer::None,
        };
        let weight = self.written(self.weight_at(standard, nature, u) + normal(rng, self.showing.weight_sd));
        let seconds = (self.ln_seconds_at(standard, nature, u) + normal(rng, self.showing.time_sd)).exp();
        let ticks = (seconds / self.tick).round().max(1.0);
        let timed = rng.random_bool(self.timed);
        let time = timed.then(|| ResponseTime::from_seconds(ticks * self.tick).ok()).flatten();
        Rep { answer, weight, time }
    }

    /// The share of reps that meet the standard on an ordinary day from a state: by the midpoint rule over nearness.
    pub(super) fn share(&self, step: &Step, nature: RungNature, state: f64) -> f64 {
        if step.measure != Measure::Reps {
            return 1.0 / (1.0 + (-state).exp());
        }
        let standard = &step.standard;
        const NODES: i32 = 240;
        const WIDTH: f64 = 0.1;
        let below = |z: f64| 0.5 * libm::erfc(-z * std::f64::consts::FRAC_1_SQRT_2);
        // The lightest weight felt that is written as more than the standard.
        let at = self.uses.iter().position(|w| *w > standard.weight).unwrap_or(self.uses.len());
        let edge = match (at.checked_sub(1).map(|i| self.uses[i]), self.uses.get(at)) {
            (Some(last), Some(over)) => 0.5 * (f64::from(last as u8) + f64::from(*over as u8)),
            (None, _) => f64::NEG_INFINITY,
            (_, None) => f64::INFINITY,
        };
        let ticks = (standard.seconds.seconds() / self.tick + 1e-9).floor();
        let late = ((ticks + 0.5) * self.tick).ln();
        (0..NODES)
            .map(|i| (f64::from(i) + 0.5) * WIDTH)
            .map(|u| {
                let e = (-(u - state).abs()).exp();
                let logistic = e / (1.0 + e).powi(2);
                let light = below((edge - self.weight_at(standard, nature, u)) / self.showing.weight_sd);
                let quick = below((late - self.ln_seconds_at(standard, nature, u)) / self.showing.time_sd);
                logistic * WIDTH * light * (1.0 - self.timed + self.timed * quick)
            })
            .sum()
    }
}
