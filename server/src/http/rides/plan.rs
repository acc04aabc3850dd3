//! The plan of a ride, the trainer's changes to it, and the checks before mounting.

use std::sync::Arc;

use axum::{
    Json,
    extract::{Path, State},
    http::StatusCode,
};
use cavesson_core::{
    advice::{Call, Standing},
    barn::{CheckAnswer, EditKind, GearKind, Ground, Role, years_old},
    curriculum::{Course, Gait, Side, StepIx},
    ride::{
        Check as CoreCheck, CheckContext, Conditions, Edit, Part, Purpose, RidePlan, checks, has_sore_mouth,
        is_unsettled, plan,
    },
};
use cavesson_store::{
    Put, Scope, barn,
    gear::Gear,
    horse::Horse,
    log::ride::{self, Ride, get_or_restore},
    planned::{self, Checked},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        rides::around::AroundRides,
        validate::Check,
        weather::{HeatOut, heat_out},
    },
    services::{
        barn_clock::today_in,
        book::book,
        standing::{Record, WatchedRecord, standing_on, watched},
    },
    weather::Known,
};

/// A planned ride.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct PlanOut {
    parts: Vec<PartOut>,
    /// Why this ride, the deciding reason first.
    why: Vec<String>,
    next_best: Option<NextBestOut>,
    /// What quitting looks like.
    quit: String,
    /// Whether the trainer changed it.
    edited: bool,
    /// What applies before mounting, what the ride waits for first.
    checks: Vec<CheckOut>,
    /// Ids of the checks that the ride still waits for.
    waits_for: Vec<String>,
    heat: Option<HeatOut>,
    /// Ids of the gear it is ridden in; that of the last ride where none was picked yet.
    gear: Vec<Uuid>,
}

/// A part of a planned ride.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct PartOut {
    purpose: Purpose,
    /// Id of the step, where one is ridden in it.
    step: Option<String>,
    name: Option<String>,
    reps: Option<u8>,
    /// Per cent of the reps on the left and on the right.
    left: Option<u8>,
    right: Option<u8>,
    first: Option<Side>,
    /// About how long.
    minutes: u8,
    says: String,
}

/// What came next, and why it waits.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct NextBestOut {
    step: String,
    name: String,
    why: String,
}

/// A check before mounting, as it stands.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct CheckOut {
    id: String,
    says: String,
    why: String,
    must: bool,
    /// The sides that are answered each for itself.
    sides: Vec<Side>,
    answers: Vec<AnswerOut>,
}

/// An answer to a check.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct AnswerOut {
    side: Side,
    answer: CheckAnswer,
    words: String,
    who: String,
}

/// An answer to a check before mounting.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct CheckIn {
    side: Side,
    answer: CheckAnswer,
    /// Why, where it is overruled.
    #[serde(default)]
    words: String,
}

/// A change to a plan.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct EditIn {
    edit: EditKind,
    /// Id of a step: the one that is swapped, dropped or added.
    step: String,
    /// The one that takes its place in a swap.
    #[serde(default)]
    into: Option<String>,
}

