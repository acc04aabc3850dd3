//! What the demo's people wrote against and beside the calls.

use cavesson_core::advice::Call;
use cavesson_store::{
    Scope,
    claim::{self, Claim},
    trainer_input::{self, NewOverrule},
};
use chrono::{Days, NaiveDate};
use sqlx::PgPool;

use super::{
    id,
    people::{DELL, JUNE, MARA},
};

/// Horse, days ago, step, what the record said, what was called, why, and by whom.
const OVERRULES: [(&str, u64, &str, Call, Call, &str, &str); 4] = [
    ("Dusk", 33, "S1", Call::Advance, Call::Hold, "Good twice on good days; I want to see it on a bad one", MARA),
    ("Pilgrim", 29, "S6@stand", Call::Hold, Call::Advance, "He gives it to me from the ground every morning", JUNE),
    ("Wren", 31, "S5@stand", Call::Hold, Call::Advance, "Shoulders were there before she came", DELL),
    ("Biscuit", 8, "G8@stand", Call::Hold, Call::Advance, "The left will come with the walk", MARA),
];

/// Horse, days ago, who looked, what was found.
const FINDINGS: [(&str, u64, &str, &str); 2] = [
    ("Old Copper", 45, "dentist", "Hooks on the upper cheek teeth floated; back in the snaffle after three days"),
    ("Bramble", 9, "vet", "Splint cold and set. Walk a week, then short jogs; light work only for a month"),
];

/// What the demo's people wrote against and beside the calls.
pub(super) async fn load(db: &PgPool, scope: &Scope, today: NaiveDate) -> anyhow::Result<()> {
    for (n, (horse, ago, step, was, made, reason, who)) in OVERRULES.into_iter().enumerate() {
        let by = scope.for_person(id(who));
        let on = today - Days::new(ago);
        let new = NewOverrule { step: step.into(), was, made, reason: reason.into(), on };
        trainer_input::put_overrule(db, &by, id(horse), id(&format!("overrule {n}")), &new).await?;
    }
    let said = |step: &str| Claim {
        id: id(&format!("claim {step}")),
        step: step.into(),
        said_by: "Rhea Farrow, her owner".into(),
        said_on: today - Days::new(1),
    };
    claim::put_all(db, scope, id("Larkspur"), &["T2", "T1", "L2"].map(said)).await?;
    for (n, (horse, ago, looked, found)) in FINDINGS.into_iter().enumerate() {
        let on = today - Days::new(ago);
        trainer_input::put_finding(db, scope, id(horse), id(&format!("finding {n}")), on, looked, found).await?;
    }
    Ok(())
}
