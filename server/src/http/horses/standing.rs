//! A horse's standing: what it owns, with its calls and their reasons.

use axum::{
    Json,
    extract::State,
    response::{IntoResponse, Response},
};

use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::Id,
    services::standing::{of_horse, response::StandingOut},
};

/// What a horse owns, with its calls and their reasons.
#[utoipa::path(get, path = "/api/horses/{id}/standing", params(("id" = Uuid, Path)),
    responses((status = 200, body = StandingOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Response, Problem> {
    Ok(Json(&*of_horse(&app, &signed, id).await?).into_response())
}
