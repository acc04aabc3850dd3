//! Setting up, signing in and out.

use axum::{Json, extract::State, http::StatusCode};
use axum_extra::extract::cookie::CookieJar;
use cavesson_core::{
    advice::Posture,
    barn::{Role, Units},
};
use cavesson_store::{
    account::{self, Account},
    attempt::{self, Attempt},
    barn::{self, BarnSettings},
    person::{self, PersonFields},
    security::{self, Event, What},
    session::{self, SessionKind},
};
use chrono::{NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{
        Origin, SignedIn, accepted_step, begin_attempt, check_password, clear_cookie, hash_password, open_session,
        session_hash,
    },
    http::{account::note_own, barn::BarnOut, extract::Body, validate::Check},
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
    #[schema(min_length = 1, max_length = 80)]
    barn_name: String,
    /// IANA name, such as America/Denver.
    time_zone: String,
    #[schema(min_length = 1, max_length = 80)]
    name: String,
    #[schema(min_length = 3, max_length = 254)]
    email: String,
    #[schema(min_length = 12, max_length = 128)]
    password: String,
}

#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Credentials {
    email: String,
    password: String,
    /// The one-time code, where the account asks for one.
    #[serde(default)]
    code: Option<String>,
    /// A device that stays in the barn: signed in for a month without use, not for half an hour.
    #[serde(default)]
    barn_phone: bool,
}

/// The password once more, before an account is changed or records are put away.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Confirmation {
    password: String,
    #[serde(default)]
    code: Option<String>,
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
    /// The barns that they may enter, this one among them.
    barns: Vec<BarnChoice>,
    today: NaiveDate,
}

/// A barn that someone may enter.
#[derive(Serialize, ToSchema)]
pub(crate) struct BarnChoice {
    id: Uuid,
    name: String,
    role: Role,
    /// Whether it is the one that this session is in.
    here: bool,
}

/// Whether anybody is here yet.
#[utoipa::path(get, path = "/api/setup", responses((status = 200, body = Setup)))]
pub(crate) async fn setup(State(app): State<App>) -> Result<Json<Setup>, Problem> {
    let needs_first_trainer = !barn::any(&app.db).await?;
    let demo = app.options.demo && barn::demo(&app.db).await?.is_some();
    Ok(Json(Setup { needs_first_trainer, demo }))
}

/// Creates the barn and its first trainer. Works once, while nobody is here.
#[utoipa::path(post, path = "/api/setup", request_body = FirstTrainer,
    responses((status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn create_first_trainer(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    Body(first): Body<FirstTrainer>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let mut check = Check::default();
    let barn_name = check.text("barn_name", &first.barn_name, 80);
    let name = check.text("name", &first.name, 80);
    let email = check.email("email", &first.email);
    check.password("password", &first.password, &[&first.name, &first.email, &first.barn_name]);
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
    person::insert(&mut tx, barn_id, person_id, &fields, Some(&hash)).await?;
    tx.commit().await.map_err(cavesson_store::StoreError::from)?;
    let jar = open_session(&app, (barn_id, person_id), SessionKind::Office, &origin, jar).await?;
    Ok((StatusCode::NO_CONTENT, jar))
}

/// Signs in with a password, and with a one-time code where the account asks for one.
#[utoipa::path(post, path = "/api/sign-in", request_body = Credentials,
    responses((status = 204), (status = 401, body = Problem), (status = 429, body = Problem)))]
pub(crate) async fn sign_in(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    Body(sent): Body<Credentials>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let email = sent.email.trim().to_lowercase();
    if email.len() > 254 {
        return Err(Problem::wrong_password());
    }
    let found = account::by_email(&app.db, &email).await?;
    let found = prove(&app, &email, found, &origin, (sent.password, sent.code)).await?;
    let kind = SessionKind::on_device(sent.barn_phone);
    let jar = open_session(&app, (found.barn_id, found.id), kind, &origin, jar).await?;
    Ok((StatusCode::NO_CONTENT, jar))
}

/// Takes the password once more: for ten minutes accounts can be changed and records put away.
#[utoipa::path(post, path = "/api/confirm", request_body = Confirmation,
    responses((status = 204), (status = 401, body = Problem), (status = 429, body = Problem)))]
