//! What weeks are made of: people's hours, places, cattle, rides agreed on, and who is away.

use axum::{
    Json,
    extract::{Path, State},
    http::StatusCode,
};
use cavesson_core::{UnknownWord, curriculum::Place};
use cavesson_store::{
    Put,
    hours::{self, Away, Hours, PlaceHours},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, Trainer},
    http::{
        extract::{Body, Id},
        schedule::clock::{clock, minutes},
        validate::{Check, within_years},
    },
};

/// A stretch of a weekday.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct HoursIn {
    /// 0 for Monday.
    weekday: u8,
    /// `07:30`
    from: String,
    to: String,
}

/// All hours of a person in a week.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PersonHours {
    hours: Vec<HoursIn>,
}

/// How many rides a place holds at a time, and when it is open.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PlaceIn {
    at_once: i16,
    from: String,
    to: String,
}

/// Works that the cattle have in them on each weekday, Monday first.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct CattleIn {
    works: [i16; 7],
}

/// Rides a week that were agreed on; both none where nothing was.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AgreedIn {
    least: Option<i16>,
    most: Option<i16>,
}

/// Someone or a horse that is away on a day.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AwayIn {
    person_id: Option<Uuid>,
    horse_id: Option<Uuid>,
    #[serde(deserialize_with = "within_years")]
    day: NaiveDate,
    /// `00:00` to `24:00` for the whole day.
    from: String,
    to: String,
    #[schema(min_length = 1, max_length = 80)]
    why: String,
}

/// What was set of the hours of a barn.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HoursOut {
    /// People who have hours of their own; the others ride at the usual ones.
    people: Vec<PersonHoursOut>,
    places: Vec<PlaceOut>,
    cattle: [i16; 7],
    agreed: Vec<AgreedOut>,
}

/// The hours of a person.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PersonHoursOut {
    person_id: Uuid,
    hours: Vec<HoursIn>,
}

/// A place as the barn set it.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PlaceOut {
    place: Place,
    at_once: i16,
    from: String,
    to: String,
}

/// Rides a week of a horse.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct AgreedOut {
    horse_id: Uuid,
    least: i16,
    most: i16,
}

/// A stretch that ends after it begins.
pub(crate) fn stretch(check: &mut Check, at: &str, from: &str, to: &str) -> (i16, i16) {
    match (minutes(from), minutes(to)) {
        (Some(from), Some(to)) => {
            let ends = format!("{} is not after {}: it ends before it starts", clock(to), clock(from));
            check.that(from < to, &format!("{at}to"), ends);
            (from as i16, to as i16)
        }
        (from, _) => {
            let field = if from.is_none() { "from" } else { "to" };
            check.say(&format!("{at}{field}"), "a time looks like 07:30; the end of a day is 24:00");
            (0, 0)
        }
    }
}

/// What the barn has set.
#[utoipa::path(get, path = "/api/hours", responses((status = 200, body = HoursOut), (status = 403, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, Rider(signed): Rider) -> Result<Json<HoursOut>, Problem> {
    let mut people: Vec<PersonHoursOut> = vec![];
    for (person_id, h) in hours::of_people(&app.db, &signed.scope).await? {
        let hour = HoursIn { weekday: h.weekday as u8, from: clock(h.from as u16), to: clock(h.to as u16) };
        match people.last_mut().filter(|p| p.person_id == person_id) {
            Some(p) => p.hours.push(hour),
            None => people.push(PersonHoursOut { person_id, hours: vec![hour] }),
        }
    }
    let place = |p: PlaceHours| {
        let (from, to) = (clock(p.from as u16), clock(p.to as u16));
        Ok(PlaceOut { place: p.place, at_once: p.at_once, from, to })
    };
    let places = hours::places(&app.db, &signed.scope).await?;
    let mut cattle = [0; 7];
    for (day, works) in hours::cattle(&app.db, &signed.scope).await? {
        cattle[day as usize % 7] = works;
    }
    let agreed = hours::agreed(&app.db, &signed.scope).await?;
    Ok(Json(HoursOut {
        people,
        places: places.into_iter().map(place).collect::<Result<_, Problem>>()?,
        cattle,
        agreed: agreed.into_iter().map(|(horse_id, least, most)| AgreedOut { horse_id, least, most }).collect(),
    }))
}

