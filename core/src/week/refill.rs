//! A rider's day filled anew: of all that could be ridden in it, the rides that are worth most together. That is a knapsack of its
//! two longest free stretches, of which each horse has at most one ride (dynamic programming over what is left of both; Bellman
//! 1957, memory). Places are not looked at: what finds its place taken is ridden elsewhere.

use rand::RngExt;

use super::{DAYS, Ix, Week, chain::Chain, options::Group};

/// What can be ridden on a rider's day: for each horse its works with what the rider costs.
pub(super) type Offers = Vec<Vec<(Ix, i32)>>;

/// Horses that are looked at, those of the most worth for their time first: about twice what a day holds.
const HORSES: usize = 24;
/// Chance in what rides are worth, as a share of the heat, so that not the same ones are found each time.
const CHANCE: f64 = 0.5;

/// A ride that may go into the day.
#[derive(Clone, Copy)]
struct Item {
    work: Ix,
    worth: f32,
    units: usize,
}

/// Room for the table, kept so that it is not asked for at each move.
#[derive(Default)]
pub(super) struct Sack {
    items: Vec<Item>,
    /// The items of each horse, from and to.
    horses: Vec<(usize, usize)>,
    /// For what is left of both stretches, the most worth with the horses so far, and without the last of them.
    worth: Vec<f32>,
    before: Vec<f32>,
    /// For each horse and what is left: its item, and whether that goes into the shorter stretch.
    pick: Vec<u32>,
    chosen: Vec<Ix>,
    out: Vec<Ix>,
}

/// No ride of this horse.
const NONE: u32 = u32::MAX;

/// What can be ridden on each rider's day.
pub(super) fn offers(week: &Week, groups: &[Vec<Group>]) -> Vec<Offers> {
    let mut by_horse = vec![vec![vec![]; week.horses.len()]; week.riders.len() * DAYS];
    for (w, of) in groups.iter().enumerate() {
        for g in of {
            let list: &mut Vec<(Ix, i32)> =
                &mut by_horse[usize::from(g.rider) * DAYS + usize::from(g.day)][week.works[w].horse];
            // The places of a work follow each other.
            if list.last().is_none_or(|(last, _)| *last != w) {
                list.push((w, g.cost));
            }
        }
    }
    by_horse.into_iter().map(|all| all.into_iter().filter(|works| !works.is_empty()).collect()).collect()
}

impl Chain<'_> {
    /// Fills a rider's day anew. What stood there and does not go in again is put elsewhere, if there is room.
    pub(super) fn refill(&mut self, heat: f64) -> bool {
        let rider = self.rng.random_range(0..self.state.week.riders.len());
        let day = self.rng.random_range(0..DAYS as u8);
        if self.offers[rider * DAYS + usize::from(day)].is_empty() {
            return false;
        }
        let mut sack = std::mem::take(&mut self.sack);
        self.empty_day(rider, day, &mut sack.out);
        let (long, short) = self.state.longest_two(rider, day);
        self.look_through(rider, day, long, heat, &mut sack);
        sack.fill(long, short);
        let early = self.rng.random_bool(0.5);
        for n in 0..sack.chosen.len() {
            let other = self.rng.random_range(n..sack.chosen.len());
            sack.chosen.swap(n, other);
            let w = sack.chosen[n];
            if let Some(at) = sack.out.iter().position(|x| *x == w) {
                sack.out.swap_remove(at);
            }
            let slot = self.place_on(w, rider, day, early).or_else(|| self.place_somewhere(w, true));
            self.put.extend(slot);
        }
        for &w in &sack.out {
            self.put_somewhere(w, true);
        }
        self.sack = sack;
        true
    }

    /// Takes out what is not fixed of a rider's day, and tells the works.
    fn empty_day(&mut self, rider: Ix, day: u8, out: &mut Vec<Ix>) {
        let mut slots = std::mem::take(&mut self.way);
        self.state.day_of(rider, day, &mut slots);
        out.clear();
        for &slot in &slots {
            let p = self.state.take(slot);
            out.push(p.ride.work);
            self.taken.push(p);
        }
        self.way = slots;
    }

    /// What could go into the day, by horse.
    fn look_through(&mut self, rider: Ix, day: u8, long: usize, heat: f64, sack: &mut Sack) {
        sack.items.clear();
        sack.horses.clear();
        for works in &self.offers[rider * DAYS + usize::from(day)] {
            let from = sack.items.len();
            for &(work, cost) in works {
                let units = self.state.length(work);
                let worth = self.state.gain(work) - i64::from(cost);
                if units <= long && worth > 0 && self.lacks(work) && self.state.day_fits(work, day) {
                    sack.items.push(Item { work, worth: worth as f32, units });
                }
            }
            if sack.items.len() > from {
                sack.horses.push((from, sack.items.len()));
            }
        }
        for item in &mut sack.items {
            item.worth += (CHANCE * heat * super::chain::gumbel(&mut self.rng)) as f32;
        }
        let items = &sack.items;
        let density = |h: &(usize, usize)| {
            items[h.0..h.1].iter().map(|i| i.worth / i.units as f32).fold(f32::NEG_INFINITY, f32::max)
        };
        if sack.horses.len() > HORSES {
            sack.horses.sort_by(|a, b| density(b).total_cmp(&density(a)));
            sack.horses.truncate(HORSES);
        }
    }
}

