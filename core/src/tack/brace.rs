//! The test that matters on a spoiled mouth: the same ask on one rein and on two, by turns. A brace on two that is not there on one.

use chrono::NaiveDate;
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use crate::{curriculum::Gait, words::words};

words! {
    "reins";
    /// On how many reins an ask was made.
    pub enum Reins { One, Two }
}

/// An ask of the test.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct PairedAsk {
    pub on: NaiveDate,
    pub gait: Gait,
    pub reins: Reins,
    /// Whether the horse braced: head up, jaw set, or against the hand.
    pub braced: bool,
}

/// What the pairs say.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Brace {
    /// It braces on two reins and not on one: no straight pull.
    OnTwo,
    /// Two reins make no difference.
    None,
    /// More pairs are needed.
    Unknown,
}

/// The test so far.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct BraceTest {
    /// Pairs of the same day and gait, one ask on one rein and one on two.
    pub pairs: usize,
    /// Of which it braced on two only.
    pub on_two_only: usize,
    /// Of which it braced on one only.
    pub on_one_only: usize,
    /// What that says.
    pub says: Brace,
}

/// Of pairs that differ, the share that brace on two where there is a brace on two worth finding.
const WORTH_FINDING: f64 = 0.8;
/// How often a brace may be called that is not there: a little under one time in ten, since a test that steps over its bound errs more.
const WRONGLY_FOUND: f64 = 0.07;
/// How often one that is there may be missed.
const MISSED: f64 = 0.1;

/// Two asks that are held against each other: one on one rein and one on two.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Pair {
    pub(super) on: NaiveDate,
    pub(super) gait: Gait,
    /// Whether the horse braced on one, and on two.
    pub(super) on_one: bool,
    pub(super) on_two: bool,
}

/// Pairs asks of one day and gait in the order in which they were made.
pub(super) fn pairs(asks: &[PairedAsk]) -> Vec<Pair> {
    let mut open: Vec<PairedAsk> = vec![];
    let mut out = vec![];
    for ask in asks {
        let waits = |o: &PairedAsk| o.on == ask.on && o.gait == ask.gait && o.reins != ask.reins;
        let Some(at) = open.iter().position(waits) else {
            open.push(*ask);
            continue;
        };
        let other = open.remove(at);
        let (on_two, on_one) = if ask.reins == Reins::Two { (ask, &other) } else { (&other, ask) };
        out.push(Pair { on: ask.on, gait: ask.gait, on_one: on_one.braced, on_two: on_two.braced });
    }
    out
}

/// Pairs asks of one day and gait, and tests those that differ: even odds against four in five on two reins, by the sequential
/// probability ratio (Wald 1945), so that it may be looked at after each ask and still finds a brace that is not there at most one time
/// in ten.
///
/// ```
/// use cavesson_core::{curriculum::Gait, tack::{Brace, PairedAsk, Reins, brace_test}};
/// let ask = |reins, braced| PairedAsk { on: "2026-03-02".parse().unwrap(), gait: Gait::Jog, reins, braced };
/// let six: Vec<PairedAsk> = (0..6).flat_map(|_| [ask(Reins::Two, true), ask(Reins::One, false)]).collect();
/// let test = brace_test(&six);
/// assert_eq!((test.pairs, test.on_two_only, test.says), (6, 6, Brace::OnTwo));
/// assert_eq!(brace_test(&six[..10]).says, Brace::Unknown);
/// ```
pub fn brace_test(asks: &[PairedAsk]) -> BraceTest {
    let mut test = BraceTest { pairs: 0, on_two_only: 0, on_one_only: 0, says: Brace::Unknown };
    let mut odds = 0.0;
    for pair in pairs(asks) {
        test.pairs += 1;
        match (pair.on_two, pair.on_one) {
            (true, false) => {
                test.on_two_only += 1;
                odds += (WORTH_FINDING / 0.5).ln();
            }
            (false, true) => {
                test.on_one_only += 1;
                odds += ((1.0 - WORTH_FINDING) / 0.5).ln();
            }
            _ => {}
        }
        // Decided once: what comes after is looked at by the next weeks' test.
        if test.says == Brace::Unknown {
            let (found, none) = (((1.0 - MISSED) / WRONGLY_FOUND).ln(), (MISSED / (1.0 - WRONGLY_FOUND)).ln());
            test.says = match odds {
                odds if odds >= found => Brace::OnTwo,
                odds if odds <= none => Brace::None,
                _ => Brace::Unknown,
            };
        }
    }
    test
}

/// On how many reins to ask next at a gait today: an open pair is closed, a new one begins by lot, so that the horse cannot guess.
pub fn next_reins(asks: &[PairedAsk], on: NaiveDate, gait: Gait, seed: u64) -> Reins {
    let alike: Vec<Reins> = asks.iter().filter(|a| a.on == on && a.gait == gait).map(|a| a.reins).collect();
    let ones = alike.iter().filter(|r| **r == Reins::One).count();
    let twos = alike.len() - ones;
    match ones.cmp(&twos) {
        std::cmp::Ordering::Less => Reins::One,
        std::cmp::Ordering::Greater => Reins::Two,
        std::cmp::Ordering::Equal => {
            let mut rng = ChaCha8Rng::seed_from_u64(seed.wrapping_add(ones as u64));
            if rng.random_bool(0.5) { Reins::One } else { Reins::Two }
        }
    }
}

/// The next asks of today at a gait in the order in which they are made, where each is made as it is told: for a device that has no network.
pub fn order_of_reins(asks: &[PairedAsk], on: NaiveDate, gait: Gait, seed: u64, many: usize) -> Vec<Reins> {
    let mut all: Vec<PairedAsk> = asks.iter().filter(|a| a.on == on && a.gait == gait).copied().collect();
    let mut order = vec![];
    for _ in 0..many {
        let reins = next_reins(&all, on, gait, seed);
        all.push(PairedAsk { on, gait, reins, braced: false });
        order.push(reins);
    }
    order
}
