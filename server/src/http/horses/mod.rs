//! Horses: the list, one horse, adding and changing.

pub(crate) mod alarms;
mod claims;
pub(crate) mod forecast;
pub(crate) mod gear;
pub(crate) mod incidents;
pub(crate) mod layoffs;
pub(crate) mod overrules;
mod overview;
mod owned;
pub(crate) mod standing;
pub(crate) mod trace;

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    advice::Posture,
    barn::{Sex, Trait},
};
use cavesson_store::{
    Page, Put, Update,
    horse::{self, Horse, HorseFields},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::{router::OpenApiRouter, routes};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{SignedIn, Trainer},
    http::{
        extract::{Body, Id, Paging, QueryParams},
        validate::Check,
    },
};

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(list))
        .routes(routes!(read, put))
        .routes(routes!(standing::read))
        .routes(routes!(trace::read))
        .routes(routes!(gear::list))
        .routes(routes!(gear::put))
        .routes(routes!(gear::wear))
        .routes(routes!(overrules::put_overrule))
        .routes(routes!(overrules::overrules))
        .routes(routes!(alarms::read))
        .routes(routes!(overrules::findings))
        .routes(routes!(overrules::put_finding))
        .routes(routes!(forecast::read))
        .routes(routes!(owned::read))
        .routes(routes!(overview::read))
        .routes(routes!(claims::read, claims::put))
        .routes(routes!(claims::take_back))
        .routes(routes!(incidents::read))
        .routes(routes!(incidents::put))
        .routes(routes!(layoffs::read))
        .routes(routes!(layoffs::put))
}

/// A horse of the barn.
#[derive(Serialize, ToSchema)]
pub(crate) struct HorseOut {
    id: Uuid,
    name: String,
    /// Year of birth.
    foaled: Option<i32>,
    sex: Option<Sex>,
    owner_id: Option<Uuid>,
    usual_rider_id: Option<Uuid>,
    /// The horse's own posture, where it is not the barn's.
    posture: Option<Posture>,
    /// What it is like for good.
    traits: Vec<Trait>,
    note: String,
    archived: bool,
    version: i32,
}

/// A page of horses.
#[derive(Serialize, ToSchema)]
pub(crate) struct Horses {
    items: Vec<HorseOut>,
    offset: i64,
    more: bool,
}

/// A horse to add (without a version) or to change (with the version that was read).
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct HorseIn {
    version: Option<i32>,
    #[schema(min_length = 1, max_length = 60)]
    name: String,
    foaled: Option<i32>,
    sex: Option<Sex>,
    owner_id: Option<Uuid>,
    usual_rider_id: Option<Uuid>,
    posture: Option<Posture>,
    #[serde(default)]
    traits: Vec<Trait>,
    #[serde(default)]
    #[schema(max_length = 2000)]
    note: String,
    #[serde(default)]
    archived: bool,
}

impl TryFrom<Horse> for HorseOut {
    type Error = Problem;
    fn try_from(h: Horse) -> Result<Self, Problem> {
        Ok(HorseOut {
            id: h.id,
            name: h.name,
            foaled: h.foaled,
            sex: h.sex,
            owner_id: h.owner_id,
            usual_rider_id: h.usual_rider_id,
            posture: h.posture,
            traits: h.traits,
            note: h.note,
            archived: h.archived_at.is_some(),
            version: h.version,
        })
    }
}

/// Horses by name; an owner sees their own.
#[utoipa::path(get, path = "/api/horses", params(Paging), responses((status = 200, body = Horses)))]
pub(crate) async fn list(
    State(app): State<App>,
    signed: SignedIn,
    QueryParams(paging): QueryParams<Paging>,
) -> Result<Json<Horses>, Problem> {
    let p = paging.checked()?;
    let Page { items, offset, more } = horse::list(&app.db, &signed.scope, p.archived, p.offset, p.limit).await?;
    let items = items.into_iter().map(HorseOut::try_from).collect::<Result<_, _>>()?;
    Ok(Json(Horses { items, offset, more }))
}

/// One horse.
#[utoipa::path(get, path = "/api/horses/{id}", params(("id" = Uuid, Path)),
    responses((status = 200, body = HorseOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<HorseOut>, Problem> {
    Ok(Json(crate::services::horses::find(&app, &signed, id).await?.try_into()?))
}

/// Adds or changes a horse. Nothing with rides is deleted; archive it.
#[utoipa::path(put, path = "/api/horses/{id}", params(("id" = Uuid, Path)), request_body = HorseIn,
    responses((status = 200, body = HorseOut), (status = 201, body = HorseOut), (status = 403, body = Problem), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Id(id): Id,
    Body(sent): Body<HorseIn>,
) -> Result<(StatusCode, Json<HorseOut>), Problem> {
    let fields = checked(&sent)?;
    if sent.archived {
        signed.confirmed()?;
    }
    let (status, horse) = match sent.version {
        None => match horse::put(&app.db, &signed.scope, id, &fields).await? {
            Put::Taken | Put::Missing => return Err(Problem::taken("horse")),
            created => (
                if created == Put::Created { StatusCode::CREATED } else { StatusCode::OK },
                crate::services::horses::find(&app, &signed, id).await?,
            ),
        },
        Some(version) => match horse::update(&app.db, &signed.scope, id, version, &fields, sent.archived).await? {
            Update::Done(horse) => (StatusCode::OK, horse),
            Update::Stale(now) => return Err(Problem::stale("horse", &HorseOut::try_from(now)?)),
            Update::Missing => return Err(Problem::missing("horse")),
        },
    };
    Ok((status, Json(horse.try_into()?)))
}

fn checked(sent: &HorseIn) -> Result<HorseFields, Problem> {
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 60);
    let note = check.note("note", &sent.note, 2000);
    let year_holds = sent.foaled.is_none_or(|y| (1980..=2200).contains(&y));
    check.that(year_holds, "foaled", "a year of birth has four digits and is 1980 or later");
    let mut traits = sent.traits.clone();
    traits.sort_unstable();
    traits.dedup();
    check.done()?;
    Ok(HorseFields {
        name,
        foaled: sent.foaled,
        sex: sent.sex,
        owner_id: sent.owner_id,
        usual_rider_id: sent.usual_rider_id,
        posture: sent.posture,
        traits,
        note,
    })
}
