//! The great moves: a horse's week rebuilt, what is scarce given out again. A rider's day is repacked in [`super::repack`].

use rand::RngExt;

use super::{
    anneal::{Annealer, Placement},
    one_horse::{self, HorseWeek},
    state::{Placed, Slot},
};
use crate::schedule::{DAYS, Ix};

impl Annealer<'_> {
    /// Rebuilds the whole week of one horse: the best that the others leave it or can be pushed out for. A little chance in what the
    /// days cost keeps it from finding the same one each time.
    pub(super) fn rebuild_horse(&mut self, heat: f64) -> bool {
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
        let mut options: Vec<[Option<Placement>; DAYS]> = vec![Default::default(); works.len()];
        for (n, &w) in works.iter().enumerate() {
            for day in 0..DAYS {
                let Some((cost, way)) = self.placement_on(w, day as u8, push) else { continue };
                let chance = heat * 0.5 * self.gumbel();
                costs[n][day] = Some(cost as f64 - chance);
                options[n][day] = Some(way);
            }
        }
        let fixed = self.state.of_horse[h].iter().map(|&s| self.state.placed(s).ride);
        let horse = &week.horses[h];
        let horse_week = HorseWeek {
            works: works.iter().map(|&w| &week.works[w]).collect(),
            costs,
            fixed: fixed.map(|r| (usize::from(r.day), works.iter().position(|w| *w == r.work))).collect(),
            loads: self.state.loads(h),
            least: horse.least.into(),
            short_cost: self.state.short_cost,
            most: horse.most.into(),
            two_days: horse.two_days,
            week: horse.week,
        };
        let mut out: Vec<Ix> = vec![];
        for (day, w) in one_horse::best_days(&horse_week).into_iter().enumerate() {
            let Some((c, way)) = w.and_then(|n| options[n][day].take()) else { continue };
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
            self.put_somewhere(w, true);
        }
        true
    }

    /// Gives out again what is scarce, by worth and some chance: all cattle work of some days, or all that is ridden in one
    /// place on one of them.
    pub(super) fn redistribute(&mut self, heat: f64) -> bool {
        let cattle = self.has_cattle && self.rng.random_bool(0.5);
        let mut works = if cattle { self.take_cattle() } else { self.take_place() };
        if works.is_empty() {
            return false;
        }
        if cattle {
            let week = self.state.week;
            works.extend(self.open.iter().filter(|w| week.works[**w].cows > 0 && self.lacks(**w)));
        } else {
            works.extend(self.lacking(6));
        }
        let mut by_worth: Vec<(f64, Ix)> = vec![];
        for w in works {
            by_worth.push((self.state.gain(w) as f64 + heat * 2.0 * self.gumbel(), w));
        }
        by_worth.sort_by(|a, b| b.0.total_cmp(&a.0));
        for (_, w) in by_worth {
            let tight = self.rng.random_bool(0.6);
            if self.lacks(w) && !self.put_somewhere(w, tight) && cattle && self.has_cows_for(w) {
                self.force_in(w);
            }
        }
        true
    }

    fn has_cows_for(&self, w: Ix) -> bool {
        let week = self.state.week;
        let fits = |day: usize| self.state.cows[day] + u32::from(week.works[w].cows) <= u32::from(week.cows[day]);
        (0..DAYS).any(fits)
    }

    /// Takes out the cattle work of about half of the days, or of all.
    fn take_cattle(&mut self) -> Vec<Ix> {
        let all = self.rng.random_bool(0.5);
        let mut slots = vec![];
        for day in 0..DAYS {
            if all || self.rng.random_bool(0.5) {
                slots.extend(&self.state.with_cows[day]);
            }
        }
        self.take_all(&slots)
    }

    /// Takes out what is ridden in one place on one day.
    fn take_place(&mut self) -> Vec<Ix> {
        let place = self.rng.random_range(0..self.state.week.places.len());
        let day = self.rng.random_range(0..DAYS);
        let slots = self.state.there[place * DAYS + day].clone();
        self.take_all(&slots)
    }

    /// Takes out all of these that are not fixed.
    fn take_all(&mut self, slots: &[Slot]) -> Vec<Ix> {
        let free: Vec<Slot> = slots.iter().copied().filter(|&s| !self.state.placed(s).fixed).collect();
        free.into_iter().map(|s| self.take_out(s)).collect()
    }
}
