//! The herd, what happened on cattle as devices log it, and draws that were changed by hand.

use cavesson_core::cattle::{CattleEvent, CowHealth, HerdRules, Manner};
use chrono::{DateTime, NaiveDate, Utc};
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

use crate::{
    Owned, Result, Scope, Update,
    log::rep,
    ride_event::{KeptEvent, NewEvent, PutEvent, events_of},
};

/// A cow as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Cow {
    pub id: Uuid,
    pub fields: CowFields,
    pub version: i32,
}

/// What can be set about a cow.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct CowFields {
    pub tag: String,
    pub looks: String,
    pub manner: Manner,
    pub health: CowHealth,
    pub source: String,
    pub came_on: NaiveDate,
    /// When it was sold, died or was sent back.
    pub left_on: Option<NaiveDate>,
    pub note: String,
}

macro_rules! select_cows {
    ($where:literal, $($arg:expr),*) => {
        sqlx::query!(
            r#"select id, tag, looks, manner as "manner: Manner", health as "health: CowHealth", source, came_on, left_on, note, version
               from cow where barn_id = $1 and "# + $where,
            $($arg),*
        )
    };
}

macro_rules! cow {
    ($r:expr) => {{
        let r = $r;
        let (tag, looks, manner, health, source) = (r.tag, r.looks, r.manner, r.health, r.source);
        let fields =
            CowFields { tag, looks, manner, health, source, came_on: r.came_on, left_on: r.left_on, note: r.note };
        Cow { id: r.id, fields, version: r.version }
    }};
}

/// The cows that were there on a day, by tag.
pub async fn herd(db: &PgPool, scope: &Scope, day: NaiveDate) -> Result<Vec<Cow>> {
    let barn = scope.staff()?;
    let rows = select_cows!(
        "came_on <= $2 and (left_on is null or left_on > $2) order by length(tag), lower(tag), id",
        barn,
        day
    );
    Ok(rows.fetch_all(db).await?.into_iter().map(|r| cow!(r)).collect())
}

/// One cow, also one that left.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Cow>> {
    let barn = scope.staff()?;
    Ok(select_cows!("id = $2", barn, id).fetch_optional(db).await?.map(|r| cow!(r)))
}

/// Stores a cow if the version is still `version`: 0 where it is new.
pub async fn put(db: &PgPool, scope: &Scope, id: Uuid, version: i32, f: &CowFields) -> Result<Update<Cow>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into cow (barn_id, id, tag, looks, manner, health, source, came_on, left_on, note)
         select $1, $2, $4, $5, $6, $7, $8, $9, $10, $11 where $3 = 0 or exists (select from cow where barn_id = $1 and id = $2)
         on conflict (barn_id, id) do update set tag = excluded.tag, looks = excluded.looks, manner = excluded.manner,
            health = excluded.health, source = excluded.source, came_on = excluded.came_on, left_on = excluded.left_on,
            note = excluded.note, version = cow.version + 1 where cow.version = $3",
        barn,
        id,
        version,
        f.tag,
        f.looks,
        f.manner.word(),
        f.health.word(),
        f.source,
        f.came_on,
        f.left_on,
        f.note
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match get(db, scope, id).await? {
        Some(kept) if done == 1 || kept.fields == *f => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}

/// How the barn works its cattle, and the version of it: 0 while nobody has set it.
pub async fn rules(db: &PgPool, scope: &Scope) -> Result<(HerdRules, i32)> {
    let kept = sqlx::query!(
        r#"select body as "body: Json<HerdRules>", version from herd_rules where barn_id = $1"#,
        scope.staff()?
    );
    Ok(kept.fetch_optional(db).await?.map_or_else(|| (HerdRules::default(), 0), |r| (r.body.0, r.version)))
}

/// Sets how the barn works its cattle if the version is still `version`.
pub async fn put_rules(db: &PgPool, scope: &Scope, version: i32, new: &HerdRules) -> Result<Update<(HerdRules, i32)>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into herd_rules (barn_id, body, version)
         select $1, $3, 1 where $2 = 0 or exists (select from herd_rules where barn_id = $1)
         on conflict (barn_id) do update set body = excluded.body, version = herd_rules.version + 1 where herd_rules.version = $2",
        barn,
        version,
        Json(new) as _
    )
    .execute(db)
    .await?
    .rows_affected();
    let kept = rules(db, scope).await?;
    Ok(if done == 1 || kept.0 == *new { Update::Done(kept) } else { Update::Stale(kept) })
}

/// Something on cattle as it is kept.
pub type KeptOnCattle = KeptEvent<CattleEvent<Uuid>>;
/// Something on cattle to keep.
pub type NewOnCattle = NewEvent<CattleEvent<Uuid>>;

/// What happened on cattle on a ride, in order.
pub async fn of_ride(db: &PgPool, scope: &Scope, ride: Uuid) -> Result<Vec<KeptOnCattle>> {
    let Owned { barn, owner } = scope.owned();
    Ok(events_of!(db, "cattle_event", "CattleEvent<Uuid>", "e.ride_id = $3", barn, owner, ride).await?)
}

