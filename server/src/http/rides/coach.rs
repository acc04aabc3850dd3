//! The coach's line while riding, and what the ride came to.

use std::collections::BTreeMap;

use axum::{Json, extract::State};
use cavesson_core::{
    advice::{Call, Status},
    curriculum::{Gait, Side, StepIx},
    load::{Class, GaitMinutes, LoadWeek},
    ride::{
        Advice, AskChange, Asked, FORESEEN_FROM_DAYS, RideProgress, Shown, Split, TrendLine, against_usual, best_asked,
        coach, trend,
    },
};
use cavesson_store::{
    log::{
        count::{self, LoggedCount},
        evidence::{self, SideOf},
        rep::{self, LoggedRep, SetKey},
        ride::{self, Ride},
    },
    planned,
};
use chrono::{DateTime, Days, Utc};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::{
        extract::Id,
        rides::remedy::{RemedyOut, remedy},
    },
    services::{
        book::{Book, book},
        standing::{
            self, foreseen,
            response::{StandingOut, StepStanding},
        },
    },
    weather::{hour_of, weather_at},
};

/// The coach's line.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CoachOut {
    /// None before the first ask.
    advice: Option<Advice>,
    why: String,
    /// The step to go to, where it says slower.
    step: Option<String>,
    /// Reps and counts that it was said after.
    reps: usize,
    /// What changed from ask to ask on this side, where it can be said.
    trend: Option<TrendOut>,
    /// What to do about a fault of the last ask.
    remedy: Option<RemedyOut>,
}

/// What changed from ask to ask.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TrendOut {
    change: AskChange,
    /// How likely, 0 to 1.
    odds: f64,
    says: String,
}

/// What a ride came to.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SummaryOut {
    /// The best answer of the day.
    best: Option<BestOut>,
    /// Minutes by gait: as noted, else guessed from the asks.
    minutes: GaitMinutes,
    noted: bool,
    /// Minutes × intensity.
    load: u32,
    /// The same over the seven days that end with this ride.
    week_load: u32,
    /// Mean over standard deviation of the days' loads; none where all are the same.
    monotony: Option<f64>,
    /// Load × monotony.
    strain: Option<f64>,
    class: Option<Class>,
    /// The calls on what was ridden, as they are now.
    calls: Vec<NextCall>,
}

/// The best answer of a ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BestOut {
    step: String,
    name: String,
    side: Side,
    /// `a feather, 0.9 s`.
    words: String,
}

/// The call on a step that was ridden.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct NextCall {
    step: String,
    name: String,
    call: Option<Call>,
    why: String,
}

/// What was logged in a ride: its reps and its counts, by set.
pub(super) struct Logged {
    reps: Vec<(SetKey, Vec<LoggedRep>)>,
    counts: Vec<(SetKey, LoggedCount)>,
}

pub(super) async fn ridden(
    app: &App,
    signed: &SignedIn,
    id: Uuid,
) -> Result<(Ride, Logged, std::sync::Arc<Book>), Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    let reps = rep::of_rides(&app.db, &signed.scope, &[id], false).await?;
    let counts = count::of_rides(&app.db, &signed.scope, &[id], false).await?;
    let book = book(app, &signed.scope, Some(ride.horse_id)).await?;
    Ok((ride, Logged { reps, counts }, book))
}

/// One ask as it was logged.
struct Entry<'l> {
    set: &'l SetKey,
    position: i32,
    asked_at: Option<DateTime<Utc>>,
    shown: Shown,
    faults: &'l [String],
}

impl Logged {
    /// Every ask, in the order in which they were made. One without a time stands where its set does: such come from another hand
    /// or another day's habit.
    fn entries(&self) -> Vec<Entry<'_>> {
        let reps = self.reps.iter().flat_map(|(set, reps)| {
            reps.iter().map(move |r| Entry {
                set,
                position: r.position,
                asked_at: r.asked_at,
                shown: Shown::Rep(r.rep),
                faults: &r.faults,
            })
        });
        let counts = self.counts.iter().map(|(set, c)| Entry {
            set,
            position: 0,
            asked_at: c.asked_at,
            shown: Shown::Count(c.count.clone()),
            faults: &c.faults,
        });
        let mut all: Vec<Entry<'_>> = reps.chain(counts).collect();
        all.sort_by_key(|e| (e.asked_at.is_none(), e.asked_at, e.set.position, e.position));
        all
    }
}

