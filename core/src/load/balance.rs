//! What a horse did, week by week, over months.

use std::collections::BTreeSet;

use chrono::{Days, NaiveDate};

use super::{GaitMinutes, LoadWeek};

/// From this monotony on days are too much alike: illness follows more often (Foster 1998; memory).
pub const TOO_MUCH_ALIKE: f64 = 2.0;

/// A ride that was ridden.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct LoggedRide {
    /// When.
    pub on: NaiveDate,
    /// Minutes by gait.
    pub minutes: GaitMinutes,
    /// Whether it was out of the pen.
    pub out: bool,
}

/// A week of a horse.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct WeekSummary {
    /// Days on which the horse was here, 0 to 7.
    pub here: u32,
    /// Rides.
    pub rides: u32,
    /// Of those, how many were out of the pen.
    pub out: u32,
    /// Load: minutes × intensity.
    pub load: u32,
    /// [`LoadWeek::monotony`].
    pub monotony: Option<f64>,
    /// [`LoadWeek::strain`].
    pub strain: Option<f64>,
}

impl WeekSummary {
    /// Whether its days were too much alike.
    pub fn too_much_alike(self) -> bool {
        self.monotony.is_some_and(|m| m >= TOO_MUCH_ALIKE)
    }

    /// Whether the rides that were agreed on were ridden: of a horse that was away, one for each day that it was here at the most.
    ///
    /// ```
    /// use cavesson_core::load::WeekSummary;
    /// let week = WeekSummary { here: 2, rides: 2, ..WeekSummary::default() };
    /// assert!(week.kept(4), "away for five days, it is asked for one ride a day at the most");
    /// ```
    pub fn kept(self, least: u8) -> bool {
        self.rides >= u32::from(least).min(self.here)
    }
}

/// Weeks from a Monday on, each with the rides of its seven days; `away` are whole days on which the horse was not here. What lies
/// outside of them is passed over.
pub fn weeks(monday: NaiveDate, number: usize, rides: &[LoggedRide], away: &BTreeSet<NaiveDate>) -> Vec<WeekSummary> {
    let mut days = vec![LoadWeek::default(); number];
    let mut out = vec![WeekSummary { here: 7, ..WeekSummary::default() }; number];
    let place = |on: NaiveDate| {
        let at = usize::try_from((on - monday).num_days()).ok()?;
        (at / 7 < number).then_some((at / 7, at % 7))
    };
    for (week, _) in away.iter().filter_map(|&on| place(on)) {
        out[week].here -= 1;
    }
    for ride in rides {
        let Some((week, day)) = place(ride.on) else { continue };
        let day = &mut days[week].days[day];
        *day = day.and(ride.minutes);
        out[week].rides += 1;
        out[week].out += u32::from(ride.out);
    }
    for (sum, week) in out.iter_mut().zip(&days) {
        (sum.load, sum.monotony, sum.strain) = (week.load(), week.monotony(), week.strain());
    }
    out
}

/// The Mondays of weeks up to that of a day, oldest first.
///
/// ```
/// use cavesson_core::load::mondays;
/// let weeks = mondays("2026-03-05".parse().unwrap(), 2);
/// assert_eq!(weeks.iter().map(ToString::to_string).collect::<Vec<_>>(), ["2026-02-23", "2026-03-02"]);
/// ```
pub fn mondays(last: NaiveDate, number: usize) -> Vec<NaiveDate> {
    let last = last.week(chrono::Weekday::Mon).first_day();
    (0..number as u64).rev().map(|n| last - Days::new(7 * n)).collect()
}
