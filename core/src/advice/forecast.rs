//! When a horse will own a step: a spread of dates, from how fast it learns and how often it is asked.

use std::collections::BTreeMap;

use chrono::{Days, NaiveDate};

use super::{Standing, Status};
use crate::curriculum::{Side, StepIx};

/// Days of work looked ahead.
const AHEAD: usize = 120;
/// Days over which is counted how often a step is worked.
const LOOK_BACK: i64 = 28;
/// How a stretch of days is likely to hold more or fewer days of work than it did lately: in parts of that, each as likely as the
/// others.
const WORKED: [f64; 7] = [0.4, 0.62, 0.8, 0.95, 1.1, 1.3, 1.65];
/// Days until a step that was not begun is begun, each as likely as the others (common practice, no published source).
const BEGUN_IN: [f64; 5] = [2.0, 6.0, 12.0, 27.0, 80.0];
/// Days until a step is begun once what it waited for is owned: sooner than one that was open for a while and left.
const BEGUN_AFTER: [f64; 5] = [0.0, 1.0, 3.0, 8.0, 25.0];
/// What is said of a step that is begun is held nearer to even than the model has it, as a power of the odds: a new horse differs from
/// those that it was made on. Set by hand on herds and logs whose truth is known: what is said at 10, 50 and 90 % then comes true
/// about as often.
const HELD_BACK: f64 = 0.92;
/// No forecast is surer than this: horses go lame, are sold, stand through a wet month.
const SUREST: f64 = 0.95;
/// Days ahead for which a date is looked for.
const DATES: u64 = 400;
/// Days of work a week on a step that is not worked yet, or was not lately (common practice, no published source).
const USUAL_A_WEEK: f64 = 2.5;
/// How many days of work that counts for, beside those that a step has.
const USUAL_DAYS: f64 = 1.0;

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
    /// Days until it is begun, each as likely as the others; without end where what it needs may never be owned.
    begun_in: Vec<f64>,
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
    /// Probability that the step is owned by a date, 0 to 0.95.
    pub fn by(&self, date: NaiveDate) -> f64 {
        let days = (date - self.from).num_days().max(0) as f64;
        let mut sum = 0.0;
        for begun_in in &self.begun_in {
            for more in WORKED {
                sum += self.after((days - begun_in).max(0.0) * self.a_week * more / 7.0);
            }
        }
        let there = sum / (self.begun_in.len() * WORKED.len()) as f64;
        if self.is_begun() {
            let odds = (there / (1.0 - there).max(f64::EPSILON)).powf(HELD_BACK);
            return SUREST * odds / (1.0 + odds);
        }
        SUREST * there
    }

    fn is_begun(&self) -> bool {
        self.begun_in.len() == 1
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

/// The forecast for a step that is under way, is open and not tried yet, or waits for needs that are one or the other. `None` for one
/// that is owned, and for one further off: there it is too early to say.
pub fn forecast(standing: &Standing<'_, '_>, step: StepIx) -> Option<Forecast> {
    standing.forecast_once(step, || worked_out(standing, step))
}

fn worked_out(standing: &Standing<'_, '_>, step: StepIx) -> Option<Forecast> {
    let begun_in = begun_in(standing, step)?;
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
    let mut f = Forecast { step, dates, a_week, by_day, begun_in, from: standing.on() };
    f.dates = Spread { early: f.when(0.1), middle: f.when(0.5), late: f.when(0.9) };
    Some(f)
}

/// Days until a step is begun, each as likely as the others.
fn begun_in(standing: &Standing<'_, '_>, step: StepIx) -> Option<Vec<f64>> {
    if standing.status(step) == Status::Owned {
        return None;
    }
    if !standing.sides(step).is_empty() {
        return Some(vec![0.0]);
    }
    if standing.is_open(step) {
        return Some(BEGUN_IN.to_vec());
    }
    let open = standing.waits_for(step);
    let needs: Option<Vec<Forecast>> = open
        .iter()
        .map(|&need| {
            let near = standing.is_open(need) || !standing.sides(need).is_empty();
            if near { forecast(standing, need) } else { None }
        })
        .collect();
    let needs = needs?;
    // The needs of a horse go together, as its sides do: the weakest decides.
    let owned = |share: f64| {
        let each = needs.iter().map(|need| need.when(share).map(|date| (date - need.from).num_days() as f64));
        each.map(|days| days.unwrap_or(f64::INFINITY)).fold(0.0, f64::max)
    };
    let fifths = [0.1, 0.3, 0.5, 0.7, 0.9].map(owned);
    Some(fifths.iter().flat_map(|wait| BEGUN_AFTER.map(|begun| wait + begun)).collect())
}

/// Days of work a week on a step: as it was worked lately, or since it was begun, beside the usual.
fn a_week(standing: &Standing<'_, '_>, step: StepIx, sides: &[Side]) -> f64 {
    let observer = standing.advisor().observer();
    let ago = |date: NaiveDate| (standing.on() - date).num_days();
    let lately = |&side: &Side| {
        let tallies = observer.tallies(step, side);
        let begun = tallies.first().map_or(0, |t| ago(t.0) + 1).min(LOOK_BACK);
        let lately = tallies.iter().rev().map(|t| ago(t.0)).take_while(|ago| *ago < LOOK_BACK);
        let worked = lately.filter(|ago| *ago >= 0).count();
        7.0 * (worked as f64 + USUAL_DAYS) / (begun as f64 + 7.0 * USUAL_DAYS / USUAL_A_WEEK)
    };
    sides.iter().map(lately).fold(f64::INFINITY, f64::min)
}

/// What was foreseen on an earlier day of the steps that were under way: what was not begun moves with the calendar alone.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct EarlierForecast {
    on: NaiveDate,
    /// The date by which one in two horses like this one owns a step.
    middles: BTreeMap<StepIx, NaiveDate>,
}

impl EarlierForecast {
    /// As it was foreseen in a standing.
    pub fn of(standing: &Standing<'_, '_>) -> EarlierForecast {
        let begun = (0..standing.course().steps().len()).filter(|&ix| !standing.sides(ix).is_empty());
        let middles = begun.filter_map(|ix| Some((ix, forecast(standing, ix)?.dates.middle?)));
        EarlierForecast { on: standing.on(), middles: middles.collect() }
    }
}

/// How far the middle of a forecast moved since an earlier one, where it moved by a week or more.
pub fn shift(before: &EarlierForecast, now: &Forecast) -> Option<Shift> {
    let days = (now.dates.middle? - *before.middles.get(&now.step)?).num_days();
    (days.abs() >= 7).then_some(Shift { step: now.step, days })
}
