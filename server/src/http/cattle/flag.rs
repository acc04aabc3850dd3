//! The flag: orders to its motor, and the programme of a work.

use std::collections::HashSet;

use axum::{Json, extract::State};
use cavesson_core::cattle::{
    CattleEvent, EndHabit, FlagAsked, FlagEnd, FlagMove, StopTold, end_habit, flag_programme, flag_speed, next_on_flag,
};
use cavesson_sim::{FlagOrder, FlagReading, FlagState, LINK};
use cavesson_store::{cattle, log::ride};
use chrono::Days;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::events::CattleAdviceOut;
use crate::{
    App, Problem,
    auth::Rider,
    http::extract::{Body, Id},
};

/// An order to the flag's motor. While it goes, orders come all the time: without one it stops by itself.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub(crate) enum FlagOrderIn {
    Left {
        /// Feet a second, over 0 and at most 14.
        speed: f64,
    },
    Right {
        /// Feet a second, over 0 and at most 14.
        speed: f64,
    },
    To {
        /// Feet from the middle.
        at: f64,
        /// Feet a second, over 0 and at most 14.
        speed: f64,
    },
    Stop,
    Emergency,
    Release,
    Beat,
}

/// How the motor is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub(crate) enum FlagStateOut {
    Stands,
    Goes,
    AtEnd,
    LinkLost,
    Emergency,
}

/// Where the flag was.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FlagReadingOut {
    /// Seconds of the motor's clock.
    t: f64,
    /// Feet from the middle.
    at: f64,
    /// Feet a second.
    speed: f64,
    state: FlagStateOut,
}

/// What the motor did since it was last asked.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FlagOut {
    /// Feet from the middle to either end of the rail.
    half: f64,
    /// Without an order for so many seconds it stops by itself.
    link: f64,
    /// Twenty a second, oldest first.
    readings: Vec<FlagReadingOut>,
}

impl From<FlagReading> for FlagReadingOut {
    fn from(FlagReading { t, at, speed, state }: FlagReading) -> FlagReadingOut {
        let state = match state {
            FlagState::Stands => FlagStateOut::Stands,
            FlagState::Goes => FlagStateOut::Goes,
            FlagState::AtEnd => FlagStateOut::AtEnd,
            FlagState::LinkLost => FlagStateOut::LinkLost,
            FlagState::Emergency => FlagStateOut::Emergency,
        };
        FlagReadingOut { t, at, speed, state }
    }
}

/// No flag goes faster, feet a second.
const FASTEST: f64 = 14.0;
/// Readings that are told at most: those of the last seconds.
const TOLD: usize = 120;

fn speed(speed: f64) -> Result<f64, Problem> {
    if speed > 0.0 && speed <= FASTEST {
        return Ok(speed);
    }
    Err(Problem::field("speed", format!("over 0 and at most {FASTEST} feet a second")))
}

/// Gives the flag's motor an order.
#[utoipa::path(post, path = "/api/flag", request_body = FlagOrderIn,
    responses((status = 200, body = FlagOut), (status = 422, body = Problem)))]
pub(crate) async fn drive(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<FlagOrderIn>,
) -> Result<Json<FlagOut>, Problem> {
    let order = match sent {
        FlagOrderIn::Left { speed: s } => FlagOrder::Go { way: -1.0, speed: speed(s)? },
        FlagOrderIn::Right { speed: s } => FlagOrder::Go { way: 1.0, speed: speed(s)? },
        FlagOrderIn::To { at, speed: s } if at.is_finite() => FlagOrder::To { at, speed: speed(s)? },
        FlagOrderIn::To { .. } => return Err(Problem::field("at", "feet from the middle")),
        FlagOrderIn::Stop => FlagOrder::Stop,
        FlagOrderIn::Emergency => FlagOrder::Emergency,
        FlagOrderIn::Release => FlagOrder::Release,
        FlagOrderIn::Beat => FlagOrder::Beat,
    };
    let (readings, half) = app.flags.order(signed.scope.staff()?, order);
    let skip = readings.len().saturating_sub(TOLD);
    let readings = readings.into_iter().skip(skip).map(Into::into).collect();
    Ok(Json(FlagOut { half, link: LINK, readings }))
}