/// The plan of a ride, as the trainer changed it.
#[utoipa::path(get, path = "/api/rides/{id}/plan", params(("id" = Uuid, Path)),
    responses((status = 200, body = PlanOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<PlanOut>, Problem> {
    Ok(Json(planned(&app, &signed, id).await?))
}

/// The plan of a ride, as the trainer changed it.
async fn planned(app: &App, signed: &SignedIn, id: Uuid) -> Result<PlanOut, Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    let horse = crate::services::horses::find(app, signed, ride.horse_id).await?;
    let barn = barn::get(&app.db, &signed.scope).await?;
    let around = AroundRides::read(app, &signed.scope, &barn, ride.ridden_on, std::slice::from_ref(&ride)).await?;
    let today = today_in(&barn);
    let watched = watched(app, &signed.scope, std::slice::from_ref(&horse), &barn, today).await?.pop();
    planned_around(app, &signed.scope, &around, (&ride, &horse), watched.ok_or_else(Problem::broken)?, today).await
}

/// The plan of a ride on a horse whose record was watched until today, as the trainer changed it.
pub(crate) async fn planned_around(
    app: &App,
    scope: &Scope,
    around: &AroundRides,
    (ride, horse): (&Ride, &Horse),
    watched: Arc<WatchedRecord>,
    today: NaiveDate,
) -> Result<PlanOut, Problem> {
    let around = around.of_ride(app, ride, horse);
    let (ride, foaled) = (ride.clone(), horse.foaled);
    standing_on(app, scope, watched, today, move |standing, record| {
        let edits: Vec<Edit> = around.edits.iter().filter_map(|e| edit_of(standing.course(), e)).collect();
        let day = &around.conditions;
        let made = plan(standing, &record.habits, day).edited(standing, &record.habits, day, &edits);
        let before = before(standing, record, &made, &ride, &around.gear, day, (foaled, around.ground));
        told(standing.course(), &made, !edits.is_empty(), &checks(&before), &around.answered, around.air, around.worn)
    })
    .await
}

fn edit_of(course: &Course, e: &planned::Edit) -> Option<Edit> {
    let step = course.find(&e.step)?;
    Some(match (e.edit, &e.into_step) {
        (EditKind::Swap, Some(into)) => Edit::Swap { from: step, to: course.find(into)? },
        (EditKind::Drop, _) => Edit::Drop(step),
        _ => Edit::Add(step),
    })
}

fn before(
    standing: &Standing<'_, '_>,
    record: &Record,
    made: &RidePlan,
    ride: &Ride,
    gear: &[Gear],
    day: &Conditions,
    (foaled, ground): (Option<i32>, Option<Ground>),
) -> CheckContext {
    let steps: Vec<StepIx> = made.parts.iter().filter_map(|p| p.step).collect();
    let bit = gear.iter().find(|g| g.mouthpiece.is_some());
    let looked = record.trainer_input.findings.iter().max().copied();
    let signs = || record.signs.iter().map(|(on, signs)| (*on, signs.as_slice()));
    let look = standing.horse_call().filter(|h| h.call() == Call::LookAt);
    CheckContext {
        today: Some(ride.ridden_on),
        bit: bit.and_then(|b| b.mouthpiece),
        first_day: bit.is_some_and(|b| b.days == 0),
        teeth_seen: bit.and_then(|b| b.teeth_seen),
        sore_mouth: has_sore_mouth(signs(), looked),
        look_at: look.map(|h| h.why(standing.course()).swap_remove(0)),
        heat: day.heat,
        fastest: steps.iter().map(|&s| standing.course().step(s).gait).max().filter(|g| *g > Gait::Stand),
        age: foaled.and_then(|foaled| years_old(foaled, ride.ridden_on)),
        days_ridden: record.log.days.len() as u32,
        cattle: steps.iter().any(|&s| standing.course().step(s).work.cattle > 0),
        spurs: gear.iter().any(|g| g.kind == GearKind::Spurs),
        unsettled: is_unsettled(signs(), record.log.days.iter().map(|d| d.date), ride.ridden_on),
        ground,
        away: ride.place.is_away(),
        traits: day.traits.clone(),
        vet_asked: day.comeback.and_then(|back| back.vet_asked),
    }
}

fn told(
    course: &Course,
    made: &RidePlan,
    edited: bool,
    checks: &[CoreCheck],
    answered: &[Checked],
    air: Option<Known>,
    gear: Vec<Uuid>,
) -> PlanOut {
    let id = |ix: StepIx| course.step(ix).id.clone();
    let name = |ix: StepIx| course.step(ix).name.clone();
    let part = |p: &Part| PartOut {
        purpose: p.purpose,
        step: p.step.map(id),
        name: p.step.map(name),
        reps: p.reps,
        left: p.split.map(|s| s.left),
        right: p.split.map(|s| s.right),
        first: p.first,
        minutes: p.minutes,
        says: p.says.clone(),
    };
    let checks: Vec<CheckOut> = checks.iter().map(|c| check_out(c, answered)).collect();
    PlanOut {
        parts: made.parts.iter().map(part).collect(),
        why: made.why.clone(),
        next_best: made.next_best.as_ref().map(|n| NextBestOut {
            step: id(n.step),
            name: name(n.step),
            why: n.why.clone(),
        }),
        quit: made.quit.clone(),
        edited,
        waits_for: checks.iter().filter(|c| c.must && !c.is_answered()).map(|c| c.id.clone()).collect(),
        checks,
        heat: air.map(heat_out),
        gear,
    }
}

fn check_out(check: &CoreCheck, answered: &[Checked]) -> CheckOut {
    let mine = answered.iter().filter(|a| a.check == check.id);
    let answer = |a: &Checked| AnswerOut { side: a.side, answer: a.answer, words: a.words.clone(), who: a.who.clone() };
    CheckOut {
        id: check.id.to_owned(),
        says: check.says.clone(),
        why: check.why.clone(),
        must: check.must,
        sides: check.sides.to_vec(),
        answers: mine.map(answer).collect(),
    }
}

impl PlanOut {
    /// Ids of the steps that are planned.
    pub(crate) fn steps(&self) -> impl Iterator<Item = &str> {
        self.parts.iter().filter_map(|part| part.step.as_deref())
    }
}

impl CheckOut {
    /// What does not hold keeps the ride waiting, unless the trainer overrules it.
    fn is_answered(&self) -> bool {
        !self.answers.is_empty() && self.answers.iter().all(|a| a.answer != CheckAnswer::Not)
    }
}

/// Changes the plan of a ride: swaps, drops or adds a step. A swap is remembered.
#[utoipa::path(put, path = "/api/rides/{ride}/plan/{id}", params(("ride" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = EditIn,
    responses((status = 200, body = PlanOut), (status = 201, body = PlanOut), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put_edit(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(ride, id): Ids,
    Body(sent): Body<EditIn>,
) -> Result<(StatusCode, Json<PlanOut>), Problem> {
    let to = ride::get(&app.db, &signed.scope, ride).await?.ok_or_else(|| Problem::missing("ride"))?;
    let book = book(&app, &signed.scope, Some(to.horse_id)).await?;
    let mut check = Check::default();
    check.that(book.course.find(&sent.step).is_some(), "step", "there is no such step");
    let into = sent.into.as_deref();
    let fits = (sent.edit == EditKind::Swap) == into.is_some() && into.is_none_or(|i| book.course.find(i).is_some());
    check.that(fits, "into", "a swap names the step that takes the other's place, and nothing else does");
    check.done()?;
    let edit = planned::Edit { id, edit: sent.edit, step: sent.step, into_step: sent.into };
    let status = match planned::put_edit(&app.db, &signed.scope, ride, &edit).await? {
        Put::Created => StatusCode::CREATED,
        Put::Same => StatusCode::OK,
        Put::Taken => return Err(Problem::taken("change")),
        Put::Missing => return Err(Problem::missing("ride")),
    };
    Ok((status, Json(planned(&app, &signed, ride).await?)))
}

/// Takes back every change to the plan of a ride.
#[utoipa::path(delete, path = "/api/rides/{id}/plan", params(("id" = Uuid, Path)),
    responses((status = 200, body = PlanOut), (status = 404, body = Problem)))]
