//! The last ask of a ride, with what came before it.

use super::{AIR_SECONDS, Advice, CoachLine, LATE_ASKS, LATE_SECONDS, RideProgress, STRETCH};
use crate::{curriculum::Side, response::Outcome, ride::Asked};

/// The last ask, with what came before it on its subject and side.
pub(super) struct Now<'r, 'a> {
    pub(super) ride: &'r RideProgress<'a>,
    pub(super) last: &'r Asked,
    /// The asks of this step, both sides.
    pub(super) step: Vec<&'r Asked>,
    /// The asks of this step on this side.
    pub(super) side: Vec<&'r Asked>,
}

impl<'r, 'a> Now<'r, 'a> {
    pub(super) fn of(ride: &'r RideProgress<'a>, last: &'r Asked) -> Now<'r, 'a> {
        let step: Vec<&Asked> = ride.asked.iter().filter(|a| a.step == last.step).collect();
        let side = step.iter().copied().filter(|a| a.side == last.side).collect();
        Now { ride, last, step, side }
    }

    pub(super) fn say(&self, advice: Advice, why: impl Into<String>) -> CoachLine {
        CoachLine { advice, step: None, why: why.into() }
    }

    pub(super) fn met(&self, a: &Asked) -> bool {
        a.met(self.ride.course, self.ride.on)
    }

    pub(super) fn gave(&self, a: &Asked) -> bool {
        a.outcome(self.ride.course) == Outcome::Gave
    }

    pub(super) fn count(&self, asks: &[&Asked]) -> usize {
        asks.iter().filter(|a| self.met(a)).count()
    }

    /// The last `n` asks on this side.
    pub(super) fn tail(&self, n: usize) -> &[&'r Asked] {
        &self.side[self.side.len().saturating_sub(n)..]
    }

    /// Asks since the horse last stood for a while, or since the ride began.
    pub(super) fn since_air(&self) -> usize {
        let asked = self.ride.asked;
        let pause = |pair: &[Asked]| match (pair[0].at, pair[1].at) {
            (Some(a), Some(b)) => b.saturating_sub(a) >= AIR_SECONDS,
            _ => false,
        };
        asked.windows(2).rposition(pause).map_or(asked.len(), |at| asked.len() - at - 1)
    }

    pub(super) fn is_late(&self) -> bool {
        self.ride.asked.len() >= LATE_ASKS || self.last.at.is_some_and(|at| at >= LATE_SECONDS)
    }

    pub(super) fn side_word(&self) -> &'static str {
        match self.last.side {
            Side::Both => "it",
            side => side.word(),
        }
    }

    /// "Left met 2 of 4", or what was counted last.
    pub(super) fn plainly(&self) -> String {
        let recent = self.tail(STRETCH);
        let who = crate::advice::capitalised(self.side_word());
        let met = format!("{who} met {} of the last {}", self.count(recent), recent.len());
        match self.last.count() {
            Some(count) => format!("{met}; just now: {}", count.in_words()),
            None => met,
        }
    }
}
