//! Signed-in sessions.

use cavesson_core::barn::Role;
use chrono::{DateTime, Utc};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Result, Scope, account};

/// Who a session belongs to.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct SessionPerson {
    pub id: Uuid,
    pub barn_id: Uuid,
    pub person_id: Uuid,
    pub name: String,
    pub role: Role,
    pub csrf: String,
    /// Whether the password was given within the last ten minutes.
    pub confirmed: bool,
    pub seen_at: DateTime<Utc>,
}

/// How long a session lasts, and whether it asks for the password again.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SessionKind {
    /// Half an hour without use, twelve hours at most.
    Office,
    /// A device that stays in the barn: a month without use, ninety days at most.
    BarnPhone,
    /// The demo's people: they have no password to be asked for.
    Demo,
}

impl SessionKind {
    /// That of someone who signs in with a password: on a device that stays in the barn, or on any other.
    pub fn on_device(stays_in_barn: bool) -> SessionKind {
        if stays_in_barn { SessionKind::BarnPhone } else { SessionKind::Office }
    }
}

/// A session to open.
#[derive(Debug, Clone, Copy)]
#[allow(missing_docs)]
pub struct NewSession<'a> {
    pub token_hash: &'a [u8],
    pub barn: Uuid,
    pub person: Uuid,
    pub csrf: &'a str,
    pub kind: SessionKind,
    pub device: &'a str,
}

/// Opens a session under the hash of its token, and forgets those that ran out.
pub async fn open(db: &PgPool, new: &NewSession<'_>) -> Result<()> {
    let stays = new.kind != SessionKind::Office;
    sqlx::query!(
        "insert into session (token_hash, barn_id, person_id, csrf, device, barn_phone, expires_at, confirmed_at)
         values ($1, $2, $3, $4, $5, $6, now() + case when $6 then interval '90 days' else interval '12 hours' end,
                 case when $7 then 'infinity' else now() end)",
        new.token_hash,
        new.barn,
        new.person,
        new.csrf,
        new.device,
        stays,
        new.kind == SessionKind::Demo
    )
    .execute(db)
    .await?;
    sqlx::query!(
        "update account set last_barn_id = $1 where last_barn_id is distinct from $1
           and id = (select account_id from person where barn_id = $1 and id = $2)",
        new.barn,
        new.person
    )
    .execute(db)
    .await?;
    sqlx::query!(
        "delete from session where expires_at < now()
            or seen_at < now() - case when barn_phone then interval '30 days' else interval '30 minutes' end"
    )
    .execute(db)
    .await?;
    Ok(())
}

/// The person of a session that has not run out, neither for good nor for want of use.
pub async fn find(db: &PgPool, token_hash: &[u8]) -> Result<Option<SessionPerson>> {
    Ok(sqlx::query_as!(
        SessionPerson,
        r#"select s.id, s.barn_id, s.person_id, p.name, p.role as "role: Role", s.csrf, s.seen_at,
                  s.confirmed_at > now() - interval '10 minutes' as "confirmed!"
         from session s join person p on p.barn_id = s.barn_id and p.id = s.person_id
         where s.token_hash = $1 and s.expires_at > now() and p.archived_at is null
           and s.seen_at > now() - case when s.barn_phone then interval '30 days' else interval '30 minutes' end"#,
        token_hash
    )
    .fetch_optional(db)
    .await?)
}

/// Notes that a session is in use.
pub async fn seen(db: &PgPool, id: Uuid) -> Result<()> {
    sqlx::query!("update session set seen_at = now() where id = $1", id).execute(db).await?;
    Ok(())
}

/// Notes that the password was given again.
pub async fn confirm(db: &PgPool, id: Uuid) -> Result<()> {
    sqlx::query!("update session set confirmed_at = greatest(confirmed_at, now()) where id = $1", id)
        .execute(db)
        .await?;
    Ok(())
}

/// A session as its person sees it in the list of their devices.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Device {
    pub id: Uuid,
    pub device: String,
    pub barn_phone: bool,
    pub created_at: DateTime<Utc>,
    pub seen_at: DateTime<Utc>,
}

/// Where a person is signed in, the latest used first.
pub async fn of_person(db: &PgPool, scope: &Scope) -> Result<Vec<Device>> {
    Ok(sqlx::query_as!(
        Device,
        "select s.id, s.device, s.barn_phone, s.created_at, s.seen_at from session s
         join person p on p.barn_id = s.barn_id and p.id = s.person_id
         join person own on p.barn_id = own.barn_id and p.id = own.id or p.account_id = own.account_id
         where own.barn_id = $1 and own.id = $2 and s.expires_at > now()
           and s.seen_at > now() - case when s.barn_phone then interval '30 days' else interval '30 minutes' end
         order by s.seen_at desc, s.id limit 200",
        scope.shared(),
        scope.person()
    )
    .fetch_all(db)
    .await?)
}

/// Ends one session of the person who asks; false when they have none with this id.
pub async fn end(db: &PgPool, scope: &Scope, id: Uuid) -> Result<bool> {
    let done = sqlx::query!(
        "delete from session s using person own, person p
         where own.barn_id = $1 and own.id = $2
           and (p.barn_id = own.barn_id and p.id = own.id or p.account_id = own.account_id)
           and s.barn_id = p.barn_id and s.person_id = p.id and s.id = $3",
        scope.shared(),
        scope.person(),
        id
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Ends one session.
pub async fn close(db: &PgPool, token_hash: &[u8]) -> Result<()> {
    sqlx::query!("delete from session where token_hash = $1", token_hash).execute(db).await?;
    Ok(())
}

/// Ends every session of a person, in whichever barn.
pub async fn close_all(db: &PgPool, barn: Uuid, person: Uuid) -> Result<()> {
    account::end_sessions(&mut *db.acquire().await?, barn, person, None).await
}

/// Takes a session to another barn of its account; false where the account may not enter it.
pub async fn enter(db: &PgPool, scope: &Scope, id: Uuid, barn: Uuid) -> Result<bool> {
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "update session s set barn_id = there.barn_id, person_id = there.id
         from person own join person there on there.account_id = own.account_id
         where own.barn_id = $1 and own.id = $2 and s.barn_id = own.barn_id and s.person_id = own.id and s.id = $3
           and there.barn_id = $4 and there.archived_at is null",
        scope.shared(),
        scope.person(),
        id,
        barn
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    sqlx::query!(
        "update account set last_barn_id = $3 where $4 and id = (select account_id from person where barn_id = $1 and id = $2)",
        scope.shared(),
        scope.person(),
        barn,
        done == 1
    )
    .execute(&mut *tx)
    .await?;
    tx.commit().await?;
    Ok(done == 1)
}
