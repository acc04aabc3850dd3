//! The trace of a step: what was believed of it after each of its days.

use std::sync::Arc;

use axum::{Json, extract::State};
use cavesson_core::{
    advice::{DayAnswers, GaitCost, SidedAsk, first_and_best_in_words, gait_costs, hands_cost},
    belief::{Day, ModelSettings, Observer},
    curriculum::{Course, Side, Step, StepIx},
    response::{Rep, ResponseTime, Weight},
};
use cavesson_store::log::evidence::{self, SidedRep};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::{Id, QueryParams},
    services::{
        book::book,
        standing::{
            self,
            logs::logs,
            response::{ShareOut, StandingOut, share_out},
        },
    },
};

/// Which step to trace.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct TraceOf {
    /// Id of a step: `S1`, `S6@walk`.
    step: String,
}

/// One day of a step and side, and what was believed after it.
#[derive(Serialize, ToSchema)]
pub(crate) struct TracePoint {
    pub(crate) date: NaiveDate,
    pub(crate) side: Side,
    pub(crate) reps: u32,
    pub(crate) met: u32,
    pub(crate) ready: f64,
    pub(crate) share: ShareOut,
    /// The share that the standard asked for on that day.
    pub(crate) standard: f64,
}

/// One answer.
#[derive(Serialize, ToSchema)]
pub(crate) struct TracedAnswer {
    pub(crate) weight: Weight,
    pub(crate) seconds: Option<f64>,
}

/// The answers of one day and side, as a rider feels them.
#[derive(Serialize, ToSchema)]
pub(crate) struct AnswersPoint {
    pub(crate) date: NaiveDate,
    pub(crate) side: Side,
    /// The first ask of the day.
    pub(crate) first: TracedAnswer,
    /// The best at the standard.
    pub(crate) best: Option<TracedAnswer>,
    /// Median seconds of those that were answered.
    pub(crate) seconds: Option<f64>,
    /// Median weight, 0 to 7: steps of the scale from none.
    pub(crate) weight: f64,
}

/// The days of one step, oldest first.
#[derive(Serialize, ToSchema)]
pub(crate) struct Trace {
    pub(crate) step: String,
    pub(crate) name: String,
    /// The share that the standard asks for today.
    pub(crate) standard: f64,
    pub(crate) points: Vec<TracePoint>,
    /// Weight and seconds of the same days, on a step that is counted in asks.
    pub(crate) answers: Vec<AnswersPoint>,
    /// The first ask beside the best, and what a change of hands and a faster gait cost.
    pub(crate) says: Vec<String>,
}

/// Days back over which a change of hands is looked for.
const HANDS_DAYS: u64 = 90;

