//! A figure ridden: where the horse goes, step by step.

use std::{collections::BTreeMap, ops::Range};

use super::{
    decimal::Measure,
    fault::{FaultCode, TextFault},
    need::Need,
    read::Figure,
    statement::{Adjusted, ChangeKind, Chute, FigureGait, GaitAsked, Leads, Name, StartAt, Statement, Step, Sweep},
};
use crate::{pattern::Hand, plane::Point};

/// The most parts of a figure.
const MOST_PARTS: usize = 1000;
/// Lengths under this count as nothing, metres: a thousandth of a foot.
pub(super) const TINY: f64 = 0.000_304_8;
/// An arc within so many degrees of none, or of a whole circle, is none.
const NO_ARC: f64 = 0.001;
/// A gate without a length is ridden round half of a circle this wide, metres: 6 ft.
const GATE: f64 = 1.8288;

/// Where the horse is and how it goes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct State {
    /// The gait it is in.
    pub gait: FigureGait,
    /// At the lope and the run.
    pub lead: Option<Hand>,
    /// Metres.
    pub at: Point,
    /// Degrees from straight ahead, growing to the right, 0 to under 360.
    pub heading: f64,
    /// How far it has come, metres.
    pub s: f64,
}

/// What a piece of the path is.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub enum Shape {
    /// Straight; sideways to a hand.
    Line { sideways: Option<Hand> },
    /// Round to a hand; metres, degrees over 0.
    Arc { hand: Hand, radius: f64, degrees: f64 },
}

/// A piece of the path: a straight or a curve, in one gait and on one lead.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Piece {
    /// Which step it belongs to, from 0.
    pub step: usize,
    /// What it is.
    pub shape: Shape,
    /// How the horse goes along it, and where it is at its start.
    pub start: State,
    /// Metres.
    pub length: f64,
}

/// A step as it was ridden.
#[derive(Debug, Clone, PartialEq)]
pub struct RiddenStep<'f> {
    /// Its line in the text, from 1.
    pub line: u32,
    /// What it says.
    pub step: &'f Step,
    /// How the horse came to it.
    pub before: State,
    /// How the horse left it.
    pub after: State,
    /// Its pieces of the path.
    pub pieces: Range<usize>,
}

/// A figure ridden from start to end.
#[derive(Debug, Clone, PartialEq)]
pub struct Ridden<'f> {
    /// Standing, where it begins.
    pub start: State,
    /// Its steps as ridden, repeats and all.
    pub steps: Vec<RiddenStep<'f>>,
    /// The path.
    pub path: Vec<Piece>,
}

/// Sine and cosine of a heading: the way ahead. Exact at the quarters, so that square figures close.
pub(super) fn ahead(heading: f64) -> Point {
    match heading {
        0.0 => Point::new(0.0, 1.0),
        90.0 => Point::new(1.0, 0.0),
        180.0 => Point::new(0.0, -1.0),
        270.0 => Point::new(-1.0, 0.0),
        _ => {
            let (sin, cos) = heading.to_radians().sin_cos();
            Point::new(sin, cos)
        }
    }
}

/// 1 to the right, as headings grow.
pub(super) fn clockwise(hand: Hand) -> f64 {
    -hand.sign()
}

fn wrapped(heading: f64) -> f64 {
    let heading = heading.rem_euclid(360.0);
    // Rounding just under nought wraps to 360 itself.
    if heading >= 360.0 { 0.0 } else { heading }
}

impl State {
    /// The middle of a curve to a hand.
    pub(super) fn centre(&self, hand: Hand, radius: f64) -> Point {
        self.at + ahead(wrapped(self.heading + 90.0 * clockwise(hand))) * radius
    }
}

impl Piece {
    /// The way along a straight piece.
    pub(super) fn way(&self) -> Point {
        let heading = self.start.heading;
        match self.shape {
            Shape::Line { sideways: Some(hand) } => ahead(wrapped(heading + 90.0 * clockwise(hand))),
            _ if self.start.gait == FigureGait::Back => ahead(heading) * -1.0,
            _ => ahead(heading),
        }
    }

    /// Where the horse is so many metres along it, and how it heads.
    pub(super) fn at(&self, t: f64) -> (Point, f64) {
        match self.shape {
            Shape::Line { .. } => (self.start.at + self.way() * t, self.start.heading),
            Shape::Arc { hand, radius, degrees } => {
                let turned = if self.length > 0.0 { degrees * t / self.length } else { 0.0 };
                let heading = wrapped(self.start.heading + clockwise(hand) * turned);
                let out = ahead(wrapped(heading - 90.0 * clockwise(hand)));
                (self.start.centre(hand, radius) + out * radius, heading)
            }
        }
    }
}

