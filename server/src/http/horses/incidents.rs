//! Incidents of a horse: written down in a short form, and never hidden.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::barn::{IncidentKind, MayRide};
use cavesson_store::{
    Put,
    incident::{self, Incident, NewIncident},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        validate::{Check, within_years_if_any},
    },
    services::barn_clock::today,
};

/// An incident to write down.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct IncidentIn {
    /// Today, where it is not said.
    #[serde(default, deserialize_with = "within_years_if_any")]
    happened_on: Option<NaiveDate>,
    kind: IncidentKind,
    rider_id: Uuid,
    /// What came before: place, gait, what was asked, what it saw.
    #[schema(min_length = 1, max_length = 1000)]
    before: String,
    /// Who or what was hurt; empty for nobody.
    #[serde(default)]
    hurt: String,
    /// Who may ride the horse from now on.
    may_ride: MayRide,
}

/// An incident.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct IncidentOut {
    id: Uuid,
    happened_on: NaiveDate,
    kind: IncidentKind,
    rider: String,
    before: String,
    hurt: String,
    may_ride: MayRide,
    made_by: String,
}

/// The incidents of a horse, latest first, and who may ride it now.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Incidents {
    items: Vec<IncidentOut>,
    /// What the latest says.
    may_ride: MayRide,
}

/// Writes an incident down.
#[utoipa::path(put, path = "/api/horses/{horse}/incidents/{id}", params(("horse" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = IncidentIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(horse, id): Ids,
    Body(sent): Body<IncidentIn>,
) -> Result<StatusCode, Problem> {
    crate::services::horses::find(&app, &signed, horse).await?;
    let today = today(&app, &signed).await?;
    let mut check = Check::default();
    let before = check.text("before", &sent.before, 1000);
    check.that(sent.hurt.trim().chars().count() <= 1000, "hurt", "at most 1000 letters");
    let happened_on = sent.happened_on.unwrap_or(today);
    check.that(happened_on <= today, "happened_on", "it cannot be in the future");
    check.done()?;
    let hurt = sent.hurt.trim().to_owned();
    let new =
        NewIncident { happened_on, kind: sent.kind, rider_id: sent.rider_id, before, hurt, may_ride: sent.may_ride };
    match incident::put(&app.db, &signed.scope, horse, id, &new).await? {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken("incident")),
        Put::Missing => Err(Problem::missing("rider")),
    }
}

/// What happened with a horse, latest first.
#[utoipa::path(get, path = "/api/horses/{id}/incidents", params(("id" = Uuid, Path)),
    responses((status = 200, body = Incidents), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<Incidents>, Problem> {
    crate::services::horses::find(&app, &signed, id).await?;
    let all = incident::of_horse(&app.db, &signed.scope, id).await?;
    let may_ride = all.first().map_or(MayRide::Anyone, |i| i.may_ride);
    let out = |i: Incident| IncidentOut {
        id: i.id,
        happened_on: i.happened_on,
        kind: i.kind,
        rider: i.rider,
        before: i.before,
        hurt: i.hurt,
        may_ride: i.may_ride,
        made_by: i.made_by,
    };
    Ok(Json(Incidents { items: all.into_iter().map(out).collect(), may_ride }))
}
