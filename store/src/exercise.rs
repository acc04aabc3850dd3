//! What came of exercises on rides, as devices log it.

use cavesson_core::exercise::ExerciseEvent;
use chrono::NaiveDate;
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

use crate::{
    Owned, Result, Scope,
    ride_event::{KeptEvent, NewEvent, PutEvent, events_of, put_event, put_events},
};

/// An event as it is kept.
pub type KeptExercise = KeptEvent<ExerciseEvent>;
/// An event to keep.
pub type NewExercise = NewEvent<ExerciseEvent>;

/// What came of exercises on horses' rides of days from one to another, both included, in order.
pub async fn of_horses(
    db: &PgPool,
    scope: &Scope,
    horses: &[Uuid],
    [from, to]: [NaiveDate; 2],
) -> Result<Vec<KeptExercise>> {
    let Owned { barn, owner } = scope.owned();
    Ok(events_of!(
        db,
        "exercise_event",
        "ExerciseEvent",
        "r.horse_id = any($3) and r.ridden_on between $4 and $5",
        barn,
        owner,
        horses,
        from,
        to
    )
    .await?)
}

/// Keeps an event of a ride, or a later version of it. The same sent twice is kept once, in whichever order versions come.
pub async fn put(db: &PgPool, scope: &Scope, ride: Uuid, id: Uuid, new: &NewExercise) -> Result<PutEvent> {
    Ok(put_event!(db, scope, "exercise_event", "ExerciseEvent", ride, id, new))
}

/// Keeps what came of exercises on many rides at once, each by its ride and its id; what is known already stays as it is.
pub async fn put_all(db: &PgPool, scope: &Scope, all: &[(Uuid, Uuid, NewExercise)]) -> Result<()> {
    put_events!(db, scope, "exercise_event", all);
    Ok(())
}
