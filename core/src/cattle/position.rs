//! How fast a cow a horse holds its position on: the speed up to which four turns in five end even with the cow.

/// A turn as it counts here.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HeldTurn {
    /// How fast the cow came, feet a second.
    pub speed: f64,
    /// Whether the horse ended even with it.
    pub held: bool,
}

/// A speed limit, feet a second.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SpeedLimit {
    /// The mean of what it may be.
    pub limit: f64,
    /// Four times in five it lies between these.
    pub between: [f64; 2],
    /// Turns that it rests on.
    pub turns: usize,
}

/// From a cow that is held every time to one that is lost every time are about four of these, feet a second. Assumed.
const BLUR: f64 = 1.5;
/// Where half the turns hold is looked for from here to here, in such steps, feet a second.
const FROM: f64 = 2.0;
const STEP: f64 = 0.125;
const STEPS: usize = 200;
/// Before anything is seen, a horse holds about this speed, feet a second, within such a spread. Assumed.
const USUAL: f64 = 8.0;
const SPREAD: f64 = 5.0;

/// The limit of a horse, one way, from its turns. A normal prior on where half the turns hold, the chance of holding falls by a logistic
/// curve with the cow's speed, and the posterior is summed over a grid.
///
/// ```
/// use cavesson_core::cattle::{HeldTurn, speed_limit};
/// let turn = |speed, held| HeldTurn { speed, held };
/// let slow = [turn(6.0, true); 12];
/// let fast = [turn(15.0, false); 6];
/// let limit = speed_limit(&[&slow[..], &fast[..]].concat());
/// assert!((6.0..12.0).contains(&limit.limit) && limit.between[0] < limit.limit && limit.limit < limit.between[1]);
/// ```
pub fn speed_limit(turns: &[HeldTurn]) -> SpeedLimit {
    // Four in five hold where the curve is so far under the half.
    let under = BLUR * libm::log(4.0);
    let half = |n: usize| FROM + STEP * n as f64;
    let weigh = |n: usize| {
        let off = (half(n) - USUAL) / SPREAD;
        let seen: f64 = turns
            .iter()
            .map(|turn| {
                let over = (turn.speed - half(n)) / BLUR * if turn.held { 1.0 } else { -1.0 };
                // ln of 1 / (1 + e^over), without overflow.
                -(over.max(0.0) + libm::log1p(libm::exp(-over.abs())))
            })
            .sum();
        seen - off * off / 2.0
    };
    let logs: Vec<f64> = (0..STEPS).map(weigh).collect();
    let top = logs.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let weights: Vec<f64> = logs.iter().map(|log| libm::exp(log - top)).collect();
    let sum: f64 = weights.iter().sum();
    let mean: f64 = weights.iter().enumerate().map(|(n, w)| w * half(n)).sum::<f64>() / sum;
    let reaches = |share: f64| {
        let mut so_far = 0.0;
        let at = weights.iter().position(|w| {
            so_far += w / sum;
            so_far >= share
        });
        half(at.unwrap_or(STEPS - 1))
    };
    let limit = |half: f64| (half - under).max(0.0);
    SpeedLimit { limit: limit(mean), between: [limit(reaches(0.1)), limit(reaches(0.9))], turns: turns.len() }
}
