//! Setting up, signing in and out.

use axum::{Json, extract::State, http::StatusCode};
use axum_extra::extract::cookie::CookieJar;
use cavesson_core::{
    advice::Posture,
    barn::{Role, Units},
};
use cavesson_store::{
    barn::{self, BarnSettings},
    person::{self, PersonFields},
    session,
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{NewSession, SignedIn, check_password, clear_cookie, hash_password, may_try, session_hash},
    http::{barn::BarnOut, extract::Body, validate::Check},
    services::barn_clock::today_in,
};

/// What a visitor needs to know before signing in.
#[derive(Serialize, ToSchema)]
pub(crate) struct Setup {
    /// Nobody is here yet: the first trainer is to be created.
    needs_first_trainer: bool,
    /// There is a demo barn whose people sign in with a button.
    demo: bool,
}

/// The first trainer of a new installation, and the barn.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FirstTrainer {
    barn_name: String,
    /// IANA name, such as America/Denver.
    time_zone: String,
    name: String,
    email: String,
    password: String,
}

#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Credentials {
    email: String,
    password: String,
}

/// Which of the demo's people to sign in as.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct DemoRole {
    role: Role,
}

/// The signed-in person, their barn and its date.
#[derive(Serialize, ToSchema)]
pub(crate) struct Me {
    id: Uuid,
    name: String,
    role: Role,
    /// Goes into the header `x-csrf-token` of every request that changes something.
    csrf: String,
    barn: BarnOut,
    today: NaiveDate,
}

/// Whether anybody is here yet.
#[utoipa::path(get, path = "/api/setup", responses((status = 200, body = Setup)))]
pub(crate) async fn setup(State(app): State<App>) -> Result<Json<Setup>, Problem> {
    let needs_first_trainer = !barn::any(&app.db).await?;
    let demo = barn::demo(&app.db).await?.is_some();
    Ok(Json(Setup { needs_first_trainer, demo }))
}

/// Creates the barn and its first trainer. Works once, while nobody is here.
#[utoipa::path(post, path = "/api/setup", request_body = FirstTrainer,
    responses((status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn create_first_trainer(
    State(app): State<App>,
    jar: CookieJar,
    Body(first): Body<FirstTrainer>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let mut check = Check::default();
    let barn_name = check.text("barn_name", &first.barn_name, 80);
    let name = check.text("name", &first.name, 80);
    let email = check.email("email", &first.email);
    check.password("password", &first.password);
    crate::http::barn::check_zone(&mut check, &first.time_zone);
    check.done()?;
    let made = || Problem::conflict("This barn already has its first trainer; sign in, or ask them to add you");
    // A hash costs: whoever asks again pays nothing here.
    if barn::any(&app.db).await? {
        return Err(made());
    }
    let hash = hash_password(&app, first.password).await?;
    let mut tx = app.db.begin().await.map_err(cavesson_store::StoreError::from)?;
    // Two first trainers at once: the lock lets one through, and the other finds the barn made.
    sqlx::query("lock table barn in exclusive mode")
        .execute(&mut *tx)
        .await
        .map_err(cavesson_store::StoreError::from)?;
    if barn::any(&mut *tx).await? {
        return Err(made());
    }
    let settings = BarnSettings {
        name: barn_name,
        posture: Posture::default(),
        units: Units::Imperial,
        time_zone: first.time_zone,
    };
    let (barn_id, person_id) = (Uuid::new_v4(), Uuid::new_v4());
    barn::create(&mut *tx, barn_id, &settings, None).await?;
    let fields = PersonFields { name, email, role: Role::Trainer };
    person::insert(&mut *tx, barn_id, person_id, &fields, Some(&hash)).await?;
    tx.commit().await.map_err(cavesson_store::StoreError::from)?;
    let new = NewSession::open(&app, barn_id, person_id).await?;
    Ok((StatusCode::NO_CONTENT, jar.add(new.cookie)))
}

/// Signs in with a password.
#[utoipa::path(post, path = "/api/sign-in", request_body = Credentials,
    responses((status = 204), (status = 401, body = Problem), (status = 429, body = Problem)))]
pub(crate) async fn sign_in(
    State(app): State<App>,
    jar: CookieJar,
    Body(sent): Body<Credentials>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let account = sent.email.trim().to_lowercase();
    if account.len() > 254 || sent.password.len() > 1000 {
        return Err(Problem::wrong_password());
    }
    may_try(&app, &account).await?;
    let found = person::account(&app.db, &account).await?;
    let stored = found.as_ref().map(|a| a.password_hash.clone());
    if !check_password(&app, sent.password, stored).await? {
        session::note_failure(&app.db, &account).await?;
        return Err(Problem::wrong_password());
    }
    let found = found.ok_or_else(Problem::wrong_password)?;
    session::clear_failures(&app.db, &account).await?;
    let new = NewSession::open(&app, found.barn_id, found.id).await?;
    Ok((StatusCode::NO_CONTENT, jar.add(new.cookie)))
}

/// Signs in as one of the demo's people. Only where there is a demo barn.
#[utoipa::path(post, path = "/api/demo-sign-in", request_body = DemoRole,
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn demo_sign_in(
    State(app): State<App>,
    jar: CookieJar,
    Body(DemoRole { role }): Body<DemoRole>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let barn = barn::demo(&app.db).await?.ok_or_else(|| Problem::missing("demo"))?;
    let person = person::first_with_role(&app.db, barn, role).await?.ok_or_else(|| Problem::missing("person"))?;
    let new = NewSession::open(&app, barn, person).await?;
    Ok((StatusCode::NO_CONTENT, jar.add(new.cookie)))
}

/// Ends this session.
#[utoipa::path(post, path = "/api/sign-out", responses((status = 204), (status = 401, body = Problem)))]
pub(crate) async fn sign_out(
    State(app): State<App>,
    jar: CookieJar,
    _signed: SignedIn,
) -> Result<(StatusCode, CookieJar), Problem> {
    if let Some(hash) = session_hash(&jar) {
        session::close(&app.db, &hash).await?;
    }
    Ok((StatusCode::NO_CONTENT, jar.add(clear_cookie(&app))))
}

/// Ends every session of the signed-in person, on every device.
#[utoipa::path(post, path = "/api/sign-out-everywhere", responses((status = 204), (status = 401, body = Problem)))]
pub(crate) async fn sign_out_everywhere(
    State(app): State<App>,
    jar: CookieJar,
    signed: SignedIn,
) -> Result<(StatusCode, CookieJar), Problem> {
    session::close_all(&app.db, signed.scope.barn, signed.scope.person).await?;
    Ok((StatusCode::NO_CONTENT, jar.add(clear_cookie(&app))))
}

/// Who is signed in.
#[utoipa::path(get, path = "/api/me", responses((status = 200, body = Me), (status = 401, body = Problem)))]
pub(crate) async fn me(State(app): State<App>, signed: SignedIn) -> Result<Json<Me>, Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let today = today_in(&barn);
    let barn = BarnOut::try_from(barn)?;
    Ok(Json(Me { id: signed.scope.person, name: signed.name, role: signed.role, csrf: signed.csrf, barn, today }))
}
