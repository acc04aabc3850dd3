//! Cavesson's server: sign-in, one module for each resource, OpenAPI, and the site.
//!
//! [`api::app`] is the whole application as a router; the tests drive that same router.

pub mod api;
mod auth;
mod book;
pub mod contracts;
pub mod demo;
mod problem;
mod site;
mod state;

pub use problem::{FieldProblem, Problem};
pub use state::{App, Options};
