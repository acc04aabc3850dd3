//! Practice runs scored as a judge would, by one or by two at once on their phones.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    advice::Status,
    figure::{Figure, LONGEST_TEXT, Manoeuvre, Places, manoeuvres, ride as ridden},
    score::{Agreement, Kappa, MarkGiven, Sheet, SheetError, WherePoints, agreement, halves, where_points_go},
};
use cavesson_store::{
    Put, horse,
    ride_event::PutEvent,
    score::{self, KeptManoeuvre, KeptRun, KeptSheet, NewRun},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::{router::OpenApiRouter, routes};
use uuid::Uuid;

use super::{
    figures::{Known, posts_of, status_of},
    patterns::pen_of,
};
use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id},
        ride_event::kept,
        validate::Check,
    },
    services::barn_clock::today,
};

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new().routes(routes!(list)).routes(routes!(read, put)).routes(routes!(put_sheet))
}

/// A run to score: today, over a figure.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ScoredRunIn {
    horse_id: Uuid,
    /// The place whose posts the text may lead to.
    ground_id: Option<Uuid>,
    /// What the figure is called.
    #[schema(min_length = 1, max_length = 60)]
    name: String,
    #[schema(min_length = 1, max_length = 20000)]
    text: String,
}

/// A run in a list.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ScoredRunOut {
    id: Uuid,
    day: NaiveDate,
    name: String,
    manoeuvres: usize,
    /// The totals of those who are done: `70½`.
    totals: Vec<TotalOut>,
    /// Who is still scoring it.
    open: Vec<String>,
}

/// A total.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TotalOut {
    who: String,
    total: String,
}

/// The latest scored runs of a horse, latest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ScoredRuns {
    items: Vec<ScoredRunOut>,
}

/// A run as it is scored: the own sheet, and once that is done those of others who are done.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ScoringOut {
    id: Uuid,
    horse_id: Uuid,
    horse: String,
    day: NaiveDate,
    name: String,
    manoeuvres: Vec<ManoeuvreOut>,
    /// The own sheet.
    mine: SheetOut,
    /// Those of others who are done; empty until the own sheet is.
    others: Vec<SheetOut>,
    /// Others who have begun and are not done.
    open: Vec<String>,
    /// Where the points go, over all sheets that are told, those that cost most first.
    points: Vec<PointsOut>,
    /// How well the first of the others and the one who asks agree, over all runs that both scored.
    agree: Option<AgreeOut>,
}

/// A part that is scored.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ManoeuvreOut {
    name: String,
    rungs: Vec<String>,
}

/// A sheet.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SheetOut {
    who: String,
    marks: Vec<MarkGiven>,
    /// `70½`.
    total: String,
    done: bool,
    /// 0 where it was not begun.
    version: i32,
}

/// What a part added to the score.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PointsOut {
    /// Which of the parts, from 0.
    manoeuvre: usize,
    /// The mean over the sheets, points.
    mean: f64,
    /// How the least owned of its rungs stands with the horse.
    status: Option<Status>,
}

/// How well two agree.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct AgreeOut {
    with: String,
    pairs: usize,
    same: usize,
    /// By how many points the other scores higher, on average.
    higher: f64,
    /// None where there is too little to tell.
    kappa: Option<KappaOut>,
}

/// Weighted kappa, 1 where they are of one mind.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct KappaOut {
    value: f64,
    /// 95 times in a hundred it lies between these.
    between: [f64; 2],
    /// `well`, after "they agree".
    strength: &'static str,
}

/// A sheet to keep. The highest version stands.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SheetIn {
    /// One for each part, in order.
    #[schema(max_items = 1000)]
    marks: Vec<MarkGiven>,
    done: bool,
    /// 1 at first, and one more with each change.
    #[schema(minimum = 1, maximum = 100000)]
    version: i32,
}

/// The latest scored runs of a horse.
#[utoipa::path(get, path = "/api/horses/{id}/scored-runs", params(("id" = Uuid, Path)),
    responses((status = 200, body = ScoredRuns), (status = 404, body = Problem)))]
