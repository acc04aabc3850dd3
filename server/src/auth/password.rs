use std::{sync::LazyLock, time::Duration};

use argon2::{Argon2, PasswordHasher, PasswordVerifier, password_hash::phc::PasswordHash};

use crate::{App, Problem};

/// Checked when there is no such account, so that an unknown address takes as long as a wrong password.
static NOBODY: LazyLock<String> = LazyLock::new(|| hash("no account has this password").unwrap_or_default());

fn hash(password: &str) -> Option<String> {
    Argon2::default().hash_password(password.as_bytes()).ok().map(|h| h.to_string())
}

/// Argon2id with the library's recommended cost, off the async threads.
pub(crate) async fn hash_password(app: &App, password: String) -> Result<String, Problem> {
    run(app, move || hash(&password)).await?.ok_or_else(Problem::broken)
}

/// Whether the password fits the stored hash; `None` stands for an account that does not exist.
pub(crate) async fn check_password(app: &App, password: String, stored: Option<String>) -> Result<bool, Problem> {
    run(app, move || {
        let known = stored.is_some();
        let text = stored.unwrap_or_else(|| NOBODY.clone());
        let fits = PasswordHash::new(&text)
            .is_ok_and(|parsed| Argon2::default().verify_password(password.as_bytes(), &parsed).is_ok());
        fits && known
    })
    .await
}

/// So long a password waits for its turn to be hashed.
const TURN: Duration = Duration::from_secs(5);

async fn run<T: Send + 'static>(app: &App, work: impl FnOnce() -> T + Send + 'static) -> Result<T, Problem> {
    let turn = tokio::time::timeout(TURN, app.password_checks.acquire()).await.map_err(|_| Problem::busy(5))?;
    let _permit = turn.map_err(|_| Problem::broken())?;
    tokio::task::spawn_blocking(work).await.map_err(|_| Problem::broken())
}

/// Guesses that the strongest kinds of attack need for a password: from 0, among the first tried, to 4. Common passwords, names,
/// dates, keyboard walks and what the person goes by are known to it.
pub(crate) fn strength(password: &str, known: &[&str]) -> u8 {
    u8::from(zxcvbn::zxcvbn(password, known).score())
}

/// Why a password is not taken, if it is not: NIST SP 800-63B asks for length and a list of common ones, and for no mixture of signs.
pub(crate) fn weakness(password: &str, known: &[&str]) -> Option<&'static str> {
    let n = password.chars().count();
    if !(12..=128).contains(&n) {
        return Some("a password has 12 to 128 characters; a short sentence is easy to keep");
    }
    (strength(password, known) < 3).then_some(
        "this is among the passwords that are guessed first; take words that do not belong together, and no name of yours",
    )
}
