//! What a barn makes of the curriculum: changes with their days, and the curriculum as a file.

use std::collections::BTreeMap;

use axum::{
    Json,
    extract::State,
    http::{StatusCode, header},
    response::IntoResponse,
};
use cavesson_core::curriculum::{Change, Curriculum, CurriculumError, DatedChange};
use cavesson_store::{Put, curriculum, horse, security::What};
use chrono::{DateTime, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, FieldProblem, Problem,
    auth::{Origin, SignedIn, Trainer, note_about},
    http::extract::{Body, Id},
    services::{barn_clock::today, book::book, standing::standings},
};

/// A change to the curriculum, from today on.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ChangeIn {
    /// The horse it holds for; without it, the whole barn.
    #[serde(default)]
    horse_id: Option<Uuid>,
    /// One of: standard, leave-out, take-back, ladder, rung, school.
    #[schema(value_type = BTreeMap<String, serde_json::Value>)]
    change: Change,
}

/// A change as it was made.
#[derive(Serialize, ToSchema)]
pub(crate) struct CurriculumChange {
    id: Uuid,
    horse_id: Option<Uuid>,
    on: NaiveDate,
    #[schema(value_type = BTreeMap<String, serde_json::Value>)]
    change: Change,
    who: String,
    at: DateTime<Utc>,
}

/// Every change, in the order in which they were made.
#[derive(Serialize, ToSchema)]
pub(crate) struct ChangesOut {
    items: Vec<CurriculumChange>,
}

/// How the barn's horses have gone on a step: days of work until they owned it.
#[derive(Serialize, ToSchema)]
pub(crate) struct Gone {
    /// Horses that owned it at some time.
    owned: usize,
    /// Horses that have reps on it.
    asked: usize,
    /// Median of the days of work.
    median: Option<u32>,
    /// A quarter of them needed no more than this.
    quarter: Option<u32>,
    /// Three quarters of them needed no more than this.
    three_quarters: Option<u32>,
}

/// By id of the step.
#[derive(Serialize, ToSchema)]
pub(crate) struct AllGone {
    steps: BTreeMap<String, Gone>,
}

/// A curriculum file to read in.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ImportIn {
    /// Makes the ids of the changes, so that sending twice is harmless.
    id: Uuid,
    /// Only tell what would change.
    dry_run: bool,
    /// The file as it was written.
    #[schema(value_type = BTreeMap<String, serde_json::Value>)]
    file: Curriculum,
}

/// What an import changes.
#[derive(Serialize, ToSchema)]
pub(crate) struct Imported {
    #[schema(value_type = Vec<BTreeMap<String, serde_json::Value>>)]
    changes: Vec<Change>,
    /// A line for each in plain words.
    lines: Vec<String>,
    done: bool,
}

/// The barn's changes. An owner sees those that hold for their own horses.
#[utoipa::path(get, path = "/api/curriculum/changes", responses((status = 200, body = ChangesOut)))]
pub(crate) async fn changes(State(app): State<App>, signed: SignedIn) -> Result<Json<ChangesOut>, Problem> {
    let items = curriculum::changes(&app.db, &signed.scope).await?;
    let out = |c: curriculum::KeptChange| CurriculumChange {
        id: c.id,
        horse_id: c.horse_id,
        on: c.dated.on,
        change: c.dated.change,
        who: c.made_by,
        at: c.at,
    };
    Ok(Json(ChangesOut { items: items.into_iter().map(out).collect() }))
}

/// Changes the curriculum from today on. What was logged before is still judged by what held then.
#[utoipa::path(put, path = "/api/curriculum/changes/{id}", params(("id" = Uuid, Path)), request_body = ChangeIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put_change(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Id(id): Id,
    Body(sent): Body<ChangeIn>,
) -> Result<StatusCode, Problem> {
    if let Some(horse) = sent.horse_id {
        crate::services::horses::find(&app, &signed, horse).await?;
    }
    let dated = DatedChange { on: today(&app, &signed).await?, change: sent.change };
    let kept = curriculum::changes(&app.db, &signed.scope).await?;
    if !kept.iter().any(|c| c.id == id) {
        // The change must hold for the barn and for each horse that has changes of its own.
        let mut whose: Vec<Option<Uuid>> = kept.iter().map(|c| c.horse_id).collect();
        whose.push(sent.horse_id);
        whose.sort();
        whose.dedup();
        for horse in whose.into_iter().filter(|h| sent.horse_id.is_none() || *h == sent.horse_id) {
            let mine = kept.iter().filter(|c| c.horse_id.is_none() || c.horse_id == horse).map(|c| &c.dated);
            Curriculum::standard().changed(mine.chain([&dated])).map_err(|errors| refused("change", &errors))?;
        }
    }
    match curriculum::put(&app.db, &signed.scope, sent.horse_id, &[(id, dated)]).await? {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken | Put::Missing => Err(Problem::taken("change")),
    }
}

