use std::sync::LazyLock;

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

async fn run<T: Send + 'static>(app: &App, work: impl FnOnce() -> T + Send + 'static) -> Result<T, Problem> {
    let _permit = app.password_checks.acquire().await.map_err(|_| Problem::broken())?;
    tokio::task::spawn_blocking(work).await.map_err(|_| Problem::broken())
}
