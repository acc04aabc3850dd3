//! Which rungs a figure asks for.

use std::collections::BTreeSet;

use super::{
    ride::{Piece, Ridden, RiddenStep, Shape, TINY},
    statement::{ChangeKind, FigureGait, Leads, Step},
};
use crate::pattern::Hand;

/// Narrower than this a bridge is a plank, metres: 36 in.
const PLANK: f64 = 0.9144;

/// A rung that a figure asks for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RungAsked {
    /// As it is written: `L3 right`, `O1 walk`, `T4`.
    pub rung: String,
    /// The lines that ask for it, from 1.
    pub lines: Vec<u32>,
    /// The gaits that it is asked at.
    pub gaits: BTreeSet<FigureGait>,
}

/// Every rung of a ridden figure, as first asked.
///
/// ```
/// use cavesson_core::figure::{Figure, ride, rungs};
/// let figure = Figure::read("lope right\ncircle right 40\nstop\n", &Default::default()).unwrap();
/// let asked: Vec<String> = rungs(&ride(&figure).unwrap()).into_iter().map(|asked| asked.rung).collect();
/// assert_eq!(asked, ["L2 right", "L3 right", "T4"]);
/// ```
pub fn rungs(ridden: &Ridden<'_>) -> Vec<RungAsked> {
    let mut asked: Vec<RungAsked> = vec![];
    for step in &ridden.steps {
        // A gait that is taken is asked at itself, a simple change at the lope.
        let gait = if matches!(step.step, Step::Gait(_)) { step.after.gait } else { step.before.gait };
        for rung in of_step(step, &ridden.path[step.pieces.clone()]) {
            match asked.iter_mut().find(|known| known.rung == rung) {
                None => asked.push(RungAsked { rung, lines: vec![step.line], gaits: [gait].into() }),
                Some(known) => {
                    known.gaits.insert(gait);
                    if let Err(place) = known.lines.binary_search(&step.line) {
                        known.lines.insert(place, step.line);
                    }
                }
            }
        }
    }
    asked
}

pub(super) fn of_step(step: &RiddenStep<'_>, pieces: &[Piece]) -> Vec<String> {
    let one = |rung: &str| vec![rung.to_owned()];
    match step.step {
        Step::Gait(asked) => match asked.lead {
            Some(lead) if !step.before.gait.has_lead() => vec![format!("L2 {lead}")],
            _ => vec![],
        },
        Step::Circle { .. } | Step::Arc { .. } | Step::Eight { .. } | Step::Serpentine { .. } => {
            curves(step.step, pieces)
        }
        Step::Stop => match step.before.gait {
            FigureGait::Walk => one("T2"),
            FigureGait::Jog => one("T3"),
            FigureGait::Lope => one("T4"),
            _ => one("T6"),
        },
        Step::Back(_) => one("T1"),
        Step::Sidepass(..) => one("O8"),
        Step::Rollback { hand, .. } => {
            let rung = if step.after.gait.has_lead() { "R6" } else { "R4" };
            vec![format!("{rung} {hand}")]
        }
        Step::Turnaround(hand, _) => vec![format!("R7 {hand}")],
        Step::Pivot(hand, _) => vec![format!("R1 {hand}")],
        Step::Change { kind, .. } => step.after.lead.map(|lead| changed(*kind, lead)).into_iter().collect(),
        Step::Poles { .. } => vec![format!("O1 {}", step.before.gait)],
        Step::Gate(..) => one("O6"),
        Step::Bridge { .. } => bridge(step.step).map(str::to_owned).into_iter().collect(),
        Step::Backthrough { .. } => one("O7"),
        Step::Line(_) | Step::LineTo(..) | Step::Wait(_) => vec![],
    }
}

/// The rung of a bridge: a plank, one with a step down, or a plain one.
pub(super) fn bridge(step: &Step) -> Option<&'static str> {
    let Step::Bridge { wide, drop, .. } = step else { return None };
    Some(match (wide.metres() < PLANK - TINY, drop) {
        (true, _) => "O3",
        (false, true) => "O4",
        (false, false) => "O2",
    })
}

fn changed(kind: ChangeKind, lead: Hand) -> String {
    let rung = if kind == ChangeKind::Simple { "L6" } else { "L7" };
    format!("{rung} {lead}")
}

/// Each curve, and each change of lead between two of them.
fn curves(step: &Step, pieces: &[Piece]) -> Vec<String> {
    let kind = match step {
        Step::Eight { leads: Leads::Change(kind), .. } | Step::Serpentine { leads: Leads::Change(kind), .. } => {
            Some(*kind)
        }
        _ => None,
    };
    let (mut asked, mut on) = (vec![], None);
    for piece in pieces {
        let Shape::Arc { hand, .. } = piece.shape else { continue };
        let lead = piece.start.lead;
        if let (Some(kind), Some(lead), Some(before)) = (kind, lead, on)
            && lead != before
        {
            asked.push(changed(kind, lead));
        }
        on = lead;
        asked.push(match lead {
            None => format!("S3 {hand}"),
            Some(lead) if lead == hand => format!("L3 {hand}"),
            Some(lead) => format!("L5 {lead}"),
        });
    }
    asked
}
