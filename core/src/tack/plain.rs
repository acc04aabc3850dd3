//! What has no lever about the mouth: a snaffle and a bosal.

use super::forces::Force;
use crate::plane::Point;

/// The pull of a snaffle on the mouth: the reins', newtons on each, along their direction, radians.
pub fn snaffle(weight: f64, pull: f64) -> Force {
    let sum = Point::polar(pull, 2.0 * weight);
    Force { back: sum.x, up: sum.y }
}

/// A bosal: a lever about the nose.
///
/// ```
/// use cavesson_core::tack::{Bosal, INCH};
/// // 11 in from nose button to heel knot, bearing 8 in down, the rein leaning 35 degrees: 0.847 of the reins on the nose, 0.789 on the jaw.
/// let bosal = Bosal { length: 11.0 * INCH, jaw: 8.0 * INCH, lean: 35f64.to_radians() };
/// let on = bosal.held(5.0);
/// assert!((on.nose / 10.0 - 0.847).abs() < 5e-4 && (on.jaw / 10.0 - 0.789).abs() < 5e-4);
/// ```
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bosal {
    /// From the nose button to the heel knot, metres.
    pub length: f64,
    /// To where it bears under the jaw, metres, at most the length.
    pub jaw: f64,
    /// The rein's lean off the bosal's own line, radians, 0 to a right angle.
    pub lean: f64,
}

/// What a bosal does, newtons.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OnNose {
    /// On the nose.
    pub nose: f64,
    /// Under the jaw.
    pub jaw: f64,
}

impl Bosal {
    /// Under a weight on each rein, newtons: moments about the nose, then the sum of forces.
    pub fn held(&self, weight: f64) -> OnNose {
        let (across, along) = self.lean.sin_cos();
        let reins = 2.0 * weight;
        let jaw = reins * across * self.length / self.jaw;
        OnNose { nose: (reins * along).hypot(jaw - reins * across), jaw }
    }
}