/// The asks of a ride in the order in which they were made, with their seconds from the first.
pub(super) fn asks(logged: &Logged, book: &Book) -> Vec<Asked> {
    let all = logged.entries();
    let first: Option<DateTime<Utc>> = all.iter().find_map(|e| e.asked_at);
    let since = |at: DateTime<Utc>| u32::try_from((at - first?).num_seconds()).ok();
    let asked = |e: Entry<'_>| {
        Some(Asked {
            step: book.course.find_at(&e.set.rung, e.set.gait)?,
            side: e.set.side,
            faults: e.faults.to_vec(),
            at: e.asked_at.and_then(since),
            shown: e.shown,
        })
    };
    all.into_iter().filter_map(asked).collect()
}

/// What the coach says after the last ask.
#[utoipa::path(get, path = "/api/rides/{id}/coach", params(("id" = Uuid, Path)),
    responses((status = 200, body = CoachOut), (status = 404, body = Problem)))]
pub(crate) async fn line(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<CoachOut>, Problem> {
    let (ride, logged, book) = ridden(&app, &signed, id).await?;
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let air = weather_at(&app, &signed.scope, ride.ridden_on, hour_of(ride.starts_at, &barn.time_zone)).await?;
    let known = foreseen(&app, &signed.scope, ride.horse_id).await?;
    let asked = asks(&logged, &book);
    let faults = asked.last().map_or(&[][..], |a| &a.faults);
    let (splits, foreseen) = (splits(known.as_ref(), &book), shares(known.as_ref(), &book));
    let trend = match trend(&book.course, ride.ridden_on, &asked) {
        None => against_first_asks(&app, &signed, &ride, &book, &asked).await?,
        told => told,
    };
    let remedy = match asked.last() {
        Some(last) => remedy(&app, &signed, &ride, &book, known.as_ref(), (last.step, faults)).await?,
        None => None,
    };
    let said = coach(&RideProgress {
        course: &book.course,
        on: ride.ridden_on,
        asked: &asked,
        splits: &splits,
        foreseen: &foreseen,
        heat: air.map(|a| a.0.band()).unwrap_or_default(),
        trend: trend.as_ref(),
        cause: remedy.as_ref().and_then(|r| Some((r.fault, r.step?))),
    });
    let step = said.as_ref().and_then(|s| s.step).map(|step| book.course.step(step).id.clone());
    Ok(Json(CoachOut {
        advice: said.as_ref().map(|s| s.advice),
        why: said.map(|s| s.why).unwrap_or_default(),
        step,
        reps: asked.len(),
        remedy: remedy.map(|r| r.told(&book)),
        trend: trend.map(|t| TrendOut { change: t.change, odds: t.odds, says: t.says }),
    }))
}

/// First asks of earlier days that today's is set against, at most.
const FIRST_ASKS: i64 = 10;

/// The first ask of a side in this ride against those of earlier days.
async fn against_first_asks(
    app: &App,
    signed: &SignedIn,
    ride: &Ride,
    book: &Book,
    asked: &[Asked],
) -> Result<Option<TrendLine>, Problem> {
    let Some((last, before)) = asked.split_last() else { return Ok(None) };
    let (Some(rep), false) = (last.rep(), before.iter().any(|a| a.step == last.step && a.side == last.side)) else {
        return Ok(None);
    };
    let step = book.course.step(last.step);
    let of = SideOf { horse: ride.horse_id, rung: &step.rung, gait: step.gait, side: last.side };
    let usual = evidence::first_asks(&app.db, &signed.scope, of, ride.ridden_on, FIRST_ASKS).await?;
    Ok(against_usual(rep, &usual))
}

fn splits(known: Option<&StandingOut>, book: &Book) -> BTreeMap<StepIx, Split> {
    let main = known.and_then(|k| k.line.main.as_ref());
    let split = main.and_then(|m| Some((book.course.find(&m.id)?, Split { left: m.left?, right: m.right? })));
    split.into_iter().collect()
}

/// What is expected of each side that has been ridden on enough days.
fn shares(known: Option<&StandingOut>, book: &Book) -> BTreeMap<(StepIx, Side), f64> {
    let steps = known.iter().flat_map(|k| &k.steps);
    let sides = steps.flat_map(|s| s.sides.iter().map(move |side| (s, side)));
    sides
        .filter(|(_, side)| side.days >= FORESEEN_FROM_DAYS)
        .filter_map(|(s, side)| Some(((book.course.find(&s.id)?, side.side), side.share.mean)))
        .collect()
}

/// What a ride came to: the best answer, minutes and load, and the calls that follow.
#[utoipa::path(get, path = "/api/rides/{id}/summary", params(("id" = Uuid, Path)),
    responses((status = 200, body = SummaryOut), (status = 404, body = Problem)))]
