//! Sets as wholes: what was counted in them, and who rode them.

use cavesson_core::{
    belief::Count,
    curriculum::{Gait, Side},
};
use serde_json::json;
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{
    Put, Result, Scope, StoreError,
    log::rep::{SetKey, put_set, touch},
};

/// Keeps what was counted in a set, on a rung that is not counted in reps. The ride must be of the scope's barn.
pub async fn put_count(db: &PgPool, scope: &Scope, set: &SetKey, count: &Count) -> Result<Put> {
    let mut tx = db.begin().await?;
    let put = put_count_in(&mut tx, scope, set, count).await?;
    if put == Put::Created {
        touch(&mut tx, scope, &[set.ride_id]).await?;
        tx.commit().await?;
    }
    Ok(put)
}

async fn put_count_in(tx: &mut PgConnection, scope: &Scope, set: &SetKey, count: &Count) -> Result<Put> {
    let body = serde_json::to_value(count).map_err(|e| StoreError::Unreadable(e.to_string()))?;
    match put_set(tx, scope, set).await? {
        Put::Created | Put::Same => {}
        other => return Ok(other),
    }
    let before =
        sqlx::query_scalar!("select count from ride_set where barn_id = $1 and id = $2 for update", scope.barn, set.id)
            .fetch_one(&mut *tx)
            .await?;
    match before {
        Some(before) if before == body => return Ok(Put::Same),
        Some(_) => return Ok(Put::Taken),
        None => {}
    }
    sqlx::query!("update ride_set set count = $3 where barn_id = $1 and id = $2", scope.barn, set.id, body)
        .execute(&mut *tx)
        .await?;
    Ok(Put::Created)
}

/// What was counted in sets of several rides, in order.
pub async fn counts_of_rides(db: &PgPool, scope: &Scope, rides: &[Uuid]) -> Result<Vec<(SetKey, Count)>> {
    let rows = sqlx::query!(
        r#"select id, ride_id, position, rung, gait as "gait: Gait", side as "side: Side", rider_id, cow, count as "count!"
           from ride_set
           where barn_id = $1 and ride_id = any($2) and count is not null order by ride_id, position, id"#,
        scope.barn,
        rides
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            let count = serde_json::from_value(r.count).map_err(|e| StoreError::Unreadable(format!("a count: {e}")))?;
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
            Ok((key, count))
        })
        .collect()
}

/// Gives a set that was ridden to another rider, and keeps who did that. False where there is no such set.
pub async fn give_set(db: &PgPool, scope: &Scope, set: Uuid, rider: Uuid) -> Result<bool> {
    let mut tx = db.begin().await?;
    let Some(row) = sqlx::query!(
        r#"select s.ride_id, r.horse_id, coalesce(s.rider_id, r.rider_id) as "rider!" from ride_set s
           join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
           where s.barn_id = $1 and s.id = $2 for update of s"#,
        scope.barn,
        set
    )
    .fetch_optional(&mut *tx)
    .await?
    else {
        return Ok(false);
    };
    if row.rider == rider {
        return Ok(true);
    }
    sqlx::query!("update ride_set set rider_id = $3 where barn_id = $1 and id = $2", scope.barn, set, rider)
        .execute(&mut *tx)
        .await?;
    sqlx::query!(
        "insert into set_change (barn_id, set_id, horse_id, person_id, before, after) values ($1, $2, $3, $4, $5, $6)",
        scope.barn,
        set,
        row.horse_id,
        scope.person,
        json!({ "rider_id": row.rider }),
        json!({ "rider_id": rider })
    )
    .execute(&mut *tx)
    .await?;
    touch(&mut tx, scope, &[row.ride_id]).await?;
    tx.commit().await?;
    Ok(true)
}
