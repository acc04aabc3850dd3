//! Forecasts as they are told.

use cavesson_core::{
    advice::{EarlierForecast, Forecast, Standing, forecast, shift},
    curriculum::StepIx,
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Weeks told ahead.
const WEEKS: u64 = 26;
/// Under this chance of being owned within half a year nothing is said.
const TOO_EARLY: f64 = 0.1;

/// A step whose needs are not all owned yet.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct WaitingStep {
    pub(crate) id: String,
    pub(crate) name: String,
    /// The needs that are open, by name.
    pub(crate) waits_for: Vec<String>,
    pub(crate) forecast: ForecastOut,
}

/// When a step will be owned.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct ForecastOut {
    /// One in ten horses like this owns it by then.
    pub(crate) early: Option<NaiveDate>,
    /// One in two.
    pub(crate) middle: Option<NaiveDate>,
    /// Nine in ten.
    pub(crate) late: Option<NaiveDate>,
    /// Days of work on it a week that this takes for granted.
    pub(crate) a_week: f64,
    /// Days later than was thought four weeks ago; under zero, earlier; none where it did not move by a week.
    pub(crate) later_by: Option<i64>,
    /// Probability that it is owned now, in one week, in two weeks and so on.
    pub(crate) by_week: Vec<f64>,
}

pub(crate) fn forecast_out(
    standing: &Standing<'_, '_>,
    then: Option<&EarlierForecast>,
    ix: StepIx,
) -> Option<ForecastOut> {
    let f: Forecast = forecast(standing, ix)?;
    let later_by = then.and_then(|then| shift(then, &f)).map(|s| s.days);
    let by_week = (0..=WEEKS).map(|w| f.by(standing.on() + Days::new(7 * w))).collect();
    let d = f.dates;
    Some(ForecastOut { early: d.early, middle: d.middle, late: d.late, a_week: f.a_week, later_by, by_week })
}

/// Steps that are taught, not begun, and wait for others.
pub(crate) fn waiting(standing: &Standing<'_, '_>) -> Vec<WaitingStep> {
    let course = standing.course();
    let names = |steps: Vec<StepIx>| steps.iter().map(|&ix| course.step(ix).name.clone()).collect();
    let waits = |&ix: &StepIx| course.step(ix).taught && !standing.is_open(ix) && standing.sides(ix).is_empty();
    let mut out: Vec<WaitingStep> = (0..course.steps().len())
        .filter(waits)
        .filter_map(|ix| {
            let forecast = forecast_out(standing, None, ix)?;
            let (id, name) = (course.step(ix).id.clone(), course.step(ix).name.clone());
            Some(WaitingStep { id, name, waits_for: names(standing.waits_for(ix)), forecast })
        })
        .filter(|w| w.forecast.by_week.last().is_some_and(|p| *p >= TOO_EARLY))
        .collect();
    let chance = |w: &WaitingStep| w.forecast.by_week.last().copied().unwrap_or_default();
    out.sort_by(|a, b| chance(b).total_cmp(&chance(a)));
    out
}
