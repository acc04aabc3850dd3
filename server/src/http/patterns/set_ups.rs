//! Set-ups of barrels that the barn keeps.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::pattern::SetUp;
use cavesson_store::{
    Put, Update,
    pattern::{self, KeptSetUp, SetUpFields},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::sound;
use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id},
        validate::Check,
    },
};

/// A set-up, metres in the pen's axes.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SetUpOut {
    id: Uuid,
    ground_id: Uuid,
    name: String,
    set_up: SetUp,
    archived: bool,
    version: i32,
}

/// Set-ups in use, latest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SetUps {
    items: Vec<SetUpOut>,
}

/// A set-up to keep (without a version) or to change (with the version that was read).
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SetUpIn {
    version: Option<i32>,
    ground_id: Uuid,
    #[schema(min_length = 1, max_length = 60)]
    name: String,
    set_up: SetUp,
    #[serde(default)]
    archived: bool,
}

impl From<KeptSetUp> for SetUpOut {
    fn from(kept: KeptSetUp) -> SetUpOut {
        let KeptSetUp { id, ground_id, name, set_up, archived, version } = kept;
        SetUpOut { id, ground_id, name, set_up, archived, version }
    }
}

/// The set-up with this id, or the problem that there is none.
pub(super) async fn find(app: &App, signed: &SignedIn, id: Uuid) -> Result<KeptSetUp, Problem> {
    pattern::set_up(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("set-up"))
}

/// The barn's set-ups of barrels.
#[utoipa::path(get, path = "/api/set-ups", responses((status = 200, body = SetUps)))]
pub(crate) async fn list(State(app): State<App>, signed: SignedIn) -> Result<Json<SetUps>, Problem> {
    let all = pattern::set_ups(&app.db, &signed.scope).await?;
    Ok(Json(SetUps { items: all.into_iter().map(Into::into).collect() }))
}

/// Keeps or changes a set-up. One that was ridden is archived, not deleted; passes keep what they were ridden over.
#[utoipa::path(put, path = "/api/set-ups/{id}", params(("id" = Uuid, Path)), request_body = SetUpIn,
    responses((status = 200, body = SetUpOut), (status = 201, body = SetUpOut), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<SetUpIn>,
) -> Result<(StatusCode, Json<SetUpOut>), Problem> {
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 60);
    check.done()?;
    sound::set_up(&sent.set_up)?;
    let fields = SetUpFields { ground_id: sent.ground_id, name, set_up: sent.set_up };
    let scope = &signed.scope;
    let Some(version) = sent.version else {
        return match pattern::put_set_up(&app.db, scope, id, &fields).await? {
            Put::Created => Ok((StatusCode::CREATED, Json(find(&app, &signed, id).await?.into()))),
            Put::Same => Ok((StatusCode::OK, Json(find(&app, &signed, id).await?.into()))),
            Put::Taken => Err(Problem::taken("set-up")),
            Put::Missing => Err(Problem::missing("place")),
        };
    };
    match pattern::update_set_up(&app.db, scope, id, version, &fields, sent.archived).await? {
        Update::Done(kept) => Ok((StatusCode::OK, Json(kept.into()))),
        Update::Stale(now) => Err(Problem::stale("set-up", &SetUpOut::from(now))),
        Update::Missing => Err(Problem::missing("set-up")),
    }
}
