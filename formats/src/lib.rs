//! Open formats in and out.

pub mod csv;
pub mod ical;
pub mod ical_in;
pub mod repeat;
