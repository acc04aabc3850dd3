//! The weather of a day: typed in by someone, or told by a weather service. The service is behind [`WeatherSource`]; what ships with
//! the project is a stand-in for the demo.

use cavesson_core::load::Weather;
pub(crate) use cavesson_sim::{WeatherSource, WeatherStation};
use cavesson_store::{Scope, planned};
use chrono::{NaiveDate, NaiveTime, Timelike, Utc};

use crate::{App, Problem, services::barn_clock::zone};

/// Weather, and whether it was typed in.
pub(crate) type Known = (Weather, bool);

/// The air of a day at an hour: as typed, else the weather service's, else not known.
pub(crate) async fn weather_at(app: &App, scope: &Scope, day: NaiveDate, hour: u32) -> Result<Option<Known>, Problem> {
    Ok(told_at(app, planned::weather(&app.db, scope, day).await?, day, hour))
}

/// The same where it is known what was typed in for the day.
pub(crate) fn told_at(app: &App, typed: Option<Weather>, day: NaiveDate, hour: u32) -> Option<Known> {
    typed.map(|air| (air, true)).or_else(|| Some((app.weather.as_ref()?.at(day, hour)?, false)))
}

/// The hour of a ride, or of now where it has none.
pub(crate) fn hour_of(starts_at: Option<NaiveTime>, time_zone: &str) -> u32 {
    starts_at.map_or_else(|| Utc::now().with_timezone(&zone(time_zone)).hour(), |t| t.hour())
}
