//! A set-up as a file.

use axum::{
    extract::State,
    http::header,
    response::{IntoResponse, Response},
};
use cavesson_core::{
    curriculum::Gait,
    pattern::{Horse, quickest_run},
};

use super::{pens, set_ups, sound::no_path};
use crate::{App, Problem, auth::SignedIn, http::extract::Id};

/// The markers of a set-up as comma-separated values (RFC 4180).
#[utoipa::path(get, path = "/api/set-ups/{id}/markers", params(("id" = Uuid, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
pub(crate) async fn markers(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Response, Problem> {
    let kept = set_ups::find(&app, &signed, id).await?;
    let text = cavesson_formats::pattern::markers_csv(&kept.set_up);
    Ok(([(header::CONTENT_TYPE, "text/csv; charset=utf-8")], text).into_response())
}

/// A set-up in its pen, drawn to scale as SVG 1.1, with the path of a run.
#[utoipa::path(get, path = "/api/set-ups/{id}/drawing", params(("id" = Uuid, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
pub(crate) async fn drawing(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Response, Problem> {
    let kept = set_ups::find(&app, &signed, id).await?;
    let pen = pens::of(&app, &signed, kept.ground_id).await?.pen;
    let horse = Horse::of_gait(Gait::Run).ok_or_else(Problem::broken)?;
    let run = quickest_run(&kept.set_up, &horse).map_err(no_path)?;
    let drawn = cavesson_formats::pattern::svg(&kept.name, &pen.outline.polygon(), &kept.set_up, &run);
    Ok(([(header::CONTENT_TYPE, "image/svg+xml")], drawn).into_response())
}
