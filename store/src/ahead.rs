//! Leases on barns for which a server computes ahead: of several servers on one database one at a time does.

use sqlx::PgPool;
use uuid::Uuid;

use crate::Result;

/// Takes the lease on a barn, for ten minutes at most. False where another server has it.
pub async fn take(db: &PgPool, barn: Uuid) -> Result<bool> {
    let taken = sqlx::query!(
        "insert into ahead_lease as l (barn_id, until) values ($1, now() + interval '10 minutes')
         on conflict (barn_id) do update set until = excluded.until where l.until < now()",
        barn
    )
    .execute(db)
    .await?;
    Ok(taken.rows_affected() == 1)
}

/// Gives it back.
pub async fn give_back(db: &PgPool, barn: Uuid) -> Result<()> {
    sqlx::query!("delete from ahead_lease where barn_id = $1", barn).execute(db).await?;
    Ok(())
}