pub(crate) async fn clear(State(app): State<App>, Rider(signed): Rider, Id(id): Id) -> Result<Json<PlanOut>, Problem> {
    ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    planned::clear_edits(&app.db, &signed.scope, id).await?;
    Ok(Json(planned(&app, &signed, id).await?))
}

/// Answers a check before mounting. What the ride waits for can be overruled by the trainer, in writing.
#[utoipa::path(put, path = "/api/rides/{ride}/checks/{check}", params(("ride" = Uuid, Path), ("check" = String, Path)),
    request_body = CheckIn,
    responses((status = 204), (status = 403, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn answer_check(
    State(app): State<App>,
    Rider(signed): Rider,
    Path((ride, id)): Path<(String, String)>,
    Body(sent): Body<CheckIn>,
) -> Result<StatusCode, Problem> {
    let ride: Uuid = ride.parse().map_err(|_| Problem::malformed("An id in the address is not a UUID"))?;
    let mut check = Check::default();
    let words = check.note("words", &sent.words, 500);
    let named = (1..=40).contains(&id.len()) && id.chars().all(|c| c.is_ascii_alphanumeric() || c == '-');
    check.that(named, "check", "there is no such check");
    if sent.answer == CheckAnswer::Overruled {
        check.that(!words.is_empty(), "words", "write why it is ridden all the same");
    }
    check.done()?;
    if sent.answer == CheckAnswer::Overruled && signed.role != Role::Trainer {
        return Err(Problem::forbidden("Only a trainer rides over a check that does not hold"));
    }
    get_or_restore(&app.db, &signed.scope, ride).await?;
    if planned::put_check(&app.db, &signed.scope, ride, &id, sent.side, sent.answer, &words).await? {
        Ok(StatusCode::NO_CONTENT)
    } else {
        Err(Problem::missing("ride"))
    }
}
