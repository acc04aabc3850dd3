//! Where an intake ride places a horse.

use super::Intake;
use crate::curriculum::{Side, StepIx};

/// From this probability on a step counts as there.
const THERE: f64 = 0.5;
/// From this probability on a hole is named.
const NAMED: f64 = 0.2;
/// A side is stiff that is expected to own so many steps fewer.
const STIFF_STEPS: f64 = 1.5;

/// Something that is not owned though all that it needs is: where the work begins.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hole {
    /// The step.
    pub step: StepIx,
    /// The side.
    pub side: Side,
    /// How likely the horse owns it.
    pub owned: f64,
    /// Whether something above it is owned: the horse was taken over it.
    pub over: bool,
}

/// What an intake ride found.
#[derive(Debug, Clone, PartialEq)]
pub struct Placing {
    /// Steps that are likely there on every side.
    pub owned: Vec<StepIx>,
    /// Where the work begins, likeliest first.
    pub holes: Vec<Hole>,
    /// The side that lags.
    pub stiff: Option<Side>,
}

impl Intake<'_> {
    /// What was found so far.
    ///
    /// ```
    /// use cavesson_core::{curriculum::Curriculum, intake::{Intake, MOST_ASKS}};
    /// let course = Curriculum::standard().course();
    /// // Of a horse that nobody asked nothing is said to be stiff.
    /// assert_eq!(Intake::new(&course, &[], &[], &[], MOST_ASKS).placing().stiff, None);
    /// ```
    pub fn placing(&self) -> Placing {
        let network = &self.network;
        let share = |n: usize| self.samples.share(n);
        let mut holes: Vec<Hole> = (0..network.nodes.len())
            .filter(|&n| self.samples.hole(n) >= NAMED)
            .map(|n| {
                let (step, side) = network.nodes[n];
                let over = network.children[n].iter().any(|&c| share(c) >= THERE);
                Hole { step, side, owned: share(n), over }
            })
            .collect();
        holes.sort_by(|a, b| b.over.cmp(&a.over).then(a.owned.total_cmp(&b.owned)));
        let mut steps: Vec<StepIx> = network.nodes.iter().map(|n| n.0).collect();
        steps.dedup();
        let owned = steps.into_iter().filter(|&ix| self.owned(ix).is_some_and(|p| p >= THERE)).collect();
        Placing { owned, holes, stiff: self.stiff() }
    }

    fn stiff(&self) -> Option<Side> {
        let expected = |side: Side| -> f64 {
            let of_side = self.network.nodes.iter().enumerate().filter(|(_, n)| n.1 == side);
            of_side.map(|(n, _)| self.samples.share(n)).sum()
        };
        let gap = expected(Side::Left) - expected(Side::Right);
        (gap.abs() >= STIFF_STEPS).then_some(if gap < 0.0 { Side::Left } else { Side::Right })
    }
}
