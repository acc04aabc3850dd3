//! Appointments: farrier, vet, dentist, owner visits, shows and lay-ups.

pub(crate) mod import;

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::schedule::AppointmentKind;
use cavesson_formats::calendar::recurrence::Recurrence;
use cavesson_store::{
    Update,
    appointment::{self, Appointment},
    barn::{self, Barn},
    horse,
};
use chrono::{Days, NaiveDate, NaiveTime};
use chrono_tz::Tz;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, QueryParams},
        schedule::{clock::clock, settings::stretch},
        validate::{Check, within_years},
    },
    services::{
        barn_clock::{today_in, zone},
        book::books,
        diary::{WantOut, outlook},
        occurrences::times,
        standing::standings,
    },
};

/// From which day to which.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Window {
    /// Today where it is left out.
    from: Option<NaiveDate>,
    /// A quarter of a year on where it is left out; at most two years after `from`.
    to: Option<NaiveDate>,
}

/// An appointment to keep.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AppointmentIn {
    /// The version that it was made from; 0 for a new one.
    version: i32,
    kind: AppointmentKind,
    #[schema(min_length = 1, max_length = 120)]
    title: String,
    /// Its first day.
    #[serde(deserialize_with = "within_years")]
    day: NaiveDate,
    /// Days in a row, for a show or a lay-up.
    days: i16,
    /// `09:00`; whole days are from `00:00` to `24:00`.
    from: String,
    to: String,
    /// The value of an RRULE (RFC 5545): `FREQ=WEEKLY;INTERVAL=6`.
    rule: Option<String>,
    /// Days of the series that are left out.
    #[serde(default)]
    skipped: Vec<NaiveDate>,
    /// Ids of the steps that a show asks of its horses.
    #[serde(default)]
    wants: Vec<String>,
    people: Vec<Uuid>,
    horses: Vec<Uuid>,
}

/// An appointment, the days that it comes to, and for a show how its horses will stand.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct AppointmentOut {
    id: Uuid,
    #[serde(flatten)]
    is: AppointmentIn,
    /// Its first days within what was asked for.
    comes: Vec<NaiveDate>,
    outlook: Vec<HorseOutlook>,
}

/// How a horse will stand at a show.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HorseOutlook {
    horse_id: Uuid,
    horse_name: String,
    wants: Vec<WantOut>,
    /// What will not be met, what could be dropped, and which work could wait.
    warning: Option<String>,
}

/// Appointments, soonest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct AppointmentsOut {
    items: Vec<AppointmentOut>,
}

impl AppointmentOut {
    fn of(a: Appointment, comes: Vec<NaiveDate>) -> AppointmentOut {
        let is = AppointmentIn {
            version: a.version,
            kind: a.kind,
            title: a.title,
            day: a.day,
            days: a.days,
            from: clock(a.from as u16),
            to: clock(a.to as u16),
            rule: a.rule,
            skipped: a.skipped,
            wants: a.wants,
            people: a.people,
            horses: a.horses,
        };
        AppointmentOut { id: a.id, is, comes, outlook: vec![] }
    }
}

/// What comes, with how horses will stand at their shows.
#[utoipa::path(get, path = "/api/appointments", params(Window),
    responses((status = 200, body = AppointmentsOut), (status = 422, body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    signed: SignedIn,
    QueryParams(window): QueryParams<Window>,
) -> Result<Json<AppointmentsOut>, Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let today = today_in(&barn);
    let from = window.from.unwrap_or(today);
    let mut check = Check::default();
    check.day("from", from);
    check.done()?;
    let to = window.to.unwrap_or(from + Days::new(91));
    if !(0..=731).contains(&(to - from).num_days()) {
        return Err(Problem::field("to", "ask for at most two years, from a day to a later one"));
    }
    let zone = zone(&barn.time_zone);
    let mut items: Vec<AppointmentOut> = vec![];
    for a in appointment::between(&app.db, &signed.scope, from, to).await? {
        let comes = times(&a, zone, from, to);
        if !comes.is_empty() {
            items.push(AppointmentOut::of(a, comes));
        }
    }
    items.sort_by(|a, b| (a.comes.first(), &a.is.from, a.id).cmp(&(b.comes.first(), &b.is.from, b.id)));
    look_ahead(&app, &signed, &barn, today, &mut items).await?;
    Ok(Json(AppointmentsOut { items }))
}

