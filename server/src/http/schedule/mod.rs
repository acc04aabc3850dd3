//! The week: what it is made of, its plan, and what becomes of it.

pub(crate) mod appointments;
pub(crate) mod balance;
pub(crate) mod clock;
pub(crate) mod document;
pub(crate) mod feeds;
pub(crate) mod overlays;
pub(crate) mod plan;
pub(crate) mod response;
pub(crate) mod settings;

use std::sync::Arc;

use axum::{
    Json,
    extract::{Path, State},
};
use cavesson_core::{
    barn::Role,
    curriculum::Place,
    schedule::{Ride, best_slot},
};
use cavesson_store::{
    Update,
    barn::{self, Barn},
    week::{self as kept, PlannedRide, WeekPlan},
};
use chrono::{NaiveDate, NaiveTime};
use serde::Deserialize;
use utoipa::ToSchema;
use utoipa_axum::{router::OpenApiRouter, routes};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{SignedIn, Trainer},
    http::{
        extract::Body,
        schedule::response::{WeekOut, WeekRide, WeekState},
        validate::Check,
    },
    services::{
        planning::{PlanningContext, facts, monday_of},
        responses::{JsonResponse, kept_or_made},
    },
};

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(read, save))
        .routes(routes!(room))
        .routes(routes!(plan::plan))
        .routes(routes!(publish))
        .routes(routes!(settings::read))
        .routes(routes!(settings::put_hours))
        .routes(routes!(settings::put_place))
        .routes(routes!(settings::put_cattle))
        .routes(routes!(settings::put_rides))
        .routes(routes!(settings::put_away, settings::drop_away))
        .routes(routes!(appointments::list))
        .routes(routes!(appointments::put, appointments::drop))
        .routes(routes!(appointments::import::import))
        .routes(routes!(feeds::list))
        .routes(routes!(feeds::put, feeds::revoke))
        .routes(routes!(feeds::file))
        .routes(routes!(balance::read))
}

/// Rides to keep as the draft of a week.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct DraftIn {
    /// The version that they were made from; 0 for a week that was not begun.
    version: i32,
    rides: Vec<WeekRide>,
}

/// One more ride, put on a day by hand.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RoomIn {
    /// What stands beside it.
    rides: Vec<WeekRide>,
    work: String,
    /// 0 for Monday.
    on: u8,
    /// Anyone who may ride it where it is left out.
    rider: Option<Uuid>,
    /// Anywhere that it is ridden where it is left out.
    place: Option<Place>,
}

/// The version of the draft that is meant.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct VersionIn {
    version: i32,
}

/// A week in the address: any of its days.
async fn week_of(app: &App, signed: &SignedIn, day: NaiveDate) -> Result<(Barn, Arc<PlanningContext>), Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let facts = facts(app, &signed.scope, &barn, monday_of(day)).await?;
    Ok((barn, Arc::new(facts)))
}

/// The rides that someone may see: the trainer the draft, everyone else what was published.
fn seen(plan: Option<&WeekPlan>, role: Role) -> Result<(Vec<WeekRide>, i32, WeekState), Problem> {
    let Some(plan) = plan else { return Ok((vec![], 0, WeekState::Empty)) };
    let published = plan.published.as_ref();
    let shown = if role == Role::Trainer { Some(&plan.draft) } else { published };
    let rides = shown.map(document::read).transpose()?.unwrap_or_default();
    let state = match published {
        Some(p) if role != Role::Trainer || *p == plan.draft => WeekState::Published,
        None if role != Role::Trainer => WeekState::Empty,
        _ => WeekState::Draft,
    };
    Ok((rides, plan.version, state))
}

async fn week_out(app: &App, signed: &SignedIn, facts: &Arc<PlanningContext>) -> Result<WeekOut, Problem> {
    let plan = kept::get(&app.db, &signed.scope, facts.start).await?;
    let (mut rides, version, state) = seen(plan.as_ref(), signed.role)?;
    if signed.role == Role::Owner {
        rides.retain(|r| facts.work(&r.work).is_some());
    }
    let facts = Arc::clone(facts);
    app.compute.run(signed.scope.shared(), move || facts.out(&rides, version, state)).await
}

