//! The wall: every bit and bosal in use, what it measures and who wears it.

use axum::{Json, extract::State};
use cavesson_core::{
    barn::years_old,
    ride::{Mouthpiece, teeth_are_due},
    tack::{Measures, ShownIn, TakesHold, USUAL_PULL, may_show, shown_in},
};
use cavesson_store::{
    Update, gear,
    tack::{self, KeptMeasures, OnWall},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::sound;
use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::extract::{Body, Id},
    services::barn_clock::today,
};

/// What a piece measures, as it is kept.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct MeasuresOut {
    measures: Measures,
    measured_on: NaiveDate,
    version: i32,
}

/// A piece on the wall.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PieceOut {
    id: Uuid,
    horse_id: Uuid,
    horse: String,
    name: String,
    mouthpiece: Mouthpiece,
    /// When it was fitted.
    since: NaiveDate,
    mouth_seen: Option<NaiveDate>,
    teeth_seen: Option<NaiveDate>,
    /// Whether a vet or dentist should see the teeth again.
    teeth_due: bool,
    /// Days ridden in it.
    days: i64,
    last_worn: Option<NaiveDate>,
    /// Whether a ride of today wears it.
    today: bool,
    measured: Option<MeasuresOut>,
    /// When its strap takes hold under a hand a little high on a nose a little out, where it is a leverage bit that was measured.
    takes_hold: Option<TakesHold>,
    /// What rule books let the horse be shown in, where its age is known.
    shown: Option<&'static str>,
    /// What it may be shown in, class by class.
    classes: Vec<ShownInOut>,
}

/// Whether a piece may be shown in, in a kind of class.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ShownInOut {
    class: &'static str,
    may: bool,
    why: String,
}

impl From<ShownIn> for ShownInOut {
    fn from(ShownIn { class, may, why }: ShownIn) -> ShownInOut {
        ShownInOut { class, may, why }
    }
}

/// Bits and bosals in use, by horse.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Wall {
    items: Vec<PieceOut>,
}

impl From<KeptMeasures> for MeasuresOut {
    fn from(kept: KeptMeasures) -> MeasuresOut {
        let KeptMeasures { measures, measured_on, version } = kept;
        MeasuresOut { measures, measured_on, version }
    }
}

fn out(piece: OnWall, today: NaiveDate) -> PieceOut {
    let years = piece.foaled.and_then(|foaled| years_old(foaled, today));
    let measures = piece.measures.as_ref().map(|m| m.measures);
    let takes_hold = match piece.measures.as_ref().map(|m| m.measures) {
        Some(Measures::Leverage(m)) => m.hung(USUAL_PULL).ok().map(|hung| hung.takes_hold()),
        _ => None,
    };
    PieceOut {
        id: piece.gear_id,
        horse_id: piece.horse_id,
        horse: piece.horse,
        name: piece.name,
        mouthpiece: piece.mouthpiece,
        since: piece.since,
        mouth_seen: piece.mouth_seen,
        teeth_seen: piece.teeth_seen,
        days: piece.days,
        last_worn: piece.last_worn,
        today: piece.today,
        measured: piece.measures.map(Into::into),
        takes_hold,
        teeth_due: piece.mouthpiece != Mouthpiece::Bitless && teeth_are_due(piece.teeth_seen, today),
        shown: years.map(|years| may_show(years, piece.mouthpiece)),
        classes: shown_in(years, piece.mouthpiece, measures.as_ref()).into_iter().map(Into::into).collect(),
    }
}

/// The bits and bosals in use.
#[utoipa::path(get, path = "/api/tack", responses((status = 200, body = Wall)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<Wall>, Problem> {
    let day = today(&app, &signed).await?;
    let pieces = tack::wall(&app.db, &signed.scope, day).await?;
    Ok(Json(Wall { items: pieces.into_iter().map(|piece| out(piece, day)).collect() }))
}

/// What a piece measures, to be noted.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct MeasuresIn {
    /// The version that was read; 0 where there was none.
    version: i32,
    measures: Measures,
}

/// Notes what a piece measures.
#[utoipa::path(put, path = "/api/gear/{id}/measures", params(("id" = Uuid, Path)), request_body = MeasuresIn,
    responses((status = 200, body = MeasuresOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn measure(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<MeasuresIn>,
) -> Result<Json<MeasuresOut>, Problem> {
    let day = today(&app, &signed).await?;
    let piece = gear::get(&app.db, &signed.scope, id, day).await?.ok_or_else(|| Problem::missing("piece of gear"))?;
    if piece.mouthpiece != Some(sent.measures.mouthpiece()) {
        return Err(Problem::field("measures.kind", "these are measures of another kind of piece"));
    }
    sound(&sent.measures.wrong())?;
    if let Measures::Leverage(m) = &sent.measures
        && let Err(wrong) = m.hung(USUAL_PULL)
    {
        sound(&[wrong])?;
    }
    match tack::put_measures(&app.db, &signed.scope, id, sent.version, &sent.measures, day).await? {
        Update::Done(kept) => Ok(Json(kept.into())),
        Update::Stale(now) => Err(Problem::stale("piece of gear", &MeasuresOut::from(now))),
        Update::Missing => Err(Problem::missing("piece of gear")),
    }
}
