//! Passes over a pattern: logged from the saddle, looked back on.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    curriculum::Gait,
    pattern::{Drift, Hand, Pass, SetUp, drifts},
};
use cavesson_store::{
    Put, Update,
    log::ride,
    pattern::{self, KeptPass, KeptTrack, NewPass, PassTold},
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::{set_ups, sound};
use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids, QueryParams},
        validate::{Check, within_years_if_any},
    },
    services::{barn_clock::today, horses},
};

/// Passes of so many days are shown.
pub(super) const DAYS: u64 = 120;

/// A pass to log.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PassIn {
    set_up_id: Uuid,
    /// Who rode; whoever logs it, where it is not said.
    rider_id: Option<Uuid>,
    ride_id: Option<Uuid>,
    /// Today, where it is not said.
    #[serde(default, deserialize_with = "within_years_if_any")]
    on: Option<NaiveDate>,
    gait: Gait,
    told: ToldIn,
    /// What it was ridden over, where the device knows; the set-up as it stands where not.
    set_up: Option<SetUp>,
}

/// What is told of a pass.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ToldIn {
    /// Barrel by barrel.
    #[schema(max_items = 20)]
    barrels: Vec<cavesson_core::pattern::BarrelTold>,
    /// Seconds behind each barrel, where they were taken.
    #[serde(default)]
    #[schema(max_items = 20)]
    behind: Vec<Option<f64>>,
    seconds: Option<f64>,
    #[serde(default)]
    #[schema(max_length = 500)]
    note: String,
}

/// A pass.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PassOut {
    id: Uuid,
    rider: String,
    ride_id: Option<Uuid>,
    set_up_id: Uuid,
    set_up_name: String,
    on: NaiveDate,
    gait: Gait,
    barrels: Vec<cavesson_core::pattern::BarrelTold>,
    behind: Vec<Option<f64>>,
    seconds: Option<f64>,
    /// With five seconds for each barrel that went down.
    official: Option<f64>,
    note: String,
    /// What it was ridden over.
    set_up: SetUp,
    track: Option<TrackOut>,
    version: i32,
}

/// A track laid over a set-up.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TrackOut {
    /// x, y and seconds.
    points: Vec<[f64; 3]>,
    /// Root mean square from the plan, metres.
    off: f64,
    /// At the three spots of each barrel, metres.
    pockets: Vec<[f64; 3]>,
    behind: Vec<f64>,
    seconds: f64,
    /// Whether it can be had as a file: where on the earth it was is known.
    file: bool,
}

/// How close or wide a horse goes at a barrel in one week.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DriftOut {
    barrel: usize,
    hand: Hand,
    week: NaiveDate,
    spots: usize,
    /// 1 always wide, -1 always close.
    drift: f64,
}

/// Passes of a horse, latest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Passes {
    items: Vec<PassOut>,
    drifts: Vec<DriftOut>,
}

impl From<KeptTrack> for TrackOut {
    fn from(kept: KeptTrack) -> TrackOut {
        let KeptTrack { points, off, pockets, behind, seconds, on_earth } = kept;
        TrackOut { points, off, pockets, behind, seconds, file: on_earth.is_some() }
    }
}

/// A kept pass as the core looks at it.
pub(super) fn as_pass(kept: &KeptPass) -> Pass {
    Pass {
        on: kept.passed_on,
        gait: kept.gait,
        hands: kept.set_up.barrels.iter().map(|b| b.turn).collect(),
        told: kept.told.barrels.clone(),
        seconds: kept.told.seconds.or_else(|| kept.track.as_ref().map(|t| t.seconds)),
    }
}

fn out(kept: KeptPass) -> PassOut {
    let official = as_pass(&kept).official();
    PassOut {
        id: kept.id,
        rider: kept.rider,
        ride_id: kept.ride_id,
        set_up_id: kept.set_up_id,
        set_up_name: kept.set_up_name,
        on: kept.passed_on,
        gait: kept.gait,
        barrels: kept.told.barrels,
        behind: kept.told.behind,
        seconds: kept.told.seconds,
        official,
        note: kept.told.note,
        set_up: kept.set_up,
        track: kept.track.map(Into::into),
        version: kept.version,
    }
}

/// The passes of a horse over the last months, with how it drifts at each barrel.
#[utoipa::path(get, path = "/api/horses/{id}/passes", params(("id" = Uuid, Path)),
    responses((status = 200, body = Passes), (status = 404, body = Problem)))]
