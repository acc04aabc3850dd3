//! Where a ride goes: free starts, tight ones first, and what it would push out.

use rand::RngExt;

use super::{
    anneal::{Annealer, CANDIDATES, Placement},
    bits,
    options::{Choice, Group},
    state::{Placed, Slot},
};
use crate::schedule::{DAYS, Ix};

impl Annealer<'_> {
    /// A way to ride a work on a day, with what it costs: free if there is one, else, where others may be pushed out, the one of
    /// a few that loses least.
    pub(super) fn placement_on(&mut self, w: Ix, day: u8, push: bool) -> Option<(i64, Placement)> {
        if self.state.day_fits(w, day) {
            let groups = &self.groups[w];
            let length = self.state.length(w);
            let mut best: Option<(i32, Choice)> = None;
            for group in groups.iter().filter(|g| g.day == day) {
                if best.is_some_and(|b| group.cost >= b.0) || !self.state.has_stretch(group, length) {
                    continue;
                }
                if let Some((_, at)) = self.start_in(w, group, true) {
                    let Group { day, place, rider, cost, .. } = *group;
                    best = Some((cost, Choice { day, start: self.state.grid.start(at), place, rider, cost }));
                }
            }
            if let Some((cost, c)) = best {
                return Some((cost.into(), (c, vec![])));
            }
        }
        if !push {
            return None;
        }
        let options = &self.options[w];
        let (from, to) = (options.partition_point(|c| c.day < day), options.partition_point(|c| c.day <= day));
        let mut best: Option<(i64, Placement)> = None;
        for _ in 0..CANDIDATES.min(to - from) {
            let c = options[self.rng.random_range(from..to)];
            let rng = &mut self.rng;
            if self.state.conflicts(w, c, &mut self.blocking, &mut |n| rng.random_range(0..n)) {
                let lost: i64 = self.blocking.iter().map(|&s| self.state.value(s)).sum();
                let cost = lost + i64::from(c.cost);
                if best.as_ref().is_none_or(|b| cost < b.0) {
                    best = Some((cost, (c, self.blocking.clone())));
                }
            }
        }
        best
    }

    /// Puts a ride of a work on a rider's day, as early as it goes or as late.
    pub(super) fn place_on(&mut self, w: Ix, rider: Ix, day: u8, early: bool) -> Option<Slot> {
        if !self.state.day_fits(w, day) {
            return None;
        }
        let mut best: Option<(usize, Choice)> = None;
        for group in self.groups[w].iter().filter(|g| usize::from(g.rider) == rider && g.day == day) {
            let scratch = &mut self.scratch;
            self.state.free_starts(w, group, &mut scratch.starts, &mut scratch.free);
            let n = bits::count(&scratch.starts);
            let Some(at) = n.checked_sub(1).and_then(|last| bits::nth(&scratch.starts, if early { 0 } else { last }))
            else {
                continue;
            };
            if best.is_none_or(|(b, _)| if early { at < b } else { at > b }) {
                let Group { place, rider, cost, .. } = *group;
                best = Some((at, Choice { day, start: self.state.grid.start(at), place, rider, cost }));
            }
        }
        let c = best.filter(|(_, c)| self.state.gain(w) >= i64::from(c.cost))?.1;
        Some(self.state.put(Placed { ride: c.ride(w), cost: c.cost.into(), fixed: false }))
    }

    /// Puts a ride of a work where it is in nobody's way: the cheapest rider there is, and tight between the rider's other rides
    /// where that is wanted, so that no hole is left.
    pub(super) fn place_somewhere(&mut self, w: Ix, tight: bool) -> Option<Slot> {
        let groups = &self.groups[w];
        if groups.is_empty() {
            return None;
        }
        let fits: [bool; DAYS] = std::array::from_fn(|d| self.state.day_fits(w, d as u8));
        if fits.iter().all(|f| !f) {
            return None;
        }
        let length = self.state.length(w);
        let from = self.rng.random_range(0..groups.len());
        let mut best: Option<(i32, Choice)> = None;
        for k in 0..groups.len() {
            let group = &groups[(from + k) % groups.len()];
            let hopeless = best.is_some_and(|b| 2 - 4 * group.cost <= b.0);
            if hopeless || !fits[usize::from(group.day)] || !self.state.has_stretch(group, length) {
                continue;
            }
            let Some((tidy, at)) = self.start_in(w, group, tight) else { continue };
            let merit = tidy - 4 * group.cost;
            if best.is_none_or(|b| merit > b.0) {
                let Group { day, place, rider, cost, .. } = *group;
                best = Some((merit, Choice { day, start: self.state.grid.start(at), place, rider, cost }));
                if !tight && cost == 0 {
                    break;
                }
            }
        }
        let c = best.filter(|(_, c)| self.state.gain(w) >= i64::from(c.cost))?.1;
        Some(self.state.put(Placed { ride: c.ride(w), cost: c.cost.into(), fixed: false }))
    }

    /// A free start of a group: with both ends touching if there is one, else one end, else any; and how many ends touch.
    pub(super) fn start_in(&mut self, w: Ix, group: &Group, tight: bool) -> Option<(i32, usize)> {
        let scratch = &mut self.scratch;
        self.state.free_starts(w, group, &mut scratch.starts, &mut scratch.free);
        let n = bits::count(&scratch.starts);
        if n == 0 {
            return None;
        }
        if tight {
            bits::touching_before(&scratch.starts, &scratch.free, &mut scratch.before);
            bits::touching_after(&scratch.starts, &scratch.free, self.state.length(w), &mut scratch.after);
            // Both ends, else one: the sets are told apart in place.
            for (before, after) in scratch.before.iter_mut().zip(&mut scratch.after) {
                (*before, *after) = (*before & *after, *before | *after);
            }
            for (tidy, set) in [(2, &scratch.before), (1, &scratch.after)] {
                let n = bits::count(set);
                if n > 0 {
                    return Some((tidy, bits::nth(set, self.rng.random_range(0..n))?));
                }
            }
        }
        Some((0, bits::nth(&scratch.starts, self.rng.random_range(0..n))?))
    }
}
