//! Appointments out of a calendar that was kept elsewhere: first what would happen, line by line, then all of it or nothing.

use axum::{Json, extract::State};
use cavesson_core::schedule::AppointmentKind;
use cavesson_formats::calendar::read::{Entry, RejectedEntry, entries};
use cavesson_store::{
    appointment::{self, Appointment},
    barn,
    horse::{self, Horse},
    person::{self, Person},
};
use chrono::{NaiveDate, NaiveDateTime, NaiveTime, TimeDelta, Timelike};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::extract::Body,
    services::barn_clock::zone,
};

/// A calendar to read.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct CalendarIn {
    /// The text of an `.ics` file.
    text: String,
    /// Whether only to say what would happen.
    dry_run: bool,
}

/// What becomes of an entry.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum Fate {
    /// It is added.
    New,
    /// It was added before.
    Known,
    /// It names no horse and no one of the barn, so it takes nobody's time.
    Nobody,
    /// It cannot be taken.
    Refused,
}

/// One entry of the calendar and what becomes of it.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ImportLine {
    title: String,
    fate: Fate,
    kind: Option<AppointmentKind>,
    day: Option<NaiveDate>,
    days: i16,
    from: Option<String>,
    to: Option<String>,
    rule: Option<String>,
    horses: Vec<String>,
    people: Vec<String>,
    /// What was not taken as it stands, or why it was not taken at all.
    says: Vec<String>,
}

/// What becomes of a calendar.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ImportOut {
    lines: Vec<ImportLine>,
    /// How many are new; after a dry run, how many would be.
    added: usize,
}

struct Names {
    horses: Vec<Horse>,
    people: Vec<Person>,
}

/// Reads a calendar. Which horses and people an entry takes is told by their names in it.
#[utoipa::path(post, path = "/api/appointments/import", request_body = CalendarIn,
    responses((status = 200, body = ImportOut), (status = 422, body = Problem)))]
pub(crate) async fn import(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<CalendarIn>,
) -> Result<Json<ImportOut>, Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let read = entries(&sent.text, zone(&barn.time_zone)).map_err(|e| Problem::field("text", e.to_string()))?;
    let names = names(&app, &signed).await?;
    let uids: Vec<String> = read.iter().flatten().map(|e| short(&e.uid, 300)).collect();
    let known = appointment::known(&app.db, &signed.scope, &uids).await?;
    let (mut lines, mut new): (Vec<ImportLine>, Vec<Appointment>) = (vec![], vec![]);
    for entry in read {
        match entry {
            Ok(entry) if entry.rule.as_ref().is_some_and(|r| r.len() > 300) => {
                let problem = "its rule of repetition is longer than any that is needed".to_owned();
                lines.push(refused(RejectedEntry { summary: entry.summary, problem }));
            }
            Ok(entry) => {
                let (line, appointment) = line(&entry, &names, &known, signed.scope.shared());
                let twice = new.iter().any(|a| a.uid == appointment.uid);
                if line.fate == Fate::New && !twice {
                    new.push(appointment);
                }
                lines.push(line);
            }
            Err(unread) => lines.push(refused(unread)),
        }
    }
    let added = if sent.dry_run { new.len() } else { appointment::add_all(&app.db, &signed.scope, &new).await? };
    Ok(Json(ImportOut { lines, added }))
}

async fn names(app: &App, signed: &SignedIn) -> Result<Names, Problem> {
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let people = person::in_barn(&app.db, &signed.scope).await?;
    Ok(Names { horses, people })
}

fn refused(RejectedEntry { summary, problem }: RejectedEntry) -> ImportLine {
    ImportLine {
        title: summary,
        fate: Fate::Refused,
        kind: None,
        day: None,
        days: 1,
        from: None,
        to: None,
        rule: None,
        horses: vec![],
        people: vec![],
        says: vec![problem],
    }
}

fn short(text: &str, most: usize) -> String {
    text.chars().filter(|c| !c.is_control()).take(most).collect()
}

/// Whether a name stands in a text as words of its own.
fn names_it(text: &str, name: &str) -> bool {
    let (text, name) = (text.to_lowercase(), name.to_lowercase());
    let apart = |c: Option<char>| !c.is_some_and(char::is_alphanumeric);
    text.match_indices(&name)
        .any(|(at, _)| apart(text[..at].chars().next_back()) && apart(text[at + name.len()..].chars().next()))
}

/// The first day, days in a row, and the minutes of its days. What goes past midnight takes whole days.
fn when(from: NaiveDateTime, to: NaiveDateTime) -> (NaiveDate, i16, i16, i16) {
    let minute = |t: NaiveTime| (t.hour() * 60 + t.minute()) as i16;
    let last = to - TimeDelta::minutes(1);
    let days = ((last.date() - from.date()).num_days() + 1).clamp(1, 400) as i16;
    let ends = if to.date() > from.date() { 24 * 60 } else { minute(to.time()) };
    if days > 1 || ends <= minute(from.time()) {
        return (from.date(), days, 0, 24 * 60);
    }
    (from.date(), 1, minute(from.time()), ends)
}

fn line(entry: &Entry, names: &Names, known: &[String], barn: Uuid) -> (ImportLine, Appointment) {
    let text = format!("{}\n{}", entry.summary, entry.description);
    let horses: Vec<&Horse> = names.horses.iter().filter(|h| names_it(&text, &h.name)).collect();
    let people: Vec<&Person> = names.people.iter().filter(|p| names_it(&text, &p.name)).collect();
    let (day, days, from, to) = when(entry.from, entry.to);
    let guessed = AppointmentKind::guessed(&entry.summary);
    let kind = guessed.over_days(days as u16);
    let mut says = entry.doubts.clone();
    if kind != guessed {
        says.push("it takes several days, so it is taken as a lay-up".to_owned());
    }
    let uid = short(&entry.uid, 300);
    let fate = match () {
        () if known.contains(&uid) => Fate::Known,
        () if horses.is_empty() && people.is_empty() => Fate::Nobody,
        () => Fate::New,
    };
    if fate == Fate::Nobody {
        says.push("it names no horse and nobody of the barn: it is not taken".to_owned());
    }
    let title = match short(&entry.summary, 120) {
        empty if empty.is_empty() => kind.word().to_owned(),
        title => title,
    };
    let clock = |m: i16| crate::http::schedule::clock::clock(m as u16);
    let line = ImportLine {
        title: title.clone(),
        fate,
        kind: Some(kind),
        day: Some(day),
        days,
        from: Some(clock(from)),
        to: Some(clock(to)),
        rule: entry.rule.clone(),
        horses: horses.iter().map(|h| h.name.clone()).collect(),
        people: people.iter().map(|p| p.name.clone()).collect(),
        says,
    };
    let appointment = Appointment {
        // Made of the barn and the name in the other calendar, so that reading it twice adds nothing.
        id: Uuid::new_v5(&barn, uid.as_bytes()),
        kind,
        title,
        day,
        days,
        from,
        to,
        rule: entry.rule.clone(),
        skipped: entry.skipped.clone(),
        wants: vec![],
        uid: Some(uid),
        version: 0,
        people: people.iter().map(|p| p.id).collect(),
        horses: horses.iter().map(|h| h.id).collect(),
    };
    (line, appointment)
}
