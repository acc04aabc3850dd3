//! A barn's own words for rungs, in the shorthand.

use axum::{Json, extract::State};
use cavesson_formats::shorthand::Lexicon;
use cavesson_store::planned;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{extract::Body, validate::Check},
    services::book::book,
};

/// A barn's own word for a rung.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Alias {
    #[schema(min_length = 1, max_length = 30)]
    word: String,
    /// Id of a rung; none forgets the word.
    rung: Option<String>,
}

/// A barn's own words.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Aliases {
    items: Vec<Alias>,
}

/// The barn's own words for rungs.
#[utoipa::path(get, path = "/api/aliases", responses((status = 200, body = Aliases)))]
pub(crate) async fn aliases(State(app): State<App>, signed: SignedIn) -> Result<Json<Aliases>, Problem> {
    let items = planned::aliases(&app.db, &signed.scope).await?;
    Ok(Json(Aliases { items: items.into_iter().map(|(word, rung)| Alias { word, rung: Some(rung) }).collect() }))
}

/// Keeps or forgets a word of the barn's own.
#[utoipa::path(put, path = "/api/aliases", request_body = Alias,
    responses((status = 200, body = Aliases), (status = 422, body = Problem)))]
pub(crate) async fn put_alias(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<Alias>,
) -> Result<Json<Aliases>, Problem> {
    let mut check = Check::default();
    let word = check.text("word", &sent.word, 30).to_lowercase();
    check.done()?;
    if let Some(rung) = &sent.rung {
        let book = book(&app, &signed.scope, None).await?;
        Lexicon::new(&book.curriculum, &[(word.clone(), rung.clone())], &[])
            .map_err(|error| Problem::field("word", error.to_string()))?;
    }
    planned::put_alias(&app.db, &signed.scope, &word, sent.rung.as_deref()).await?;
    aliases(State(app), signed).await
}
