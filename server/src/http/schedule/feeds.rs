//! Calendars of rides under private addresses.

use axum::{
    Json,
    extract::{Path, State},
    http::{HeaderValue, StatusCode, header},
    response::{IntoResponse, Response},
};
use cavesson_core::{
    barn::Role,
    curriculum::{Course, Gait, Place},
    schedule::ride_load,
};
use cavesson_formats::calendar::write::{Event, calendar, instant};
use cavesson_store::{
    Put, Scope,
    appointment::{self, Appointment},
    barn,
    feed::{self, Feed, FeedRide, Shown},
    person,
    security::What,
};
use chrono::{DateTime, Datelike, Days, NaiveDate, NaiveTime, TimeDelta, Utc};
use chrono_tz::Tz;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Origin, SignedIn, Trainer, digest, note_about, random_token},
    http::extract::{Body, Id, QueryParams},
    services::{barn_clock::zone, book::book, occurrences::times},
};

/// Days shown before and after today.
const BEFORE: u64 = 30;
const AFTER: u64 = 120;

/// Whose rides the address is to show: a person's or a horse's.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FeedIn {
    person_id: Option<Uuid>,
    horse_id: Option<Uuid>,
}

/// An address that was just given out. It is told this once.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FeedAddress {
    id: Uuid,
    /// The path on this server.
    address: String,
}

/// An address that was given out before.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FeedOut {
    id: Uuid,
    person_id: Option<Uuid>,
    horse_id: Option<Uuid>,
    name: String,
    created_at: DateTime<Utc>,
}

/// The addresses that were given out.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Feeds {
    items: Vec<FeedOut>,
}

/// The addresses that were given out, and to whom.
#[utoipa::path(get, path = "/api/feeds", responses((status = 200, body = Feeds)))]
pub(crate) async fn list(State(app): State<App>, Trainer(signed): Trainer) -> Result<Json<Feeds>, Problem> {
    let out =
        |Feed { id, person_id, horse_id, name, created_at }| FeedOut { id, person_id, horse_id, name, created_at };
    Ok(Json(Feeds { items: feed::list(&app.db, &signed.scope).await?.into_iter().map(out).collect() }))
}

/// Gives out an address. Sent again under the same id it gives out another, and the one before ends.
#[utoipa::path(put, path = "/api/feeds/{id}", params(("id" = Uuid, Path)), request_body = FeedIn,
    responses((status = 201, body = FeedAddress), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    origin: Origin,
    Trainer(signed): Trainer,
    Id(id): Id,
    Body(sent): Body<FeedIn>,
) -> Result<(StatusCode, Json<FeedAddress>), Problem> {
    if sent.person_id.is_some() == sent.horse_id.is_some() {
        return Err(Problem::field("person_id", "say whose rides: a person's or a horse's, not both"));
    }
    let token = random_token();
    match feed::put(&app.db, &signed.scope, id, (sent.person_id, sent.horse_id), &digest(&token)).await? {
        Put::Created | Put::Same => {
            note_about(&app, &signed, (What::FeedMade, ""), sent.person_id, &origin).await?;
            Ok((StatusCode::CREATED, Json(FeedAddress { id, address: format!("/calendar/{token}.ics") })))
        }
        Put::Taken | Put::Missing => Err(Problem::missing(if sent.person_id.is_some() { "person" } else { "horse" })),
    }
}

/// Takes an address back.
#[utoipa::path(delete, path = "/api/feeds/{id}", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn revoke(
    State(app): State<App>,
    origin: Origin,
    Trainer(signed): Trainer,
    Id(id): Id,
) -> Result<StatusCode, Problem> {
    if !feed::revoke(&app.db, &signed.scope, id).await? {
        return Err(Problem::missing("address"));
    }
    note_about(&app, &signed, (What::FeedRevoked, ""), None, &origin).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The calendar of an address. It needs no session: whoever has the address may read it, until it is taken back.
pub(crate) async fn read(State(app): State<App>, Path(file): Path<String>) -> Result<Response, Problem> {
    let token = file.strip_suffix(".ics").unwrap_or(&file);
    let shown = feed::find(&app.db, &digest(token)).await?.ok_or_else(Problem::unknown_route)?;
    let mut response = calendar_of(&app, &shown).await?;
    response.headers_mut().insert(header::CACHE_CONTROL, HeaderValue::from_static("private, max-age=300"));
    Ok(response)
}

/// Whose calendar to save.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Whose {
    person: Option<Uuid>,
    horse: Option<Uuid>,
}

