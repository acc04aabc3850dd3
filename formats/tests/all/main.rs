//! What is read and written in open formats. One program, so that it is linked once.

mod csv;
mod ical;
mod ical_in;
mod repeat;
