//! The normal distribution, and mixtures of normals.

use std::f64::consts::{FRAC_1_SQRT_2, PI};

/// Probability that a standard normal is at most `z`.
pub(super) fn below(z: f64) -> f64 {
    0.5 * libm::erfc(-z * FRAC_1_SQRT_2)
}

/// Density of a standard normal.
pub(super) fn density(z: f64) -> f64 {
    (-0.5 * z * z).exp() / (2.0 * PI).sqrt()
}

/// Logarithm of the density of a normal with mean 0 and this variance.
pub(super) fn ln_density_of(x: f64, variance: f64) -> f64 {
    -0.5 * (x * x / variance + (2.0 * PI * variance).ln())
}

/// One normal of a mixture.
#[derive(Debug, Clone, Copy)]
pub(super) struct Part {
    pub weight: f64,
    pub mean: f64,
    pub sd: f64,
}

/// Normals whose weights add up to one.
#[derive(Debug, Clone)]
pub(super) struct Mixture(pub Vec<Part>);

impl Mixture {
    /// Of parts whose weights are made to add up to one.
    pub(super) fn of(mut parts: Vec<Part>) -> Mixture {
        let total: f64 = parts.iter().map(|p| p.weight).sum();
        parts.iter_mut().for_each(|p| p.weight /= total);
        Mixture(parts)
    }

    pub(super) fn below(&self, x: f64) -> f64 {
        self.0.iter().map(|p| p.weight * below((x - p.mean) / p.sd)).sum()
    }

    pub(super) fn mean(&self) -> f64 {
        self.0.iter().map(|p| p.weight * p.mean).sum()
    }

    pub(super) fn sd(&self) -> f64 {
        let mean = self.mean();
        self.0.iter().map(|p| p.weight * (p.sd * p.sd + (p.mean - mean).powi(2))).sum::<f64>().sqrt()
    }

    /// The value that the mixture is below with probability `q`, by Newton's steps kept inside a shrinking bracket.
    pub(super) fn quantile(&self, q: f64) -> f64 {
        let far = |sign: f64| self.0.iter().map(move |p| p.mean + sign * 9.0 * p.sd);
        let (mut low, mut high) = (far(-1.0).fold(f64::INFINITY, f64::min), far(1.0).fold(f64::NEG_INFINITY, f64::max));
        let mut x = self.mean();
        for _ in 0..60 {
            let error = self.below(x) - q;
            if error.abs() < 1e-9 {
                break;
            }
            if error > 0.0 {
                high = x;
            } else {
                low = x;
            }
            let slope: f64 = self.0.iter().map(|p| p.weight * density((x - p.mean) / p.sd) / p.sd).sum();
            let step = x - error / slope;
            x = if step > low && step < high { step } else { 0.5 * (low + high) };
        }
        x
    }

    /// Expected value of `f`, by the midpoint rule over ±4 sd of every part.
    pub(super) fn expect(&self, f: impl Fn(f64) -> f64) -> f64 {
        const NODES: i32 = 16;
        let nodes: Vec<(f64, f64)> = (0..NODES)
            .map(|i| f64::from(2 * i + 1 - NODES) * 4.0 / f64::from(NODES))
            .map(|z| (z, density(z)))
            .collect();
        let total: f64 = nodes.iter().map(|n| n.1).sum();
        let part = |p: &Part| nodes.iter().map(|(z, d)| d / total * f(p.mean + z * p.sd)).sum::<f64>();
        self.0.iter().map(|p| p.weight * part(p)).sum()
    }
}
