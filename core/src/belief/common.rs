//! What all rungs of a horse have in common: a normal over four things, kept in information form.

const SIZE: usize = 4;
type Square = [[f64; SIZE]; SIZE];

/// Common level, ceiling, fade and lean of one horse, under one hypothesis.
#[derive(Debug, Clone)]
pub(super) struct Common {
    /// Precision and precision times mean, before and with all that was heard.
    precision: Square,
    pull: [f64; SIZE],
    /// The same as mean and covariance.
    mean: [f64; SIZE],
    spread: Square,
}

impl Common {
    /// From independent means and standard deviations.
    pub(super) fn new(means: [f64; SIZE], sds: [f64; SIZE]) -> Common {
        let mut common = Common { precision: [[0.0; 4]; 4], pull: [0.0; 4], mean: means, spread: [[0.0; 4]; 4] };
        for i in 0..SIZE {
            common.precision[i][i] = sds[i].powi(-2);
            common.pull[i] = means[i] / sds[i].powi(2);
            common.spread[i][i] = sds[i].powi(2);
        }
        common
    }

    pub(super) fn mean_along(&self, on: &[f64; SIZE]) -> f64 {
        on.iter().zip(&self.mean).map(|(a, b)| a * b).sum()
    }

    pub(super) fn variance_along(&self, on: &[f64; SIZE]) -> f64 {
        let mut sum = 0.0;
        for (a, row) in on.iter().zip(&self.spread) {
            sum += a * row.iter().zip(on).map(|(s, b)| s * b).sum::<f64>();
        }
        sum
    }

    /// Takes in that `on · h` is `z`, give or take the variance `v`.
    pub(super) fn hear(&mut self, on: &[f64; SIZE], z: f64, v: f64) {
        for i in 0..SIZE {
            self.pull[i] += on[i] * z / v;
            for j in 0..SIZE {
                self.precision[i][j] += on[i] * on[j] / v;
            }
        }
        self.spread = inverse(self.precision);
        self.mean = self.spread.map(|row| row.iter().zip(&self.pull).map(|(a, b)| a * b).sum());
    }
}

/// Of a symmetric positive definite matrix, by Gauss and Jordan; such a one needs no pivoting.
fn inverse(mut a: Square) -> Square {
    let mut b: Square = std::array::from_fn(|i| std::array::from_fn(|j| f64::from(u8::from(i == j))));
    for i in 0..SIZE {
        let pivot = a[i][i];
        for j in 0..SIZE {
            a[i][j] /= pivot;
            b[i][j] /= pivot;
        }
        for k in (0..SIZE).filter(|&k| k != i) {
            let factor = a[k][i];
            for j in 0..SIZE {
                a[k][j] -= factor * a[i][j];
                b[k][j] -= factor * b[i][j];
            }
        }
    }
    b
}
