//! Pain before training: one side falls off at once, on rungs that share nothing else.

use std::collections::BTreeMap;

use chrono::NaiveDate;

use crate::{
    curriculum::{Course, Side, StepIx},
    words::words,
};

/// How one day on one side went against what was foreseen.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Residual {
    pub date: NaiveDate,
    pub step: StepIx,
    pub side: Side,
    /// Share met over the share foreseen, in standard deviations.
    pub z: f64,
    pub met: u32,
    pub reps: u32,
    pub foreseen: f64,
}

words! {
    "a care change";
    /// What was changed on a horse and may hurt it.
    pub enum CareChange {
        /// Shod or trimmed.
        Shoes,
        /// A bit that was not ridden in before.
        Bit,
        /// A saddle that was not ridden in before.
        Saddle,
        /// The teeth were seen to.
        Teeth,
    }
}

impl CareChange {
    /// In a sentence: `new shoes`.
    pub const fn phrase(self) -> &'static str {
        match self {
            CareChange::Shoes => "new shoes or a trim",
            CareChange::Bit => "a change of bit",
            CareChange::Saddle => "a change of saddle",
            CareChange::Teeth => "work on the teeth",
        }
    }

    /// Who is asked first.
    pub const fn ask(self) -> &'static str {
        match self {
            CareChange::Shoes => "farrier",
            CareChange::Bit | CareChange::Teeth => "dentist",
            CareChange::Saddle => "saddler",
        }
    }
}

/// Days after a change within which a loss is told with it (common practice, no published source).
const AFTER_CHANGE: i64 = 14;
/// Days off after which a loss is told with them (common practice, no published source).
const LAY_OFF: i64 = 14;

/// Days with rides over which a fall counts as sudden.
pub(super) const SUDDEN_DAYS: usize = 4;
/// A rung counts as fallen from here on.
const FALLEN: f64 = -1.0;
/// A loss on one side must be at least this likely,
const LOST: f64 = 0.75;
/// and this unlikely before the sudden days: what was lost by and by is no pain of today.
const BEFORE: f64 = 0.4;

/// A rung that fell.
#[derive(Debug, Clone, PartialEq)]
pub struct Fallen {
    /// The step.
    pub step: StepIx,
    /// Reps that met the standard over the sudden days.
    pub met: u32,
    /// All reps over those days.
    pub reps: u32,
    /// The share that was foreseen.
    pub foreseen: f64,
}

/// A pattern that may be pain.
#[derive(Debug, Clone, PartialEq)]
pub struct Pain {
    /// The side that fell off.
    pub side: Side,
    /// The day on which it showed.
    pub since: NaiveDate,
    /// The rungs on which it showed, worst first.
    pub rungs: Vec<Fallen>,
    /// How likely it is that the side has lost something, whatever kind of day it was.
    pub likely: f64,
    /// What was changed not long before, and how many days before.
    pub change: Option<(CareChange, i64)>,
    /// Days off not long before, where they were many.
    pub days_off: Option<i64>,
}

