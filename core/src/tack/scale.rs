//! What a hand calls a weight.

use crate::response::Weight;

/// Newtons on one rein for each step of the scale of weights, from a feather to a tug, rising.
///
/// ```
/// use cavesson_core::{response::Weight, tack::HandScale};
/// let usual = HandScale::default();
/// assert_eq!(usual.nearest(0.049), Weight::None);
/// assert_eq!(usual.nearest(1.3), Weight::Lemon);
/// // On the bound between two, sqrt(1 * 2), the heavier.
/// let own = HandScale::with(&[(Weight::Egg, 0.6)])?;
/// assert_eq!(own.newtons(Weight::Egg), 0.6);
/// assert!(HandScale::with(&[(Weight::Egg, 1.5)]).is_err(), "an egg is lighter than a lemon");
/// # Ok::<(), cavesson_core::tack::NotRising>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HandScale([f64; STEPS]);

const STEPS: usize = Weight::ALL.len() - 1;

/// A scale on which a heavier word does not mean more.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("{} must be over {} and over 0", .0.phrase(), .1.map_or("nothing", Weight::phrase))]
pub struct NotRising(pub Weight, pub Option<Weight>);

impl Default for HandScale {
    /// The nominal scale of [`Weight::millinewtons`] (common practice, no published source).
    fn default() -> HandScale {
        HandScale(std::array::from_fn(|n| f64::from(Weight::ALL[n + 1].millinewtons()) / 1000.0))
    }
}

impl HandScale {
    /// The nominal scale with some steps as one rider feels them, in newtons.
    ///
    /// # Errors
    /// [`NotRising`] at the first step that is not over the one below it.
    pub fn with(own: &[(Weight, f64)]) -> Result<HandScale, NotRising> {
        let mut scale = HandScale::default();
        for (weight, newtons) in own {
            if let Some(step) = (*weight as usize).checked_sub(1) {
                scale.0[step] = *newtons;
            }
        }
        for n in 0..STEPS {
            let below = n.checked_sub(1).map(|below| scale.0[below]);
            if !(scale.0[n] > below.unwrap_or(0.0) && scale.0[n].is_finite()) {
                return Err(NotRising(Weight::ALL[n + 1], below.map(|_| Weight::ALL[n])));
            }
        }
        Ok(scale)
    }

    /// Newtons of a word; 0 for none.
    pub fn newtons(&self, weight: Weight) -> f64 {
        (weight as usize).checked_sub(1).map_or(0.0, |step| self.0[step])
    }

    /// The word that is nearest by ratio, of two that are equally near the heavier; none under half a feather.
    pub fn nearest(&self, newtons: f64) -> Weight {
        if newtons < self.0[0] / 2.0 {
            return Weight::None;
        }
        let reached = |n: &usize| *n == 0 || newtons * newtons >= self.0[n - 1] * self.0[*n];
        let step = (0..STEPS).rev().find(reached).unwrap_or(0);
        Weight::ALL[step + 1]
    }
}
