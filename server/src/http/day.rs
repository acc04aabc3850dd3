//! The day for a device: in one answer what every open ride of today needs, so that it can be ridden without a signal.

use std::collections::BTreeMap;

use axum::{Json, extract::State};
use cavesson_core::{barn::RideState, curriculum::SubjectKind};
use cavesson_store::log::ride;
use chrono::NaiveDate;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::{
    cattle::{RideCattleOut, ride_cattle},
    curriculum::{self, CurriculumOut},
    exercises::{self, RideExercisesOut},
    extract::Id,
    horses::gear::{self, GearList},
    patterns::{PatternToday, pattern_today},
    rides::{
        plan::{PlanOut, planned},
        response::{RideDetail, one},
    },
    tack::{RideTackOut, ride_tack},
};
use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        barn_clock::today,
        book::{Book, book},
        standing::{of_horse, response::StandingOut},
    },
};

/// What the open rides of a day need.
#[derive(Serialize, ToSchema)]
pub(crate) struct DayOut {
    date: NaiveDate,
    /// In order of the clock.
    rides: Vec<DayRide>,
    /// The curricula that their horses are on, each once.
    curricula: Vec<DayCurriculum>,
}

/// A ride, with the answers that its page asks for.
#[derive(Serialize, ToSchema)]
pub(crate) struct DayRide {
    ride: RideDetail,
    plan: PlanOut,
    standing: StandingOut,
    gear: GearList,
    tack: RideTackOut,
    exercises: RideExercisesOut,
    /// Where something on cattle is planned.
    cattle: Option<RideCattleOut>,
    /// Where something on the pattern is planned.
    pattern: Option<PatternToday>,
}

/// A curriculum, and the horses that are on it.
#[derive(Serialize, ToSchema)]
pub(crate) struct DayCurriculum {
    horses: Vec<Uuid>,
    curriculum: CurriculumOut,
}

/// What the open rides of today need.
#[utoipa::path(get, path = "/api/day", responses((status = 200, body = DayOut)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<DayOut>, Problem> {
    let date = today(&app, &signed).await?;
    let open = ride::on_day(&app.db, &signed.scope, date).await?;
    let (mut rides, mut curricula) = (vec![], BTreeMap::<String, DayCurriculum>::new());
    // One after the other: the day is not in a hurry, and the server has other work.
    for ride in open.into_iter().filter(|ride| ride.state != RideState::Closed) {
        let book = book(&app, &signed.scope, Some(ride.horse_id)).await?;
        let told = curricula
            .entry(book.fingerprint.clone())
            .or_insert_with(|| DayCurriculum { horses: vec![], curriculum: curriculum::told(&book, date) });
        told.horses.push(ride.horse_id);
        rides.push(day_ride(&app, &signed, &book, (ride.id, ride.horse_id)).await?);
    }
    Ok(Json(DayOut { date, rides, curricula: curricula.into_values().collect() }))
}

async fn day_ride(app: &App, signed: &SignedIn, book: &Book, (ride, horse): (Uuid, Uuid)) -> Result<DayRide, Problem> {
    let state = || State(app.clone());
    let plan = planned(app, signed, ride).await?;
    let (on_cattle, on_pattern) = works(book, &plan);
    let Json(gear) = gear::list(state(), signed.clone(), Id(horse)).await?;
    let Json(tack) = ride_tack(state(), signed.clone(), Id(ride)).await?;
    let Json(exercises) = exercises::read(state(), signed.clone(), Id(ride)).await?;
    let cattle = if on_cattle { Some(ride_cattle(state(), signed.clone(), Id(ride)).await?.0) } else { None };
    let pattern = if on_pattern { Some(pattern_today(state(), signed.clone(), Id(horse)).await?.0) } else { None };
    Ok(DayRide {
        ride: one(app, signed, ride).await?,
        standing: of_horse(app, signed, horse).await?,
        plan,
        gear,
        tack,
        exercises,
        cattle,
        pattern,
    })
}

/// Whether something on cattle, and something on the pattern, is planned.
fn works(book: &Book, plan: &PlanOut) -> (bool, bool) {
    let steps = plan.steps().filter_map(|id| book.course.find(id)).map(|ix| &book.course.step(ix).work);
    steps.fold((false, false), |(cattle, pattern), work| {
        (cattle || work.cattle > 0, pattern || work.subject == SubjectKind::Pattern)
    })
}
