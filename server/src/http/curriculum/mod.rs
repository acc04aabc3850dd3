//! The curriculum to read and to change: ladders, rungs, schools, faults, signs, and the scale of weights.

pub(crate) mod change;

use std::collections::BTreeMap;

use axum::{Json, extract::State};
use cavesson_core::{
    curriculum::{
        Curriculum, Gait, Heights, Measure, Need, ONE_REIN_STOP, Place, Road, Rung, Side, SignKind, Step, SubjectKind,
        Zone,
    },
    response::{Standard, Weight},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::{router::OpenApiRouter, routes};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::QueryParams,
    services::{
        barn_clock::today,
        book::{Book, book},
    },
};

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(read))
        .routes(routes!(change::gone))
        .routes(routes!(change::changes))
        .routes(routes!(change::put_change))
        .routes(routes!(change::file))
        .routes(routes!(change::import))
}

/// Whose curriculum.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Of {
    /// A horse; without it, the barn's.
    #[serde(default)]
    horse: Option<Uuid>,
}

/// All that is taught, in teaching order.
#[derive(Serialize, ToSchema)]
pub(crate) struct CurriculumOut {
    ladders: Vec<LadderOut>,
    rungs: Vec<RungOut>,
    /// Every rung at each of its gaits.
    steps: Vec<StepOut>,
    schools: Vec<SchoolOut>,
    faults: Vec<FaultOut>,
    signs: Vec<SignOut>,
    /// Lightest first.
    weights: Vec<WeightOut>,
    /// Ways from bit to bit.
    roads: Vec<Road>,
}

