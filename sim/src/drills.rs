//! Horses that guess: a drill in an order that cannot be guessed against the same moves in the same order every day.
//!
//! How a horse guesses and learns here is invented: no published figure is known. It notes what followed the last two moves; the
//! surer it is of the next, the likelier it goes before it is asked, and what it rehearses so is a wrong answer.

use std::collections::{BTreeMap, BTreeSet};

use cavesson_core::{
    figure::{DrillAsked, DrillMove, DrillNeed, drill},
    pattern::Point,
};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// In which order the moves of a drill come.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum DrillOrder {
    /// Drawn anew each day by the drill maker.
    Made,
    /// The same moves, in the same order every day.
    Fixed,
}

/// What it took until every move was at the standard.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct DrillTaken {
    /// Moves ridden.
    pub reps: usize,
    /// Wrong answers that were rehearsed: it went before it was asked.
    pub wrong: usize,
    /// Whether it came within [`DAYS`].
    pub there: bool,
}

/// Days after which it is given up.
pub const DAYS: usize = 60;
/// The standard of a move: so many of the last ten right.
const STANDARD: (usize, usize) = (8, 10);
/// What a horse takes for certain: something that followed so often, and so much of the time.
const NOTED: f64 = 1.5;
const SURE: f64 = 0.5;
/// What is left of what it noted, from one day to the next.
const KEEPS: f64 = 0.9;
/// What a right answer, a try and a wrong answer do to what is left to learn, and to what is learned.
const LEARNS: (f64, f64, f64) = (0.05, 0.01, 0.03);

#[derive(Default)]
struct Guesser {
    noted: BTreeMap<(DrillMove, DrillMove), BTreeMap<DrillMove, f64>>,
    skill: BTreeMap<DrillMove, f64>,
    lately: BTreeMap<DrillMove, Vec<bool>>,
}

impl Guesser {
    /// How sure it is of what comes, 0 to 1, having gone through these moves.
    fn sure(&self, gone: &[DrillMove]) -> f64 {
        let [.., a, b] = gone else { return 0.0 };
        let Some(after) = self.noted.get(&(*a, *b)) else { return 0.0 };
        let all: f64 = after.values().sum();
        let most = after.values().copied().fold(0.0, f64::max);
        if all < NOTED { 0.0 } else { ((most / all - SURE) / (1.0 - SURE)).max(0.0) }
    }

    fn rides(&mut self, moves: &[DrillMove], guesses: f64, rng: &mut ChaCha8Rng, taken: &mut DrillTaken) {
        for (n, &of) in moves.iter().enumerate() {
            let sure = self.sure(&moves[..n]);
            let skill = self.skill.entry(of).or_insert(0.35);
            let guessed = rng.random_bool((guesses * sure).clamp(0.0, 1.0));
            let right = !guessed && rng.random_bool(*skill);
            match (guessed, right) {
                (true, _) => *skill -= LEARNS.2 * *skill,
                (_, true) => *skill += LEARNS.0 * (1.0 - *skill),
                _ => *skill += LEARNS.1 * (1.0 - *skill),
            }
            taken.reps += 1;
            taken.wrong += usize::from(guessed);
            self.lately.entry(of).or_default().push(right);
            if n >= 2 {
                *self.noted.entry((moves[n - 2], moves[n - 1])).or_default().entry(of).or_default() += 1.0;
            }
        }
        self.noted.values_mut().flat_map(BTreeMap::values_mut).for_each(|seen| *seen *= KEEPS);
    }

    fn is_there(&self) -> bool {
        self.lately.values().all(|all| {
            let last = &all[all.len().saturating_sub(STANDARD.1)..];
            last.len() == STANDARD.1 && last.iter().filter(|right| **right).count() >= STANDARD.0
        })
    }
}

/// The same moves one after the other, round and round.
fn in_turn(moves: &[DrillMove]) -> Vec<DrillMove> {
    let mut left: BTreeMap<DrillMove, usize> = BTreeMap::new();
    moves.iter().for_each(|of| *left.entry(*of).or_default() += 1);
    let mut out = vec![];
    while out.len() < moves.len() {
        for (of, n) in left.iter_mut().filter(|(_, n)| **n > 0) {
            out.push(*of);
            *n -= 1;
        }
    }
    out
}

/// Drills a horse day by day until every move is at the standard. `guesses`: how readily it goes on what it has noted, 0 to 1.
pub fn drilled(order: DrillOrder, guesses: f64, seed: u64) -> DrillTaken {
    let may_ask: BTreeSet<String> =
        ["S3 left", "S3 right", "T1", "T3", "R4 left", "R4 right"].map(str::to_owned).into();
    let needs = [DrillNeed::Anticipates, DrillNeed::DivesOut];
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let (mut horse, mut taken) = (Guesser::default(), DrillTaken::default());
    let mut before: Vec<Vec<DrillMove>> = vec![];
    for day in 0..DAYS {
        let asked = DrillAsked {
            needs: &needs,
            may_ask: &may_ask,
            at: Point::new(20.0, 30.0),
            room: 18.0,
            minutes: 5,
            seed: seed.wrapping_mul(1_000) + day as u64,
            before: &before[before.len().saturating_sub(5)..],
        };
        let Some(made) = drill(&asked) else { break };
        let moves = match order {
            DrillOrder::Made => made.moves.clone(),
            DrillOrder::Fixed => in_turn(&made.moves),
        };
        horse.rides(&moves, guesses, &mut rng, &mut taken);
        before.push(made.moves);
        if horse.is_there() {
            taken.there = true;
            break;
        }
    }
    taken
}
