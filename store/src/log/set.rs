//! Sets as wholes: who rode them, and which are there.

use serde_json::json;
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Put, Result, Scope, log::rep::touch};

/// Gives a set that was ridden to another rider, and keeps who did that. False where there is no such set.
pub async fn give_set(db: &PgPool, scope: &Scope, set: Uuid, rider: Uuid) -> Result<bool> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let Some(row) = sqlx::query!(
        r#"select s.ride_id, r.horse_id, coalesce(s.rider_id, r.rider_id) as "rider!" from ride_set s
           join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
           where s.barn_id = $1 and s.id = $2 for update of s"#,
        barn,
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
    sqlx::query!("update ride_set set rider_id = $3 where barn_id = $1 and id = $2", barn, set, rider)
        .execute(&mut *tx)
        .await?;
    sqlx::query!(
        "insert into set_change (barn_id, set_id, horse_id, person_id, before, after) values ($1, $2, $3, $4, $5, $6)",
        barn,
        set,
        row.horse_id,
        scope.person(),
        json!({ "rider_id": row.rider }),
        json!({ "rider_id": rider })
    )
    .execute(&mut *tx)
    .await?;
    touch(&mut tx, scope, &[row.ride_id]).await?;
    tx.commit().await?;
    Ok(true)
}

/// Which of these sets are stored already.
pub async fn stored(tx: &mut PgConnection, scope: &Scope, sets: &[Uuid]) -> Result<Vec<Uuid>> {
    let barn = scope.staff()?;
    Ok(sqlx::query_scalar!("select id from ride_set where barn_id = $1 and id = any($2)", barn, sets)
        .fetch_all(tx)
        .await?)
}

/// Notes that a text in shorthand is stored, inside the transaction that stores it. [`Put::Same`] where it was before, [`Put::Taken`]
/// where another text has its id.
pub async fn note_written(tx: &mut PgConnection, scope: &Scope, id: Uuid, digest: &[u8]) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into written (barn_id, id, digest, made_by) values ($1, $2, $3, $4) on conflict (barn_id, id) do nothing",
        barn,
        id,
        digest,
        scope.person()
    )
    .execute(&mut *tx)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let same = sqlx::query_scalar!(
        r#"select digest = $3 as "same!" from written where barn_id = $1 and id = $2"#,
        barn,
        id,
        digest
    )
    .fetch_optional(&mut *tx)
    .await?;
    Ok(Put::of_kept(same))
}
