//! What to do about a fault, there and then: where it likely comes from on this horse today, and the rung to go to.

use std::collections::BTreeMap;

use cavesson_core::{
    advice::{FAULT_WINDOW_DAYS, FaultCounts, causes, owned_by_sides, remedy_in_words},
    curriculum::{Fault, StepIx},
};
use cavesson_store::log::{evidence, ride::Ride};
use chrono::Days;
use serde::Serialize;
use utoipa::ToSchema;

use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        book::Book,
        standing::{
            asked, remedies_at_hand,
            response::{StandingOut, StepStanding},
        },
    },
};

/// What to do about the fault of the last ask.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RemedyOut {
    fault: String,
    says: String,
    /// The step to go to, where a cause is likely enough.
    step: Option<String>,
}

/// A fault, and where it likely comes from, where a cause is likely enough.
pub(super) struct Remedy<'b> {
    pub(super) fault: &'b Fault,
    pub(super) step: Option<StepIx>,
    says: String,
}

impl Remedy<'_> {
    pub(super) fn told(self, book: &Book) -> RemedyOut {
        RemedyOut {
            fault: self.fault.tag.clone(),
            says: self.says,
            step: self.step.map(|step| book.course.step(step).id.clone()),
        }
    }
}

/// The remedy for the first fault of an ask.
pub(super) async fn remedy<'b>(
    app: &App,
    signed: &SignedIn,
    ride: &Ride,
    book: &'b Book,
    known: Option<&StandingOut>,
    (at, faults): (StepIx, &[String]),
) -> Result<Option<Remedy<'b>>, Problem> {
    let Some(fault) = faults.iter().find_map(|tag| book.curriculum.fault(tag)) else { return Ok(None) };
    let since = ride.ridden_on - Days::new(FAULT_WINDOW_DAYS);
    let lately = evidence::faults(&app.db, &signed.scope, &[ride.horse_id], since).await?;
    let remedies = remedies_at_hand(app, &signed.scope);
    let counts = FaultCounts::of(&asked(&lately)).with_remedies(remedies);
    let owned = reached(known, book);
    let go_to = book.curriculum.remedies(fault, &book.course.step(at).rung);
    let found = causes(&book.course, &owned, &counts, &fault.tag, &go_to, at);
    let cause = found.first().filter(|c| c.is_told());
    Ok(Some(Remedy { fault, says: remedy_in_words(&book.course, fault, cause), step: cause.map(|c| c.step) }))
}

/// How likely each step that the horse has reached is owned on its weaker side, as was known before the ride.
fn reached(known: Option<&StandingOut>, book: &Book) -> BTreeMap<StepIx, f64> {
    let steps = known.iter().flat_map(|k| &k.steps);
    let owned = |s: &StepStanding| owned_by_sides(s.sides.iter().map(|side| side.ready));
    steps.filter_map(|s| Some((book.course.find(&s.id)?, owned(s)))).collect()
}
