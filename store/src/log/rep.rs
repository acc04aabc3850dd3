//! Reps: logged, and read back with their sets.

use cavesson_core::{
    curriculum::{Gait, Side},
    response::{Answer, Outcome, Part, Rep, ResponseTime, Weight},
};
use chrono::{DateTime, Utc};
use sqlx::{PgConnection, PgExecutor, PgPool};
use uuid::Uuid;

use crate::{Put, Result, Scope, StoreError, log::revision::rides_changed};

/// A set: what was asked, and on which side.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct SetKey {
    pub id: Uuid,
    pub ride_id: Uuid,
    pub position: i32,
    pub rung: String,
    pub gait: Gait,
    pub side: Side,
    /// Who rode it, where that is not the ride's rider.
    pub rider_id: Option<Uuid>,
    /// Which cow, on cattle.
    pub cow: Option<String>,
}

/// A rep as it is logged.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct NewRep {
    pub id: Uuid,
    pub position: i32,
    pub rep: Rep,
    pub faults: Vec<String>,
    /// When the ask was, by the device's clock.
    pub asked_at: Option<DateTime<Utc>>,
}

/// A logged rep as it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct LoggedRep {
    pub id: Uuid,
    pub set_id: Uuid,
    pub position: i32,
    pub rep: Rep,
    pub faults: Vec<String>,
    pub asked_at: Option<DateTime<Utc>>,
    pub removed: bool,
    pub version: i32,
}

/// Logs a rep into a set of a ride, making the set when it is new. The ride must be of the scope's barn.
pub async fn put(db: &PgPool, scope: &Scope, set: &SetKey, new: &NewRep) -> Result<Put> {
    // Nearly all are new reps of sets that are there, on rides that are under way: those take one way to the database and back.
    if insert(db, scope, set, new, false).await? {
        return Ok(Put::Created);
    }
    let mut tx = db.begin().await?;
    let put = put_in(&mut tx, scope, set, new).await?;
    tx.commit().await?;
    Ok(put)
}

/// Inserts a new rep of a set that is there and counts up the revisions, on a ride that is under way or, where it is asked for, still
/// planned. False, and nothing done, where it is not such a rep.
async fn insert(db: impl PgExecutor<'_>, scope: &Scope, set: &SetKey, new: &NewRep, on_planned: bool) -> Result<bool> {
    let row = to_row(&new.rep);
    let done = sqlx::query!(
        "with on_ride as (
             select r.id, r.horse_id from ride_set s join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
             where s.barn_id = $1 and s.id = $3 and s.ride_id = $12 and s.rung = $13 and s.gait = $14 and s.side = $15
                   and ($16 or r.state <> 'planned')),
         logged as (
             insert into rep (barn_id, id, set_id, position, outcome, missing, weight, millis, faults, logged_by, asked_at)
             select $1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11 from on_ride on conflict (barn_id, id) do nothing returning id),
         counted as (
             insert into horse_revision as h (barn_id, horse_id, revision) select $1, horse_id, 1 from on_ride, logged
             on conflict (barn_id, horse_id) do update set revision = h.revision + 1 returning revision)
         insert into ride_revision (barn_id, ride_id, horse_id, revision) select $1, id, horse_id, revision from on_ride, counted
         on conflict (barn_id, ride_id) do update set revision = excluded.revision",
        scope.staff()?,
        new.id,
        set.id,
        new.position,
        row.outcome,
        row.missing,
        row.weight,
        row.millis,
        &new.faults,
        scope.person(),
        new.asked_at,
        set.ride_id,
        set.rung,
        set.gait.word(),
        set.side.word(),
        on_planned
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

async fn put_in(tx: &mut PgConnection, scope: &Scope, set: &SetKey, new: &NewRep) -> Result<Put> {
    match put_set(tx, scope, set).await? {
        Put::Created | Put::Same => {}
        other => return Ok(other),
    }
    if insert(&mut *tx, scope, set, new, true).await? {
        open(tx, scope, &[set.ride_id]).await?;
        return Ok(Put::Created);
    }
    let row = to_row(&new.rep);
    // A rep may have been corrected since it was first sent, so "the same" is told by its first form where one is kept.
    let same = sqlx::query_scalar!(
        r#"select set_id = $3 and (version > 1 or (outcome = $4 and missing is not distinct from $5 and weight = $6
                  and millis is not distinct from $7 and faults = $8 and position = $9)) as "same!" from rep where barn_id = $1 and id = $2"#,
        scope.staff()?,
        new.id,
        set.id,
        row.outcome,
        row.missing,
        row.weight,
        row.millis,
        &new.faults,
        new.position
    )
    .fetch_one(&mut *tx)
    .await?;
    Ok(if same { Put::Same } else { Put::Taken })
}

/// Stores a set, or finds that it is there.
pub(crate) async fn put_set(tx: &mut PgConnection, scope: &Scope, set: &SetKey) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into ride_set (barn_id, id, ride_id, position, rung, gait, side, rider_id, cow)
         select $1, $2, $3, $4, $5, $6, $7, $8, $9
         from (select from ride where barn_id = $1 and id = $3 for key share) r
         on conflict (barn_id, id) do nothing",
        barn,
        set.id,
        set.ride_id,
        set.position,
        set.rung,
        set.gait.word(),
        set.side.word(),
        set.rider_id,
        set.cow
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        note_steps(tx, barn, &[set.ride_id]).await?;
        return Ok(Put::Created);
    }
    let there =
        sqlx::query!("select ride_id, rung, gait, side from ride_set where barn_id = $1 and id = $2", barn, set.id)
            .fetch_optional(&mut *tx)
            .await?;
    Ok(match there {
        None => Put::Missing,
        Some(s)
            if s.ride_id == set.ride_id
                && s.rung == set.rung
                && s.gait == set.gait.word()
                && s.side == set.side.word() =>
        {
            Put::Same
        }
        Some(_) => Put::Taken,
    })
}

