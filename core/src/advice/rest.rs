//! When to leave a horse alone.

use std::fmt;

use chrono::{Days, NaiveDate};

use super::Posture;
use crate::belief::Off;

/// Why a horse is better left alone today.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum LeaveAlone {
    /// A sign on the last day ridden.
    Sign {
        /// What it was.
        off: Off,
        /// On which day.
        on: NaiveDate,
    },
    /// Ridden too many days running.
    DaysRunning {
        /// How many.
        days: u32,
        /// How many the posture allows.
        most: u32,
    },
}

impl fmt::Display for LeaveAlone {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            LeaveAlone::Sign { off, on } => {
                write!(
                    f,
                    "It was {} on {}: a day off, a ride out, or only what it owns",
                    off.word(),
                    on.format("%-d %B")
                )
            }
            LeaveAlone::DaysRunning { days, most } => {
                write!(f, "Ridden {days} days running, {most} are enough: a day off, a ride out, or only what it owns")
            }
        }
    }
}

/// Days for which a sign holds, the day after it first.
const SIGN_HOLDS: u64 = 1;

/// What the last days say, oldest first; `None` when the horse may be worked.
pub(super) fn leave_alone(posture: Posture, days: &[(NaiveDate, Vec<Off>)], on: NaiveDate) -> Option<LeaveAlone> {
    let (last, off) = days.iter().rev().find(|(date, _)| *date <= on)?;
    let holds = last.checked_add_days(Days::new(SIGN_HOLDS)).is_some_and(|end| on <= end);
    if let Some(&off) = off.iter().filter(|o| **o != Off::Sore).min().filter(|_| holds) {
        return Some(LeaveAlone::Sign { off, on: *last });
    }
    let running = days_running(days, on);
    (running >= posture.days_running())
        .then_some(LeaveAlone::DaysRunning { days: running, most: posture.days_running() })
}

/// Days ridden without one between, up to the day before `on`.
fn days_running(days: &[(NaiveDate, Vec<Off>)], on: NaiveDate) -> u32 {
    let mut expected = on.pred_opt();
    let mut running = 0;
    for (date, _) in days.iter().rev().filter(|(date, _)| *date < on) {
        if Some(*date) != expected {
            break;
        }
        running += 1;
        expected = date.pred_opt();
    }
    running
}