pub(crate) async fn summary(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<SummaryOut>, Problem> {
    let (ride, logged, book) = ridden(&app, &signed, id).await?;
    let asked = asks(&logged, &book);
    let noted: Option<GaitMinutes> = ride.minutes.clone().map(Into::into);
    let timed: Vec<(Gait, u32)> = asked.iter().filter_map(|a| Some((book.course.step(a.step).gait, a.at?))).collect();
    let minutes = noted.unwrap_or_else(|| GaitMinutes::estimated(&timed));
    let from = ride.ridden_on - Days::new(6);
    let mut week = LoadWeek::default();
    for (on, kept) in ride::minutes(&app.db, &signed.scope, ride.horse_id, from, ride.ridden_on).await? {
        let day = (on - from).num_days() as usize;
        week.days[day] = week.days[day].and(kept);
    }
    if noted.is_none() {
        week.days[6] = Gait::ALL.into_iter().fold(week.days[6], |m, g| m.plus(g, minutes.at(g)));
    }
    let standing = standing::of_horse(&app, &signed, ride.horse_id).await?;
    Ok(Json(SummaryOut {
        best: best_of(&asked, &book, ride.ridden_on),
        minutes,
        noted: noted.is_some(),
        load: minutes.load(),
        week_load: week.load(),
        monotony: week.monotony(),
        strain: week.strain(),
        class: week.class(),
        calls: calls(&asked, &book, &standing),
    }))
}

/// The best answer: of the subject that was asked most, else of any.
fn best_of(asked: &[Asked], book: &Book, on: chrono::NaiveDate) -> Option<BestOut> {
    let mut counts: BTreeMap<StepIx, usize> = BTreeMap::new();
    for a in asked {
        *counts.entry(a.step).or_default() += 1;
    }
    let mut steps: Vec<(StepIx, usize)> = counts.into_iter().collect();
    steps.sort_by_key(|&(_, n)| std::cmp::Reverse(n));
    steps.into_iter().find_map(|(ix, _)| {
        let step = book.course.step(ix);
        let top = best_asked(&book.course, on, asked.iter().filter(|a| a.step == ix))?;
        Some(BestOut { step: step.id.clone(), name: step.name.clone(), side: top.side, words: top.in_words() })
    })
}

fn calls(asked: &[Asked], book: &Book, standing: &StandingOut) -> Vec<NextCall> {
    let ridden: Vec<&str> = asked.iter().map(|a| book.course.step(a.step).id.as_str()).collect();
    let mut steps: Vec<_> = standing.steps.iter().filter(|s| ridden.contains(&s.id.as_str())).collect();
    steps.sort_by_key(|s| (s.status != Status::Slipping, s.status != Status::Learning));
    let call = |s: &&StepStanding| NextCall {
        step: s.id.clone(),
        name: s.name.clone(),
        call: s.call,
        why: s.why.first().cloned().unwrap_or_default(),
    };
    steps.iter().map(call).collect()
}

/// Notes the air in which a ride begins.
pub(crate) async fn begin(app: &App, signed: &SignedIn, ride: &Ride) -> Result<(), Problem> {
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    if let Some((air, _)) =
        weather_at(app, &signed.scope, ride.ridden_on, hour_of(ride.starts_at, &barn.time_zone)).await?
    {
        let hot = air.band() >= cavesson_core::load::HeatBand::Care;
        planned::note_air(&app.db, &signed.scope, ride.id, air, hot).await?;
    }
    Ok(())
}
