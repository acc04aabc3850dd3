//! Where a person is signed in.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_store::{security::What, session};
use chrono::{DateTime, Utc};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Origin, SignedIn},
    http::{account::note_own, extract::Id},
};

/// A device on which one is signed in.
#[derive(Serialize, ToSchema)]
pub(crate) struct DeviceOut {
    id: Uuid,
    /// What its browser says of itself.
    device: String,
    /// Whether it stays in the barn.
    barn_phone: bool,
    /// Whether it is the one that asks.
    this_one: bool,
    created_at: DateTime<Utc>,
    seen_at: DateTime<Utc>,
}

/// The devices on which one is signed in.
#[derive(Serialize, ToSchema)]
pub(crate) struct Devices {
    items: Vec<DeviceOut>,
}

/// Where one is signed in, the latest used first.
#[utoipa::path(get, path = "/api/sessions", responses((status = 200, body = Devices)))]
pub(crate) async fn list(State(app): State<App>, signed: SignedIn) -> Result<Json<Devices>, Problem> {
    let devices = session::of_person(&app.db, &signed.scope).await?;
    let out = |d: session::Device| DeviceOut {
        id: d.id,
        device: d.device,
        barn_phone: d.barn_phone,
        this_one: d.id == signed.session,
        created_at: d.created_at,
        seen_at: d.seen_at,
    };
    Ok(Json(Devices { items: devices.into_iter().map(out).collect() }))
}

/// Signs one device out.
#[utoipa::path(delete, path = "/api/sessions/{id}", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn end(
    State(app): State<App>,
    origin: Origin,
    signed: SignedIn,
    Id(id): Id,
) -> Result<StatusCode, Problem> {
    if !session::end(&app.db, &signed.scope, id).await? {
        return Err(Problem::missing("session"));
    }
    note_own(&app, &signed, What::SessionEnded, &origin).await?;
    Ok(StatusCode::NO_CONTENT)
}
