//! Links by which a person sets a password, once. The trainer passes them on; no mail is sent.

use axum::{Json, extract::State, http::StatusCode};
use axum_extra::extract::cookie::CookieJar;
use cavesson_store::{
    account::{self, Link},
    person,
    security::{self, Event, What},
    session::SessionKind,
};
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use sqlx::PgPool;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Origin, Trainer, digest, hash_password, note_about, open_session, random_token},
    http::{
        account::sign_in::prove,
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
    /// The person cannot sign in to this barn yet.
    is_new: bool,
    /// There is an account with this address: it joins the barn with its password.
    has_account: bool,
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
    responses((status = 201, body = LinkOut), (status = 403, body = Problem), (status = 404, body = Problem), (status = 409, body = Problem)))]
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
    // Whoever sets the password of an account is in all of its barns.
    if account::is_elsewhere(&app.db, scope, id).await? {
        let only = "They are in another barn too, so only they change their password; whoever runs the server can help";
        return Err(Problem::conflict(only));
    }
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
    Ok(Json(LinkPerson {
        name: link.name,
        email: link.email,
        barn: link.barn_name,
        is_new: link.is_new,
        has_account: link.has_account,
    }))
}

/// Sets the password of a link's person and signs them in. One-time codes are off afterwards, and other devices signed out.
#[utoipa::path(post, path = "/api/links/use", request_body = LinkPassword,
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn take(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    Body(sent): Body<LinkPassword>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let token = digest(&sent.token);
    let link = account::find_link(&app.db, &token).await?.ok_or_else(Problem::link_ended)?;
    if link.has_account {
        return Err(Problem::conflict("There is an account with this address; join the barn with its password"));
    }
    let mut check = Check::default();
    check.password("password", &sent.password, &[&link.name, &link.email, &link.barn_name]);
    check.done()?;
    let hash = hash_password(&app, sent.password).await?;
    if !account::use_link(&app.db, &token, &link, &hash).await? {
        return Err(Problem::link_ended());
    }
    let kind = SessionKind::on_device(sent.barn_phone);
    enter_by_link(&app, &link, kind, &origin, jar).await
}

/// The password of an account that joins the barn of a link.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LinkJoin {
    token: String,
    password: String,
    /// The one-time code, where the account asks for one.
    #[serde(default)]
    code: Option<String>,
    #[serde(default)]
    barn_phone: bool,
}

/// Lets the account with the address of a link into its barn, and signs it in there.
#[utoipa::path(post, path = "/api/links/join", request_body = LinkJoin,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 429, body = Problem)))]
pub(crate) async fn join(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    Body(sent): Body<LinkJoin>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let token = digest(&sent.token);
    let link = account::find_link(&app.db, &token).await?.ok_or_else(Problem::link_ended)?;
    let email = link.email.to_lowercase();
    let found = account::to_join(&app.db, &link).await?;
    let found = prove(&app, &email, found, &origin, (sent.password, sent.code)).await?;
    let account = found.account.ok_or_else(Problem::broken)?;
    if !account::join(&app.db, &token, &link, account).await? {
        return Err(Problem::link_ended());
    }
    let kind = SessionKind::on_device(sent.barn_phone);
    enter_by_link(&app, &link, kind, &origin, jar).await
}

/// Signs in whom a link was for, in its barn.
async fn enter_by_link(
    app: &App,
    link: &Link,
    kind: SessionKind,
    origin: &Origin,
    jar: CookieJar,
) -> Result<(StatusCode, CookieJar), Problem> {
    let event = Event { what: What::LinkUsed, by: Some(link.person_id), about: Some(link.person_id), detail: "" };
    security::note(&app.db, link.barn_id, &event, &origin.log).await?;
    let jar = open_session(app, (link.barn_id, link.person_id), kind, origin, jar).await?;
    Ok((StatusCode::NO_CONTENT, jar))
}

/// A link for whoever signs in with this address, or was asked to a barn by it last and has not come; none when nobody was. For the
/// command line, where no trainer can help.
///
/// # Errors
/// The database cannot be reached.
pub async fn reset_link(db: &PgPool, email: &str) -> cavesson_store::Result<Option<String>> {
    let signs_in = account::by_email(db, email).await?.map(|found| (found.barn_id, found.id));
    let whose = match signs_in {
        Some(whose) => Some(whose),
        None => account::invited(db, email).await?,
    };
    let Some((barn, person)) = whose else { return Ok(None) };
    link_by_hand(db, barn, person).await
}

/// A link that was made on the server's command line.
pub(super) async fn link_by_hand(db: &PgPool, barn: Uuid, person: Uuid) -> cavesson_store::Result<Option<String>> {
    let token = random_token();
    let made = account::make_link(db, barn, person, None, &digest(&token)).await?;
    let event = Event { what: What::LinkMade, by: None, about: Some(person), detail: "on the server's command line" };
    security::note(db, barn, &event, &security::Origin::default()).await?;
    Ok(made.map(|_| path(&token)))
}
