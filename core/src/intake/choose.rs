//! The next ask of an intake ride.

use super::{
    Intake,
    network::{MET, Node},
};
use crate::{
    curriculum::{Gait, ONE_REIN_STOP, Side, StepIx},
    response::Outcome,
};

/// Asks of one side of one step at most: the third tells little more.
const ASKS_EACH: usize = 5;
/// What needs something less likely owned than this is not asked: it would be unfair to the horse.
const FAIR: f64 = 0.2;
/// Bits that an ask must be expected to tell about all that is not known.
const WORTH_IT: f64 = 0.0003;
/// How much less an ask at another gait than the last is worth, a gait.
const GAIT_CHANGE: f64 = 0.12;
/// Refusals of the brake that end a gait, or at the walk the ride.
const REFUSALS: usize = 2;

/// An ask, and why it is the next.
#[derive(Debug, Clone, PartialEq)]
pub struct IntakeAsk {
    /// The step.
    pub step: StepIx,
    /// The side.
    pub side: Side,
    /// What it is expected to tell, in bits.
    pub tells: f64,
    /// How likely the horse owns it, before it is asked.
    pub owned: f64,
    /// Whether it is asked because nothing else at its gait is safe before.
    pub for_safety: bool,
}

impl IntakeAsk {
    /// Why it is the next, in a sentence.
    pub fn why(&self) -> String {
        if self.for_safety {
            "The brake at this gait comes before anything else at it".to_owned()
        } else {
            format!("It tells most now: {:.0}% likely to be there", 100.0 * self.owned)
        }
    }
}

/// Why an intake ride ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NoMore {
    /// It has no brake at the walk: back to the ground.
    NoBrake,
    /// It was asked often enough for one ride.
    Enough,
    /// No safe ask would tell much more.
    Placed,
}

impl NoMore {
    /// What to do then, in a sentence.
    pub const fn says(self) -> &'static str {
        match self {
            NoMore::NoBrake => "No one-rein stop at the walk: get off, and begin from the ground",
            NoMore::Enough => "Enough for one ride: quit on a good answer",
            NoMore::Placed => "Nothing more would be learned today: quit on a good answer",
        }
    }
}

/// What comes next.
#[derive(Debug, Clone, PartialEq)]
pub enum Next {
    /// This ask.
    Ask(IntakeAsk),
    /// Nothing.
    Done(NoMore),
}

/// What a gait is good for, by the brake of today.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Brake {
    /// Shown on both sides.
    Shown,
    /// Not asked yet, on this side first.
    Open(Node),
    /// Refused.
    Refused,
}

impl Intake<'_> {
    /// What to ask next.
    pub fn next(&self) -> Next {
        if self.brake(Gait::Walk) == Brake::Refused {
            return Next::Done(NoMore::NoBrake);
        }
        if self.answers.len() >= self.most {
            return Next::Done(NoMore::Enough);
        }
        if let Brake::Open(node) = self.brake(Gait::Walk) {
            return Next::Ask(self.ask(node, self.tells(node), true));
        }
        let mut best: Option<IntakeAsk> = None;
        for node in 0..self.network.nodes.len() {
            let Some((asked, for_safety)) = self.safe(node) else { continue };
            let tells = self.tells(node) * self.near(node);
            if best.as_ref().is_none_or(|b| tells > b.tells) {
                best = Some(self.ask(asked, tells, for_safety));
            }
        }
        match best.filter(|ask| ask.tells >= WORTH_IT) {
            Some(ask) => Next::Ask(ask),
            None => Next::Done(NoMore::Placed),
        }
    }

    fn ask(&self, node: Node, tells: f64, for_safety: bool) -> IntakeAsk {
        let (step, side) = self.network.nodes[node];
        IntakeAsk { step, side, tells, owned: self.samples.share(node), for_safety }
    }

    /// The ask by which a node is reached safely: itself, or the brake at its gait where that was not shown today.
    fn safe(&self, node: Node) -> Option<(Node, bool)> {
        let (step, _) = self.network.nodes[node];
        let step = self.course().step(step);
        let is_fair = self.network.parents[node].iter().all(|&p| self.samples.share(p) >= FAIR);
        if self.network.asked[node] >= ASKS_EACH || !is_fair {
            return None;
        }
        // Every slower gait first.
        for gait in [Gait::Walk, Gait::Jog, Gait::Lope].into_iter().filter(|g| *g <= step.gait) {
            match self.brake(gait) {
                Brake::Shown => {}
                Brake::Open(brake) => return Some((brake, true)),
                Brake::Refused => return None,
            }
        }
        Some((node, false))
    }

    fn brake(&self, gait: Gait) -> Brake {
        let Some(step) = self.course().find_at(ONE_REIN_STOP, gait) else { return Brake::Shown };
        let mut open = None;
        for &side in self.course().step(step).sides.list() {
            let of_side = || self.answers.iter().filter(|a| a.step == step && a.side == side);
            if of_side().any(|a| a.outcome == Outcome::Gave) {
                continue;
            }
            if of_side().count() >= REFUSALS {
                return Brake::Refused;
            }
            open = open.or(self.network.find(step, side));
        }
        open.map_or(Brake::Shown, Brake::Open)
    }

    /// What is left of the worth of an ask that is some gaits away from the last.
    fn near(&self, node: Node) -> f64 {
        let gait = |step: StepIx| self.course().step(step).gait as i32;
        let last = self.answers.last().map_or(0, |a| gait(a.step));
        1.0 - GAIT_CHANGE * f64::from((gait(self.network.nodes[node].0) - last).abs().min(3))
    }

    /// Bits that an answer on a node is expected to tell of where the holes are, summed over all: mutual information with each.
    fn tells(&self, node: Node) -> f64 {
        let (met, guessed) = MET;
        let owned = self.samples.share(node);
        let answered = met * owned + guessed * (1.0 - owned);
        let all = self.open.iter().map(|&(other, share)| {
            let both = self.samples.owned_and_hole(node, other);
            let given = met * both + guessed * (share - both).max(0.0);
            information(answered, share, given.min(answered).min(share))
        });
        all.sum()
    }
}

/// Mutual information in bits of two events with probabilities `a` and `b` that come together with probability `both`.
fn information(a: f64, b: f64, both: f64) -> f64 {
    let term = |joint: f64, product: f64| if joint > 1e-9 { joint * (joint / product).log2() } else { 0.0 };
    term(both, a * b)
        + term(a - both, a * (1.0 - b))
        + term(b - both, (1.0 - a) * b)
        + term(1.0 - a - b + both, (1.0 - a) * (1.0 - b))
}
