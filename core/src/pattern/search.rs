//! Searching for the highest value of a function that has ridges and holes.

use rand::RngExt;
use rand_chacha::ChaCha8Rng;

/// A random climb: a step in a random direction is taken where it is no worse; the step grows with luck and shrinks without (the 1/5
/// rule of evolution strategies; Rechenberg 1973, from memory). It gets along ridges, where steps along the axes do not.
pub(super) fn climb<const N: usize>(
    start: [f64; N],
    reach: [f64; N],
    steps: usize,
    rng: &mut ChaCha8Rng,
    value: impl Fn(&[f64; N]) -> Option<f64>,
) -> Option<([f64; N], f64)> {
    let mut at = start;
    let mut best = value(&at)?;
    let mut size = 1.0;
    for _ in 0..steps {
        let next: [f64; N] = std::array::from_fn(|n| at[n] + size * reach[n] * rng.random_range(-1.0..1.0));
        match value(&next).filter(|v| *v >= best) {
            Some(better) => (at, best, size) = (next, better, f64::min(size * 1.7, 1.0)),
            None => size = f64::max(size * 0.88, 1e-5),
        }
    }
    Some((at, best))
}

/// The best places that are no neighbours of each other, so that different ways to lie are looked into.
pub(super) fn apart(sorted: &[([f64; 3], f64)], reach: [f64; 3], most: usize) -> Vec<[f64; 3]> {
    let mut out: Vec<[f64; 3]> = vec![];
    for (place, _) in sorted {
        let beside = |o: &[f64; 3]| (0..3).all(|n| (o[n] - place[n]).abs() < 1.5 * reach[n]);
        if !out.iter().any(beside) {
            out.push(*place);
        }
        if out.len() == most {
            break;
        }
    }
    out
}
