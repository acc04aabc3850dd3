//! The strides of a horse, as they were measured between two cones.

use axum::{Json, extract::State};
use cavesson_core::figure::{FigureGait, FigureHorse};
use cavesson_store::{
    Update, horse,
    stride::{self, Strides},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id},
        validate::Check,
    },
};

/// The strides of a horse, metres.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StridesOut {
    walk: Option<f64>,
    jog: Option<f64>,
    lope: Option<f64>,
    /// What is taken where nothing was measured: walk, jog and lope of an ordinary horse.
    ordinary: [f64; 3],
    version: i32,
}

/// The strides of a horse, metres, 0.5 to 6; none where it was not measured.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct StridesIn {
    #[schema(minimum = 0.5, maximum = 6)]
    walk: Option<f64>,
    #[schema(minimum = 0.5, maximum = 6)]
    jog: Option<f64>,
    #[schema(minimum = 0.5, maximum = 6)]
    lope: Option<f64>,
    /// 0 where nothing was measured yet.
    version: i32,
}

impl From<Strides> for StridesOut {
    fn from(Strides { walk, jog, lope, version }: Strides) -> StridesOut {
        let gaits = FigureHorse::ordinary().gaits;
        let ordinary = [FigureGait::Walk, FigureGait::Jog, FigureGait::Lope].map(|gait| gaits[&gait].stride);
        StridesOut { walk, jog, lope, ordinary, version }
    }
}

/// A horse's strides.
#[utoipa::path(get, path = "/api/horses/{id}/strides", params(("id" = Uuid, Path)),
    responses((status = 200, body = StridesOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<StridesOut>, Problem> {
    horse::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("horse"))?;
    Ok(Json(stride::get(&app.db, &signed.scope, id).await?.into()))
}

/// Sets a horse's strides.
#[utoipa::path(put, path = "/api/horses/{id}/strides", params(("id" = Uuid, Path)), request_body = StridesIn,
    responses((status = 200, body = StridesOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<StridesIn>,
) -> Result<Json<StridesOut>, Problem> {
    let StridesIn { walk, jog, lope, version } = sent;
    let mut check = Check::default();
    for (field, stride) in [("walk", walk), ("jog", jog), ("lope", lope)] {
        check.that(stride.is_none_or(|it| (0.5..=6.0).contains(&it)), field, "between 0.5 and 6 m (1.6 and 20 ft)");
    }
    check.done()?;
    match stride::put(&app.db, &signed.scope, id, &Strides { walk, jog, lope, version }).await? {
        Update::Done(kept) => Ok(Json(kept.into())),
        Update::Stale(now) => Err(Problem::stale("horse's strides", &StridesOut::from(now))),
        Update::Missing => Err(Problem::missing("horse")),
    }
}
