//! What all rungs of a horse have in common: a normal over five things, the last of which is new each day.

/// How many things are in common.
pub(super) const SIZE: usize = 5;
/// The effect of the day.
pub(super) const DAY: usize = SIZE - 1;
type Square = [[f64; SIZE]; SIZE];

/// Common level, ceiling, fade and lean of one horse, and the effect of the day, under one hypothesis.
#[derive(Debug, Clone)]
pub(super) struct Common {
    mean: [f64; SIZE],
    covariance: Square,
}

/// A day's effect by all that lasts: `mean + along · common`, give or take `variance`.
#[derive(Debug, Clone, Copy)]
pub(super) struct DayGiven {
    pub mean: f64,
    pub along: [f64; DAY],
    pub variance: f64,
}

impl Common {
    /// From independent means and standard deviations of what lasts.
    pub(super) fn new(means: [f64; DAY], sds: [f64; DAY]) -> Common {
        let mut common = Common { mean: [0.0; SIZE], covariance: [[0.0; SIZE]; SIZE] };
        common.mean[..DAY].copy_from_slice(&means);
        sds.iter().enumerate().for_each(|(i, sd)| common.covariance[i][i] = sd * sd);
        common
    }

    /// A new day: what is expected of its effect before anything is seen.
    pub(super) fn begin_day(&mut self, mean: f64, variance: f64) {
        self.mean[DAY] = mean;
        for i in 0..SIZE {
            self.covariance[i][DAY] = 0.0;
            self.covariance[DAY][i] = 0.0;
        }
        self.covariance[DAY][DAY] = variance;
    }

    /// What the day's effect was, given what lasts.
    pub(super) fn day_given(&self) -> DayGiven {
        let mut square = [[0.0; DAY]; DAY];
        (0..DAY).for_each(|i| square[i].copy_from_slice(&self.covariance[i][..DAY]));
        let with: [f64; DAY] = std::array::from_fn(|i| self.covariance[DAY][i]);
        let along = solve(square, with);
        let dot = |v: &[f64]| along.iter().zip(v).map(|(a, b)| a * b).sum::<f64>();
        DayGiven {
            mean: self.mean[DAY] - dot(&self.mean[..DAY]),
            along,
            variance: (self.covariance[DAY][DAY] - dot(&with)).max(0.0),
        }
    }

    pub(super) fn mean_along(&self, on: &[f64; SIZE]) -> f64 {
        on.iter().zip(&self.mean).map(|(a, b)| a * b).sum()
    }

    pub(super) fn variance_along(&self, on: &[f64; SIZE]) -> f64 {
        let mut sum = 0.0;
        for (a, row) in on.iter().zip(&self.covariance) {
            sum += a * row.iter().zip(on).map(|(s, b)| s * b).sum::<f64>();
        }
        sum
    }

    /// Takes in that `on · h` is `z`, give or take the variance `v`: one step of the Kalman filter.
    pub(super) fn kalman_update(&mut self, on: &[f64; SIZE], z: f64, v: f64) {
        let along: [f64; SIZE] = self.covariance.map(|row| row.iter().zip(on).map(|(s, o)| s * o).sum());
        let total = v + along.iter().zip(on).map(|(a, o)| a * o).sum::<f64>();
        let innovation = (z - self.mean_along(on)) / total;
        for i in 0..SIZE {
            self.mean[i] += along[i] * innovation;
            for j in 0..SIZE {
                self.covariance[i][j] -= along[i] * along[j] / total;
            }
        }
    }
}

/// Solves a symmetric positive definite system by Gaussian elimination.
fn solve(mut a: [[f64; DAY]; DAY], mut b: [f64; DAY]) -> [f64; DAY] {
    for i in 0..DAY {
        let pivot = a[i];
        for j in i + 1..DAY {
            let factor = a[j][i] / pivot[i];
            a[j].iter_mut().zip(pivot).for_each(|(x, p)| *x -= factor * p);
            b[j] -= factor * b[i];
        }
    }
    for i in (0..DAY).rev() {
        let known: f64 = (i + 1..DAY).map(|j| a[i][j] * b[j]).sum();
        b[i] = (b[i] - known) / a[i][i];
    }
    b
}
