//! A figure ridden in one of the barn's pens, on one of its horses: what is wrong with its text, or where it goes and what it asks.

use std::{
    collections::{BTreeMap, BTreeSet},
    sync::Arc,
};

use axum::{Json, extract::State};
use cavesson_core::{
    advice::Status,
    curriculum::{Curriculum, Side},
    figure::{
        AgainstRule, Body as Outline, ChangeNeeded, Clearance, Figure, FigureGait, FigureHorse, ForHorse, LONGEST_TEXT,
        LeadFaultKind, Places, Ridden, Shape, TextFault, Traced, between, leads, obstacles, ride as ridden, rungs,
        stops, tightest, totals,
    },
    pattern::{FOOT, Hand, Point},
};
use cavesson_store::horse;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{extract::Body, patterns::pen_of},
    services::{
        barn_clock::today,
        book::{Book, books},
        standing::{response::StandingOut, standings},
    },
};

/// A figure to ride in mind.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FigureRideIn {
    #[schema(max_length = 20000)]
    text: String,
    /// The place whose pen it is ridden in; its posts have the names `post1`, `post2` and so on.
    ground_id: Uuid,
    /// The horse that it is held against.
    horse_id: Option<Uuid>,
}

/// What comes of it: faults of the text, or the ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FigureRideOut {
    faults: Vec<TextFault>,
    ridden: Option<RiddenOut>,
}

/// Where a step leaves the horse. Metres in the pen's axes, degrees from straight ahead to the right.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FigureStepOut {
    line: u32,
    word: &'static str,
    gait: FigureGait,
    lead: Option<Hand>,
}

/// A piece of the path.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FigurePieceOut {
    step: usize,
    line: u32,
    gait: FigureGait,
    lead: Option<Hand>,
    at: Point,
    heading: f64,
    length: f64,
    seconds: f64,
    /// The hand of a curve, or to which it goes sideways.
    hand: Option<Hand>,
    /// None on a straight.
    radius: Option<f64>,
    degrees: Option<f64>,
}

/// What is ridden in one gait.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct InGaitOut {
    gait: FigureGait,
    length: f64,
    seconds: f64,
    strides: f64,
}

/// How near the path comes to something.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct NearOut {
    /// A post by its name, or bad ground in words; none for the fence.
    name: Option<String>,
    distance: f64,
    at: Point,
    fits: bool,
}

/// A place with a name.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct NamedPlaceOut {
    name: String,
    at: Point,
    /// The line of the text that puts it there; none for what stands in the pen.
    line: Option<u32>,
}

/// A fault of a lead.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LeadFaultOut {
    line: u32,
    kind: LeadFaultKind,
}

/// A change of lead that is missing.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ChangeNeededOut {
    line: u32,
    to: Hand,
    at: Point,
}

/// A curve that is tighter than this horse goes well, by gait.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TightOut {
    gait: FigureGait,
    radius: f64,
    least: f64,
    lines: Vec<u32>,
}

/// A stop with too little run-up for its gait's own speed.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ShortRunUpOut {
    line: u32,
    straight: f64,
    needs: f64,
}

/// An obstacle against the published figures and the horse.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ObstacleOut {
    line: u32,
    word: &'static str,
    gait: FigureGait,
    measure: f64,
    least: f64,
    most: Option<f64>,
    rule: AgainstRule,
    asks: Option<ForHorse>,
    /// Strides from the obstacle before it; none for the first.
    strides: Option<f64>,
}

/// A rung that the figure asks.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RungAskedOut {
    rung: String,
    /// Its name in the barn's curriculum; none where it has no such rung.
    name: Option<String>,
    hand: Option<Hand>,
    gait: Option<FigureGait>,
    lines: Vec<u32>,
    /// How it stands with the horse; none without a horse, or where nothing is known of it.
    status: Option<Status>,
}

/// A figure as it is ridden.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RiddenOut {
    text: String,
    mirrored: String,
    steps: Vec<FigureStepOut>,
    path: Vec<FigurePieceOut>,
    places: Vec<NamedPlaceOut>,
    gaits: Vec<InGaitOut>,
    length: f64,
    seconds: f64,
    /// Whether it ends where it began, within a foot and five degrees.
    closes: bool,
    near: Vec<NearOut>,
    /// Metres out of the pen.
    outside: f64,
    leads: Vec<LeadFaultOut>,
    changes: Vec<ChangeNeededOut>,
    tight: Vec<TightOut>,
    run_ups: Vec<ShortRunUpOut>,
    obstacles: Vec<ObstacleOut>,
    rungs: Vec<RungAskedOut>,
}

