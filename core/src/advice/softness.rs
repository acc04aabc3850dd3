//! How soft each part of the horse is, on either side.

use super::Standing;
use crate::curriculum::{Side, StepIx, Zone};

/// A part of the horse on one side.
#[derive(Debug, Clone, PartialEq)]
pub struct Softness {
    /// The part.
    pub zone: Zone,
    /// Left or right.
    pub side: Side,
    /// The mean, 0 to 1, of the shares of the steps that show there.
    pub share: f64,
    /// Those steps.
    pub steps: Vec<StepIx>,
}

/// The parts of which a standing knows something. A step of both reins counts on either side.
pub fn softness(standing: &Standing<'_, '_>) -> Vec<Softness> {
    let parts = Zone::ALL.into_iter().flat_map(|zone| [Side::Left, Side::Right].map(|side| (zone, side)));
    let soft = |(zone, side)| {
        let there = standing.course().steps().iter().enumerate().filter(|(_, s)| s.zone == Some(zone));
        let share = |ix| {
            let of = standing.sides(ix).iter().find(|s| s.side == side || s.side == Side::Both)?;
            Some((ix, of.belief.share.mean))
        };
        let (steps, shares): (Vec<StepIx>, Vec<f64>) = there.filter_map(|(ix, _)| share(ix)).unzip();
        let mean = shares.iter().sum::<f64>() / shares.len() as f64;
        (!steps.is_empty()).then_some(Softness { zone, side, share: mean, steps })
    };
    parts.filter_map(soft).collect()
}
