//! What a horse is on, and which side of it lags: one line in a list of horses.

use super::{Standing, Status};
use crate::curriculum::{Side, StepIx};

/// A side is stiff that lies so far under the other, in shares, over the steps that were asked on both (common practice, no
/// published source).
const STIFF: f64 = 0.07;

/// The step that a horse is on: of those that are not owned the one asked last, and of several the furthest on. `None` where all that
/// was asked is owned.
pub fn in_work(standing: &Standing<'_, '_>) -> Option<StepIx> {
    let asked = (0..standing.course().steps().len()).filter_map(|ix| {
        let last = standing.sides(ix).iter().map(|side| side.belief.last).max()?;
        matches!(standing.status(ix), Status::Learning | Status::Slipping).then_some((last, ix))
    });
    asked.max().map(|(_, ix)| ix)
}

/// The side whose share of an ordinary day is lower over the steps that were asked on both, where it is by enough.
pub fn stiff_side(standing: &Standing<'_, '_>) -> Option<Side> {
    let gap = |ix: StepIx| match standing.sides(ix) {
        [left, right] => Some(left.belief.share.mean - right.belief.share.mean),
        _ => None,
    };
    let gaps: Vec<f64> = (0..standing.course().steps().len()).filter_map(gap).collect();
    let mean = gaps.iter().sum::<f64>() / gaps.len().max(1) as f64;
    (mean.abs() >= STIFF).then_some(if mean < 0.0 { Side::Left } else { Side::Right })
}
