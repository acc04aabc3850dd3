//! Set-ups for the lope: a horse that was sent off each time it was set up goes by itself. How many may end in going, and what the
//! next one ends in.

use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use serde::{Deserialize, Serialize};

use crate::{
    order::{Order, drawn},
    pattern::Hand,
    words::words,
};

words! {
    "an end of a set-up";
    /// What a set-up ended in, as the rider meant it.
    pub enum SetUpTold {
        /// It was sent off.
        Go,
        /// It walked on.
        WalkOn,
        /// It stood and waited.
        Wait,
    }
}

/// A set-up.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LopeSetUp {
    /// The lead that it was set up for.
    pub lead: Hand,
    /// What it was to end in.
    pub told: SetUpTold,
    /// Whether it went before it was told, or without.
    pub guessed: bool,
}

/// How the set-ups for a lead went.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct SetUpLedger {
    /// Sent off.
    pub go: u32,
    /// Walked on.
    pub walk_on: u32,
    /// Waited.
    pub wait: u32,
    /// Of all of them, those where it went by itself.
    pub guessed: u32,
}

/// How the set-ups for a lead went.
pub fn set_up_ledger(all: &[LopeSetUp], lead: Hand) -> SetUpLedger {
    let mut ledger = SetUpLedger::default();
    for set_up in all.iter().filter(|it| it.lead == lead) {
        match set_up.told {
            SetUpTold::Go => ledger.go += 1,
            SetUpTold::WalkOn => ledger.walk_on += 1,
            SetUpTold::Wait => ledger.wait += 1,
        }
        ledger.guessed += u32::from(set_up.guessed);
    }
    ledger
}

/// The share of set-ups that may end in going.
#[derive(Debug, Clone, PartialEq)]
pub struct GoShare {
    /// 0 to 1.
    pub share: f64,
    /// Set-ups that it rests on, and those of them where the horse went by itself.
    pub seen: [u32; 2],
    /// In a sentence.
    pub why: String,
}

/// Shares of going, from few to many: one in eight, a quarter, a third, half. More than half and position means go (common practice: most
/// set-ups end without going).
const SHARES: [f64; 4] = [0.125, 0.25, 1.0 / 3.0, 0.5];
/// Where a horse begins of which nothing is known.
const FIRST: usize = 1;
/// How far back a horse remembers what position meant, set-ups. Assumed.
const REMEMBERS: usize = 8;
/// So many set-ups tell whether a share is too much.
const ENOUGH: u32 = 8;
/// A horse that goes by itself more often than this guesses.
const GUESSES: f64 = 0.1;

/// The largest share of going at which this horse does not guess for a lead: a share is tried once the one below it was ridden for eight
/// set-ups with hardly a guess among them, and given up once there are more than one in ten.
///
/// ```
/// use cavesson_core::{exercise::{LopeSetUp, SetUpTold, go_share}, pattern::Hand};
/// let told = |told, guessed| LopeSetUp { lead: Hand::Left, told, guessed };
/// assert_eq!(go_share(&[], Hand::Left).share, 0.25);
/// // It walked on sixteen times of twenty, and never went by itself.
/// let quiet: Vec<LopeSetUp> = (0..20).map(|n| told(if n % 5 == 0 { SetUpTold::Go } else { SetUpTold::WalkOn }, false)).collect();
/// assert_eq!(go_share(&quiet, Hand::Left).share, 1.0 / 3.0);
/// ```
pub fn go_share(all: &[LopeSetUp], lead: Hand) -> GoShare {
    let of_lead: Vec<&LopeSetUp> = all.iter().filter(|it| it.lead == lead).collect();
    let mut seen = [[0_u32; 2]; SHARES.len()];
    for (n, set_up) in of_lead.iter().enumerate() {
        let before = &of_lead[n.saturating_sub(REMEMBERS)..n];
        // A guess that was to go all the same is a guess too.
        let Some(at) = share_of(before) else { continue };
        seen[at][0] += 1;
        seen[at][1] += u32::from(set_up.guessed);
    }
    let rate = |[n, guessed]: [u32; 2]| f64::from(guessed) / f64::from(n.max(1));
    let known = |at: usize| seen[at][0] >= ENOUGH;
    let mut at = FIRST;
    if known(at) && rate(seen[at]) > GUESSES {
        at = 0;
    } else {
        while at + 1 < SHARES.len()
            && known(at)
            && rate(seen[at]) <= GUESSES
            && !(known(at + 1) && rate(seen[at + 1]) > GUESSES)
        {
            at += 1;
        }
    }
    let why = match (at, seen[at]) {
        (0, _) => {
            let [n, guessed] = seen[FIRST];
            format!("One in eight: it went by itself {guessed} of {n} times where a quarter ended in going.")
        }
        (FIRST, [n, _]) if n < ENOUGH => "A quarter, until there are enough set-ups to tell.".to_owned(),
        (_, [n, guessed]) if n >= ENOUGH => {
            format!("{}: it went by itself {guessed} of {n} times at that.", spoken(at))
        }
        _ => {
            let [n, guessed] = seen[at - 1];
            format!("{} now: it went by itself {guessed} of {n} times at fewer.", spoken(at))
        }
    };
    GoShare { share: SHARES[at], seen: seen[at], why }
}

