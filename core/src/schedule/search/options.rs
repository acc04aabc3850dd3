//! Every way in which a work can be ridden, as far as that can be told before any other ride is there.

use super::{bits, time_grid::TimeGrid};
use crate::schedule::{DAYS, Ix, Ride, WeekProblem};

/// One way to ride a work.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::schedule) struct Choice {
    pub(in crate::schedule) day: u8,
    pub(in crate::schedule) start: u16,
    pub(in crate::schedule) place: u16,
    pub(in crate::schedule) rider: u16,
    pub(in crate::schedule) cost: i32,
}

impl Choice {
    pub(in crate::schedule) fn ride(self, work: Ix) -> Ride {
        Ride { work, day: self.day, start: self.start, place: self.place.into(), rider: self.rider.into() }
    }
}

/// The options of each work, in order of the day.
pub(in crate::schedule) fn choices(week: &WeekProblem) -> Vec<Vec<Choice>> {
    (0..week.works.len()).map(|w| of_work(week, w)).collect()
}

/// The options of a work with one rider in one place on one day: the starts as bits of the day.
#[derive(Debug, Clone)]
pub(in crate::schedule) struct Group {
    pub(in crate::schedule) day: u8,
    pub(in crate::schedule) place: u16,
    pub(in crate::schedule) rider: u16,
    pub(in crate::schedule) cost: i32,
    pub(in crate::schedule) starts: Vec<u64>,
}

/// The options of a work by day, rider and place, the cheapest rider first within each day.
pub(in crate::schedule) fn groups(options: &[Choice], grid: TimeGrid, words: usize) -> Vec<Group> {
    let mut out: Vec<Group> = vec![];
    for c in options {
        let mine = |g: &&mut Group| (g.day, g.place, g.rider) == (c.day, c.place, c.rider);
        let at = grid.at(c.start);
        let group = match out.iter_mut().find(mine) {
            Some(group) => group,
            None => {
                let Choice { day, place, rider, cost, .. } = *c;
                out.push(Group { day, place, rider, cost, starts: vec![0; words] });
                let last = out.len() - 1;
                &mut out[last]
            }
        };
        bits::fill(&mut group.starts, at, at + 1);
    }
    out
}

/// The options of one work.
pub(in crate::schedule) fn of_work(week: &WeekProblem, w: Ix) -> Vec<Choice> {
    let work = &week.works[w];
    let horse = &week.horses[work.horse];
    let eve: u32 =
        week.before.iter().filter(|b| b.day == -1 && week.works[b.work].horse == work.horse).map(|b| b.load).sum();
    let earlier = week.before.iter().filter(|b| b.work == w).map(|b| i16::from(b.day)).max();
    let mut out = vec![];
    if work.load > horse.week || work.worth.is_empty() || horse.most == 0 || work.minutes == 0 {
        return out;
    }
    for day in 0..7_u8 {
        let soon = earlier.is_some_and(|e| i16::from(day) - e < i16::from(work.gap_days));
        let heavy = work.load + if day == 0 { eve } else { 0 } > horse.two_days;
        if soon || heavy || work.cows > week.cows[usize::from(day)] {
            continue;
        }
        let last = (24 * 60_u16).saturating_sub(work.minutes);
        for start in (0..=last).step_by(week.slot_minutes.into()) {
            let away = horse.away.iter().any(|s| s.overlaps(day, start, work.minutes));
            let hot = week.heat.iter().any(|h| work.load > h.most_load && h.span.overlaps(day, start, work.minutes));
            if away || hot {
                continue;
            }
            let fits = |hours: &[crate::schedule::Span]| hours.iter().any(|s| s.holds(day, start, work.minutes));
            for &(rider, cost) in work.riders.iter().filter(|(r, _)| fits(&week.riders[*r].hours)) {
                for &place in
                    work.places.iter().filter(|p| week.places[**p].at_once > 0 && fits(&week.places[**p].hours))
                {
                    out.push(Choice { day, start, place: place as u16, rider: rider as u16, cost: cost as i32 });
                }
            }
        }
    }
    out
}

/// What can be ridden on a rider's day: for each horse its works with what the rider costs.
pub(in crate::schedule) type Offers = Vec<Vec<(Ix, i32)>>;

/// What can be ridden on each rider's day.
pub(in crate::schedule) fn offers(week: &WeekProblem, groups: &[Vec<Group>]) -> Vec<Offers> {
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
