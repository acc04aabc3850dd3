//! Rides as they are put on a day, filled, changed, begun, closed, missed and taken off.

use cavesson_core::{
    barn::{EntryMethod, MissedReason},
    curriculum::Gait,
    load::GaitMinutes,
};
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use super::{NewRide, Ride, RideFields, get};
use crate::{
    Put, Result, Scope, Update,
    log::{dropped, revision::rides_changed},
};

/// The column of minutes at a gait.
fn at(minutes: Option<GaitMinutes>, gait: Gait) -> Option<i16> {
    minutes.map(|m| i16::try_from(m.at(gait)).unwrap_or(i16::MAX))
}

/// Notes why a planned ride was not ridden, or takes that back. False where there is no such ride that was not begun.
pub async fn set_missed(db: &PgPool, scope: &Scope, id: Uuid, why: Option<MissedReason>) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update ride set missed = $3, version = version + 1 where barn_id = $1 and id = $2 and state = 'planned'",
        barn,
        id,
        why.map(MissedReason::word)
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Stores a new ride, or fills a planned one with a ride entered afterwards under its id. The horse and the rider must be of the
/// barn and not archived.
pub async fn put(db: &mut sqlx::PgConnection, scope: &Scope, id: Uuid, new: &NewRide) -> Result<Put> {
    let barn = scope.staff()?;
    let known = sqlx::query_scalar!(
        r#"select exists (select from horse where barn_id = $1 and id = $2 and archived_at is null)
              and exists (select from person where barn_id = $1 and id = $3 and archived_at is null) as "yes!""#,
        barn,
        new.horse_id,
        new.rider_id
    )
    .fetch_one(&mut *db)
    .await?;
    if !known {
        return Ok(Put::Missing);
    }
    let done = sqlx::query!(
        // The only ground of a kind is the one that is meant.
        "insert into ride (barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, state, entered, note, signs,
                           bit, hot, created_by, closed_at, ground_id, stand_minutes, walk_minutes, jog_minutes, lope_minutes,
                           run_minutes)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, case when $8 = 'closed' then now() end,
                 coalesce($15, (select (array_agg(id))[1] from ground
                                where barn_id = $1 and place = $7 and archived_at is null having count(*) = 1)),
                 $16, $17, $18, $19, $20)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        new.horse_id,
        new.rider_id,
        new.ridden_on,
        new.starts_at,
        new.place.word(),
        new.state.word(),
        new.entered.word(),
        new.note,
        &new.signs,
        new.bit,
        new.hot,
        scope.person(),
        new.ground_id,
        at(new.minutes, Gait::Stand),
        at(new.minutes, Gait::Walk),
        at(new.minutes, Gait::Jog),
        at(new.minutes, Gait::Lope),
        at(new.minutes, Gait::Run)
    )
    .execute(&mut *db)
    .await?
    .rows_affected();
    if done == 1 {
        if !new.signs.is_empty() {
            rides_changed(db, scope, &[id]).await?;
        }
        return Ok(Put::Created);
    }
    if new.entered == EntryMethod::Afterwards && fill(db, scope, id, new).await? {
        return Ok(Put::Created);
    }
    // A ride that was ridden keeps its horse, day and way of entry for good, so these tell whether it is the same ride sent again.
    let same = sqlx::query_scalar!(
        r#"select horse_id = $3 and ridden_on = $4 and entered = $5 as "same!" from ride where barn_id = $1 and id = $2"#,
        barn,
        id,
        new.horse_id,
        new.ridden_on,
        new.entered.word()
    )
    .fetch_one(&mut *db)
    .await?;
    Ok(if same { Put::Same } else { Put::Taken })
}

