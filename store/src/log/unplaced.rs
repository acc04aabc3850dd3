//! What was logged and could not land on its ride, kept whole until a trainer settles it.

use chrono::{DateTime, NaiveDate, Utc};
use serde_json::Value;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Page, Put, Result, Scope};

/// Asks or counts that found no ride.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct Unplaced {
    pub id: Uuid,
    pub kind: String,
    /// The ride it was meant for.
    pub ride_id: Uuid,
    /// The horse of that ride, where it is known.
    pub horse_id: Option<Uuid>,
    pub horse_name: Option<String>,
    /// The day that ride is on now.
    pub ride_on: Option<NaiveDate>,
    pub person_id: Uuid,
    pub person: String,
    /// The request as it was sent.
    pub body: Value,
    pub why: String,
    pub created_at: DateTime<Utc>,
}

/// What could not land.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct NewUnplaced<'a> {
    pub id: Uuid,
    pub kind: &'a str,
    pub ride_id: Uuid,
    /// Whose log it is; whoever sends it may be another.
    pub person_id: Uuid,
    pub body: &'a Value,
    pub why: &'a str,
}

/// Keeps what could not land. Sent again it is kept once. A person that is not of the barn violates a foreign key.
pub async fn put(db: &PgPool, scope: &Scope, new: &NewUnplaced<'_>) -> Result<Put> {
    let barn = scope.shared();
    let done = sqlx::query!(
        "insert into unplaced (barn_id, id, kind, ride_id, person_id, sent_by, body, why) values ($1, $2, $3, $4, $5, $6, $7, $8)
         on conflict (barn_id, id) do nothing",
        barn,
        new.id,
        new.kind,
        new.ride_id,
        new.person_id,
        scope.person(),
        new.body,
        new.why
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let same = sqlx::query_scalar!(
        r#"select (kind = $3 and ride_id = $4 and body = $5) as "same!" from unplaced where barn_id = $1 and id = $2"#,
        barn,
        new.id,
        new.kind,
        new.ride_id,
        new.body
    )
    .fetch_optional(db)
    .await?;
    Ok(Put::of_kept(same))
}

/// What waits to be placed, by the ride it was meant for and in the order in which it was logged.
pub async fn list(db: &PgPool, scope: &Scope, offset: i64, limit: i64) -> Result<Page<Unplaced>> {
    Ok(Page::of(select(db, scope, None, offset, limit + 1).await?, offset, limit))
}

/// Some of what waits to be placed, in its order.
pub async fn waiting(db: &PgPool, scope: &Scope, ids: &[Uuid]) -> Result<Vec<Unplaced>> {
    select(db, scope, Some(ids), 0, ids.len() as i64).await
}

/// What waits, all of it or some.
async fn select(db: &PgPool, scope: &Scope, ids: Option<&[Uuid]>, offset: i64, limit: i64) -> Result<Vec<Unplaced>> {
    let barn = scope.staff()?;
    Ok(sqlx::query_as!(
        Unplaced,
        r#"select u.id, u.kind, u.ride_id, h.id as "horse_id?", h.name as "horse_name?",
                  coalesce(r.ridden_on, d.ridden_on) as "ride_on?", u.person_id, p.name as person, u.body, u.why, u.created_at
           from unplaced u
           join person p on p.barn_id = u.barn_id and p.id = u.person_id
           left join ride r on r.barn_id = u.barn_id and r.id = u.ride_id
           left join dropped_ride d on d.barn_id = u.barn_id and d.id = u.ride_id
           left join horse h on h.barn_id = u.barn_id and h.id = coalesce(r.horse_id, d.horse_id)
           where u.barn_id = $1 and u.settled_at is null and ($4::uuid[] is null or u.id = any($4))
           order by u.ride_id, (u.body -> 'set' ->> 'position')::int, (u.body ->> 'position')::int, u.id offset $2 limit $3"#,
        barn,
        offset,
        limit,
        ids
    )
    .fetch_all(db)
    .await?)
}

/// Settles what waits: put on a ride, or discarded where there is none. How many were.
pub async fn settle(db: &PgPool, scope: &Scope, ids: &[Uuid], placed_on: Option<Uuid>) -> Result<u64> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update unplaced set placed_on = $3, settled_by = $4, settled_at = now()
         where barn_id = $1 and id = any($2) and settled_at is null",
        barn,
        ids,
        placed_on,
        scope.person()
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected())
}
