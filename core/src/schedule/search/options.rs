//! Every way in which a work can be ridden, as far as that can be told before any other ride is there.

use std::collections::BTreeMap;

use super::{bits, time_grid::TimeGrid};
use crate::schedule::{DAYS, Ix, Ride, Span, WeekProblem};

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

/// The options of a work with one rider in one place on one day: the starts as bits of the day.
#[derive(Debug, Clone)]
pub(in crate::schedule) struct Group {
    pub(in crate::schedule) day: u8,
    pub(in crate::schedule) place: u16,
    pub(in crate::schedule) rider: u16,
    pub(in crate::schedule) cost: i32,
    pub(in crate::schedule) starts: Vec<u64>,
}

/// The hours of a week, from which the options of its works are made.
#[derive(Debug)]
pub(in crate::schedule) struct Hours<'w> {
    week: &'w WeekProblem,
    grid: TimeGrid,
    /// By the minutes of a ride.
    within: BTreeMap<u16, Within>,
}

/// The starts at which a ride of so many minutes is within the hours, of each rider and of each place, by day.
#[derive(Debug)]
struct Within {
    riders: Vec<Vec<u64>>,
    places: Vec<Vec<u64>>,
}

impl<'w> Hours<'w> {
    pub(in crate::schedule) fn of(week: &'w WeekProblem) -> Hours<'w> {
        Hours { week, grid: TimeGrid::of(week), within: BTreeMap::new() }
    }

    /// The options of a work by day, rider and place, in the order of its riders and places within each day.
    pub(in crate::schedule) fn groups(&mut self, w: Ix) -> Vec<Group> {
        let (week, grid) = (self.week, self.grid);
        let work = &week.works[w];
        let within = self.within.entry(work.minutes).or_insert_with(|| Within::of(week, grid, work.minutes));
        let mut out = vec![];
        for day in (0..DAYS as u8).filter(|&day| may_be_on(week, w, day)) {
            let at = |ix: Ix| ix * DAYS + usize::from(day);
            let fit = fit(week, grid, w, day);
            for &(rider, cost) in &work.riders {
                let by_rider: Vec<u64> = both(&fit, &within.riders[at(rider)]).collect();
                if by_rider.iter().all(|word| *word == 0) {
                    continue;
                }
                for &place in work.places.iter().filter(|p| week.places[**p].at_once > 0) {
                    let starts: Vec<u64> = both(&by_rider, &within.places[at(place)]).collect();
                    if starts.iter().any(|word| *word > 0) {
                        let (place, rider, cost) = (place as u16, rider as u16, cost as i32);
                        out.push(Group { day, place, rider, cost, starts });
                    }
                }
            }
        }
        out
    }

    /// The options of every work, one by one and in groups.
    pub(in crate::schedule) fn options(mut self) -> (Vec<Vec<Choice>>, Vec<Vec<Group>>) {
        let groups: Vec<Vec<Group>> = (0..self.week.works.len()).map(|w| self.groups(w)).collect();
        (groups.iter().map(|of_work| choices(of_work, self.grid)).collect(), groups)
    }
}

impl Within {
    fn of(week: &WeekProblem, grid: TimeGrid, minutes: u16) -> Within {
        let starts = |hours: &[Span], day: u8| {
            let holds = |start| hours.iter().any(|s| s.holds(day, start, minutes));
            starts(week, grid, minutes, holds)
        };
        let by_day = |hours: &[Span]| (0..DAYS as u8).map(|day| starts(hours, day)).collect::<Vec<_>>();
        Within {
            riders: week.riders.iter().flat_map(|r| by_day(&r.hours)).collect(),
            places: week.places.iter().flat_map(|p| by_day(&p.hours)).collect(),
        }
    }
}

/// The starts of a day at which a ride of so many minutes can be, as bits.
fn starts(week: &WeekProblem, grid: TimeGrid, minutes: u16, can_be: impl Fn(u16) -> bool) -> Vec<u64> {
    let mut out = vec![0; grid.units().div_ceil(64)];
    let is_start = |start: u16| start.is_multiple_of(week.slot_minutes) && start + minutes <= 24 * 60;
    for at in (0..grid.units()).filter(|&at| is_start(grid.start(at)) && can_be(grid.start(at))) {
        bits::fill(&mut out, at, at + 1);
    }
    out
}

fn both<'b>(a: &'b [u64], b: &'b [u64]) -> impl Iterator<Item = u64> + 'b {
    a.iter().zip(b).map(|(a, b)| a & b)
}

/// Whether a work can be on a day at all, before anything else is there.
fn may_be_on(week: &WeekProblem, w: Ix, day: u8) -> bool {
    let work = &week.works[w];
    let horse = &week.horses[work.horse];
    if work.load > horse.week || work.worth.is_empty() || horse.most == 0 || work.minutes == 0 {
        return false;
    }
    let eve: u32 =
        week.before.iter().filter(|b| b.day == -1 && week.works[b.work].horse == work.horse).map(|b| b.load).sum();
    let earlier = week.before.iter().filter(|b| b.work == w).map(|b| i16::from(b.day)).max();
    let soon = earlier.is_some_and(|e| i16::from(day) - e < i16::from(work.gap_days));
    let heavy = work.load + if day == 0 { eve } else { 0 } > horse.two_days;
    !soon && !heavy && work.cows <= week.cows[usize::from(day)]
}

/// The starts of a work on a day at which its horse is there and it is not too hot for it.
fn fit(week: &WeekProblem, grid: TimeGrid, w: Ix, day: u8) -> Vec<u64> {
    let work = &week.works[w];
    let is_away = |start| week.horses[work.horse].away.iter().any(|s| s.overlaps(day, start, work.minutes));
    let is_hot = |start| week.heat.iter().any(|h| work.load > h.most_load && h.span.overlaps(day, start, work.minutes));
    starts(week, grid, work.minutes, |start| !is_away(start) && !is_hot(start))
}

/// The options of groups one by one: in order of the day and its hours, and then as the groups are.
fn choices(groups: &[Group], grid: TimeGrid) -> Vec<Choice> {
    let mut out = vec![];
    for of_day in groups.chunk_by(|a, b| a.day == b.day) {
        for at in 0..grid.units() {
            for g in of_day.iter().filter(|g| bits::any(&g.starts, at, at + 1)) {
                let Group { day, place, rider, cost, .. } = *g;
                out.push(Choice { day, start: grid.start(at), place, rider, cost });
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
