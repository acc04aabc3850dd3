use super::choice::{Habits, choices, last};
use crate::{
    advice::{Standing, Status},
    curriculum::{Side, StepIx},
    response::Weight,
};

/// How the reps of the main subject are shared between the sides, in per cent; they add up to 100.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Split {
    /// Reps on the left.
    pub left: u8,
    /// Reps on the right.
    pub right: u8,
}

/// What the ride is for.
#[derive(Debug, Clone, PartialEq)]
pub struct Main {
    /// The step to work on.
    pub step: StepIx,
    /// How to share the reps, on steps with two sides.
    pub split: Option<Split>,
    /// Why this step and not another.
    pub why: String,
    /// What quitting looks like.
    pub quit: String,
}

/// A ride in one line: loosen, main subject, quit point.
#[derive(Debug, Clone, PartialEq)]
pub struct Outline {
    /// Owned steps to loosen on, stalest first; at most two.
    pub loosen: Vec<StepIx>,
    /// The main subject; `None` when everything on the course is owned.
    pub main: Option<Main>,
}

/// The ride that the record suggests on the standing's day: the first of [`choices`].
pub fn outline(standing: &Standing<'_, '_>, habits: &Habits) -> Outline {
    let main = choices(standing, habits).into_iter().next();
    let plan = |(ix, because): (StepIx, super::Reason)| Main {
        step: ix,
        split: split_of(standing, habits, ix),
        why: because.says(standing.course()),
        quit: quit_of(standing, habits, ix),
    };
    Outline { loosen: loosen_on(standing, main.map(|m| m.0), 2), main: main.map(plan) }
}

/// Owned steps to loosen on, at most so many, the stalest of them, in teaching order.
pub(super) fn loosen_on(standing: &Standing<'_, '_>, main: Option<StepIx>, most: usize) -> Vec<StepIx> {
    let steps = 0..standing.course().steps().len();
    let mut owned: Vec<StepIx> = steps
        .filter(|&ix| standing.status(ix) == Status::Owned && Some(ix) != main && last(standing, ix).is_some())
        .collect();
    owned.sort_by_key(|&ix| last(standing, ix));
    owned.truncate(most);
    owned.sort_unstable();
    owned
}

/// What quitting looks like on a step.
pub(super) fn quit_of(standing: &Standing<'_, '_>, habits: &Habits, ix: StepIx) -> String {
    let hand = match standing.course().step(ix).standard_on(standing.on()).weight {
        Weight::None => "with nothing on the rein".to_owned(),
        w => format!("at {} or less", w.phrase()),
    };
    let side = match split_of(standing, habits, ix) {
        Some(Split { left, right }) if left > right => " on the left",
        Some(Split { left, right }) if right > left => " on the right",
        _ => "",
    };
    format!("quit on a whole answer{side} {hand}")
}

/// How to share the reps of a step between its sides: 50/50 when they are within a tenth, 60/40 within a quarter, else 70/30,
/// the larger part to the weaker side (common practice). An untried side counts as the weaker; where neither is, 60/40 toward the rein
/// that hangs on asks of both. `None` on a step without sides.
pub(super) fn split_of(standing: &Standing<'_, '_>, habits: &Habits, ix: StepIx) -> Option<Split> {
    let mean = |side| standing.sides(ix).iter().find(|s| s.side == side).map(|s| s.belief.share.mean);
    let gap = match (mean(Side::Left), mean(Side::Right)) {
        (Some(l), Some(r)) => r - l,
        (None, Some(_)) => 0.2,
        (Some(_), None) => -0.2,
        (None, None) => 0.0,
    };
    let more = match gap.abs() {
        g if g < 0.1 => 50,
        g if g < 0.25 => 60,
        _ => 70,
    };
    let (gap, more) = match (more, habits.hangs) {
        (50, Some(hangs)) => (if hangs.side == Side::Left { 1.0 } else { -1.0 }, 60),
        _ => (gap, more),
    };
    let split =
        if gap >= 0.0 { Split { left: more, right: 100 - more } } else { Split { left: 100 - more, right: more } };
    standing.course().step(ix).sides.has(Side::Left).then_some(split)
}

impl Split {
    /// The side with more of the reps.
    pub fn stiff(self) -> Option<Side> {
        match self.left.cmp(&self.right) {
            std::cmp::Ordering::Greater => Some(Side::Left),
            std::cmp::Ordering::Less => Some(Side::Right),
            std::cmp::Ordering::Equal => None,
        }
    }
}
