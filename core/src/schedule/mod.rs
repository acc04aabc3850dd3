//! The week: who rides whom, when, where, on what.
//!
//! [`build_problem`] makes a [`WeekProblem`] of what a barn knows, with the reason for each figure; [`plan`] searches for rides;
//! [`breaks`] and [`score`] judge any rides straight from the definition and know nothing of the search; [`left_out`] and [`short`]
//! explain what a plan lacks. Times are minutes after midnight, days are 0 to 6.

mod build;
mod explain;
mod mend;
mod problem;
mod rules;
mod search;
mod slot;
mod time_of_day;

pub use build::{
    Aim, AppointmentKind, BarnWeek, DAYS_AHEAD, HorseContext, LoadLimits, Motive, Outlook, PlanningProblem, RideLoad,
    StepFacts, Subject, Want, WorkReasons, build_problem, chance_by, could_wait, load_limits, open_hours, ride_load,
    subjects, unanswered_days, usual_at_once, usual_hours, usual_minutes, usual_start, warning, without,
};
pub use explain::{LeftOut, Short, left_out, short};
pub use mend::{Keep, kept_rides, off_for_the_day, still_open, unplanned_work};
pub use problem::{Before, DAYS, Heat, Horse, Ix, Place, Ride, Rider, SHORT, Span, WeekProblem, Work};
pub use rules::{Break, breaks, score};
pub use search::{Effort, Pace, Pacer, Progress, plan, shift_early};
pub use slot::{SlotRequest, best_slot};
pub use time_of_day::{NotATimeOfDay, TimeOfDay};