impl Sack {
    /// Chooses what goes into two stretches of so many units.
    fn fill(&mut self, long: usize, short: usize) {
        let wide = short + 1;
        let states = (long + 1) * wide;
        self.worth.clear();
        self.worth.resize(states, 0.0);
        self.pick.clear();
        self.pick.resize(states * self.horses.len(), NONE);
        for (pick, &(from, to)) in self.pick.chunks_exact_mut(states).zip(&self.horses) {
            self.before.clone_from(&self.worth);
            for (n, item) in self.items.iter().enumerate().take(to).skip(from) {
                let (worth, units, name) = (item.worth, item.units, (n as u32) << 1);
                let rest = states - units * wide;
                let to = units * wide;
                better(&mut self.worth[to..], &self.before[..rest], &mut pick[to..], worth, name);
                for row in (0..=long).filter(|_| units <= short).map(|r| r * wide) {
                    let to = row + units..row + wide;
                    let from = row..row + wide - units;
                    better(&mut self.worth[to.clone()], &self.before[from], &mut pick[to], worth, name | 1);
                }
            }
        }
        self.chosen.clear();
        let (mut long, mut short) = (long, short);
        for pick in self.pick.chunks_exact(states).rev() {
            let p = pick[long * wide + short];
            if p != NONE {
                let item = self.items[(p >> 1) as usize];
                let left = if p & 1 == 0 { &mut long } else { &mut short };
                *left -= item.units;
                self.chosen.push(item.work);
            }
        }
    }
}

/// Where something with more beside it is better than what is there, it takes its place.
fn better(worth: &mut [f32], before: &[f32], pick: &mut [u32], more: f32, name: u32) {
    for ((worth, before), pick) in worth.iter_mut().zip(before).zip(pick) {
        let with = before + more;
        if with > *worth {
            *worth = with;
            *pick = name;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The best by trying every way of every item.
    fn by_force(items: &[Item], horses: &[(usize, usize)], long: usize, short: usize) -> f32 {
        let Some((&(from, to), rest)) = horses.split_first() else { return 0.0 };
        let mut best = by_force(items, rest, long, short);
        for i in &items[from..to] {
            if i.units <= long {
                best = best.max(i.worth + by_force(items, rest, long - i.units, short));
            }
            if i.units <= short {
                best = best.max(i.worth + by_force(items, rest, long, short - i.units));
            }
        }
        best
    }

    #[test]
    fn a_day_is_filled_as_well_as_can_be() {
        let mut seed = 1_u32;
        let mut next = |most: u32| {
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            (seed >> 16) % most
        };
        for _ in 0..200 {
            let long = 1 + next(9) as usize;
            let short = next(1 + long as u32) as usize;
            let mut sack = Sack::default();
            for work in 0..6 {
                let from = sack.items.len();
                for _ in 0..=next(2) {
                    let units = 1 + next(4) as usize;
                    if units <= long {
                        sack.items.push(Item { work, worth: (1 + next(20)) as f32, units });
                    }
                }
                if sack.items.len() > from {
                    sack.horses.push((from, sack.items.len()));
                }
            }
            sack.fill(long, short);
            assert_eq!(sack.worth[long * (short + 1) + short], by_force(&sack.items, &sack.horses, long, short));
            let mut once = sack.chosen.clone();
            once.dedup();
            assert_eq!(once.len(), sack.chosen.len(), "each horse once");
        }
    }
}