/// Fills a planned ride of that horse and day with what was ridden. False where there is none under this id.
async fn fill(db: &mut PgConnection, scope: &Scope, id: Uuid, new: &NewRide) -> Result<bool> {
    let barn = scope.staff()?;
    let filled = sqlx::query!(
        "update ride set rider_id = $5, starts_at = coalesce($6, starts_at), place = $7, state = 'closed', entered = 'afterwards',
                note = $8, signs = $9, bit = coalesce($10, bit), hot = coalesce($11, hot), missed = null, closed_at = now(),
                ground_id = coalesce($12, case when place = $7 then ground_id end),
                stand_minutes = coalesce($13, stand_minutes), walk_minutes = coalesce($14, walk_minutes),
                jog_minutes = coalesce($15, jog_minutes), lope_minutes = coalesce($16, lope_minutes),
                run_minutes = coalesce($17, run_minutes), version = version + 1
         where barn_id = $1 and id = $2 and horse_id = $3 and ridden_on = $4 and state = 'planned'",
        barn,
        id,
        new.horse_id,
        new.ridden_on,
        new.rider_id,
        new.starts_at,
        new.place.word(),
        new.note,
        &new.signs,
        new.bit,
        new.hot,
        new.ground_id,
        at(new.minutes, Gait::Stand),
        at(new.minutes, Gait::Walk),
        at(new.minutes, Gait::Jog),
        at(new.minutes, Gait::Lope),
        at(new.minutes, Gait::Run)
    )
    .execute(&mut *db)
    .await?
    .rows_affected()
        == 1;
    if filled && !new.signs.is_empty() {
        rides_changed(db, scope, &[id]).await?;
    }
    Ok(filled)
}

/// Changes a ride if the version is still `version`. A ride that was ridden cannot become planned again.
pub async fn update(db: &PgPool, scope: &Scope, id: Uuid, version: i32, f: &RideFields) -> Result<Update<Ride>> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "update ride set rider_id = $4, starts_at = $5, place = $6, note = $8, signs = $9, bit = coalesce($10, bit), hot = coalesce($11, hot),
                ground_id = coalesce($17, case when place = $6 then ground_id end),
                stand_minutes = coalesce($12, stand_minutes), walk_minutes = coalesce($13, walk_minutes),
                jog_minutes = coalesce($14, jog_minutes), lope_minutes = coalesce($15, lope_minutes),
                run_minutes = coalesce($16, run_minutes), version = version + 1,
                state = case when state <> 'planned' and $7 = 'planned' then state else $7 end,
                missed = case when $7 = 'planned' then missed end,
                closed_at = case when $7 = 'closed' then coalesce(closed_at, now()) end
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        id,
        version,
        f.rider_id,
        f.starts_at,
        f.place.word(),
        f.state.word(),
        f.note,
        &f.signs,
        f.bit,
        f.hot,
        at(f.minutes, Gait::Stand),
        at(f.minutes, Gait::Walk),
        at(f.minutes, Gait::Jog),
        at(f.minutes, Gait::Lope),
        at(f.minutes, Gait::Run),
        f.ground_id
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        // Place, hands and signs are evidence too.
        rides_changed(&mut tx, scope, &[id]).await?;
    }
    tx.commit().await?;
    Ok(match get(db, scope, id).await? {
        Some(ride) if done == 1 => Update::Done(ride),
        Some(ride) => Update::Stale(ride),
        None => Update::Missing,
    })
}

/// Takes a planned ride off the day. Only one without sets: nothing that was ridden is deleted.
pub async fn drop_planned(db: &PgPool, scope: &Scope, id: Uuid) -> Result<bool> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    dropped::remember(&mut tx, scope, &[id]).await?;
    let done = sqlx::query!(
        "delete from ride r where r.barn_id = $1 and r.id = $2 and r.state = 'planned'
         and not exists (select from ride_set s where s.barn_id = r.barn_id and s.ride_id = r.id)",
        barn,
        id
    )
    .execute(&mut *tx)
    .await?;
    if done.rows_affected() == 1 {
        tx.commit().await?;
    }
    Ok(done.rows_affected() == 1)
}
