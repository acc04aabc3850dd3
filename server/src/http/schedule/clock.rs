//! Times of day as the interface writes them.

use cavesson_core::schedule::TimeOfDay;

/// `07:30`, from minutes after midnight.
pub(crate) fn clock(minutes: u16) -> String {
    TimeOfDay::from_minutes(minutes).map(|t| t.to_string()).unwrap_or_default()
}

/// Minutes after midnight of `07:30`, up to `24:00`.
pub(crate) fn minutes(text: &str) -> Option<u16> {
    text.parse().ok().map(TimeOfDay::minutes)
}
