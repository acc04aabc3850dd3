//! One plan on its way, and its small moves: a ride forced in, shifted, exchanged. The great ones are in [`super::rebuild`].

use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use super::{
    knapsack::Knapsack,
    one_horse,
    options::{Choice, Group, Offers, offers},
    state::{Placed, Slot, State},
};
use crate::schedule::{Ix, Ride};

/// Chance in what works are worth to all first plans but the greediest, in units of the score: they begin far apart.
const FIRST_CHANCE: f64 = 4.0;
/// A ride is not forced in where it pushes out more than its own worth and this: that much is hardly ever made good again.
const MAX_FORCED_LOSS: i64 = 25;
/// Options that are looked at for one forced ride.
pub(super) const CANDIDATES: usize = 3;

/// One plan on its way, with what the moves need.
pub(super) struct Annealer<'w> {
    pub(super) state: State<'w>,
    pub(super) options: &'w [Vec<Choice>],
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
    pub(super) blocking: Vec<Slot>,
    best_blocking: Vec<Slot>,
    pub(super) scratch: Scratch,
    pub(super) offers: Vec<Offers>,
    pub(super) knapsack: Knapsack,
    /// What stood on a day that is repacked.
    pub(super) emptied: Vec<Ix>,
}

/// Scratch for bits, kept so that it is not asked for at each move.
#[derive(Default)]
pub(super) struct Scratch {
    pub(super) starts: Vec<u64>,
    pub(super) free: Vec<u64>,
    pub(super) before: Vec<u64>,
    pub(super) after: Vec<u64>,
}

/// A way to ride, with what it pushes out.
pub(super) type Placement = (Choice, Vec<Slot>);

pub(super) type Options<'w> = (&'w [Vec<Choice>], &'w [Vec<Group>]);

impl<'w> Annealer<'w> {
    pub(super) fn new(
        empty: &State<'w>,
        (options, groups): Options<'w>,
        open: &'w [Ix],
        seed: u64,
        n: u64,
    ) -> Annealer<'w> {
        let state = empty.clone();
        let rng = ChaCha8Rng::seed_from_u64(seed.wrapping_mul(0x9E37_79B9_7F4A_7C15).wrapping_add(n));
        let best = (state.score(), state.rides());
        let mut annealer = Annealer {
            state,
            options,
            groups,
            open,
            works_of: one_horse::works_of(empty.week),
            sum: 0,
            has_cattle: open.iter().any(|&w| empty.week.works[w].cows > 0),
            rng,
            best,
            taken: vec![],
            put: vec![],
            blocking: vec![],
            best_blocking: vec![],
            scratch: Scratch::default(),
            offers: offers(empty.week, groups),
            knapsack: Knapsack::default(),
            emptied: vec![],
        };
        annealer.fill(if n == 0 { 0.0 } else { FIRST_CHANCE });
        annealer
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
        if self.state.score() > self.best.0 {
            self.best = (self.state.score(), self.state.rides());
        }
    }

    /// Some moves at one heat, with what a ride too few counts for meanwhile.
    pub(super) fn round(&mut self, heat: f64, short_cost: i64, moves: u32) {
        if self.open.is_empty() {
            return;
        }
        self.state.short_cost = short_cost;
        for _ in 0..moves {
            let before = self.state.softened();
            self.sum += self.state.score();
            self.taken.clear();
            self.put.clear();
            let mut heat_now = heat;
            // Most weeks have more to ride than riders' hours: what stands has to be exchanged far more often than there is room for
            // more.
            let done = match self.rng.random_range(0..100_u8) {
                0..=19 => self.force(),
                20..=39 => self.shift(),
                40..=44 => self.rebuild_horse(heat),
                45..=50 => self.repack_day(heat),
                51..=53 => {
                    // What is scarce shapes all the rest, which needs some moves to follow: it is given more rope.
                    heat_now *= 2.0;
                    self.redistribute(heat)
                }
                _ => self.exchange(),
            };
            if !done {
                self.undo();
                continue;
            }
            let change = (self.state.softened() - before) as f64;
            if change < 0.0 && self.rng.random::<f64>() >= (change / heat_now).exp() {
                self.undo();
            } else {
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

    /// A ride is ridden otherwise: taken out, and forced in again.
    fn exchange(&mut self) -> bool {
        self.take_some().is_some_and(|w| self.force_in(w))
    }

    /// A ride moves to another free time, place or rider, for nothing or for a change of cost: room is made that way.
    fn shift(&mut self) -> bool {
        let Some(w) = self.take_some() else { return false };
        let tight = self.rng.random_bool(0.6);
        self.put_somewhere(w, tight)
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

    pub(super) fn put_somewhere(&mut self, w: Ix, tight: bool) -> bool {
        let slot = self.place_somewhere(w, tight);
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
        let options = &self.options[w];
        let mut best: Option<(i64, Choice)> = None;
        for _ in 0..CANDIDATES {
            let c = options[self.rng.random_range(0..options.len())];
            let rng = &mut self.rng;
            if !self.state.conflicts(w, c, &mut self.blocking, &mut |n| rng.random_range(0..n)) {
                continue;
            }
            let lost: i64 = self.blocking.iter().map(|&s| self.state.value(s)).sum();
            let merit = -lost - i64::from(c.cost);
            if best.is_none_or(|b| merit > b.0) {
                best = Some((merit, c));
                std::mem::swap(&mut self.blocking, &mut self.best_blocking);
            }
        }
        let Some((merit, c)) = best else { return false };
        if merit + self.state.gain(w) < -MAX_FORCED_LOSS {
            return false;
        }
        let mut out: Vec<Ix> = vec![];
        for n in 0..self.best_blocking.len() {
            out.push(self.take_out(self.best_blocking[n]));
        }
        let slot = self.state.put(Placed { ride: c.ride(w), cost: c.cost.into(), fixed: false });
        self.put.push(slot);
        out.sort_by_key(|&w| std::cmp::Reverse(self.state.gain(w)));
        for w in out {
            let tight = self.rng.random_bool(0.7);
            self.put_somewhere(w, tight);
        }
        true
    }
}

/// A draw of Gumbel's distribution: added to what things are worth, it makes the choice of the greatest one by chance, in
/// proportion to the exponential of the worth.
pub(super) fn gumbel(rng: &mut ChaCha8Rng) -> f64 {
    -(-rng.random::<f64>().max(1e-9).ln()).ln()
}
