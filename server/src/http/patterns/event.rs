//! The runs of a day as an event of divisions.

use axum::{Json, extract::State};
use cavesson_core::pattern::{DIVISION_SPREADS, KNOCKED_SECONDS, placings};
use cavesson_store::pattern::{self, TimedRun};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::set_ups;
use crate::{
    App, Problem,
    auth::Rider,
    http::{
        extract::{Id, QueryParams},
        validate::within_years_if_any,
    },
    services::barn_clock::today,
};

/// Which day.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct OnDay {
    /// Today, where it is not said.
    #[serde(default, deserialize_with = "within_years_if_any")]
    on: Option<NaiveDate>,
}

/// A run and its placing.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PlacedRun {
    pass_id: Uuid,
    horse: String,
    rider: String,
    /// With five seconds for each barrel that went down.
    official: f64,
    knocked: usize,
    /// From 1.
    division: usize,
    /// From 1 within the division.
    place: usize,
}

/// The timed runs of a day, fastest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct EventOut {
    on: NaiveDate,
    /// Seconds from the fastest at which each further division begins.
    spreads: Vec<f64>,
    items: Vec<PlacedRun>,
}

/// The timed runs over a set-up on a day, placed by divisions.
#[utoipa::path(get, path = "/api/set-ups/{id}/event", params(("id" = Uuid, Path), OnDay),
    responses((status = 200, body = EventOut), (status = 403, body = Problem), (status = 404, body = Problem)))]
pub(crate) async fn event(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    QueryParams(asked): QueryParams<OnDay>,
) -> Result<Json<EventOut>, Problem> {
    set_ups::find(&app, &signed, id).await?;
    let on = match asked.on {
        Some(day) => day,
        None => today(&app, &signed).await?,
    };
    let timed = |run: TimedRun| {
        let knocked = run.told.barrels.iter().filter(|b| b.knocked).count();
        run.told.seconds.map(|seconds| (run, knocked, seconds + KNOCKED_SECONDS * knocked as f64))
    };
    let mut runs: Vec<_> =
        pattern::runs_of_day(&app.db, &signed.scope, id, on).await?.into_iter().filter_map(timed).collect();
    runs.sort_by(|a, b| a.2.total_cmp(&b.2));
    let times: Vec<f64> = runs.iter().map(|r| r.2).collect();
    let items =
        runs.into_iter().zip(placings(&times, &DIVISION_SPREADS)).map(|((run, knocked, official), placed)| PlacedRun {
            pass_id: run.pass,
            horse: run.horse,
            rider: run.rider,
            official,
            knocked,
            division: placed.division,
            place: placed.place,
        });
    Ok(Json(EventOut { on, spreads: DIVISION_SPREADS.to_vec(), items: items.collect() }))
}
