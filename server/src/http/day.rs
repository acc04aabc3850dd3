//! The day for a device: in one answer what every open ride of today needs, so that it can be ridden without a signal.

use std::{
    collections::{BTreeMap, HashMap},
    sync::Arc,
};

use axum::{Json, extract::State};
use cavesson_core::{barn::RideState, curriculum::SubjectKind};
use cavesson_store::{
    horse::{self, Horse},
    log::ride::{self, Ride},
};
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
        plan::{AroundRides, PlanOut},
        response::{RideDetail, all},
    },
    tack::{OnRoad, RideTackOut, tack_of_ride},
};
use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        barn_clock::today_in,
        book::{Book, books},
        standing::{StandingOut, WatchedRecord, standings, watched},
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
    let day = Day::read(&app, &signed).await?;
    let (mut rides, mut curricula) = (vec![], BTreeMap::<String, DayCurriculum>::new());
    // One after the other: the day is not in a hurry, and the server has other work.
    for (at, told) in day.rides.iter().zip(all(&app, &signed, day.rides.clone()).await?) {
        let Some(horse) = day.horses.get(&at.horse_id) else { continue };
        let told_before = curricula.entry(horse.book.fingerprint.clone());
        let curriculum = || curriculum::told(&horse.book, day.date);
        let own = told_before.or_insert_with(|| DayCurriculum { horses: vec![], curriculum: curriculum() });
        own.horses.push(at.horse_id);
        rides.push(day.ride(&app, &signed, at, horse, told).await?);
    }
    Ok(Json(DayOut { date: day.date, rides, curricula: curricula.into_values().collect() }))
}

/// What is read of a day once for all of its rides.
struct Day {
    date: NaiveDate,
    around: AroundRides,
    /// Those that are not over.
    rides: Vec<Ride>,
    horses: HashMap<Uuid, DayHorse>,
}

/// A horse that is ridden on it.
struct DayHorse {
    horse: Horse,
    book: Arc<Book>,
    standing: Arc<StandingOut>,
    watched: Arc<WatchedRecord>,
}

impl Day {
    async fn read(app: &App, signed: &SignedIn) -> Result<Day, Problem> {
        let scope = &signed.scope;
        let around = AroundRides::read(app, scope).await?;
        let date = today_in(&around.barn);
        let mut rides = ride::on_day(&app.db, scope, date).await?;
        rides.retain(|ride| ride.state != RideState::Closed);
        let mut horses = horse::in_work(&app.db, scope).await?;
        horses.retain(|horse| rides.iter().any(|ride| ride.horse_id == horse.id));
        let keys: Vec<Option<Uuid>> = horses.iter().map(|h| Some(h.id)).collect();
        let books = books(app, scope, &keys).await?;
        let mut standings = standings(app, scope, &horses, around.barn.posture, date).await?;
        let watched = watched(app, scope, &horses, &around.barn, date).await?;
        let horse = |((horse, book), watched): ((Horse, Arc<Book>), Arc<WatchedRecord>)| {
            let standing = standings.remove(&horse.id)?;
            Some((horse.id, DayHorse { horse, book, standing, watched }))
        };
        let horses = horses.into_iter().zip(books).zip(watched).filter_map(horse).collect();
        Ok(Day { date, around, rides, horses })
    }

    async fn ride(
        &self,
        app: &App,
        signed: &SignedIn,
        ride: &Ride,
        of: &DayHorse,
        told: RideDetail,
    ) -> Result<DayRide, Problem> {
        let (state, scope) = (|| State(app.clone()), &signed.scope);
        let plan = self.around.planned(app, scope, ride, of.horse.clone(), Arc::clone(&of.watched)).await?;
        let (on_cattle, on_pattern) = works(&of.book, &plan);
        let gear = gear::as_of(app, scope, ride.horse_id, self.date).await?;
        let road = OnRoad::of(Arc::clone(&of.book), Arc::clone(&of.standing));
        let tack = tack_of_ride(app, signed, ride, &road).await?;
        let exercises = exercises::of_ride(app, signed, ride).await?;
        let cattle = if on_cattle { Some(ride_cattle(state(), signed.clone(), Id(ride.id)).await?.0) } else { None };
        let horse = Id(ride.horse_id);
        let pattern = if on_pattern { Some(pattern_today(state(), signed.clone(), horse).await?.0) } else { None };
        let standing = StandingOut::clone(&of.standing);
        Ok(DayRide { ride: told, standing, plan, gear, tack, exercises, cattle, pattern })
    }
}

/// Whether something on cattle, and something on the pattern, is planned.
fn works(book: &Book, plan: &PlanOut) -> (bool, bool) {
    let steps = plan.steps().filter_map(|id| book.course.find(id)).map(|ix| &book.course.step(ix).work);
    steps.fold((false, false), |(cattle, pattern), work| {
        (cattle || work.cattle > 0, pattern || work.subject == SubjectKind::Pattern)
    })
}
