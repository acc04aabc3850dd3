use axum::{
    extract::{FromRef, FromRequestParts},
    http::{Method, request::Parts},
};
use axum_extra::extract::cookie::CookieJar;
use cavesson_core::barn::Role;
use cavesson_store::{
    Scope,
    attempt::{self, Attempt, Turn},
    session,
};
use chrono::{TimeDelta, Utc};
use subtle::ConstantTimeEq;
use uuid::Uuid;

use crate::{App, Problem, auth::session_hash};

/// A signed-in person, for any request.
#[derive(Debug, Clone)]
pub(crate) struct SignedIn {
    pub(crate) scope: Scope,
    pub(crate) name: String,
    pub(crate) role: Role,
    pub(crate) csrf: String,
    pub(crate) session: Uuid,
    confirmed: bool,
}

/// A session is noted as in use so often at the most.
const SEEN_EVERY: TimeDelta = TimeDelta::minutes(1);

impl SignedIn {
    /// The same request in the name of another person of the barn, whose log is handed in.
    pub(crate) fn for_person(&self, person: Uuid) -> SignedIn {
        SignedIn { scope: self.scope.for_person(person), ..self.clone() }
    }

    /// The password was given within the last ten minutes: asked before accounts are changed or records put away.
    pub(crate) fn confirmed(&self) -> Result<(), Problem> {
        if self.confirmed { Ok(()) } else { Err(Problem::confirm()) }
    }
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
            app.warmth.wrote(found.barn_id);
        }
        let role = found.role;
        let scope = match role {
            Role::Owner => Scope::owner_in(found.barn_id, found.person_id),
            Role::Trainer | Role::Assistant => Scope::staff_of(found.barn_id, found.person_id),
        };
        if Utc::now() - found.seen_at > SEEN_EVERY {
            session::seen(&app.db, found.id).await?;
        }
        let (session, confirmed) = (found.id, found.confirmed);
        Ok(SignedIn { scope, name: found.name, role, csrf: found.csrf, session, confirmed })
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

/// Counts an attempt on an account before its password is checked, or says how long to wait.
pub(crate) async fn begin_attempt(app: &App, attempt: &Attempt<'_>) -> Result<i64, Problem> {
    match attempt::begin(&app.db, attempt).await? {
        Turn::Now(id) => Ok(id),
        Turn::In(seconds) => Err(Problem::slow_down(seconds)),
    }
}
