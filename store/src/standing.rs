//! What the core computed from a horse's log, kept until the log, the day, the posture or the model changes.

use std::collections::HashMap;

use chrono::NaiveDate;
use serde::Serialize;
use serde_json::Value;
use sqlx::{PgPool, types::Json};
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

/// The kept computations of those horses of which one was made from just this, as JSON that is still to be read: it is long.
pub async fn made_from(db: &PgPool, scope: &Scope, horses: &[(Uuid, &ComputedFrom)]) -> Result<HashMap<Uuid, String>> {
    let ids: Vec<Uuid> = horses.iter().map(|h| h.0).collect();
    let revisions: Vec<i64> = horses.iter().map(|h| h.1.revision).collect();
    let days: Vec<NaiveDate> = horses.iter().map(|h| h.1.as_of).collect();
    let with: Vec<String> = horses.iter().map(|h| h.1.computed_with.clone()).collect();
    let rows = sqlx::query!(
        r#"select s.horse_id, s.body::text as "body!"
         from unnest($2::uuid[], $3::bigint[], $4::date[], $5::text[]) f (horse_id, revision, as_of, computed_with)
         join standing s on s.barn_id = $1 and s.horse_id = f.horse_id and s.revision = f.revision and s.as_of = f.as_of
              and s.computed_with = f.computed_with"#,
        scope.of_seen(),
        &ids,
        &revisions,
        &days,
        &with
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.body)).collect())
}

/// The kept computation of a horse, whatever it was made from.
pub async fn latest(db: &PgPool, scope: &Scope, horse: Uuid) -> Result<Option<Value>> {
    Ok(sqlx::query_scalar!("select body from standing where barn_id = $1 and horse_id = $2", scope.of_seen(), horse)
        .fetch_optional(db)
        .await?)
}

/// Keeps a computation. An older revision never replaces a newer one.
pub async fn put(
    db: &PgPool,
    scope: &Scope,
    horse: Uuid,
    from: &ComputedFrom,
    body: &(impl Serialize + Sync),
) -> Result<()> {
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
        Json(body) as _
    )
    .execute(db)
    .await?;
    Ok(())
}
