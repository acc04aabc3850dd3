//! Time off of a horse, and its way back by days.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::load::{ComebackDay, ComebackStage, LayOff, OffReason};
use cavesson_store::{
    Put, Update,
    layoff::{self, KeptLayOff, LayOffFields},
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        validate::{Check, within_years},
    },
    services::barn_clock::today,
};

/// The longest time off, in days, and how far ahead it may lie.
const LONGEST: u64 = 3 * 366;

/// Time off to keep (without a version) or to change (with the version that was read).
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LayOffIn {
    version: Option<i32>,
    /// The first day off.
    #[serde(deserialize_with = "within_years")]
    off_since: NaiveDate,
    /// The first day back.
    #[serde(deserialize_with = "within_years")]
    back_on: NaiveDate,
    why: OffReason,
    /// Whether a vet has said that it may work.
    #[serde(default)]
    vet_agrees: bool,
    /// What the vet said.
    #[serde(default)]
    #[schema(max_length = 500)]
    vet_said: String,
    /// Taken for over, whatever its days.
    #[serde(default)]
    ended: bool,
}

/// A stage of the way back.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ComebackStageOut {
    stage: ComebackStage,
    says: &'static str,
    from: NaiveDate,
    to: NaiveDate,
}

/// Time off, and the way back that is worked out of it.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LayOffOut {
    id: Uuid,
    off_since: NaiveDate,
    back_on: NaiveDate,
    why: OffReason,
    vet_agrees: bool,
    vet_said: String,
    ended: bool,
    version: i32,
    days_off: u32,
    /// The last day of the way back.
    until: NaiveDate,
    stages: Vec<ComebackStageOut>,
    /// What today is; none where it is over.
    today: Option<ComebackOut>,
}

/// A day of the way back.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ComebackOut {
    stage: ComebackStage,
    says: String,
    load_percent: u32,
    /// Whether the vet's word is still asked.
    vet_asked: bool,
}

/// The times off of a horse, latest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LayOffs {
    items: Vec<LayOffOut>,
}

impl From<ComebackDay> for ComebackOut {
    fn from(day: ComebackDay) -> ComebackOut {
        ComebackOut {
            stage: day.stage,
            says: day.in_words(),
            load_percent: day.load_percent,
            vet_asked: day.vet_asked.is_some(),
        }
    }
}

fn out(kept: KeptLayOff, today: NaiveDate) -> LayOffOut {
    let layoff = kept.layoff();
    let stages = layoff.stages().into_iter();
    LayOffOut {
        id: kept.id,
        off_since: layoff.off_since,
        back_on: layoff.back_on,
        why: layoff.why,
        vet_agrees: layoff.vet_agrees,
        days_off: layoff.days_off(),
        until: layoff.until(),
        stages: stages.map(|(stage, from, to)| ComebackStageOut { stage, says: stage.says(), from, to }).collect(),
        today: layoff.on(today).filter(|_| !kept.ended).map(Into::into),
        vet_said: kept.vet_said,
        ended: kept.ended,
        version: kept.version,
    }
}

/// The times off of a horse, each with its way back.
#[utoipa::path(get, path = "/api/horses/{id}/layoffs", params(("id" = Uuid, Path)),
    responses((status = 200, body = LayOffs), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<LayOffs>, Problem> {
    crate::services::horses::find(&app, &signed, id).await?;
    let day = today(&app, &signed).await?;
    let kept = layoff::of_horse(&app.db, &signed.scope, id).await?;
    Ok(Json(LayOffs { items: kept.into_iter().map(|kept| out(kept, day)).collect() }))
}

/// Keeps time off, or changes it.
#[utoipa::path(put, path = "/api/horses/{horse}/layoffs/{id}", params(("horse" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = LayOffIn,
    responses((status = 200, body = LayOffOut), (status = 201, body = LayOffOut), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(horse, id): Ids,
    Body(sent): Body<LayOffIn>,
) -> Result<(StatusCode, Json<LayOffOut>), Problem> {
    crate::services::horses::find(&app, &signed, horse).await?;
    let day = today(&app, &signed).await?;
    let fields = checked(&sent, day)?;
    let scope = &signed.scope;
    let there = layoff::get(&app.db, scope, id).await?.filter(|l| l.horse_id == horse);
    let (status, kept) = match sent.version {
        None => match layoff::put(&app.db, scope, horse, id, &fields).await? {
            Put::Taken | Put::Missing => return Err(Problem::taken("time off")),
            put => {
                let status = if put == Put::Created { StatusCode::CREATED } else { StatusCode::OK };
                (status, layoff::get(&app.db, scope, id).await?.ok_or_else(Problem::broken)?)
            }
        },
        Some(_) if there.is_none() => return Err(Problem::missing("time off")),
        Some(version) => match layoff::update(&app.db, scope, id, version, &fields).await? {
            Update::Done(kept) => (StatusCode::OK, kept),
            Update::Stale(now) => return Err(Problem::stale("time off", &out(now, day))),
            Update::Missing => return Err(Problem::missing("time off")),
        },
    };
    Ok((status, Json(out(kept, day))))
}

fn checked(sent: &LayOffIn, today: NaiveDate) -> Result<LayOffFields, Problem> {
    let mut check = Check::default();
    let vet_said = check.note("vet_said", &sent.vet_said, 500);
    let near = |date: NaiveDate| date >= today - Days::new(LONGEST) && date <= today + Days::new(LONGEST);
    check.that(near(sent.off_since), "off_since", "pick a day within three years");
    check.that(sent.back_on > sent.off_since, "back_on", "the first day back comes after the first day off");
    check.that(near(sent.back_on), "back_on", "pick a day within three years");
    check.done()?;
    let LayOffIn { off_since, back_on, why, vet_agrees, ended, .. } = *sent;
    Ok(LayOffFields { layoff: LayOff { off_since, back_on, why, vet_agrees }, vet_said, ended })
}
