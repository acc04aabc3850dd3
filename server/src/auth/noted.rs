use cavesson_store::security::{self, Event, What};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Origin, SignedIn},
};

/// Writes down what someone did, to whose account, and what exactly.
pub(crate) async fn note_about(
    app: &App,
    signed: &SignedIn,
    (what, detail): (What, &str),
    about: Option<Uuid>,
    origin: &Origin,
) -> Result<(), Problem> {
    let event = Event { what, by: Some(signed.scope.person()), about, detail };
    Ok(security::note(&app.db, signed.scope.shared(), &event, &origin.log).await?)
}
