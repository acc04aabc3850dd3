//! Commands that read one JSON document and write one, for checks from outside. They need no database, and call the
//! same core functions as the server.

mod bit;
mod cattle;
mod copies;
mod decide;
mod decide_fast;
mod document;
mod drills;
mod figure;
mod judge;
mod lessons;
mod pattern;
mod plan;
mod roads;
mod texts;

use std::{
    io::{Read, Write},
    process::ExitCode,
};

pub use crate::cli::bit::bit;
pub use crate::cli::cattle::{cattle, cattle_days};
pub use crate::cli::copies::{backup, restore};
pub use crate::cli::decide::decide;
pub use crate::cli::document::Problem;
pub use crate::cli::drills::drills;
pub use crate::cli::figure::figure;
pub use crate::cli::judge::{causes, family, fit, forecasts, herds, intake, judge, kinds, trends};
pub use crate::cli::lessons::lessons;
pub use crate::cli::pattern::pattern;
pub use crate::cli::plan::plan;
pub use crate::cli::roads::roads;
pub use crate::cli::texts::texts;

/// Runs a contract on standard input: exit 0 with a result, or 2 with one line a problem on standard error.
pub fn run(contract: impl Fn(&str) -> Result<serde_json::Value, Vec<Problem>>) -> ExitCode {
    let mut text = String::new();
    let answer = match std::io::stdin().read_to_string(&mut text) {
        Ok(_) => contract(&text),
        Err(e) => Err(vec![Problem::whole(format!("the input could not be read: {e}"))]),
    };
    match answer {
        Ok(value) => match writeln!(std::io::stdout().lock(), "{value}") {
            Ok(()) => ExitCode::SUCCESS,
            Err(_) => ExitCode::FAILURE,
        },
        Err(problems) => {
            for problem in problems {
                eprintln!("{problem}");
            }
            ExitCode::from(2)
        }
    }
}
