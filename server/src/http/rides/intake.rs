//! The intake ride: what to ask next of a horse that nobody here knows, and where it was placed.

use std::sync::Arc;

use axum::{Json, extract::State};
use cavesson_core::{
    belief::Day,
    curriculum::{Side, StepIx},
    intake::{Claim, Hole, Intake, MOST_ASKS, Next, Placing, Told},
    ride::Asked,
};
use cavesson_store::claim;
use chrono::{Days, NaiveDate};
use serde::Serialize;
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::{
        extract::Id,
        rides::coach::{asks, ridden},
    },
    services::{barn_clock::today, book::Book, standing::logs::logs},
};

/// Asks of earlier rides count for so many days.
const EARLIER_DAYS: u64 = 30;

/// An intake ride as it stands.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct IntakeOut {
    /// Whether the horse was never asked here before this ride.
    is_new: bool,
    /// Asks of this ride, and the most that it should have.
    asks: usize,
    most: usize,
    /// What to ask next.
    next: Option<IntakeNext>,
    /// Why there is nothing more to ask.
    done: Option<String>,
    /// Steps that are likely there on every side, in teaching order.
    owned: Vec<IntakeStep>,
    /// Where the work begins, those that the horse was taken over first.
    holes: Vec<HoleOut>,
    /// The side that lags.
    stiff: Option<Side>,
}

/// A step by name.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct IntakeStep {
    step: String,
    name: String,
}

/// The next ask of an intake ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct IntakeNext {
    step: String,
    name: String,
    side: Side,
    /// In a sentence.
    why: String,
}

/// A hole.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HoleOut {
    step: String,
    name: String,
    side: Side,
    /// How likely the horse owns it, 0 to 1.
    owned: f64,
    /// Something above it is owned: the horse was taken over it.
    over: bool,
}

/// What to ask next, and what was found so far.
#[utoipa::path(get, path = "/api/rides/{id}/intake", params(("id" = Uuid, Path)),
    responses((status = 200, body = IntakeOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<IntakeOut>, Problem> {
    let (ride, logged, book) = ridden(&app, &signed, id).await?;
    let claims = claim::of_horse(&app.db, &signed.scope, ride.horse_id).await?;
    let claims: Vec<Claim> =
        claims.iter().filter_map(|c| book.course.find(&c.step)).map(|step| Claim { step }).collect();
    let horse = crate::services::horses::find(&app, &signed, ride.horse_id).await?;
    let asked = (horse.id, horse.log_revision, Arc::clone(&book));
    let mut logs = logs(&app, &signed.scope, &[asked], today(&app, &signed).await?).await?;
    let days = logs.pop().ok_or_else(Problem::broken)?.days;
    let asked = asks(&logged, &book);
    let out =
        app.compute.run(signed.scope.shared(), move || told(&book, &claims, &days, &asked, ride.ridden_on)).await?;
    Ok(Json(out))
}

fn told(book: &Book, claims: &[Claim], days: &[Arc<Day>], asked: &[Asked], on: NaiveDate) -> IntakeOut {
    let course = &book.course;
    let before = days.iter().filter(|d| d.date < on);
    let lately = before.clone().filter(|d| d.date + Days::new(EARLIER_DAYS) >= on);
    let earlier: Vec<Told> = lately.flat_map(|d| Told::of_day(course, d)).collect();
    let answers: Vec<Told> = asked.iter().map(|a| Told::of(course, on, a)).collect();
    let intake = Intake::new(course, claims, &earlier, &answers, MOST_ASKS);
    let name = |ix: StepIx| (course.step(ix).id.clone(), course.step(ix).name.clone());
    let (next, done) = match intake.next() {
        Next::Ask(ask) => {
            let (step, name) = name(ask.step);
            (Some(IntakeNext { step, name, side: ask.side, why: ask.why() }), None)
        }
        Next::Done(why) => (None, Some(why.says().to_owned())),
    };
    let Placing { owned, holes, stiff } = intake.placing();
    let step = |ix: StepIx| {
        let (step, name) = name(ix);
        IntakeStep { step, name }
    };
    let hole = |h: &Hole| {
        let (step, name) = name(h.step);
        HoleOut { step, name, side: h.side, owned: h.owned, over: h.over }
    };
    IntakeOut {
        is_new: before.count() == 0,
        asks: answers.len(),
        most: MOST_ASKS,
        next,
        done,
        owned: owned.into_iter().map(step).collect(),
        holes: holes.iter().map(hole).collect(),
        stiff,
    }
}
