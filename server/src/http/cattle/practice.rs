//! The practice pen: a simulated cow and horse, gone on with a few steps at a time.

use axum::Json;
use cavesson_core::cattle::{Manner, PEN, Placed, Practice, Stance, flight_zone};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::{Problem, auth::Rider, http::extract::Body};

/// What to go on with.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PracticeIn {
    /// How it stood; none to begin anew.
    #[serde(default)]
    from: Option<Practice>,
    /// A new cow: how it behaves, and what makes it the same each time.
    manner: Manner,
    #[schema(minimum = 0, maximum = 4294967295u32)]
    seed: u32,
    /// Where the horse is wanted, in order.
    #[schema(max_items = 100)]
    placed: Vec<Placed>,
}

/// How it stands.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PracticeOut {
    now: Practice,
    stance: Stance,
    /// How far the horse is past the cow's head, feet.
    lead: f64,
    /// The cow's flight zone, feet.
    zone: f64,
    /// Width and depth of the pen, feet.
    pen: [f64; 2],
    seconds: f64,
}

/// Steps that one practice lasts at most: five minutes.
const LONGEST: u32 = 6_000;
const MOST: usize = 100;

/// Goes on with a practice.
#[utoipa::path(post, path = "/api/cattle-practice", request_body = PracticeIn,
    responses((status = 200, body = PracticeOut), (status = 422, body = Problem)))]
pub(crate) async fn go_on(_rider: Rider, Body(sent): Body<PracticeIn>) -> Result<Json<PracticeOut>, Problem> {
    if sent.placed.len() > MOST {
        return Err(Problem::field("placed", format!("at most {MOST} places at once")));
    }
    let sound = |p: &Placed| p.x.is_finite() && p.y.is_finite() && (1..=40).contains(&p.steps);
    if let Some(n) = sent.placed.iter().position(|p| !sound(p)) {
        return Err(Problem::field(&format!("placed[{n}]"), "a place in the pen, for 1 to 40 steps"));
    }
    let mut now = sent.from.unwrap_or_else(|| Practice::begin(sent.seed, sent.manner));
    if !now.is_sound() {
        return Err(Problem::field("from", "this is no practice to go on from: begin anew"));
    }
    for placed in sent.placed {
        if now.step < LONGEST {
            now.go_on(placed);
        }
    }
    let stance = now.stance();
    let (lead, zone, seconds) = (now.lead(), flight_zone(now.manner), now.seconds());
    Ok(Json(PracticeOut { now, stance, lead, zone, pen: PEN, seconds }))
}
