//! The response to something logged whose ride is on another day now: it is kept, and waits to be placed.

use axum::{
    Json,
    http::StatusCode,
    response::{IntoResponse, Response},
};
use cavesson_store::{
    Put, Scope,
    log::unplaced::{self, NewUnplaced},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{App, Problem};

/// What can be placed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub(crate) enum UnplacedKind {
    Rep,
    Count,
}

impl UnplacedKind {
    pub(super) fn word(self) -> &'static str {
        match self {
            UnplacedKind::Rep => "rep",
            UnplacedKind::Count => "count",
        }
    }
}

/// What was logged is kept, and waits for a trainer to put it on a ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SetAside {
    /// Why it did not land on its ride.
    to_be_placed: String,
}

/// The response to something logged: that it landed, or, where its ride is on another day now, that it waits to be placed.
pub(super) async fn or_set_aside(
    app: &App,
    scope: &Scope,
    landed: Result<StatusCode, Problem>,
    (kind, id, ride_id): (UnplacedKind, Uuid, Uuid),
    sent: &impl Serialize,
) -> Result<Response, Problem> {
    let problem = match landed {
        Ok(status) => return Ok(status.into_response()),
        Err(problem) if problem.is_not_yet() => problem,
        Err(problem) => return Err(problem),
    };
    let body = serde_json::to_value(sent).map_err(|_| Problem::broken())?;
    let new =
        NewUnplaced { id, kind: kind.word(), ride_id, person_id: scope.person(), body: &body, why: &problem.detail };
    match unplaced::put(&app.db, scope, &new).await? {
        Put::Created | Put::Same => {
            Ok((StatusCode::ACCEPTED, Json(SetAside { to_be_placed: problem.detail })).into_response())
        }
        Put::Taken | Put::Missing => Err(Problem::taken(kind.word())),
    }
}
