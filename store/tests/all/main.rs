//! What is kept, on a real database. One program, so that it is linked once.

mod around;
mod store;
mod support;
mod weeks;
mod whole;