fn refused(field: &str, errors: &[CurriculumError]) -> Problem {
    let told = |f: &CurriculumError| FieldProblem { field: field.to_owned(), detail: f.to_string() };
    Problem::fields(errors.iter().take(20).map(told).collect())
}

/// The barn's curriculum as a file.
#[utoipa::path(get, path = "/api/curriculum/file", responses((status = 200, body = Object)))]
pub(crate) async fn file(
    State(app): State<App>,
    origin: Origin,
    signed: SignedIn,
) -> Result<impl IntoResponse, Problem> {
    note_about(&app, &signed, (What::Exported, "the curriculum"), None, &origin).await?;
    let book = book(&app, &signed.scope, None).await?;
    let text = serde_json::to_string_pretty(&book.curriculum).map_err(|_| Problem::broken())?;
    let headers = [
        (header::CONTENT_TYPE, "application/json"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"curriculum.json\""),
    ];
    Ok((headers, text))
}

/// Reads a curriculum file in, all of it or nothing; with `dry_run` it only tells what would change.
#[utoipa::path(post, path = "/api/curriculum/import", request_body = ImportIn,
    responses((status = 200, body = Imported), (status = 422, body = Problem)))]
pub(crate) async fn import(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Body(sent): Body<ImportIn>,
) -> Result<Json<Imported>, Problem> {
    let file = sent.file.checked().map_err(|errors| refused("file", &errors))?;
    let book = book(&app, &signed.scope, None).await?;
    let on = today(&app, &signed).await?;
    let dated = book.curriculum.changes_to(&file, on);
    book.curriculum.changed(&dated).map_err(|errors| refused("file", &errors))?;
    if !sent.dry_run {
        let id = |n: usize| Uuid::new_v5(&sent.id, n.to_string().as_bytes());
        let changes: Vec<(Uuid, DatedChange)> = dated.iter().enumerate().map(|(n, d)| (id(n), d.clone())).collect();
        if curriculum::put(&app.db, &signed.scope, None, &changes).await? == Put::Taken {
            return Err(Problem::taken("import"));
        }
    }
    let changes: Vec<Change> = dated.into_iter().map(|d| d.change).collect();
    let lines = changes.iter().map(|c| line(&book.curriculum, c)).collect();
    Ok(Json(Imported { changes, lines, done: !sent.dry_run }))
}

/// A change in plain words.
fn line(curriculum: &Curriculum, change: &Change) -> String {
    let name = |id: &str| curriculum.rung(id).map_or_else(|| id.to_owned(), |r| format!("{id} {}", r.name));
    match change {
        Change::Standard { rung, standard } => format!("{}: {}", name(rung), standard.in_words()),
        Change::LeaveOut { rung } => format!("{} is left out", name(rung)),
        Change::TakeBack { rung } => format!("{} is taught again", name(rung)),
        Change::Ladder { ladder } => format!("New ladder {} {}", ladder.letter, ladder.name),
        Change::Rung { rung } => format!("New rung {} {}", rung.id, rung.name),
        Change::School { school, choice } => {
            let asked = curriculum.schools().iter().find(|s| s.id == *school);
            let answer = asked.and_then(|s| s.choice.iter().find(|c| c.id == *choice));
            match (asked, answer) {
                (Some(s), Some(c)) => format!("{}: {}", s.question, c.name),
                _ => format!("{school}: {choice}"),
            }
        }
    }
}

/// How the barn's horses have gone on each step.
#[utoipa::path(get, path = "/api/curriculum/gone", responses((status = 200, body = AllGone)))]
pub(crate) async fn gone(State(app): State<App>, signed: SignedIn) -> Result<Json<AllGone>, Problem> {
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let date = crate::services::barn_clock::today_in(&barn);
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let standings = standings(&app, &signed.scope, &horses, barn.posture, date).await?;
    let mut days: BTreeMap<String, (usize, Vec<u32>)> = BTreeMap::new();
    for step in standings.values().flat_map(|s| &s.steps).filter(|s| !s.sides.is_empty()) {
        let (asked, owned) = days.entry(step.id.clone()).or_default();
        *asked += 1;
        owned.extend(step.days_to_own);
    }
    let gone = |(asked, mut owned): (usize, Vec<u32>)| {
        owned.sort_unstable();
        let at = |part: usize| owned.get((owned.len().max(1) - 1) * part / 4).copied();
        Gone { owned: owned.len(), asked, quarter: at(1), median: at(2), three_quarters: at(3) }
    };
    Ok(Json(AllGone { steps: days.into_iter().map(|(id, d)| (id, gone(d))).collect() }))
}