pub(crate) async fn list(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<Passes>, Problem> {
    horses::find(&app, &signed, id).await?;
    let since = today(&app, &signed).await? - Days::new(DAYS);
    let kept = pattern::passes(&app.db, &signed.scope, id, since).await?;
    let passes: Vec<Pass> = kept.iter().map(as_pass).collect();
    let drift = |d: Drift| DriftOut { barrel: d.barrel, hand: d.hand, week: d.week, spots: d.spots, drift: d.drift };
    let drifts = drifts(&passes).into_iter().map(drift).collect();
    Ok(Json(Passes { items: kept.into_iter().rev().map(out).collect(), drifts }))
}

/// Logs a pass over a set-up. A device may have kept it for a while: it says then what it was ridden over.
#[utoipa::path(put, path = "/api/horses/{horse}/passes/{id}", params(("horse" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = PassIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(horse, id): Ids,
    Body(sent): Body<PassIn>,
) -> Result<StatusCode, Problem> {
    horses::find(&app, &signed, horse).await?;
    let kept = set_ups::find(&app, &signed, sent.set_up_id).await?;
    if let Some(set_up) = &sent.set_up {
        sound::set_up(set_up)?;
    }
    if let Some(ride) = sent.ride_id {
        let of_horse = ride::get(&app.db, &signed.scope, ride).await?.is_some_and(|r| r.horse_id == horse);
        if !of_horse {
            return Err(Problem::field("ride_id", "there is no such ride of this horse"));
        }
    }
    let today = today(&app, &signed).await?;
    // A device's clock may be in the next day already.
    let on = sent.on.map_or(today, |on| if on == today + Days::new(1) { today } else { on });
    let over = sent.set_up.as_ref().unwrap_or(&kept.set_up);
    let told = checked(sent.told, over, (sent.gait, on, today))?;
    let new = NewPass {
        rider_id: sent.rider_id.unwrap_or(signed.scope.person()),
        ride_id: sent.ride_id,
        set_up_id: sent.set_up_id,
        passed_on: on,
        gait: sent.gait,
        told,
        set_up: sent.set_up,
    };
    match pattern::put_pass(&app.db, &signed.scope, horse, id, &new).await? {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken("pass")),
        Put::Missing => Err(Problem::missing("rider")),
    }
}

/// What is told of a pass after a second thought.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PassCorrection {
    /// The version that was read.
    version: i32,
    gait: Gait,
    told: ToldIn,
}

/// Corrects a pass.
#[utoipa::path(patch, path = "/api/passes/{id}", params(("id" = Uuid, Path)), request_body = PassCorrection,
    responses((status = 200, body = PassOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn correct(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<PassCorrection>,
) -> Result<Json<PassOut>, Problem> {
    let over = pattern::ridden_over(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("pass"))?;
    let told = checked(sent.told, &over.set_up, (sent.gait, over.passed_on, over.passed_on))?;
    match pattern::correct_pass(&app.db, &signed.scope, id, sent.version, sent.gait, &told).await? {
        Update::Done(kept) => Ok(Json(out(kept))),
        Update::Stale(now) => Err(Problem::stale("pass", &out(now))),
        Update::Missing => Err(Problem::missing("pass")),
    }
}

fn checked(told: ToldIn, set_up: &SetUp, (gait, on, today): (Gait, NaiveDate, NaiveDate)) -> Result<PassTold, Problem> {
    let mut check = Check::default();
    let barrels = set_up.barrels.len();
    check.that(gait != Gait::Stand, "gait", "a pass is walked, jogged, loped or run");
    check.that(on <= today, "on", "it cannot be in the future");
    check.that(told.barrels.len() == barrels, "told.barrels", format!("the set-up has {barrels} barrels"));
    check.that(told.behind.len() <= barrels, "told.behind", format!("the set-up has {barrels} barrels"));
    let times: Vec<f64> = told.behind.iter().flatten().copied().chain(told.seconds).collect();
    check.that(times.iter().all(|t| (0.5..=600.0).contains(t)), "told.seconds", "times are 0.5 to 600 s");
    check.that(times.windows(2).all(|w| w[0] < w[1]), "told.behind", "each time is later than the one before");
    for (n, barrel) in told.barrels.iter().enumerate() {
        check.that(barrel.faults.len() <= 10, &format!("told.barrels[{n}].faults"), "at most 10 faults");
    }
    let note = check.note("told.note", &told.note, 500);
    check.done()?;
    Ok(PassTold { barrels: told.barrels, behind: told.behind, seconds: told.seconds, note })
}

/// Whether to put a pass back that was taken out.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(crate) struct Back {
    #[serde(default)]
    back: bool,
}

/// Takes a pass out, or puts it back.
#[utoipa::path(delete, path = "/api/passes/{id}", params(("id" = Uuid, Path), Back),
    responses((status = 204), (status = 404, body = Problem)))]
pub(crate) async fn remove(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    QueryParams(back): QueryParams<Back>,
) -> Result<StatusCode, Problem> {
    if pattern::remove_pass(&app.db, &signed.scope, id, !back.back).await? {
        Ok(StatusCode::NO_CONTENT)
    } else {
        Err(Problem::missing("pass"))
    }
}
