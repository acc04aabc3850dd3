//! What the core computed from a horse's log, kept until the log, the day, the posture or the model changes.

use std::collections::HashMap;

use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Result, Scope};

/// What a kept computation was made from; good only while all of it is the same.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ComputedFrom {
    /// The horse's log revision.
    pub revision: i64,
    /// The day it speaks of.
    pub as_of: NaiveDate,
    /// Posture and model.
    pub computed_with: String,
}

/// The kept computations of the horses that have one.
pub async fn get_many(
    db: &PgPool,
    scope: &Scope,
    horses: &[Uuid],
) -> Result<HashMap<Uuid, (ComputedFrom, serde_json::Value)>> {
    let rows = sqlx::query!(
        "select horse_id, revision, as_of, computed_with, body from standing where barn_id = $1 and horse_id = any($2)",
        scope.of_seen(),
        horses
    )
    .fetch_all(db)
    .await?;
    Ok(rows
        .into_iter()
        .map(|r| {
            (
                r.horse_id,
                (ComputedFrom { revision: r.revision, as_of: r.as_of, computed_with: r.computed_with }, r.body),
            )
        })
        .collect())
}

/// Keeps a computation. An older revision never replaces a newer one.
pub async fn put(db: &PgPool, scope: &Scope, horse: Uuid, from: &ComputedFrom, body: &serde_json::Value) -> Result<()> {
    sqlx::query!(
        "insert into standing (barn_id, horse_id, revision, as_of, computed_with, body)
         values ($1, $2, $3, $4, $5, $6)
         on conflict (barn_id, horse_id) do update
         set revision = excluded.revision, as_of = excluded.as_of, computed_with = excluded.computed_with, body = excluded.body
         where standing.revision <= excluded.revision",
        scope.of_seen(),
        horse,
        from.revision,
        from.as_of,
        from.computed_with,
        body
    )
    .execute(db)
    .await?;
    Ok(())
}
