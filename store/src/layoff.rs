//! Time off of horses, and when their work begins again.

use cavesson_core::load::{LayOff, OffReason};
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Owned, Put, Result, Scope, Update};

/// Time off as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct KeptLayOff {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub off_since: NaiveDate,
    pub back_on: NaiveDate,
    pub why: OffReason,
    pub vet_agrees: bool,
    /// What the vet said.
    pub vet_said: String,
    /// Taken for over, whatever its days.
    pub ended: bool,
    pub version: i32,
}

/// What can be set about time off.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct LayOffFields {
    pub layoff: LayOff,
    pub vet_said: String,
    pub ended: bool,
}

impl KeptLayOff {
    /// Its days, and why.
    pub fn layoff(&self) -> LayOff {
        LayOff { off_since: self.off_since, back_on: self.back_on, why: self.why, vet_agrees: self.vet_agrees }
    }

    fn fields(&self) -> LayOffFields {
        LayOffFields { layoff: self.layoff(), vet_said: self.vet_said.clone(), ended: self.ended }
    }
}

macro_rules! select_layoffs {
    ($where:literal, $($arg:expr),*) => {
        sqlx::query_as!(
            KeptLayOff,
            r#"select l.id, l.horse_id, l.off_since, l.back_on, l.why as "why: OffReason", l.vet_agrees, l.vet_said,
                      l.ended_at is not null as "ended!", l.version
               from layoff l join horse h on h.barn_id = l.barn_id and h.id = l.horse_id
               where l.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and "# + $where,
            $($arg),*
        )
    };
}

/// The times off of a horse, latest first.
pub async fn of_horse(db: &PgPool, scope: &Scope, horse: Uuid) -> Result<Vec<KeptLayOff>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_layoffs!("l.horse_id = $3 order by l.off_since desc, l.created_at desc, l.id", barn, owner, horse)
        .fetch_all(db)
        .await?)
}

/// The latest time off of each horse, where it was not taken for over.
pub async fn current(db: &PgPool, scope: &Scope) -> Result<Vec<KeptLayOff>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_layoffs!(
        "l.ended_at is null and not exists (
             select from layoff o where o.barn_id = l.barn_id and o.horse_id = l.horse_id
                    and (o.off_since, o.created_at, o.id) > (l.off_since, l.created_at, l.id))
         order by l.horse_id",
        barn,
        owner
    )
    .fetch_all(db)
    .await?)
}

/// One of them.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<KeptLayOff>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_layoffs!("l.id = $3", barn, owner, id).fetch_optional(db).await?)
}

/// Keeps new time off. The horse must be of the barn.
pub async fn put(db: &PgPool, scope: &Scope, horse: Uuid, id: Uuid, f: &LayOffFields) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into layoff (barn_id, id, horse_id, off_since, back_on, why, vet_agrees, vet_said, ended_at, made_by)
         select $1, $2, $3, $4, $5, $6, $7, $8, case when $9 then now() end, $10
         where exists (select from horse where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        horse,
        f.layoff.off_since,
        f.layoff.back_on,
        f.layoff.why.word(),
        f.layoff.vet_agrees,
        f.vet_said,
        f.ended,
        scope.person()
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let there = get(db, scope, id).await?;
    Ok(Put::of_kept(there.map(|l| l.horse_id == horse && l.fields() == *f)))
}

/// Changes time off if the version is still `version`.
pub async fn update(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    version: i32,
    f: &LayOffFields,
) -> Result<Update<KeptLayOff>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update layoff set off_since = $4, back_on = $5, why = $6, vet_agrees = $7, vet_said = $8,
                ended_at = case when $9 then coalesce(ended_at, now()) end, version = version + 1
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        id,
        version,
        f.layoff.off_since,
        f.layoff.back_on,
        f.layoff.why.word(),
        f.layoff.vet_agrees,
        f.vet_said,
        f.ended
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match get(db, scope, id).await? {
        Some(kept) if done == 1 => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}
