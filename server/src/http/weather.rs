//! The air of the day: typed in, or from the weather service.

use axum::{Json, extract::State};
use cavesson_core::load::{HeatBand, Scale, Weather};
use cavesson_store::planned;
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{extract::Body, validate::Check},
    services::barn_clock::today_in,
    weather::{Known, hour_of, weather_at},
};

/// Heat, by both indices.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub(crate) struct HeatOut {
    /// Air temperature, °C.
    celsius: f64,
    /// Air temperature, °F.
    fahrenheit: f64,
    /// Relative humidity, per cent.
    humidity: u8,
    /// Temperature-humidity index.
    thi: f64,
    /// °F + % of humidity.
    sum: f64,
    pub(crate) band: HeatBand,
    /// What it does to the ride; nothing where it does nothing.
    says: Option<String>,
    /// Whether someone typed it in; else it is the weather service's.
    typed: bool,
}

/// The air as someone reads it off.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AirIn {
    /// Air temperature, -40 to 60 °C or to 140 °F.
    degrees: f64,
    scale: Scale,
    /// Relative humidity, per cent.
    humidity: f64,
}

/// The heat of today.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TodayHeat {
    date: NaiveDate,
    heat: Option<HeatOut>,
}

pub(crate) fn heat_out((air, typed): Known) -> HeatOut {
    HeatOut {
        celsius: air.celsius(),
        fahrenheit: air.fahrenheit(),
        humidity: air.humidity(),
        thi: air.thi(),
        sum: air.sum_index(),
        band: air.band(),
        says: air.band().says().map(str::to_owned),
        typed,
    }
}

/// The heat of today, now.
#[utoipa::path(get, path = "/api/weather", responses((status = 200, body = TodayHeat)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<TodayHeat>, Problem> {
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let date = today_in(&barn);
    let air = weather_at(&app, &signed.scope, date, hour_of(None, &barn.time_zone)).await?;
    Ok(Json(TodayHeat { date, heat: air.map(heat_out) }))
}

/// Types in the air of today.
#[utoipa::path(put, path = "/api/weather", request_body = AirIn,
    responses((status = 200, body = TodayHeat), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<AirIn>,
) -> Result<Json<TodayHeat>, Problem> {
    let mut check = Check::default();
    let air =
        [("degrees", Weather::read(sent.degrees, sent.scale, 50.0)), ("humidity", Weather::new(20.0, sent.humidity))];
    for (field, error) in air.iter().filter_map(|(field, air)| Some((field, air.err()?))) {
        check.say(field, error.to_string());
    }
    check.done()?;
    let air =
        Weather::read(sent.degrees, sent.scale, sent.humidity).map_err(|e| Problem::field("degrees", e.to_string()))?;
    let date = crate::services::barn_clock::today(&app, &signed).await?;
    planned::put_weather(&app.db, &signed.scope, date, air).await?;
    Ok(Json(TodayHeat { date, heat: Some(heat_out((air, true))) }))
}
