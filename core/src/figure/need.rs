//! What a step needs the horse to be doing.

use super::statement::{FigureGait, Leads, Step};
use crate::pattern::Hand;

/// What a step needs the horse to be doing.
pub(super) enum Need {
    Anything,
    Moving,
    Standing,
    OnALead,
    OverPoles,
    Walking,
}

impl Need {
    pub(super) fn of(step: &Step) -> Need {
        match step {
            Step::Gait(_) | Step::Rollback { .. } => Need::Anything,
            Step::Change { .. }
            | Step::Circle { counter: true, .. }
            | Step::Arc { counter: true, .. }
            | Step::Eight { leads: Leads::Change(_) | Leads::Counter, .. }
            | Step::Serpentine { leads: Leads::Change(_) | Leads::Counter, .. } => Need::OnALead,
            Step::Line(_)
            | Step::LineTo(..)
            | Step::Circle { .. }
            | Step::Arc { .. }
            | Step::Eight { .. }
            | Step::Serpentine { .. }
            | Step::Stop => Need::Moving,
            Step::Back(_)
            | Step::Sidepass(..)
            | Step::Turnaround(..)
            | Step::Pivot(..)
            | Step::Gate(..)
            | Step::Backthrough { .. }
            | Step::Wait(_) => Need::Standing,
            Step::Poles { .. } => Need::OverPoles,
            Step::Bridge { .. } => Need::Walking,
        }
    }

    pub(super) fn met(&self, gait: FigureGait) -> bool {
        match self {
            Need::Anything => true,
            Need::Moving => gait.moving(),
            Need::Standing => gait == FigureGait::Stand,
            Need::OnALead => gait.has_lead(),
            Need::OverPoles => matches!(gait, FigureGait::Walk | FigureGait::Jog | FigureGait::Lope),
            Need::Walking => gait == FigureGait::Walk,
        }
    }

    /// The first gait that the step takes: what is ridden on with where another one is wrong.
    pub(super) fn first(&self) -> (FigureGait, Option<Hand>) {
        match self {
            Need::Standing => (FigureGait::Stand, None),
            Need::OnALead => (FigureGait::Lope, Some(Hand::Left)),
            Need::Anything | Need::Moving | Need::OverPoles | Need::Walking => (FigureGait::Walk, None),
        }
    }

    pub(super) const fn says(&self) -> &'static str {
        match self {
            Need::Anything | Need::Moving => "the horse has to be moving here, and stands",
            Need::Standing => "the horse has to stand here, and is moving",
            Need::OnALead => "the horse has to lope or run here",
            Need::OverPoles => "poles are taken at the walk, the jog or the lope",
            Need::Walking => "a bridge is walked",
        }
    }
}