/// What happened on cattle in rides of days from one to another, both included, in order.
pub async fn between(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<KeptOnCattle>> {
    let Owned { barn, owner } = scope.owned();
    let found =
        events_of!(db, "cattle_event", "CattleEvent<Uuid>", "r.ridden_on between $3 and $4", barn, owner, from, to);
    Ok(found.await?)
}

/// What happened on cattle with a horse in rides of days from one to another, both included, in order.
pub async fn of_horse(
    db: &PgPool,
    scope: &Scope,
    horse: Uuid,
    [from, to]: [NaiveDate; 2],
) -> Result<Vec<KeptOnCattle>> {
    let Owned { barn, owner } = scope.owned();
    Ok(events_of!(
        db,
        "cattle_event",
        "CattleEvent<Uuid>",
        "r.horse_id = $3 and r.ridden_on between $4 and $5",
        barn,
        owner,
        horse,
        from,
        to
    )
    .await?)
}

/// Keeps something that happened on cattle on a ride, or a later version of it. The same sent twice is kept once, in whichever order
/// versions come.
pub async fn put_event(db: &PgPool, scope: &Scope, ride: Uuid, id: Uuid, new: &NewOnCattle) -> Result<PutEvent> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    sqlx::query!(
        "insert into cattle_event (barn_id, id, ride_id, cow_id, at, body, removed, version, who)
         select $1, $2, $3, $4, $5, $6, $7, $8, $9 where exists (select from ride where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do update set cow_id = excluded.cow_id, at = excluded.at, body = excluded.body,
            removed = excluded.removed, version = excluded.version
            where cattle_event.version < excluded.version and cattle_event.ride_id = excluded.ride_id",
        barn,
        id,
        ride,
        new.event.cow(),
        new.at,
        Json(&new.event) as _,
        new.removed,
        new.version,
        scope.person()
    )
    .execute(&mut *tx)
    .await?;
    rep::open(&mut tx, scope, &[ride]).await?;
    let there = sqlx::query!(
        r#"select ride_id, at, body as "body: Json<CattleEvent<Uuid>>", removed, version from cattle_event
           where barn_id = $1 and id = $2"#,
        barn,
        id
    )
    .fetch_optional(&mut *tx)
    .await?;
    tx.commit().await?;
    let there = there.map(|r| {
        let (at, event, removed, version) = (r.at, r.body.0, r.removed, r.version);
        (r.ride_id, NewOnCattle { at, event, removed, version })
    });
    Ok(PutEvent::of(ride, new, there))
}

/// Keeps what happened on many rides at once; what is known already stays as it is.
pub async fn put_all(db: &PgPool, scope: &Scope, all: &[(Uuid, Uuid, NewOnCattle)]) -> Result<()> {
    let barn = scope.staff()?;
    let column = |of: fn(&(Uuid, Uuid, NewOnCattle)) -> Uuid| all.iter().map(of).collect::<Vec<Uuid>>();
    let cows: Vec<Option<Uuid>> = all.iter().map(|(.., new)| new.event.cow()).collect();
    let at: Vec<DateTime<Utc>> = all.iter().map(|(.., new)| new.at).collect();
    let bodies: Vec<_> = all.iter().map(|(.., new)| Json(&new.event)).collect();
    sqlx::query!(
        "insert into cattle_event (barn_id, id, ride_id, cow_id, at, body, who)
         select $1, e.id, e.ride_id, e.cow_id, e.at, e.body, $7
         from unnest($2::uuid[], $3::uuid[], $4::uuid[], $5::timestamptz[], $6::jsonb[]) as e (ride_id, id, cow_id, at, body)
         on conflict do nothing",
        barn,
        &column(|e| e.0),
        &column(|e| e.1),
        &cows as _,
        &at,
        &bodies as _,
        scope.person()
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A go of a draw: which horse and which cow.
pub type KeptGo = Option<(Uuid, Uuid)>;

/// The draw of a day as it was changed by hand, and its version.
pub async fn draw(db: &PgPool, scope: &Scope, day: NaiveDate) -> Result<Option<(Vec<KeptGo>, i32)>> {
    let kept = sqlx::query!(
        r#"select goes as "goes: Json<Vec<KeptGo>>", version from cattle_draw where barn_id = $1 and day = $2"#,
        scope.staff()?,
        day
    );
    Ok(kept.fetch_optional(db).await?.map(|r| (r.goes.0, r.version)))
}

/// Keeps the draw of a day if the version is still `version`: 0 where it was not changed yet.
pub async fn put_draw(
    db: &PgPool,
    scope: &Scope,
    day: NaiveDate,
    version: i32,
    goes: &[KeptGo],
) -> Result<Update<(Vec<KeptGo>, i32)>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into cattle_draw (barn_id, day, goes, version, who)
         select $1, $2, $4, 1, $5 where $3 = 0 or exists (select from cattle_draw where barn_id = $1 and day = $2)
         on conflict (barn_id, day) do update set goes = excluded.goes, who = excluded.who, version = cattle_draw.version + 1
            where cattle_draw.version = $3",
        barn,
        day,
        version,
        Json(goes) as _,
        scope.person()
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match draw(db, scope, day).await? {
        Some(kept) if done == 1 || kept.0 == goes => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}

/// Forgets what was changed by hand in the draw of a day.
pub async fn drop_draw(db: &PgPool, scope: &Scope, day: NaiveDate) -> Result<()> {
    sqlx::query!("delete from cattle_draw where barn_id = $1 and day = $2", scope.staff()?, day).execute(db).await?;
    Ok(())
}
