//! A drill made for a horse in one of the barn's pens.

use std::collections::BTreeSet;

use axum::{Json, extract::State};
use cavesson_core::{
    advice::Status,
    curriculum::Side,
    figure::{Drill, DrillAsked, DrillMove, DrillNeed, drill},
    pattern::{FOOT, Point, Polygon},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::known::Known;
use crate::{
    App, Problem,
    auth::Rider,
    http::{extract::Body, patterns::pen_of},
};

/// What a drill is to be made from.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct DrillIn {
    ground_id: Uuid,
    horse_id: Uuid,
    /// What it is for, most first; none is a drill of everything.
    #[schema(max_items = 7)]
    needs: Vec<DrillNeed>,
    #[schema(minimum = 1, maximum = 30)]
    minutes: u8,
    /// The same number, the same drill; it differs from those of the five numbers before.
    #[schema(minimum = 0, maximum = 4294967295u32)]
    seed: u32,
}

/// Moves of one kind in a drill.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DrillPartOut {
    of: DrillMove,
    times: usize,
    why: String,
}

/// A drill, as a figure.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DrillOut {
    text: String,
    parts: Vec<DrillPartOut>,
    moves: usize,
    /// How hard the next move is to guess from the last two: bits, on average. One is like a coin.
    bits: f64,
}

/// Drills that a new one differs from.
const LAST: u32 = 5;
/// Kept off the fence, metres: 4 ft.
const OFF_FENCE: f64 = 4.0 * FOOT;

/// Makes a drill from what the horse needs and may be asked, in the middle of the pen.
#[utoipa::path(post, path = "/api/figures/drill", request_body = DrillIn,
    responses((status = 200, body = DrillOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn make(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<DrillIn>,
) -> Result<Json<DrillOut>, Problem> {
    if !(1..=30).contains(&sent.minutes) {
        return Err(Problem::field("minutes", "1 to 30"));
    }
    if sent.needs.len() > DrillNeed::ALL.len() {
        return Err(Problem::field("needs", "each of them once"));
    }
    let fence = pen_of(&app, &signed, sent.ground_id).await?.outline.polygon();
    let known = Known::of(&app, &signed, sent.horse_id).await?;
    let may_ask = may_ask(&known);
    let (at, room) = middle(&fence);
    let of_seed = |seed: u32, before: &[Vec<DrillMove>]| {
        let (needs, may_ask) = (sent.needs.as_slice(), &may_ask);
        drill(&DrillAsked { needs, may_ask, at, room, minutes: sent.minutes, seed: seed.into(), before })
    };
    let before: Vec<Vec<DrillMove>> = (sent.seed.saturating_sub(LAST)..sent.seed)
        .filter_map(|seed| of_seed(seed, &[]).map(|made| made.moves))
        .collect();
    let Some(Drill { text, moves, parts, bits }) = of_seed(sent.seed, &before) else {
        return Err(if may_ask.is_empty() {
            Problem::field(
                "horse_id",
                "nothing of a drill was asked of this horse yet: circles, stops or rollbacks come first",
            )
        } else {
            Problem::field(
                "ground_id",
                "there is no room for a circle of 8 ft in this pen, or the horse knows no move of a drill",
            )
        });
    };
    let parts = parts.into_iter().map(|part| DrillPartOut { of: part.of, times: part.times, why: part.why }).collect();
    Ok(Json(DrillOut { text, parts, moves: moves.len(), bits }))
}

/// The rungs of drills that the horse was asked before, as figures write them.
fn may_ask(known: &Known) -> BTreeSet<String> {
    let rungs = [
        "S3 left", "S3 right", "R4 left", "R4 right", "T1", "T2", "T3", "L2 left", "L2 right", "L3 left", "L3 right",
        "L5 left", "L5 right", "L7 left", "L7 right",
    ];
    let begun = |rung: &&str| {
        let (id, side) = rung.split_once(' ').map_or((*rung, None), |(id, side)| (id, side.parse::<Side>().ok()));
        known.begun(id, side)
    };
    rungs.into_iter().filter(begun).map(str::to_owned).collect()
}

/// The middle of a pen by its bounds, and how far the fence is off there.
fn middle(fence: &Polygon) -> (Point, f64) {
    let (least, most) = fence.bounds();
    let at = least.middle(most);
    (at, fence.room_at(at) - OFF_FENCE)
}

impl Known {
    /// Whether a rung was asked on a side, or at all.
    fn begun(&self, rung: &str, side: Option<Side>) -> bool {
        let is = |status: Status| status != Status::Untried;
        self.standing.steps.iter().filter(|step| step.rung == rung).any(|step| match side {
            None => is(step.status),
            Some(side) => step.sides.iter().any(|of| of.side == side && is(of.status)),
        })
    }
}
