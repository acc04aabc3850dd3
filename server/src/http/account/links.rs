//! Links by which a person sets a password, once. The trainer passes them on; no mail is sent.

use axum::{Json, extract::State, http::StatusCode};
use axum_extra::extract::cookie::CookieJar;
use cavesson_store::{
    account, person,
    security::{self, Event, What},
    session::SessionKind,
};
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use sqlx::PgPool;
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::{Origin, Trainer, digest, hash_password, note_about, open_session, random_token},
    http::{
        extract::{Body, Id},
        validate::Check,
    },
};

/// A link to pass on.
#[derive(Serialize, ToSchema)]
pub(crate) struct LinkOut {
    /// Behind the address of the server. The token is in the part that browsers never send.
    path: String,
    expires_at: DateTime<Utc>,
}

/// The token of a link.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LinkToken {
    token: String,
}

/// Whose link it is.
#[derive(Serialize, ToSchema)]
pub(crate) struct LinkPerson {
    name: String,
    email: String,
    barn: String,
    /// The person has no password yet.
    is_new: bool,
}

/// The password that a link's person sets.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LinkPassword {
    token: String,
    #[schema(min_length = 12, max_length = 128)]
    password: String,
    #[serde(default)]
    barn_phone: bool,
}

fn path(token: &str) -> String {
    format!("/join#{token}")
}

/// Makes a link for a person, and ends the one before it.
#[utoipa::path(post, path = "/api/people/{id}/link", params(("id" = Uuid, Path)),
    responses((status = 201, body = LinkOut), (status = 403, body = Problem), (status = 404, body = Problem)))]
pub(crate) async fn make(
    State(app): State<App>,
    origin: Origin,
    Trainer(signed): Trainer,
    Id(id): Id,
) -> Result<(StatusCode, Json<LinkOut>), Problem> {
    signed.confirmed()?;
    let token = random_token();
    let scope = &signed.scope;
    person::get(&app.db, scope, id).await?.ok_or_else(|| Problem::missing("person"))?;
    let made = account::make_link(&app.db, scope.shared(), id, Some(scope.person()), &digest(&token)).await?;
    let expires_at = made.ok_or_else(|| Problem::conflict("They are archived; restore them first"))?;
    note_about(&app, &signed, (What::LinkMade, ""), Some(id), &origin).await?;
    Ok((StatusCode::CREATED, Json(LinkOut { path: path(&token), expires_at })))
}

/// Whose link this is, if it still holds.
#[utoipa::path(post, path = "/api/links/look", request_body = LinkToken,
    responses((status = 200, body = LinkPerson), (status = 404, body = Problem)))]
pub(crate) async fn look(
    State(app): State<App>,
    Body(LinkToken { token }): Body<LinkToken>,
) -> Result<Json<LinkPerson>, Problem> {
    let link = account::find_link(&app.db, &digest(&token)).await?.ok_or_else(Problem::link_ended)?;
    Ok(Json(LinkPerson { name: link.name, email: link.email, barn: link.barn_name, is_new: link.is_new }))
}

/// Sets the password of a link's person and signs them in. One-time codes are off afterwards, and other devices signed out.
#[utoipa::path(post, path = "/api/links/use", request_body = LinkPassword,
    responses((status = 204), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn take(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    Body(sent): Body<LinkPassword>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let token = digest(&sent.token);
    let link = account::find_link(&app.db, &token).await?.ok_or_else(Problem::link_ended)?;
    let mut check = Check::default();
    check.password("password", &sent.password, &[&link.name, &link.email, &link.barn_name]);
    check.done()?;
    let hash = hash_password(&app, sent.password).await?;
    if !account::use_link(&app.db, &token, &link, &hash).await? {
        return Err(Problem::link_ended());
    }
    let event = Event { what: What::LinkUsed, by: Some(link.person_id), about: Some(link.person_id), detail: "" };
    security::note(&app.db, link.barn_id, &event, &origin.log).await?;
    let kind = SessionKind::on_device(sent.barn_phone);
    let jar = open_session(&app, (link.barn_id, link.person_id), kind, &origin, jar).await?;
    Ok((StatusCode::NO_CONTENT, jar))
}

/// A link for whoever signs in with this address; none when nobody does. For the command line, where no trainer can help.
///
/// # Errors
/// The database cannot be reached.
pub async fn reset_link(db: &PgPool, email: &str) -> cavesson_store::Result<Option<String>> {
    let Some(found) = account::by_email(db, email).await? else { return Ok(None) };
    let token = random_token();
    let made = account::make_link(db, found.barn_id, found.id, None, &digest(&token)).await?;
    let event = Event { what: What::LinkMade, by: None, about: Some(found.id), detail: "on the server's command line" };
    security::note(db, found.barn_id, &event, &security::Origin::default()).await?;
    Ok(made.map(|_| path(&token)))
}
