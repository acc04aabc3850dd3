//! Horses of a barn.

use cavesson_core::{
    advice::Posture,
    barn::{Sex, Trait},
};
use chrono::{DateTime, Utc};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Owned, Page, Put, Result, Scope, Update};

/// A horse.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Horse {
    pub id: Uuid,
    pub name: String,
    pub foaled: Option<i32>,
    pub sex: Option<Sex>,
    pub owner_id: Option<Uuid>,
    pub usual_rider_id: Option<Uuid>,
    /// The horse's own posture, where it is not the barn's.
    pub posture: Option<Posture>,
    /// What it is like for good.
    pub traits: Vec<Trait>,
    pub note: String,
    /// Counts up with everything that changes what is known of it.
    pub log_revision: i64,
    pub archived_at: Option<DateTime<Utc>>,
    pub version: i32,
}

/// What can be set about a horse.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct HorseFields {
    pub name: String,
    pub foaled: Option<i32>,
    pub sex: Option<Sex>,
    pub owner_id: Option<Uuid>,
    pub usual_rider_id: Option<Uuid>,
    pub posture: Option<Posture>,
    /// What it is like for good.
    pub traits: Vec<Trait>,
    pub note: String,
}

/// Horses by name.
pub async fn list(db: &PgPool, scope: &Scope, archived: bool, offset: i64, limit: i64) -> Result<Page<Horse>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query_as!(
        Horse,
        r#"select id, name, foaled, sex as "sex: Sex", owner_id, usual_rider_id, posture as "posture: Posture", traits as "traits: Vec<Trait>", note, archived_at, version,
                  coalesce((select v.revision from horse_revision v where v.barn_id = horse.barn_id and v.horse_id = horse.id), 0) as "log_revision!"
           from horse where barn_id = $1 and ($2::uuid is null or owner_id = $2) and (archived_at is not null) = $3
         order by name, id offset $4 limit $5"#,
        barn,
        owner,
        archived,
        offset,
        limit + 1
    )
    .fetch_all(db)
    .await?;
    Ok(Page::of(rows, offset, limit))
}

/// Horses that are in work, all of them, by name.
pub async fn in_work(db: &PgPool, scope: &Scope) -> Result<Vec<Horse>> {
    let Owned { barn, owner } = scope.owned();
    Ok(sqlx::query_as!(
        Horse,
        r#"select id, name, foaled, sex as "sex: Sex", owner_id, usual_rider_id, posture as "posture: Posture", traits as "traits: Vec<Trait>", note, archived_at, version,
                  coalesce((select v.revision from horse_revision v where v.barn_id = horse.barn_id and v.horse_id = horse.id), 0) as "log_revision!"
           from horse where barn_id = $1 and ($2::uuid is null or owner_id = $2) and archived_at is null
         order by name, id"#,
        barn,
        owner
    )
    .fetch_all(db)
    .await?)
}

/// One horse.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Horse>> {
    let Owned { barn, owner } = scope.owned();
    Ok(sqlx::query_as!(
        Horse,
        r#"select id, name, foaled, sex as "sex: Sex", owner_id, usual_rider_id, posture as "posture: Posture", traits as "traits: Vec<Trait>", note, archived_at, version,
                  coalesce((select v.revision from horse_revision v where v.barn_id = horse.barn_id and v.horse_id = horse.id), 0) as "log_revision!"
           from horse where barn_id = $1 and ($2::uuid is null or owner_id = $2) and id = $3"#,
        barn,
        owner,
        id
    )
    .fetch_optional(db)
    .await?)
}

/// Stores a new horse. A person that is not of the barn violates a foreign key, a name that a horse in work has the index `horse_name`.
pub async fn put(db: &PgPool, scope: &Scope, id: Uuid, f: &HorseFields) -> Result<Put> {
    let barn = scope.staff()?;
    let new = sqlx::query!(
        "insert into horse (barn_id, id, name, foaled, sex, owner_id, usual_rider_id, posture, note, traits)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) on conflict (barn_id, id) do nothing",
        barn,
        id,
        f.name,
        f.foaled,
        f.sex.map(Sex::word),
        f.owner_id,
        f.usual_rider_id,
        f.posture.map(Posture::word),
        f.note,
        &words(&f.traits)
    )
    .execute(db)
    .await?
    .rows_affected();
    if new == 1 {
        return Ok(Put::Created);
    }
    let there = get(db, scope, id).await?.map(|h| HorseFields {
        name: h.name,
        foaled: h.foaled,
        sex: h.sex,
        owner_id: h.owner_id,
        usual_rider_id: h.usual_rider_id,
        posture: h.posture,
        traits: h.traits,
        note: h.note,
    });
    Ok(if there.as_ref() == Some(f) { Put::Same } else { Put::Taken })
}

/// Changes a horse if the version is still `version`.
pub async fn update(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    version: i32,
    f: &HorseFields,
    archived: bool,
) -> Result<Update<Horse>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update horse set name = $4, foaled = $5, sex = $6, owner_id = $7, usual_rider_id = $8, posture = $9, note = $10, traits = $12,
                name_repeats = name_repeats and lower(name) = lower($4),
                archived_at = case when $11 then coalesce(archived_at, now()) end, version = version + 1
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        id,
        version,
        f.name,
        f.foaled,
        f.sex.map(Sex::word),
        f.owner_id,
        f.usual_rider_id,
        f.posture.map(Posture::word),
        f.note,
        archived,
        &words(&f.traits)
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match get(db, scope, id).await? {
        Some(horse) if done == 1 => Update::Done(horse),
        Some(horse) => Update::Stale(horse),
        None => Update::Missing,
    })
}

fn words(traits: &[Trait]) -> Vec<String> {
    traits.iter().map(|t| t.word().to_owned()).collect()
}

/// Horses that something is noted of that lasts, and what.
pub async fn traits(db: &PgPool, scope: &Scope) -> Result<Vec<(Uuid, Vec<Trait>)>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select id, traits as "traits: Vec<Trait>" from horse
           where barn_id = $1 and traits <> '{}' and ($2::uuid is null or owner_id = $2)"#,
        barn,
        owner
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.id, r.traits)).collect())
}
