//! Open formats in and out: the log in shorthand and as comma-separated values, calendars as iCalendar.

pub mod calendar;
pub mod csv;
pub mod shorthand;
