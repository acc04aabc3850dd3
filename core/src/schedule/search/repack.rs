//! A rider's day repacked: of all that could be ridden in its two longest free stretches, the rides that are worth most together.
//! Places are not looked at: what finds its place taken is ridden elsewhere.

use rand::RngExt;

use super::{
    anneal::Annealer,
    knapsack::{Item, Knapsack},
};
use crate::schedule::{DAYS, Ix};

/// Horses that are looked at, those of the most worth for their time first: about twice what a day holds.
const HORSES: usize = 24;
/// Chance in what rides are worth, as a share of the heat, so that not the same ones are found each time.
const CHANCE: f64 = 0.5;

impl Annealer<'_> {
    /// Repacks a rider's day. What stood there and does not go in again is put elsewhere, if there is room.
    pub(super) fn repack_day(&mut self, heat: f64) -> bool {
        let rider = self.rng.random_range(0..self.state.week.riders.len());
        let day = self.rng.random_range(0..DAYS as u8);
        if self.offers[rider * DAYS + usize::from(day)].is_empty() {
            return false;
        }
        let mut knapsack = std::mem::take(&mut self.knapsack);
        let mut out = std::mem::take(&mut self.emptied);
        self.empty_day(rider, day, &mut out);
        let (long, short) = self.state.longest_two(rider, day);
        self.look_through(rider, day, long, heat, &mut knapsack);
        knapsack.fill(long, short);
        let early = self.rng.random_bool(0.5);
        for n in 0..knapsack.chosen.len() {
            let other = self.rng.random_range(n..knapsack.chosen.len());
            knapsack.chosen.swap(n, other);
            let w = knapsack.chosen[n];
            if let Some(at) = out.iter().position(|x| *x == w) {
                out.swap_remove(at);
            }
            let slot = self.place_on(w, rider, day, early).or_else(|| self.place_somewhere(w, true));
            self.put.extend(slot);
        }
        for &w in &out {
            self.put_somewhere(w, true);
        }
        self.emptied = out;
        self.knapsack = knapsack;
        true
    }

    /// Takes out what is not fixed of a rider's day, and tells the works.
    fn empty_day(&mut self, rider: Ix, day: u8, out: &mut Vec<Ix>) {
        let mut slots = std::mem::take(&mut self.blocking);
        self.state.day_of(rider, day, &mut slots);
        out.clear();
        for &slot in &slots {
            let p = self.state.take(slot);
            out.push(p.ride.work);
            self.taken.push(p);
        }
        self.blocking = slots;
    }

    /// What could go into the day, by horse.
    fn look_through(&mut self, rider: Ix, day: u8, long: usize, heat: f64, knapsack: &mut Knapsack) {
        knapsack.items.clear();
        knapsack.horses.clear();
        for works in &self.offers[rider * DAYS + usize::from(day)] {
            let from = knapsack.items.len();
            for &(work, cost) in works {
                let units = self.state.length(work);
                let worth = self.state.gain(work) - i64::from(cost);
                if units <= long && worth > 0 && self.lacks(work) && self.state.day_fits(work, day) {
                    knapsack.items.push(Item { work, worth: worth as f32, units });
                }
            }
            if knapsack.items.len() > from {
                knapsack.horses.push((from, knapsack.items.len()));
            }
        }
        for item in &mut knapsack.items {
            item.worth += (CHANCE * heat * super::anneal::gumbel(&mut self.rng)) as f32;
        }
        let items = &knapsack.items;
        let density = |h: &(usize, usize)| {
            items[h.0..h.1].iter().map(|i| i.worth / i.units as f32).fold(f32::NEG_INFINITY, f32::max)
        };
        if knapsack.horses.len() > HORSES {
            knapsack.horses.sort_by(|a, b| density(b).total_cmp(&density(a)));
            knapsack.horses.truncate(HORSES);
        }
    }
}