/// How a step went over the days, on each side.
#[utoipa::path(get, path = "/api/horses/{id}/trace", params(("id" = Uuid, Path), TraceOf),
    responses((status = 200, body = Trace), (status = 404, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    QueryParams(of): QueryParams<TraceOf>,
) -> Result<Json<Trace>, Problem> {
    let horse = crate::services::horses::find(&app, &signed, id).await?;
    let today = crate::services::barn_clock::today(&app, &signed).await?;
    let book = book(&app, &signed.scope, Some(id)).await?;
    let step = book.course.find(&of.step).ok_or_else(|| Problem::missing("step"))?;
    let mut logs = logs(&app, &signed.scope, &[(id, horse.log_revision, Arc::clone(&book))], today).await?;
    let days = logs.pop().ok_or_else(Problem::broken)?.days;
    let sided = evidence::sided(&app.db, &signed.scope, id, today - Days::new(HANDS_DAYS)).await?;
    let standing = standing::of_horse(&app, &signed, id).await?;
    let shares = shares(&book.course, &standing, step);
    let traced = move || {
        let course = &book.course;
        let mut trace = trace_of(course, step, &only_of(step, &days), today);
        let hands = hands_cost(&asks(course, &sided), step).and_then(|cost| cost.in_words());
        trace.says.extend(hands);
        trace.says.extend(gait_costs(course, &shares).iter().map(GaitCost::in_words));
        trace
    };
    app.compute.run(signed.scope.shared(), traced).await.map(Json)
}

/// The shares of an ordinary day on every step of every rung, where the rung of this one has several gaits; else none.
fn shares(course: &Course, standing: &StandingOut, step: StepIx) -> Vec<(StepIx, Side, f64)> {
    let rung = &course.step(step).rung;
    let several = course.steps().iter().filter(|s| &s.rung == rung).count() > 1;
    let steps = standing.steps.iter().filter(|_| several);
    let sides = steps.filter_map(|s| Some((course.find(&s.id)?, &s.sides)));
    sides.flat_map(|(ix, sides)| sides.iter().map(move |side| (ix, side.side, side.share.mean))).collect()
}

fn asks(course: &Course, sided: &[SidedRep]) -> Vec<SidedAsk> {
    let rides = sided.chunk_by(|a, b| a.ride_id == b.ride_id).enumerate();
    let ask = |(ride, rep): (usize, &SidedRep)| {
        let step = course.find_at(&rep.rung, rep.gait)?;
        let met = course.step(step).standard_on(rep.date).is_met_by(&rep.rep);
        Some(SidedAsk { ride, step, side: rep.side, met })
    };
    rides.flat_map(|(n, reps)| reps.iter().map(move |r| (n, r))).filter_map(ask).collect()
}

/// The work of one step, without how the horse was otherwise.
fn only_of(step: StepIx, days: &[Arc<Day>]) -> Vec<Day> {
    let work = |d: &Day| d.work.iter().filter(|w| w.step == step).cloned().collect::<Vec<_>>();
    days.iter().map(|d| Day::new(d.date, work(d))).filter(|d| !d.work.is_empty()).collect()
}

fn trace_of(course: &Course, step: StepIx, days: &[Day], today: NaiveDate) -> Trace {
    let mut observer = Observer::new(course, ModelSettings::default());
    let s = course.step(step);
    let mut points = vec![];
    for day in days {
        if observer.watch(day).is_err() {
            continue;
        }
        for &side in s.sides.list() {
            let tally = observer.tallies(step, side).last().filter(|(date, _)| *date == day.date);
            if let (Some(&(date, tally)), Some(belief)) = (tally, observer.belief(step, side, day.date)) {
                let standard = s.standard_on(date).share.fraction();
                let share = share_out(&belief.share);
                let (reps, met) = (tally.reps, tally.met);
                points.push(TracePoint { date, side, reps, met, ready: belief.ready, share, standard });
            }
        }
    }
    let answers: Vec<(NaiveDate, Side, DayAnswers)> = days
        .iter()
        .flat_map(|day| s.sides.list().iter().filter_map(|&side| Some((day.date, side, answers_of(s, day, side)?))))
        .collect();
    let told = |&side: &Side| {
        let of_side: Vec<DayAnswers> = answers.iter().filter(|a| a.1 == side).map(|a| a.2).collect();
        first_and_best_in_words(side, &of_side)
    };
    Trace {
        step: s.id.clone(),
        name: s.name.clone(),
        standard: s.standard_on(today).share.fraction(),
        points,
        says: s.sides.list().iter().filter_map(told).collect(),
        answers: answers.into_iter().map(|(date, side, a)| answers_point(date, side, &a)).collect(),
    }
}

fn answers_of(step: &Step, day: &Day, side: Side) -> Option<DayAnswers> {
    let reps: Vec<Rep> = day.work.iter().filter(|w| w.side == side).flat_map(|w| w.reps.iter().copied()).collect();
    DayAnswers::of(step.standard_on(day.date), &reps)
}

fn answers_point(date: NaiveDate, side: Side, of: &DayAnswers) -> AnswersPoint {
    let answer = |rep: Rep| TracedAnswer { weight: rep.weight, seconds: rep.time.map(ResponseTime::seconds) };
    AnswersPoint {
        date,
        side,
        first: answer(of.first),
        best: of.best.map(answer),
        seconds: of.seconds,
        weight: of.weight,
    }
}
