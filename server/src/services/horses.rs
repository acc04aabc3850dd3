//! Horses as a signed-in person may see them.

use cavesson_store::horse::{self, Horse};
use uuid::Uuid;

use crate::{App, Problem, auth::SignedIn};

/// The horse, or the problem that there is none.
pub(crate) async fn find(app: &App, signed: &SignedIn, id: Uuid) -> Result<Horse, Problem> {
    horse::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("horse"))
}
