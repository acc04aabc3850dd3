//! One plan on its way, and its small moves: a ride forced in, shifted, exchanged. The great ones are in [`super::remake`].

use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use super::{
    Ix, Ride, one_horse,
    options::{Choice, Group},
    refill::{self, Offers},
    sack::Sack,
    state::{Placed, Slot, State},
};

/// Chance in what works are worth to all first plans but the greediest, in units of the score: they begin far apart.
const FIRST_CHANCE: f64 = 4.0;
/// A ride is not forced in where it pushes out more than its own worth and this: that much is hardly ever made good again.
const ROPE: i64 = 25;
/// Ways that are looked at for one forced ride.
pub(super) const LOOKS: usize = 3;

/// One plan on its way, with what the moves need.
pub(super) struct Chain<'w> {
    pub(super) state: State<'w>,
    pub(super) ways: &'w [Vec<Choice>],
    pub(super) groups: &'w [Vec<Group>],
    pub(super) open: &'w [Ix],
    pub(super) works_of: Vec<Vec<Ix>>,
    pub(super) has_cattle: bool,
    /// The scores after each move, added up: how good this plan's neighbourhood is.
    pub(super) sum: i64,
    pub(super) rng: ChaCha8Rng,
    pub(super) best: (i64, Vec<Ride>),
    /// What the current move took out and put in, to be undone.
    pub(super) taken: Vec<Placed>,
    pub(super) put: Vec<Slot>,
    pub(super) way: Vec<Slot>,
    best_way: Vec<Slot>,
    pub(super) room: Room,
    pub(super) offers: Vec<Offers>,
    pub(super) sack: Sack,
    /// What stood on a day that is filled anew.
    pub(super) emptied: Vec<Ix>,
}

/// Room for bits, kept so that it is not asked for at each move.
#[derive(Default)]
pub(super) struct Room {
    pub(super) starts: Vec<u64>,
    pub(super) free: Vec<u64>,
    pub(super) before: Vec<u64>,
    pub(super) after: Vec<u64>,
}

/// A way to ride, with what it pushes out.
pub(super) type Way = (Choice, Vec<Slot>);

pub(super) type Ways<'w> = (&'w [Vec<Choice>], &'w [Vec<Group>]);