pub(crate) async fn confirm(
    State(app): State<App>,
    origin: Origin,
    signed: SignedIn,
    Body(sent): Body<Confirmation>,
) -> Result<StatusCode, Problem> {
    let own = account::own(&app.db, &signed.scope).await?;
    let email = own.email.to_lowercase();
    prove(&app, &email, Some(own), &origin, (sent.password, sent.code)).await?;
    session::confirm(&app.db, signed.session).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Whether whoever asks is who has this account. The attempt is counted before the password and the code are looked at.
pub(crate) async fn prove(
    app: &App,
    email: &str,
    found: Option<Account>,
    origin: &Origin,
    (password, code): (String, Option<String>),
) -> Result<Account, Problem> {
    if password.len() > 1000 {
        return Err(Problem::wrong_password());
    }
    let device = match &origin.device_hash {
        Some(device) if attempt::knows_device(&app.db, email, device).await? => Some(device.as_slice()),
        _ => None,
    };
    let attempt = Attempt { account: email, device, address: origin.log.address.as_deref() };
    let id = begin_attempt(app, &attempt).await?;
    let stored = found.as_ref().and_then(|a| a.password_hash.clone());
    let right = check_password(app, password, stored).await?;
    let Some(found) = found else { return Err(Problem::wrong_password()) };
    let failed = async |detail| {
        let event = Event { what: What::SignInFailed, by: None, about: Some(found.id), detail };
        security::note(&app.db, found.barn_id, &event, &origin.log).await
    };
    if !right {
        failed("wrong password").await?;
        return Err(Problem::wrong_password());
    }
    if let Some(key) = &found.code_key {
        let Some(code) = code.filter(|c| !c.trim().is_empty()) else {
            // The password was right and nothing was guessed: asking for the code is no failure.
            attempt::withdraw(&app.db, id).await?;
            return Err(Problem::code_needed());
        };
        let step = accepted_step(key, &code, Utc::now().timestamp());
        let fresh = match step.zip(found.account) {
            Some((step, account)) => account::use_code(&app.db, account, step).await?,
            None => false,
        };
        if !fresh {
            failed("wrong code").await?;
            return Err(Problem {
                detail: "This code does not hold, or was used; type the next one".to_owned(),
                ..Problem::code_needed()
            });
        }
    }
    attempt::succeeded(&app.db, id, &attempt).await?;
    Ok(found)
}

/// Signs in as one of the demo's people. Only where the server was started with the demo.
#[utoipa::path(post, path = "/api/demo-sign-in", request_body = DemoRole,
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn demo_sign_in(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    Body(DemoRole { role }): Body<DemoRole>,
) -> Result<(StatusCode, CookieJar), Problem> {
    let demo = if app.options.demo { barn::demo(&app.db).await? } else { None };
    let barn = demo.ok_or_else(|| Problem::missing("demo"))?;
    let person = person::first_with_role(&app.db, barn, role).await?.ok_or_else(|| Problem::missing("person"))?;
    let jar = open_session(&app, (barn, person), SessionKind::Demo, &origin, jar).await?;
    Ok((StatusCode::NO_CONTENT, jar))
}

/// Ends this session.
#[utoipa::path(post, path = "/api/sign-out", responses((status = 204), (status = 401, body = Problem)))]
pub(crate) async fn sign_out(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    signed: SignedIn,
) -> Result<(StatusCode, ForgetKept, CookieJar), Problem> {
    note_own(&app, &signed, What::SignedOut, &origin).await?;
    if let Some(hash) = session_hash(&jar) {
        session::close(&app.db, &hash).await?;
    }
    Ok((StatusCode::NO_CONTENT, FORGET_KEPT, jar.add(clear_cookie(&app))))
}

/// Ends every session of the signed-in person, on every device.
#[utoipa::path(post, path = "/api/sign-out-everywhere", responses((status = 204), (status = 401, body = Problem)))]
pub(crate) async fn sign_out_everywhere(
    State(app): State<App>,
    jar: CookieJar,
    origin: Origin,
    signed: SignedIn,
) -> Result<(StatusCode, ForgetKept, CookieJar), Problem> {
    note_own(&app, &signed, What::SignedOut, &origin).await?;
    session::close_all(&app.db, signed.scope.shared(), signed.scope.person()).await?;
    Ok((StatusCode::NO_CONTENT, FORGET_KEPT, jar.add(clear_cookie(&app))))
}

/// The browser forgets the responses that it keeps: they were this person's.
type ForgetKept = [(&'static str, &'static str); 1];
const FORGET_KEPT: ForgetKept = [("clear-site-data", "\"cache\"")];

/// Who is signed in.
#[utoipa::path(get, path = "/api/me", responses((status = 200, body = Me), (status = 401, body = Problem)))]
pub(crate) async fn me(State(app): State<App>, signed: SignedIn) -> Result<Json<Me>, Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let today = today_in(&barn);
    let barn = BarnOut::try_from(barn)?;
    let barns = account::barns(&app.db, &signed.scope).await?;
    let here = signed.scope.shared();
    let choice =
        |b: account::Membership| BarnChoice { id: b.barn_id, name: b.barn_name, role: b.role, here: b.barn_id == here };
    let barns = barns.into_iter().map(choice).collect();
    let SignedIn { scope, name, role, csrf, .. } = signed;
    Ok(Json(Me { id: scope.person(), name, role, csrf, barn, barns, today }))
}
