//! Counts, on rungs that are not counted in asks: logged and corrected.

use axum::{Json, extract::State, http::StatusCode, response::Response};
use cavesson_core::{count::Count, curriculum::Rung};
use cavesson_store::{
    Put, Update,
    log::{
        count::{self, CountCorrection, LoggedCount, NewCount},
        ride::get_or_restore,
    },
};
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        rides::{
            reps::{book_of_ridden, check_faults},
            set_aside::{SetAside, UnplacedKind, or_set_aside},
            sets::{SetIn, check_set, set_key},
        },
        validate::Check,
    },
};

/// What was counted, by the measure of its rung, and the faults that showed.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct Counted {
    pub(crate) count: Count,
    #[serde(default)]
    pub(crate) faults: Vec<String>,
}

/// What was counted in a set, on a rung that is not counted in asks.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct CountIn {
    pub(super) set: SetIn,
    /// When it ended, by the device's clock. Only the time between asks is read from it.
    #[serde(default)]
    asked_at: Option<DateTime<Utc>>,
    #[serde(flatten)]
    counted: Counted,
}

/// A logged count.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CountOut {
    #[serde(flatten)]
    counted: Counted,
    /// `soft after 3 laps`.
    says: String,
    asked_at: Option<DateTime<Utc>>,
    removed: bool,
    version: i32,
}

impl From<LoggedCount> for CountOut {
    fn from(logged: LoggedCount) -> CountOut {
        CountOut {
            says: logged.count.in_words(),
            counted: Counted { count: logged.count, faults: logged.faults },
            asked_at: logged.asked_at,
            removed: logged.removed,
            version: logged.version,
        }
    }
}

/// What a count should have been, made from the version that was read.
#[derive(Debug, Deserialize, ToSchema)]
pub(crate) struct CountCorrectionIn {
    version: i32,
    #[serde(flatten)]
    counted: Counted,
    /// Take it out of the record; it stays in the trace and can come back.
    #[serde(default)]
    removed: bool,
}

/// Checks a count against its rung where that is known; problems stand under `at`.
pub(crate) fn check_count(check: &mut Check, at: &str, counted: &Counted, rung: Option<&Rung>) -> Option<NewCount> {
    check_faults(check, &format!("{at}faults"), &counted.faults);
    let count = counted.count.clone().checked(rung?.measure);
    let count = count.map_err(|e| check.say(&format!("{at}count"), e.to_string())).ok()?;
    Some(NewCount { count, faults: counted.faults.clone(), asked_at: None })
}

/// Logs what was counted in a set. The same count sent again is acknowledged again. Where its ride was moved to a day that has not come,
/// it waits for a trainer to place it (202).
#[utoipa::path(put, path = "/api/rides/{ride}/counts/{rep}", params(("ride" = Uuid, Path), ("rep" = Uuid, Path)),
    request_body = CountIn,
    responses((status = 200), (status = 201), (status = 202, body = SetAside), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put_count(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(ride, id): Ids,
    Body(sent): Body<CountIn>,
) -> Result<Response, Problem> {
    let landed = log(&app, &signed, (ride, id), sent.clone()).await;
    or_set_aside(&app, &signed.scope, landed, (UnplacedKind::Count, id, ride), &sent).await
}

/// Logs a count on a ride whose day has come.
pub(super) async fn log(
    app: &App,
    signed: &SignedIn,
    (ride, id): (Uuid, Uuid),
    sent: CountIn,
) -> Result<StatusCode, Problem> {
    let book = book_of_ridden(app, signed, ride).await?;
    let mut check = Check::default();
    check.that(sent.set.id == id, "set.id", "the set's id is the one in the address");
    let rung = check_set(&mut check, "set.", &sent.set, &book);
    let new = check_count(&mut check, "", &sent.counted, rung);
    check.done()?;
    let new = NewCount { asked_at: sent.asked_at, ..new.ok_or_else(Problem::broken)? };
    let key = set_key(ride, sent.set);
    let mut put = count::put(&app.db, &signed.scope, &key, &new).await?;
    if put == Put::Missing {
        // It was taken off its day in this very moment, and is put back.
        get_or_restore(&app.db, &signed.scope, ride).await?;
        put = count::put(&app.db, &signed.scope, &key, &new).await?;
    }
    match put {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken("set")),
        Put::Missing => Err(Problem::missing("ride")),
    }
}

/// Corrects, removes or restores a logged count. Who did it and what it was before is kept.
#[utoipa::path(patch, path = "/api/counts/{id}", params(("id" = Uuid, Path)), request_body = CountCorrectionIn,
    responses((status = 200, body = CountOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn correct_count(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<CountCorrectionIn>,
) -> Result<Json<CountOut>, Problem> {
    let (key, before) = count::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("count"))?;
    let book = book_of_ridden(&app, &signed, key.ride_id).await?;
    let mut check = Check::default();
    // A rung that is counted otherwise today keeps what it was counted in then.
    let kept = book.curriculum.rung(&key.rung).filter(|r| before.count.is_of(r.measure));
    let new = check_count(&mut check, "", &sent.counted, kept);
    let kind = std::mem::discriminant(&sent.counted.count) == std::mem::discriminant(&before.count);
    check.that(kept.is_some() || kind, "count", "it was counted in another measure");
    check.done()?;
    let count = new.map_or(sent.counted.count, |n| n.count);
    let to = CountCorrection { count, faults: sent.counted.faults, removed: sent.removed };
    match count::correct(&app.db, &signed.scope, id, sent.version, &to).await? {
        Update::Done(count) => Ok(Json(count.into())),
        // The same correction sent again has already been made.
        Update::Stale(now) if now.count == to.count && now.faults == to.faults && now.removed == to.removed => {
            Ok(Json(now.into()))
        }
        Update::Stale(now) => Err(Problem::stale("count", &CountOut::from(now))),
        Update::Missing => Err(Problem::missing("count")),
    }
}
