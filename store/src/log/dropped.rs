//! Planned rides that were taken off their day, and that come back when something logged on them arrives.
//!
//! A device without the network keeps reps for the ride as it knew it. Meanwhile a republished week may have moved or dropped that
//! ride. What was logged is not lost: the ride is put back on the day it was ridden on, where its trainer finds it.

use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Result, Scope};

/// Remembers planned rides that are about to be deleted.
pub(crate) async fn remember(tx: &mut PgConnection, scope: &Scope, rides: &[Uuid]) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into dropped_ride (barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, entered, note, signs, work, version,
                                   created_by, ground_id)
         select barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, entered, note, signs, work, version, created_by, ground_id
         from ride where barn_id = $1 and id = any($2)
         on conflict (barn_id, id) do update set rider_id = excluded.rider_id, ridden_on = excluded.ridden_on,
             starts_at = excluded.starts_at, place = excluded.place, ground_id = excluded.ground_id, note = excluded.note, signs = excluded.signs,
             version = excluded.version, dropped_at = now()",
        barn,
        rides
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Puts a ride back that was taken off its day. Nothing happens where there never was one.
pub(crate) async fn restore(db: &PgPool, scope: &Scope, id: Uuid) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into ride (barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, state, entered, note, signs, work, version,
                           created_by, ground_id)
         select barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, 'planned', entered, note, signs, work, version + 1,
                created_by, ground_id
         from dropped_ride where barn_id = $1 and id = $2
         on conflict (barn_id, id) do nothing",
        barn,
        id
    )
    .execute(db)
    .await?;
    Ok(())
}
