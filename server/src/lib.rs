//! Cavesson's server: the HTTP interface by part of the job, the services behind it, sign-in, the demo, and the commands.
//!
//! [`http::app`] is the whole application as a router; the tests drive that same router.

mod app;
mod auth;
pub mod cli;
pub mod demo;
pub mod http;
pub mod listen;
pub mod observe;
mod problem;
mod services;
mod weather;

pub use app::{App, Options};
pub use problem::{FieldProblem, Problem};
pub use services::standing::{keep_warm, warm_up};
