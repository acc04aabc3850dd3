//! Several barns in one installation: who enters which, and how one is added.

use axum::{extract::State, http::StatusCode};
use cavesson_core::{
    advice::Posture,
    barn::{Role, Units},
};
use cavesson_store::{
    barn::{self, BarnSettings},
    person::{self, PersonFields},
    session,
};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::{account::links::link_by_hand, barn::check_zone, extract::Id, validate::Check},
};

/// Takes this session to another barn of the signed-in person.
#[utoipa::path(post, path = "/api/barns/{id}/enter", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn enter(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<StatusCode, Problem> {
    if !session::enter(&app.db, &signed.scope, signed.session, id).await? {
        return Err(Problem::missing("barn"));
    }
    Ok(StatusCode::NO_CONTENT)
}

/// A barn to add, and its first trainer.
#[derive(Debug, Clone)]
#[allow(missing_docs)]
pub struct NewBarn {
    pub name: String,
    /// IANA name, such as America/Denver.
    pub time_zone: String,
    pub trainer: String,
    pub email: String,
}

/// Adds a barn to the installation, and gives the path of the link by which its first trainer comes in: with a new password, or with the
/// account that they have in another barn.
///
/// # Errors
/// A problem that names the field that is not right, or a database that cannot be reached.
pub async fn add_barn(db: &PgPool, new: &NewBarn) -> Result<String, Problem> {
    let mut check = Check::default();
    let name = check.text("name", &new.name, 80);
    let trainer = check.text("trainer", &new.trainer, 80);
    let email = check.email("email", &new.email);
    check_zone(&mut check, &new.time_zone);
    check.done()?;
    let (barn_id, person_id) = (Uuid::new_v4(), Uuid::new_v4());
    let time_zone = new.time_zone.clone();
    let settings = BarnSettings { name, posture: Posture::default(), units: Units::Imperial, time_zone };
    let fields = PersonFields { name: trainer, email, role: Role::Trainer };
    let mut tx = db.begin().await.map_err(cavesson_store::StoreError::from)?;
    barn::create(&mut *tx, barn_id, &settings, None).await?;
    person::insert(&mut tx, barn_id, person_id, &fields, None).await?;
    tx.commit().await.map_err(cavesson_store::StoreError::from)?;
    link_by_hand(db, barn_id, person_id).await?.ok_or_else(Problem::broken)
}
