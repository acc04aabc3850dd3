//! The trace of a step: what was believed of it after each of its days.

use std::sync::Arc;

use axum::{Json, extract::State};
use cavesson_core::{
    belief::{Day, ModelSettings, Observer},
    curriculum::{Course, Side, StepIx},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::{Id, QueryParams},
    services::{
        book::book,
        standing::{
            logs::logs,
            response::{ShareOut, share_out},
        },
    },
};

/// Which step to trace.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct TraceOf {
    /// Id of a step: `S1`, `S6@walk`.
    step: String,
}

/// One day of a step and side, and what was believed after it.
#[derive(Serialize, ToSchema)]
pub(crate) struct TracePoint {
    pub(crate) date: NaiveDate,
    pub(crate) side: Side,
    pub(crate) reps: u32,
    pub(crate) met: u32,
    pub(crate) ready: f64,
    pub(crate) share: ShareOut,
    /// The share that the standard asked for on that day.
    pub(crate) standard: f64,
}

/// The days of one step, oldest first.
#[derive(Serialize, ToSchema)]
pub(crate) struct Trace {
    pub(crate) step: String,
    pub(crate) name: String,
    /// The share that the standard asks for today.
    pub(crate) standard: f64,
    pub(crate) points: Vec<TracePoint>,
}

/// How a step went over the days, on each side.
#[utoipa::path(get, path = "/api/horses/{id}/trace", params(("id" = Uuid, Path), TraceOf),
    responses((status = 200, body = Trace), (status = 404, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    QueryParams(of): QueryParams<TraceOf>,
) -> Result<Json<Trace>, Problem> {
    let horse = crate::services::horses::find(&app, &signed, id).await?;
    let today = crate::services::barn_clock::today(&app, &signed).await?;
    let book = book(&app, &signed.scope, Some(id)).await?;
    let step = book.course.find(&of.step).ok_or_else(|| Problem::missing("step"))?;
    let mut logs = logs(&app, &signed.scope, &[(id, horse.log_revision, Arc::clone(&book))], today).await?;
    let days = logs.pop().ok_or_else(Problem::broken)?;
    app.compute.run(move || trace_of(&book.course, step, &only_of(step, &days), today)).await.map(Json)
}

/// The work of one step, without how the horse was otherwise.
fn only_of(step: StepIx, days: &[Day]) -> Vec<Day> {
    let work = |d: &Day| d.work.iter().filter(|w| w.step == step).cloned().collect::<Vec<_>>();
    days.iter().map(|d| Day::new(d.date, work(d))).filter(|d| !d.work.is_empty()).collect()
}

fn trace_of(course: &Course, step: StepIx, days: &[Day], today: NaiveDate) -> Trace {
    let mut observer = Observer::new(course, ModelSettings::default());
    let s = course.step(step);
    let mut points = vec![];
    for day in days {
        if observer.watch(day).is_err() {
            continue;
        }
        for &side in s.sides.list() {
            let tally = observer.tallies(step, side).last().filter(|(date, _)| *date == day.date);
            if let (Some(&(date, tally)), Some(belief)) = (tally, observer.belief(step, side, day.date)) {
                let standard = s.standard_on(date).share.fraction();
                let share = share_out(&belief.share);
                let (reps, met) = (tally.reps, tally.met);
                points.push(TracePoint { date, side, reps, met, ready: belief.ready, share, standard });
            }
        }
    }
    Trace { step: s.id.clone(), name: s.name.clone(), standard: s.standard_on(today).share.fraction(), points }
}