/// Adds how the horses of the shows will stand.
async fn look_ahead(
    app: &App,
    signed: &SignedIn,
    barn: &Barn,
    today: NaiveDate,
    items: &mut [AppointmentOut],
) -> Result<(), Problem> {
    if items.iter().all(|a| a.is.wants.is_empty()) {
        return Ok(());
    }
    let mut horses = horse::in_work(&app.db, &signed.scope).await?;
    horses.retain(|h| items.iter().any(|a| !a.is.wants.is_empty() && a.is.horses.contains(&h.id)));
    let standings = standings(app, &signed.scope, &horses, barn.posture, today).await?;
    let of_horse: Vec<Option<Uuid>> = horses.iter().map(|h| Some(h.id)).collect();
    let books = books(app, &signed.scope, &of_horse).await?;
    for a in items.iter_mut().filter(|a| !a.is.wants.is_empty()) {
        let Some(&day) = a.comes.iter().find(|d| **d >= today) else { continue };
        let days = (day - today).num_days() as u32;
        for (h, book) in horses.iter().zip(&books).filter(|(h, _)| a.is.horses.contains(&h.id)) {
            let Some(standing) = standings.get(&h.id) else { continue };
            let (wants, warning) = outlook(standing, &book.course, &a.is.wants, days);
            a.outlook.push(HorseOutlook { horse_id: h.id, horse_name: h.name.clone(), wants, warning });
        }
    }
    Ok(())
}

/// Keeps an appointment.
#[utoipa::path(put, path = "/api/appointments/{id}", params(("id" = Uuid, Path)), request_body = AppointmentIn,
    responses((status = 200, body = AppointmentOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<AppointmentIn>,
) -> Result<Json<AppointmentOut>, Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let course = books(&app, &signed.scope, &[None]).await?.pop().ok_or_else(Problem::broken)?;
    let mut check = Check::default();
    for step in sent.wants.iter().filter(|w| course.course.find(w).is_none()) {
        check.say("wants", format!("\"{step}\" is no step of the curriculum"));
    }
    let new = checked(check, id, &sent, zone(&barn.time_zone))?;
    match appointment::save(&app.db, &signed.scope, sent.version, &new).await? {
        Update::Done(now) => {
            let comes = vec![now.day];
            Ok(Json(AppointmentOut::of(now, comes)))
        }
        Update::Stale(now) => Err(Problem::stale("appointment", &AppointmentOut::of(now, vec![]))),
        Update::Missing => Err(Problem::missing(if sent.version == 0 { "horse or person" } else { "appointment" })),
    }
}

fn checked(mut check: Check, id: Uuid, sent: &AppointmentIn, zone: Tz) -> Result<Appointment, Problem> {
    let kind = sent.kind;
    let title = check.text("title", &sent.title, 120);
    sent.skipped.iter().for_each(|&day| check.day("skipped", day));
    check.that((1..=400).contains(&sent.days), "days", "from 1 to 400 days in a row");
    let several = kind.takes_whole_days();
    check.that(sent.days == 1 || several, "days", "only a show or a lay-up takes several days in a row");
    let (from, to) = stretch(&mut check, "", &sent.from, &sent.to);
    check.that(sent.skipped.len() <= 200, "skipped", "at most 200 days can be left out");
    check.that(sent.wants.len() <= 20, "wants", "a show asks for at most 20 steps");
    check.that(sent.wants.is_empty() || kind == AppointmentKind::Show, "wants", "only a show asks for steps");
    let many = sent.people.len() + sent.horses.len();
    check.that((1..=200).contains(&many), "horses", "say which horses or whom it takes");
    let rule = sent.rule.as_ref().map(|r| r.trim().to_owned()).filter(|r| !r.is_empty());
    if let Some(rule) = &rule {
        check.that(rule.len() <= 300, "rule", "this rule is longer than any that is needed");
        let at = NaiveTime::from_num_seconds_from_midnight_opt(from.max(0) as u32 * 60, 0).unwrap_or_default();
        match Recurrence::new(rule, sent.day.and_time(at), zone, &[]) {
            Ok(repeats) => check.that(repeats.comes(), "rule", "this rule never comes to a day"),
            Err(error) => check.say("rule", error.to_string()),
        }
    }
    check.done()?;
    let once = |ids: &[Uuid]| {
        let mut ids = ids.to_vec();
        ids.sort_unstable();
        ids.dedup();
        ids
    };
    let (people, horses) = (once(&sent.people), once(&sent.horses));
    let (skipped, wants) = (sent.skipped.clone(), sent.wants.clone());
    let (day, days) = (sent.day, sent.days);
    Ok(Appointment {
        id,
        kind,
        title,
        day,
        days,
        from,
        to,
        rule,
        skipped,
        wants,
        uid: None,
        version: sent.version,
        people,
        horses,
    })
}

/// Takes an appointment off the calendar.
#[utoipa::path(delete, path = "/api/appointments/{id}", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn drop(State(app): State<App>, Rider(signed): Rider, Id(id): Id) -> Result<StatusCode, Problem> {
    match appointment::drop(&app.db, &signed.scope, id).await? {
        true => Ok(StatusCode::NO_CONTENT),
        false => Err(Problem::missing("appointment")),
    }
}
