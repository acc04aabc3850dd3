//! What happened to the accounts of the barn.

use axum::{Json, extract::State};
use cavesson_store::{Page, security};
use chrono::{DateTime, Utc};
use serde::Serialize;
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::Trainer,
    http::extract::{Paging, QueryParams},
};

/// A line of the security log.
#[derive(Serialize, ToSchema)]
pub(crate) struct SecurityEntry {
    id: i64,
    at: DateTime<Utc>,
    /// A word for what happened: `signed-in`, `sign-in-failed`, `person-changed` and so on.
    what: String,
    /// Who did it, where that is known.
    by: Option<String>,
    /// Whose account it is about.
    about: Option<String>,
    detail: String,
    /// Of IPv6 the network.
    address: Option<String>,
    device: String,
}

/// A page of the security log.
#[derive(Serialize, ToSchema)]
pub(crate) struct SecurityLog {
    items: Vec<SecurityEntry>,
    offset: i64,
    more: bool,
}

/// Sign-ins, failures, changes of accounts, and records taken away, the latest first.
#[utoipa::path(get, path = "/api/security-log", params(Paging), responses((status = 200, body = SecurityLog), (status = 403, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    Trainer(signed): Trainer,
    QueryParams(paging): QueryParams<Paging>,
) -> Result<Json<SecurityLog>, Problem> {
    let p = paging.checked()?;
    let Page { items, offset, more } = security::list(&app.db, &signed.scope, p.offset, p.limit).await?;
    let out = |e: security::Entry| SecurityEntry {
        id: e.id,
        at: e.at,
        what: e.what,
        by: e.by,
        about: e.about,
        detail: e.detail,
        address: e.address,
        device: e.device,
    };
    Ok(Json(SecurityLog { items: items.into_iter().map(out).collect(), offset, more }))
}
