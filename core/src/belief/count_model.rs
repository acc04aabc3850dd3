//! What counts say about how near the answer a horse is: on a rung that is not counted in asks the state is the log-odds of the
//! share that meets its standard.

use super::rep_model::{Curve, STATES, state};
use crate::{count::Count, curriculum::Measure};

/// Any count at all is this likely: slips of the thumb do not decide alone.
const SLIP: f64 = 1e-6;

/// The share that meets the standard from each state.
pub(super) fn shares() -> Curve {
    std::array::from_fn(|i| 1.0 / (1.0 + (-state(i)).exp()))
}

/// Adds to the logarithm of a likelihood what some counts of one day say. Their order does not matter.
pub(super) fn add(ln: &mut Curve, measure: Measure, counts: &[&Count]) {
    let shares: [f64; STATES] = shares();
    for count in counts {
        for (sum, share) in ln.iter_mut().zip(shares) {
            *sum += (count.ln_likelihood(measure, share).exp() + SLIP).ln();
        }
    }
}
