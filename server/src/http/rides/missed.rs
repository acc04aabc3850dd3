//! Why a planned ride was not ridden. It frees the horse's day for the week to be mended.

use axum::{Json, extract::State};
use cavesson_core::barn::MissedReason;
use cavesson_store::log::ride;
use serde::Deserialize;
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id},
        rides::RideOut,
    },
    services::barn_clock::today,
};

/// The reason, in one word.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct MissedIn {
    why: MissedReason,
}

/// Says why a planned ride of today or before was not ridden.
#[utoipa::path(put, path = "/api/rides/{id}/missed", params(("id" = Uuid, Path)), request_body = MissedIn,
    responses((status = 200, body = RideOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<MissedIn>,
) -> Result<Json<RideOut>, Problem> {
    set(&app, &signed, id, Some(sent.why)).await
}

/// Takes that back: it is to be ridden after all.
#[utoipa::path(delete, path = "/api/rides/{id}/missed", params(("id" = Uuid, Path)),
    responses((status = 200, body = RideOut), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub(crate) async fn take_back(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
) -> Result<Json<RideOut>, Problem> {
    set(&app, &signed, id, None).await
}

async fn set(
    app: &App,
    signed: &SignedIn,
    id: uuid::Uuid,
    why: Option<MissedReason>,
) -> Result<Json<RideOut>, Problem> {
    let planned = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    if planned.ridden_on > today(app, signed).await? {
        return Err(Problem::conflict("This ride is still to come: move it or drop it on the week's page"));
    }
    if !ride::set_missed(&app.db, &signed.scope, id, why).await? {
        return Err(Problem::conflict("This ride was begun: it stands in the record as it was ridden"));
    }
    let now = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    Ok(Json(now.try_into()?))
}