/// How the stops at one end came out.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct EndHabitOut {
    end: FlagEnd,
    stops: usize,
    /// Feet past on average; short under 0.
    past: f64,
    guesses: usize,
    /// What helps there, where something does.
    remedy: Option<&'static str>,
}

impl From<EndHabit> for EndHabitOut {
    fn from(EndHabit { end, stops, past, guesses, remedy }: EndHabit) -> EndHabitOut {
        EndHabitOut { end, stops, past, guesses, remedy }
    }
}

/// A move of the programme.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FlagMoveOut {
    /// Feet from the middle.
    to: f64,
    /// Feet a second.
    speed: f64,
    /// Seconds that it stands there.
    wait: f64,
    remedy: Option<&'static str>,
}

impl From<FlagMove> for FlagMoveOut {
    fn from(FlagMove { to, speed, wait, remedy }: FlagMove) -> FlagMoveOut {
        FlagMoveOut { to, speed, wait, remedy }
    }
}

/// The programme of a work on the flag, and what it rests on.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ProgrammeOut {
    /// The work's number on this horse.
    work: usize,
    moves: Vec<FlagMoveOut>,
    ends: Vec<EndHabitOut>,
    /// Feet a second.
    speed: f64,
    /// The latest stops, oldest first.
    stops: Vec<FlagStopOut>,
    /// What to do after the last stop of this ride.
    advice: Option<CattleAdviceOut>,
}

/// A stop that was logged.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FlagStopOut {
    stop: StopTold,
    /// Even with the flag within a foot, and it waited.
    right: bool,
}

/// Half of the line that a programme is made for, feet.
const HALF: f64 = 25.0;
/// Days of stops that are looked back on.
const BACK: u64 = 60;
/// Works from which a horse turns with the flag.
const ALONG: usize = 2;
/// Stops that are told.
const LATEST: usize = 40;

/// The programme of a ride's work on the flag: from the horse's stops of the last weeks, the same for whoever asks on this ride.
#[utoipa::path(get, path = "/api/rides/{id}/flag", params(("id" = Uuid, Path)),
    responses((status = 200, body = ProgrammeOut), (status = 404, body = Problem)))]
pub(crate) async fn programme(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
) -> Result<Json<ProgrammeOut>, Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    let span = [ride.ridden_on - Days::new(BACK), ride.ridden_on];
    let all = cattle::of_horse(&app.db, &signed.scope, ride.horse_id, span).await?;
    let told: Vec<_> = all
        .iter()
        .filter_map(|kept| match kept.event {
            CattleEvent::Flag { stop } => Some((kept.ride_id, stop)),
            _ => None,
        })
        .collect();
    let before: HashSet<_> = told.iter().map(|(ride, _)| *ride).filter(|ride| *ride != id).collect();
    let stops: Vec<StopTold> = told.iter().map(|(_, stop)| *stop).collect();
    // What is logged on this ride does not change its own programme.
    let earlier: Vec<StopTold> = told.iter().filter(|(ride, _)| *ride != id).map(|(_, stop)| *stop).collect();
    let seed = ride.id.as_u64_pair().0;
    let speed = flag_speed(&earlier);
    let asked = FlagAsked { half: HALF, turns: before.len() >= ALONG, stops: earlier, seed };
    let moves = flag_programme(&asked).into_iter().map(Into::into).collect();
    let now: Vec<StopTold> = told.iter().filter(|(ride, _)| *ride == id).map(|(_, stop)| *stop).collect();
    let advice = next_on_flag(&asked.stops, &now).map(CattleAdviceOut::plain);
    let ends = FlagEnd::ALL.map(|end| end_habit(&stops, end).into()).into();
    let skip = stops.len().saturating_sub(LATEST);
    let latest = stops[skip..].iter().map(|&stop| FlagStopOut { stop, right: stop.is_right() }).collect();
    Ok(Json(ProgrammeOut { work: before.len() + 1, moves, ends, speed, stops: latest, advice }))
}
