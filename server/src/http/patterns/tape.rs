//! How to lay a set-up out with two tapes.

use axum::{Json, extract::State};
use cavesson_core::pattern::{Point, SetUp, tape_sheet};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::{pens, sound};
use crate::{App, Problem, auth::Rider, http::extract::Body};

/// A set-up to lay out.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TapeIn {
    ground_id: Uuid,
    set_up: SetUp,
}

/// A marker by two tapes, metres.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct MarkOut {
    name: String,
    at: Point,
    /// From post A.
    a: f64,
    /// From post B.
    b: f64,
    /// Whether it lies to the left as one looks from A to B.
    left: bool,
    /// How far off half a foot on either tape puts it at the worst.
    off: f64,
}

/// A length that tells whether the markers stand right, metres.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DiagonalOut {
    from: String,
    to: String,
    length: f64,
}

/// A sheet to lay a set-up out by.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TapeOut {
    a: Point,
    b: Point,
    /// From A to B, metres.
    base: f64,
    marks: Vec<MarkOut>,
    checks: Vec<DiagonalOut>,
}

/// The tape sheet of a set-up in a pen, from the two posts that a slip of the tape harms least.
#[utoipa::path(post, path = "/api/patterns/tape", request_body = TapeIn,
    responses((status = 200, body = TapeOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn tape(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<TapeIn>,
) -> Result<Json<TapeOut>, Problem> {
    sound::set_up(&sent.set_up)?;
    let posts = pens::of(&app, &signed, sent.ground_id).await?.pen.posts();
    let mut names = vec!["line".to_owned()];
    let mut markers = vec![sent.set_up.start];
    for (n, barrel) in sent.set_up.barrels.iter().enumerate() {
        names.push(format!("barrel {}", n + 1));
        markers.push(barrel.at);
    }
    let sheet = tape_sheet(&posts, &markers).ok_or_else(|| {
        Problem::field(
            "ground_id",
            "there are not two posts to measure from: add posts to the pen that are not in line with a barrel",
        )
    })?;
    let [a, b] = sheet.posts.map(|n| posts[n]);
    let mark = |(n, m): (usize, &cavesson_core::pattern::Mark)| MarkOut {
        name: names[n].clone(),
        at: m.at,
        a: m.tapes[0],
        b: m.tapes[1],
        left: m.left,
        off: m.off,
    };
    let check = |c: &cavesson_core::pattern::Check| DiagonalOut {
        from: names[c.from].clone(),
        to: names[c.to].clone(),
        length: c.length,
    };
    Ok(Json(TapeOut {
        a,
        b,
        base: sheet.base,
        marks: sheet.marks.iter().enumerate().map(mark).collect(),
        checks: sheet.checks.iter().map(check).collect(),
    }))
}
