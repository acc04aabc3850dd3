//! The intake ride: what to ask next of a horse that nobody here knows, and where it was placed.

use std::sync::Arc;

use axum::{Json, extract::State};
use cavesson_core::{
    curriculum::{Side, StepIx},
    intake::{Claim, Intake, MOST_ASKS, Next, NoMore, Placing, Told},
    response::Outcome,
    ride::{Asked, Shown},
};
use cavesson_store::{
    claim,
    log::evidence::{self, SidedRep},
};
use chrono::Days;
use serde::Serialize;
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::{
        extract::Id,
        rides::coach::{asks, ridden},
    },
    services::{book::Book, standing::foreseen},
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
    let known = foreseen(&app, &signed.scope, ride.horse_id).await?;
    let is_new = known.is_none_or(|k| k.steps.iter().all(|s| s.sides.is_empty()));
    let asked = asks(&logged, &book);
    let since = ride.ridden_on - Days::new(EARLIER_DAYS);
    let lately = evidence::sided(&app.db, &signed.scope, ride.horse_id, since).await?;
    let earlier: Vec<Told> =
        lately.iter().filter(|r| r.date < ride.ridden_on).filter_map(|r| earlier(&book, r)).collect();
    let out = app.compute.run(move || told(&book, &claims, &earlier, &asked, is_new)).await?;
    Ok(Json(out))
}

fn answer(book: &Book, asked: &Asked) -> Told {
    let step = book.course.step(asked.step);
    let (outcome, met) = match &asked.shown {
        Shown::Rep(rep) => (rep.answer.outcome(), step.standard.is_met_by(rep)),
        Shown::Count(count) => {
            let outcome = count.outcome(step.measure);
            (outcome, outcome == Outcome::Gave)
        }
    };
    Told { step: asked.step, side: asked.side, outcome, met }
}

fn earlier(book: &Book, r: &SidedRep) -> Option<Told> {
    let step = book.course.find_at(&r.rung, r.gait)?;
    let met = book.course.step(step).standard.is_met_by(&r.rep);
    Some(Told { step, side: r.side, outcome: r.rep.answer.outcome(), met })
}

fn told(book: &Arc<Book>, claims: &[Claim], earlier: &[Told], asked: &[Asked], is_new: bool) -> IntakeOut {
    let course = &book.course;
    let answers: Vec<Told> = asked.iter().map(|a| answer(book, a)).collect();
    let intake = Intake::new(course, claims, earlier, &answers, MOST_ASKS);
    let name = |ix: StepIx| (course.step(ix).id.clone(), course.step(ix).name.clone());
    let (next, done) = match intake.next() {
        Next::Ask(ask) => {
            let (step, name) = name(ask.step);
            let why = if ask.for_safety {
                "The brake at this gait comes before anything else at it".to_owned()
            } else {
                format!("It tells most now: {:.0}% likely to be there", 100.0 * ask.owned)
            };
            (Some(IntakeNext { step, name, side: ask.side, why }), None)
        }
        Next::Done(why) => (None, Some(ends(why).to_owned())),
    };
    let Placing { owned, holes, stiff } = intake.placing();
    let step = |ix: StepIx| {
        let (step, name) = name(ix);
        IntakeStep { step, name }
    };
    let hole = |h: &cavesson_core::intake::Hole| {
        let (step, name) = name(h.step);
        HoleOut { step, name, side: h.side, owned: h.owned, over: h.over }
    };
    IntakeOut {
        is_new,
        asks: answers.len(),
        most: MOST_ASKS,
        next,
        done,
        owned: owned.into_iter().map(step).collect(),
        holes: holes.iter().map(hole).collect(),
        stiff,
    }
}

const fn ends(why: NoMore) -> &'static str {
    match why {
        NoMore::NoBrake => "No one-rein stop at the walk: get off, and begin from the ground",
        NoMore::Enough => "Enough for one ride: quit on a good answer",
        NoMore::Placed => "Nothing more would be learned today: quit on a good answer",
    }
}
