//! The barn's own places to ride.

use cavesson_core::{
    barn::{Ground, Surface},
    curriculum::Place,
};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Put, Result, Scope, Update};

/// A ground as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct KeptGround {
    pub id: Uuid,
    pub name: String,
    pub place: Place,
    pub surface: Surface,
    /// Centimetres.
    pub length_cm: Option<i32>,
    /// Centimetres.
    pub width_cm: Option<i32>,
    pub archived: bool,
    pub version: i32,
}

/// What can be set about a ground.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct GroundFields {
    pub name: String,
    pub ground: Ground,
}

impl KeptGround {
    /// Its kind, surface and size.
    pub fn ground(&self) -> Ground {
        let size = self.length_cm.zip(self.width_cm).map(|(l, w)| (l.unsigned_abs(), w.unsigned_abs()));
        Ground { place: self.place, surface: self.surface, size }
    }
}

/// Grounds in use, from the smallest kind outward and by name.
pub async fn list(db: &PgPool, scope: &Scope) -> Result<Vec<KeptGround>> {
    Ok(sqlx::query_as!(
        KeptGround,
        r#"select id, name, place as "place: Place", surface as "surface: Surface", length_cm, width_cm,
                  archived_at is not null as "archived!", version
           from ground where barn_id = $1 and archived_at is null
           order by array_position(array['round-pen', 'arena', 'outside', 'trail'], place), name, id"#,
        scope.shared()
    )
    .fetch_all(db)
    .await?)
}

/// Some of them, archived or not.
pub async fn several(db: &PgPool, scope: &Scope, ids: &[Uuid]) -> Result<Vec<KeptGround>> {
    Ok(sqlx::query_as!(
        KeptGround,
        r#"select id, name, place as "place: Place", surface as "surface: Surface", length_cm, width_cm,
                  archived_at is not null as "archived!", version
           from ground where barn_id = $1 and id = any($2)"#,
        scope.shared(),
        ids
    )
    .fetch_all(db)
    .await?)
}

/// One of them, archived or not.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<KeptGround>> {
    Ok(several(db, scope, &[id]).await?.pop())
}

/// Centimetres as the columns hold them.
fn size(ground: &Ground) -> (Option<i32>, Option<i32>) {
    let column = |cm: u32| i32::try_from(cm).unwrap_or(i32::MAX);
    (ground.size.map(|s| column(s.0)), ground.size.map(|s| column(s.1)))
}

/// Stores a new ground. A name that another one in use has violates a unique index.
pub async fn put(db: &PgPool, scope: &Scope, id: Uuid, f: &GroundFields) -> Result<Put> {
    let barn = scope.staff()?;
    let (length, width) = size(&f.ground);
    let done = sqlx::query!(
        "insert into ground (barn_id, id, name, place, surface, length_cm, width_cm) values ($1, $2, $3, $4, $5, $6, $7)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        f.name,
        f.ground.place.word(),
        f.ground.surface.word(),
        length,
        width
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let there = get(db, scope, id).await?;
    Ok(Put::of_kept(there.map(|g| g.name == f.name && g.ground() == f.ground)))
}

/// Changes a ground if the version is still `version`. Its kind stays: rides on it are evidence of that place.
pub async fn update(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    version: i32,
    f: &GroundFields,
    archived: bool,
) -> Result<Update<KeptGround>> {
    let barn = scope.staff()?;
    let (length, width) = size(&f.ground);
    let done = sqlx::query!(
        "update ground set name = $4, surface = $5, length_cm = $6, width_cm = $7,
                archived_at = case when $8 then coalesce(archived_at, now()) end, version = version + 1
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        id,
        version,
        f.name,
        f.ground.surface.word(),
        length,
        width,
        archived
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

/// Where horses were ridden last: by this rider, else by anyone. A horse that was never ridden is left out.
pub async fn last_ridden_at(
    db: &PgPool,
    scope: &Scope,
    horses: &[Uuid],
    rider: Uuid,
) -> Result<Vec<(Uuid, Place, Option<Uuid>)>> {
    let rows = sqlx::query!(
        r#"select h.id as "horse!", r.place as "place!: Place", r.ground_id
           from (select distinct unnest($2::uuid[]) as id) h cross join lateral (
               select place, ground_id from ride
               where barn_id = $1 and horse_id = h.id and state <> 'planned'
               order by rider_id = $3 desc, ridden_on desc, created_at desc limit 1) r"#,
        scope.of_seen(),
        horses,
        rider
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse, r.place, r.ground_id)).collect())
}
