//! The application, through its router on a real database and through its commands. One program, so that it is linked once.

mod answers;
mod appointments;
mod balance;
mod barn;
mod barns;
mod book;
mod claims;
mod counts;
mod decide;
mod demo;
mod fills;
mod gear;
mod grounds;
mod hostile;
mod judge;
mod layoffs;
mod plan;
mod planned;
mod remedies;
mod rides;
mod sign_in;
mod site;
mod support;
mod warm;
mod week;
