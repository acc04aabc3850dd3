//! Figures that the barn keeps.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::figure::{LONGEST_TEXT, READY};
use cavesson_store::{
    Put, Update,
    figure::{self, KeptFigure},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id},
        validate::Check,
    },
};

/// A figure that the barn keeps.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FigureOut {
    id: Uuid,
    name: String,
    text: String,
    archived: bool,
    version: i32,
}

/// A figure that comes with Cavesson.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ReadyFigureOut {
    name: &'static str,
    text: &'static str,
}

/// The barn's figures, latest first, and those that come with Cavesson.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Figures {
    items: Vec<FigureOut>,
    ready: Vec<ReadyFigureOut>,
}

/// A figure to keep (without a version) or to change (with the version that was read). A text with faults is kept too: it is mended later.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FigureIn {
    version: Option<i32>,
    #[schema(min_length = 1, max_length = 60)]
    name: String,
    #[schema(min_length = 1, max_length = 20000)]
    text: String,
    #[serde(default)]
    archived: bool,
}

impl From<KeptFigure> for FigureOut {
    fn from(KeptFigure { id, name, body, archived, version }: KeptFigure) -> FigureOut {
        FigureOut { id, name, text: body, archived, version }
    }
}

/// The barn's figures.
#[utoipa::path(get, path = "/api/figures", responses((status = 200, body = Figures), (status = 403, body = Problem)))]
pub(crate) async fn list(State(app): State<App>, Rider(signed): Rider) -> Result<Json<Figures>, Problem> {
    let kept = figure::list(&app.db, &signed.scope).await?;
    let ready = READY.map(|ready| ReadyFigureOut { name: ready.name, text: ready.text });
    Ok(Json(Figures { items: kept.into_iter().map(Into::into).collect(), ready: ready.into() }))
}

async fn find(app: &App, signed: &SignedIn, id: Uuid) -> Result<Json<FigureOut>, Problem> {
    let kept = figure::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("figure"))?;
    Ok(Json(kept.into()))
}

/// Keeps or changes a figure.
#[utoipa::path(put, path = "/api/figures/{id}", params(("id" = Uuid, Path)), request_body = FigureIn,
    responses((status = 200, body = FigureOut), (status = 201, body = FigureOut), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<FigureIn>,
) -> Result<(StatusCode, Json<FigureOut>), Problem> {
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 60);
    let long = sent.text.chars().count();
    check.that((1..=LONGEST_TEXT).contains(&long), "text", "1 to 20000 characters");
    check.that(!sent.text.contains('\0'), "text", "a text has no character of the code 0");
    check.done()?;
    let Some(version) = sent.version else {
        return match figure::put(&app.db, &signed.scope, id, &name, &sent.text).await? {
            Put::Created => Ok((StatusCode::CREATED, find(&app, &signed, id).await?)),
            Put::Same => Ok((StatusCode::OK, find(&app, &signed, id).await?)),
            Put::Taken => Err(Problem::taken("figure")),
            Put::Missing => Err(Problem::missing("figure")),
        };
    };
    let to = KeptFigure { id, name, body: sent.text, archived: sent.archived, version };
    match figure::update(&app.db, &signed.scope, &to).await? {
        Update::Done(kept) => Ok((StatusCode::OK, Json(kept.into()))),
        Update::Stale(now) => Err(Problem::stale("figure", &FigureOut::from(now))),
        Update::Missing => Err(Problem::missing("figure")),
    }
}
