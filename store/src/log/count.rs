//! What was counted in sets, on rungs that are not counted in asks: logged, corrected and taken out, with a trace of it.

use cavesson_core::{
    count::Count,
    curriculum::{Gait, Side},
};
use chrono::{DateTime, Utc};
use serde_json::{Value, json};
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{
    Put, Result, Scope, StoreError, Update,
    log::rep::{SetKey, put_set, touch},
};

/// A count to keep. Its id is the set's.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct NewCount {
    pub count: Count,
    pub faults: Vec<String>,
    /// By the device's clock; only the time between asks is read from it.
    pub asked_at: Option<DateTime<Utc>>,
}

impl NewCount {
    /// A count without faults, at no known moment.
    pub fn plain(count: Count) -> NewCount {
        NewCount { count, faults: vec![], asked_at: None }
    }
}

/// A count as it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct LoggedCount {
    pub count: Count,
    pub faults: Vec<String>,
    pub asked_at: Option<DateTime<Utc>>,
    pub removed: bool,
    pub version: i32,
}

/// What a count is corrected to.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct CountCorrection {
    pub count: Count,
    pub faults: Vec<String>,
    pub removed: bool,
}

/// A count as the database keeps it.
pub(crate) fn to_json(count: &Count) -> Result<Value> {
    serde_json::to_value(count).map_err(|e| StoreError::Unreadable(e.to_string()))
}

/// A count from what the database keeps.
pub(crate) fn from_json(kept: Value) -> Result<Count> {
    serde_json::from_value(kept).map_err(|e| StoreError::Unreadable(format!("a count: {e}")))
}

/// Keeps what was counted in a set. The ride must be of the scope's barn.
pub async fn put(db: &PgPool, scope: &Scope, set: &SetKey, new: &NewCount) -> Result<Put> {
    let mut tx = db.begin().await?;
    let put = put_in(&mut tx, scope, set, new).await?;
    if put == Put::Created {
        touch(&mut tx, scope, &[set.ride_id]).await?;
        tx.commit().await?;
    }
    Ok(put)
}

async fn put_in(tx: &mut PgConnection, scope: &Scope, set: &SetKey, new: &NewCount) -> Result<Put> {
    let barn = scope.staff()?;
    let body = to_json(&new.count)?;
    match put_set(tx, scope, set).await? {
        Put::Created | Put::Same => {}
        other => return Ok(other),
    }
    let before = sqlx::query!(
        "select count, count_version from ride_set where barn_id = $1 and id = $2 for update",
        barn,
        set.id
    )
    .fetch_one(&mut *tx)
    .await?;
    match before.count {
        // A device that does not know of a correction sends what it logged again.
        Some(kept) if kept == body || before.count_version > 1 => return Ok(Put::Same),
        Some(_) => return Ok(Put::Taken),
        None => {}
    }
    sqlx::query!(
        "update ride_set set count = $3, count_faults = $4, counted_at = $5 where barn_id = $1 and id = $2",
        barn,
        set.id,
        body,
        &new.faults,
        new.asked_at
    )
    .execute(&mut *tx)
    .await?;
    Ok(Put::Created)
}

/// The set in which something was counted, with what it is counted on and by what version; `None` where nothing was.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<(SetKey, LoggedCount)>> {
    Ok(read(db, scope, &[], &[id], true).await?.pop())
}

/// What was counted in sets of several rides, in order; what was taken out only where it is asked for.
pub async fn of_rides(db: &PgPool, scope: &Scope, rides: &[Uuid], removed: bool) -> Result<Vec<(SetKey, LoggedCount)>> {
    read(db, scope, rides, &[], removed).await
}

async fn read(
    db: &PgPool,
    scope: &Scope,
    rides: &[Uuid],
    sets: &[Uuid],
    removed: bool,
) -> Result<Vec<(SetKey, LoggedCount)>> {
    let rows = sqlx::query!(
        r#"select id, ride_id, position, rung, gait as "gait: Gait", side as "side: Side", rider_id, cow, count as "count!",
                  count_faults, counted_at, count_removed_at is not null as "removed!", count_version
           from ride_set
           where barn_id = $1 and (ride_id = any($2) or id = any($3)) and count is not null
                 and ($4 or count_removed_at is null)
           order by ride_id, position, id"#,
        scope.of_seen(),
        rides,
        sets,
        removed
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            let key = SetKey {
                id: r.id,
                ride_id: r.ride_id,
                position: r.position,
                gait: r.gait,
                side: r.side,
                rung: r.rung,
                rider_id: r.rider_id,
                cow: r.cow,
            };
            let logged = LoggedCount {
                count: from_json(r.count)?,
                faults: r.count_faults,
                asked_at: r.counted_at,
                removed: r.removed,
                version: r.count_version,
            };
            Ok((key, logged))
        })
        .collect()
}

/// Corrects, takes out or restores a count, and keeps who did it and what it was before.
pub async fn correct(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    version: i32,
    to: &CountCorrection,
) -> Result<Update<LoggedCount>> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let Some(row) = sqlx::query!(
        r#"select s.ride_id, r.horse_id, s.count as "count!", s.count_faults, s.counted_at,
                  s.count_removed_at is not null as "removed!", s.count_version
           from ride_set s join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
           where s.barn_id = $1 and s.id = $2 and s.count is not null for update of s"#,
        barn,
        id
    )
    .fetch_optional(&mut *tx)
    .await?
    else {
        return Ok(Update::Missing);
    };
    let before = LoggedCount {
        count: from_json(row.count)?,
        faults: row.count_faults,
        asked_at: row.counted_at,
        removed: row.removed,
        version: row.count_version,
    };
    if before.version != version {
        return Ok(Update::Stale(before));
    }
    sqlx::query!(
        "update ride_set set count = $3, count_faults = $4, count_version = count_version + 1,
                count_removed_at = case when $5 then coalesce(count_removed_at, now()) end
         where barn_id = $1 and id = $2",
        barn,
        id,
        to_json(&to.count)?,
        &to.faults,
        to.removed
    )
    .execute(&mut *tx)
    .await?;
    let after = LoggedCount {
        count: to.count.clone(),
        faults: to.faults.clone(),
        removed: to.removed,
        version: version + 1,
        ..before.clone()
    };
    sqlx::query!(
        "insert into set_change (barn_id, set_id, horse_id, person_id, before, after) values ($1, $2, $3, $4, $5, $6)",
        barn,
        id,
        row.horse_id,
        scope.person(),
        told(&before)?,
        told(&after)?
    )
    .execute(&mut *tx)
    .await?;
    touch(&mut tx, scope, &[row.ride_id]).await?;
    tx.commit().await?;
    Ok(Update::Done(after))
}

fn told(count: &LoggedCount) -> Result<Value> {
    Ok(json!({ "count": to_json(&count.count)?, "faults": count.faults, "removed": count.removed }))
}
