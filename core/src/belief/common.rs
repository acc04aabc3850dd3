//! What all rungs of a horse have in common: a normal over four things.

const SIZE: usize = 4;
type Square = [[f64; SIZE]; SIZE];

/// Common level, ceiling, fade and lean of one horse, under one hypothesis.
#[derive(Debug, Clone)]
pub(super) struct Common {
    mean: [f64; SIZE],
    covariance: Square,
}

impl Common {
    /// From independent means and standard deviations.
    pub(super) fn new(means: [f64; SIZE], sds: [f64; SIZE]) -> Common {
        let mut covariance = [[0.0; SIZE]; SIZE];
        (0..SIZE).for_each(|i| covariance[i][i] = sds[i].powi(2));
        Common { mean: means, covariance }
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