/// Notes on rides which steps their sets worked. Sets are only ever added, so this follows every one that is.
pub(crate) async fn note_steps(tx: &mut PgConnection, barn: Uuid, rides: &[Uuid]) -> Result<()> {
    sqlx::query!(
        "update ride r set steps = s.steps
         from (select ride_id, array_agg(distinct rung || '@' || gait) as steps from ride_set
               where barn_id = $1 and ride_id = any($2) group by ride_id) s
         where r.barn_id = $1 and r.id = s.ride_id",
        barn,
        rides
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Counts up the revisions of rides and their horses, and opens those rides that were only planned.
pub(crate) async fn touch(tx: &mut PgConnection, scope: &Scope, rides: &[Uuid]) -> Result<()> {
    rides_changed(tx, scope, rides).await?;
    open(tx, scope, rides).await
}

/// Opens those rides that were only planned.
pub(crate) async fn open(tx: &mut PgConnection, scope: &Scope, rides: &[Uuid]) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "update ride set state = 'open', missed = null, version = version + 1
         where barn_id = $1 and id = any($2) and state = 'planned'",
        barn,
        rides
    )
    .execute(&mut *tx)
    .await?;
    Ok(())
}

pub(crate) async fn get(tx: &mut PgConnection, scope: &Scope, id: Uuid) -> Result<LoggedRep> {
    let r = sqlx::query!(
        r#"select set_id, position, outcome as "outcome: Outcome", missing, weight as "weight: Weight", millis, faults, asked_at, removed_at is not null as "removed!",
                  version
           from rep where barn_id = $1 and id = $2"#,
        scope.of_seen(),
        id
    )
    .fetch_one(&mut *tx)
    .await?;
    let rep = from_row(r.outcome, r.missing, r.weight, r.millis)?;
    Ok(LoggedRep {
        id,
        set_id: r.set_id,
        position: r.position,
        rep,
        faults: r.faults,
        asked_at: r.asked_at,
        removed: r.removed,
        version: r.version,
    })
}

/// Sets and reps of several rides at once, in order; removed reps only where they are asked for.
pub async fn of_rides(
    db: &PgPool,
    scope: &Scope,
    rides: &[Uuid],
    removed: bool,
) -> Result<Vec<(SetKey, Vec<LoggedRep>)>> {
    let rows = sqlx::query!(
        r#"select s.id as set_id, s.ride_id, s.position as set_position, s.rung, s.gait as "gait: Gait",
                  s.side as "side: Side", s.rider_id, s.cow, rep.id, rep.position, rep.outcome as "outcome: Outcome", rep.missing,
                  rep.weight as "weight: Weight", rep.millis, rep.faults, rep.asked_at, rep.removed_at is not null as "removed!", rep.version
           from ride_set s join rep on rep.barn_id = s.barn_id and rep.set_id = s.id
           where s.barn_id = $1 and s.ride_id = any($2) and ($3 or rep.removed_at is null)
           order by s.ride_id, s.position, s.id, rep.position, rep.created_at, rep.id"#,
        scope.of_seen(),
        rides,
        removed
    )
    .fetch_all(db)
    .await?;
    let mut sets: Vec<(SetKey, Vec<LoggedRep>)> = vec![];
    for r in rows {
        let rep = LoggedRep {
            id: r.id,
            set_id: r.set_id,
            position: r.position,
            rep: from_row(r.outcome, r.missing, r.weight, r.millis)?,
            faults: r.faults,
            asked_at: r.asked_at,
            removed: r.removed,
            version: r.version,
        };
        match sets.last_mut().filter(|(key, _)| key.id == r.set_id) {
            Some((_, reps)) => reps.push(rep),
            None => {
                let key = SetKey {
                    id: r.set_id,
                    ride_id: r.ride_id,
                    position: r.set_position,
                    rung: r.rung,
                    gait: r.gait,
                    side: r.side,
                    rider_id: r.rider_id,
                    cow: r.cow,
                };
                sets.push((key, vec![rep]));
            }
        }
    }
    Ok(sets)
}

/// A rep as its columns.
pub(crate) struct Row {
    pub(crate) outcome: &'static str,
    pub(crate) missing: Option<i16>,
    pub(crate) weight: &'static str,
    pub(crate) millis: Option<i32>,
}

pub(crate) fn to_row(rep: &Rep) -> Row {
    let missing = match rep.answer {
        Answer::Tried { missing: Some(Part::First) } => Some(1),
        Answer::Tried { missing: Some(Part::Second) } => Some(2),
        _ => None,
    };
    // A time is at most an hour in milliseconds, so it fits.
    let millis = rep.time.and_then(|t| i32::try_from(t.get()).ok());
    Row { outcome: rep.answer.outcome().word(), missing, weight: rep.weight.word(), millis }
}

pub(crate) fn from_row(outcome: Outcome, missing: Option<i16>, weight: Weight, millis: Option<i32>) -> Result<Rep> {
    let part = missing.map(|m| if m == 1 { Part::First } else { Part::Second });
    let answer = Answer::of_outcome(outcome, part)
        .ok_or_else(|| StoreError::Unreadable(format!("a missing part on \"{outcome}\"")))?;
    let time = millis.and_then(|m| u32::try_from(m).ok()).and_then(|m| ResponseTime::new(m).ok());
    Ok(Rep { answer, weight, time })
}
