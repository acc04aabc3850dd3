//! `cavesson cattle`: which cow for which horse, heading a cow off, holding one that stops, and what a
//! recorded work on the flag says; a JSON document in and one out.

mod days;
mod draw;
mod fence;
mod flag;

use serde_json::Value;

pub use days::cattle_days;

use crate::cli::document::{Node, Problem};

/// Answers the contract.
///
/// # Errors
/// Every problem of a document that cannot be used.
pub fn cattle(text: &str) -> Result<Value, Vec<Problem>> {
    let value: Value = serde_json::from_str(text).map_err(|e| vec![Problem::whole(format!("not JSON: {e}"))])?;
    let root = Node::root(&value);
    let kind = root.peek("kind");
    let answer = match kind.as_ref().and_then(Node::quiet_text) {
        Some("draw") => draw::draw(&root),
        Some("head-off") => fence::head_off(&root),
        Some("hold") => fence::hold(&root),
        Some("flag") => flag::flag(&root),
        _ => {
            match &kind {
                Some(kind) => kind.say("a kind is draw, head-off, hold or flag"),
                None => root.say("\"kind\" is missing"),
            }
            None
        }
    };
    let problems = root.problems();
    answer.filter(|_| problems.is_empty()).ok_or(problems)
}
