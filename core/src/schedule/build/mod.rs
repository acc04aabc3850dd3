//! From what a barn knows to a [`WeekProblem`](super::WeekProblem): what each horse should work, by whom, where, how long, and what it
//! is worth. Every figure carries its reason.

mod appointment;
mod barn;
mod defaults;
mod problem;
mod ride_load;
mod show;
mod subjects;

pub use appointment::AppointmentKind;
pub use barn::{Aim, BarnWeek, HorseContext, Motive, PlanningProblem, StepFacts, Subject, WorkReasons};
pub use defaults::{open_hours, unanswered_days, usual_at_once, usual_hours, usual_minutes, usual_start, without};
pub use problem::build_problem;
pub use ride_load::{LoadLimits, RideLoad, load_limits, ride_load};
pub use show::{DAYS_AHEAD, Outlook, Want, chance_by, could_wait, warning};
pub use subjects::subjects;
