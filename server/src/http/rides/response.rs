//! Rides as they are read back, with their sets.

use std::collections::HashMap;

use axum::{Json, extract::State};
use cavesson_core::{
    barn::{EntryMethod, MissedReason, RideState},
    curriculum::Place,
    load::GaitMinutes,
};
use cavesson_store::log::{
    count,
    rep::{self, SetKey},
    ride::{self, Ride},
};
use chrono::{NaiveDate, NaiveTime};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::{
        extract::{Id, QueryParams, checked_limit, default_limit},
        rides::{counts::CountOut, reps::RepOut, sets::SetIn},
        validate::Check,
    },
};

/// A ride.
#[derive(Serialize, ToSchema)]
pub(crate) struct RideOut {
    pub(crate) id: Uuid,
    pub(crate) horse_id: Uuid,
    horse_name: String,
    rider_id: Uuid,
    rider_name: String,
    date: NaiveDate,
    /// `HH:MM:SS`, local.
    #[schema(value_type = Option<String>)]
    starts_at: Option<NaiveTime>,
    place: Place,
    /// Which of the barn's own grounds, where that is known.
    ground_id: Option<Uuid>,
    ground_name: Option<String>,
    state: RideState,
    entered: EntryMethod,
    /// What to fix tomorrow.
    note: String,
    signs: Vec<String>,
    bit: Option<String>,
    hot: Option<bool>,
    /// Air temperature in °C and relative humidity in per cent, where they were noted.
    celsius: Option<f64>,
    humidity: Option<i16>,
    /// Minutes by gait, where they were noted.
    minutes: Option<GaitMinutes>,
    /// Why it was not ridden, where it was asked.
    missed: Option<MissedReason>,
    /// Whether the week's plan put it on its day.
    from_week: bool,
    version: i32,
    /// How many reps and counts were logged.
    reps: i64,
}

/// A set with its reps.
#[derive(Serialize, ToSchema)]
pub(crate) struct SetOut {
    #[serde(flatten)]
    set: SetIn,
    reps: Vec<RepOut>,
    /// What was counted, on a rung that is not counted in asks.
    counted: Option<CountOut>,
}

/// A ride with all that was logged in it.
#[derive(Serialize, ToSchema)]
pub(crate) struct RideDetail {
    #[serde(flatten)]
    ride: RideOut,
    sets: Vec<SetOut>,
}

/// A page of rides, latest first.
#[derive(Serialize, ToSchema)]
pub(crate) struct RidesOut {
    items: Vec<RideDetail>,
    /// Whether older ones follow the last of these.
    more: bool,
}

/// Which rides of a horse.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Older {
    /// The ride that the page follows, the last of the page before; none for the latest.
    after: Option<Uuid>,
    /// Rides to send, 1 to 200.
    #[serde(default = "default_limit")]
    #[param(minimum = 1, maximum = 200)]
    limit: i64,
}

impl TryFrom<Ride> for RideOut {
    type Error = Problem;
    fn try_from(r: Ride) -> Result<Self, Problem> {
        Ok(RideOut {
            id: r.id,
            horse_id: r.horse_id,
            horse_name: r.horse_name,
            rider_id: r.rider_id,
            rider_name: r.rider_name,
            date: r.ridden_on,
            starts_at: r.starts_at,
            place: r.place,
            ground_id: r.ground_id,
            ground_name: r.ground_name,
            state: r.state,
            entered: r.entered,
            note: r.note,
            signs: r.signs,
            bit: r.bit,
            hot: r.hot,
            celsius: r.decicelsius.map(|d| f64::from(d) / 10.0),
            humidity: r.humidity,
            minutes: r.minutes.map(Into::into),
            missed: r.missed,
            from_week: r.from_week,
            version: r.version,
            reps: r.reps,
        })
    }
}

/// Rides with all that was logged in them.
pub(crate) async fn all(app: &App, signed: &SignedIn, rides: Vec<Ride>) -> Result<Vec<RideDetail>, Problem> {
    let ids: Vec<Uuid> = rides.iter().map(|r| r.id).collect();
    let mut sets: HashMap<Uuid, Vec<SetOut>> = HashMap::new();
    for (key, reps) in rep::of_rides(&app.db, &signed.scope, &ids, false).await? {
        let reps = reps.into_iter().map(RepOut::from).collect();
        sets.entry(key.ride_id).or_default().push(SetOut { set: set_in(key), reps, counted: None });
    }
    for (key, logged) in count::of_rides(&app.db, &signed.scope, &ids, false).await? {
        let counted = Some(CountOut::from(logged));
        sets.entry(key.ride_id).or_default().push(SetOut { set: set_in(key), reps: vec![], counted });
    }
    rides
        .into_iter()
        .map(|ride| {
            let mut sets = sets.remove(&ride.id).unwrap_or_default();
            sets.sort_by_key(|s| s.set.position);
            Ok(RideDetail { ride: ride.try_into()?, sets })
        })
        .collect()
}

fn set_in(key: SetKey) -> SetIn {
    SetIn {
        id: key.id,
        position: key.position,
        rung: key.rung,
        gait: key.gait,
        side: key.side,
        rider_id: key.rider_id,
        cow: key.cow,
    }
}

pub(crate) async fn one(app: &App, signed: &SignedIn, id: Uuid) -> Result<RideDetail, Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    all(app, signed, vec![ride]).await?.pop().ok_or_else(Problem::broken)
}

/// A horse's rides with their sets, latest first.
#[utoipa::path(get, path = "/api/horses/{id}/rides", params(("id" = Uuid, Path), Older),
    responses((status = 200, body = RidesOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn of_horse(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    QueryParams(older): QueryParams<Older>,
) -> Result<Json<RidesOut>, Problem> {
    let limit = checked_limit(older.limit)?;
    crate::services::horses::find(&app, &signed, id).await?;
    if let Some(after) = older.after {
        let there = ride::get(&app.db, &signed.scope, after).await?;
        if there.is_none_or(|ride| ride.horse_id != id) {
            return Err(Problem::field("after", "this horse has no such ride; begin with the latest"));
        }
    }
    let (items, more) = ride::of_horse(&app.db, &signed.scope, id, older.after, limit).await?;
    Ok(Json(RidesOut { items: all(&app, &signed, items).await?, more }))
}

/// One ride with its sets.
#[utoipa::path(get, path = "/api/rides/{id}", params(("id" = Uuid, Path)),
    responses((status = 200, body = RideDetail), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<RideDetail>, Problem> {
    Ok(Json(one(&app, &signed, id).await?))
}

/// A day.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct OnDay {
    date: NaiveDate,
}

/// The rides that were planned for a horse on a day and not begun, in order of the clock.
#[derive(Serialize, ToSchema)]
pub(crate) struct PlannedRides {
    items: Vec<RideOut>,
}

/// The rides that were planned for a horse on a day: one of them is filled by a ride entered afterwards.
#[utoipa::path(get, path = "/api/horses/{id}/planned", params(("id" = Uuid, Path), OnDay),
    responses((status = 200, body = PlannedRides), (status = 404, body = Problem)))]
pub(crate) async fn planned(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    QueryParams(on): QueryParams<OnDay>,
) -> Result<Json<PlannedRides>, Problem> {
    let mut check = Check::default();
    check.day("date", on.date);
    check.done()?;
    crate::services::horses::find(&app, &signed, id).await?;
    let items = ride::planned_of(&app.db, &signed.scope, &[(id, on.date)]).await?;
    Ok(Json(PlannedRides { items: items.into_iter().map(TryInto::try_into).collect::<Result<_, _>>()? }))
}
