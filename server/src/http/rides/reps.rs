//! Reps: logged, corrected, and who changed what.

use std::sync::Arc;

use axum::{Json, extract::State, http::StatusCode, response::Response};
use cavesson_core::{
    count::Count,
    curriculum::{Curriculum, Gait, Measure, Rung, Side},
    response::{Answer, Outcome, Part, Rep, ResponseTime, Weight},
};
use cavesson_store::{
    Page, Put, Update,
    log::{
        correction::{self, Correction},
        rep::{self, LoggedRep, NewRep},
        ride::{get_or_restore, to_log},
    },
};
use chrono::{DateTime, NaiveDate, Utc};
use metrics::histogram;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids, Paging, QueryParams},
        rides::{
            set_aside::{SetAside, UnplacedKind, or_set_aside},
            sets::{SetIn, check_set, set_key},
        },
        validate::Check,
    },
    services::{
        barn_clock::today_at,
        book::{Book, at_hand, book},
    },
};

/// What was seen in one rep.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct Answered {
    pub(crate) outcome: Outcome,
    /// On a try at a two-part answer: the part that did not come.
    #[serde(default)]
    pub(crate) missing: Option<Part>,
    pub(crate) weight: Weight,
    /// From the ask to the give, 0 to 3600; null where it was not measured.
    #[serde(default)]
    pub(crate) seconds: Option<f64>,
    #[serde(default)]
    pub(crate) faults: Vec<String>,
}

/// A rep to log.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct RepIn {
    pub(super) set: SetIn,
    /// Place among the set's reps.
    position: i32,
    /// When the ask was, by the device's clock. Only the time between asks is read from it.
    #[serde(default)]
    asked_at: Option<DateTime<Utc>>,
    #[serde(flatten)]
    answered: Answered,
}

/// A logged rep.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RepOut {
    id: Uuid,
    /// Place among the set's reps.
    position: i32,
    #[serde(flatten)]
    answered: Answered,
    asked_at: Option<DateTime<Utc>>,
    removed: bool,
    version: i32,
}

/// What a rep should have been, made from the version that was read.
#[derive(Debug, Deserialize, ToSchema)]
pub(crate) struct CorrectionIn {
    version: i32,
    #[serde(flatten)]
    answered: Answered,
    /// Take it out of the record; it stays in the trace and can come back.
    #[serde(default)]
    removed: bool,
}

/// One change to the record.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ChangeOut {
    id: i64,
    at: DateTime<Utc>,
    who: String,
    ride_id: Uuid,
    ridden_on: NaiveDate,
    rung: String,
    gait: Gait,
    side: Side,
    before: String,
    /// Empty when it was removed.
    after: Option<String>,
}

/// A page of changes, latest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Changes {
    items: Vec<ChangeOut>,
    offset: i64,
    more: bool,
}

impl From<LoggedRep> for RepOut {
    fn from(logged: LoggedRep) -> Self {
        let missing = match logged.rep.answer {
            Answer::Tried { missing } => missing,
            _ => None,
        };
        let answered = Answered {
            outcome: logged.rep.answer.outcome(),
            missing,
            weight: logged.rep.weight,
            seconds: logged.rep.time.map(ResponseTime::seconds),
            faults: logged.faults,
        };
        RepOut {
            id: logged.id,
            position: logged.position,
            answered,
            asked_at: logged.asked_at,
            removed: logged.removed,
            version: logged.version,
        }
    }
}

