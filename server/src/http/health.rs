//! What whoever runs the server asks it: whether it is alive, and whether it can do its work.

use axum::{extract::State, http::StatusCode};

use crate::App;

/// The process answers.
pub(crate) async fn alive() -> &'static str {
    "alive\n"
}

/// The database answers too, with the schema of this build.
pub(crate) async fn ready(State(app): State<App>) -> (StatusCode, &'static str) {
    match cavesson_store::is_ready(&app.db).await {
        Ok(true) => (StatusCode::OK, "ready\n"),
        Ok(false) => (StatusCode::SERVICE_UNAVAILABLE, "the schema of the database is another version's\n"),
        Err(error) => {
            tracing::warn!(%error, "not ready");
            (StatusCode::SERVICE_UNAVAILABLE, "the database cannot be reached\n")
        }
    }
}