impl Ridden<'_> {
    /// How the horse stands at the end.
    pub fn end(&self) -> State {
        self.steps.last().map_or(self.start, |step| step.after)
    }

    /// The place so many metres along the path.
    pub(super) fn place(&self, s: f64) -> Point {
        let piece = self.path.iter().find(|piece| s <= piece.start.s + piece.length).or(self.path.last());
        piece.map_or(self.start.at, |piece| piece.at((s - piece.start.s).clamp(0.0, piece.length)).0)
    }
}

/// Rides a figure from its start.
///
/// # Errors
/// What cannot be ridden as it is written, at most one fault a line, in order of line: a gait that a step does not take, a name that
/// is not ahead or lies within the circle, more than 1000 parts.
///
/// ```
/// use cavesson_core::figure::{Figure, ride};
/// let figure = Figure::read("jog\nline 40\ncircle right 10\nstop\n", &Default::default()).unwrap();
/// let ridden = ride(&figure).unwrap();
/// assert_eq!((ridden.steps.len(), ridden.path.len()), (4, 2));
/// assert!((ridden.end().s / 0.3048 - 102.83).abs() < 0.01);
/// ```
pub fn ride(figure: &Figure) -> Result<Ridden<'_>, Vec<TextFault>> {
    let start = start(figure);
    let mut rider = Rider { figure, state: start, step: 0, path: vec![], faults: BTreeMap::new() };
    let (mut steps, mut parts) = (vec![], 0);
    for (line, column, step) in figure.ridden() {
        let need = Need::of(step);
        if !need.met(rider.state.gait) {
            rider.fault(line, column, FaultCode::Gait, need.says());
            (rider.state.gait, rider.state.lead) = need.first();
        }
        let (before, first) = (rider.state, rider.path.len());
        rider.step(line, step);
        let pieces = first..rider.path.len();
        parts += pieces.len().max(1);
        if parts > MOST_PARTS {
            rider.fault(line, column, FaultCode::Long, "a figure has at most 1000 parts, repeats and all");
            break;
        }
        steps.push(RiddenStep { line, step, before, after: rider.state, pieces });
        rider.step += 1;
    }
    if rider.faults.is_empty() {
        Ok(Ridden { start, steps, path: rider.path })
    } else {
        Err(rider.faults.into_values().collect())
    }
}

fn start(figure: &Figure) -> State {
    let said = figure.lines.iter().find_map(|line| match &line.statement {
        Some(Statement::Start { at, heading }) => Some((at, heading)),
        _ => None,
    });
    let at = match said {
        Some((StartAt::Place(x, y), _)) => Point::new(x.metres(), y.metres()),
        Some((StartAt::Name(name), _)) => figure.places[&name.text],
        None => Point::default(),
    };
    State { gait: FigureGait::Stand, lead: None, at, heading: said.map_or(0.0, |(_, h)| h.value()), s: 0.0 }
}

struct Rider<'f> {
    figure: &'f Figure,
    state: State,
    step: usize,
    path: Vec<Piece>,
    faults: BTreeMap<u32, TextFault>,
}

