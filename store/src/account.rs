//! Accounts: the barns they are in, passwords, one-time codes, and the links by which people set a password or join a barn.

use cavesson_core::barn::Role;
use chrono::{DateTime, Utc};
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Result, Scope};

/// What sign-in needs to know of a person.
#[derive(Debug, Clone)]
#[allow(missing_docs)]
pub struct Account {
    /// The account itself; none for one of the demo's people.
    pub account: Option<Uuid>,
    pub barn_id: Uuid,
    /// Who it is in this barn.
    pub id: Uuid,
    pub name: String,
    pub email: String,
    pub password_hash: Option<String>,
    /// The key of the one-time codes, where they are asked for.
    pub code_key: Option<Vec<u8>>,
    /// The key of one-time codes that is offered and not yet proved.
    pub code_key_offered: Option<Vec<u8>>,
}

/// The account with this e-mail address, in the barn where it was last, if it may enter any.
pub async fn by_email(db: &PgPool, email: &str) -> Result<Option<Account>> {
    Ok(sqlx::query_as!(
        Account,
        r#"select a.id as "account?", p.barn_id, p.id, p.name, a.email, a.password_hash as "password_hash?", a.code_key,
                  a.code_key_offered
           from account a join person p on p.account_id = a.id
           where lower(a.email) = lower($1) and p.archived_at is null
           order by (p.barn_id = a.last_barn_id) is true desc, p.created_at, p.barn_id limit 1"#,
        email
    )
    .fetch_optional(db)
    .await?)
}

/// The account that joins the barn of a link: the one with its address, in whichever barns it is, or in none any more.
pub async fn to_join(db: &PgPool, link: &Link) -> Result<Option<Account>> {
    Ok(sqlx::query_as!(
        Account,
        r#"select a.id as "account?", p.barn_id, p.id, p.name, a.email, a.password_hash as "password_hash?", a.code_key,
                  a.code_key_offered
           from person p join account a on lower(a.email) = lower(p.email) where p.barn_id = $1 and p.id = $2"#,
        link.barn_id,
        link.person_id
    )
    .fetch_optional(db)
    .await?)
}

/// The account of whoever asks.
pub async fn own(db: &PgPool, scope: &Scope) -> Result<Account> {
    Ok(sqlx::query_as!(
        Account,
        r#"select a.id as "account?", p.barn_id, p.id, p.name, coalesce(a.email, p.email) as "email!",
                  a.password_hash as "password_hash?", a.code_key as "code_key?", a.code_key_offered as "code_key_offered?"
           from person p left join account a on a.id = p.account_id where p.barn_id = $1 and p.id = $2"#,
        scope.shared(),
        scope.person()
    )
    .fetch_one(db)
    .await?)
}

/// Who was asked to a barn by this address and cannot sign in yet: the barn and the person that were added last.
pub async fn invited(db: &PgPool, email: &str) -> Result<Option<(Uuid, Uuid)>> {
    let found = sqlx::query!(
        "select barn_id, id from person where lower(email) = lower($1) and account_id is null and archived_at is null
         order by created_at desc, barn_id limit 1",
        email
    )
    .fetch_optional(db)
    .await?;
    Ok(found.map(|p| (p.barn_id, p.id)))
}

/// A barn that an account may enter, and as what.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Membership {
    pub barn_id: Uuid,
    pub barn_name: String,
    pub person_id: Uuid,
    pub role: Role,
}

/// The barns of whoever asks, by name.
pub async fn barns(db: &PgPool, scope: &Scope) -> Result<Vec<Membership>> {
    Ok(sqlx::query_as!(
        Membership,
        r#"select p.barn_id, b.name as barn_name, p.id as person_id, p.role as "role: Role"
           from person own join person p on p.barn_id = own.barn_id and p.id = own.id or p.account_id = own.account_id
           join barn b on b.id = p.barn_id
           where own.barn_id = $1 and own.id = $2 and p.archived_at is null order by b.name, b.id"#,
        scope.shared(),
        scope.person()
    )
    .fetch_all(db)
    .await?)
}

/// Whether the account of a person is in another barn too.
pub async fn is_elsewhere(db: &PgPool, scope: &Scope, person: Uuid) -> Result<bool> {
    Ok(sqlx::query_scalar!(
        r#"select exists (select from person here join person there on there.account_id = here.account_id
                          where here.barn_id = $1 and here.id = $2 and there.barn_id <> $1) as "yes!""#,
        scope.staff()?,
        person
    )
    .fetch_one(db)
    .await?)
}

/// Sets the password of a person's account and ends every session of it but `kept`; false when there is no such account.
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
    let done = sqlx::query!(
        "update account set password_hash = $3
         where id = (select account_id from person where barn_id = $1 and id = $2)",
        barn,
        person,
        hash
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    end_sessions(tx, barn, person, kept).await?;
    Ok(done == 1)
}

