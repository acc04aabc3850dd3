//! Who owns what, over the whole barn.

use std::collections::BTreeMap;

use axum::{Json, extract::State};
use cavesson_core::{
    advice::{Call, Status},
    curriculum::Side,
};
use cavesson_store::horse;
use chrono::NaiveDate;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{App, Problem, auth::SignedIn, services::standing::standings};

/// Every horse in work, and where it stands on every step that it was asked.
#[derive(Serialize, ToSchema)]
pub(crate) struct Owned {
    date: NaiveDate,
    horses: Vec<OwnedBy>,
}

/// What one horse owns.
#[derive(Serialize, ToSchema)]
pub(crate) struct OwnedBy {
    id: Uuid,
    name: String,
    /// A call on the whole horse: look at it, or leave it alone.
    horse: Option<Call>,
    /// By id of the step; a step that is not here was never asked.
    steps: BTreeMap<String, OwnedStep>,
}

/// Where a horse stands on one step.
#[derive(Serialize, ToSchema)]
pub(crate) struct OwnedStep {
    status: Status,
    left: Option<Status>,
    right: Option<Status>,
    due: bool,
}

/// Who owns what.
#[utoipa::path(get, path = "/api/owned", responses((status = 200, body = Owned)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<Owned>, Problem> {
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let date = crate::services::barn_clock::today_in(&barn);
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let standings = standings(&app, &signed.scope, &horses, barn.posture, date).await?;
    let horses = horses
        .into_iter()
        .filter_map(|h| {
            let standing = standings.get(&h.id)?;
            let tried = standing.steps.iter().filter(|s| !s.sides.is_empty());
            let steps = tried
                .map(|s| {
                    let of = |side: Side| s.sides.iter().find(|x| x.side == side).map(|x| x.status);
                    let step = OwnedStep { status: s.status, left: of(Side::Left), right: of(Side::Right), due: s.due };
                    (s.id.clone(), step)
                })
                .collect();
            Some(OwnedBy { id: h.id, name: h.name, horse: standing.horse.as_ref().map(|c| c.call), steps })
        })
        .collect();
    Ok(Json(Owned { date, horses }))
}