impl<'w> Chain<'w> {
    pub(super) fn new(empty: &State<'w>, (ways, groups): Ways<'w>, open: &'w [Ix], seed: u64, n: u64) -> Chain<'w> {
        let state = empty.clone();
        let rng = ChaCha8Rng::seed_from_u64(seed.wrapping_mul(0x9E37_79B9_7F4A_7C15).wrapping_add(n));
        let best = (state.score, state.rides());
        let mut chain = Chain {
            state,
            ways,
            groups,
            open,
            works_of: one_horse::works_of(empty.week),
            sum: 0,
            has_cattle: open.iter().any(|&w| empty.week.works[w].cows > 0),
            rng,
            best,
            taken: vec![],
            put: vec![],
            way: vec![],
            best_way: vec![],
            room: Room::default(),
            offers: refill::offers(empty.week, groups),
            sack: Sack::default(),
            emptied: vec![],
        };
        chain.fill(if n == 0 { 0.0 } else { FIRST_CHANCE });
        chain
    }

    /// Puts in what fits, the most worth first, with some chance in what things are worth.
    fn fill(&mut self, chance: f64) {
        let lean: Vec<f64> = (0..self.state.week.works.len()).map(|_| chance * self.gumbel()).collect();
        // What has no room now has none later either: rides only come in.
        let mut works = self.open.to_vec();
        while !works.is_empty() {
            let merit = |w: Ix| self.state.gain(w) as f64 + lean[w];
            let top = (0..works.len()).max_by(|&a, &b| merit(works[a]).total_cmp(&merit(works[b])).then(b.cmp(&a)));
            let Some(top) = top else { break };
            if self.state.gain(works[top]) <= 0 || self.place_somewhere(works[top], true).is_none() {
                works.remove(top);
            }
        }
        self.note();
    }

    pub(super) fn gumbel(&mut self) -> f64 {
        gumbel(&mut self.rng)
    }

    fn note(&mut self) {
        if self.state.score > self.best.0 {
            self.best = (self.state.score, self.state.rides());
        }
    }

    /// Some moves at one heat.
    pub(super) fn round(&mut self, heat: f64, moves: u32) {
        if self.open.is_empty() {
            return;
        }
        for _ in 0..moves {
            let before = self.state.score;
            self.sum += before;
            self.taken.clear();
            self.put.clear();
            let mut warmth = heat;
            let done = match self.rng.random_range(0..100_u8) {
                0..=59 => self.force(),
                60..=79 => self.shift(),
                80..=84 => self.one_horse(heat),
                85..=89 => self.refill(heat),
                90..=91 => {
                    // What is scarce shapes all the rest, which needs some moves to follow: it is given more rope.
                    warmth *= 2.0;
                    self.give_out_anew(heat)
                }
                _ => self.exchange(),
            };
            if !done {
                self.undo();
                continue;
            }
            let change = (self.state.score - before) as f64;
            if change < 0.0 && self.rng.random::<f64>() >= (change / warmth).exp() {
                self.undo();
            } else if change > 0.0 {
                self.note();
            }
        }
    }

    fn undo(&mut self) {
        while let Some(slot) = self.put.pop() {
            self.state.take(slot);
        }
        while let Some(p) = self.taken.pop() {
            self.state.put(p);
        }
    }

    /// A ride of a work that has fewer than it could, forced in where that costs least.
    fn force(&mut self) -> bool {
        self.lacking(1).first().is_some_and(|&w| self.force_in(w))
    }

    /// A ride is ridden otherwise: taken out, and forced in anew.
    fn exchange(&mut self) -> bool {
        self.take_some().is_some_and(|w| self.force_in(w))
    }

    /// A ride moves to another free time, place or rider, for nothing or for a change of cost: room is made that way.
    fn shift(&mut self) -> bool {
        let Some(w) = self.take_some() else { return false };
        let snug = self.rng.random_bool(0.6);
        self.put_somewhere(w, snug)
    }

    /// Takes out some ride that is not fixed.
    fn take_some(&mut self) -> Option<Ix> {
        let slots = self.state.slots();
        let from = if slots == 0 { 0 } else { self.rng.random_range(0..slots) };
        let slot = self.state.some_free(from)?;
        Some(self.take_out(slot))
    }

    pub(super) fn lacks(&self, w: Ix) -> bool {
        self.state.of_work[w].len() < self.state.week.works[w].worth.len()
    }

    /// Some works that have fewer rides than they could.
    pub(super) fn lacking(&mut self, most: usize) -> Vec<Ix> {
        let n = self.open.len();
        let from = self.rng.random_range(0..n);
        (0..n).map(|k| self.open[(from + k) % n]).filter(|&w| self.lacks(w)).take(most).collect()
    }

    pub(super) fn put_somewhere(&mut self, w: Ix, snug: bool) -> bool {
        let slot = self.place_somewhere(w, snug);
        self.put.extend(slot);
        slot.is_some()
    }

    /// Takes out a ride, of this same move or of before it.
    pub(super) fn take_out(&mut self, slot: Slot) -> Ix {
        let p = self.state.take(slot);
        match self.put.iter().position(|s| *s == slot) {
            Some(at) => drop(self.put.swap_remove(at)),
            None => self.taken.push(p),
        }
        p.ride.work
    }

    pub(super) fn force_in(&mut self, w: Ix) -> bool {
        let ways = &self.ways[w];
        let mut best: Option<(i64, Choice)> = None;
        for _ in 0..LOOKS {
            let c = ways[self.rng.random_range(0..ways.len())];
            let rng = &mut self.rng;
            if !self.state.in_the_way(w, c, &mut self.way, &mut |n| rng.random_range(0..n)) {
                continue;
            }
            let lost: i64 = self.way.iter().map(|&s| self.state.value(s)).sum();
            let merit = -lost - i64::from(c.cost);
            if best.is_none_or(|b| merit > b.0) {
                best = Some((merit, c));
                std::mem::swap(&mut self.way, &mut self.best_way);
            }
        }
        let Some((merit, c)) = best else { return false };
        if merit + self.state.gain(w) < -ROPE {
            return false;
        }
        let mut out: Vec<Ix> = vec![];
        for n in 0..self.best_way.len() {
            out.push(self.take_out(self.best_way[n]));
        }
        let slot = self.state.put(Placed { ride: c.ride(w), cost: c.cost.into(), fixed: false });
        self.put.push(slot);
        out.sort_by_key(|&w| std::cmp::Reverse(self.state.gain(w)));
        for w in out {
            let snug = self.rng.random_bool(0.7);
            self.put_somewhere(w, snug);
        }
        true
    }
}

/// A draw of Gumbel's distribution: added to what things are worth, it makes the choice of the greatest one by chance, in
/// proportion to the exponential of the worth.
pub(super) fn gumbel(rng: &mut ChaCha8Rng) -> f64 {
    -(-rng.random::<f64>().max(1e-9).ln()).ln()
}
