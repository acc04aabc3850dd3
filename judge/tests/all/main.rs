//! The judge of calls and forecasts, and what it says of the application. One program, so that it is linked once.

mod bounds;
mod cattle;
mod figures;
mod fitting;
mod flag;
