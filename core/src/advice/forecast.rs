//! When a horse will own a step: a spread of dates, from how fast it learns and how often it is asked.

use chrono::{Days, NaiveDate};

use super::{Standing, Status};
use crate::curriculum::{Side, StepIx};

/// Days of work looked ahead.
const AHEAD: usize = 120;
/// Days over which is counted how often a step is worked.
const LOOK_BACK: u64 = 28;
/// How a stretch of days is likely to hold more or fewer days of work than it did lately: in parts of that, each as likely as the
/// others.
const WORKED: [f64; 7] = [0.4, 0.62, 0.8, 0.95, 1.1, 1.3, 1.65];
/// Days until a step that was not begun is begun, each as likely as the others (common practice, no published source).
const BEGUN_IN: [f64; 5] = [3.0, 9.0, 18.0, 36.0, 90.0];
/// How much sooner the first day at the standard comes than a day on which a horse is there for good, as a share of what is open.
/// Set by hand on logs whose truth is known: what is said at 25 to 75 % then comes true about as often.
const FIRST: f64 = 0.35;
/// No forecast is surer than this: horses go lame, are sold, stand through a wet month.
const SUREST: f64 = 0.97;
/// Days ahead for which a date is looked for.
const DATES: u64 = 400;
/// Days of work a week on a step that is not worked yet, or was not lately (common practice, no published source).
const USUAL_A_WEEK: f64 = 2.5;

/// One in ten, one in two and nine in ten horses like this one own it by these dates; `None` where they do not at all within
/// what is looked ahead.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Spread {
    /// One in ten.
    pub early: Option<NaiveDate>,
    /// One in two.
    pub middle: Option<NaiveDate>,
    /// Nine in ten.
    pub late: Option<NaiveDate>,
}

/// A forecast for one step.
#[derive(Debug, Clone, PartialEq)]
pub struct Forecast {
    /// The step.
    pub step: StepIx,
    /// When every side of it is at its standard.
    pub dates: Spread,
    /// Days of work on it a week that this takes for granted.
    pub a_week: f64,
    /// Probability that the step is owned after 0, 1, 2, … more days of work.
    by_day: Vec<f64>,
    /// Days until it is begun, each as likely as the others.
    begun_in: &'static [f64],
    from: NaiveDate,
}

/// How a forecast moved.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Shift {
    /// The step.
    pub step: StepIx,
    /// Days later than thought; under zero, earlier.
    pub days: i64,
}

impl Forecast {
    /// Probability that the step is owned by a date, 0 to 0.97.
    pub fn by(&self, date: NaiveDate) -> f64 {
        let days = (date - self.from).num_days().max(0) as f64;
        let mut sum = 0.0;
        for begun_in in self.begun_in {
            for more in WORKED {
                sum += self.after((days - begun_in).max(0.0) * self.a_week * more / 7.0);
            }
        }
        let there = sum / (self.begun_in.len() * WORKED.len()) as f64;
        SUREST * (there + FIRST * there * (1.0 - there))
    }

    /// Probability that it is owned after some days of work, and parts of one.
    fn after(&self, worked: f64) -> f64 {
        let last = self.by_day.len() - 1;
        let at = (worked as usize).min(last);
        let part = (worked - at as f64).clamp(0.0, 1.0);
        self.by_day[at] + part * (self.by_day[(at + 1).min(last)] - self.by_day[at])
    }

    fn when(&self, probability: f64) -> Option<NaiveDate> {
        let date = |days: u64| self.from.checked_add_days(Days::new(days));
        let is_by = |days: u64| date(days).is_some_and(|d| self.by(d) >= probability);
        let (mut low, mut high) = (0, DATES);
        if !is_by(high) {
            return None;
        }
        while low < high {
            let middle = (low + high) / 2;
            if is_by(middle) {
                high = middle;
            } else {
                low = middle + 1;
            }
        }
        date(low)
    }
}

/// The forecast for a step that is under way, or open and not tried yet. `None` for one that is owned, or waits for a need.
pub fn forecast(standing: &Standing<'_, '_>, step: StepIx) -> Option<Forecast> {
    if standing.status(step) == Status::Owned || (!standing.is_open(step) && standing.sides(step).is_empty()) {
        return None;
    }
    let sides = standing.course().step(step).sides.list();
    let observer = standing.advisor().observer();
    let paths: Vec<Vec<f64>> = sides.iter().map(|&s| observer.ahead(step, s, standing.on(), AHEAD)).collect();
    let fewest = usize::from(standing.course().step(step).standard_on(standing.on()).days);
    let done = sides.iter().map(|&s| observer.days(step, s) as usize).min().unwrap_or(0);
    let mut best: f64 = 0.0;
    // Owned once is owned: a step that may lose again what it gains by chance is not counted twice. The sides of a horse go
    // together, so that the weaker one decides.
    let by_day = (0..=AHEAD)
        .map(|n| {
            let worst = paths.iter().map(|p| p[n]).fold(1.0, f64::min);
            best = best.max(if done + n < fewest { 0.0 } else { worst });
            best
        })
        .collect();
    let a_week = a_week(standing, step, sides);
    let dates = Spread { early: None, middle: None, late: None };
    let begun_in = if done == 0 { &BEGUN_IN } else { &[0.0][..] };
    let mut f = Forecast { step, dates, a_week, by_day, begun_in, from: standing.on() };
    f.dates = Spread { early: f.when(0.1), middle: f.when(0.5), late: f.when(0.9) };
    Some(f)
}

fn a_week(standing: &Standing<'_, '_>, step: StepIx, sides: &[Side]) -> f64 {
    let from = standing.on().checked_sub_days(Days::new(LOOK_BACK)).unwrap_or(standing.on());
    let lately = |&s: &Side| {
        standing
            .advisor()
            .observer()
            .tallies(step, s)
            .iter()
            .filter(|(date, _)| *date > from && *date <= standing.on())
            .count()
    };
    match sides.iter().map(lately).min().unwrap_or(0) {
        0 => USUAL_A_WEEK,
        n => (n as f64 * 7.0 / LOOK_BACK as f64).max(0.5),
    }
}

/// How far the middle of a forecast moved between two surveys, where it moved by a week or more. Only for what was under way
/// before: what was not begun moves with the calendar alone.
pub fn shift(before: &Standing<'_, '_>, now: &Forecast) -> Option<Shift> {
    if before.sides(now.step).is_empty() {
        return None;
    }
    let then = forecast(before, now.step)?;
    let days = (now.dates.middle? - then.dates.middle?).num_days();
    (days.abs() >= 7).then_some(Shift { step: now.step, days })
}
