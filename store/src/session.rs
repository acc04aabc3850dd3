//! Signed-in sessions, and failed sign-ins that slow guessing down.

use cavesson_core::barn::Role;
use sqlx::PgPool;
use uuid::Uuid;

use crate::Result;

/// Who a session belongs to.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct SessionPerson {
    pub barn_id: Uuid,
    pub person_id: Uuid,
    pub name: String,
    pub role: Role,
    pub csrf: String,
}

/// Opens a session for twelve hours under the hash of its token.
pub async fn open(db: &PgPool, token_hash: &[u8], barn: Uuid, person: Uuid, csrf: &str) -> Result<()> {
    sqlx::query!(
        "insert into session (token_hash, barn_id, person_id, csrf, expires_at)
         values ($1, $2, $3, $4, now() + interval '12 hours')",
        token_hash,
        barn,
        person,
        csrf
    )
    .execute(db)
    .await?;
    sqlx::query!("delete from session where expires_at < now()").execute(db).await?;
    Ok(())
}

/// The person of a session that has not run out.
pub async fn find(db: &PgPool, token_hash: &[u8]) -> Result<Option<SessionPerson>> {
    Ok(sqlx::query_as!(
        SessionPerson,
        r#"select s.barn_id, s.person_id, p.name, p.role as "role: Role", s.csrf
         from session s join person p on p.barn_id = s.barn_id and p.id = s.person_id
         where s.token_hash = $1 and s.expires_at > now() and p.archived_at is null"#,
        token_hash
    )
    .fetch_optional(db)
    .await?)
}

/// Ends one session.
pub async fn close(db: &PgPool, token_hash: &[u8]) -> Result<()> {
    sqlx::query!("delete from session where token_hash = $1", token_hash).execute(db).await?;
    Ok(())
}

/// Ends every session of a person.
pub async fn close_all(db: &PgPool, barn: Uuid, person: Uuid) -> Result<()> {
    sqlx::query!("delete from session where barn_id = $1 and person_id = $2", barn, person).execute(db).await?;
    Ok(())
}

/// Failed sign-ins on an account in the last quarter of an hour, and seconds since the latest.
pub async fn failures(db: &PgPool, account: &str) -> Result<(i64, f64)> {
    let row = sqlx::query!(
        r#"select count(*) as "n!", coalesce(extract(epoch from now() - max(at)), 0)::float8 as "since!"
           from sign_in_failure where account = $1 and at > now() - interval '15 minutes'"#,
        account
    )
    .fetch_one(db)
    .await?;
    Ok((row.n, row.since))
}

/// Notes a failed sign-in, and forgets those of yesterday.
pub async fn note_failure(db: &PgPool, account: &str) -> Result<()> {
    sqlx::query!("insert into sign_in_failure (account) values ($1)", account).execute(db).await?;
    sqlx::query!("delete from sign_in_failure where at < now() - interval '1 day'").execute(db).await?;
    Ok(())
}

/// Forgets an account's failures after it signed in.
pub async fn clear_failures(db: &PgPool, account: &str) -> Result<()> {
    sqlx::query!("delete from sign_in_failure where account = $1", account).execute(db).await?;
    Ok(())
}