/// Kept off the fence and off posts, metres: 4 and 3 ft. Assumed.
const OFF_FENCE: f64 = 4.0 * FOOT;
const OFF_POST: f64 = 3.0 * FOOT;
/// A post is so thick, metres.
const POST: f64 = 0.15;
/// A figure closes within so many metres and degrees.
const CLOSE: (f64, f64) = (FOOT, 5.0);
/// Rounding of a run-up, metres: less than this is not missed.
const NEARLY: f64 = FOOT;

/// Rides a figure in mind.
#[utoipa::path(post, path = "/api/figures/ride", request_body = FigureRideIn,
    responses((status = 200, body = FigureRideOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn ride(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<FigureRideIn>,
) -> Result<Json<FigureRideOut>, Problem> {
    if sent.text.chars().count() > LONGEST_TEXT {
        return Err(Problem::field("text", format!("at most {LONGEST_TEXT} characters")));
    }
    let pen = pen_of(&app, &signed, sent.ground_id).await?;
    let posts: Places = pen.posts.iter().enumerate().map(|(n, at)| (format!("post{}", n + 1), *at)).collect();
    let known = match sent.horse_id {
        Some(id) => Some(Known::of(&app, &signed, id).await?),
        None => None,
    };
    let refused = |faults| Ok(Json(FigureRideOut { faults, ridden: None }));
    let figure = match Figure::read(&sent.text, &posts) {
        Ok(figure) => figure,
        Err(faults) => return refused(faults),
    };
    let ridden = match ridden(&figure) {
        Ok(ridden) => ridden,
        Err(faults) => return refused(faults),
    };
    let fence = pen.outline.polygon();
    let (of_fence, outside) = Traced::of(&ridden).pen_clearance(&fence);
    let mut near = vec![near_out(None, of_fence, of_fence.keeps(OFF_FENCE) && outside == 0.0)];
    for (name, at) in &posts {
        let clear = Traced::of(&ridden).marker_clearance(&Outline::Disc { at: *at, radius: POST });
        near.push(near_out(Some(name.clone()), clear, clear.keeps(OFF_POST)));
    }
    for area in &pen.areas {
        let clear = Traced::of(&ridden).marker_clearance(&Outline::Box(area.corners.clone()));
        near.push(near_out(Some(format!("the {} ground", area.underfoot)), clear, clear.distance > 0.0));
    }
    let mut out = told(&figure, &ridden, known.as_ref());
    (out.near, out.outside) = (near, outside);
    Ok(Json(FigureRideOut { faults: vec![], ridden: Some(out) }))
}

fn near_out(name: Option<String>, of: Clearance, fits: bool) -> NearOut {
    NearOut { name, distance: of.distance, at: of.at, fits }
}

/// What is known of a horse: its standing, and the curriculum that it is on.
pub(super) struct Known {
    pub(super) standing: Arc<StandingOut>,
    book: Arc<Book>,
}

impl Known {
    pub(super) async fn of(app: &App, signed: &SignedIn, id: Uuid) -> Result<Known, Problem> {
        let horse = horse::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("horse"))?;
        let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
        let day = today(app, signed).await?;
        let all = standings(app, &signed.scope, std::slice::from_ref(&horse), barn.posture, day).await?;
        let standing = all.get(&id).cloned().ok_or_else(|| Problem::missing("horse"))?;
        let book = books(app, &signed.scope, &[Some(id)]).await?.remove(0);
        Ok(Known { standing, book })
    }

    /// How a rung stands on a side and at a gait: the best of the gaits where none is named.
    fn status(&self, rung: &str, side: Option<Hand>, gait: Option<FigureGait>) -> Option<Status> {
        let side = side.map(|hand| if hand == Hand::Left { Side::Left } else { Side::Right });
        let steps = self.standing.steps.iter().filter(|step| step.rung == rung);
        let at_gait = steps.filter(|step| gait.is_none_or(|gait| step.gait.word() == gait.word()));
        let all: Vec<Status> = at_gait
            .map(|step| match side {
                None => step.status,
                Some(side) => step.sides.iter().find(|s| s.side == side).map_or(step.status, |s| s.status),
            })
            .collect();
        all.iter().copied().find(|status| *status == Status::Owned).or(all.first().copied())
    }
}

fn told(figure: &Figure, ridden: &Ridden<'_>, known: Option<&Known>) -> RiddenOut {
    let horse = FigureHorse::ordinary();
    let line = |step: usize| ridden.steps[step].line;
    let (faults, changes) = leads(ridden);
    let sums = totals(ridden, &horse);
    let (start, end) = (ridden.start, ridden.end());
    let apart = (end.heading - start.heading).rem_euclid(360.0);
    RiddenOut {
        text: figure.text(),
        mirrored: figure.mirrored(),
        steps: (ridden.steps.iter())
            .map(|step| FigureStepOut {
                line: step.line,
                word: step.step.word(),
                gait: step.after.gait,
                lead: step.after.lead,
            })
            .collect(),
        path: path(ridden, &horse),
        places: places(figure),
        gaits: (sums.iter())
            .filter(|(_, of)| of.seconds > 0.0)
            .map(|(&gait, of)| InGaitOut { gait, length: of.length, seconds: of.seconds, strides: of.strides })
            .collect(),
        length: end.s,
        seconds: sums.values().map(|of| of.seconds).sum(),
        closes: start.at.distance(end.at) <= CLOSE.0 && apart.min(360.0 - apart) <= CLOSE.1,
        near: vec![],
        outside: 0.0,
        leads: faults.into_iter().map(|of| LeadFaultOut { line: line(of.step), kind: of.kind }).collect(),
        changes: (changes.into_iter())
            .map(|ChangeNeeded { step, to, at, .. }| ChangeNeededOut { line: line(step), to, at })
            .collect(),
        tight: (tightest(ridden, &horse).into_iter().filter(|of| !of.under.is_empty()))
            .map(|of| TightOut { gait: of.gait, radius: of.radius, least: of.least, lines: lines(ridden, &of.under) })
            .collect(),
        run_ups: (stops(ridden, &horse).into_iter().filter(|of| of.straight + NEARLY < of.needs))
            .map(|of| ShortRunUpOut { line: line(of.step), straight: of.straight, needs: of.needs })
            .collect(),
        obstacles: obstacle_rows(ridden, &horse),
        rungs: asked(ridden, known),
    }
}

/// The lines of some steps, each once.
fn lines(ridden: &Ridden<'_>, steps: &[usize]) -> Vec<u32> {
    let all: BTreeSet<u32> = steps.iter().map(|&step| ridden.steps[step].line).collect();
    all.into_iter().collect()
}

fn path(ridden: &Ridden<'_>, horse: &FigureHorse) -> Vec<FigurePieceOut> {
    (ridden.path.iter())
        .map(|piece| {
            let (hand, radius, degrees) = match piece.shape {
                Shape::Line { sideways } => (sideways, None, None),
                Shape::Arc { hand, radius, degrees } => (Some(hand), Some(radius), Some(degrees)),
            };
            let start = piece.start;
            FigurePieceOut {
                step: piece.step,
                line: ridden.steps[piece.step].line,
                gait: start.gait,
                lead: start.lead,
                at: start.at,
                heading: start.heading,
                length: piece.length,
                seconds: piece.length / horse.gaits[&start.gait].speed,
                hand,
                radius,
                degrees,
            }
        })
        .collect()
}

fn places(figure: &Figure) -> Vec<NamedPlaceOut> {
    let marks: BTreeMap<&str, u32> = figure.marks().collect();
    let of = |(name, at): (&String, &Point)| NamedPlaceOut {
        name: name.clone(),
        at: *at,
        line: marks.get(name.as_str()).copied(),
    };
    figure.places.iter().map(of).collect()
}

fn obstacle_rows(ridden: &Ridden<'_>, horse: &FigureHorse) -> Vec<ObstacleOut> {
    let from_before: BTreeMap<usize, f64> = between(ridden, horse).into_iter().map(|of| (of.to, of.strides)).collect();
    (obstacles(ridden, horse).into_iter())
        .map(|of| ObstacleOut {
            line: ridden.steps[of.step].line,
            word: ridden.steps[of.step].step.word(),
            gait: of.gait,
            measure: of.measure,
            least: of.least,
            most: of.most,
            rule: of.rule,
            asks: of.own.map(|(_, asks)| asks),
            strides: from_before.get(&of.step).copied(),
        })
        .collect()
}

fn asked(ridden: &Ridden<'_>, known: Option<&Known>) -> Vec<RungAskedOut> {
    (rungs(ridden).into_iter())
        .map(|of| {
            let (rung, rest) = of.rung.split_once(' ').unwrap_or((&of.rung, ""));
            let (hand, gait) = (rest.parse::<Hand>().ok(), rest.parse::<FigureGait>().ok());
            let named = |known: &Known| known.book.curriculum.rung(rung).map(|rung| rung.name.clone());
            let standard = || Curriculum::standard().rung(rung).map(|rung| rung.name.clone());
            RungAskedOut {
                name: known.map_or_else(standard, named),
                status: known.and_then(|known| known.status(rung, hand, gait)),
                rung: rung.to_owned(),
                hand,
                gait,
                lines: of.lines,
            }
        })
        .collect()
}
