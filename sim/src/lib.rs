//! Stand-ins for what the application cannot have in a test or a demo: a horse that answers, learns and forgets, a
//! weather station, a timer, a watch, a tracker of the flag and its motor.
//!
//! Every stand-in is made from a seed and gives the same answers each time.

mod cattle;
mod counted;
mod drills;
mod flag_drive;
mod flag_work;
mod herd;
mod history;
mod horse;
mod pupil;
mod run_devices;
mod two_rein;
mod weather;

pub use cattle::{SimCattleHorse, SimCow};
pub use drills::{DAYS, DrillOrder, DrillTaken, drilled};
pub use flag_drive::{FlagDrive, FlagOrder, FlagReading, FlagState, LINK, SimFlagDrive};
pub use flag_work::{FlagWork, Move, Moves};
pub use herd::{
    AskedRide, Draw, Herd, HerdHorse, KINDS, Kind, Learners, Losing, RiderKind, Showing, TrueShares, asked_rides,
};
pub use history::{Layoff, SimRide, SimSet, Story, Subject, ride_out};
pub use horse::{Nature, SimCount, SimHorse, SimRep, Trouble};
pub use pupil::{LESSONS, Lesson, Taken, teach};
pub use run_devices::{Mishap, RunTimer, SimTimer, Watch, ridden};
pub use two_rein::{InTwoRein, asked_on_one_and_two, ridden_in_two_rein, stepping_down};
pub use weather::{WeatherSource, WeatherStation};
