//! The pen of a place, drawn once.

use axum::{Json, extract::State};
use cavesson_core::pattern::{Outline, Pen, Room};
use cavesson_store::{
    Update, ground,
    ground::KeptGround,
    pattern::{self, KeptPen},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::sound;
use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::extract::{Body, Id},
};

/// A pen, metres.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PenOut {
    pen: Pen,
    /// 0 where it was never drawn: then it is a rectangle of the place's size.
    version: i32,
    /// Room that rule books ask for.
    usual_room: Room,
}

/// A pen to draw.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PenIn {
    /// The version that was read.
    version: i32,
    pen: Pen,
}

impl From<KeptPen> for PenOut {
    fn from(kept: KeptPen) -> PenOut {
        PenOut { pen: kept.pen, version: kept.version, usual_room: Room::default() }
    }
}

/// Width and length of a pen that nobody measured, metres.
const USUAL: (f64, f64) = (40.0, 70.0);

/// A rectangle of the place's size.
fn undrawn(ground: &KeptGround) -> Pen {
    let metres = |cm: Option<i32>, usual: f64| cm.map_or(usual, |cm| f64::from(cm) / 100.0).clamp(6.0, 400.0);
    let outline =
        Outline::Rectangle { width: metres(ground.width_cm, USUAL.0), length: metres(ground.length_cm, USUAL.1) };
    Pen { outline, north: 0.0, gate: None, posts: vec![], areas: vec![] }
}

/// The pen of a place, as it was drawn, else as large as the place.
pub(super) async fn of(app: &App, signed: &SignedIn, id: Uuid) -> Result<KeptPen, Problem> {
    let place = ground::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("place"))?;
    let drawn = pattern::pen(&app.db, &signed.scope, id).await?;
    Ok(drawn.unwrap_or_else(|| KeptPen { pen: undrawn(&place), version: 0 }))
}

/// The pen of a place.
#[utoipa::path(get, path = "/api/grounds/{id}/pen", params(("id" = Uuid, Path)),
    responses((status = 200, body = PenOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<PenOut>, Problem> {
    Ok(Json(of(&app, &signed, id).await?.into()))
}

/// Draws the pen of a place.
#[utoipa::path(put, path = "/api/grounds/{id}/pen", params(("id" = Uuid, Path)), request_body = PenIn,
    responses((status = 200, body = PenOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<PenIn>,
) -> Result<Json<PenOut>, Problem> {
    sound::pen(&sent.pen)?;
    ground::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("place"))?;
    match pattern::put_pen(&app.db, &signed.scope, id, sent.version, &sent.pen).await? {
        Update::Done(kept) => Ok(Json(kept.into())),
        Update::Stale(now) => Err(Problem::stale("pen", &PenOut::from(now))),
        Update::Missing => Err(Problem::missing("pen")),
    }
}