impl Pain {
    /// Who looks at what, in the usual order.
    pub const LOOK: [&'static str; 4] = ["mouth", "feet", "back", "saddle"];

    /// What to do, with the figures.
    pub fn why(&self, course: &Course) -> Vec<String> {
        let each: Vec<String> = self
            .rungs
            .iter()
            .map(|f| {
                let name = course.step(f.step).name.to_lowercase();
                format!("{name} met {} of {}, {:.0}% was to be expected", f.met, f.reps, 100.0 * f.foreseen)
            })
            .collect();
        let mut why = vec![
            format!(
                "Fell off to the {} all at once, on {} rungs that share nothing else: look at the horse before any training",
                self.side,
                self.rungs.len()
            ),
            format!("{} on the {}", super::reasons::capitalised(&each.join("; ")), self.side),
        ];
        why.extend(self.change.map(|(change, days)| {
            let when = match days {
                0 => "on the day of".to_owned(),
                1 => "the day after".to_owned(),
                _ => format!("{days} days after"),
            };
            format!("It came {when} {}: ask the {} first", change.phrase(), change.ask())
        }));
        why.extend(self.days_off.map(|days| format!("It came after {days} days off: feet and back may have changed")));
        why.push(
            "Mouth, feet, back, saddle first: dentist, farrier, vet, saddler. Write down what was found".to_owned(),
        );
        why.push(format!(
            "That the {} has lost something is {:.0}% likely, good or bad day aside; the call stays until someone has looked",
            self.side,
            (100.0 * self.likely).min(99.0)
        ));
        why
    }

    /// Notes what came shortly before: a change, or days off. `ridden` are the days of the horse, oldest first.
    pub(super) fn note_before(&mut self, changes: &[(NaiveDate, CareChange)], ridden: &[NaiveDate]) {
        let near = |day: NaiveDate| Some((self.since - day).num_days()).filter(|n| (0..=AFTER_CHANGE).contains(n));
        let change = changes.iter().filter_map(|&(day, change)| Some((change, near(day)?))).min_by_key(|c| c.1);
        let gaps = ridden.windows(2).filter(|w| near(w[1]).is_some()).map(|w| (w[1] - w[0]).num_days() - 1);
        let days_off = gaps.filter(|days| *days >= LAY_OFF).max();
        (self.change, self.days_off) = (change, days_off);
    }
}

/// Looks for the pattern on the last day with rides, then on the last two together. `lost` says how likely a loss on the left and on
/// the right was at the end of each of the last days, oldest first.
pub(super) fn detect(course: &Course, residuals: &[Residual], lost: &[[f64; 2]]) -> Option<Pain> {
    let mut dates: Vec<NaiveDate> = residuals.iter().map(|r| r.date).collect();
    dates.dedup();
    let since = *dates.last()?;
    let now = lost.last()?;
    let before = |side: usize, days: usize| lost.len().checked_sub(1 + days).map_or(0.0, |at| lost[at][side]);
    (1..=SUDDEN_DAYS.min(dates.len())).find_map(|days| {
        let from = dates[dates.len() - days];
        [Side::Left, Side::Right].into_iter().enumerate().find_map(|(n, side)| {
            let lately = || residuals.iter().filter(|r| r.date >= from);
            let likely = now[n];
            if likely < LOST || before(n, days) > BEFORE {
                return None;
            }
            Some(Pain { side, since, rungs: fallen(course, lately(), side)?, likely, change: None, days_off: None })
        })
    })
}

/// Stouffer's sum of independent standard scores.
fn together(z: &[f64]) -> f64 {
    z.iter().sum::<f64>() / (z.len() as f64).sqrt()
}

/// The rungs that fell on one side, if at least two fell that share neither ladder nor part of the horse. What is asked of both sides
/// at once bears witness, and does not show the side by itself.
fn fallen<'a>(course: &Course, residuals: impl Iterator<Item = &'a Residual>, side: Side) -> Option<Vec<Fallen>> {
    let mut by_rung: BTreeMap<&str, Vec<&Residual>> = BTreeMap::new();
    for r in residuals.filter(|r| r.side == side || r.side == Side::Both) {
        by_rung.entry(&course.step(r.step).rung).or_default().push(r);
    }
    let mut fallen: Vec<(f64, Fallen)> = by_rung
        .values()
        .filter_map(|days| {
            let z = together(&days.iter().map(|r| r.z).collect::<Vec<_>>());
            let (met, reps) = days.iter().fold((0, 0), |(m, n), r| (m + r.met, n + r.reps));
            let foreseen = days.iter().map(|r| r.foreseen).sum::<f64>() / days.len() as f64;
            (z <= FALLEN).then_some((z, Fallen { step: days[0].step, met, reps, foreseen }))
        })
        .collect();
    fallen.sort_by(|a, b| a.0.total_cmp(&b.0));
    let of_side = |f: &&(f64, Fallen)| course.step(f.1.step).sides.has(side);
    let apart =
        fallen.iter().filter(of_side).any(|(_, a)| fallen.iter().any(|(_, b)| share_nothing(course, a.step, b.step)));
    apart.then(|| fallen.into_iter().map(|f| f.1).collect())
}

fn share_nothing(course: &Course, a: StepIx, b: StepIx) -> bool {
    let (a, b) = (course.step(a), course.step(b));
    a.rung != b.rung && (a.ladder != b.ladder || a.zone.is_none() || a.zone != b.zone)
}
