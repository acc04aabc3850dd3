//! Pain before training: one side falls off at once, on rungs that share nothing else.

use std::collections::BTreeMap;

use chrono::NaiveDate;

use crate::curriculum::{Course, Side, StepIx};

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

/// Days with rides over which a fall counts as sudden.
pub(super) const SUDDEN_DAYS: usize = 2;
/// A rung counts as fallen from here on.
const FALLEN: f64 = -1.0;
/// A loss on one side must be at least this likely,
const LOST: f64 = 0.9;
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
        vec![
            format!(
                "Fell off to the {} all at once, on {} rungs that share nothing else: look at the horse before any training",
                self.side,
                self.rungs.len()
            ),
            format!("{} on the {}", super::reasons::capitalised(&each.join("; ")), self.side),
            "Mouth, feet, back, saddle first: dentist, farrier, vet, saddler. Write down what was found".to_owned(),
        ]
    }
}

/// Looks for the pattern on the last day with rides, then on the last two together. `lost` says how likely a loss on the left and on
/// the right was at the end of each of the last days, oldest first.
pub(super) fn detect(course: &Course, residuals: &[Residual], lost: &[[f64; 2]]) -> Option<Pain> {
    let mut dates: Vec<NaiveDate> = residuals.iter().map(|r| r.date).collect();
    dates.dedup();
    let since = *dates.last()?;
    let now = lost.last()?;
    let sudden = |side: usize, days: usize| {
        let before = lost.len().checked_sub(1 + days).map_or(0.0, |at| lost[at][side]);
        now[side] >= LOST && before <= BEFORE
    };
    (1..=SUDDEN_DAYS.min(dates.len())).find_map(|days| {
        let from = dates[dates.len() - days];
        [Side::Left, Side::Right].into_iter().enumerate().filter(|(n, _)| sudden(*n, days)).find_map(|(n, side)| {
            let rungs = fallen(course, residuals.iter().filter(|r| r.date >= from && r.side == side))?;
            Some(Pain { side, since, rungs, likely: now[n] })
        })
    })
}

/// Stouffer's sum of independent standard scores.
fn together(z: &[f64]) -> f64 {
    z.iter().sum::<f64>() / (z.len() as f64).sqrt()
}

/// The rungs that fell on one side, if at least two fell that share neither ladder nor part of the horse.
fn fallen<'a>(course: &Course, residuals: impl Iterator<Item = &'a Residual>) -> Option<Vec<Fallen>> {
    let mut by_rung: BTreeMap<&str, Vec<&Residual>> = BTreeMap::new();
    for r in residuals {
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
    let apart = fallen.iter().any(|(_, a)| fallen.iter().any(|(_, b)| share_nothing(course, a.step, b.step)));
    apart.then(|| fallen.into_iter().map(|f| f.1).collect())
}

fn share_nothing(course: &Course, a: StepIx, b: StepIx) -> bool {
    let (a, b) = (course.step(a), course.step(b));
    a.rung != b.rung && (a.ladder != b.ladder || a.zone.is_none() || a.zone != b.zone)
}
