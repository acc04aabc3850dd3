//! What is kept, on a real database. One program, so that it is linked once.

mod counts;
mod revisions;
mod ride_context;
mod sets;
mod statistics;
mod store;
mod support;
mod upgrades;
mod weeks;
