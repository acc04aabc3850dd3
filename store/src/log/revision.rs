//! How often what is known of a horse was changed. What was worked out of it names the revision, and no longer holds at the next.

use chrono::NaiveDate;
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Result, Scope};

/// A day of a horse.
pub type HorseDay = (Uuid, NaiveDate);

/// Something that is not of one ride was changed.
pub(crate) async fn horse_changed(tx: &mut PgConnection, scope: &Scope, horse: Uuid) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into horse_revision as h (barn_id, horse_id, revision) values ($1, $2, 1)
         on conflict (barn_id, horse_id) do update set revision = h.revision + 1",
        barn,
        horse
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Something in rides was changed: each tells at which revision of its horse. Horses are always counted up before their rides, and in
/// one order, so that two who write never wait for each other.
pub(crate) async fn rides_changed(tx: &mut PgConnection, scope: &Scope, rides: &[Uuid]) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "with changed as (select id, horse_id from ride where barn_id = $1 and id = any($2)),
         counted as (
             insert into horse_revision as h (barn_id, horse_id, revision)
             select $1, horse_id, 1 from (select distinct horse_id from changed order by horse_id) c
             on conflict (barn_id, horse_id) do update set revision = h.revision + 1
             returning horse_id, revision)
         insert into ride_revision (barn_id, ride_id, horse_id, revision)
         select $1, id, horse_id, revision from changed join counted using (horse_id) order by id
         on conflict (barn_id, ride_id) do update set revision = excluded.revision",
        barn,
        rides
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// The days of horses on which something was changed since a revision.
pub async fn changed_since(db: &PgPool, scope: &Scope, since: &[(Uuid, i64)]) -> Result<Vec<HorseDay>> {
    let (horses, revisions): (Vec<Uuid>, Vec<i64>) = since.iter().copied().unzip();
    let rows = sqlx::query!(
        "select distinct r.horse_id, r.ridden_on
         from unnest($2::uuid[], $3::bigint[]) k (horse_id, revision)
         join ride_revision v on v.barn_id = $1 and v.horse_id = k.horse_id and v.revision > k.revision
         join ride r on r.barn_id = v.barn_id and r.id = v.ride_id",
        scope.of_seen(),
        &horses,
        &revisions
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.ridden_on)).collect())
}

/// How far a horse was counted, and what its curriculum follows from.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct HorseRevision {
    pub horse_id: Uuid,
    pub revision: i64,
    /// Of the barn's curriculum.
    pub curriculum: i64,
    /// What the horse is like for good, with blanks between.
    pub traits: String,
}

/// The revision of each horse of the barn, by id.
pub async fn of_barn(db: &PgPool, scope: &Scope) -> Result<Vec<HorseRevision>> {
    Ok(sqlx::query_as!(
        HorseRevision,
        r#"select h.id as horse_id, coalesce(v.revision, 0) as "revision!", b.curriculum_revision as curriculum,
                  array_to_string(h.traits, ' ') as "traits!"
           from barn b join horse h on h.barn_id = b.id
           left join horse_revision v on v.barn_id = h.barn_id and v.horse_id = h.id
           where b.id = $1 order by h.id"#,
        scope.staff()?
    )
    .fetch_all(db)
    .await?)
}

/// Whether something was changed in rides before a day since these revisions of their horses.
pub async fn changed_before(db: &PgPool, scope: &Scope, since: &[(Uuid, i64)], day: NaiveDate) -> Result<bool> {
    let (horses, revisions): (Vec<Uuid>, Vec<i64>) = since.iter().copied().unzip();
    Ok(sqlx::query_scalar!(
        r#"select exists (
             select from unnest($2::uuid[], $3::bigint[]) k (horse_id, revision)
             join ride_revision v on v.barn_id = $1 and v.horse_id = k.horse_id and v.revision > k.revision
             join ride r on r.barn_id = v.barn_id and r.id = v.ride_id and r.ridden_on < $4) as "yes!""#,
        scope.staff()?,
        &horses,
        &revisions,
        day
    )
    .fetch_one(db)
    .await?)
}

/// The horses of the barn that were ridden before a day, by id, each with how many rides that were and the revision at which the last of
/// them changed: the same as long as nothing changes in them.
pub async fn ridden_before(db: &PgPool, scope: &Scope, day: NaiveDate) -> Result<Vec<(Uuid, i64, i64)>> {
    let barn = scope.staff()?;
    let rows = sqlx::query!(
        r#"select r.horse_id, count(*) as "rides!", coalesce(max(v.revision), 0) as "last!"
           from ride r left join ride_revision v on v.barn_id = r.barn_id and v.ride_id = r.id
           where r.barn_id = $1 and r.ridden_on < $2 and r.state <> 'planned' group by r.horse_id order by r.horse_id"#,
        barn,
        day
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.rides, r.last)).collect())
}

/// Up to where a barn was read: at another time it is the same only where nothing in the barn was changed since.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct BarnState {
    pub time_zone: String,
    /// The last transaction that changed something but reps; none for a barn that has not changed since such changes are noted.
    pub changed_by: Option<String>,
    /// Changes of all its horses, reps among them.
    pub revisions: i64,
}

/// Up to where the barn is changed now. Whatever is read after this has at least that in it.
pub async fn barn_state(db: &PgPool, scope: &Scope) -> Result<BarnState> {
    Ok(sqlx::query_as!(
        BarnState,
        r#"select b.time_zone, c.changed_by::text as changed_by,
                  (select coalesce(sum(revision), 0) from horse_revision h where h.barn_id = b.id)::bigint as "revisions!"
           from barn b left join barn_change c on c.barn_id = b.id where b.id = $1"#,
        scope.shared()
    )
    .fetch_one(db)
    .await?)
}
