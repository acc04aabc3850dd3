//! What devices log of a ride besides asks: what is the same for all kinds of events.

use axum::http::StatusCode;
use cavesson_store::{
    log::ride::{RideToLog, to_log},
    ride_event::PutEvent,
};
use chrono::{DateTime, Days, Utc};
use uuid::Uuid;

use crate::{App, Problem, auth::SignedIn, services::barn_clock::today_at};

/// A device's clock may be ahead by so many days.
const AHEAD: u64 = 1;

/// The ride that an event is of, with its moment and its version looked at: no event comes before its day.
pub(crate) async fn ride_of_event(
    app: &App,
    signed: &SignedIn,
    ride: Uuid,
    (at, version): (DateTime<Utc>, i32),
) -> Result<RideToLog, Problem> {
    let ride = to_log(&app.db, &signed.scope, ride).await?.ok_or_else(|| Problem::missing("ride"))?;
    if ride.ridden_on > today_at(&ride.time_zone) {
        return Err(Problem::not_yet(ride.ridden_on));
    }
    if at > Utc::now() + Days::new(AHEAD) {
        return Err(Problem::field("at", "this is yet to come: look at the clock of the device"));
    }
    if !(1..=10_000).contains(&version) {
        return Err(Problem::field("version", "1 or more"));
    }
    Ok(ride)
}

/// The response to an event that was put.
pub(crate) fn kept(put: PutEvent, what: &str) -> Result<StatusCode, Problem> {
    match put {
        PutEvent::Done => Ok(StatusCode::NO_CONTENT),
        PutEvent::Conflict => Err(Problem::taken(what)),
        PutEvent::Missing => Err(Problem::missing("ride")),
    }
}
