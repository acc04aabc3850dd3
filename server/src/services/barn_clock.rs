//! What day and what time it is in a barn.

use cavesson_store::barn::{self, Barn};
use chrono::{NaiveDate, Utc};
use chrono_tz::Tz;

use crate::{App, Problem, auth::SignedIn};

/// The date it is in the barn now.
pub(crate) fn today_in(barn: &Barn) -> NaiveDate {
    today_at(&barn.time_zone)
}

/// The date it is now in a barn of this time zone.
pub(crate) fn today_at(time_zone: &str) -> NaiveDate {
    Utc::now().with_timezone(&zone(time_zone)).date_naive()
}

/// A barn's time zone. It is checked when it is set: one that a newer list no longer has is read as UTC.
pub(crate) fn zone(name: &str) -> Tz {
    name.parse().unwrap_or(Tz::UTC)
}

/// The date it is in the barn of a signed-in person.
pub(crate) async fn today(app: &App, signed: &SignedIn) -> Result<NaiveDate, Problem> {
    Ok(today_in(&barn::get(&app.db, &signed.scope).await?))
}
