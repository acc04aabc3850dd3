//! How likely a count is, by the share of them that meets the standard.

use statrs::function::{factorial::ln_binomial, gamma::ln_gamma};

use super::{Count, ObstacleStage};
use crate::curriculum::Measure;

/// Stages that a try passes on its way across.
const STAGES: i32 = ObstacleStage::Crosses as i32;

impl Measure {
    /// The chance or the rate behind a measure at which a share of 0 to 1 meets its standard: of a soft lap, of passing a stage, of
    /// an accepted set-up, of a straight step; nose-ups a circle; losses a second.
    ///
    /// ```
    /// use cavesson_core::curriculum::Measure;
    /// // Ten straight steps eight times in ten: each step is straight 98 times in a hundred.
    /// let step = Measure::Steps { count: 10 }.chance_at(0.8);
    /// assert!((step.powi(10) - 0.8).abs() < 1e-12);
    /// ```
    pub fn chance_at(self, share: f64) -> f64 {
        let within = |n: u8, share: f64| 1.0 - (1.0 - share).powf(1.0 / f64::from(n.max(1)));
        match self {
            Measure::Laps { most } => within(most, share),
            Measure::Tries { within: most } => within(most, share).powf(1.0 / f64::from(STAGES)),
            Measure::NoseUps => -share.ln(),
            Measure::Held { seconds } => -share.ln() / f64::from(seconds.max(1)),
            Measure::Steps { count } => share.powf(1.0 / f64::from(count.max(1))),
            Measure::Reps | Measure::SetUps | Measure::ReinShare { .. } | Measure::Mounts { .. } => share,
        }
    }
}

impl Count {
    /// The logarithm of how likely this count is, where a share of 0 to 1, both excluded, meets the standard of its measure.
    ///
    /// ```
    /// use cavesson_core::{count::Count, curriculum::Measure};
    /// let four_of_six = Count::SetUps { asked: 6, accepted: 4 };
    /// let at = |share| four_of_six.ln_likelihood(Measure::SetUps, share).exp();
    /// assert!((at(0.5) - 15.0 / 64.0).abs() < 1e-9, "fifteen of the sixty-four ways");
    /// assert!(at(0.7) > at(0.9));
    /// ```
    pub fn ln_likelihood(&self, measure: Measure, share: f64) -> f64 {
        let p = measure.chance_at(share);
        let (pass, miss) = (p.ln(), (1.0 - p).ln());
        let binomial = |n: u8, k: u8| {
            let (n, k) = (u64::from(n), u64::from(k));
            ln_binomial(n, k) + k as f64 * pass + (n - k) as f64 * miss
        };
        match self {
            Count::Laps { laps, soft: true } => (f64::from(*laps) - 1.0) * miss + pass,
            Count::Laps { laps, soft: false } => f64::from(*laps) * miss,
            Count::NoseUps { circles, ups } => {
                let expected = p * f64::from(*circles);
                f64::from(*ups) * expected.ln() - expected - ln_gamma(f64::from(*ups) + 1.0)
            }
            Count::SetUps { asked, accepted } => binomial(*asked, *accepted),
            Count::Mounts { mounts, loose } => binomial(*mounts, *loose),
            Count::Tries { tries } => {
                let stopped = tries.iter().filter(|t| **t < ObstacleStage::Crosses).count();
                let passed: u32 = tries.iter().map(|&t| t as u32).sum();
                f64::from(passed) * pass + stopped as f64 * miss
            }
            Count::ReinShare { bridle, soft, .. } => match measure {
                // Soft on less of the bridle rein says nothing of more of it.
                Measure::ReinShare { bridle: wanted } if *bridle < wanted => 0.0,
                _ if *soft => pass,
                _ => miss,
            },
            // Lost within the second that had begun.
            Count::Held { seconds, lost: true } => -p * f64::from(*seconds) + (-(-p).exp_m1()).ln(),
            Count::Held { seconds, lost: false } => -p * f64::from(*seconds),
            Count::Steps { steps, broke } => f64::from(*steps) * pass + if *broke { miss } else { 0.0 },
        }
    }
}