pub(crate) async fn list(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<ScoredRuns>, Problem> {
    horse::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("horse"))?;
    let runs = score::runs_of(&app.db, &signed.scope, id).await?;
    let ids: Vec<Uuid> = runs.iter().map(|run| run.id).collect();
    let sheets = score::sheets(&app.db, &signed.scope, &ids).await?;
    let item = |KeptRun { id, day, name, manoeuvres, .. }: KeptRun| {
        let (done, open): (Vec<&KeptSheet>, Vec<&KeptSheet>) =
            sheets.iter().filter(|sheet| sheet.run_id == id).partition(|sheet| sheet.done);
        let total = |sheet: &&KeptSheet| TotalOut { who: sheet.who.clone(), total: total(sheet, manoeuvres.len()) };
        ScoredRunOut {
            id,
            day,
            name,
            manoeuvres: manoeuvres.len(),
            totals: done.iter().map(total).collect(),
            open: open.into_iter().map(|sheet| sheet.who.clone()).collect(),
        }
    };
    Ok(Json(ScoredRuns { items: runs.into_iter().map(item).collect() }))
}

fn sheet_of(kept: &KeptSheet, manoeuvres: usize) -> Option<Sheet> {
    Sheet::check(kept.marks.clone(), manoeuvres, false).ok()
}

fn total(kept: &KeptSheet, manoeuvres: usize) -> String {
    sheet_of(kept, manoeuvres).map_or_else(String::new, |sheet| halves(sheet.total()))
}

fn sheet_out(kept: &KeptSheet, manoeuvres: usize) -> SheetOut {
    SheetOut {
        who: kept.who.clone(),
        marks: kept.marks.clone(),
        total: total(kept, manoeuvres),
        done: kept.done,
        version: kept.version,
    }
}

/// A run to score, or as it was scored.
#[utoipa::path(get, path = "/api/scored-runs/{id}", params(("id" = Uuid, Path)),
    responses((status = 200, body = ScoringOut), (status = 403, body = Problem), (status = 404, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
) -> Result<Json<ScoringOut>, Problem> {
    let run = score::run(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("scored run"))?;
    let n = run.manoeuvres.len();
    let sheets = score::sheets(&app.db, &signed.scope, &[id]).await?;
    let me = signed.scope.person();
    let (own, theirs): (Vec<KeptSheet>, Vec<KeptSheet>) = sheets.into_iter().partition(|sheet| sheet.person_id == me);
    let begun = own.first();
    let done = begun.is_some_and(|sheet| sheet.done);
    let (finished, open): (Vec<KeptSheet>, Vec<KeptSheet>) = theirs.into_iter().partition(|sheet| sheet.done);
    // Nobody sees what others gave before the own sheet is done.
    let others: Vec<KeptSheet> = if done { finished } else { vec![] };
    let mine = begun.map_or_else(
        || SheetOut {
            who: signed.name.clone(),
            marks: vec![MarkGiven::default(); n],
            total: halves(2 * 70),
            done: false,
            version: 0,
        },
        |kept| sheet_out(kept, n),
    );
    let told: Vec<Sheet> =
        begun.filter(|_| done).into_iter().chain(&others).filter_map(|kept| sheet_of(kept, n)).collect();
    let agree = match others.first() {
        Some(other) => Some(agree(&app, &signed, other).await?),
        None => None,
    };
    let known = if told.is_empty() { None } else { Some(Known::of(&app, &signed, run.horse_id).await?) };
    let point = |WherePoints { manoeuvre, mean }| PointsOut {
        manoeuvre,
        mean: mean / 2.0,
        status: known.as_ref().and_then(|known| status_of(known, &run.manoeuvres[manoeuvre].rungs)),
    };
    let points = where_points_go(&told).into_iter().map(point).collect();
    Ok(Json(ScoringOut {
        id,
        horse_id: run.horse_id,
        day: run.day,
        mine,
        others: others.iter().map(|kept| sheet_out(kept, n)).collect(),
        open: open.into_iter().map(|sheet| sheet.who).collect(),
        points,
        agree,
        horse: run.horse,
        name: run.name,
        manoeuvres: run.manoeuvres.into_iter().map(|m| ManoeuvreOut { name: m.name, rungs: m.rungs }).collect(),
    }))
}

/// Fewer scores than this that both gave tell nothing.
const ENOUGH: usize = 10;

async fn agree(app: &App, signed: &SignedIn, other: &KeptSheet) -> Result<AgreeOut, Problem> {
    let pairs = score::pairs(&app.db, &signed.scope, signed.scope.person(), other.person_id).await?;
    let Agreement { pairs, same, higher, kappa } = agreement(&pairs);
    let out = |kappa: Kappa| KappaOut { value: kappa.value, between: kappa.between, strength: kappa.strength() };
    let kappa = kappa.filter(|_| pairs >= ENOUGH).map(out);
    Ok(AgreeOut { with: other.who.clone(), pairs, same, higher: higher / 2.0, kappa })
}

/// Begins a run that is scored today. The parts of the figure are kept as they are now.
#[utoipa::path(put, path = "/api/scored-runs/{id}", params(("id" = Uuid, Path)), request_body = ScoredRunIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<ScoredRunIn>,
) -> Result<StatusCode, Problem> {
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 60);
    check.that((1..=LONGEST_TEXT).contains(&sent.text.chars().count()), "text", "1 to 20000 characters");
    check.that(!sent.text.contains('\0'), "text", "a text has no character of the code 0");
    check.done()?;
    let posts = match sent.ground_id {
        Some(ground) => posts_of(&pen_of(&app, &signed, ground).await?),
        None => Places::new(),
    };
    let parts = parts_of(&sent.text, &posts)?;
    let new = NewRun {
        horse_id: sent.horse_id,
        day: today(&app, &signed).await?,
        name,
        body: sent.text,
        manoeuvres: parts.into_iter().map(|Manoeuvre { name, rungs, .. }| KeptManoeuvre { name, rungs }).collect(),
    };
    match score::put_run(&app.db, &signed.scope, id, &new).await? {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken("scored run")),
        Put::Missing => Err(Problem::missing("horse")),
    }
}

