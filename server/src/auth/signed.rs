use axum::{
    extract::{FromRef, FromRequestParts},
    http::{Method, request::Parts},
};
use axum_extra::extract::cookie::CookieJar;
use cavesson_core::barn::Role;
use cavesson_store::{Scope, session};
use subtle::ConstantTimeEq;

use crate::{App, Problem, auth::session_hash};

/// A signed-in person, for any request.
#[derive(Debug, Clone)]
pub(crate) struct SignedIn {
    pub(crate) scope: Scope,
    pub(crate) name: String,
    pub(crate) role: Role,
    pub(crate) csrf: String,
}

/// A signed-in person who may log rides: a trainer or an assistant.
pub(crate) struct Rider(pub(crate) SignedIn);

/// A signed-in person who may manage the barn: a trainer.
pub(crate) struct Trainer(pub(crate) SignedIn);

impl<S: Send + Sync> FromRequestParts<S> for SignedIn
where
    App: FromRef<S>,
{
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let app = App::from_ref(state);
        let hash = session_hash(&CookieJar::from_headers(&parts.headers)).ok_or_else(Problem::signed_out)?;
        let found = session::find(&app.db, &hash).await?.ok_or_else(Problem::signed_out)?;
        if !matches!(parts.method, Method::GET | Method::HEAD) {
            let sent = parts.headers.get("x-csrf-token").map_or(&b""[..], |v| v.as_bytes());
            if !bool::from(sent.ct_eq(found.csrf.as_bytes())) {
                return Err(Problem::forbidden("The request lacks this session's token; reload the page"));
            }
        }
        let role = found.role;
        let owned_by = (role == Role::Owner).then_some(found.person_id);
        let scope = Scope { barn: found.barn_id, person: found.person_id, owned_by };
        Ok(SignedIn { scope, name: found.name, role, csrf: found.csrf })
    }
}

impl<S: Send + Sync> FromRequestParts<S> for Rider
where
    App: FromRef<S>,
{
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let signed = SignedIn::from_request_parts(parts, state).await?;
        if signed.role == Role::Owner {
            return Err(Problem::forbidden("Owners read; the trainer or an assistant logs rides"));
        }
        Ok(Rider(signed))
    }
}

impl<S: Send + Sync> FromRequestParts<S> for Trainer
where
    App: FromRef<S>,
{
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let signed = SignedIn::from_request_parts(parts, state).await?;
        if signed.role != Role::Trainer {
            return Err(Problem::forbidden("Only a trainer changes the barn, its people and its horses"));
        }
        Ok(Trainer(signed))
    }
}

/// Whether an account may try a password now: after three wrong ones the wait doubles with each, up to a minute.
pub(crate) async fn may_try(app: &App, account: &str) -> Result<(), Problem> {
    let (failures, since) = session::failures(&app.db, account).await?;
    if failures < 3 {
        return Ok(());
    }
    let wait = 2_f64.powi((failures - 2).clamp(1, 6) as i32).min(60.0);
    if since < wait { Err(Problem::slow_down((wait - since).ceil() as u64)) } else { Ok(()) }
}
