//! Figures that a barn keeps, as text.

use sqlx::PgPool;
use uuid::Uuid;

use crate::{Put, Result, Scope, Update};

/// A figure that is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct KeptFigure {
    pub id: Uuid,
    pub name: String,
    pub body: String,
    pub archived: bool,
    pub version: i32,
}

/// Figures in use, latest first: the five hundred latest.
pub async fn list(db: &PgPool, scope: &Scope) -> Result<Vec<KeptFigure>> {
    Ok(sqlx::query_as!(
        KeptFigure,
        r#"select id, name, body, archived_at is not null as "archived!", version
           from figure where barn_id = $1 and archived_at is null order by created_at desc, id limit 500"#,
        scope.staff()?
    )
    .fetch_all(db)
    .await?)
}

/// One of them, archived or not.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<KeptFigure>> {
    Ok(sqlx::query_as!(
        KeptFigure,
        r#"select id, name, body, archived_at is not null as "archived!", version
           from figure where barn_id = $1 and id = $2"#,
        scope.staff()?,
        id
    )
    .fetch_optional(db)
    .await?)
}

/// Stores a new figure.
pub async fn put(db: &PgPool, scope: &Scope, id: Uuid, name: &str, body: &str) -> Result<Put> {
    let done = sqlx::query!(
        "insert into figure (barn_id, id, name, body) values ($1, $2, $3, $4) on conflict (barn_id, id) do nothing",
        scope.staff()?,
        id,
        name,
        body
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    Ok(Put::of_kept(get(db, scope, id).await?.map(|kept| kept.name == name && kept.body == body)))
}

/// Changes a figure if its version is still that of `to`, which is what it becomes.
pub async fn update(db: &PgPool, scope: &Scope, to: &KeptFigure) -> Result<Update<KeptFigure>> {
    let done = sqlx::query!(
        "update figure set name = $4, body = $5, archived_at = case when $6 then coalesce(archived_at, now()) end,
                version = version + 1
         where barn_id = $1 and id = $2 and version = $3",
        scope.staff()?,
        to.id,
        to.version,
        to.name,
        to.body,
        to.archived
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match get(db, scope, to.id).await? {
        Some(kept) if done == 1 => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}
