//! The same answers in two pieces.

use axum::{Json, extract::State};
use cavesson_core::tack::{Compared, Difference, Verdict, compare_pieces, day_efforts};
use cavesson_store::{gear, tack};
use chrono::Days;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::{Id, QueryParams},
    services::{barn_clock::today, horses},
};

/// Answers of so many days are looked at.
const DAYS: u64 = 400;

/// Which pieces.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(crate) struct Two {
    first: Uuid,
    second: Uuid,
}

/// A ratio, second over first, with its 90 % interval.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RatioOut {
    times: f64,
    low: f64,
    high: f64,
    /// What thirty days of training do besides, in either piece.
    in_a_month: f64,
}

/// A difference of shares, second less first, with its 90 % interval.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct WholeOut {
    by: f64,
    low: f64,
    high: f64,
    in_a_month: f64,
}

/// What the record says of the change.
#[derive(Debug, Serialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub(crate) enum VerdictOut {
    Lighter,
    Heavier,
    Alike,
    Unknown,
}

/// Two pieces on one horse, days and learning taken out.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ComparedOut {
    /// Days in each on which something was asked that was asked in both.
    days: [usize; 2],
    /// None where there are too few days.
    found: Option<FoundOut>,
    /// Why there is nothing found.
    why_not: Option<String>,
}

/// What was found.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FoundOut {
    verdict: VerdictOut,
    /// Kinds of asks that were ridden in both.
    kinds: usize,
    asks: [u32; 2],
    /// Of the weight on the reins.
    weight: RatioOut,
    /// Of the time to the give, where it was taken.
    seconds: Option<RatioOut>,
    /// Of whole answers.
    whole: WholeOut,
}

fn ratio(d: Difference, base: f64) -> RatioOut {
    RatioOut {
        times: base.powf(d.by),
        low: base.powf(d.low),
        high: base.powf(d.high),
        in_a_month: base.powf(d.in_a_month),
    }
}

fn found(c: &Compared) -> FoundOut {
    let Difference { by, low, high, in_a_month } = c.whole;
    FoundOut {
        verdict: match c.verdict() {
            Verdict::Lighter => VerdictOut::Lighter,
            Verdict::Heavier => VerdictOut::Heavier,
            Verdict::Alike => VerdictOut::Alike,
            Verdict::Unknown => VerdictOut::Unknown,
        },
        kinds: c.kinds,
        asks: c.asks,
        weight: ratio(c.weight, 2.0),
        seconds: c.seconds.map(|d| ratio(d, std::f64::consts::E)),
        whole: WholeOut { by, low, high, in_a_month },
    }
}

/// The same answers in two pieces of a horse's gear: was the change right, and is it the piece or the training.
#[utoipa::path(get, path = "/api/horses/{id}/pieces-compared", params(("id" = Uuid, Path), Two),
    responses((status = 200, body = ComparedOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn compare(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    QueryParams(two): QueryParams<Two>,
) -> Result<Json<ComparedOut>, Problem> {
    horses::find(&app, &signed, id).await?;
    if two.first == two.second {
        return Err(Problem::field("second", "pick two pieces"));
    }
    let day = today(&app, &signed).await?;
    for (field, piece) in [("first", two.first), ("second", two.second)] {
        let of_horse = gear::get(&app.db, &signed.scope, piece, day).await?.is_some_and(|g| g.horse_id == id);
        if !of_horse {
            return Err(Problem::field(field, "pick from this horse's own gear"));
        }
    }
    let counts = tack::answers_in(&app.db, &signed.scope, id, [two.first, two.second], day - Days::new(DAYS)).await?;
    let compared = app.compute.run(signed.scope.shared(), move || compare_pieces(&day_efforts(&counts))).await?;
    Ok(Json(match compared {
        Ok(c) => ComparedOut { days: c.days, found: Some(found(&c)), why_not: None },
        Err(few) => ComparedOut { days: few.days, found: None, why_not: Some(few.to_string()) },
    }))
}
