//! One's own account: the password, and one-time codes.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_store::{account, security::What};
use chrono::Utc;
use qrcode::{QrCode, render::svg};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Origin, SignedIn, accepted_step, enrolment, hash_password, random_bytes, strength, weakness},
    http::{
        account::{note_own, sign_in::prove},
        extract::Body,
        validate::Check,
    },
};

/// One's own account.
#[derive(Serialize, ToSchema)]
pub(crate) struct AccountOut {
    email: String,
    /// Whether there is a password; the demo's people have none.
    has_password: bool,
    /// Whether sign-in asks for a one-time code.
    codes: bool,
}

/// A new password, with the current one.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewPassword {
    current: String,
    #[serde(default)]
    code: Option<String>,
    #[schema(min_length = 12, max_length = 128)]
    password: String,
}

/// A password to look at before it is set. It is not kept.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Candidate {
    password: String,
    /// What the person goes by: such words make a password weak.
    #[serde(default)]
    known: Vec<String>,
}

/// How hard a password is to guess.
#[derive(Serialize, ToSchema)]
pub(crate) struct PasswordStrength {
    /// From 0, among the first guesses, to 4.
    #[schema(maximum = 4)]
    strength: u8,
    /// Why it is not taken, if it is not.
    why_not: Option<String>,
}

/// A key for the app that makes one-time codes.
#[derive(Serialize, ToSchema)]
pub(crate) struct CodesOffered {
    /// To type.
    key: String,
    /// To scan: an SVG picture.
    picture: String,
}

/// A code of the key that was offered.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FirstCode {
    code: String,
}

/// One's own account.
#[utoipa::path(get, path = "/api/account", responses((status = 200, body = AccountOut)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<AccountOut>, Problem> {
    let own = account::own(&app.db, &signed.scope).await?;
    Ok(Json(AccountOut { email: own.email, has_password: own.password_hash.is_some(), codes: own.code_key.is_some() }))
}

/// Sets one's own password, and signs every other device out.
#[utoipa::path(put, path = "/api/account/password", request_body = NewPassword,
    responses((status = 204), (status = 401, body = Problem), (status = 422, body = Problem), (status = 429, body = Problem)))]
pub(crate) async fn set_password(
    State(app): State<App>,
    origin: Origin,
    signed: SignedIn,
    Body(sent): Body<NewPassword>,
) -> Result<StatusCode, Problem> {
    let own = account::own(&app.db, &signed.scope).await?;
    let mut check = Check::default();
    check.password("password", &sent.password, &[&own.name, &own.email]);
    check.done()?;
    let email = own.email.to_lowercase();
    let own = prove(&app, &email, Some(own), &origin, (sent.current, sent.code)).await?;
    let hash = hash_password(&app, sent.password).await?;
    account::set_password(&app.db, own.barn_id, own.id, &hash, Some(signed.session)).await?;
    note_own(&app, &signed, What::PasswordSet, &origin).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// How hard a password is to guess, by the rules that setting one goes by.
#[utoipa::path(post, path = "/api/password-strength", request_body = Candidate, responses((status = 200, body = PasswordStrength)))]
pub(crate) async fn judge_password(
    State(app): State<App>,
    Body(sent): Body<Candidate>,
) -> Result<Json<PasswordStrength>, Problem> {
    // Anyone may ask, and measuring takes a while: it waits for its turn like all that is worked out.
    let judged = move || {
        let known: Vec<&str> = sent.known.iter().take(5).map(|word| cut(word, 100)).collect();
        // What is longer than any password that is taken is not measured.
        let strength = strength(cut(&sent.password, 128), &known);
        PasswordStrength { strength, why_not: weakness(&sent.password, &known).map(str::to_owned) }
    };
    app.compute.run(Uuid::nil(), judged).await.map(Json)
}

fn cut(text: &str, most: usize) -> &str {
    text.char_indices().nth(most).map_or(text, |(end, _)| &text[..end])
}

/// Offers a key for one-time codes. Nothing is asked for until a code of it was given.
#[utoipa::path(post, path = "/api/account/codes", responses((status = 200, body = CodesOffered), (status = 403, body = Problem), (status = 409, body = Problem)))]
pub(crate) async fn offer_codes(State(app): State<App>, signed: SignedIn) -> Result<Json<CodesOffered>, Problem> {
    signed.confirmed()?;
    let own = account::own(&app.db, &signed.scope).await?;
    if own.password_hash.is_none() {
        return Err(Problem::conflict("Codes go with a password, and this account has none"));
    }
    let key = random_bytes::<20>();
    let (text, address) = enrolment(&key, &own.email)?;
    account::offer_codes(&app.db, &signed.scope, &key).await?;
    let picture = QrCode::new(address.as_bytes()).map_err(|_| Problem::broken())?;
    Ok(Json(CodesOffered { key: text, picture: picture.render::<svg::Color>().min_dimensions(200, 200).build() }))
}

/// Proves that the app has the key: from now on sign-in asks for a code.
#[utoipa::path(put, path = "/api/account/codes", request_body = FirstCode,
    responses((status = 204), (status = 403, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn turn_codes_on(
    State(app): State<App>,
    origin: Origin,
    signed: SignedIn,
    Body(sent): Body<FirstCode>,
) -> Result<StatusCode, Problem> {
    signed.confirmed()?;
    let own = account::own(&app.db, &signed.scope).await?;
    let key = own.code_key_offered.ok_or_else(|| Problem::conflict("Ask for a key first"))?;
    let wrong = || Problem::field("code", "this is not the code of this key now; type the one that the app shows");
    let step = accepted_step(&key, &sent.code, Utc::now().timestamp()).ok_or_else(wrong)?;
    account::use_code(&app.db, own.account.ok_or_else(Problem::broken)?, step).await?;
    account::turn_codes_on(&app.db, &signed.scope).await?;
    note_own(&app, &signed, What::CodesOn, &origin).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Sign-in asks for no code any more.
#[utoipa::path(delete, path = "/api/account/codes", responses((status = 204), (status = 403, body = Problem)))]
pub(crate) async fn turn_codes_off(
    State(app): State<App>,
    origin: Origin,
    signed: SignedIn,
) -> Result<StatusCode, Problem> {
    signed.confirmed()?;
    account::turn_codes_off(&app.db, &signed.scope).await?;
    note_own(&app, &signed, What::CodesOff, &origin).await?;
    Ok(StatusCode::NO_CONTENT)
}
