//! Open formats in and out: the log in shorthand and as comma-separated values, calendars as iCalendar,
//! tracks as GPX, patterns as CSV and SVG, and a timer's events.

pub mod calendar;
pub mod csv;
pub mod gpx;
pub mod pattern;
pub mod shorthand;
pub mod timer;
