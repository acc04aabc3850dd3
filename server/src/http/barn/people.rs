//! People and their roles.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::barn::Role;
use cavesson_store::{
    Page, Put,
    person::{self, Person, PersonFields, PersonUpdate},
    security::What,
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Origin, SignedIn, Trainer, note_about},
    http::{
        extract::{Body, Id, Paging, QueryParams},
        validate::Check,
    },
};

/// A person of the barn.
#[derive(Serialize, ToSchema)]
pub(crate) struct PersonOut {
    id: Uuid,
    name: String,
    /// Only for trainers to see.
    #[serde(skip_serializing_if = "Option::is_none")]
    email: Option<String>,
    role: Role,
    can_sign_in: bool,
    archived: bool,
    version: i32,
}

/// A page of people.
#[derive(Serialize, ToSchema)]
pub(crate) struct People {
    items: Vec<PersonOut>,
    offset: i64,
    more: bool,
}

/// A person to add (without a version) or to change (with the version that was read).
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PersonIn {
    version: Option<i32>,
    #[schema(min_length = 1, max_length = 80)]
    name: String,
    #[schema(min_length = 3, max_length = 254)]
    email: String,
    role: Role,
    #[serde(default)]
    archived: bool,
}

fn told(person: Person, to: Role) -> PersonOut {
    PersonOut {
        id: person.id,
        name: person.name,
        email: (to == Role::Trainer).then_some(person.email),
        role: person.role,
        can_sign_in: person.can_sign_in,
        archived: person.archived_at.is_some(),
        version: person.version,
    }
}

/// People by name.
#[utoipa::path(get, path = "/api/people", params(Paging), responses((status = 200, body = People)))]
pub(crate) async fn list(
    State(app): State<App>,
    signed: SignedIn,
    QueryParams(paging): QueryParams<Paging>,
) -> Result<Json<People>, Problem> {
    let p = paging.checked()?;
    let Page { items, offset, more } = person::list(&app.db, &signed.scope, p.archived, p.offset, p.limit).await?;
    Ok(Json(People { items: items.into_iter().map(|i| told(i, signed.role)).collect(), offset, more }))
}

/// One person.
#[utoipa::path(get, path = "/api/people/{id}", params(("id" = Uuid, Path)),
    responses((status = 200, body = PersonOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<PersonOut>, Problem> {
    let person = person::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("person"))?;
    Ok(Json(told(person, signed.role)))
}

/// Adds or changes a person. Nobody is deleted; archive them.
#[utoipa::path(put, path = "/api/people/{id}", params(("id" = Uuid, Path)), request_body = PersonIn,
    responses((status = 200, body = PersonOut), (status = 201, body = PersonOut), (status = 403, body = Problem), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    origin: Origin,
    Trainer(signed): Trainer,
    Id(id): Id,
    Body(sent): Body<PersonIn>,
) -> Result<(StatusCode, Json<PersonOut>), Problem> {
    signed.confirmed()?;
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 80);
    let email = check.email("email", &sent.email);
    check.done()?;
    let fields = PersonFields { name, email, role: sent.role };
    let (status, person) = match sent.version {
        None => match person::put(&app.db, &signed.scope, id, &fields).await? {
            Put::Taken | Put::Missing => return Err(Problem::taken("person")),
            created => {
                let person = person::get(&app.db, &signed.scope, id).await?.ok_or_else(Problem::broken)?;
                (if created == Put::Created { StatusCode::CREATED } else { StatusCode::OK }, person)
            }
        },
        Some(version) => match person::update(&app.db, &signed.scope, id, version, &fields, sent.archived).await? {
            PersonUpdate::Done(person) => (StatusCode::OK, person),
            PersonUpdate::Stale(now) => return Err(Problem::stale("person", &told(now, signed.role))),
            PersonUpdate::Missing => return Err(Problem::missing("person")),
            PersonUpdate::LastTrainer => {
                return Err(Problem::field("role", "this is the only trainer who can sign in; add another first"));
            }
        },
    };
    let what = if sent.version.is_none() { What::PersonAdded } else { What::PersonChanged };
    let detail = format!("{}{}", person.role.word(), if person.archived_at.is_some() { ", archived" } else { "" });
    note_about(&app, &signed, (what, &detail), Some(id), &origin).await?;
    Ok((status, Json(told(person, signed.role))))
}
