//! Passwords, one-time codes, and the links by which people set a password.

use chrono::{DateTime, Utc};
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Result, Scope};

/// What sign-in needs to know of a person.
#[derive(Debug, Clone)]
#[allow(missing_docs)]
pub struct Account {
    pub barn_id: Uuid,
    pub id: Uuid,
    pub name: String,
    pub email: String,
    pub password_hash: Option<String>,
    /// The key of the one-time codes, where they are asked for.
    pub code_key: Option<Vec<u8>>,
    /// The key of one-time codes that is offered and not yet proved.
    pub code_key_offered: Option<Vec<u8>>,
}

/// The account with this e-mail address, if it is not archived.
pub async fn by_email(db: &PgPool, email: &str) -> Result<Option<Account>> {
    Ok(sqlx::query_as!(
        Account,
        "select barn_id, id, name, email, password_hash, code_key, code_key_offered from person
         where lower(email) = lower($1) and archived_at is null",
        email
    )
    .fetch_optional(db)
    .await?)
}

/// The account of whoever asks.
pub async fn own(db: &PgPool, scope: &Scope) -> Result<Account> {
    Ok(sqlx::query_as!(
        Account,
        "select barn_id, id, name, email, password_hash, code_key, code_key_offered from person
         where barn_id = $1 and id = $2",
        scope.shared(),
        scope.person()
    )
    .fetch_one(db)
    .await?)
}

/// Sets a password and ends every session of that person but `kept`; false when there is no such person.
pub async fn set_password(db: &PgPool, barn: Uuid, person: Uuid, hash: &str, kept: Option<Uuid>) -> Result<bool> {
    let mut tx = db.begin().await?;
    let done = write_password(&mut tx, barn, person, hash, kept).await?;
    tx.commit().await?;
    Ok(done)
}

async fn write_password(
    tx: &mut PgConnection,
    barn: Uuid,
    person: Uuid,
    hash: &str,
    kept: Option<Uuid>,
) -> Result<bool> {
    let done = sqlx::query!("update person set password_hash = $3 where barn_id = $1 and id = $2", barn, person, hash)
        .execute(&mut *tx)
        .await?
        .rows_affected();
    sqlx::query!(
        "delete from session where barn_id = $1 and person_id = $2 and id is distinct from $3",
        barn,
        person,
        kept
    )
    .execute(&mut *tx)
    .await?;
    Ok(done == 1)
}

/// A link that still holds.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Link {
    pub barn_id: Uuid,
    pub person_id: Uuid,
    pub name: String,
    pub email: String,
    pub barn_name: String,
    /// Whether the person has no password yet.
    pub is_new: bool,
}

/// Makes a link for a person who is not archived, good for two days, and ends those before it; when it runs out, or none when there is
/// no such person.
pub async fn make_link(
    db: &PgPool,
    barn: Uuid,
    person: Uuid,
    made_by: Option<Uuid>,
    token_hash: &[u8],
) -> Result<Option<DateTime<Utc>>> {
    let mut tx = db.begin().await?;
    sqlx::query!(
        "delete from account_link where barn_id = $1 and person_id = $2 or expires_at < now() - interval '30 days'",
        barn,
        person
    )
    .execute(&mut *tx)
    .await?;
    let made = sqlx::query_scalar!(
        "insert into account_link (token_hash, barn_id, person_id, made_by, expires_at)
         select $1, $2, $3, $4, now() + interval '2 days'
         where exists (select from person where barn_id = $2 and id = $3 and archived_at is null)
         returning expires_at",
        token_hash,
        barn,
        person,
        made_by
    )
    .fetch_optional(&mut *tx)
    .await?;
    tx.commit().await?;
    Ok(made)
}

/// The link with this token, if it was not used and has not run out.
pub async fn find_link(db: &PgPool, token_hash: &[u8]) -> Result<Option<Link>> {
    Ok(sqlx::query_as!(
        Link,
        r#"select l.barn_id, l.person_id, p.name, p.email, b.name as barn_name, p.password_hash is null as "is_new!"
           from account_link l join person p on p.barn_id = l.barn_id and p.id = l.person_id join barn b on b.id = l.barn_id
           where l.token_hash = $1 and l.used_at is null and l.expires_at > now() and p.archived_at is null"#,
        token_hash
    )
    .fetch_optional(db)
    .await?)
}

/// Sets the password of a link's person, once: false when it was used meanwhile. One-time codes are off afterwards, and every session
/// ends.
pub async fn use_link(db: &PgPool, token_hash: &[u8], link: &Link, hash: &str) -> Result<bool> {
    let mut tx = db.begin().await?;
    let used = sqlx::query!(
        "update account_link set used_at = now() where token_hash = $1 and used_at is null and expires_at > now()",
        token_hash
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if used == 0 {
        return Ok(false);
    }
    write_password(&mut tx, link.barn_id, link.person_id, hash, None).await?;
    sqlx::query!(
        "update person set code_key = null, code_key_offered = null where barn_id = $1 and id = $2",
        link.barn_id,
        link.person_id
    )
    .execute(&mut *tx)
    .await?;
    tx.commit().await?;
    Ok(true)
}

/// Offers a key of one-time codes; it counts once a code of it was given.
pub async fn offer_codes(db: &PgPool, scope: &Scope, key: &[u8]) -> Result<()> {
    sqlx::query!(
        "update person set code_key_offered = $3 where barn_id = $1 and id = $2",
        scope.shared(),
        scope.person(),
        key
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Asks for one-time codes from now on, with the key that was offered.
pub async fn turn_codes_on(db: &PgPool, scope: &Scope) -> Result<()> {
    sqlx::query!(
        "update person set code_key = code_key_offered, code_key_offered = null
         where barn_id = $1 and id = $2 and code_key_offered is not null",
        scope.shared(),
        scope.person()
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Asks for one-time codes no more.
pub async fn turn_codes_off(db: &PgPool, scope: &Scope) -> Result<()> {
    sqlx::query!("update person set code_key = null where barn_id = $1 and id = $2", scope.shared(), scope.person())
        .execute(db)
        .await?;
    Ok(())
}

/// Uses the code of a time step up: false when a code of this step or a later one was used before.
pub async fn use_code(db: &PgPool, barn: Uuid, person: Uuid, step: i64) -> Result<bool> {
    let done = sqlx::query!(
        "update person set code_step = $3 where barn_id = $1 and id = $2 and code_step < $3",
        barn,
        person,
        step
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}
