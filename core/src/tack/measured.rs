//! Where the chin groove is, from the angle at which the strap was seen to come tight.

use super::hung::{Chin, Hung};
use crate::plane::Point;

/// Why an angle tells no chin.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[allow(missing_docs)]
pub enum NoChin {
    #[error("at this angle rein and shank are in line already: the strap cannot come tight there")]
    Over,
    #[error("no chin in this range brings this strap tight at this angle: measure strap and angle again")]
    Nowhere,
}

/// An angle is told to some decimals: a chin this little out of the range is at its end, metres.
const AT_THE_END: f64 = 1e-6;
/// Angles are told apart to this, radians.
const ROUNDING: f64 = 1e-9;

/// The lowest chin, no further below or above the mouthpiece than `most` metres, with which a strap comes tight first at `angle`, radians.
/// The bit is as it hangs but for its chin, of which only how far it is behind is looked at.
///
/// The strap's run there is its run at rest and half the slack: with ring positions A and B, |A − G| = |B − G| + c. As |A| = |B|, squaring
/// leaves −2 G·(A − B) − c² = 2 c |B − G|, and squaring again a quadratic in G's height.
///
/// # Errors
/// [`NoChin`]: the bit is over before, or no chin does it.
///
/// ```
/// use cavesson_core::tack::{Chin, Headstall, Hung, INCH, LeverageBit, chin_from_angle};
/// let bit = LeverageBit { purchase: 1.75 * INCH, shank: 5.0 * INCH, sweep: 0.0 };
/// let chin = Chin { behind: 2.0 * INCH, below: 0.25 * INCH };
/// let hung = Hung::new(bit, chin, Headstall { length: 18.0 * INCH, give: 0.05 * INCH }, 1.5 * INCH, 0.7)?;
/// let found = chin_from_angle(&hung, hung.tight().unwrap(), 3.0 * INCH).unwrap();
/// assert!((found.below - chin.below).abs() < 1e-9);
/// # Ok::<(), cavesson_core::tack::HungFault>(())
/// ```
pub fn chin_from_angle(hung: &Hung, angle: f64, most: f64) -> Result<Chin, NoChin> {
    if angle >= hung.over() {
        return Err(NoChin::Over);
    }
    let (turned, rest) = (hung.ring(angle), hung.ring(0.0));
    let (half, behind) = (hung.slack / 2.0, hung.chin.behind);
    let comes_tight = |height: &f64| {
        let chin = Point::new(behind, *height);
        let longer = turned.distance(chin) - rest.distance(chin);
        // First tight there: before ring, mouthpiece and chin are in line the run only grows.
        let first = angle <= std::f64::consts::FRAC_PI_2 + chin.angle() + ROUNDING;
        height.abs() <= most + AT_THE_END && half > 0.0 && (longer - half).abs() < 1e-7 && first
    };
    let lowest =
        heights(turned - rest, rest, behind, half).into_iter().flatten().filter(comes_tight).min_by(f64::total_cmp);
    lowest.map(|height| Chin { behind, below: (-height).clamp(-most, most) }).ok_or(NoChin::Nowhere)
}

/// The heights at which the squared equation holds, for a chin so far behind.
fn heights(moved: Point, rest: Point, behind: f64, half: f64) -> [Option<f64>; 2] {
    // −2 (behind·mx + y·my) − c² = 2 c sqrt((behind − bx)² + (y − by)²), as u + v y on the left.
    let (u, v) = (-2.0 * behind * moved.x - half * half, -2.0 * moved.y);
    let c = 4.0 * half * half;
    let across = behind - rest.x;
    let (p, q, r) = (v * v - c, 2.0 * u * v + 2.0 * c * rest.y, u * u - c * (across * across + rest.y * rest.y));
    if p.abs() < 1e-15 {
        return [(q != 0.0).then(|| -r / q), None];
    }
    let under = q * q - 4.0 * p * r;
    if under < 0.0 {
        return [None, None];
    }
    // The root that does not cancel first (any text on numerical methods).
    let far = -(q + q.signum() * under.sqrt()) / 2.0;
    [Some(far / p), (far != 0.0).then(|| r / far)]
}
