//! What was logged and could not land on its ride: a list for the trainer, who puts it on a ride or discards it.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::barn::Role;
use cavesson_store::{
    Page, Put,
    log::unplaced::{self, NewUnplaced, Unplaced},
};
use chrono::{DateTime, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{SignedIn, Trainer},
    http::{
        extract::{Body, Id, Paging, QueryParams},
        rides::{
            counts::{self, CountIn},
            reps::{self, RepIn},
            set_aside::UnplacedKind,
        },
        validate::Check,
    },
};

/// Something logged that its ride did not take.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct UnplacedIn {
    kind: UnplacedKind,
    /// The ride it was meant for.
    ride_id: Uuid,
    /// Whose log it is. Only a trainer hands in another's.
    #[serde(default)]
    person_id: Option<Uuid>,
    /// The request as it was: a rep or a count.
    #[schema(value_type = Object)]
    body: Value,
    /// Why it was refused.
    #[schema(min_length = 1, max_length = 500)]
    why: String,
}

/// Something logged that waits to be placed.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct UnplacedOut {
    id: Uuid,
    kind: String,
    ride_id: Uuid,
    horse_id: Option<Uuid>,
    horse_name: Option<String>,
    ride_on: Option<NaiveDate>,
    /// Whose log it is.
    person: String,
    #[schema(value_type = Object)]
    body: Value,
    why: String,
    created_at: DateTime<Utc>,
}

/// A page of what waits to be placed.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct UnplacedList {
    items: Vec<UnplacedOut>,
    offset: i64,
    more: bool,
}

/// What to put on a ride.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ToPlace {
    /// At most 500.
    #[schema(max_items = 500)]
    ids: Vec<Uuid>,
    ride_id: Uuid,
}

/// What to discard.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ToDiscard {
    /// At most 500.
    #[schema(max_items = 500)]
    ids: Vec<Uuid>,
}

/// What became of what was to be placed.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PlacedOut {
    /// How many are on the ride now.
    placed: usize,
    /// What the ride did not take, and why; it still waits.
    refused: Vec<NotPlaced>,
}

/// Something that a ride did not take.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct NotPlaced {
    id: Uuid,
    why: String,
}

/// Hands in something logged that its ride did not take: it waits for a trainer to place it. Sent again it is kept once.
#[utoipa::path(put, path = "/api/unplaced/{id}", params(("id" = Uuid, Path)), request_body = UnplacedIn,
    responses((status = 200), (status = 201), (status = 403, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn hand_in(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    Body(sent): Body<UnplacedIn>,
) -> Result<StatusCode, Problem> {
    let person_id = sent.person_id.unwrap_or(signed.scope.person());
    if person_id != signed.scope.person() && signed.role != Role::Trainer {
        return Err(Problem::forbidden("Only a trainer hands in what another logged"));
    }
    let mut check = Check::default();
    let why = check.text("why", &sent.why, 500);
    let readable = match sent.kind {
        UnplacedKind::Rep => serde_json::from_value::<RepIn>(sent.body.clone()).map(drop),
        UnplacedKind::Count => serde_json::from_value::<CountIn>(sent.body.clone()).map(drop),
    };
    if let Err(e) = readable {
        check.say("body", format!("this is no {}: {e}", sent.kind.word()));
    }
    check.that(sent.body.to_string().len() <= 10_000, "body", "this is longer than anything that is logged");
    check.done()?;
    let new = NewUnplaced { id, kind: sent.kind.word(), ride_id: sent.ride_id, person_id, body: &sent.body, why: &why };
    match unplaced::put(&app.db, &signed.scope, &new).await? {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken | Put::Missing => Err(Problem::taken(sent.kind.word())),
    }
}

/// What waits to be placed, by the ride it was meant for.
#[utoipa::path(get, path = "/api/unplaced", params(Paging),
    responses((status = 200, body = UnplacedList), (status = 403, body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    Trainer(signed): Trainer,
    QueryParams(paging): QueryParams<Paging>,
) -> Result<Json<UnplacedList>, Problem> {
    let p = paging.checked()?;
    let Page { items, offset, more } = unplaced::list(&app.db, &signed.scope, p.offset, p.limit).await?;
    let out = |u: Unplaced| UnplacedOut {
        id: u.id,
        kind: u.kind,
        ride_id: u.ride_id,
        horse_id: u.horse_id,
        horse_name: u.horse_name,
        ride_on: u.ride_on,
        person: u.person,
        body: u.body,
        why: u.why,
        created_at: u.created_at,
    };
    Ok(Json(UnplacedList { items: items.into_iter().map(out).collect(), offset, more }))
}

/// Puts what waits on a ride, each as it was logged and in the name of who logged it.
#[utoipa::path(post, path = "/api/unplaced/place", request_body = ToPlace,
    responses((status = 200, body = PlacedOut), (status = 403, body = Problem), (status = 404, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn place(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Body(sent): Body<ToPlace>,
) -> Result<Json<PlacedOut>, Problem> {
    few_enough(&sent.ids)?;
    reps::book_of_ridden(&app, &signed, sent.ride_id).await?;
    let mut out = PlacedOut { placed: 0, refused: vec![] };
    for waiting in unplaced::waiting(&app.db, &signed.scope, &sent.ids).await? {
        match land(&app, &signed, &waiting, sent.ride_id).await {
            Ok(()) => {
                unplaced::settle(&app.db, &signed.scope, &[waiting.id], Some(sent.ride_id)).await?;
                out.placed += 1;
            }
            Err(problem) if problem.status < 500 => {
                out.refused.push(NotPlaced { id: waiting.id, why: problem.detail });
            }
            Err(problem) => return Err(problem),
        }
    }
    Ok(Json(out))
}

/// Logs something on a ride as the person who logged it.
async fn land(app: &App, signed: &SignedIn, waiting: &Unplaced, ride: Uuid) -> Result<(), Problem> {
    let unreadable = |e: serde_json::Error| Problem::unreadable("What waits to be placed", &e);
    let signed = signed.for_person(waiting.person_id);
    // A set belongs to one ride: on another it is a set of its own, the same for all that was logged in it.
    let elsewhere = |set: Uuid| if ride == waiting.ride_id { set } else { Uuid::new_v5(&ride, set.as_bytes()) };
    if waiting.kind == UnplacedKind::Count.word() {
        let mut sent: CountIn = serde_json::from_value(waiting.body.clone()).map_err(unreadable)?;
        sent.set.id = elsewhere(sent.set.id);
        let id = sent.set.id;
        counts::log(app, &signed, (ride, id), sent).await.map(drop)
    } else {
        let mut sent: RepIn = serde_json::from_value(waiting.body.clone()).map_err(unreadable)?;
        sent.set.id = elsewhere(sent.set.id);
        reps::log(app, &signed, (ride, waiting.id), sent).await.map(drop)
    }
}

/// Discards what waits. It stays in the records as discarded, with who did it.
#[utoipa::path(post, path = "/api/unplaced/discard", request_body = ToDiscard,
    responses((status = 204), (status = 403, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn discard(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Body(sent): Body<ToDiscard>,
) -> Result<StatusCode, Problem> {
    signed.confirmed()?;
    few_enough(&sent.ids)?;
    unplaced::settle(&app.db, &signed.scope, &sent.ids, None).await?;
    Ok(StatusCode::NO_CONTENT)
}

fn few_enough(ids: &[Uuid]) -> Result<(), Problem> {
    if ids.len() <= 500 { Ok(()) } else { Err(Problem::field("ids", "at most 500 at a time")) }
}