/// Checks an answer, against its rung where that is known; problems stand under `at`.
pub(crate) fn check_answer(check: &mut Check, at: &str, answered: &Answered, rung: Option<&Rung>) -> Rep {
    let field = |name: &str| format!("{at}{name}");
    let time = answered
        .seconds
        .and_then(|s| ResponseTime::from_seconds(s).map_err(|e| check.say(&field("seconds"), e.to_string())).ok());
    let answer = Answer::of_outcome(answered.outcome, answered.missing).unwrap_or_else(|| {
        check.say(&field("missing"), "only a try has a missing part");
        Answer::None
    });
    let two_parts = rung.is_none_or(|r| r.answer.len() == 2);
    check.that(two_parts || answered.missing.is_none(), &field("missing"), "the answer of this rung has one part");
    check_faults(check, &field("faults"), &answered.faults);
    Rep { answer, weight: answered.weight, time }
}

/// A rung is logged in its own measure: asks are refused on one that is counted otherwise.
pub(crate) fn check_asked(check: &mut Check, at: &str, rung: Option<&Rung>) {
    if let Some(rung) = rung.filter(|r| r.measure != Measure::Reps) {
        check.say(at, format!("{} is counted in {}: log that instead of asks", rung.name, rung.measure.noun()));
    }
}

/// Checks the faults of an ask.
pub(crate) fn check_faults(check: &mut Check, field: &str, faults: &[String]) {
    check.that(faults.len() <= 6, field, "at most six faults on an ask");
    for tag in faults.iter().filter(|t| Curriculum::standard().fault(t).is_none()) {
        check.say(field, format!("there is no fault \"{}\"", tag.chars().take(30).collect::<String>()));
    }
}

/// Logs a rep. The same rep sent again is acknowledged again and counted once. Where its ride was moved to a day that has not come, it
/// waits for a trainer to place it (202).
#[utoipa::path(put, path = "/api/rides/{ride}/reps/{rep}", params(("ride" = Uuid, Path), ("rep" = Uuid, Path)),
    request_body = RepIn,
    responses((status = 200), (status = 201), (status = 202, body = SetAside), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(ride, id): Ids,
    Body(sent): Body<RepIn>,
) -> Result<Response, Problem> {
    let landed = log(&app, &signed, (ride, id), sent.clone()).await;
    or_set_aside(&app, &signed.scope, landed, (UnplacedKind::Rep, id, ride), &sent).await
}

/// Logs a rep on a ride whose day has come.
pub(super) async fn log(
    app: &App,
    signed: &SignedIn,
    (ride, id): (Uuid, Uuid),
    sent: RepIn,
) -> Result<StatusCode, Problem> {
    let book = book_of_ridden(app, signed, ride).await?;
    let mut check = Check::default();
    let rung = check_set(&mut check, "set.", &sent.set, &book);
    check_asked(&mut check, "set.rung", rung);
    let rep = check_answer(&mut check, "", &sent.answered, rung);
    check.that((0..10_000).contains(&sent.position), "position", "a place in the set is 0 or more");
    check.done()?;
    let asked_at = sent.asked_at;
    let new = NewRep { id, position: sent.position, rep, faults: sent.answered.faults, asked_at };
    let key = set_key(ride, sent.set);
    let mut put = rep::put(&app.db, &signed.scope, &key, &new).await?;
    if put == Put::Missing {
        // It was taken off its day in this very moment, and is put back.
        get_or_restore(&app.db, &signed.scope, ride).await?;
        put = rep::put(&app.db, &signed.scope, &key, &new).await?;
    }
    match put {
        Put::Created => {
            note_age(asked_at);
            Ok(StatusCode::CREATED)
        }
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken("rep or set")),
        Put::Missing => Err(Problem::missing("ride")),
    }
}

/// Notes how long after the ask a rep came here: how long it waited on its device.
fn note_age(asked_at: Option<DateTime<Utc>>) {
    if let Some(at) = asked_at {
        histogram!("rep_age_seconds").record((Utc::now() - at).as_seconds_f64().max(0.0));
    }
}

