//! Calendars as iCalendar (RFC 5545): written for others to read, read from what others wrote, and rules of recurrence.

pub mod read;
pub mod recurrence;
pub mod write;
