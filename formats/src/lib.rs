//! Open formats in and out.

pub mod csv;
pub mod ical;
