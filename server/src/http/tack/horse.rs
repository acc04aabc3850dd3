//! A horse's tack: its road, where it is on it, and what comes next.

use axum::{Json, extract::State};
use cavesson_core::{
    curriculum::{BitRoad, Gait, Stage},
    tack::{
        Brace, HeadAt, PairedAsk, Reins, TackEvent, brace_test, brace_trend, brace_weeks, heads_up, two_reins,
        weeks_ahead,
    },
};
use cavesson_store::{
    gear,
    tack_event::{self, KeptTackEvent},
};
use chrono::{Days, NaiveDate};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::{
    first_day::{self, FirstDayOut},
    on_road::{OnRoad, road_of},
};
use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::Id,
    services::{barn_clock::today, horses},
};

/// Tests of so many days are looked at.
const DAYS: u64 = 400;

/// Where a stage of the road is for this horse.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub(crate) enum StageState {
    Behind,
    Now,
    Ahead,
}

/// A stage of a horse's road.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RoadStageOut {
    name: String,
    bit: String,
    takes: String,
    /// Name of the rung whose asks tell whether it holds.
    rung: String,
    state: StageState,
    /// Days from and to which it is planned, where it is planned by the week.
    from: Option<NaiveDate>,
    to: Option<NaiveDate>,
}

/// A week of the test on one rein and on two.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PairWeekOut {
    /// Its Monday.
    week: NaiveDate,
    pairs: usize,
    on_two_only: usize,
    on_one_only: usize,
}

/// Whether two reins may be asked on at a gait.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TwoReinsOut {
    gait: Gait,
    /// Pairs of the last two weeks, and those that braced on two only.
    pairs: usize,
    on_two_only: usize,
    /// How likely it is that fewer than one pair in five braces on two only.
    likely: f64,
    may: bool,
}

/// What the test says so far.
#[derive(Debug, Serialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub(crate) enum BraceSaid {
    OnTwo,
    NoDifference,
    Unknown,
}

/// Stepping down with a spoiled mouth.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StepDownOut {
    said: BraceSaid,
    pairs: usize,
    weeks: Vec<PairWeekOut>,
    /// Change a week of the share that braces on two only less that on one only, with its 90 % interval; none before the third week.
    trend: Option<[f64; 3]>,
    gaits: Vec<TwoReinsOut>,
    /// Asks and how many of them with the head up: on one rein, on two.
    heads: [[usize; 2]; 2],
}

/// A horse's tack.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HorseTackOut {
    road_id: BitRoad,
    road: String,
    road_says: String,
    stages: Vec<RoadStageOut>,
    /// What to do next, and why.
    next: String,
    why: String,
    /// Ids of what it was ridden in last.
    wears: Vec<Uuid>,
    first_day: Option<FirstDayOut>,
    step_down: Option<StepDownOut>,
}

/// The asks of the test of a horse up to a day, in order, with where the head was.
pub(crate) async fn asks_of(
    app: &App,
    signed: &SignedIn,
    horse: Uuid,
    on: NaiveDate,
) -> Result<Vec<(PairedAsk, HeadAt)>, Problem> {
    let events = tack_event::of_horses(&app.db, &signed.scope, &[horse], on - Days::new(DAYS)).await?;
    Ok(asks(events.iter(), on))
}

/// The asks of the test among what happened with a horse's tack up to a day, in order, with where the head was.
pub(super) fn asks<'e>(events: impl Iterator<Item = &'e KeptTackEvent>, on: NaiveDate) -> Vec<(PairedAsk, HeadAt)> {
    let ask = |kept: &KeptTackEvent| match kept.event {
        TackEvent::Ask { gait, reins, braced, head } => Some((PairedAsk { on: kept.on, gait, reins, braced }, head)),
        _ => None,
    };
    events.filter(|kept| (on - Days::new(DAYS)..=on).contains(&kept.on)).filter_map(ask).collect()
}

fn step_down(asks: &[(PairedAsk, HeadAt)], today: NaiveDate) -> StepDownOut {
    let paired: Vec<PairedAsk> = asks.iter().map(|(ask, _)| *ask).collect();
    let test = brace_test(&paired);
    let weeks = brace_weeks(&paired);
    let head = |reins| {
        let (n, up) = heads_up(asks, reins);
        [n, up]
    };
    StepDownOut {
        said: match test.says {
            Brace::OnTwo => BraceSaid::OnTwo,
            Brace::None => BraceSaid::NoDifference,
            Brace::Unknown => BraceSaid::Unknown,
        },
        pairs: test.pairs,
        trend: brace_trend(&weeks).map(|t| [t.a_week, t.low, t.high]),
        weeks: weeks
            .into_iter()
            .map(|w| PairWeekOut {
                week: w.week,
                pairs: w.pairs,
                on_two_only: w.on_two_only,
                on_one_only: w.on_one_only,
            })
            .collect(),
        gaits: two_reins(&paired, today)
            .into_iter()
            .map(|g| TwoReinsOut {
                gait: g.gait,
                pairs: g.pairs,
                on_two_only: g.on_two_only,
                likely: g.likely,
                may: g.may,
            })
            .collect(),
        heads: [head(Reins::One), head(Reins::Two)],
    }
}

