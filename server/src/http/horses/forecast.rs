//! When a horse will own what, and what it will own by a date.

use axum::{Json, extract::State};
use cavesson_core::advice::Status;
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::{Id, QueryParams},
    services::standing::{self, ahead::ForecastOut},
};

/// By when.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct By {
    /// A date up to half a year from today.
    by: NaiveDate,
}

/// What a horse will own by a date: what is under way, then what is open, likeliest first.
#[derive(Serialize, ToSchema)]
pub(crate) struct Ahead {
    by: NaiveDate,
    /// Steps that it owns today.
    owned: usize,
    /// Steps under way that it more likely than not owns by then, besides.
    likely: usize,
    items: Vec<AheadStep>,
}

/// The forecast of one step.
#[derive(Serialize, ToSchema)]
pub(crate) struct AheadStep {
    step: String,
    name: String,
    /// Whether it has reps already.
    begun: bool,
    /// Needs that are not owned yet, by name: it cannot be begun before.
    waits_for: Vec<String>,
    /// Probability that it is owned by the date.
    chance: f64,
    /// One in ten horses like this owns it by then.
    early: Option<NaiveDate>,
    /// One in two.
    middle: Option<NaiveDate>,
    /// Nine in ten.
    late: Option<NaiveDate>,
    /// Days of work on it a week that this takes for granted.
    a_week: f64,
    /// Days later than was thought four weeks ago, in words; none where it did not move by a week.
    moved: Option<String>,
}

/// What a horse will own by a date.
#[utoipa::path(get, path = "/api/horses/{id}/forecast", params(("id" = Uuid, Path), By),
    responses((status = 200, body = Ahead), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
    QueryParams(asked): QueryParams<By>,
) -> Result<Json<Ahead>, Problem> {
    let now = standing::of_horse(&app, &signed, id).await?;
    let days = (asked.by - now.as_of).num_days();
    if !(0..=182).contains(&days) {
        return Err(Problem::field("by", "pick a day from today up to half a year ahead"));
    }
    let week = (days / 7) as usize;
    let owned = now.steps.iter().filter(|s| s.status == Status::Owned).count();
    let item = |step: String, name: String, begun: bool, waits_for: Vec<String>, f: ForecastOut| AheadStep {
        step,
        name,
        begun,
        waits_for,
        chance: f.by_week.get(week).copied().unwrap_or_default(),
        early: f.early,
        middle: f.middle,
        late: f.late,
        a_week: f.a_week,
        moved: f.later_by.map(moved),
    };
    let near = now.steps.iter().cloned().filter_map(|s| {
        let begun = !s.sides.is_empty();
        Some(item(s.id, s.name, begun, vec![], s.forecast?))
    });
    let further = now.waiting.iter().cloned().map(|w| item(w.id, w.name, false, w.waits_for, w.forecast));
    let mut items: Vec<AheadStep> = near.chain(further).collect();
    items.sort_by(|a, b| b.begun.cmp(&a.begun).then(b.chance.total_cmp(&a.chance)));
    let likely = items.iter().filter(|i| i.begun && i.chance >= 0.5).count();
    Ok(Json(Ahead { by: asked.by, owned, likely, items }))
}

/// "3 weeks later than thought four weeks ago".
fn moved(days: i64) -> String {
    let weeks = (days.abs() + 3) / 7;
    let much = if weeks == 1 { "a week".to_owned() } else { format!("{weeks} weeks") };
    format!("{much} {} than thought four weeks ago", if days > 0 { "later" } else { "earlier" })
}
