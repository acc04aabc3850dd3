//! What others say that a horse knows: shown as claimed until its own rides prove it or not.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::advice::ClaimState;
use cavesson_store::{
    Put,
    claim::{self, Claim},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        validate::Check,
    },
    services::{
        barn_clock::today,
        book::book,
        standing::{self, response::StepStanding},
    },
};

/// Claims kept at once at most.
const MOST: usize = 200;
/// Claims to keep.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ClaimsIn {
    /// Who says so: the last trainer, the owner.
    #[schema(min_length = 1, max_length = 80)]
    said_by: String,
    claims: Vec<ClaimIn>,
}

/// One claim.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ClaimIn {
    id: Uuid,
    /// Id of a step.
    step: String,
}

/// A claim, and what became of it.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ClaimOut {
    id: Uuid,
    step: String,
    name: String,
    said_by: String,
    said_on: NaiveDate,
    state: ClaimState,
    /// In figures: "met 3 of 11 on 2 days".
    says: String,
}

/// The claims of a horse, in the order in which they were written down.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Claims {
    items: Vec<ClaimOut>,
}

/// Keeps what someone says that a horse knows.
#[utoipa::path(put, path = "/api/horses/{id}/claims", params(("id" = Uuid, Path)), request_body = ClaimsIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(horse): Id,
    Body(sent): Body<ClaimsIn>,
) -> Result<StatusCode, Problem> {
    crate::services::horses::find(&app, &signed, horse).await?;
    let book = book(&app, &signed.scope, Some(horse)).await?;
    let mut check = Check::default();
    let said_by = check.text("said_by", &sent.said_by, 80);
    check.that((1..=MOST).contains(&sent.claims.len()), "claims", "name one to 200 things that it is said to know");
    for (n, claim) in sent.claims.iter().enumerate() {
        let known = book.course.find(&claim.step).is_some();
        check.that(known, &format!("claims[{n}].step"), "there is no such step");
    }
    check.done()?;
    let said_on = today(&app, &signed).await?;
    let of = |c: ClaimIn| Claim { id: c.id, step: c.step, said_by: said_by.clone(), said_on };
    let claims: Vec<Claim> = sent.claims.into_iter().map(of).collect();
    match claim::put_all(&app.db, &signed.scope, horse, &claims).await? {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken("claim")),
        Put::Missing => Err(Problem::missing("horse")),
    }
}

/// Takes a claim back.
#[utoipa::path(delete, path = "/api/horses/{horse}/claims/{id}", params(("horse" = Uuid, Path), ("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn take_back(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(horse, id): Ids,
) -> Result<StatusCode, Problem> {
    crate::services::horses::find(&app, &signed, horse).await?;
    match claim::take_back(&app.db, &signed.scope, horse, id).await? {
        true => Ok(StatusCode::NO_CONTENT),
        false => Err(Problem::missing("claim")),
    }
}

/// What others say that a horse knows, and what its rides say to that.
#[utoipa::path(get, path = "/api/horses/{id}/claims", params(("id" = Uuid, Path)),
    responses((status = 200, body = Claims), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<Claims>, Problem> {
    crate::services::horses::find(&app, &signed, id).await?;
    let claims = claim::of_horse(&app.db, &signed.scope, id).await?;
    let book = book(&app, &signed.scope, Some(id)).await?;
    let standing = standing::of_horse(&app, &signed, id).await?;
    let out = |c: Claim| {
        let step = book.course.step(book.course.find(&c.step)?);
        let seen = standing.steps.iter().find(|s| s.id == c.step);
        let (state, says) = judged(seen);
        Some(ClaimOut {
            id: c.id,
            name: step.name.clone(),
            step: c.step,
            said_by: c.said_by,
            said_on: c.said_on,
            state,
            says,
        })
    };
    Ok(Json(Claims { items: claims.into_iter().filter_map(out).collect() }))
}

/// What the rides of a horse say to a claim.
fn judged(seen: Option<&StepStanding>) -> (ClaimState, String) {
    let Some(step) = seen.filter(|s| !s.sides.is_empty()) else {
        return (ClaimState::Claimed, "not asked here yet".to_owned());
    };
    let (met, reps) = step.sides.iter().fold((0, 0), |(met, reps), s| (met + s.met, reps + s.reps));
    let days = step.sides.iter().map(|s| s.days).max().unwrap_or(0);
    let days = if days == 1 { "1 day".to_owned() } else { format!("{days} days") };
    let state = ClaimState::of(step.status, step.sides.iter().map(|s| (s.days, s.ready)));
    (state, format!("met {met} of {reps} on {days}"))
}
