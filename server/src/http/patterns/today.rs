//! What of the pattern to ride on a horse today, and what the horse can do.

use axum::{Json, extract::State};
use cavesson_core::{
    advice::Status,
    barn::Trait,
    curriculum::Gait,
    pattern::{FittedHorse, Horse, Pass, Pocket, Shown, Split, fitted_to_splits, todays_passes, where_to_sit},
};
use cavesson_store::pattern::{self, KeptPass};
use chrono::Days;
use serde::Serialize;
use utoipa::ToSchema;

use super::passes::{DAYS, as_pass};
use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::Id,
    services::{barn_clock::today, book::book, horses, standing::of_horse},
};

/// A pocket to ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PocketOut {
    barrel: usize,
    pocket: Pocket,
    /// Why it is not the usual one.
    why: Option<String>,
}

/// Passes at one gait.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BlockOut {
    gait: Gait,
    passes: u8,
    /// Minutes of walking after each.
    rest: u8,
    pockets: Vec<PocketOut>,
}

/// What the horse can do at a gait.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct AbleOut {
    gait: Gait,
    horse: Horse,
    /// One standard deviation as a share: top speed, speeding up, slowing down, side grip.
    spread: [f64; 4],
    /// Times of its own that this rests on; 0 where it is what horses do.
    times: usize,
    /// What is left between times and run, seconds.
    off: f64,
}

/// What of the pattern to ride today.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PatternToday {
    blocks: Vec<BlockOut>,
    notes: Vec<String>,
    /// Where to sit for the turn.
    sit: &'static str,
    able: Vec<AbleOut>,
}

/// The latest passes with times that a fit rests on.
const TIMED: usize = 12;

fn split(kept: &KeptPass) -> Option<Split> {
    let timed = !kept.told.behind.iter().all(Option::is_none) || kept.told.seconds.is_some();
    if timed {
        let (behind, finish) = (kept.told.behind.clone(), kept.told.seconds);
        return Some(Split { set_up: kept.set_up.clone(), behind, finish });
    }
    let track = kept.track.as_ref()?;
    let behind = track.behind.iter().map(|t| Some(*t)).collect();
    Some(Split { set_up: kept.set_up.clone(), behind, finish: Some(track.seconds) })
}

fn able(kept: &[KeptPass]) -> Vec<AbleOut> {
    let of_gait = |gait: Gait| {
        let usual = Horse::of_gait(gait)?;
        let splits: Vec<Split> = kept.iter().rev().filter(|p| p.gait == gait).filter_map(split).take(TIMED).collect();
        let FittedHorse { horse, spread, times, off } = fitted_to_splits(&usual, &splits);
        Some(AbleOut { gait, horse, spread, times, off })
    };
    Gait::ALL.into_iter().filter_map(of_gait).collect()
}

/// What of the pattern to ride today: gaits, passes and pockets, from what the horse owns and how its passes went.
#[utoipa::path(get, path = "/api/horses/{id}/pattern-today", params(("id" = Uuid, Path)),
    responses((status = 200, body = PatternToday), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<PatternToday>, Problem> {
    let horse = horses::find(&app, &signed, id).await?;
    let today = today(&app, &signed).await?;
    let standing = of_horse(&app, &signed, id).await?;
    let book = book(&app, &signed.scope, Some(id)).await?;
    let shown = Shown::of(book.curriculum.rungs(), |rung, gait| {
        standing.steps.iter().any(|s| s.rung == rung && s.gait == gait && s.status == Status::Owned)
    });
    let kept = pattern::passes(&app.db, &signed.scope, id, today - Days::new(DAYS)).await?;
    let passes: Vec<Pass> = kept.iter().map(as_pass).collect();
    let barrels = kept.last().map_or(3, |p| p.set_up.barrels.len());
    let plan = todays_passes(today, shown, &passes, barrels);
    let block = |b: cavesson_core::pattern::Block| BlockOut {
        gait: b.gait,
        passes: b.passes,
        rest: b.rest,
        pockets: (b.pockets.into_iter())
            .map(|p| PocketOut { barrel: p.barrel, pocket: p.pocket, why: p.why })
            .collect(),
    };
    let able = app.compute.run(signed.scope.shared(), move || able(&kept)).await?;
    let has = |t| horse.traits.contains(&t);
    Ok(Json(PatternToday {
        blocks: plan.blocks.into_iter().map(block).collect(),
        notes: plan.notes,
        sit: where_to_sit(has(Trait::NeedsPushing), has(Trait::RunsFree)),
        able,
    }))
}
