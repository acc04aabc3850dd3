//! Every way in which a work can be ridden, as far as that can be told before any other ride is there.

use super::{Ix, Ride, Week, bits, clock::Clock};

/// One way to ride a work.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Choice {
    pub day: u8,
    pub start: u16,
    pub place: u16,
    pub rider: u16,
    pub cost: i32,
}

impl Choice {
    pub(super) fn ride(self, work: Ix) -> Ride {
        Ride { work, day: self.day, start: self.start, place: self.place.into(), rider: self.rider.into() }
    }
}

/// The ways of each work, in order of the day.
pub(super) fn choices(week: &Week) -> Vec<Vec<Choice>> {
    (0..week.works.len()).map(|w| of_work(week, w)).collect()
}

/// The ways of a work with one rider in one place on one day: the starts as bits of the day.
#[derive(Debug, Clone)]
pub(super) struct Group {
    pub day: u8,
    pub place: u16,
    pub rider: u16,
    pub cost: i32,
    pub starts: Vec<u64>,
}

/// The ways of a work by day, rider and place, the cheapest rider first within each day.
pub(super) fn groups(ways: &[Choice], clock: Clock, words: usize) -> Vec<Group> {
    let mut out: Vec<Group> = vec![];
    for c in ways {
        let mine = |g: &&mut Group| (g.day, g.place, g.rider) == (c.day, c.place, c.rider);
        let at = clock.at(c.start);
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

/// The ways of one work.
pub(super) fn of_work(week: &Week, w: Ix) -> Vec<Choice> {
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
            let fits = |hours: &[super::Span]| hours.iter().any(|s| s.holds(day, start, work.minutes));
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