/// The parts of a figure that are scored.
fn parts_of(text: &str, posts: &Places) -> Result<Vec<Manoeuvre>, Problem> {
    let mend = |line: u32| Problem::field("text", format!("line {line} has a fault: mend the figure first"));
    let first = |faults: Vec<cavesson_core::figure::TextFault>| mend(faults.first().map_or(1, |fault| fault.line));
    let figure = Figure::read(text, posts).map_err(first)?;
    let parts = manoeuvres(&ridden(&figure).map_err(first)?);
    if parts.is_empty() {
        return Err(Problem::field("text", "nothing in it is scored: it needs a circle, a stop or an obstacle"));
    }
    Ok(parts)
}

/// Keeps the own sheet for a run. The same sent twice is kept once.
#[utoipa::path(put, path = "/api/scored-runs/{id}/sheet", params(("id" = Uuid, Path)), request_body = SheetIn,
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put_sheet(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<SheetIn>,
) -> Result<StatusCode, Problem> {
    if !(1..=100_000).contains(&sent.version) {
        return Err(Problem::field("version", "1 or more"));
    }
    let run = score::run(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("scored run"))?;
    let sheet = Sheet::check(sent.marks, run.manoeuvres.len(), sent.done).map_err(|wrong| {
        let at = match wrong {
            SheetError::Count { .. } => "marks".to_owned(),
            SheetError::Score(n) | SheetError::Open(n) => format!("marks[{n}].score"),
            SheetError::Penalty(n) => format!("marks[{n}].penalties"),
        };
        Problem::field(&at, wrong.to_string())
    })?;
    let put = score::put_sheet(&app.db, &signed.scope, id, sent.version, sheet.marks(), sent.done).await?;
    if put == PutEvent::Missing {
        return Err(Problem::missing("scored run"));
    }
    kept(put, "version of this sheet")
}
