//! What others say that a horse knows.

use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Put, Result, Scope, log::revision::horse_changed};

/// A claim as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Claim {
    pub id: Uuid,
    pub step: String,
    pub said_by: String,
    pub said_on: NaiveDate,
}

/// Claims of a horse that were not taken back, oldest first.
pub async fn of_horse(db: &PgPool, scope: &Scope, horse: Uuid) -> Result<Vec<Claim>> {
    Ok(sqlx::query_as!(
        Claim,
        "select id, step, said_by, said_on from claim
         where barn_id = $1 and horse_id = $2 and removed_at is null order by created_at, id",
        scope.of_seen(),
        horse
    )
    .fetch_all(db)
    .await?)
}

/// The steps that horses are said to know, by horse.
pub async fn steps_of(db: &PgPool, scope: &Scope, horses: &[Uuid]) -> Result<Vec<(Uuid, String)>> {
    let rows = sqlx::query!(
        "select distinct horse_id, step from claim
         where barn_id = $1 and horse_id = any($2) and removed_at is null order by horse_id, step",
        scope.of_seen(),
        horses
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.step)).collect())
}

/// Keeps claims of a horse, all of them or none. The horse must be of the barn; one that is kept already is kept once.
pub async fn put_all(db: &PgPool, scope: &Scope, horse: Uuid, claims: &[Claim]) -> Result<Put> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let mut created = false;
    for claim in claims {
        let done = sqlx::query!(
            "insert into claim (barn_id, id, horse_id, step, said_by, said_on, made_by)
             select $1, $2, $3, $4, $5, $6, $7 where exists (select from horse where barn_id = $1 and id = $3)
             on conflict (barn_id, id) do nothing",
            barn,
            claim.id,
            horse,
            claim.step,
            claim.said_by,
            claim.said_on,
            scope.person()
        )
        .execute(&mut *tx)
        .await?
        .rows_affected();
        if done == 1 {
            created = true;
            continue;
        }
        let same = sqlx::query_scalar!(
            r#"select horse_id = $3 and step = $4 and said_by = $5 as "same!" from claim where barn_id = $1 and id = $2"#,
            barn,
            claim.id,
            horse,
            claim.step,
            claim.said_by
        )
        .fetch_optional(&mut *tx)
        .await?;
        match Put::of_kept(same) {
            Put::Same => {}
            refused => return Ok(refused),
        }
    }
    if created {
        // What is planned for the horse follows what it is said to know.
        horse_changed(&mut tx, scope, horse).await?;
    }
    tx.commit().await?;
    Ok(if created { Put::Created } else { Put::Same })
}

/// Takes a claim back. False where there is none.
pub async fn take_back(db: &PgPool, scope: &Scope, horse: Uuid, id: Uuid) -> Result<bool> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "update claim set removed_at = coalesce(removed_at, now()) where barn_id = $1 and horse_id = $2 and id = $3",
        barn,
        horse,
        id
    )
    .execute(&mut *tx)
    .await?;
    horse_changed(&mut tx, scope, horse).await?;
    tx.commit().await?;
    Ok(done.rows_affected() == 1)
}
