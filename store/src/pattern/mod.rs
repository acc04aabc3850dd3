//! Pens, set-ups of barrels in them, and passes over these.

mod passes;

use cavesson_core::pattern::{Pen, SetUp};
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

pub use self::passes::{
    KeptPass, KeptTrack, NewPass, OnEarth, PassTold, RiddenOver, TimedRun, correct_pass, pass, passes, put_pass,
    remove_pass, ridden_over, runs_of_day, set_track,
};
use crate::{Put, Result, Scope, Update};

/// A pen as it is kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct KeptPen {
    pub pen: Pen,
    pub version: i32,
}

/// The pen of a place, where it was drawn.
pub async fn pen(db: &PgPool, scope: &Scope, ground: Uuid) -> Result<Option<KeptPen>> {
    let row = sqlx::query!(
        r#"select body as "body: Json<Pen>", version from pen where barn_id = $1 and ground_id = $2"#,
        scope.shared(),
        ground
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map(|r| KeptPen { pen: r.body.0, version: r.version }))
}

/// Draws the pen of a place, or draws it anew if its version is still `version` (0 where there is none). The place is of the barn.
pub async fn put_pen(db: &PgPool, scope: &Scope, ground: Uuid, version: i32, pen: &Pen) -> Result<Update<KeptPen>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into pen (barn_id, ground_id, body)
         select $1, $2, $4 where $3 = 0 or exists (select from pen where barn_id = $1 and ground_id = $2)
         on conflict (barn_id, ground_id) do update set body = excluded.body, version = pen.version + 1 where pen.version = $3",
        barn,
        ground,
        version,
        Json(pen) as _
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match self::pen(db, scope, ground).await? {
        Some(kept) if done == 1 || kept.pen == *pen => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}

/// A set-up as it is kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct KeptSetUp {
    pub id: Uuid,
    pub ground_id: Uuid,
    pub name: String,
    pub set_up: SetUp,
    pub archived: bool,
    pub version: i32,
}

/// What can be set about a set-up.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct SetUpFields {
    pub ground_id: Uuid,
    pub name: String,
    pub set_up: SetUp,
}

struct SetUpRow {
    id: Uuid,
    ground_id: Uuid,
    name: String,
    body: Json<SetUp>,
    archived: bool,
    version: i32,
}

impl From<SetUpRow> for KeptSetUp {
    fn from(r: SetUpRow) -> KeptSetUp {
        let SetUpRow { id, ground_id, name, body, archived, version } = r;
        KeptSetUp { id, ground_id, name, set_up: body.0, archived, version }
    }
}

/// Set-ups in use, latest first.
pub async fn set_ups(db: &PgPool, scope: &Scope) -> Result<Vec<KeptSetUp>> {
    let rows = sqlx::query_as!(
        SetUpRow,
        r#"select id, ground_id, name, body as "body: Json<SetUp>", archived_at is not null as "archived!", version
           from set_up where barn_id = $1 and archived_at is null order by created_at desc, id limit 200"#,
        scope.shared()
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(Into::into).collect())
}

/// One of them, archived or not.
pub async fn set_up(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<KeptSetUp>> {
    let row = sqlx::query_as!(
        SetUpRow,
        r#"select id, ground_id, name, body as "body: Json<SetUp>", archived_at is not null as "archived!", version
           from set_up where barn_id = $1 and id = $2"#,
        scope.shared(),
        id
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map(Into::into))
}

/// Stores a new set-up.
pub async fn put_set_up(db: &PgPool, scope: &Scope, id: Uuid, f: &SetUpFields) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into set_up (barn_id, id, ground_id, name, body)
         select $1, $2, $3, $4, $5 where exists (select from ground where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        f.ground_id,
        f.name,
        Json(&f.set_up) as _
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let there = set_up(db, scope, id).await?;
    Ok(Put::of_kept(there.map(|s| s.name == f.name && s.ground_id == f.ground_id && s.set_up == f.set_up)))
}

/// Changes a set-up if its version is still `version`. It stays in its pen.
pub async fn update_set_up(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    version: i32,
    f: &SetUpFields,
    archived: bool,
) -> Result<Update<KeptSetUp>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update set_up set name = $4, body = $5, archived_at = case when $6 then coalesce(archived_at, now()) end,
                version = version + 1
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        id,
        version,
        f.name,
        Json(&f.set_up) as _,
        archived
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match set_up(db, scope, id).await? {
        Some(kept) if done == 1 => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}
