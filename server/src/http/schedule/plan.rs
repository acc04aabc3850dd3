//! Planning a week, with what is found told as it is found.

use std::{
    convert::Infallible,
    sync::Arc,
    time::{Duration, Instant},
};

use axum::{
    body::Body as Stream,
    extract::{Path, State},
    http::header,
    response::{IntoResponse, Response},
};
use cavesson_core::schedule::{self, Effort, Keep, Pace, Ride, kept_rides, still_open};
use chrono::{Datelike, Timelike, Utc};
use serde::{Deserialize, Serialize};
use tokio::sync::mpsc;
use tokio_stream::{StreamExt, wrappers::ReceiverStream};
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::{SignedIn, Trainer},
    http::{
        extract::Body,
        schedule::{
            clock::clock,
            date, keep,
            response::{WeekOut, WeekRide},
            seen, week_of,
        },
    },
    services::{
        barn_clock::zone,
        planning::{PlanningContext, place_name},
    },
};

/// Rounds of the search: some seconds for forty horses, of which the first plan shows at once.
const ROUNDS: u32 = 51;
/// So often is told how far it is, where it got better.
const EVERY: Duration = Duration::from_millis(120);

/// How to plan.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PlanIn {
    /// The version of the draft that it is made from.
    version: i32,
    keep: Keep,
}

/// A line of the response: how far it is, and at the end the week as it was kept, or the problem.
#[derive(Debug, Default, Serialize, ToSchema)]
pub(crate) struct PlanLine {
    /// Rounds done, of how many.
    rounds: u32,
    of: u32,
    score: Option<i64>,
    /// The best rides so far.
    rides: Vec<WeekRide>,
    week: Option<WeekOut>,
    /// What moved against the draft before, in words.
    moved: Vec<String>,
    problem: Option<Problem>,
}

/// Plans a week: a line of JSON each time that it got better, the last with the week as it was kept. Whoever stops listening
/// stops the search, and nothing is kept then.
#[utoipa::path(post, path = "/api/weeks/{day}/plan", params(("day" = NaiveDate, Path)), request_body = PlanIn,
    responses((status = 200, body = PlanLine, content_type = "application/x-ndjson"), (status = 409, body = Problem)))]
pub(crate) async fn plan(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Path(day): Path<String>,
    Body(sent): Body<PlanIn>,
) -> Result<Response, Problem> {
    let (barn, facts) = week_of(&app, &signed, date(&day)?).await?;
    if facts.first_open() > 6 {
        return Err(Problem::conflict("This week is over"));
    }
    let before = cavesson_store::week::get(&app.db, &signed.scope, facts.start).await?;
    let (draft, version, _) = seen(before.as_ref(), signed.role)?;
    if version != sent.version {
        return Err(Problem::stale("week", &super::week_out(&app, &signed, &facts).await?));
    }
    let now = Utc::now().with_timezone(&zone(&barn.time_zone));
    let (tell, heard) = mpsc::channel::<PlanLine>(8);
    let minute = (now.hour() * 60 + now.minute()) as u16;
    tokio::spawn(async move { make(app, signed, facts, &draft, &sent, minute, tell).await });
    let lines = ReceiverStream::new(heard).map(|line| {
        let mut text = serde_json::to_string(&line).unwrap_or_default();
        text.push('\n');
        Ok::<_, Infallible>(text)
    });
    Ok(([(header::CONTENT_TYPE, "application/x-ndjson")], Stream::from_stream(lines)).into_response())
}

async fn make(
    app: App,
    signed: SignedIn,
    facts: Arc<PlanningContext>,
    draft: &[WeekRide],
    sent: &PlanIn,
    now: u16,
    tell: mpsc::Sender<PlanLine>,
) {
    let (planned, _) = facts.planned(draft);
    let ridden: Vec<Ride> = facts.ridden.iter().map(|r| r.0).collect();
    let stay = kept_rides(&facts.planning.week, &ridden, &planned, sent.keep);
    let stands = ridden.iter().copied().chain(stay.iter().map(|s| s.0)).collect();
    let first = facts.first_open();
    let to_plan = still_open(&facts.planning.week, stands, first, (facts.date(first) == facts.today).then_some(now));
    let seed = facts.start.num_days_from_ce().unsigned_abs().into();
    let locked = |r: &Ride| stay.iter().any(|(s, locked)| s == r && *locked);
    let (heard, shown) = (tell.clone(), Arc::clone(&facts));
    let searched = app
        .searches
        .run(signed.scope.shared(), move || {
            let mut last: Option<(Instant, i64)> = None;
            let mut open = true;
            let rides = schedule::plan(&to_plan, Effort { seed, rounds: ROUNDS }, &mut |p| {
                if last.is_none_or(|(at, score)| p.score > score && at.elapsed() >= EVERY) {
                    last = Some((Instant::now(), p.score));
                    let rides = p.rides.iter().map(|r| shown.ride_out(r, false, false)).collect();
                    let line =
                        PlanLine { rounds: p.rounds, of: ROUNDS, score: Some(p.score), rides, ..PlanLine::default() };
                    // One that is slow to read misses a line; one that is gone ends the search.
                    let full = heard.try_send(line);
                    open = !matches!(full, Err(mpsc::error::TrySendError::Closed(_)));
                }
                (open && !heard.is_closed()).then_some(Pace::FULL)
            });
            (schedule::shift_early(&to_plan, &rides), open && !heard.is_closed())
        })
        .await;
    let rides = match searched {
        Ok((rides, true)) => rides,
        Ok((_, false)) => return,
        Err(problem) => {
            let _gone = tell.send(PlanLine { problem: Some(problem), ..PlanLine::default() }).await;
            return;
        }
    };
    let new: Vec<Ride> = rides.into_iter().filter(|r| !ridden.contains(r)).collect();
    let told: Vec<WeekRide> = new.iter().map(|r| facts.ride_out(r, locked(r), false)).collect();
    let before: Vec<Ride> = planned.iter().map(|s| s.0).collect();
    let line = match keep(&app, &signed, &facts, sent.version, &told).await {
        Ok(week) => PlanLine { week: Some(week), moved: moved(&facts, &before, &new), ..PlanLine::default() },
        Err(problem) => PlanLine { problem: Some(problem), ..PlanLine::default() },
    };
    let _gone = tell.send(PlanLine { rounds: ROUNDS, of: ROUNDS, ..line }).await;
}

/// What differs between two plans, a sentence each.
fn moved(facts: &PlanningContext, before: &[Ride], after: &[Ride]) -> Vec<String> {
    if before.is_empty() {
        return vec![];
    }
    let week = &facts.planning.week;
    let at = |r: &Ride| {
        let day = &week.day_names[usize::from(r.day)];
        format!("{day} {}, {}, {}", clock(r.start), place_name(facts.places[r.place]), facts.people[r.rider].name)
    };
    let mut added: Vec<&Ride> = after.iter().filter(|r| !before.contains(r)).collect();
    let mut out = vec![];
    for gone in before.iter().filter(|r| !after.contains(r)) {
        let name = &week.works[gone.work].id;
        match added.iter().position(|a| a.work == gone.work) {
            Some(n) => out.push(format!("{name}: from {} to {}", at(gone), at(added.remove(n)))),
            None => out.push(format!("{name}: {} is left out", at(gone))),
        }
    }
    out.extend(added.into_iter().map(|a| format!("{}: new on {}", week.works[a.work].id, at(a))));
    out
}
