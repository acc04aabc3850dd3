//! The moves: rides forced in, shifted, exchanged, a rider's day repacked, a horse's week made anew.

use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use super::{
    DAYS, Ix, Ride,
    one_horse::{self, Offer},
    options::{Choice, Group},
    state::{Placed, Slot, State},
};

/// Moves of a chain in one round.
const MOVES: u32 = 4_000;
/// Ways that are looked at for one forced ride.
pub(super) const LOOKS: usize = 3;

/// One plan on its way, with what the moves need.
pub(super) struct Chain<'w> {
    pub(super) state: State<'w>,
    pub(super) ways: &'w [Vec<Choice>],
    pub(super) groups: &'w [Vec<Group>],
    open: &'w [Ix],
    works_of: Vec<Vec<Ix>>,
    pub(super) rng: ChaCha8Rng,
    pub(super) best: (i64, Vec<Ride>),
    /// What the current move took out and put in, to be undone.
    taken: Vec<Placed>,
    put: Vec<Slot>,
    pub(super) way: Vec<Slot>,
    best_way: Vec<Slot>,
    pub(super) room: Room,
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
        let rng = ChaCha8Rng::seed_from_u64(seed.wrapping_mul(2).wrapping_add(n));
        let best = (state.score, state.rides());
        let mut chain = Chain {
            state,
            ways,
            groups,
            open,
            works_of: one_horse::works_of(empty.week),
            rng,
            best,
            taken: vec![],
            put: vec![],
            way: vec![],
            best_way: vec![],
            room: Room::default(),
        };
        chain.fill();
        chain
    }

    /// Puts in what fits, the most worth first.
    fn fill(&mut self) {
        loop {
            let mut works: Vec<(i64, Ix)> = self.open.iter().map(|&w| (self.state.gain(w), w)).collect();
            works.sort_by_key(|&(gain, w)| (std::cmp::Reverse(gain), w));
            let placed = works.into_iter().any(|(gain, w)| gain > 0 && self.place_somewhere(w, true).is_some());
            if !placed {
                break;
            }
        }
        self.note();
    }

    fn note(&mut self) {
        if self.state.score > self.best.0 {
            self.best = (self.state.score, self.state.rides());
        }
    }

    pub(super) fn go_on_from(&mut self, rides: &[Ride]) {
        self.state = State::new(self.state.week);
        for &ride in rides.iter().filter(|r| !self.state.week.fixed.contains(r)) {
            let costs = &self.state.week.works[ride.work].riders;
            let cost = costs.iter().find(|(r, _)| *r == ride.rider).map_or(0, |(_, c)| *c);
            self.state.put(Placed { ride, cost, fixed: false });
        }
        self.note();
    }

    pub(super) fn round(&mut self, heat: f64) {
        if self.open.is_empty() {
            return;
        }
        for _ in 0..MOVES {
            let before = self.state.score;
            self.taken.clear();
            self.put.clear();
            let done = match self.rng.random_range(0..100_u8) {
                0..=54 => self.force(),
                55..=74 => self.shift(),
                75..=79 => self.repack(),
                80..=84 => self.one_horse(heat),
                _ => self.exchange(),
            };
            if !done {
                self.undo();
                continue;
            }
            let change = (self.state.score - before) as f64;
            if change < 0.0 && self.rng.random::<f64>() >= (change / heat).exp() {
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
        let n = self.open.len();
        let from = self.rng.random_range(0..n);
        let lacks = |w: &Ix| self.state.of_work[*w].len() < self.state.week.works[*w].worth.len();
        let Some(w) = (0..n).map(|k| self.open[(from + k) % n]).find(lacks) else { return false };
        self.force_in(w)
    }

    /// A ride is ridden otherwise: taken out, and forced in anew.
    fn exchange(&mut self) -> bool {
        let slots = self.state.slots();
        if slots == 0 {
            return false;
        }
        let Some(slot) = self.state.some_free(self.rng.random_range(0..slots)) else { return false };
        let p = self.state.take(slot);
        self.taken.push(p);
        self.force_in(p.ride.work)
    }

    /// A ride moves to another free time, place or rider, for nothing or for a change of cost: room is made that way.
    fn shift(&mut self) -> bool {
        let slots = self.state.slots();
        if slots == 0 {
            return false;
        }
        let Some(slot) = self.state.some_free(self.rng.random_range(0..slots)) else { return false };
        let p = self.state.take(slot);
        self.taken.push(p);
        let snug = self.rng.random_bool(0.6);
        self.place_somewhere(p.ride.work, snug).is_some_and(|slot| {
            self.put.push(slot);
            true
        })
    }

    /// The whole week of one horse anew, the best that the others leave it or can be pushed out for. A little chance in what the
    /// days cost keeps it from finding the same one each time.
    fn one_horse(&mut self, heat: f64) -> bool {
        let week = self.state.week;
        let h = self.rng.random_range(0..week.horses.len());
        let works = self.works_of[h].clone();
        if works.is_empty() || works.len() > one_horse::MOST_WORKS {
            return false;
        }
        for slot in self.state.of_horse[h].clone() {
            if !self.state.placed(slot).fixed {
                let p = self.state.take(slot);
                self.taken.push(p);
            }
        }
        let push = self.rng.random_bool(0.5);
        let mut costs = vec![[None; DAYS]; works.len()];
        let mut ways: Vec<[Option<Way>; DAYS]> = vec![Default::default(); works.len()];
        for (n, &w) in works.iter().enumerate() {
            for day in 0..DAYS {
                let Some((cost, way)) = self.way_on(w, day as u8, push) else { continue };
                let chance = -heat * 0.5 * (-self.rng.random::<f64>().max(1e-9).ln()).ln();
                costs[n][day] = Some(cost as f64 - chance);
                ways[n][day] = Some(way);
            }
        }
        let standing = self.state.of_horse[h].iter().map(|&s| self.state.placed(s).ride);
        let horse = &week.horses[h];
        let offer = Offer {
            works: works.iter().map(|&w| &week.works[w]).collect(),
            costs,
            standing: standing.map(|r| (usize::from(r.day), works.iter().position(|w| *w == r.work))).collect(),
            loads: self.state.loads(h),
            least: horse.least.into(),
            most: horse.most.into(),
            two_days: horse.two_days,
            week: horse.week,
        };
        let mut out: Vec<Ix> = vec![];
        for (day, w) in one_horse::best_days(&offer).into_iter().enumerate() {
            let Some((c, way)) = w.and_then(|n| ways[n][day].take()) else { continue };
            for slot in way {
                let p = self.state.take(slot);
                out.push(p.ride.work);
                self.taken.push(p);
            }
            let w = works[w.unwrap_or_default()];
            let slot = self.state.put(Placed { ride: c.ride(w), cost: c.cost.into(), fixed: false });
            self.put.push(slot);
        }
        out.sort_by_key(|&w| std::cmp::Reverse(self.state.gain(w)));
        for w in out {
            let slot = self.place_somewhere(w, true);
            self.put.extend(slot);
        }
        true
    }

    /// A day of a rider is ridden in another order, pushed together from one end, and what has room then is added.
    fn repack(&mut self) -> bool {
        let rider = self.rng.random_range(0..self.state.week.riders.len());
        let day = self.rng.random_range(0..DAYS as u8);
        let mut slots = std::mem::take(&mut self.way);
        self.state.day_of(rider, day, &mut slots);
        let early = self.rng.random_bool(0.5);
        let mut works: Vec<Ix> = vec![];
        for &slot in &slots {
            let p = self.state.take(slot);
            works.push(p.ride.work);
            self.taken.push(p);
        }
        self.way = slots;
        if works.is_empty() {
            return false;
        }
        // Now and then the order of the clock, pushed together; else some change places.
        if !early {
            works.reverse();
        }
        if self.rng.random_bool(0.7) {
            for _ in 0..self.rng.random_range(1..=3) {
                let (a, b) = (self.rng.random_range(0..works.len()), self.rng.random_range(0..works.len()));
                works.swap(a, b);
            }
        }
        let lacking = self.lacking_some();
        for w in works.into_iter().chain(lacking) {
            let slot = self.place_on(w, rider, day, early).or_else(|| self.place_somewhere(w, true));
            self.put.extend(slot);
        }
        true
    }

    /// Some works that have fewer rides than they could.
    fn lacking_some(&mut self) -> Vec<Ix> {
        let n = self.open.len();
        let from = self.rng.random_range(0..n);
        let lacks = |w: &Ix| self.state.of_work[*w].len() < self.state.week.works[*w].worth.len();
        (0..n).map(|k| self.open[(from + k) % n]).filter(lacks).take(6).collect()
    }

    fn force_in(&mut self, w: Ix) -> bool {
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
        let Some((_, c)) = best else { return false };
        let mut out: Vec<Ix> = vec![];
        for n in 0..self.best_way.len() {
            let p = self.state.take(self.best_way[n]);
            out.push(p.ride.work);
            self.taken.push(p);
        }
        let slot = self.state.put(Placed { ride: c.ride(w), cost: c.cost.into(), fixed: false });
        self.put.push(slot);
        out.sort_by_key(|&w| std::cmp::Reverse(self.state.gain(w)));
        for w in out {
            let snug = self.rng.random_bool(0.7);
            if let Some(slot) = self.place_somewhere(w, snug) {
                self.put.push(slot);
            }
        }
        true
    }
}
