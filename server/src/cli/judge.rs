//! `cavesson judge`, `herds`, `forecasts` and `fit`: how the calls and forecasts do on simulated horses whose true state is known.

use std::collections::BTreeMap;

use cavesson_core::{
    belief::ModelSettings,
    curriculum::{Course, Side, StepIx},
};
use cavesson_judge::{
    Descent, Family, KNOBS, cause_figures, cause_table, fit_table, forecast_table, forecasts as forecast_figures,
    herds_table, intake_figures, intake_table, judge_table, leave_one_out, round_numbers, trend_table,
};
use cavesson_sim::{Herd, HerdHorse, KINDS, TrueShares};
use serde::Deserialize;

use crate::cli::{decide, document::Problem};

#[derive(Deserialize)]
struct TruthDoc {
    horses: Vec<TrueHorse>,
    oracle: Option<Ideal>,
}

#[derive(Deserialize)]
struct Ideal {
    log_loss: f64,
}

#[derive(Deserialize)]
struct TrueHorse {
    id: String,
    rungs: Vec<TrueRung>,
}

#[derive(Deserialize)]
struct TrueRung {
    rung: String,
    side: String,
    share: Vec<Option<f64>>,
}

/// A log with the truth behind it, in the formats of the contract.
///
/// # Errors
/// A log that `decide` refuses, a truth that is not one, or not one of this log.
pub fn family(name: &str, log: &str, truth: &str) -> Result<Family, Vec<Problem>> {
    let problem = |text: String| vec![Problem::whole(text)];
    let log = decide::read(log)?;
    let truth: TruthDoc = serde_json::from_str(truth).map_err(|e| problem(format!("the truth cannot be read: {e}")))?;
    let mut known: BTreeMap<String, Vec<TrueRung>> = truth.horses.into_iter().map(|h| (h.id, h.rungs)).collect();
    let mut horses = vec![];
    for (id, days) in log.horses {
        let rungs = known.remove(&id).ok_or_else(|| problem(format!("the truth says nothing of horse {id}")))?;
        let truth: TrueShares = rungs
            .into_iter()
            .map(|r| {
                let key = key(&log.course, &r)?;
                let ridden =
                    days.iter().position(|d| d.work.iter().any(|w| (w.step, w.side) == key && !w.reps.is_empty()));
                let told = r.share.iter().skip(ridden.unwrap_or(days.len())).all(Option::is_some);
                (r.share.len() == days.len() && told).then_some((key, r.share))
            })
            .collect::<Option<_>>()
            .ok_or_else(|| problem(format!("the truth of horse {id} does not go with its sessions")))?;
        horses.push(HerdHorse { id, days, truth, fell: None });
    }
    Ok(Family {
        name: name.to_owned(),
        herd: Herd { course: log.course, horses },
        ideal: truth.oracle.map(|o| o.log_loss),
    })
}

fn key(course: &Course, rung: &TrueRung) -> Option<(StepIx, Side)> {
    let (step, side) = (course.find(&rung.rung)?, rung.side.parse().ok()?);
    course.step(step).sides.has(side).then_some((step, side))
}

/// The table for a log and the truth behind it.
pub fn judge(family: &Family) -> String {
    judge_table(family)
}

/// The table of every kind of herd, with this many horses of each.
pub fn herds(horses: u32, seed: u64) -> String {
    herds_table(&kinds(horses, seed))
}

/// The table of forecasts on every kind of herd, or on the families given.
pub fn forecasts(families: &[Family]) -> String {
    forecast_table(&forecast_figures(families, &ModelSettings::default()))
}

/// The table of changes from ask to ask, on so many simulated rides of each kind.
pub fn trends(rides: u32, seed: u64) -> String {
    trend_table(&cavesson_judge::trends(rides, seed))
}

/// How causes of faults are named on so many simulated horses of each fault and hole.
pub fn causes(horses: u32, seed: u64) -> String {
    cause_table(&cause_figures(horses, seed))
}

/// How intake rides place horses: one ride, two, and three with a third of the asks of a full test.
pub fn intake(horses: u64, seed: u64) -> String {
    intake_table(&intake_figures(horses, seed, &[&[30], &[30, 30], &[29, 29, 29]]))
}

/// One herd of each kind.
pub fn kinds(horses: u32, seed: u64) -> Vec<Family> {
    KINDS.iter().map(|kind| Family::of_kind(kind, horses, seed)).collect()
}

/// The table of families that were left out of a fit one by one, and the settings fitted to all of them.
pub fn fit(families: &[Family], left_out: &[usize], descent: Descent, tell: &mut dyn FnMut(String)) -> String {
    let table = fit_table(&leave_one_out(families, left_out, descent, tell));
    tell("to all of them".to_owned());
    let all: Vec<&Family> = families.iter().collect();
    let (start, end) = (ModelSettings::default(), cavesson_judge::fit(&all, round_numbers(), descent, tell));
    let lines =
        KNOBS.iter().map(|knob| format!("{:<30}{:>10.4}{:>10.4}\n", knob.name, knob.value(&start), knob.value(&end)));
    format!("{table}\n{:<30}{:>10}{:>10}\n{}", "", "in use", "fitted", lines.collect::<String>())
}
