//! What a horse may have lost of what it could do: on one rung and side, on all of a side, or on all of the horse.
//!
//! Each step and side, and the horse as a whole, is sound or has lost one of a few amounts. What is believed of the parts is kept as
//! a product of their own probabilities (an assumed-density filter): a day's reps are weighed under all of them together, and each
//! part keeps its marginal.

use super::settings::LossSettings;
use crate::curriculum::Side;

/// Amounts that may be lost, log-odds; the first is none. Multiples of the grid of states.
pub(super) const AMOUNTS: [f64; 5] = [0.0, 0.75, 1.5, 2.5, 4.0];
pub(super) const LEVELS: usize = AMOUNTS.len();

/// How likely each amount is.
pub(super) type Lost = [f64; LEVELS];

/// Nothing was lost.
pub(super) const SOUND: Lost = [1.0, 0.0, 0.0, 0.0, 0.0];

/// What a common loss takes: all of the horse, its left or its right.
pub(super) const SCOPES: usize = 3;

/// Whether a scope takes a side.
pub(super) const fn covers(scope: usize, side: Side) -> bool {
    match scope {
        0 => true,
        1 => matches!(side, Side::Left),
        _ => matches!(side, Side::Right),
    }
}

/// What is believed of a loss that several rungs share: sound, or an amount on a scope.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct CommonLoss {
    pub sound: f64,
    /// For each scope the amounts, the first of them never.
    pub lost: [Lost; SCOPES],
}

impl CommonLoss {
    pub(super) fn none() -> CommonLoss {
        CommonLoss { sound: 1.0, lost: [[0.0; LEVELS]; SCOPES] }
    }

    /// A day of work later.
    pub(super) fn next_day(&mut self, s: &LossSettings) {
        let mut sound = self.sound * (1.0 - s.common_rates.iter().sum::<f64>());
        for (lost, rate) in self.lost.iter_mut().zip(s.common_rates) {
            let mut next = moved(lost, s);
            sound += std::mem::take(&mut next[0]);
            next.iter_mut().zip(s.amounts).for_each(|(n, a)| *n += self.sound * rate * a);
            *lost = next;
        }
        self.sound = sound;
    }

    /// How likely each part of it is with the reps of one side, by how likely those are under each amount.
    pub(super) fn take_in(&mut self, side: Side, under: &Lost) {
        self.sound *= under[0];
        for (scope, lost) in self.lost.iter_mut().enumerate() {
            if covers(scope, side) {
                lost.iter_mut().zip(under).for_each(|(l, u)| *l *= u);
            } else {
                lost.iter_mut().for_each(|l| *l *= under[0]);
            }
        }
    }

    /// What it takes from a side.
    pub(super) fn of(&self, side: Side) -> Lost {
        let mut out = [0.0; LEVELS];
        out[0] = self.sound;
        for (scope, lost) in self.lost.iter().enumerate() {
            if covers(scope, side) {
                out.iter_mut().zip(lost).for_each(|(o, l)| *o += l);
            } else {
                out[0] += lost.iter().sum::<f64>();
            }
        }
        out
    }
}

/// A side's own loss a day of work later.
pub(super) fn next_day(own: &Lost, s: &LossSettings) -> Lost {
    let mut next = moved(own, s);
    let sound = own[0];
    next[0] -= sound * s.own_rate;
    next.iter_mut().zip(s.amounts).for_each(|(n, a)| *n += sound * s.own_rate * a);
    next
}

/// Amounts that grew or came back; what is sound stays.
fn moved(lost: &Lost, s: &LossSettings) -> Lost {
    let mut next = [0.0; LEVELS];
    next[0] = lost[0];
    for n in 1..LEVELS {
        let up = if n + 1 < LEVELS { s.grows } else { 0.0 };
        next[n] += lost[n] * (1.0 - up - s.comes_back);
        // By and by, or all at once.
        next[n - 1] += 0.5 * lost[n] * s.comes_back;
        next[0] += 0.5 * lost[n] * s.comes_back;
        if n + 1 < LEVELS {
            next[n + 1] += lost[n] * up;
        }
    }
    next
}

/// The greater of what a side has lost itself and what it has lost with others.
pub(super) fn together(own: &Lost, common: &Lost) -> Lost {
    let mut out = [0.0; LEVELS];
    for (i, o) in own.iter().enumerate() {
        for (j, c) in common.iter().enumerate() {
            out[i.max(j)] += o * c;
        }
    }
    out
}