/// Sets all hours of a person; none puts them back to the usual ones.
#[utoipa::path(put, path = "/api/people/{id}/hours", params(("id" = Uuid, Path)), request_body = PersonHours,
    responses((status = 200, body = PersonHours), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put_hours(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Id(id): Id,
    Body(mut sent): Body<PersonHours>,
) -> Result<Json<PersonHours>, Problem> {
    let mut check = Check::default();
    check.that(sent.hours.len() <= 50, "hours", "at most 50 stretches a week");
    sent.hours.sort_by(|a, b| (a.weekday, &a.from).cmp(&(b.weekday, &b.from)));
    let mut own: Vec<Hours> = vec![];
    for (n, h) in sent.hours.iter().enumerate() {
        let at = format!("hours[{n}].");
        check.that(h.weekday < 7, &format!("{at}weekday"), "a weekday is from 0, Monday, to 6");
        let (from, to) = stretch(&mut check, &at, &h.from, &h.to);
        let overlaps = own.last().is_some_and(|l| l.weekday == i16::from(h.weekday) && l.to > from);
        check.that(!overlaps, &format!("{at}from"), "this begins before the stretch before it ends");
        own.push(Hours { weekday: h.weekday.into(), from, to });
    }
    check.done()?;
    if !hours::set_for_person(&app.db, &signed.scope, id, &own).await? {
        return Err(Problem::missing("person"));
    }
    Ok(Json(sent))
}

/// Sets a place.
#[utoipa::path(put, path = "/api/places/{place}", params(("place" = String, Path)), request_body = PlaceIn,
    responses((status = 200, body = PlaceIn), (status = 400, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put_place(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Path(place): Path<String>,
    Body(sent): Body<PlaceIn>,
) -> Result<Json<PlaceIn>, Problem> {
    let place: Place = place.parse().map_err(|e: UnknownWord| Problem::malformed(e.to_string()))?;
    let mut check = Check::default();
    check.that((0..=40).contains(&sent.at_once), "at_once", "a place holds from 0 to 40 rides at a time");
    let (from, to) = stretch(&mut check, "", &sent.from, &sent.to);
    check.done()?;
    let own = PlaceHours { place, at_once: sent.at_once, from, to };
    hours::set_place(&app.db, &signed.scope, &own).await?;
    Ok(Json(sent))
}

/// Sets the works of the cattle.
#[utoipa::path(put, path = "/api/cattle-days", request_body = CattleIn,
    responses((status = 200, body = CattleIn), (status = 422, body = Problem)))]
pub(crate) async fn put_cattle(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Body(sent): Body<CattleIn>,
) -> Result<Json<CattleIn>, Problem> {
    let mut check = Check::default();
    for (n, works) in sent.works.iter().enumerate() {
        check.that(
            (0..=500).contains(works),
            &format!("works[{n}]"),
            "cattle have from 0 to 500 works in them on a day",
        );
    }
    check.done()?;
    hours::set_cattle(&app.db, &signed.scope, &sent.works).await?;
    Ok(Json(sent))
}

/// Sets the rides a week that were agreed on for a horse.
#[utoipa::path(put, path = "/api/horses/{id}/rides-a-week", params(("id" = Uuid, Path)), request_body = AgreedIn,
    responses((status = 200, body = AgreedIn), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put_rides(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Id(id): Id,
    Body(sent): Body<AgreedIn>,
) -> Result<Json<AgreedIn>, Problem> {
    let mut check = Check::default();
    check.that(sent.least.is_some() == sent.most.is_some(), "most", "say both, or neither");
    let agreed = sent.least.zip(sent.most);
    if let Some((least, most)) = agreed {
        check.that((0..=7).contains(&least), "least", "a horse has at most one ride a day: 0 to 7 a week");
        check.that((0..=7).contains(&most), "most", "a horse has at most one ride a day: 0 to 7 a week");
        check.that(least <= most, "most", format!("the most is {most}, which is under the least, {least}"));
    }
    check.done()?;
    if !hours::set_agreed(&app.db, &signed.scope, id, agreed).await? {
        return Err(Problem::missing("horse"));
    }
    Ok(Json(sent))
}

/// Writes down that someone or a horse is away.
#[utoipa::path(put, path = "/api/away/{id}", params(("id" = Uuid, Path)), request_body = AwayIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put_away(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<AwayIn>,
) -> Result<StatusCode, Problem> {
    let mut check = Check::default();
    let one = sent.person_id.is_some() != sent.horse_id.is_some();
    check.that(one, "person_id", "say who: a person or a horse, not both");
    let (from, to) = stretch(&mut check, "", &sent.from, &sent.to);
    let why = check.text("why", &sent.why, 80);
    check.done()?;
    let away = Away { id, person_id: sent.person_id, horse_id: sent.horse_id, day: sent.day, from, to, why };
    match hours::put_away(&app.db, &signed.scope, &away).await? {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken("absence")),
        Put::Missing => Err(Problem::missing(if sent.person_id.is_some() { "person" } else { "horse" })),
    }
}

/// Takes back that someone is away.
#[utoipa::path(delete, path = "/api/away/{id}", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn drop_away(State(app): State<App>, Rider(signed): Rider, Id(id): Id) -> Result<StatusCode, Problem> {
    match hours::drop_away(&app.db, &signed.scope, id).await? {
        true => Ok(StatusCode::NO_CONTENT),
        false => Err(Problem::missing("absence")),
    }
}
