//! The rides of a week as they are kept: a document that says in which form it is.

use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::{Problem, http::schedule::response::WeekRide};

/// The form that this build writes and reads.
const FORMAT: u32 = 1;

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct WeekDocument {
    format: u32,
    rides: Vec<WeekRide>,
}

/// Rides as they are kept. What was ridden stands in the log and not in a plan.
pub(crate) fn write(rides: &[WeekRide]) -> Result<Value, Problem> {
    let rides = rides.iter().filter(|r| !r.ridden).cloned().collect();
    serde_json::to_value(WeekDocument { format: FORMAT, rides }).map_err(|_| Problem::broken())
}

/// Rides as they were kept.
///
/// # Errors
/// A document in another form: it is left as it is, and the error names it. An empty plan in its place would be saved over it.
pub(crate) fn read(kept: &Value) -> Result<Vec<WeekRide>, Problem> {
    let unreadable = |why: &dyn std::fmt::Display| Problem::unreadable("The plan of this week", why);
    match kept["format"].as_u64() {
        Some(format) if format == u64::from(FORMAT) => {}
        Some(format) => return Err(unreadable(&format!("format {format}, this build reads {FORMAT}"))),
        None => return Err(unreadable(&"it names no format")),
    }
    let document: WeekDocument = WeekDocument::deserialize(kept).map_err(|e| unreadable(&e))?;
    Ok(document.rides)
}
