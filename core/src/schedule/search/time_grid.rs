//! The units in which a week's table counts.

use crate::schedule::WeekProblem;

/// The part of a day in which anyone rides, in stretches of equal length.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::schedule) struct TimeGrid {
    /// Minutes after midnight; a multiple of `unit`.
    from: u16,
    to: u16,
    /// Minutes in a unit.
    pub(in crate::schedule) unit: u16,
}

impl TimeGrid {
    /// The unit is the greatest stretch of which every start is a multiple. Lengths need not be: where all rides start on a grid, a
    /// ride that ends between two of its lines keeps out just those that one that ends on the later line does.
    pub(in crate::schedule) fn of(week: &WeekProblem) -> TimeGrid {
        fn gcd(a: u16, b: u16) -> u16 {
            if b == 0 { a } else { gcd(b, a % b) }
        }
        let unit = week.fixed.iter().map(|r| r.start).chain([24 * 60]).fold(week.slot_minutes, gcd).max(1);
        let hours = week.riders.iter().flat_map(|r| &r.hours).map(|s| (s.from, s.to));
        let fixed = week.fixed.iter().map(|r| (r.start, r.start + week.works[r.work].minutes));
        let (from, to) = hours.chain(fixed).fold((24 * 60, 0), |(a, b), (from, to)| (a.min(from), b.max(to)));
        let from = from.min(24 * 60 - unit) / unit * unit;
        TimeGrid { from, to: to.clamp(from + unit, 24 * 60), unit }
    }

    pub(in crate::schedule) fn units(self) -> usize {
        usize::from((self.to - self.from).div_ceil(self.unit))
    }

    /// The unit in which a minute lies.
    pub(in crate::schedule) fn at(self, start: u16) -> usize {
        usize::from(start.saturating_sub(self.from) / self.unit)
    }

    /// The first minute of a unit.
    pub(in crate::schedule) fn start(self, at: usize) -> u16 {
        self.from + at as u16 * self.unit
    }

    /// The units that have any part between two minutes.
    pub(in crate::schedule) fn around(self, from: u16, to: u16) -> (usize, usize) {
        (self.at(from), usize::from(to.saturating_sub(self.from).div_ceil(self.unit)))
    }

    /// The units that lie between two minutes wholly.
    pub(in crate::schedule) fn inside(self, from: u16, to: u16) -> (usize, usize) {
        (usize::from(from.saturating_sub(self.from).div_ceil(self.unit)), self.at(to))
    }
}
