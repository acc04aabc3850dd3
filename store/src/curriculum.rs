//! What a barn made of the curriculum.

use cavesson_core::curriculum::{Change, DatedChange};
use chrono::{DateTime, Utc};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Owned, Put, Result, Scope, StoreError};

/// A change as it is kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct KeptChange {
    pub id: Uuid,
    /// The horse it holds for; none for the whole barn.
    pub horse_id: Option<Uuid>,
    pub dated: DatedChange,
    pub made_by: String,
    pub at: DateTime<Utc>,
}

/// How many changes the barn has made: the number that tells whether a curriculum is still the one that holds.
pub async fn revision(db: &PgPool, scope: &Scope) -> Result<i64> {
    Ok(sqlx::query_scalar!("select curriculum_revision from barn where id = $1", scope.shared()).fetch_one(db).await?)
}

/// Every change of the barn, in the order in which they were made; for an owner those that hold for all horses or for theirs.
pub async fn changes(db: &PgPool, scope: &Scope) -> Result<Vec<KeptChange>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select c.id, c.horse_id, c.holds_on, c.body, c.created_at, p.name from curriculum_change c
           join person p on p.barn_id = c.barn_id and p.id = c.made_by
           left join horse h on h.barn_id = c.barn_id and h.id = c.horse_id
           where c.barn_id = $1 and ($2::uuid is null or c.horse_id is null or h.owner_id = $2) order by c.position"#,
        barn,
        owner
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            let change: Change =
                serde_json::from_value(r.body).map_err(|e| StoreError::Unreadable(format!("a change: {e}")))?;
            let dated = DatedChange { on: r.holds_on, change };
            Ok(KeptChange { id: r.id, horse_id: r.horse_id, dated, made_by: r.name, at: r.created_at })
        })
        .collect()
}

/// Keeps changes, all or none. One that is there already under its id is passed over.
pub async fn put(db: &PgPool, scope: &Scope, horse: Option<Uuid>, changes: &[(Uuid, DatedChange)]) -> Result<Put> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let mut created = false;
    for (id, dated) in changes {
        let body = serde_json::to_value(&dated.change).map_err(|e| StoreError::Unreadable(e.to_string()))?;
        let done = sqlx::query!(
            "insert into curriculum_change (barn_id, id, horse_id, holds_on, body, made_by) values ($1, $2, $3, $4, $5, $6)
             on conflict (barn_id, id) do nothing",
            barn,
            id,
            horse,
            dated.on,
            body,
            scope.person()
        )
        .execute(&mut *tx)
        .await?;
        if done.rows_affected() == 1 {
            created = true;
            continue;
        }
        let same = sqlx::query_scalar!(
            r#"select body = $3 and holds_on = $4 as "same!" from curriculum_change where barn_id = $1 and id = $2"#,
            barn,
            id,
            body,
            dated.on
        )
        .fetch_one(&mut *tx)
        .await?;
        if !same {
            return Ok(Put::Taken);
        }
    }
    if created {
        sqlx::query!("update barn set curriculum_revision = curriculum_revision + 1 where id = $1", barn)
            .execute(&mut *tx)
            .await?;
    }
    tx.commit().await?;
    Ok(if created { Put::Created } else { Put::Same })
}
