//! The day for a device: in one response what every open ride of today needs, so that it can be ridden without a signal.

use std::{collections::BTreeMap, sync::Arc};

use axum::extract::State;
use cavesson_core::{barn::RideState, curriculum::SubjectKind};
use cavesson_store::{
    Scope,
    barn::{self, Barn},
    exercise::KeptExercise,
    gear,
    horse::{self, Horse},
    log::ride::{self, Ride},
};
use chrono::{Days, NaiveDate};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::{
    cattle::{RideCattleOut, ride_cattle},
    curriculum::{self, CurriculumOut},
    exercises::{self, RideExercisesOut},
    extract::Id,
    horses::gear::GearList,
    patterns::{PatternToday, pattern_today},
    rides::{
        around::AroundRides,
        plan::{PlanOut, planned_around},
        response::{RideDetail, all},
    },
    tack::{OnRoad, RideTackOut, TackLog},
};
use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        barn_clock::today_in,
        book::{Book, books},
        responses::{JsonResponse, kept_or_made},
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

/// A ride, with the responses that its page asks for.
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
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<JsonResponse, Problem> {
    kept_or_made(&app, &signed, "day".into(), async || day_out(&app, &signed).await).await
}

async fn day_out(app: &App, signed: &SignedIn) -> Result<DayOut, Problem> {
    let day = Day::read(app, signed).await?;
    let told = all(app, signed, day.rides.iter().map(|at| at.ride.clone()).collect()).await?;
    let mut rides = vec![];
    // One after the other: the day is not in a hurry, and the server has other work.
    for (at, told) in day.rides.iter().zip(told) {
        rides.push(day.ride(app, signed, at, told).await?);
    }
    Ok(DayOut { date: day.date, rides, curricula: day.curricula() })
}

/// What is read of a day once for all of its rides.
struct Day {
    date: NaiveDate,
    /// Those that are not over.
    rides: Vec<RideOfDay>,
    around: AroundRides,
    /// What the horses wore on their last rides, those of the day among them.
    last_worn: Vec<(Uuid, Uuid)>,
    tack: TackLog,
    exercises: Vec<KeptExercise>,
}

/// A ride of it, and its horse.
struct RideOfDay {
    ride: Ride,
    horse: Horse,
    book: Arc<Book>,
    standing: Arc<StandingOut>,
    watched: Arc<WatchedRecord>,
    road: OnRoad,
}

impl Day {
    async fn read(app: &App, signed: &SignedIn) -> Result<Day, Problem> {
        let scope = &signed.scope;
        let barn = barn::get(&app.db, scope).await?;
        let date = today_in(&barn);
        let mut rides = ride::on_day(&app.db, scope, date).await?;
        rides.retain(|ride| ride.state != RideState::Closed);
        let around = AroundRides::read(app, scope, &barn, date, &rides).await?;
        let rides = with_horses(app, scope, &barn, date, rides).await?;
        let horses: Vec<Uuid> = rides.iter().map(|at| at.ride.horse_id).collect();
        let on_roads: Vec<_> = rides.iter().map(|at| (&at.ride, &at.road)).collect();
        let tack = TackLog::read(app, signed, date, &on_roads).await?;
        let exercises = exercises::lately(app, signed, &horses, date).await?;
        let last_worn = gear::of_last_rides(&app.db, scope, &horses, date + Days::new(1)).await?;
        Ok(Day { date, rides, around, last_worn, tack, exercises })
    }

    async fn ride(&self, app: &App, signed: &SignedIn, at: &RideOfDay, told: RideDetail) -> Result<DayRide, Problem> {
        let state = || State(app.clone());
        let horse = at.ride.horse_id;
        let plan =
            planned_around(app, &signed.scope, &self.around, (&at.ride, &at.horse), Arc::clone(&at.watched), self.date)
                .await?;
        let (on_cattle, on_pattern) = works(&at.book, &plan);
        let cattle = if on_cattle { Some(ride_cattle(state(), signed.clone(), Id(at.ride.id)).await?.0) } else { None };
        let pattern = if on_pattern { Some(pattern_today(state(), signed.clone(), Id(horse)).await?.0) } else { None };
        Ok(DayRide {
            ride: told,
            standing: StandingOut::clone(&at.standing),
            plan,
            gear: GearList::of(horse, self.around.gear(), &self.last_worn)?,
            tack: self.tack.of_ride(&at.ride, &at.road, self.around.gear()),
            exercises: exercises::of_ride(&at.ride, &self.exercises),
            cattle,
            pattern,
        })
    }

    /// The curricula of its horses, each once.
    fn curricula(&self) -> Vec<DayCurriculum> {
        let mut all = BTreeMap::<&str, DayCurriculum>::new();
        for at in &self.rides {
            let curriculum = || curriculum::told(&at.book, self.date);
            let own = all.entry(at.book.fingerprint.as_str());
            let own = own.or_insert_with(|| DayCurriculum { horses: vec![], curriculum: curriculum() });
            own.horses.push(at.ride.horse_id);
        }
        all.into_values().collect()
    }
}

/// Rides of a day with their horses, as those stand.
async fn with_horses(
    app: &App,
    scope: &Scope,
    barn: &Barn,
    date: NaiveDate,
    rides: Vec<Ride>,
) -> Result<Vec<RideOfDay>, Problem> {
    let mut horses = horse::in_work(&app.db, scope).await?;
    horses.retain(|horse| rides.iter().any(|ride| ride.horse_id == horse.id));
    let keys: Vec<Option<Uuid>> = horses.iter().map(|h| Some(h.id)).collect();
    let books = books(app, scope, &keys).await?;
    let standings = standings(app, scope, &horses, barn.posture, date).await?;
    let watched = watched(app, scope, &horses, barn, date).await?;
    let with_horse = |ride: Ride| {
        let n = horses.iter().position(|horse| horse.id == ride.horse_id)?;
        let (horse, book, watched) = (horses[n].clone(), Arc::clone(&books[n]), Arc::clone(&watched[n]));
        let standing = Arc::clone(standings.get(&horse.id)?);
        let road = OnRoad::of(Arc::clone(&book), Arc::clone(&standing));
        Some(RideOfDay { ride, horse, book, standing, watched, road })
    };
    Ok(rides.into_iter().filter_map(with_horse).collect())
}

/// Whether something on cattle, and something on the pattern, is planned.
fn works(book: &Book, plan: &PlanOut) -> (bool, bool) {
    let steps = plan.steps().filter_map(|id| book.course.find(id)).map(|ix| &book.course.step(ix).work);
    steps.fold((false, false), |(cattle, pattern), work| {
        (cattle || work.cattle > 0, pattern || work.subject == SubjectKind::Pattern)
    })
}
