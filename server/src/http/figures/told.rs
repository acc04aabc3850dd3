//! A ridden figure as it is told.

use std::collections::{BTreeMap, BTreeSet};

use cavesson_core::{
    figure::{
        AgainstRule, Call, CallMeasure, ChangeNeeded, Clearance, Figure, FigureGait, FigureHorse, ForHorse,
        LeadFaultKind, Ridden, Shape, between, calls, leads, manoeuvres, obstacles, stops, tightest, totals,
    },
    pattern::{FOOT, Hand, Point},
};
use chrono::NaiveDate;
use serde::Serialize;
use utoipa::ToSchema;

use super::{
    asked::{CourseItemOut, LayOut, RungAskedOut, WeakestOut, asked, load, obstacles_of, to_lay},
    known::Known,
};

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
    pub(super) near: Vec<NearOut>,
    /// Metres out of the pen.
    pub(super) outside: f64,
    leads: Vec<LeadFaultOut>,
    changes: Vec<ChangeNeededOut>,
    tight: Vec<TightOut>,
    run_ups: Vec<ShortRunUpOut>,
    obstacles: Vec<ObstacleOut>,
    rungs: Vec<RungAskedOut>,
    /// None without a horse, or where it owns all of it.
    weakest: Option<WeakestOut>,
    /// Whether strides of this horse were measured; else they are an ordinary horse's.
    measured: bool,
    /// The load of riding it once.
    load: u32,
    /// Its obstacles, in order.
    course: Vec<CourseItemOut>,
    /// What may be laid at its end.
    lay: Vec<LayOut>,
    /// As it is called to the rider.
    calls: Vec<CallOut>,
    /// The parts that are scored one by one.
    manoeuvres: Vec<String>,
}

/// What is called at once.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CallOut {
    line: u32,
    says: String,
    measure: Option<CallMeasureOut>,
    hand: Option<Hand>,
    note: Option<String>,
}

/// The measure of a call.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CallMeasureOut {
    of: CallMeasure,
    metres: f64,
}

/// A figure closes within so many metres and degrees.
const CLOSE: (f64, f64) = (FOOT, 5.0);
/// Rounding of a run-up, metres: less than this is not missed.
const NEARLY: f64 = FOOT;

pub(super) fn near_out(name: Option<String>, of: Clearance, fits: bool) -> NearOut {
    NearOut { name, distance: of.distance, at: of.at, fits }
}

/// A figure as it is ridden on a horse; how near it comes to what is told by the pen.
pub(super) fn told(figure: &Figure, ridden: &Ridden<'_>, known: Option<&Known>, by: Option<NaiveDate>) -> RiddenOut {
    let horse = known.map_or_else(FigureHorse::ordinary, Known::horse);
    let (rungs, weakest) = asked(ridden, known, by);
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
        rungs,
        weakest,
        measured: known.is_some_and(Known::is_measured),
        load: load(sums.iter()),
        course: obstacles_of(figure, ridden, &horse, known),
        lay: to_lay(&horse),
        calls: (calls(figure, ridden).into_iter())
            .map(|Call { line, says, measure, hand, note }| {
                let measure = measure.map(|(of, metres)| CallMeasureOut { of, metres });
                CallOut { line, says, measure, hand, note }
            })
            .collect(),
        manoeuvres: manoeuvres(ridden).into_iter().map(|it| it.name).collect(),
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
