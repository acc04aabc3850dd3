use std::collections::BTreeMap;

use cavesson_core::{
    advice::{Advisor, Forecast, HorseRecord, Posture, Standing, forecast, replay_barn},
    belief::ModelSettings,
    curriculum::StepIx,
};
use chrono::{Days, NaiveDate};

use crate::{Family, thumbs};

/// Every so many sessions of a horse its forecasts are asked for.
const EVERY: usize = 4;
/// Weeks ahead that are told apart, with the days up to which a date counts as so far ahead.
const AHEAD: [(u64, i64); 3] = [(2, 28), (6, 63), (12, 126)];

/// How many dates were said whose day came before the log ended, and how many of them the horse kept.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Dates {
    /// Dates said.
    pub said: usize,
    /// Where the horse owned the step by then.
    pub kept: usize,
}

impl Dates {
    fn note(&mut self, kept: bool) {
        self.said += 1;
        self.kept += usize::from(kept);
    }

    /// The share that was kept, 0 to 1.
    pub fn share(self) -> f64 {
        self.kept as f64 / self.said.max(1) as f64
    }
}

/// How one way to say a date did.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct DateFigures {
    /// Of the dates said as one in two.
    pub half: Dates,
    /// Days between the date and the true day, where both came before the log ended.
    misses: Vec<i64>,
}

impl DateFigures {
    /// Half of the dates miss by no more days than this.
    pub fn usual_miss(&self) -> Option<i64> {
        let mut misses = self.misses.clone();
        misses.sort_unstable();
        misses.get(misses.len() / 2).copied()
    }
}

/// A rule of thumb for dates.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Thumb {
    /// As many days as it took half of the barn's other horses.
    BarnMedian,
    /// The straight line through the shares of the last three weeks.
    StraightLine,
}

/// How the forecasts did for steps that are begun, or for those that are not, so far ahead.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct ForecastFigures {
    /// Whether the steps had been ridden.
    pub begun: bool,
    /// Weeks ahead.
    pub weeks: u64,
    /// Of the dates said as one in ten.
    pub early: Dates,
    /// Of the dates said as one in two.
    pub middle: DateFigures,
    /// Of the dates said as nine in ten.
    pub late: Dates,
    /// Of the answers of 60 to 80 % to "will it own this by then".
    pub likely: Dates,
    /// The rules of thumb.
    pub thumbs: BTreeMap<Thumb, DateFigures>,
}

/// A forecast that was asked for.
struct Asked {
    begun: bool,
    on: NaiveDate,
    end: NaiveDate,
    /// The true day, if it came.
    came: Option<NaiveDate>,
}

impl Asked {
    /// Whether the step was owned by a date; nothing where the log ended before.
    fn kept(&self, by: NaiveDate) -> Option<bool> {
        (by <= self.end).then(|| self.came.is_some_and(|came| came <= by))
    }
}

fn bucket(days: i64) -> Option<usize> {
    AHEAD.iter().position(|(_, most)| days <= *most).filter(|_| days > 0)
}

impl DateFigures {
    fn note(&mut self, asked: &Asked, date: NaiveDate) {
        let Some(kept) = asked.kept(date) else { return };
        self.half.note(kept);
        self.misses.extend(asked.came.map(|came| (came - date).num_days().abs()));
    }
}

/// Takes families through their weeks, asks for forecasts on the way, and holds them against the truth: begun and unbegun steps
/// apart, two, six and twelve weeks ahead.
pub fn forecasts(families: &[Family], settings: &ModelSettings) -> Vec<ForecastFigures> {
    let mut out: Vec<ForecastFigures> = [true, false]
        .iter()
        .flat_map(|&begun| {
            AHEAD.iter().map(move |&(weeks, _)| ForecastFigures { begun, weeks, ..ForecastFigures::default() })
        })
        .collect();
    for family in families {
        let took: Vec<Vec<(StepIx, i64)>> = (0..family.herd.horses.len()).map(|h| days_to_own(family, h)).collect();
        let advisor = Advisor::new(&family.herd.course, Posture::Steady, *settings);
        let records = family.herd.horses.iter().map(|h| HorseRecord { follower: advisor.clone(), days: &h.days[..] });
        replay_barn(settings, &mut records.collect::<Vec<_>>(), |horse, session, advisor| {
            if session % EVERY != EVERY - 1 {
                return;
            }
            let standing = advisor.standing(family.herd.horses[horse].days[session].date);
            for step in 0..family.herd.course.steps().len() {
                let Some(said) = forecast(&standing, step) else { continue };
                let asked = asked(family, horse, session, step, &standing);
                note(&mut out, &asked, &said);
                let thumbs = [
                    (Thumb::BarnMedian, barn_median(family, &took, horse, step, &asked)),
                    (Thumb::StraightLine, thumbs::straight_line(family, horse, session, step)),
                ];
                note_thumbs(&mut out, &asked, thumbs);
            }
        });
    }
    out
}

