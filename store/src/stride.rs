//! The strides of a horse, as they were measured.

use sqlx::PgPool;
use uuid::Uuid;

use crate::{Owned, Result, Scope, Update};

/// Strides, metres; none where it was not measured at that gait.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
#[allow(missing_docs)]
pub struct Strides {
    pub walk: Option<f64>,
    pub jog: Option<f64>,
    pub lope: Option<f64>,
    /// 0 where nothing was measured yet.
    pub version: i32,
}

/// The strides of a horse.
pub async fn get(db: &PgPool, scope: &Scope, horse: Uuid) -> Result<Strides> {
    let Owned { barn, owner } = scope.owned();
    let kept = sqlx::query_as!(
        Strides,
        "select s.walk, s.jog, s.lope, s.version from stride s join horse h on h.barn_id = s.barn_id and h.id = s.horse_id
         where s.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and s.horse_id = $3",
        barn,
        owner,
        horse
    );
    Ok(kept.fetch_optional(db).await?.unwrap_or_default())
}

/// Sets the strides of a horse if their version is still that of `to`, which is what they become.
pub async fn put(db: &PgPool, scope: &Scope, horse: Uuid, to: &Strides) -> Result<Update<Strides>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into stride (barn_id, horse_id, walk, jog, lope, version)
         select $1, $2, $4, $5, $6, 1 where exists (select from horse where barn_id = $1 and id = $2)
            and ($3 = 0 or exists (select from stride where barn_id = $1 and horse_id = $2))
         on conflict (barn_id, horse_id) do update set walk = excluded.walk, jog = excluded.jog, lope = excluded.lope,
            version = stride.version + 1 where stride.version = $3",
        barn,
        horse,
        to.version,
        to.walk,
        to.jog,
        to.lope
    )
    .execute(db)
    .await?
    .rows_affected();
    let kept = get(db, scope, horse).await?;
    let same = (kept.walk, kept.jog, kept.lope) == (to.walk, to.jog, to.lope);
    Ok(match kept {
        kept if done == 1 || kept.version > 0 && same => Update::Done(kept),
        kept if kept.version == 0 => Update::Missing,
        kept => Update::Stale(kept),
    })
}
