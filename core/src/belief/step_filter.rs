//! What is believed about one step under one hypothesis on the horse: a Kalman filter over both sides.
//!
//! For each side it holds the state `θ` now and the ceiling `c` toward which it learns. All of them hang on four things
//! common to every rung of the horse ([`Common`]); those are kept open: the mean is a plane over them, `m + G·h`, and what a
//! day says about them is handed up. So a horse with a hundred rungs costs a hundred small filters, not one of hundreds
//! of dimensions, and nothing is lost by it.

use super::{common::Common, settings::ModelSettings};
use crate::curriculum::{Gait, Side};

/// `θ` and `c` of the left (or of both sides together), then of the right.
const SIZE: usize = 4;

/// Common level, ceiling, fade for a day off, lean to the right.
pub(super) const LEVEL: usize = 0;
pub(super) const CEILING: usize = 1;
pub(super) const FADE: usize = 2;
pub(super) const LEAN: usize = 3;

#[derive(Debug, Clone)]
pub(super) struct StepFilter {
    mean: [f64; SIZE],
    on_common: [[f64; 4]; SIZE],
    spread: [[f64; SIZE]; SIZE],
    /// Sides worked on a day whose learning has not been added yet: it needs a night to soak in.
    soaking: [bool; 2],
    /// Days off of the horse, over the free ones, up to which this filter has faded.
    faded: f64,
}

fn place(side: Side) -> usize {
    match side {
        Side::Left | Side::Both => 0,
        Side::Right => 2,
    }
}

impl StepFilter {
    /// Before any rep. `needs` is what the horse has of the step's needs, left and right, none where it needs nothing.
    pub(super) fn new(
        settings: &ModelSettings,
        gait: Gait,
        both: bool,
        needs: [Option<f64>; 2],
        faded: f64,
    ) -> StepFilter {
        let (starts, learning) = (&settings.starts, &settings.learning);
        let start = |needs: Option<f64>| match needs {
            None => (1.0, 0.0),
            Some(owned) => (starts.level_share, starts.need_share * owned - starts.gait_cost[gait as usize]),
        };
        let (rung, side) = (starts.rung_sd.powi(2), starts.side_sd.powi(2));
        let (high, high_side) = (learning.ceiling_rung_sd.powi(2), learning.ceiling_side_sd.powi(2));
        let mut filter = StepFilter {
            mean: [start(needs[0]).1, 0.0, start(needs[1]).1, 0.0],
            on_common: [[0.0; 4]; SIZE],
            spread: [
                [rung + side, 0.0, rung, 0.0],
                [0.0, high + high_side, 0.0, high],
                [rung, 0.0, rung + side, 0.0],
                [0.0, high, 0.0, high + high_side],
            ],
            soaking: [false; 2],
            faded,
        };
        for (at, sign, needs) in [(0, -1.0, needs[0]), (2, 1.0, needs[1])] {
            let lean = if both { 0.0 } else { sign };
            filter.on_common[at][LEVEL] = start(needs).0;
            filter.on_common[at][LEAN] = lean;
            filter.on_common[at + 1][CEILING] = 1.0;
            filter.on_common[at + 1][LEAN] = lean;
        }
        filter
    }

    /// Mean and variance of a side's state, what is common being as believed.
    pub(super) fn state(&self, side: Side, common: &Common) -> (f64, f64) {
        let i = place(side);
        let on = &self.on_common[i];
        (self.mean[i] + common.mean_along(on), self.spread[i][i] + common.variance_along(on))
    }

    /// A day of work of which nothing is known yet.
    pub(super) fn work(&mut self, side: Side) {
        self.soaking[usize::from(place(side) > 0)] = true;
    }

    /// Takes in a reading `z` of a side's state with variance `v`, and hands up what it says of the common part.
    pub(super) fn read(&mut self, side: Side, z: f64, v: f64, common: &mut Common) {
        let i = place(side);
        let total = self.spread[i][i] + v;
        let miss = z - self.mean[i];
        let on = self.on_common[i];
        common.kalman_update(&on, miss, total);
        let row = self.spread[i];
        for (j, cov) in row.iter().enumerate() {
            let gain = cov / total;
            self.mean[j] += gain * miss;
            for (own, seen) in self.on_common[j].iter_mut().zip(on) {
                *own -= gain * seen;
            }
            for (own, other) in self.spread[j].iter_mut().zip(row) {
                *own -= gain * other;
            }
        }
        self.work(side);
    }

    /// A later day: the last day's work has soaked in, and days off have taken their toll.
    pub(super) fn rest(&mut self, pace: f64, chance_sd: f64, faded: f64) {
        for (n, soaking) in std::mem::take(&mut self.soaking).into_iter().enumerate() {
            if soaking {
                self.learn(2 * n, pace, chance_sd);
            }
        }
        let lost = faded - self.faded;
        if lost > 0.0 {
            self.on_common[0][FADE] -= lost;
            self.on_common[2][FADE] -= lost;
            self.faded = faded;
        }
    }

    /// `θ` goes `pace` of the way to `c`.
    fn learn(&mut self, i: usize, pace: f64, chance_sd: f64) {
        let toward = |own: f64, ceiling: f64| (1.0 - pace) * own + pace * ceiling;
        self.mean[i] = toward(self.mean[i], self.mean[i + 1]);
        for h in 0..4 {
            self.on_common[i][h] = toward(self.on_common[i][h], self.on_common[i + 1][h]);
        }
        for j in 0..SIZE {
            self.spread[i][j] = toward(self.spread[i][j], self.spread[i + 1][j]);
        }
        for j in 0..SIZE {
            self.spread[j][i] = toward(self.spread[j][i], self.spread[j][i + 1]);
        }
        self.spread[i][i] += chance_sd.powi(2);
    }
}
