//! What is believed about one step under one hypothesis on the horse: a Kalman filter over both sides.
//!
//! For each side it holds the state `θ` now and the ceiling `c` toward which it learns. All of them depend on four things that
//! every rung of the horse has in common ([`Common`]), and the filter is kept conditional on those: its mean is `m + G·h` for
//! common values `h` with loadings `G`, and what a day says about `h` updates [`Common`]. So a horse with a hundred rungs costs
//! a hundred small filters instead of one of hundreds of dimensions, with the same result.

use super::{
    common::{self, Common, DayGiven},
    settings::ModelSettings,
};
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
    loadings: [[f64; common::SIZE]; SIZE],
    covariance: [[f64; SIZE]; SIZE],
    /// Sides worked on a day whose learning has not been added yet: it needs a night to soak in.
    to_learn: [bool; 2],
    /// Days off of the horse, over the free ones, up to which this filter has faded.
    faded: f64,
}

fn index(side: Side) -> usize {
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
            Some(owned) => {
                (starts.level_share, starts.need_share * owned.min(starts.need_most) - starts.gait_cost[gait as usize])
            }
        };
        let (rung, side) = (starts.rung_sd.powi(2), starts.side_sd.powi(2));
        let (high, high_side) = (learning.ceiling_rung_sd.powi(2), learning.ceiling_side_sd.powi(2));
        let mut filter = StepFilter {
            mean: [start(needs[0]).1, 0.0, start(needs[1]).1, 0.0],
            loadings: [[0.0; common::SIZE]; SIZE],
            covariance: [
                [rung + side, 0.0, rung, 0.0],
                [0.0, high + high_side, 0.0, high],
                [rung, 0.0, rung + side, 0.0],
                [0.0, high, 0.0, high + high_side],
            ],
            to_learn: [false; 2],
            faded,
        };
        for (at, sign, needs) in [(0, -1.0, needs[0]), (2, 1.0, needs[1])] {
            let lean = if both { 0.0 } else { sign };
            filter.loadings[at][LEVEL] = start(needs).0;
            filter.loadings[at][LEAN] = lean;
            filter.loadings[at + 1][CEILING] = 1.0;
            filter.loadings[at + 1][LEAN] = lean;
        }
        filter
    }

    /// Mean and variance of a side's state, what is common being as believed.
    pub(super) fn state(&self, side: Side, common: &Common) -> (f64, f64) {
        let i = index(side);
        let on = &self.loadings[i];
        (self.mean[i] + common.mean_along(on), self.covariance[i][i] + common.variance_along(on))
    }

    /// How a side's state depends on what is common.
    pub(super) fn loadings(&self, side: Side) -> &[f64; common::SIZE] {
        &self.loadings[index(side)]
    }

    /// Today's effect comes to both sides.
    pub(super) fn begin_day(&mut self) {
        self.loadings[0][common::DAY] = 1.0;
        self.loadings[2][common::DAY] = 1.0;
    }

    /// The day is over: the effect itself is left out, and what is not known of it stays as doubt in what it had touched.
    pub(super) fn end_day(&mut self, day: &DayGiven) {
        for at in [0, 2] {
            self.loadings[at][common::DAY] -= 1.0;
        }
        let touched: [f64; SIZE] = std::array::from_fn(|i| self.loadings[i][common::DAY]);
        for (i, by) in touched.iter().enumerate() {
            self.mean[i] += by * day.mean;
            for (own, along) in self.loadings[i].iter_mut().zip(day.along) {
                *own += by * along;
            }
            self.loadings[i][common::DAY] = 0.0;
            for (own, other) in self.covariance[i].iter_mut().zip(touched) {
                *own += by * other * day.variance;
            }
        }
    }

    /// Notes a day of work whose reps say nothing, as in a forecast.
    pub(super) fn note_work(&mut self, side: Side) {
        self.to_learn[usize::from(index(side) > 0)] = true;
    }

    /// Updates on a measurement `z` of a side's state with variance `v`, the common part included.
    pub(super) fn kalman_update(&mut self, side: Side, z: f64, v: f64, common: &mut Common) {
        let i = index(side);
        let total = self.covariance[i][i] + v;
        let innovation = z - self.mean[i];
        let on = self.loadings[i];
        common.kalman_update(&on, innovation, total);
        let row = self.covariance[i];
        for (j, cov) in row.iter().enumerate() {
            let gain = cov / total;
            self.mean[j] += gain * innovation;
            for (own, seen) in self.loadings[j].iter_mut().zip(on) {
                *own -= gain * seen;
            }
            for (own, other) in self.covariance[j].iter_mut().zip(row) {
                *own -= gain * other;
            }
        }
        self.note_work(side);
    }

    /// Predicts a later day: learning from the last day's work is added, and the fade of days off.
    pub(super) fn predict(&mut self, pace: f64, chance_sd: f64, faded: f64) {
        for (n, to_learn) in std::mem::take(&mut self.to_learn).into_iter().enumerate() {
            if to_learn {
                self.learn(2 * n, pace, chance_sd);
            }
        }
        let lost = faded - self.faded;
        if lost > 0.0 {
            self.loadings[0][FADE] -= lost;
            self.loadings[2][FADE] -= lost;
            self.faded = faded;
        }
    }

    /// `θ` goes `pace` of the way to `c`.
    fn learn(&mut self, i: usize, pace: f64, chance_sd: f64) {
        let toward = |own: f64, ceiling: f64| (1.0 - pace) * own + pace * ceiling;
        self.mean[i] = toward(self.mean[i], self.mean[i + 1]);
        for h in 0..common::SIZE {
            self.loadings[i][h] = toward(self.loadings[i][h], self.loadings[i + 1][h]);
        }
        for j in 0..SIZE {
            self.covariance[i][j] = toward(self.covariance[i][j], self.covariance[i + 1][j]);
        }
        for j in 0..SIZE {
            self.covariance[j][i] = toward(self.covariance[j][i], self.covariance[j][i + 1]);
        }
        self.covariance[i][i] += chance_sd.powi(2);
    }
}
