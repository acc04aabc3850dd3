use axum_extra::extract::cookie::{Cookie, CookieJar, SameSite};
use base64::{Engine, engine::general_purpose::URL_SAFE_NO_PAD};
use cavesson_store::session;
use rand::Rng;
use sha2::{Digest, Sha256};
use uuid::Uuid;

use crate::{App, Problem};

/// Name of the session cookie.
const COOKIE: &str = "cavesson_session";

/// A token that cannot be guessed, fit for an address.
pub(crate) fn random_token() -> String {
    let mut bytes = [0_u8; 32];
    rand::rng().fill_bytes(&mut bytes);
    URL_SAFE_NO_PAD.encode(bytes)
}

/// What is kept of a token.
pub(crate) fn digest(token: &str) -> Vec<u8> {
    Sha256::digest(token.as_bytes()).to_vec()
}

/// The hash under which a request's session is stored.
pub(crate) fn session_hash(jar: &CookieJar) -> Option<Vec<u8>> {
    jar.get(COOKIE).map(|c| digest(c.value()))
}

/// A session just opened: its cookie and the token that unsafe requests must carry.
pub(crate) struct NewSession {
    pub(crate) cookie: Cookie<'static>,
}

impl NewSession {
    pub(crate) async fn open(app: &App, barn: Uuid, person: Uuid) -> Result<NewSession, Problem> {
        let (token, csrf) = (random_token(), random_token());
        session::open(&app.db, &digest(&token), barn, person, &csrf).await?;
        Ok(NewSession { cookie: cookie(app, token) })
    }
}

fn cookie(app: &App, token: String) -> Cookie<'static> {
    Cookie::build((COOKIE, token))
        .path("/")
        .http_only(true)
        .same_site(SameSite::Strict)
        .secure(app.options.secure_cookies)
        .build()
}

/// A cookie that takes the session's place and runs out at once.
pub(crate) fn clear_cookie(app: &App) -> Cookie<'static> {
    let mut gone = cookie(app, String::new());
    gone.make_removal();
    gone
}