fn spoken(at: usize) -> &'static str {
    ["One in eight", "A quarter", "A third", "Half"][at]
}

/// Which of the shares some set-ups come nearest to; none where there are too few to mean anything.
fn share_of(before: &[&LopeSetUp]) -> Option<usize> {
    if before.len() < REMEMBERS / 2 {
        return None;
    }
    let went = before.iter().filter(|it| it.told == SetUpTold::Go).count() as f64 / before.len() as f64;
    let off = |at: &usize| (SHARES[*at] - went).abs();
    (0..SHARES.len()).min_by(|a, b| off(a).total_cmp(&off(b)))
}

/// What the next set-up ends in.
#[derive(Debug, Clone, PartialEq)]
pub struct NextSetUp {
    /// What.
    pub told: SetUpTold,
    /// In a sentence.
    pub why: String,
    /// The share of going that is kept.
    pub go: GoShare,
}

/// Draws what the next set-up for a lead ends in: it keeps the share of going, and the order says nothing about it. After a guess nothing
/// goes. The same seed, the same draw.
///
/// ```
/// use cavesson_core::{exercise::{LopeSetUp, SetUpTold, next_set_up}, pattern::Hand};
/// let guessed = LopeSetUp { lead: Hand::Right, told: SetUpTold::WalkOn, guessed: true };
/// assert_ne!(next_set_up(&[guessed], Hand::Right, 7).told, SetUpTold::Go);
/// ```
pub fn next_set_up(all: &[LopeSetUp], lead: Hand, seed: u64) -> NextSetUp {
    let go = go_share(all, lead);
    let of_lead: Vec<&LopeSetUp> = all.iter().filter(|it| it.lead == lead).collect();
    let told: Vec<SetUpTold> = of_lead.iter().map(|it| it.told).collect();
    if of_lead.last().is_some_and(|last| last.guessed) {
        let why = "It went by itself. Set it up again, and let nothing come of it.".to_owned();
        return NextSetUp { told: SetUpTold::Wait, why, go };
    }
    // What lags behind its share comes a little more often.
    let latest = &told[told.len().saturating_sub(4 * REMEMBERS)..];
    let went = latest.iter().filter(|it| **it == SetUpTold::Go).count() as f64;
    let lag = (go.share * latest.len() as f64 - went).clamp(-0.75, 3.0);
    let given = [
        (SetUpTold::Go, go.share * (1.0 + lag)),
        (SetUpTold::WalkOn, (1.0 - go.share) * 0.6),
        (SetUpTold::Wait, (1.0 - go.share) * 0.4),
    ];
    let weights = Order::of([latest]).weights(latest, given);
    // The two leads have draws of their own.
    let of_lead = if lead == Hand::Left { seed } else { seed.rotate_left(32) };
    let mut rng = ChaCha8Rng::seed_from_u64(of_lead ^ told.len() as u64);
    let next = drawn(&weights, &mut rng).unwrap_or(SetUpTold::WalkOn);
    let why = match next {
        SetUpTold::Go => "Send it off from the same quiet position.",
        SetUpTold::WalkOn => "Position, leg, and walk on.",
        SetUpTold::Wait => "Position, leg, and stand.",
    };
    NextSetUp { told: next, why: why.to_owned(), go }
}

/// The next draws for a lead, if each comes off as it is drawn: for a device that is out of reach of the server meanwhile.
///
/// ```
/// use cavesson_core::{exercise::{coming, next_set_up}, pattern::Hand};
/// let draws = coming(&[], Hand::Left, 7, 5);
/// assert_eq!((draws.len(), draws[0]), (5, next_set_up(&[], Hand::Left, 7).told));
/// ```
pub fn coming(all: &[LopeSetUp], lead: Hand, seed: u64, many: usize) -> Vec<SetUpTold> {
    let mut all = all.to_vec();
    let mut draw = || {
        let told = next_set_up(&all, lead, seed).told;
        all.push(LopeSetUp { lead, told, guessed: false });
        told
    };
    (0..many).map(|_| draw()).collect()
}
