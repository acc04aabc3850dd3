use axum_extra::extract::cookie::{Cookie, CookieJar, SameSite};
use base64::{Engine, engine::general_purpose::URL_SAFE_NO_PAD};
use cavesson_store::{
    attempt, security,
    session::{self, SessionKind},
};
use rand::Rng;
use sha2::{Digest, Sha256};
use time::Duration;
use uuid::Uuid;

use crate::{App, Problem, auth::Origin};

/// Names of the cookies. Over HTTPS browsers hold a name with this prefix to the whole host, this host alone and HTTPS.
const SESSION: [&str; 2] = ["cavesson_session", "__Host-cavesson_session"];
const DEVICE: [&str; 2] = ["cavesson_device", "__Host-cavesson_device"];

/// A token that cannot be guessed, fit for an address.
pub(crate) fn random_token() -> String {
    URL_SAFE_NO_PAD.encode(random_bytes::<32>())
}

/// Bytes that cannot be guessed.
pub(crate) fn random_bytes<const N: usize>() -> [u8; N] {
    let mut bytes = [0_u8; N];
    rand::rng().fill_bytes(&mut bytes);
    bytes
}

/// What is kept of a token.
pub(crate) fn digest(token: &str) -> Vec<u8> {
    Sha256::digest(token.as_bytes()).to_vec()
}

/// The hash under which a request's session is stored.
pub(crate) fn session_hash(jar: &CookieJar) -> Option<Vec<u8>> {
    kept(jar, SESSION)
}

/// The hash of the token of the device that asks.
pub(crate) fn device_hash(jar: &CookieJar) -> Option<Vec<u8>> {
    kept(jar, DEVICE)
}

fn kept(jar: &CookieJar, names: [&str; 2]) -> Option<Vec<u8>> {
    names.iter().find_map(|name| jar.get(name)).map(|c| digest(c.value()))
}

/// Opens a session and remembers the device: the cookies are in the jar, and the security log has it.
pub(crate) async fn open_session(
    app: &App,
    (barn, person): (Uuid, Uuid),
    kind: SessionKind,
    origin: &Origin,
    jar: CookieJar,
) -> Result<CookieJar, Problem> {
    let (token, csrf) = (random_token(), random_token());
    let token_hash = digest(&token);
    let new =
        session::NewSession { token_hash: &token_hash, barn, person, csrf: &csrf, kind, device: &origin.log.device };
    session::open(&app.db, &new).await?;
    let event = security::Event { what: security::What::SignedIn, by: Some(person), about: Some(person), detail: "" };
    security::note(&app.db, barn, &event, &origin.log).await?;
    let mut jar = jar.add(cookie(app, SESSION, token, (kind != SessionKind::Office).then_some(90)));
    let device = match &origin.device_hash {
        Some(known) => known.clone(),
        None => {
            let token = random_token();
            let hash = digest(&token);
            jar = jar.add(cookie(app, DEVICE, token, Some(180)));
            hash
        }
    };
    if kind != SessionKind::Demo {
        attempt::remember_device(&app.db, barn, person, &device).await?;
    }
    Ok(jar)
}

/// A cookie that ends with the browser, or after so many days.
fn cookie(app: &App, names: [&'static str; 2], token: String, days: Option<i64>) -> Cookie<'static> {
    let secure = app.options.secure_cookies;
    let mut cookie = Cookie::build((names[usize::from(secure)], token))
        .path("/")
        .http_only(true)
        .same_site(SameSite::Strict)
        .secure(secure)
        .build();
    if let Some(days) = days {
        cookie.set_max_age(Duration::days(days));
    }
    cookie
}

/// A cookie that takes the session's place and runs out at once.
pub(crate) fn clear_cookie(app: &App) -> Cookie<'static> {
    let mut gone = cookie(app, SESSION, String::new(), None);
    gone.make_removal();
    gone
}