fn asked(family: &Family, horse: usize, session: usize, step: StepIx, standing: &Standing<'_, '_>) -> Asked {
    let days = &family.herd.horses[horse].days;
    let wanted = family.standard(step);
    let first = |shares: &[Option<f64>]| (session..shares.len()).find(|&s| shares[s].is_some_and(|x| x >= wanted));
    let sides = family.herd.course.step(step).sides.list();
    let came: Option<Vec<usize>> = sides.iter().map(|&side| first(family.truth(horse, step, side))).collect();
    Asked {
        begun: !standing.sides(step).is_empty(),
        on: days[session].date,
        end: days[days.len() - 1].date,
        came: came.and_then(|c| c.into_iter().max()).map(|s| days[s].date),
    }
}

fn note(out: &mut [ForecastFigures], asked: &Asked, said: &Forecast) {
    let rows = out.iter_mut().filter(|f| f.begun == asked.begun);
    for (at, row) in rows.enumerate() {
        let here = |date: &NaiveDate| bucket((*date - asked.on).num_days()) == Some(at);
        if let Some(kept) = said.dates.early.filter(here).and_then(|d| asked.kept(d)) {
            row.early.note(kept);
        }
        if let Some(date) = said.dates.middle.filter(here) {
            row.middle.note(asked, date);
        }
        if let Some(kept) = said.dates.late.filter(here).and_then(|d| asked.kept(d)) {
            row.late.note(kept);
        }
        let target = asked.on + Days::new(7 * row.weeks);
        if let Some(kept) = asked.kept(target).filter(|_| (0.6..0.8).contains(&said.by(target))) {
            row.likely.note(kept);
        }
    }
}

fn note_thumbs(out: &mut [ForecastFigures], asked: &Asked, thumbs: [(Thumb, Option<NaiveDate>); 2]) {
    for (thumb, date) in thumbs {
        let Some((date, at)) = date.and_then(|d| Some((d, bucket((d - asked.on).num_days())?))) else { continue };
        if let Some(row) = out.iter_mut().filter(|f| f.begun == asked.begun).nth(at) {
            row.thumbs.entry(thumb).or_default().note(asked, date);
        }
    }
}

/// For each step that a horse came to own: the days from the first ride of it.
fn days_to_own(family: &Family, horse: usize) -> Vec<(StepIx, i64)> {
    let days = &family.herd.horses[horse].days;
    let steps = 0..family.herd.course.steps().len();
    steps
        .filter_map(|step| {
            let wanted = family.standard(step);
            let sides: Option<Vec<(usize, usize)>> = (family.herd.course.step(step).sides.list().iter())
                .map(|&side| {
                    let shares = family.truth(horse, step, side);
                    let begun = shares.iter().position(Option::is_some)?;
                    Some((begun, shares.iter().position(|s| s.is_some_and(|s| s >= wanted))?))
                })
                .collect();
            let sides = sides?;
            let (begun, owned) = (sides.iter().map(|s| s.0).min()?, sides.iter().map(|s| s.1).max()?);
            Some((step, (days[owned].date - days[begun].date).num_days()))
        })
        .collect()
}

/// The day by which half of the other horses that came to own the step did, counted from the first ride of it, or from today.
fn barn_median(
    family: &Family,
    took: &[Vec<(StepIx, i64)>],
    horse: usize,
    step: StepIx,
    asked: &Asked,
) -> Option<NaiveDate> {
    let others = took.iter().enumerate().filter(|(h, _)| *h != horse).flat_map(|(_, t)| t);
    let mut days: Vec<i64> = others.filter(|(s, _)| *s == step).map(|(_, days)| *days).collect();
    days.sort_unstable();
    let middle = *days.get(days.len() / 2)?;
    let sides = family.herd.course.step(step).sides.list();
    let begun = sides.iter().filter_map(|&side| family.ridden(horse, step, side).first().copied()).min();
    let from = begun.map(|s| family.herd.horses[horse].days[s].date).filter(|_| asked.begun).unwrap_or(asked.on);
    // What should have come by now is said for tomorrow.
    Some((from + chrono::TimeDelta::days(middle)).max(asked.on + Days::new(1)))
}