/// Ends every session of a person's account but `kept`, in whichever barn.
pub(crate) async fn end_sessions(tx: &mut PgConnection, barn: Uuid, person: Uuid, kept: Option<Uuid>) -> Result<()> {
    sqlx::query!(
        "delete from session s using person own, person p
         where own.barn_id = $1 and own.id = $2
           and (p.barn_id = own.barn_id and p.id = own.id or p.account_id = own.account_id)
           and s.barn_id = p.barn_id and s.person_id = p.id and s.id is distinct from $3",
        barn,
        person,
        kept
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Makes the account of a person who has none yet, with their address.
pub(crate) async fn create(tx: &mut PgConnection, barn: Uuid, person: Uuid, email: &str, hash: &str) -> Result<()> {
    let account = sqlx::query_scalar!(
        "insert into account (email, password_hash, last_barn_id) values ($1, $2, $3) returning id",
        email,
        hash,
        barn
    )
    .fetch_one(&mut *tx)
    .await?;
    sqlx::query!("update person set account_id = $3 where barn_id = $1 and id = $2", barn, person, account)
        .execute(tx)
        .await?;
    Ok(())
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
    /// Whether the person cannot sign in to this barn yet.
    pub is_new: bool,
    /// Whether there is an account with their address, which has to be proved before it joins the barn.
    pub has_account: bool,
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
        r#"select l.barn_id, l.person_id, p.name, p.email, b.name as barn_name, p.account_id is null as "is_new!",
                  p.account_id is null and exists (select from account a where lower(a.email) = lower(p.email)) as "has_account!"
           from account_link l join person p on p.barn_id = l.barn_id and p.id = l.person_id join barn b on b.id = l.barn_id
           where l.token_hash = $1 and l.used_at is null and l.expires_at > now() and p.archived_at is null"#,
        token_hash
    )
    .fetch_optional(db)
    .await?)
}

/// Sets the password of a link's person, once: false when it was used meanwhile, or an account with their address was made. One-time
/// codes are off afterwards, and every session ends.
pub async fn use_link(db: &PgPool, token_hash: &[u8], link: &Link, hash: &str) -> Result<bool> {
    let mut tx = db.begin().await?;
    if !spend(&mut tx, token_hash).await? {
        return Ok(false);
    }
    if link.is_new {
        create(&mut tx, link.barn_id, link.person_id, &link.email, hash).await?;
    } else {
        write_password(&mut tx, link.barn_id, link.person_id, hash, None).await?;
        sqlx::query!(
            "update account set code_key = null, code_key_offered = null
             where id = (select account_id from person where barn_id = $1 and id = $2)",
            link.barn_id,
            link.person_id
        )
        .execute(&mut *tx)
        .await?;
    }
    tx.commit().await?;
    Ok(true)
}

/// Lets an account into the barn of a link, once: false when it was used meanwhile, or the account is someone else there already.
pub async fn join(db: &PgPool, token_hash: &[u8], link: &Link, account: Uuid) -> Result<bool> {
    let mut tx = db.begin().await?;
    if !spend(&mut tx, token_hash).await? {
        return Ok(false);
    }
    let joined = sqlx::query!(
        "update person set account_id = $3 where barn_id = $1 and id = $2 and account_id is null
           and not exists (select from person where barn_id = $1 and account_id = $3)",
        link.barn_id,
        link.person_id,
        account
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if joined == 0 {
        return Ok(false);
    }
    tx.commit().await?;
    Ok(true)
}

async fn spend(tx: &mut PgConnection, token_hash: &[u8]) -> Result<bool> {
    let used = sqlx::query!(
        "update account_link set used_at = now() where token_hash = $1 and used_at is null and expires_at > now()",
        token_hash
    )
    .execute(tx)
    .await?;
    Ok(used.rows_affected() == 1)
}

/// Offers a key of one-time codes; it counts once a code of it was given.
pub async fn offer_codes(db: &PgPool, scope: &Scope, key: &[u8]) -> Result<()> {
    sqlx::query!(
        "update account set code_key_offered = $3 where id = (select account_id from person where barn_id = $1 and id = $2)",
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
        "update account set code_key = code_key_offered, code_key_offered = null
         where id = (select account_id from person where barn_id = $1 and id = $2) and code_key_offered is not null",
        scope.shared(),
        scope.person()
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Asks for one-time codes no more.
pub async fn turn_codes_off(db: &PgPool, scope: &Scope) -> Result<()> {
    sqlx::query!(
        "update account set code_key = null where id = (select account_id from person where barn_id = $1 and id = $2)",
        scope.shared(),
        scope.person()
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Uses the code of a time step up: false when a code of this step or a later one was used before.
pub async fn use_code(db: &PgPool, account: Uuid, step: i64) -> Result<bool> {
    let done = sqlx::query!("update account set code_step = $2 where id = $1 and code_step < $2", account, step)
        .execute(db)
        .await?;
    Ok(done.rows_affected() == 1)
}
