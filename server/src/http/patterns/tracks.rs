//! Files of a pass: a track from a watch, and the events of a timer.

use axum::{Json, extract::State};
use cavesson_core::{
    curriculum::Gait,
    pattern::{Horse, lay_over, quickest_run, timer_run},
};
use cavesson_formats::{gpx, timer as timer_file};
use cavesson_store::pattern::{self, KeptTrack};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{passes::TrackOut, sound::no_path};
use crate::{
    App, Problem,
    auth::Rider,
    http::extract::{Body, Id},
};

/// A file's text.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FileText {
    text: String,
}

/// Lays a track (GPX 1.1) over the set-up of a pass, and keeps what it shows.
#[utoipa::path(put, path = "/api/passes/{id}/track", params(("id" = Uuid, Path)), request_body = FileText,
    responses((status = 200, body = TrackOut), (status = 404, body = Problem), (status = 413, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<FileText>,
) -> Result<Json<TrackOut>, Problem> {
    let (_, set_up) =
        pattern::ridden_over(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("pass"))?;
    let laid = app
        .compute
        .run(move || {
            let track = gpx::read(&sent.text).map_err(|e| Problem::field("text", e.to_string()))?;
            let horse = Horse::of_gait(Gait::Run).ok_or_else(Problem::broken)?;
            let run = quickest_run(&set_up, &horse).map_err(no_path)?;
            lay_over(&run, set_up.barrel_radius, &track).map_err(|e| Problem::field("text", e.to_string()))
        })
        .await??;
    let centimetres = |v: f64| (v * 100.0).round() / 100.0;
    let kept = KeptTrack {
        points: laid.points.iter().map(|p| [p.at.x, p.at.y, p.t].map(centimetres)).collect(),
        off: laid.off,
        pockets: laid.pockets,
        behind: laid.behind,
        seconds: laid.time,
    };
    if !pattern::set_track(&app.db, &signed.scope, id, &kept).await? {
        return Err(Problem::missing("pass"));
    }
    Ok(Json(kept.into()))
}

/// A run as a timer told it.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TimerOut {
    /// Seconds behind each barrel.
    splits: Vec<f64>,
    seconds: Option<f64>,
    notes: Vec<String>,
}

/// Reads the file of a timer: `event,seconds` on each line.
#[utoipa::path(post, path = "/api/patterns/timer", request_body = FileText,
    responses((status = 200, body = TimerOut), (status = 422, body = Problem)))]
pub(crate) async fn timer(_: Rider, Body(sent): Body<FileText>) -> Result<Json<TimerOut>, Problem> {
    let events = timer_file::read(&sent.text).map_err(|e| Problem::field("text", e.to_string()))?;
    let run = timer_run(&events).map_err(|e| Problem::field("text", e.to_string()))?;
    Ok(Json(TimerOut { splits: run.splits, seconds: run.finish, notes: run.notes }))
}
