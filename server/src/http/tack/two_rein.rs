//! A horse in the two-rein: its share on the bridle rein over the months, and when it may go straight up.

use axum::{Json, extract::State};
use cavesson_core::tack::{NoSuchRide, ShareMove, SharedRide, next_share, readiness};
use cavesson_store::{
    Update,
    log::ride,
    two_rein::{self, KeptShares, Shares},
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::extract::{Body, Id},
    services::{barn_clock::today, horses},
};

/// Rides of so many days are looked at.
const DAYS: u64 = 900;
/// A ride has at most so many moves, and so many seconds.
const MOST_MOVES: usize = 200;
const LONGEST: i32 = 86_400;

/// A ride in the two-rein.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SharedRideOut {
    ride_id: Uuid,
    on: NaiveDate,
    seconds: i32,
    /// Per cent on the bridle rein at the start.
    begins: i16,
    moves: Vec<ShareMove>,
    /// The share over the ride, weighted by time, 0 to 1.
    mean: f64,
    /// How often more was asked for, and less.
    more: usize,
    less: usize,
    version: i32,
}

/// How far the horse is.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ReadinessOut {
    /// The share that it carries on an ordinary day, 0 to 1.
    share: f64,
    /// How much that rises in thirty days.
    in_a_month: f64,
    /// The day by which it may go straight up in the bridle: one time in ten, as likely as not, nine times in ten. None within five years.
    early: Option<NaiveDate>,
    middle: Option<NaiveDate>,
    late: Option<NaiveDate>,
    /// Per cent to begin the next ride with, and why.
    next: u8,
    why: &'static str,
}

/// A horse in the two-rein.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TwoReinOut {
    /// Oldest first.
    rides: Vec<SharedRideOut>,
    /// None where there are no rides.
    readiness: Option<ReadinessOut>,
}

/// The share of a ride, to be noted.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SharesIn {
    /// The version that was read; 0 where there was none.
    version: i32,
    #[schema(minimum = 1, maximum = 86400)]
    seconds: i32,
    #[schema(minimum = 0, maximum = 100)]
    begins: u8,
    #[schema(max_items = 200)]
    moves: Vec<ShareMove>,
}

/// A kept ride as the core looks at it; none where what is kept cannot have been ridden.
fn shared(kept: &KeptShares) -> Option<SharedRide> {
    let (seconds, begins) = (u32::try_from(kept.seconds).ok()?, u8::try_from(kept.begins).ok()?);
    SharedRide::new(kept.on, seconds, begins, kept.moves.clone()).ok()
}

fn out((kept, ride): (KeptShares, SharedRide)) -> SharedRideOut {
    let (more, less) = ride.asks();
    let KeptShares { ride_id, on, seconds, begins, moves, version, .. } = kept;
    SharedRideOut { ride_id, on, seconds, begins, moves, mean: ride.mean_share(), more, less, version }
}

fn with_core(kept: KeptShares) -> Option<(KeptShares, SharedRide)> {
    let ride = shared(&kept)?;
    Some((kept, ride))
}

/// The rides of horses in the two-rein up to a day, oldest first, as they are kept and as the core looks at them.
pub(super) async fn rides(
    app: &App,
    signed: &SignedIn,
    horses: &[Uuid],
    on: NaiveDate,
) -> Result<Vec<(KeptShares, SharedRide)>, Problem> {
    let kept = two_rein::of_horses(&app.db, &signed.scope, horses, on - Days::new(DAYS)).await?;
    Ok(kept.into_iter().filter(|ride| ride.on <= on).filter_map(with_core).collect())
}

/// A horse's share on the bridle rein over the months, and when it may go straight up.
#[utoipa::path(get, path = "/api/horses/{id}/two-rein", params(("id" = Uuid, Path)),
    responses((status = 200, body = TwoReinOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<TwoReinOut>, Problem> {
    horses::find(&app, &signed, id).await?;
    let day = today(&app, &signed).await?;
    let known = rides(&app, &signed, &[id], day).await?;
    let rides: Vec<SharedRide> = known.iter().map(|(_, ride)| ride.clone()).collect();
    let readiness = readiness(&rides).zip(next_share(&rides)).map(|(now, next)| ReadinessOut {
        share: now.share.0.clamp(0.0, 1.0),
        in_a_month: 30.0 * now.a_day.0,
        early: now.straight_up_by(0.1),
        middle: now.straight_up_by(0.5),
        late: now.straight_up_by(0.9),
        next: next.bridle,
        why: next.why,
    });
    Ok(Json(TwoReinOut { rides: known.into_iter().map(out).collect(), readiness }))
}

fn refused(why: NoSuchRide) -> Problem {
    let field = match why {
        NoSuchRide::Share(_) => "begins".to_owned(),
        NoSuchRide::Order(n) => format!("moves[{n}].at"),
        NoSuchRide::Empty => "seconds".to_owned(),
    };
    Problem::field(&field, why.to_string())
}

/// Notes the share of a ride in the two-rein, as it moved.
#[utoipa::path(put, path = "/api/rides/{id}/shares", params(("id" = Uuid, Path)), request_body = SharesIn,
    responses((status = 200, body = SharedRideOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<SharesIn>,
) -> Result<Json<SharedRideOut>, Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    if !(1..=LONGEST).contains(&sent.seconds) {
        return Err(Problem::field("seconds", "a ride takes 1 second to a day"));
    }
    if sent.moves.len() > MOST_MOVES {
        return Err(Problem::field("moves", format!("at most {MOST_MOVES} moves")));
    }
    if let Some(n) = sent.moves.iter().position(|m| m.bridle > 100) {
        return Err(Problem::field(&format!("moves[{n}].bridle"), "a share is 0 to 100 percent"));
    }
    SharedRide::new(ride.ridden_on, sent.seconds.unsigned_abs(), sent.begins, sent.moves.clone()).map_err(refused)?;
    let shares = Shares { seconds: sent.seconds, begins: sent.begins.into(), moves: sent.moves };
    let shown = |kept| with_core(kept).map(out).ok_or_else(Problem::broken);
    match two_rein::put(&app.db, &signed.scope, id, sent.version, &shares).await? {
        Update::Done(kept) => Ok(Json(shown(kept)?)),
        Update::Stale(now) => Err(Problem::stale("ride", &shown(now)?)),
        Update::Missing => Err(Problem::missing("ride")),
    }
}
