//! What a line of a figure says.

use super::decimal::{Decimal, Measure};
use crate::{pattern::Hand, words::words};

words! {
    "a gait of a figure";
    /// How the horse goes along a piece of a figure.
    pub enum FigureGait {
        Walk,
        Jog,
        Lope,
        Run,
        Back,
        Side,
        Stand,
    }
}

impl FigureGait {
    /// Lope and run: there is a lead, and it can be changed.
    pub const fn has_lead(self) -> bool {
        matches!(self, FigureGait::Lope | FigureGait::Run)
    }

    /// Walk, jog, lope and run.
    pub const fn moving(self) -> bool {
        !matches!(self, FigureGait::Back | FigureGait::Side | FigureGait::Stand)
    }
}

words! {
    "a kind of change of lead";
    /// Through the jog, or in the air.
    pub enum ChangeKind {
        Simple,
        Flying,
    }
}

/// A gait as it is asked for: with its lead at the lope and the run.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct GaitAsked {
    /// Walk, jog, lope or run.
    pub gait: FigureGait,
    /// At the lope and the run.
    pub lead: Option<Hand>,
}

/// A name in a text, and where it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Name {
    /// As written.
    pub text: String,
    /// In characters, from 1.
    pub column: u32,
}

/// Where a line that leads to a name ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Adjusted {
    /// Square beside it.
    Beside,
    /// So much before that.
    Short(Measure),
    /// So much behind that.
    Past(Measure),
}

/// How far an arc goes round.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Sweep {
    /// So many degrees.
    Degrees(Decimal),
    /// Until a name is straight ahead.
    Toward(Name),
}

/// What happens between the curves of an eight or a serpentine.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Leads {
    /// Nothing: the lead stays, and half of the curves are on the wrong one at the lope.
    AsTheyAre,
    /// A change of lead.
    Change(ChangeKind),
    /// One lead throughout, on purpose.
    Counter,
}

/// How a back-through lies.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Chute {
    /// Straight.
    Straight,
    /// With a corner: the first leg's length, and the hand to which it goes on.
    Ell(Hand, Measure),
}

/// One step of a figure: what the horse is asked to do. Lengths are over 0.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum Step {
    Gait(GaitAsked),
    Line(Measure),
    LineTo(Name, Adjusted),
    Circle { hand: Hand, radius: Measure, times: Option<u8>, counter: bool },
    Arc { hand: Hand, radius: Measure, sweep: Sweep, counter: bool },
    Eight { hand: Hand, radius: Measure, times: Option<u8>, leads: Leads },
    Serpentine { hand: Hand, radius: Measure, loops: u8, straight: Option<Measure>, leads: Leads },
    Stop,
    Back(Measure),
    Sidepass(Hand, Measure),
    Rollback { hand: Hand, leave: Option<GaitAsked> },
    Turnaround(Hand, Decimal),
    Pivot(Hand, Decimal),
    Change { kind: ChangeKind, jog: Option<Measure> },
    Poles { count: u8, spacing: Measure },
    Gate(Hand, Option<Measure>),
    Bridge { length: Measure, wide: Measure, drop: bool },
    Backthrough { chute: Chute, length: Measure, wide: Measure },
    Wait(Decimal),
}

/// The words that a step begins with.
pub(super) const STEP_WORDS: [&str; 21] = [
    "walk",
    "jog",
    "lope",
    "run",
    "line",
    "circle",
    "arc",
    "eight",
    "serpentine",
    "stop",
    "back",
    "sidepass",
    "rollback",
    "turnaround",
    "pivot",
    "change",
    "poles",
    "gate",
    "bridge",
    "backthrough",
    "wait",
];

impl Step {
    /// The word it begins with.
    pub fn word(&self) -> &'static str {
        match self {
            Step::Gait(asked) => asked.gait.word(),
            Step::Line(_) | Step::LineTo(..) => "line",
            Step::Circle { .. } => "circle",
            Step::Arc { .. } => "arc",
            Step::Eight { .. } => "eight",
            Step::Serpentine { .. } => "serpentine",
            Step::Stop => "stop",
            Step::Back(_) => "back",
            Step::Sidepass(..) => "sidepass",
            Step::Rollback { .. } => "rollback",
            Step::Turnaround(..) => "turnaround",
            Step::Pivot(..) => "pivot",
            Step::Change { .. } => "change",
            Step::Poles { .. } => "poles",
            Step::Gate(..) => "gate",
            Step::Bridge { .. } => "bridge",
            Step::Backthrough { .. } => "backthrough",
            Step::Wait(_) => "wait",
        }
    }

    /// What it is about, where it names something.
    pub(super) fn name(&self) -> Option<&Name> {
        match self {
            Step::LineTo(name, _) | Step::Arc { sweep: Sweep::Toward(name), .. } => Some(name),
            _ => None,
        }
    }
}

/// Where a figure begins.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum StartAt {
    /// At a place.
    Place(Measure, Measure),
    /// At a name.
    Name(Name),
}

/// One statement.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum Statement {
    Start { at: StartAt, heading: Decimal },
    Mark { name: Name, x: Measure, y: Measure },
    Repeat(u8),
    End,
    Step(Step),
}

impl Statement {
    /// The name it needs to be there.
    pub(super) fn name(&self) -> Option<&Name> {
        match self {
            Statement::Start { at: StartAt::Name(name), .. } => Some(name),
            Statement::Step(step) => step.name(),
            _ => None,
        }
    }
}

/// A line of a text in order: a statement, a comment, both or neither.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SourceLine {
    /// The column of its first word, from 1.
    pub column: u32,
    /// What it says.
    pub statement: Option<Statement>,
    /// What stands behind its `#`, without blanks at the ends.
    pub comment: Option<String>,
}