/// The stages of the road as they are for the horse; those of a road that is planned by the week with their days.
fn stages(on: &OnRoad, now: Option<usize>, since: Option<NaiveDate>, today: NaiveDate) -> Vec<RoadStageOut> {
    let usual: Option<Vec<u8>> = on.road.stage.iter().map(|s| s.usual_weeks).collect();
    let planned = match (usual, now) {
        (Some(weeks), Some(now)) => weeks_ahead(&weeks, now, since.unwrap_or(today), today),
        _ => vec![],
    };
    let name = |rung: &str| on.book.curriculum.rung(rung).map_or_else(String::new, |r| r.name.clone());
    let one = |(n, stage): (usize, &Stage)| {
        let days = planned.iter().find(|p| p.stage == n);
        RoadStageOut {
            name: stage.name.clone(),
            bit: stage.bit.clone(),
            takes: stage.takes.clone(),
            rung: name(&stage.rung),
            state: match now {
                Some(now) if n == now => StageState::Now,
                Some(now) if n > now => StageState::Ahead,
                _ => StageState::Behind,
            },
            from: days.map(|p| p.from),
            to: days.map(|p| p.to),
        }
    };
    on.road.stage.iter().enumerate().map(one).collect()
}

/// A horse's road, where it is on it, and what comes next.
#[utoipa::path(get, path = "/api/horses/{id}/tack", params(("id" = Uuid, Path)),
    responses((status = 200, body = HorseTackOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<HorseTackOut>, Problem> {
    horses::find(&app, &signed, id).await?;
    let day = today(&app, &signed).await?;
    let on = road_of(&app, &signed, id).await?;
    let wears = gear::of_last_rides(&app.db, &signed.scope, &[id], day + Days::new(1)).await?;
    let pieces = gear::of_horse(&app.db, &signed.scope, id, day).await?;
    let worn = pieces.iter().find(|g| wears.contains(&(id, g.id)) && g.mouthpiece.is_some());
    let first_day = first_day::of_horse(&app, &signed, id, day, &on).await?;
    let step_down =
        if on.is_step_down() { Some(step_down(&asks_of(&app, &signed, id, day).await?, day)) } else { None };
    let mut now = on.now(worn.and_then(|g| g.mouthpiece));
    if let Some(first) = on.first_day_stage() {
        let running = first_day.as_ref().filter(|list| list.is_running());
        now = match (now, running) {
            // Whoever began the list is on it, whatever else is owned.
            (Some(at), Some(list)) if at == first || list.is_begun() => Some(first),
            // It is over when its list is, or when its rung was asked before anything was noted here.
            (Some(at), None) if at == first => Some(first + 1),
            (now, _) => now,
        };
    }
    // A stage begins with the first ask of its rung, else with the fitting of the bit.
    let asked = match now.and_then(|n| on.road.stage.get(n)) {
        Some(stage) => tack_event::first_asked(&app.db, &signed.scope, id, &stage.rung).await?,
        None => None,
    };
    let (next, why) = next_step(&on, now, first_day.as_ref(), step_down.as_ref());
    Ok(Json(HorseTackOut {
        road_id: on.road.id,
        road: on.road.name.clone(),
        road_says: on.road.says.clone(),
        stages: stages(&on, now, asked.or(worn.map(|g| g.since)), day),
        next,
        why,
        wears: wears.into_iter().map(|worn| worn.1).collect(),
        first_day,
        step_down,
    }))
}

/// What to do next, and why.
fn next_step(
    on: &OnRoad,
    now: Option<usize>,
    first_day: Option<&FirstDayOut>,
    step_down: Option<&StepDownOut>,
) -> (String, String) {
    let Some(stage) = now.and_then(|n| on.road.stage.get(n)) else {
        return ("At the end of its road: keep what it has".into(), "Every rung of the road is owned".into());
    };
    if let Some(list) = first_day.filter(|list| list.is_running() && stage.once) {
        return (list.says().to_owned(), "First day in leverage: each step is passed before the next".into());
    }
    if let Some(test) = step_down {
        let next = match &test.said {
            BraceSaid::Unknown => "Ask on one rein and on two by turns, a few pairs each ride",
            BraceSaid::OnTwo if test.gaits.iter().any(|g| g.may) => {
                "Two low, wide reins where the brace is gone; one rein elsewhere"
            }
            BraceSaid::OnTwo => "One rein at a time: slow and stop it by one rein and the voice first",
            BraceSaid::NoDifference => "Two reins are no worse than one: go on with the rung",
        };
        return (next.into(), on.why(&stage.rung));
    }
    (format!("{}: {}", stage.name, stage.bit), on.why(&stage.rung))
}
