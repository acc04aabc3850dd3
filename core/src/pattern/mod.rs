//! A barrel pattern on real ground: its path and the quickest run of it, what fits into a pen, how to lay it out with a tape, what a
//! foot of pocket costs, and what is read off a pass.
//!
//! Metres, seconds and radians inside; x to the right and y ahead of the horse as it comes in. A pen has its own axes, from its
//! first corner.

mod barrels;
mod cautions;
mod cost;
mod day;
mod fit;
mod fitted;
mod pass;
mod pen;
mod run;
mod search;
mod tape;
mod timer;
mod track;

pub use crate::plane::{Point, Polygon};
pub use barrels::{Barrel, Hand, Leg, NoPath, Path, Pocket, SetUp, Spot, Turn};
pub use cautions::{cautions, where_to_sit};
pub use cost::{Cost, FootOf, costs, least_pockets, quickest_pockets};
pub use day::{Block, DayPlan, Footwork, PocketStep, Shown, pocket_for, todays_passes};
pub use fit::{Asked, Fitted, GaveUp, NoRoom, Room, fit};
pub use fitted::{FittedHorse, Split, fitted_to_splits};
pub use pass::{
    BarrelTold, DIVISION_SPREADS, Drift, KNOCKED_SECONDS, Pass, PassFault, Placing, PocketTold, RateTold, drifts,
    placings,
};
pub use pen::{Area, Outline, Pen, PenFault, Underfoot};
pub use run::{Horse, Rate, Run, RunPoint, quickest_run};
pub use tape::{Check, Mark, SLIP, TapeSheet, tape_sheet};
pub use timer::{NoRun, TimerEvent, TimerRun, timer_run};
pub use track::{LaidOver, NoTrack, Placed, TrackPoint, lay_over};

/// Metres in a foot: exact by the international yard and pound agreement of 1959.
pub const FOOT: f64 = 0.3048;
