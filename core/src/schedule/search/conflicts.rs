//! What is in the way of a ride.

use super::{
    bits,
    options::{Choice, Group},
    state::{NONE, Placed, Slot, State},
};
use crate::schedule::{DAYS, Ix, Ride};

/// How many starts of a group of options are kept from being ridden, and by what.
#[derive(Debug, Clone, Copy, Default)]
pub(in crate::schedule) struct StartsBy {
    /// Those at which the rider is on another horse.
    pub(in crate::schedule) rider: u32,
    /// Those at which the rider is free and the place is full.
    pub(in crate::schedule) place: u32,
    /// Those at which both are free.
    pub(in crate::schedule) free: u32,
}

impl State<'_> {
    /// Counts the starts of a group by what is in their way.
    pub(in crate::schedule) fn count_starts(&self, w: Ix, group: &Group) -> StartsBy {
        let rider = (usize::from(group.rider) * DAYS + usize::from(group.day)) * self.words;
        let place = (usize::from(group.place) * DAYS + usize::from(group.day)) * self.words;
        let free = |taken: &[u64]| {
            let mut free: Vec<u64> = taken.iter().map(|t| !t).collect();
            bits::runs(&mut free, self.length(w));
            free
        };
        let (riders, places) =
            (free(&self.busy[rider..rider + self.words]), free(&self.full[place..place + self.words]));
        let mut by = StartsBy::default();
        for ((starts, rider), place) in group.starts.iter().zip(riders).zip(places) {
            by.rider += (starts & !rider).count_ones();
            by.place += (starts & rider & !place).count_ones();
            by.free += (starts & rider & place).count_ones();
        }
        by
    }

    /// The rides that would have to go for it, and false where one of them is fixed. `pick` chooses among several that would do.
    pub(super) fn conflicts(
        &self,
        w: Ix,
        c: Choice,
        out: &mut Vec<Slot>,
        pick: &mut impl FnMut(usize) -> usize,
    ) -> bool {
        out.clear();
        let ride = c.ride(w);
        let work = &self.week.works[w];
        let (h, d) = (work.horse, usize::from(c.day));
        let horse = &self.week.horses[h];
        let add = |slot: Slot, out: &mut Vec<Slot>| {
            if !out.contains(&slot) {
                out.push(slot);
            }
        };
        for &slot in &self.on_day[h * DAYS + d] {
            add(slot, out);
        }
        for &slot in self.riders[self.units_of(ride.rider, ride)].iter().filter(|s| **s != NONE) {
            add(slot, out);
        }
        for &slot in &self.of_work[w] {
            if self.placed(slot).ride.day.abs_diff(c.day) < work.gap_days {
                add(slot, out);
            }
        }
        for side in [d.checked_sub(1), Some(d + 1).filter(|n| *n < DAYS)].into_iter().flatten() {
            if self.load[h][side] + work.load > horse.two_days {
                for &slot in &self.on_day[h * DAYS + side] {
                    add(slot, out);
                }
            }
        }
        let gone = |out: &[Slot], of: &dyn Fn(&Placed) -> bool| out.iter().filter(|s| of(&self.placed(**s))).count();
        // Something else of this work, of this horse, in the place, of the cows, until there is room.
        while self.of_work[w].len() + 1 - gone(out, &|p| p.ride.work == w) > work.worth.len() {
            if !self.one_more(&self.of_work[w], out, pick) {
                return false;
            }
        }
        let mine = |p: &Placed| self.week.works[p.ride.work].horse == h;
        while self.of_horse[h].len() + 1 - gone(out, &mine) > usize::from(horse.most) {
            if !self.one_more(&self.of_horse[h], out, pick) {
                return false;
            }
        }
        let left = |out: &[Slot]| {
            let gone: u32 = out
                .iter()
                .map(|s| self.placed(*s).ride)
                .filter(|r| self.week.works[r.work].horse == h)
                .map(|r| self.week.works[r.work].load)
                .sum();
            self.load[h].iter().sum::<u32>() - gone
        };
        while left(out) + work.load > horse.week {
            if !self.one_more(&self.of_horse[h], out, pick) {
                return false;
            }
        }
        if !self.room_in_place(ride, out, pick) {
            return false;
        }
        let cows = |out: &[Slot]| {
            let gone: u32 = out
                .iter()
                .map(|s| self.placed(*s).ride)
                .filter(|r| r.day == c.day)
                .map(|r| u32::from(self.week.works[r.work].cows))
                .sum();
            self.cows[d] - gone
        };
        while work.cows > 0 && cows(out) + u32::from(work.cows) > u32::from(self.week.cows[d]) {
            if !self.one_more(&self.with_cows[d], out, pick) {
                return false;
            }
        }
        !out.iter().any(|s| self.placed(*s).fixed)
    }

    fn room_in_place(&self, ride: Ride, out: &mut Vec<Slot>, pick: &mut impl FnMut(usize) -> usize) -> bool {
        let at_once = self.week.places[ride.place].at_once;
        let (from, to) = self.stretch(ride);
        let place = (ride.place * DAYS + usize::from(ride.day)) * self.words;
        if !bits::any(&self.full[place..place + self.words], from, to) {
            return true;
        }
        // Those that overlap it, with the stretches they take up.
        let there = &self.there[ride.place * DAYS + usize::from(ride.day)];
        let stretch = |s: &Slot| self.stretch(self.placed(*s).ride);
        let near: Vec<(Slot, (usize, usize))> =
            there.iter().map(|s| (*s, stretch(s))).filter(|(_, (a, b))| *a < to && from < *b).collect();
        for at in (from..to).filter(|&at| bits::any(&self.full[place..place + self.words], at, at + 1)) {
            loop {
                let here = near.iter().filter(|(s, (a, b))| (*a..*b).contains(&at) && !out.contains(s));
                if here.clone().count() < usize::from(at_once) {
                    break;
                }
                let free: Vec<Slot> = here.map(|(s, _)| *s).filter(|s| !self.placed(*s).fixed).collect();
                if free.is_empty() {
                    return false;
                }
                out.push(free[pick(free.len())]);
            }
        }
        true
    }

    /// Adds one of these rides that is not among them yet and not fixed.
    fn one_more(&self, of: &[Slot], out: &mut Vec<Slot>, pick: &mut impl FnMut(usize) -> usize) -> bool {
        let n = of.len();
        let from = if n == 0 { 0 } else { pick(n) };
        let next = (0..n).map(|k| of[(from + k) % n]).find(|s| !out.contains(s) && !self.placed(*s).fixed);
        next.is_some_and(|slot| {
            out.push(slot);
            true
        })
    }
}