/// The week of a day.
#[utoipa::path(get, path = "/api/weeks/{day}", params(("day" = NaiveDate, Path)),
    responses((status = 200, body = WeekOut), (status = 400, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    signed: SignedIn,
    Path(day): Path<String>,
) -> Result<JsonResponse, Problem> {
    let day = date(&day)?;
    let week = async || {
        let (_, facts) = week_of(&app, &signed, day).await?;
        week_out(&app, &signed, &facts).await
    };
    kept_or_made(&app, &signed, format!("week {}", monday_of(day)), week).await
}

fn date(text: &str) -> Result<NaiveDate, Problem> {
    let day = text.parse();
    let day = day.map_err(|_| Problem::malformed(format!("\"{text}\" is not a day; one looks like 2026-03-02")))?;
    let mut check = Check::default();
    check.day("day", day);
    check.done().map(|()| day)
}

/// Keeps rides as the draft of a week, whatever rules they break: the trainer knows.
#[utoipa::path(put, path = "/api/weeks/{day}", params(("day" = NaiveDate, Path)), request_body = DraftIn,
    responses((status = 200, body = WeekOut), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn save(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Path(day): Path<String>,
    Body(sent): Body<DraftIn>,
) -> Result<Json<WeekOut>, Problem> {
    let (_, facts) = week_of(&app, &signed, date(&day)?).await?;
    facts.checked(&sent.rides)?;
    keep(&app, &signed, &facts, sent.version, &sent.rides).await.map(Json)
}

/// Keeps a draft, or says that someone else kept another meanwhile.
async fn keep(
    app: &App,
    signed: &SignedIn,
    facts: &Arc<PlanningContext>,
    version: i32,
    rides: &[WeekRide],
) -> Result<WeekOut, Problem> {
    let draft = document::write(rides)?;
    // A draft that cannot be read is not written over.
    seen(kept::get(&app.db, &signed.scope, facts.start).await?.as_ref(), Role::Trainer)?;
    match kept::save(&app.db, &signed.scope, facts.start, version, &draft).await? {
        Update::Done(_) => week_out(app, signed, facts).await,
        Update::Stale(_) | Update::Missing => Err(Problem::stale("week", &week_out(app, signed, facts).await?)),
    }
}

/// Where one more ride goes on a day: the hour, the rider and the place that break the fewest rules and cost least.
#[utoipa::path(post, path = "/api/weeks/{day}/room", params(("day" = NaiveDate, Path)), request_body = RoomIn,
    responses((status = 200, body = WeekRide), (status = 422, body = Problem)))]
pub(crate) async fn room(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Path(day): Path<String>,
    Body(sent): Body<RoomIn>,
) -> Result<Json<WeekRide>, Problem> {
    let (_, facts) = week_of(&app, &signed, date(&day)?).await?;
    facts.checked(&sent.rides)?;
    let request = facts.request(&sent)?;
    let all: Vec<Ride> = sent.rides.iter().filter_map(|r| facts.ride(r)).collect();
    let context = Arc::clone(&facts);
    let found =
        app.compute.run(signed.scope.shared(), move || best_slot(&context.planning.week, &all, request)).await?;
    let ride = found.ok_or_else(|| Problem::field("work", "nobody may ride it this week, or nowhere"))?;
    Ok(Json(facts.ride_out(&ride, false, false)))
}

/// Publishes the draft: everyone sees it, and its rides are on their days.
#[utoipa::path(post, path = "/api/weeks/{day}/publish", params(("day" = NaiveDate, Path)), request_body = VersionIn,
    responses((status = 200, body = WeekOut), (status = 409, body = Problem)))]
pub(crate) async fn publish(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Path(day): Path<String>,
    Body(sent): Body<VersionIn>,
) -> Result<Json<WeekOut>, Problem> {
    let (_, facts) = week_of(&app, &signed, date(&day)?).await?;
    let plan = kept::get(&app.db, &signed.scope, facts.start).await?;
    let Some(plan) = plan.filter(|_| sent.version > 0) else {
        return Err(Problem::conflict("Nothing is planned in this week yet: plan it first"));
    };
    let (rides, ..) = seen(Some(&plan), signed.role)?;
    let (standing, _) = facts.planned(&rides);
    let planned: Vec<PlannedRide> = standing.iter().filter_map(|(r, _)| planned(&facts, r)).collect();
    let from = facts.date(facts.first_open().min(6));
    match kept::publish(&app.db, &signed.scope, facts.start, sent.version, from, &planned).await? {
        Update::Done(_) => Ok(Json(week_out(&app, &signed, &facts).await?)),
        Update::Stale(_) | Update::Missing => Err(Problem::stale("week", &week_out(&app, &signed, &facts).await?)),
    }
}

/// A ride for its day. Its id is made of the week, the work and the day, so that publishing twice makes it once.
pub(crate) fn planned(facts: &PlanningContext, r: &Ride) -> Option<PlannedRide> {
    let horse = facts.horses[facts.planning.week.works[r.work].horse].id;
    let work = &facts.works[r.work];
    let date = facts.date(r.day);
    Some(PlannedRide {
        id: Uuid::new_v5(&horse, format!("{work}/{date}").as_bytes()),
        horse_id: horse,
        rider_id: facts.people[r.rider].id,
        ridden_on: date,
        starts_at: NaiveTime::from_num_seconds_from_midnight_opt(u32::from(r.start) * 60, 0)?,
        place: facts.places[r.place],
        work: work.clone(),
    })
}
