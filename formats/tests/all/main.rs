//! What is read and written in open formats. One program, so that it is linked once.

mod calendar_read;
mod calendar_write;
mod csv;
mod pattern;
mod recurrence;
mod shorthand;