impl Rider<'_> {
    fn fault(&mut self, line: u32, column: u32, code: FaultCode, says: &str) {
        let told = TextFault::new(line, column, code, says);
        let first = self.faults.entry(line).or_insert_with(|| told.clone());
        if told.code < first.code {
            *first = told;
        }
    }

    fn step(&mut self, line: u32, step: &Step) {
        match step {
            Step::Gait(asked) => self.take(*asked),
            Step::Line(length) => self.straight(length.metres(), self.state.gait, None),
            Step::LineTo(name, adjusted) => self.line_to(line, name, *adjusted),
            Step::Circle { hand, radius, times, .. } => {
                self.curve(*hand, radius.metres(), 360.0 * f64::from(times.unwrap_or(1)));
            }
            Step::Arc { hand, radius, sweep, .. } => match sweep {
                Sweep::Degrees(degrees) => self.curve(*hand, radius.metres(), degrees.value()),
                Sweep::Toward(name) => self.arc_toward(line, *hand, radius.metres(), name),
            },
            Step::Eight { hand, radius, times, leads } => {
                let circles = 2 * u16::from(times.unwrap_or(1));
                self.curves(*hand, circles, radius.metres(), 360.0, 0.0, *leads);
            }
            Step::Serpentine { hand, radius, loops, straight, leads } => {
                let straight = straight.map_or(0.0, Measure::metres);
                self.curves(*hand, u16::from(*loops), radius.metres(), 180.0, straight, *leads);
            }
            Step::Back(length) => self.straight(length.metres(), FigureGait::Back, None),
            Step::Sidepass(hand, length) => self.straight(length.metres(), FigureGait::Side, Some(*hand)),
            Step::Rollback { hand, leave } => {
                self.turn(*hand, 180.0);
                self.take(leave.unwrap_or(GaitAsked { gait: FigureGait::Lope, lead: Some(*hand) }));
            }
            Step::Turnaround(hand, turns) => self.turn(*hand, 360.0 * turns.value()),
            Step::Pivot(hand, degrees) => self.turn(*hand, degrees.value()),
            Step::Change { kind, jog } => {
                if let (ChangeKind::Simple, Some(jog)) = (kind, jog) {
                    self.straight(jog.metres(), FigureGait::Jog, None);
                }
                self.change_lead();
            }
            Step::Poles { count, spacing } => {
                self.straight(f64::from(*count) * spacing.metres(), self.state.gait, None);
            }
            Step::Gate(hand, length) => {
                self.state.gait = FigureGait::Walk;
                self.curve(*hand, length.map_or(GATE, Measure::metres) / 2.0, 180.0);
                self.state.gait = FigureGait::Stand;
            }
            Step::Bridge { length, .. } => self.straight(length.metres(), self.state.gait, None),
            Step::Backthrough { chute, length, .. } => {
                if let Chute::Ell(hand, first) = chute {
                    self.straight(first.metres(), FigureGait::Back, None);
                    self.turn(hand.other(), 90.0);
                }
                self.straight(length.metres(), FigureGait::Back, None);
            }
            Step::Stop => (self.state.gait, self.state.lead) = (FigureGait::Stand, None),
            Step::Wait(_) => {}
        }
    }

    fn take(&mut self, asked: GaitAsked) {
        (self.state.gait, self.state.lead) = (asked.gait, asked.lead);
    }

    fn change_lead(&mut self) {
        self.state.lead = self.state.lead.map(Hand::other);
    }

    fn turn(&mut self, hand: Hand, degrees: f64) {
        self.state.heading = wrapped(self.state.heading + clockwise(hand) * degrees);
    }

    /// Straight in a gait, without leaving the gait the horse is in.
    fn straight(&mut self, length: f64, gait: FigureGait, sideways: Option<Hand>) {
        let lead = self.state.lead.filter(|_| gait.has_lead());
        let start = State { gait, lead, ..self.state };
        self.push(Piece { step: self.step, shape: Shape::Line { sideways }, start, length });
    }

    fn curve(&mut self, hand: Hand, radius: f64, degrees: f64) {
        let shape = Shape::Arc { hand, radius, degrees };
        self.push(Piece { step: self.step, shape, start: self.state, length: degrees.to_radians() * radius });
    }

    fn push(&mut self, piece: Piece) {
        let whole = matches!(piece.shape, Shape::Arc { degrees, .. } if degrees % 360.0 == 0.0);
        if !whole {
            (self.state.at, self.state.heading) = piece.at(piece.length);
        }
        self.state.s += piece.length;
        self.path.push(piece);
    }

    /// Curves to one hand and the other, with a straight between; the lead is changed half way along it.
    fn curves(&mut self, first: Hand, count: u16, radius: f64, degrees: f64, straight: f64, leads: Leads) {
        let gait = self.state.gait;
        for n in 0..count {
            if n > 0 {
                match leads {
                    Leads::Change(_) if straight > 0.0 => {
                        self.straight(straight / 2.0, gait, None);
                        self.change_lead();
                        self.straight(straight / 2.0, gait, None);
                    }
                    Leads::Change(_) => self.change_lead(),
                    _ if straight > 0.0 => self.straight(straight, gait, None),
                    _ => {}
                }
            }
            self.curve(if n % 2 == 0 { first } else { first.other() }, radius, degrees);
        }
    }

    fn line_to(&mut self, line: u32, name: &Name, adjusted: Adjusted) {
        let beside = (self.figure.places[&name.text] - self.state.at).dot(ahead(self.state.heading));
        let length = match adjusted {
            Adjusted::Beside => beside,
            Adjusted::Short(by) => beside - by.metres(),
            Adjusted::Past(by) => beside + by.metres(),
        };
        if length <= TINY {
            self.fault(line, name.column, FaultCode::Behind, "the line would not lead ahead");
            return;
        }
        self.straight(length, self.state.gait, None);
    }

    /// Round until the name is straight ahead: the path leaves the circle on its tangent through the name.
    fn arc_toward(&mut self, line: u32, hand: Hand, radius: f64, name: &Name) {
        let centre = self.state.centre(hand, radius);
        let to = self.figure.places[&name.text] - centre;
        let away = to.length();
        if away < radius - TINY {
            self.fault(line, name.column, FaultCode::Inside, "this lies within the circle, and never comes ahead");
            return;
        }
        let tangent = (away * away - radius * radius).max(0.0).sqrt();
        let bearing = to.x.atan2(to.y).to_degrees();
        let sign = clockwise(hand);
        let heading = bearing + sign * (90.0 - tangent.atan2(radius).to_degrees());
        let degrees = (sign * (heading - self.state.heading)).rem_euclid(360.0);
        if degrees > NO_ARC && degrees < 360.0 - NO_ARC {
            self.curve(hand, radius, degrees);
        }
    }
}