/// A question on which the trade disagrees.
#[derive(Serialize, ToSchema)]
pub(crate) struct SchoolOut {
    id: String,
    question: String,
    /// Id of the answer that holds here.
    picked: String,
    choices: Vec<ChoiceOut>,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct ChoiceOut {
    id: String,
    name: String,
    says: String,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct LadderOut {
    letter: String,
    name: String,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct RungOut {
    id: String,
    name: String,
    ladder: String,
    sides: Vec<Side>,
    /// What left means on it, where it could mean two things.
    left: String,
    gaits: Vec<Gait>,
    /// The cues in order.
    ask: Vec<String>,
    /// One part or two; two count only together.
    answer: Vec<String>,
    /// What owning it means today.
    standard: StandardOut,
    /// What is good enough for the rungs that need it to begin, in plain words, where that is less.
    opening: Option<String>,
    /// What it meant before, with the first day of each; the first has none.
    before: Vec<BeforeOut>,
    /// What it needs here: ids of rungs, or of steps.
    needs: Vec<String>,
    /// Whether it needs the one-rein stop at its gait besides, as all that is ridden does.
    brake: bool,
    /// What it needs as it was written, with what is passed by or left out here.
    below: Vec<String>,
    /// How its answers are counted.
    measure: Measure,
    zone: Option<Zone>,
    /// Whether it is worked on cattle: a cow is named then.
    cattle: bool,
    /// Whether it is worked on the flag.
    flag: bool,
    /// Whether it is ridden on a pattern of barrels.
    pattern: bool,
    /// Where it is worked.
    places: Vec<Place>,
    /// Fewest days from one ride of it to the next.
    days_between: u8,
    /// Whether it is taught here; what is not is left out or passed by.
    taught: bool,
    /// Counted as owned where others need it.
    passed: bool,
    /// Tags of the faults that show on it, commonest first.
    faults: Vec<String>,
    /// Where each of them leads: ids of rungs below, none where a smaller piece of this rung is the remedy.
    remedies: BTreeMap<String, Vec<String>>,
    cautions: Vec<String>,
    note: String,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct StandardOut {
    /// Share of reps that must meet it, 0 to 1.
    share: f64,
    weight: Weight,
    seconds: f64,
    days: u8,
    /// All of it in plain words.
    words: String,
}

/// A standard that held until a later one came.
#[derive(Serialize, ToSchema)]
pub(crate) struct BeforeOut {
    until: NaiveDate,
    standard: StandardOut,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct StepOut {
    id: String,
    rung: String,
    name: String,
    gait: Gait,
    sides: Vec<Side>,
    /// Ids of the steps that must be owned first.
    needs: Vec<String>,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct FaultOut {
    tag: String,
    name: String,
    likely: String,
    remedy: String,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct SignOut {
    tag: String,
    name: String,
    /// Letting down, or else tight or off.
    soft: bool,
    /// Not a day for something new.
    off: bool,
}

#[derive(Serialize, ToSchema)]
pub(crate) struct WeightOut {
    weight: Weight,
    /// In a sentence: "an egg".
    phrase: &'static str,
    /// Nominal force on one rein.
    newtons: f64,
}

fn standard_out(measure: Measure, s: &Standard) -> StandardOut {
    StandardOut {
        share: s.share.fraction(),
        weight: s.weight,
        seconds: s.seconds.seconds(),
        days: s.days,
        words: measure.standard_in_words(s),
    }
}

fn before(c: &Curriculum, rung: &Rung, today: NaiveDate) -> Vec<BeforeOut> {
    let later = c.later_standards(&rung.id);
    let held = std::iter::once(&rung.standard).chain(later.iter().map(|(_, s)| s));
    let ends = later.iter().map(|(from, _)| *from).filter(|from| *from <= today);
    ends.zip(held).map(|(until, s)| BeforeOut { until, standard: standard_out(rung.measure, s) }).collect()
}

/// Whether a need is the one-rein stop that no rung names, since all that is ridden rests on it.
fn is_implied_brake(rung: &Rung, need: &Need) -> bool {
    need.rung == ONE_REIN_STOP && !rung.needs.contains(need)
}

fn rung_out(c: &Curriculum, heights: &Heights<'_>, r: &Rung, today: NaiveDate) -> RungOut {
    let work = c.work_needs(r);
    let taught = c.as_taught(r);
    let remedies = taught.faults.iter().filter_map(|tag| Some((tag.clone(), heights.remedies(c.fault(tag)?, &r.id))));
    RungOut {
        id: r.id.clone(),
        name: r.name.clone(),
        ladder: r.ladder().to_string(),
        sides: r.sides.list().to_vec(),
        gaits: r.gaits.clone(),
        left: r.left.clone(),
        ask: taught.ask,
        answer: r.answer.clone(),
        standard: standard_out(r.measure, &c.standard_on(r, today)),
        opening: r.opening.map(|s| r.measure.standard_in_words(&s)),
        before: before(c, r, today),
        needs: c.needs_of(r).filter(|n| !is_implied_brake(r, n)).map(|n| n.clone().into()).collect(),
        brake: c.needs_of(r).any(|n| is_implied_brake(r, n)),
        below: r.needs.iter().map(|n| n.clone().into()).collect(),
        measure: r.measure,
        zone: r.zone,
        cattle: work.cattle > 0,
        flag: work.flag,
        pattern: work.subject == SubjectKind::Pattern,
        places: work.places.clone(),
        days_between: work.days_between,
        taught: !c.is_left_out(&r.id) && !c.is_passed(&r.id),
        passed: c.is_passed(&r.id),
        remedies: remedies.collect(),
        faults: taught.faults,
        cautions: taught.cautions,
        note: r.note.clone(),
    }
}

/// The curriculum of the barn, or of one of its horses.
#[utoipa::path(get, path = "/api/curriculum", params(Of),
    responses((status = 200, body = CurriculumOut), (status = 404, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    signed: SignedIn,
    QueryParams(of): QueryParams<Of>,
) -> Result<Json<CurriculumOut>, Problem> {
    if let Some(horse) = of.horse {
        crate::services::horses::find(&app, &signed, horse).await?;
    }
    let today = today(&app, &signed).await?;
    let book = book(&app, &signed.scope, of.horse).await?;
    Ok(Json(told(&book, today)))
}

/// A curriculum as it is on a day.
pub(crate) fn told(book: &Book, today: NaiveDate) -> CurriculumOut {
    let c = &book.curriculum;
    let heights = c.heights();
    let step = |s: &Step| StepOut {
        id: s.id.clone(),
        rung: s.rung.clone(),
        name: s.name.clone(),
        gait: s.gait,
        sides: s.sides.list().to_vec(),
        needs: s.needs.iter().map(|&n| book.course.step(n).id.clone()).collect(),
    };
    CurriculumOut {
        ladders: c.ladders().iter().map(|l| LadderOut { letter: l.letter.to_string(), name: l.name.clone() }).collect(),
        rungs: c.rungs().iter().map(|r| rung_out(c, &heights, r, today)).collect(),
        steps: book.course.steps().iter().map(step).collect(),
        schools: schools(c),
        faults: c
            .faults()
            .iter()
            .map(|f| FaultOut {
                tag: f.tag.clone(),
                name: f.name.clone(),
                likely: f.likely.clone(),
                remedy: f.remedy.clone(),
            })
            .collect(),
        signs: c
            .signs()
            .iter()
            .map(|s| SignOut {
                tag: s.tag.clone(),
                name: s.name.clone(),
                soft: s.kind == SignKind::Soft,
                off: s.kind == SignKind::Off,
            })
            .collect(),
        weights: Weight::ALL
            .iter()
            .map(|&w| WeightOut { weight: w, phrase: w.phrase(), newtons: f64::from(w.millinewtons()) / 1000.0 })
            .collect(),
        roads: Road::all().to_vec(),
    }
}

fn schools(c: &Curriculum) -> Vec<SchoolOut> {
    c.schools()
        .iter()
        .map(|s| SchoolOut {
            id: s.id.clone(),
            question: s.question.clone(),
            picked: c.choice(s).id.clone(),
            choices: s
                .choice
                .iter()
                .map(|c| ChoiceOut { id: c.id.clone(), name: c.name.clone(), says: c.says.clone() })
                .collect(),
        })
        .collect()
}
