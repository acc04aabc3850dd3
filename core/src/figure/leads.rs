//! Leads: curves on the wrong one, and where a change of lead is missing.

use super::{
    ride::{Ridden, RiddenStep, Shape},
    statement::{Leads, Step},
};
use crate::{pattern::Hand, plane::Point, words::words};

words! {
    "a fault of a lead";
    /// What is wrong with a lead.
    pub enum LeadFaultKind {
        /// A curve on the other lead, without `counter`.
        Wrong,
        /// `counter` on a curve on its own lead.
        NotCounter,
        /// A gait that names the other lead without a change.
        Switched,
        /// A rollback that leaves on the lead it does not turn to.
        Rollback,
    }
}

/// A fault of a lead.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct LeadFault {
    /// Which step, from 0.
    pub step: usize,
    /// Which of its curves, from 0; none where it is not about a curve.
    pub curve: Option<usize>,
    /// What is wrong.
    pub kind: LeadFaultKind,
}

/// A change of lead that is missing.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ChangeNeeded {
    /// The step that would be on the wrong lead, from 0.
    pub step: usize,
    /// The lead to change to.
    pub to: Hand,
    /// Where on the path, metres from its start.
    pub s: f64,
    /// That place.
    pub at: Point,
}

/// The faults of a ridden figure's leads, and the changes that would mend them.
///
/// ```
/// use cavesson_core::figure::{Figure, LeadFaultKind, leads, ride};
/// let figure = Figure::read("lope left\neight left 25\n", &Default::default()).unwrap();
/// let (faults, changes) = leads(&ride(&figure).unwrap());
/// assert_eq!((faults[0].curve, faults[0].kind), (Some(1), LeadFaultKind::Wrong));
/// assert_eq!((changes[0].step, changes[0].at.x), (1, 0.0));
/// ```
pub fn leads(ridden: &Ridden<'_>) -> (Vec<LeadFault>, Vec<ChangeNeeded>) {
    let mut watch = Watch { ridden, last: None, faults: vec![], changes: vec![] };
    for (n, step) in ridden.steps.iter().enumerate() {
        watch.step(n, step);
    }
    (watch.faults, watch.changes)
}

/// The last curve since the lead was taken: where it ended, and whether it was on the wrong lead.
#[derive(Clone, Copy)]
struct LastCurve {
    end: f64,
    wrong: bool,
}

struct Watch<'a> {
    ridden: &'a Ridden<'a>,
    last: Option<LastCurve>,
    faults: Vec<LeadFault>,
    changes: Vec<ChangeNeeded>,
}

impl Watch<'_> {
    fn fault(&mut self, step: usize, curve: Option<usize>, kind: LeadFaultKind) {
        self.faults.push(LeadFault { step, curve, kind });
    }

    fn change(&mut self, step: usize, to: Hand, s: f64) {
        self.changes.push(ChangeNeeded { step, to, s, at: self.ridden.place(s) });
    }

    fn step(&mut self, n: usize, step: &RiddenStep<'_>) {
        match step.step {
            Step::Gait(asked) => {
                if let (Some(before), Some(lead)) = (step.before.lead, asked.lead)
                    && before != lead
                {
                    self.fault(n, None, LeadFaultKind::Switched);
                    self.change(n, lead, step.before.s);
                }
            }
            Step::Rollback { hand, .. } => {
                if step.after.lead.is_some_and(|lead| lead != *hand) {
                    self.fault(n, None, LeadFaultKind::Rollback);
                }
                self.last = None;
            }
            Step::Circle { counter, .. } | Step::Arc { counter, .. } => self.curves(n, step, *counter, *counter),
            Step::Eight { leads, .. } | Step::Serpentine { leads, .. } => {
                self.curves(n, step, *leads == Leads::Counter, false);
            }
            _ => {}
        }
        // A lead that was left, changed or taken begins anew.
        if step.after.lead.is_none() || step.before.lead != step.after.lead && !is_curves(step.step) {
            self.last = None;
        }
    }

    /// `counter`: on the other lead on purpose. `always`: each of them has to be.
    fn curves(&mut self, n: usize, step: &RiddenStep<'_>, counter: bool, always: bool) {
        let mut lead_before = step.before.lead;
        let mut curve = 0;
        for piece in &self.ridden.path[step.pieces.clone()] {
            if piece.start.lead != lead_before {
                (self.last, lead_before) = (None, piece.start.lead);
            }
            let (Shape::Arc { hand, .. }, Some(lead)) = (piece.shape, piece.start.lead) else { continue };
            let wrong = hand != lead && !counter;
            if wrong {
                self.fault(n, Some(curve), LeadFaultKind::Wrong);
                if let Some(last) = self.last.filter(|last| !last.wrong) {
                    self.change(n, hand, (last.end + piece.start.s) / 2.0);
                }
            } else if always && hand == lead {
                self.fault(n, Some(curve), LeadFaultKind::NotCounter);
            }
            self.last = Some(LastCurve { end: piece.start.s + piece.length, wrong });
            curve += 1;
        }
    }
}

fn is_curves(step: &Step) -> bool {
    matches!(step, Step::Eight { .. } | Step::Serpentine { .. })
}
