//! The search for a draw: annealing on whole draws, from two seeds at once, then every change of one slot until none is better.

use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use super::{
    Draw, Go, Goes,
    value::{Scratch, Tables},
};

/// How much is tried. The same work on the same problem gives the same draw.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Work {
    /// Makes the same draw each time.
    pub seed: u64,
    /// Draws that each of two threads tries.
    pub tries: u64,
}

/// From hot, where a go more or less is nothing, to cold, where a few thousandths of honour count.
const HOT: f64 = 12_000.0;
const COLD: f64 = 40.0;
/// Each thread cools so often from an empty pen, with so much of its tries,
const COOLINGS: u64 = 4;
const COOLING: f64 = 0.85;
/// and then warms its best again so often, to so much.
const REHEATS: u64 = 2;
const WARM: f64 = 3_000.0;
const THREADS: u64 = 2;

/// The best draw that was found.
pub fn draw(problem: &Draw, work: Work) -> (Goes, i64) {
    let tables = &Tables::of(problem);
    let seeds: Vec<u64> = (0..THREADS).map(|n| work.seed.wrapping_mul(THREADS).wrapping_add(n)).collect();
    let found: Vec<(Goes, i64)> = std::thread::scope(|scope| {
        let threads: Vec<_> =
            seeds.iter().map(|&seed| scope.spawn(move || Search::new(tables, seed).best(work.tries))).collect();
        threads.into_iter().filter_map(|thread| thread.join().ok()).collect()
    });
    // The first of the best, whichever thread was done first.
    let none = (vec![None; usize::from(problem.slots)], 0);
    found.into_iter().fold(none, |best, next| if next.1 > best.1 { next } else { best })
}

struct Search<'a> {
    tables: &'a Tables<'a>,
    rng: ChaCha8Rng,
    scratch: Scratch,
    now: Goes,
    next: Goes,
}

