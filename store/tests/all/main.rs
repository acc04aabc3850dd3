//! What is kept, on a real database. One program, so that it is linked once.

mod counts;
mod revisions;
mod ride_context;
mod sets;
mod store;
mod support;
mod upgrades;
mod weeks;
