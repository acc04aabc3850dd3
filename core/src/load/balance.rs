//! What a horse did, week by week, over months.

use chrono::{Days, NaiveDate};

use super::{Minutes, Week};

/// A ride that was ridden.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Done {
    /// When.
    pub on: NaiveDate,
    /// Minutes by gait.
    pub minutes: Minutes,
    /// Whether it was out of the pen.
    pub out: bool,
}

/// A week of a horse.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct WeekSum {
    /// Rides.
    pub rides: u32,
    /// Of those, how many were out of the pen.
    pub out: u32,
    /// Load: minutes × intensity.
    pub load: u32,
    /// [`Week::monotony`].
    pub monotony: Option<f64>,
    /// [`Week::strain`].
    pub strain: Option<f64>,
}

impl WeekSum {
    /// Whether the rides that were agreed on were ridden.
    pub const fn kept(self, least: u8) -> bool {
        self.rides >= least as u32
    }
}

/// Weeks from a Monday on, each with the rides of its seven days. Rides outside of them are passed over.
pub fn weeks(monday: NaiveDate, number: usize, rides: &[Done]) -> Vec<WeekSum> {
    let mut days = vec![Week::default(); number];
    let mut out = vec![WeekSum::default(); number];
    for ride in rides {
        let at = (ride.on - monday).num_days();
        let Some(week) = usize::try_from(at).ok().map(|d| d / 7).filter(|w| *w < number) else { continue };
        let day = &mut days[week].days[at as usize % 7];
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
pub fn mondays(last: NaiveDate, number: usize) -> Vec<NaiveDate> {
    let last = last.week(chrono::Weekday::Mon).first_day();
    (0..number as u64).rev().map(|n| last - Days::new(7 * n)).collect()
}