/// The book of the horse of a ride whose day has come.
pub(super) async fn book_of_ridden(app: &App, signed: &SignedIn, ride: Uuid) -> Result<Arc<Book>, Problem> {
    let to = to_log(&app.db, &signed.scope, ride).await?.ok_or_else(|| Problem::missing("ride"))?;
    if to.ridden_on > today_at(&to.time_zone) {
        return Err(Problem::not_yet(to.ridden_on));
    }
    match at_hand(app, &signed.scope, to.horse_id, to.curriculum_revision, &to.traits) {
        Some(book) => Ok(book),
        None => book(app, &signed.scope, Some(to.horse_id)).await,
    }
}

/// Corrects, removes or restores a logged rep. Who did it and what it was before is kept.
#[utoipa::path(patch, path = "/api/reps/{id}", params(("id" = Uuid, Path)), request_body = CorrectionIn,
    responses((status = 200, body = RepOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn correct(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<CorrectionIn>,
) -> Result<Json<RepOut>, Problem> {
    let mut check = Check::default();
    let rep = check_answer(&mut check, "", &sent.answered, None);
    check.done()?;
    let to = Correction { rep, faults: sent.answered.faults, removed: sent.removed };
    match correction::put(&app.db, &signed.scope, id, sent.version, &to).await? {
        Update::Done(rep) => Ok(Json(rep.into())),
        // The same correction sent again has already been made.
        Update::Stale(now) if now.rep == to.rep && now.faults == to.faults && now.removed == to.removed => {
            Ok(Json(now.into()))
        }
        Update::Stale(now) => Err(Problem::stale("rep", &RepOut::from(now))),
        Update::Missing => Err(Problem::missing("rep")),
    }
}

/// Changes to a horse's logged reps and counts and to who rode its sets, latest first.
#[utoipa::path(get, path = "/api/horses/{id}/changes", params(("id" = Uuid, Path), Paging),
    responses((status = 200, body = Changes), (status = 404, body = Problem)))]
pub(crate) async fn changes(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    QueryParams(paging): QueryParams<Paging>,
) -> Result<Json<Changes>, Problem> {
    let p = paging.checked()?;
    crate::services::horses::find(&app, &signed, id).await?;
    let Page { items, offset, more } = correction::changes(&app.db, &signed.scope, id, p.offset, p.limit).await?;
    let items = items
        .into_iter()
        .map(|c| ChangeOut {
            id: c.id,
            at: c.at,
            who: c.person_name,
            ride_id: c.ride_id,
            ridden_on: c.ridden_on,
            rung: c.rung,
            gait: c.gait,
            side: c.side,
            before: in_words(&c.before),
            after: c.after.as_ref().map(in_words),
        })
        .collect();
    Ok(Json(Changes { items, offset, more }))
}

/// A kept rep or count in one line: `tried at an orange, 2.4 s, head-up`.
fn in_words(kept: &serde_json::Value) -> String {
    if let Some(rider) = kept["rider"].as_str() {
        return format!("ridden by {rider}");
    }
    if kept["removed"].as_bool() == Some(true) {
        return "removed".to_owned();
    }
    let mut line = match serde_json::from_value::<Count>(kept["count"].clone()) {
        Ok(count) => count.in_words(),
        Err(_) => answer_in_words(kept),
    };
    for fault in kept["faults"].as_array().into_iter().flatten().filter_map(|f| f.as_str()) {
        line.push_str(&format!(", {}", Curriculum::standard().fault(fault).map_or(fault, |f| &f.name)));
    }
    line
}

fn answer_in_words(kept: &serde_json::Value) -> String {
    let text = |key: &str| kept[key].as_str().unwrap_or_default().to_owned();
    let weight = text("weight").parse::<Weight>().map_or_else(|_| text("weight"), |w| w.phrase().to_owned());
    let mut line = match text("outcome").as_str() {
        "none" => format!("no answer at {weight}"),
        outcome => format!("{outcome} at {weight}"),
    };
    if let Some(millis) = kept["millis"].as_u64() {
        line.push_str(&format!(", {:.1} s", millis as f64 / 1000.0));
    }
    line
}
