//! The barn's own settings.

mod grounds;
pub(crate) mod people;

use axum::{Json, extract::State};
use cavesson_core::{advice::Posture, barn::Units};
use cavesson_store::{
    Update,
    barn::{self, Barn, BarnSettings},
};
use chrono_tz::Tz;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::{router::OpenApiRouter, routes};

use crate::{
    App, Problem,
    auth::{SignedIn, Trainer},
    http::{extract::Body, validate::Check},
};

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(read, change))
        .routes(routes!(grounds::list))
        .routes(routes!(grounds::put))
        .routes(routes!(people::list))
        .routes(routes!(people::read, people::put))
}

/// A barn's settings.
#[derive(Serialize, ToSchema)]
pub(crate) struct BarnOut {
    name: String,
    posture: Posture,
    units: Units,
    /// IANA name; decides which date is today.
    time_zone: String,
    is_demo: bool,
    version: i32,
}

/// New settings, made from a version.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct BarnIn {
    version: i32,
    #[schema(min_length = 1, max_length = 80)]
    name: String,
    posture: Posture,
    units: Units,
    time_zone: String,
}

impl TryFrom<Barn> for BarnOut {
    type Error = Problem;
    fn try_from(b: Barn) -> Result<Self, Problem> {
        Ok(BarnOut {
            posture: b.posture,
            units: b.units,
            name: b.name,
            time_zone: b.time_zone,
            is_demo: b.is_demo,
            version: b.version,
        })
    }
}

pub(crate) fn check_zone(check: &mut Check, zone: &str) {
    check.that(zone.parse::<Tz>().is_ok(), "time_zone", "this is not a time zone; one looks like America/Denver");
}

/// The barn.
#[utoipa::path(get, path = "/api/barn", responses((status = 200, body = BarnOut)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<BarnOut>, Problem> {
    Ok(Json(barn::get(&app.db, &signed.scope).await?.try_into()?))
}

/// Changes the barn's settings.
#[utoipa::path(put, path = "/api/barn", request_body = BarnIn,
    responses((status = 200, body = BarnOut), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn change(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Body(sent): Body<BarnIn>,
) -> Result<Json<BarnOut>, Problem> {
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 80);
    check_zone(&mut check, &sent.time_zone);
    check.done()?;
    let settings = BarnSettings { name, posture: sent.posture, units: sent.units, time_zone: sent.time_zone };
    match barn::update(&app.db, &signed.scope, sent.version, &settings).await? {
        Update::Done(barn) => Ok(Json(barn.try_into()?)),
        Update::Stale(barn) => Err(Problem::stale("barn", &BarnOut::try_from(barn)?)),
        Update::Missing => Err(Problem::missing("barn")),
    }
}
