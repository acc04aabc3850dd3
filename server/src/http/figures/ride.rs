//! A figure ridden in one of the barn's pens, on one of its horses: what is wrong with its text, or where it goes and what it asks.

use axum::{Json, extract::State};
use cavesson_core::{
    figure::{Body as Outline, Figure, LONGEST_TEXT, Places, Ridden, TextFault, Traced, ride as ridden},
    pattern::{FOOT, Pen},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::{
    known::Known,
    told::{NearOut, RiddenOut, near_out, told},
};
use crate::{
    App, Problem,
    auth::Rider,
    http::{extract::Body, patterns::pen_of, validate::within_years_if_any},
};

/// A figure to ride in mind.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FigureRideIn {
    #[schema(max_length = 20000)]
    text: String,
    /// The place whose pen it is ridden in; its posts have the names `post1`, `post2` and so on. Without one nothing is said of the fence.
    ground_id: Option<Uuid>,
    /// The horse that it is held against.
    horse_id: Option<Uuid>,
    /// A day up to half a year ahead: how likely the horse owns what it asks by then.
    #[serde(default, deserialize_with = "within_years_if_any")]
    by: Option<NaiveDate>,
}

/// What comes of it: faults of the text, or the ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FigureRideOut {
    faults: Vec<TextFault>,
    ridden: Option<RiddenOut>,
}

/// Kept off the fence and off posts, metres: 4 and 3 ft. Assumed.
const OFF_FENCE: f64 = 4.0 * FOOT;
const OFF_POST: f64 = 3.0 * FOOT;
/// A post is so thick, metres.
const POST: f64 = 0.15;
/// The posts of a pen by the names that figures have for them.
pub(crate) fn posts_of(pen: &Pen) -> Places {
    pen.posts.iter().enumerate().map(|(n, at)| (format!("post{}", n + 1), *at)).collect()
}

/// Rides a figure in mind.
#[utoipa::path(post, path = "/api/figures/ride", request_body = FigureRideIn,
    responses((status = 200, body = FigureRideOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn ride(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<FigureRideIn>,
) -> Result<Json<FigureRideOut>, Problem> {
    if sent.text.chars().count() > LONGEST_TEXT {
        return Err(Problem::field("text", format!("at most {LONGEST_TEXT} characters")));
    }
    let pen = match sent.ground_id {
        Some(ground) => Some(pen_of(&app, &signed, ground).await?),
        None => None,
    };
    let posts = pen.as_ref().map(posts_of).unwrap_or_default();
    let known = match sent.horse_id {
        Some(id) => Some(Known::of(&app, &signed, id).await?),
        None => None,
    };
    let refused = |faults| Ok(Json(FigureRideOut { faults, ridden: None }));
    let figure = match Figure::read(&sent.text, &posts) {
        Ok(figure) => figure,
        Err(faults) => return refused(faults),
    };
    let ridden = match ridden(&figure) {
        Ok(ridden) => ridden,
        Err(faults) => return refused(faults),
    };
    let mut out = told(&figure, &ridden, known.as_ref(), sent.by);
    if let Some(pen) = &pen {
        (out.near, out.outside) = near(&ridden, pen, &posts);
    }
    Ok(Json(FigureRideOut { faults: vec![], ridden: Some(out) }))
}

/// How near a figure comes to the fence, to posts and to bad ground, and how much of it is outside, metres.
fn near(ridden: &Ridden<'_>, pen: &Pen, posts: &Places) -> (Vec<NearOut>, f64) {
    let traced = Traced::of(ridden);
    let (of_fence, outside) = traced.pen_clearance(&pen.outline.polygon());
    let mut near = vec![near_out(None, of_fence, of_fence.keeps(OFF_FENCE) && outside == 0.0)];
    for (name, at) in posts {
        let clear = traced.marker_clearance(&Outline::Disc { at: *at, radius: POST });
        near.push(near_out(Some(name.clone()), clear, clear.keeps(OFF_POST)));
    }
    for area in &pen.areas {
        let clear = traced.marker_clearance(&Outline::Box(area.corners.clone()));
        near.push(near_out(Some(format!("the {} ground", area.underfoot)), clear, clear.distance > 0.0));
    }
    (near, outside)
}
