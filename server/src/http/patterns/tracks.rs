//! Files of a pass: a track from a watch, and the events of a timer.

use axum::{
    Json,
    extract::State,
    http::header,
    response::{IntoResponse, Response},
};
use cavesson_core::{
    curriculum::Gait,
    pattern::{Horse, LaidOver, Placed, Point, TrackPoint, lay_over, quickest_run, timer_run},
};
use cavesson_formats::{
    gpx::{self, Recorded},
    timer as timer_file,
};
use cavesson_store::pattern::{self, KeptTrack, OnEarth};
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

/// What is kept of a track: to the centimetre, in the pen's axes, with where these lie on the earth.
fn kept(track: &Recorded, laid: LaidOver) -> KeptTrack {
    let centimetres = |v: f64| (v * 100.0).round() / 100.0;
    let (lat, lon) = track.on_earth(laid.placed.origin);
    KeptTrack {
        points: laid.points.iter().map(|p| [p.at.x, p.at.y, p.t].map(centimetres)).collect(),
        off: laid.off,
        pockets: laid.pockets,
        behind: laid.behind,
        seconds: laid.time,
        on_earth: Some(OnEarth { lat, lon, turned: laid.placed.turned, began: track.began + laid.began }),
    }
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
    let over = pattern::ridden_over(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("pass"))?;
    let kept = app
        .compute
        .run(signed.scope.shared(), move || {
            let track = gpx::read(&sent.text).map_err(|e| Problem::field("text", e.to_string()))?;
            let horse = Horse::of_gait(Gait::Run).ok_or_else(Problem::broken)?;
            let run = quickest_run(&over.set_up, &horse).map_err(no_path)?;
            let laid = lay_over(&run, over.set_up.barrel_radius, &track.points)
                .map_err(|e| Problem::field("text", e.to_string()))?;
            Ok::<_, Problem>(kept(&track, laid))
        })
        .await??;
    if !pattern::set_track(&app.db, &signed.scope, id, &kept).await? {
        return Err(Problem::missing("pass"));
    }
    Ok(Json(kept.into()))
}

/// The track of a pass as a file (GPX 1.1), where it was on the earth.
#[utoipa::path(get, path = "/api/passes/{id}/track", params(("id" = Uuid, Path)),
    responses((status = 200, body = String, content_type = "application/gpx+xml"), (status = 404, body = Problem)))]
pub(crate) async fn file(State(app): State<App>, Rider(signed): Rider, Id(id): Id) -> Result<Response, Problem> {
    let pass = pattern::pass(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("pass"))?;
    let (track, at) =
        pass.track.and_then(|t| t.on_earth.map(|at| (t.points, at))).ok_or_else(|| Problem::missing("track"))?;
    let placed = Placed { origin: Point::default(), turned: at.turned };
    let points: Vec<TrackPoint> =
        track.iter().map(|[x, y, t]| TrackPoint { at: placed.recorded(Point::new(*x, *y)), t: *t }).collect();
    let name = format!("{}, {}", pass.set_up_name, pass.passed_on);
    let text = gpx::write(&name, &points, (at.lat, at.lon), at.began);
    Ok(([(header::CONTENT_TYPE, "application/gpx+xml")], text).into_response())
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
