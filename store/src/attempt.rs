//! Attempts to sign in, counted before the password is checked so that many at once count too, and the devices that are known.

use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::Result;

/// An attempt on an account.
#[derive(Debug, Clone, Copy)]
pub struct Attempt<'a> {
    /// The e-mail address, in small letters.
    pub account: &'a str,
    /// The hash of the device's token, where this account signed in on it before: it is counted by itself, so that
    /// strangers do not hold the owner of the account up.
    pub device: Option<&'a [u8]>,
    /// Where it comes from, if that is known.
    pub address: Option<&'a str>,
}

/// Whether an attempt may be made.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Turn {
    /// Now; it is counted under this number.
    Now(i64),
    /// In so many seconds.
    In(u64),
}

/// Wrong passwords for one account before it slows down.
const FREE_BY_ACCOUNT: i64 = 5;
/// Wrong passwords from one address, over all accounts, before it slows down.
const FREE_BY_ADDRESS: i64 = 40;
/// The longest wait, in seconds: at most some sixty guesses an hour.
const LONGEST_WAIT: f64 = 60.0;

/// Counts an attempt, if one may be made now. Attempts of the last quarter of an hour count; past the free ones the wait is 4 s and doubles
/// with each, up to a minute.
pub async fn begin(db: &PgPool, attempt: &Attempt<'_>) -> Result<Turn> {
    let mut tx = db.begin().await?;
    // Attempts at once are counted one after another.
    sqlx::query!("select pg_advisory_xact_lock(1, hashtext($1))", attempt.account).execute(&mut *tx).await?;
    if let Some(address) = attempt.address {
        sqlx::query!("select pg_advisory_xact_lock(2, hashtext($1))", address).execute(&mut *tx).await?;
    }
    let row = sqlx::query!(
        r#"select count(*) filter (where account = $1 and device is not distinct from $2) as "account!",
                  count(*) filter (where address = $3) as "address!",
                  coalesce(extract(epoch from now() - max(at) filter (where account = $1 and device is not distinct from $2)), 0)::float8
                      as "account_since!",
                  coalesce(extract(epoch from now() - max(at) filter (where address = $3)), 0)::float8 as "address_since!"
           from sign_in_attempt where at > now() - interval '15 minutes' and (account = $1 or address = $3)"#,
        attempt.account,
        attempt.device,
        attempt.address
    )
    .fetch_one(&mut *tx)
    .await?;
    let wait = wait(row.account - FREE_BY_ACCOUNT, row.account_since)
        .max(wait(row.address - FREE_BY_ADDRESS, row.address_since));
    if wait > 0.0 {
        return Ok(Turn::In(wait.ceil() as u64));
    }
    let id = insert(&mut tx, attempt).await?;
    tx.commit().await?;
    Ok(Turn::Now(id))
}

async fn insert(tx: &mut PgConnection, attempt: &Attempt<'_>) -> Result<i64> {
    Ok(sqlx::query_scalar!(
        "insert into sign_in_attempt (account, device, address) values ($1, $2, $3) returning id",
        attempt.account,
        attempt.device,
        attempt.address
    )
    .fetch_one(tx)
    .await?)
}

/// Seconds still to wait, of the wait that `past` attempts beyond the free ones ask for.
fn wait(past: i64, since: f64) -> f64 {
    if past < 0 { 0.0 } else { (4.0 * 2_f64.powi(past.min(4) as i32)).min(LONGEST_WAIT).max(since) - since }
}

/// The password was right: takes the attempt off the count, and the account's failures in the same place with it.
pub async fn succeeded(db: &PgPool, id: i64, attempt: &Attempt<'_>) -> Result<()> {
    sqlx::query!(
        "delete from sign_in_attempt where id = $1 or account = $2 and device is not distinct from $3
            or at < now() - interval '1 day'",
        id,
        attempt.account,
        attempt.device
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Takes an attempt off the count that guessed nothing. Failures before it stay: whoever knows a password and guesses at codes does not
/// begin anew by leaving the code out.
pub async fn withdraw(db: &PgPool, id: i64) -> Result<()> {
    sqlx::query!("delete from sign_in_attempt where id = $1", id).execute(db).await?;
    Ok(())
}

/// Whether an account signed in on this device before.
pub async fn knows_device(db: &PgPool, account: &str, device: &[u8]) -> Result<bool> {
    Ok(sqlx::query_scalar!(
        r#"select exists (select from known_device d join person p on p.barn_id = d.barn_id and p.id = d.person_id
                          join account a on a.id = p.account_id
                          where d.token_hash = $2 and lower(a.email) = lower($1)) as "yes!""#,
        account,
        device
    )
    .fetch_one(db)
    .await?)
}

/// Remembers a device, and forgets those that were not used for half a year.
pub async fn remember_device(db: &PgPool, barn: Uuid, person: Uuid, device: &[u8]) -> Result<()> {
    sqlx::query!(
        "insert into known_device (token_hash, barn_id, person_id) values ($1, $2, $3)
         on conflict (token_hash, barn_id, person_id) do update set seen_at = now()",
        device,
        barn,
        person
    )
    .execute(db)
    .await?;
    sqlx::query!("delete from known_device where seen_at < now() - interval '180 days'").execute(db).await?;
    Ok(())
}