/// The calendar of a person or a horse as a file.
#[utoipa::path(get, path = "/api/calendar", params(Whose),
    responses((status = 200, body = String, content_type = "text/calendar"), (status = 404, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn file(
    State(app): State<App>,
    origin: Origin,
    signed: SignedIn,
    QueryParams(whose): QueryParams<Whose>,
) -> Result<Response, Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let name = match (whose.person, whose.horse) {
        (Some(id), None) if signed.role != Role::Owner => {
            person::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("person"))?.name
        }
        (Some(_), None) => return Err(Problem::missing("person")),
        (None, Some(id)) => crate::services::horses::find(&app, &signed, id).await?.name,
        _ => return Err(Problem::field("person", "say whose calendar: a person's or a horse's, not both")),
    };
    let shown = Shown {
        barn_id: signed.scope.shared(),
        time_zone: barn.time_zone,
        name,
        person_id: whose.person,
        horse_id: whose.horse,
    };
    let mut response = calendar_of(&app, &shown).await?;
    let detail: String = format!("calendar of {}", shown.name).chars().take(200).collect();
    note_about(&app, &signed, (What::Exported, &detail), None, &origin).await?;
    let as_file = HeaderValue::from_static("attachment; filename=\"rides.ics\"");
    response.headers_mut().insert(header::CONTENT_DISPOSITION, as_file);
    Ok(response)
}

/// Rides and appointments of someone or a horse, as a calendar.
async fn calendar_of(app: &App, shown: &Shown) -> Result<Response, Problem> {
    let zone = zone(&shown.time_zone);
    let today = Utc::now().with_timezone(&zone).date_naive();
    let (from, to) = (today - Days::new(BEFORE), today + Days::new(AFTER));
    let rides = feed::rides(&app.db, shown, from, to).await?;
    let scope = Scope::staff_of(shown.barn_id, Uuid::nil());
    let book = book(app, &scope, None).await?;
    let mut events: Vec<Event> = rides.iter().map(|r| event(r, shown, zone, &book.course)).collect();
    for a in appointment::between(&app.db, &scope, from, to).await? {
        let takes = |id: Option<Uuid>, who: &[Uuid]| id.is_some_and(|id| who.contains(&id));
        if takes(shown.person_id, &a.people) || takes(shown.horse_id, &a.horses) {
            events.extend(times(&a, zone, from, to).into_iter().map(|day| appointed(&a, day, zone)));
        }
    }
    let text = calendar(&format!("{}: rides", shown.name), &events, Utc::now());
    Ok(([(header::CONTENT_TYPE, "text/calendar; charset=utf-8")], text).into_response())
}

/// One time of an appointment.
fn appointed(a: &Appointment, day: NaiveDate, zone: Tz) -> Event {
    let midnight = |d: NaiveDate| d.and_time(NaiveTime::MIN);
    let at = |d: NaiveDate, minute: i16| instant(zone, midnight(d) + TimeDelta::minutes(minute.into()));
    Event {
        uid: format!("{}-{day}@cavesson", a.id),
        sequence: u32::try_from(a.version).unwrap_or(0),
        from: at(day, a.from),
        to: at(day + Days::new(a.days.max(1) as u64 - 1), a.to),
        summary: a.title.clone(),
        location: String::new(),
        description: String::new(),
    }
}

/// How long a ride takes: as was told of it, else as a ride of its work at that gait takes on a horse of that age.
fn minutes(ride: &FeedRide, course: &Course) -> TimeDelta {
    let told = ride.minutes.filter(|m| *m > 0);
    let step = ride.work.as_deref().and_then(|w| w.split_once('/')).and_then(|(_, step)| course.find(step));
    let gait = step.map_or(Gait::Jog, |ix| course.step(ix).gait);
    let age = ride.foaled.and_then(|year| u32::try_from(ride.ridden_on.year() - year).ok());
    TimeDelta::minutes(told.map_or_else(|| i64::from(ride_load(gait, age).total), i64::from))
}

fn event(ride: &FeedRide, shown: &Shown, zone: Tz, course: &Course) -> Event {
    let from = instant(zone, ride.ridden_on.and_time(ride.starts_at));
    let place = match ride.place {
        Place::RoundPen => "Round pen",
        Place::Arena => "Arena",
        Place::Outside => "Outside",
        Place::Trail => "Trail",
    };
    let (summary, description) = match shown.horse_id {
        Some(_) => (format!("Ridden by {}", ride.rider), ride.horse.clone()),
        None => (format!("Ride {}", ride.horse), String::new()),
    };
    Event {
        uid: format!("{}@cavesson", ride.id),
        sequence: u32::try_from(ride.version).unwrap_or(0),
        from,
        to: from + minutes(ride, course),
        summary,
        location: ride.ground.clone().unwrap_or_else(|| place.to_owned()),
        description,
    }
}