impl<'a> Search<'a> {
    fn new(tables: &'a Tables<'a>, seed: u64) -> Search<'a> {
        let empty: Goes = vec![None; usize::from(tables.draw.slots)];
        let rng = ChaCha8Rng::seed_from_u64(seed);
        Search { tables, rng, scratch: tables.scratch(), now: empty.clone(), next: empty }
    }

    fn best(mut self, tries: u64) -> (Goes, i64) {
        let mut best = (self.now.clone(), 0);
        if self.now.is_empty() || self.tables.draw.horses.is_empty() || self.tables.draw.cows.is_empty() {
            return best;
        }
        for n in 0..COOLINGS + REHEATS {
            let (hot, share) = if n < COOLINGS {
                self.now.fill(None);
                (HOT, COOLING / COOLINGS as f64)
            } else {
                self.now.clone_from(&best.0);
                (WARM, (1.0 - COOLING) / REHEATS as f64)
            };
            let value = if n < COOLINGS { 0 } else { best.1 };
            let cooled = self.cool(value, hot, (tries as f64 * share) as u64);
            let polished = self.polish(cooled);
            if polished.1 > best.1 {
                best = polished;
            }
        }
        best
    }

    /// One cooling from what is `now`: the best that it came by.
    fn cool(&mut self, mut value: i64, hot: f64, tries: u64) -> (Goes, i64) {
        let mut best = (self.now.clone(), value);
        let falls = (COLD / hot).ln() / tries.max(1) as f64;
        let mut heat = hot;
        for n in 0..tries {
            if n % 64 == 0 {
                heat = hot * (falls * n as f64).exp();
            }
            self.next.clone_from(&self.now);
            if !self.change() {
                continue;
            }
            let Some(changed) = self.tables.value(&self.next, &mut self.scratch) else { continue };
            let down = (changed - value) as f64;
            if down >= 0.0 || self.rng.random::<f64>() < (down / heat).exp() {
                std::mem::swap(&mut self.now, &mut self.next);
                value = changed;
                if value > best.1 {
                    best = (self.now.clone(), value);
                }
            }
        }
        best
    }

    /// Changes `next` somehow; false where nothing came of it.
    fn change(&mut self) -> bool {
        match self.rng.random_range(0..100) {
            0..24 => self.put(),
            24..40 => self.other_cow(),
            40..48 => self.take_out(),
            48..56 => self.swap(),
            56..70 => self.shift(),
            70..77 => self.exchange_visits(),
            77..83 => self.move_visit(),
            83..87 => self.other_horse(),
            87..92 => self.trade_cows(),
            _ => self.new_visit(),
        }
    }

    fn slot(&mut self) -> usize {
        self.rng.random_range(0..self.next.len())
    }

    fn taken(&mut self) -> Option<usize> {
        for _ in 0..8 {
            let slot = self.slot();
            if self.next[slot].is_some() {
                return Some(slot);
            }
        }
        None
    }

    fn cow_for(&mut self, horse: u8) -> Option<u8> {
        let cows = &self.tables.cows_of[usize::from(horse)];
        (!cows.is_empty()).then(|| cows[self.rng.random_range(0..cows.len())])
    }

    /// The horse of a go nearby, or any.
    fn horse_near(&mut self, slot: usize) -> u8 {
        if self.rng.random_bool(0.6) {
            let near = (1..4_usize).flat_map(|far| [slot.checked_sub(far), Some(slot + far)]).flatten();
            let found = near.filter_map(|at| self.next.get(at).copied().flatten()).next();
            if let Some(go) = found {
                return go.horse;
            }
        }
        self.rng.random_range(0..self.tables.draw.horses.len()) as u8
    }

    fn put(&mut self) -> bool {
        let slot = self.slot();
        let horse = self.horse_near(slot);
        let Some(cow) = self.cow_for(horse) else { return false };
        self.next[slot] = Some(Go { horse, cow });
        true
    }

    fn other_cow(&mut self) -> bool {
        let Some(slot) = self.taken() else { return false };
        let Some(go) = self.next[slot] else { return false };
        let Some(cow) = self.cow_for(go.horse) else { return false };
        self.next[slot] = Some(Go { cow, ..go });
        cow != go.cow
    }

    fn take_out(&mut self) -> bool {
        let Some(slot) = self.taken() else { return false };
        self.next[slot] = None;
        true
    }

    /// Two cows change places, or two slots whole.
    fn swap(&mut self) -> bool {
        let (Some(a), Some(b)) = (self.taken(), self.taken()) else { return false };
        let (Some(one), Some(other)) = (self.next[a], self.next[b]) else { return false };
        if one.horse == other.horse || self.rng.random_bool(0.5) {
            self.next[a] = Some(Go { cow: other.cow, ..one });
            self.next[b] = Some(Go { cow: one.cow, ..other });
            return one.cow != other.cow;
        }
        self.next.swap(a, b);
        true
    }

    /// A stretch moves by a slot or a few.
    fn shift(&mut self) -> bool {
        let (a, b) = (self.slot(), self.slot());
        let (from, to) = (a.min(b), a.max(b));
        let by = self.rng.random_range(1..=3_usize).min(to - from);
        if by == 0 {
            return false;
        }
        if self.rng.random_bool(0.5) {
            self.next[from..=to].rotate_left(by);
        } else {
            self.next[from..=to].rotate_right(by);
        }
        true
    }

    /// First and last slot of each visit, in order.
    fn visits(&self) -> Vec<(usize, usize)> {
        let mut visits: Vec<(usize, usize)> = vec![];
        let mut now = None;
        for (at, go) in self.next.iter().enumerate() {
            let Some(go) = go else { continue };
            match visits.last_mut() {
                Some(last) if now == Some(go.horse) => last.1 = at,
                _ => visits.push((at, at)),
            }
            now = Some(go.horse);
        }
        visits
    }

    /// Two visits that follow each other change places, with the pause between them.
    fn exchange_visits(&mut self) -> bool {
        let visits = self.visits();
        if visits.len() < 2 {
            return false;
        }
        let n = self.rng.random_range(0..visits.len() - 1);
        let ((from, end), (begin, to)) = (visits[n], visits[n + 1]);
        let (first, second) = (self.next[from..=end].to_vec(), self.next[begin..=to].to_vec());
        let pause = begin - end - 1;
        let both = second.into_iter().chain(std::iter::repeat_n(None, pause)).chain(first);
        both.enumerate().for_each(|(n, go)| self.next[from + n] = go);
        true
    }

    /// A visit goes elsewhere, and what is between moves up.
    fn move_visit(&mut self) -> bool {
        let visits = self.visits();
        if visits.is_empty() {
            return false;
        }
        let (from, to) = visits[self.rng.random_range(0..visits.len())];
        let (target, pause) = (self.slot(), usize::from(self.tables.draw.change));
        if target > to {
            let by = (to - from + 1 + pause).min(target - from);
            self.next[from..=target].rotate_left(by);
        } else if target < from {
            let by = (to - from + 1 + pause).min(to - target);
            self.next[target..=to].rotate_right(by);
        }
        target > to || target < from
    }

    /// Another horse takes a visit, on cows of its own.
    fn other_horse(&mut self) -> bool {
        let visits = self.visits();
        if visits.is_empty() {
            return false;
        }
        let (from, to) = visits[self.rng.random_range(0..visits.len())];
        let horse = self.rng.random_range(0..self.tables.draw.horses.len()) as u8;
        for at in from..=to {
            let Some(go) = self.next[at] else { continue };
            let keeps = self.tables.cows_of[usize::from(horse)].contains(&go.cow);
            let Some(cow) = (if keeps { Some(go.cow) } else { self.cow_for(horse) }) else { return false };
            self.next[at] = Some(Go { horse, cow });
        }
        true
    }

    /// One cow takes the place of another wherever it fits; where the other has goes too, they trade.
    fn trade_cows(&mut self) -> bool {
        let Some(slot) = self.taken() else { return false };
        let Some(Go { horse, cow: one }) = self.next[slot] else { return false };
        let Some(other) = self.cow_for(horse) else { return false };
        for at in 0..self.next.len() {
            let Some(go) = self.next[at] else { continue };
            let cow = if go.cow == one {
                other
            } else if go.cow == other {
                one
            } else {
                continue;
            };
            let fits = self.tables.cows_of[usize::from(go.horse)].contains(&cow);
            self.next[at] = fits.then_some(Go { cow, ..go });
        }
        one != other
    }

    /// A horse comes in anew with a few goes after each other, for whatever was there.
    fn new_visit(&mut self) -> bool {
        let horse = self.rng.random_range(0..self.tables.draw.horses.len()) as u8;
        let long = self.tables.draw.horses[usize::from(horse)].worth.len().max(1);
        let (from, pause) = (self.slot(), usize::from(self.tables.draw.change));
        let to = (from + self.rng.random_range(1..=long)).min(self.next.len());
        let near = from.saturating_sub(pause)..(to + pause).min(self.next.len());
        for (at, go) in self.next.iter_mut().enumerate() {
            if near.contains(&at) || go.is_some_and(|go| go.horse == horse) {
                *go = None;
            }
        }
        for at in from..to {
            let Some(cow) = self.cow_for(horse) else { return false };
            self.next[at] = Some(Go { horse, cow });
        }
        self.drop_lesser_half(from, to);
        true
    }

    /// Where a horse goes on both sides of what came between, its fewer goes are taken out.
    fn drop_lesser_half(&mut self, from: usize, to: usize) {
        let before = self.next[..from].iter().rev().flatten().next();
        let after = self.next[to..].iter().flatten().next();
        let cut = match (before, after) {
            (Some(before), Some(after)) if before.horse == after.horse => before.horse,
            _ => return,
        };
        let goes = |part: &[Option<Go>]| part.iter().flatten().filter(|go| go.horse == cut).count();
        let first = goes(&self.next[..from]) < goes(&self.next[to..]);
        let part = if first { &mut self.next[..from] } else { &mut self.next[to..] };
        part.iter_mut().filter(|go| go.is_some_and(|go| go.horse == cut)).for_each(|go| *go = None);
    }

    /// The best change of one slot, again and again until none is better.
    fn polish(&mut self, (mut goes, mut value): (Goes, i64)) -> (Goes, i64) {
        loop {
            let mut better: Option<(usize, Option<Go>, i64)> = None;
            for slot in 0..goes.len() {
                let was = goes[slot];
                for horse in 0..self.tables.draw.horses.len() {
                    for &cow in &self.tables.cows_of[horse] {
                        goes[slot] = Some(Go { horse: horse as u8, cow });
                        let Some(worth) = self.tables.value(&goes, &mut self.scratch) else { continue };
                        if worth > better.map_or(value, |b| b.2) {
                            better = Some((slot, goes[slot], worth));
                        }
                    }
                }
                goes[slot] = None;
                if let Some(worth) = self.tables.value(&goes, &mut self.scratch)
                    && worth > better.map_or(value, |b| b.2)
                {
                    better = Some((slot, None, worth));
                }
                goes[slot] = was;
            }
            let Some((slot, go, worth)) = better else { return (goes, value) };
            (goes[slot], value) = (go, worth);
        }
    }
}
