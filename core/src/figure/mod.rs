//! Figures, drills and trail courses, from the text that people type: where the horse goes, whether it closes and fits, what is wrong
//! in it, and what it asks.
//!
//! [`Figure::read`] reads a text (its grammar is in `docs/figures.md`), [`ride()`] rides it; the rest looks at what was ridden.
//! Metres, seconds and degrees inside; x to the right and y ahead, headings from straight ahead and growing to the right. A text
//! keeps what was typed, so that it prints as it was meant.

mod asks;
mod calls;
mod checks;
mod course;
mod decimal;
mod drill;
mod fault;
mod ground;
mod leads;
mod manoeuvres;
mod need;
mod parse;
mod print;
mod read;
mod ready;
mod ride;
mod statement;
mod token;

pub use asks::{RungAsked, rungs};
pub use calls::{Call, CallMeasure, calls};
pub use checks::{
    AgainstRule, Between, FigureHorse, ForHorse, GaitMeasures, InGait, ObstacleFound, StopFound, Tightest, Turned,
    between, obstacles, stops, tightest, totals, turned,
};
pub use course::{CourseItem, Obstacle, StandsTo, WholeStrides, course, easiest_first, laid};
pub use decimal::{Decimal, Measure, Unit};
pub use drill::{Drill, DrillAsked, DrillMove, DrillNeed, DrillPart, drill};
pub use fault::{FaultCode, TextFault};
pub use ground::{Body, Clearance, Marker, Traced};
pub use leads::{ChangeNeeded, LeadFault, LeadFaultKind, leads};
pub use manoeuvres::{Manoeuvre, manoeuvres};
pub use read::{Figure, Places};
pub use ready::{READY, ReadyFigure};
pub use ride::{Piece, Ridden, RiddenStep, Shape, State, ride};
pub use statement::{
    Adjusted, ChangeKind, Chute, FigureGait, GaitAsked, Leads, Name, SourceLine, StartAt, Statement, Step, Sweep,
};

/// The longest text, characters.
pub const LONGEST_TEXT: usize = 20_000;
