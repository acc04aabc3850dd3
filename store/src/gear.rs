//! What horses are ridden in.

use cavesson_core::{barn::GearKind, ride::Mouthpiece};
use chrono::NaiveDate;
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Owned, Put, Result, Scope, Update, log::revision::rides_changed};

/// A piece of gear.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Gear {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub kind: GearKind,
    pub name: String,
    pub mouthpiece: Option<Mouthpiece>,
    pub since: NaiveDate,
    pub mouth_seen: Option<NaiveDate>,
    pub teeth_seen: Option<NaiveDate>,
    pub note: String,
    pub archived: bool,
    pub version: i32,
    /// Days on which the horse was ridden in it, up to yesterday or the day asked about.
    pub days: i64,
}

/// What can be set about a piece of gear.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct GearFields {
    pub kind: GearKind,
    pub name: String,
    pub mouthpiece: Option<Mouthpiece>,
    pub since: NaiveDate,
    pub mouth_seen: Option<NaiveDate>,
    pub teeth_seen: Option<NaiveDate>,
    pub note: String,
}

/// A piece that a horse had not worn before.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Fitted {
    pub horse_id: Uuid,
    pub kind: GearKind,
    pub since: NaiveDate,
}

/// What was put in use between two days, both included, on horses that had worn another piece of its kind before.
pub async fn fitted_since(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Fitted>> {
    let barn = scope.staff()?;
    Ok(sqlx::query_as!(
        Fitted,
        r#"select g.horse_id, g.kind as "kind: GearKind", g.since from gear g
           where g.barn_id = $1 and g.since between $2 and $3
             and exists (select from gear o where o.barn_id = g.barn_id and o.horse_id = g.horse_id and o.kind = g.kind
                         and o.since < g.since)
           order by g.horse_id, g.since, g.id"#,
        barn,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}

macro_rules! select_gear {
    ($where:literal, $($arg:expr),*) => {
        sqlx::query_as!(
            Gear,
            r#"select g.id, g.horse_id, g.kind as "kind: GearKind", g.name, g.mouthpiece as "mouthpiece: Mouthpiece", g.since, g.mouth_seen, g.teeth_seen, g.note,
                      g.archived_at is not null as "archived!", g.version,
                      (select count(distinct r.ridden_on) from worn rg
                       join ride r on r.barn_id = rg.barn_id and r.id = rg.ride_id
                       where rg.barn_id = g.barn_id and rg.gear_id = g.id and r.state <> 'planned' and r.ridden_on < $3) as "days!"
               from gear g join horse h on h.barn_id = g.barn_id and h.id = g.horse_id
               where g.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and "# + $where,
            $($arg),*
        )
    };
}

/// The gear of a horse, that in use first; days are counted up to the day before `before`.
pub async fn of_horse(db: &PgPool, scope: &Scope, horse: Uuid, before: NaiveDate) -> Result<Vec<Gear>> {
    of_horses(db, scope, &[horse], before).await
}

/// The same of several horses, by horse.
pub async fn of_horses(db: &PgPool, scope: &Scope, horses: &[Uuid], before: NaiveDate) -> Result<Vec<Gear>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_gear!(
        "g.horse_id = any($4) order by g.horse_id, g.archived_at is not null, g.kind, g.since desc, g.name, g.id",
        barn,
        owner,
        before,
        horses
    )
    .fetch_all(db)
    .await?)
}

/// Every piece in use with its horse: name, horse, id.
pub async fn names(db: &PgPool, scope: &Scope) -> Result<Vec<(String, Uuid, Uuid)>> {
    let barn = scope.staff()?;
    let rows = sqlx::query!(
        "select name, horse_id, id from gear where barn_id = $1 and archived_at is null order by horse_id, name, id",
        barn
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.name, r.horse_id, r.id)).collect())
}

/// One piece.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid, before: NaiveDate) -> Result<Option<Gear>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_gear!("g.id = $4", barn, owner, before, id).fetch_optional(db).await?)
}

/// Stores a new piece. The horse must be of the barn.
pub async fn put(db: &PgPool, scope: &Scope, horse: Uuid, id: Uuid, f: &GearFields) -> Result<Put> {
    let barn = scope.staff()?;
    let new = sqlx::query!(
        "insert into gear (barn_id, id, horse_id, kind, name, mouthpiece, since, mouth_seen, teeth_seen, note)
         select $1, $2, $3, $4, $5, $6, $7, $8, $9, $10 where exists (select from horse where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        horse,
        f.kind.word(),
        f.name,
        f.mouthpiece.map(Mouthpiece::word),
        f.since,
        f.mouth_seen,
        f.teeth_seen,
        f.note
    )
    .execute(db)
    .await?
    .rows_affected();
    if new == 1 {
        return Ok(Put::Created);
    }
    let there = get(db, scope, id, f.since).await?;
    Ok(Put::of_kept(there.map(|g| g.horse_id == horse && fields(&g) == *f)))
}

fn fields(g: &Gear) -> GearFields {
    GearFields {
        kind: g.kind,
        name: g.name.clone(),
        mouthpiece: g.mouthpiece,
        since: g.since,
        mouth_seen: g.mouth_seen,
        teeth_seen: g.teeth_seen,
        note: g.note.clone(),
    }
}

/// Changes a piece if the version is still `version`. It stays with its horse, and what it is. Its days are those before a day.
pub async fn update(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    version: i32,
    f: &GearFields,
    archived: bool,
    before: NaiveDate,
) -> Result<Update<Gear>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update gear set name = $4, since = $5, mouth_seen = $6, teeth_seen = $7, note = $8, version = version + 1,
                archived_at = case when $9 then coalesce(archived_at, now()) end
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        id,
        version,
        f.name,
        f.since,
        f.mouth_seen,
        f.teeth_seen,
        f.note,
        archived
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match get(db, scope, id, before).await? {
        Some(gear) if done == 1 => Update::Done(gear),
        Some(gear) => Update::Stale(gear),
        None => Update::Missing,
    })
}

/// What rides are ridden in: ride and piece, in this order.
pub async fn of_rides(db: &PgPool, scope: &Scope, rides: &[Uuid]) -> Result<Vec<(Uuid, Uuid)>> {
    let rows = sqlx::query!(
        "select ride_id, gear_id from ride_gear where barn_id = $1 and ride_id = any($2) order by ride_id, gear_id",
        scope.of_seen(),
        rides
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.ride_id, r.gear_id)).collect())
}

/// Whether a ride that is not closed, today or later, is ridden in a piece.
pub async fn is_worn(db: &PgPool, scope: &Scope, piece: Uuid, today: NaiveDate) -> Result<bool> {
    let worn = sqlx::query_scalar!(
        r#"select exists (select from worn w join ride r on r.barn_id = w.barn_id and r.id = w.ride_id
                          where w.barn_id = $1 and w.gear_id = $2 and r.ridden_on >= $3 and r.state <> 'closed') as "worn!""#,
        scope.staff()?,
        piece,
        today
    );
    Ok(worn.fetch_one(db).await?)
}

/// What horses were ridden in at the end of the last ride of each before a day: horse and piece, in this order.
pub async fn of_last_rides(
    db: &PgPool,
    scope: &Scope,
    horses: &[Uuid],
    before: NaiveDate,
) -> Result<Vec<(Uuid, Uuid)>> {
    let rows = sqlx::query!(
        // From the latest ride back, a horse at a time: the last one is mostly the one.
        r#"select h.id as "horse!", w.gear_id as "gear!"
           from (select distinct unnest($2::uuid[]) as id) h
           cross join lateral (
               select x.ride_id, x.at from ride r join worn x on x.barn_id = r.barn_id and x.ride_id = r.id
               where r.barn_id = $1 and r.horse_id = h.id and r.ridden_on < $3
               order by r.ridden_on desc, r.id, x.at desc limit 1) last
           join worn w on w.barn_id = $1 and w.ride_id = last.ride_id and w.at = last.at
           join gear g on g.barn_id = w.barn_id and g.id = w.gear_id and g.archived_at is null
           order by h.id, w.gear_id"#,
        scope.of_seen(),
        horses,
        before
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse, r.gear)).collect())
}

/// Sets what a ride is ridden in; each piece must be the ride's horse's. The bit's name stands with the ride.
pub async fn set_for_ride(tx: &mut PgConnection, scope: &Scope, ride: Uuid, gear: &[Uuid]) -> Result<bool> {
    let barn = scope.staff()?;
    // Of two who set it at once, one waits for the other, and the last one stands.
    sqlx::query!("select id from ride where barn_id = $1 and id = $2 for no key update", barn, ride)
        .fetch_optional(&mut *tx)
        .await?;
    let fits = sqlx::query_scalar!(
        r#"select count(*) = $4 as "fits!" from gear g join ride r on r.barn_id = g.barn_id and r.horse_id = g.horse_id
           where g.barn_id = $1 and r.id = $2 and g.id = any($3)"#,
        barn,
        ride,
        gear,
        gear.len() as i64
    )
    .fetch_one(&mut *tx)
    .await?;
    if !fits {
        return Ok(false);
    }
    sqlx::query!("delete from ride_gear where barn_id = $1 and ride_id = $2 and gear_id <> all($3)", barn, ride, gear)
        .execute(&mut *tx)
        .await?;
    sqlx::query!(
        "insert into ride_gear (barn_id, ride_id, gear_id) select $1, $2, g from unnest($3::uuid[]) as g order by g
         on conflict do nothing",
        barn,
        ride,
        gear
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!(
        "update ride set bit = coalesce((select left(g.name, 40) from gear g
             where g.barn_id = $1 and g.id = any($3) and g.kind in ('bit', 'bosal') order by g.kind, g.id limit 1), bit)
         where barn_id = $1 and id = $2",
        barn,
        ride,
        gear
    )
    .execute(&mut *tx)
    .await?;
    // What showed on the ride is now told of this bit.
    rides_changed(tx, scope, &[ride]).await?;
    Ok(true)
}

/// Every ride of a horse that has no gear noted is in this, or those of some days: for the demo, whose rides are made at once.
pub async fn wear_all(
    db: &PgPool,
    scope: &Scope,
    horse: Uuid,
    gear: &[Uuid],
    days: Option<&[NaiveDate]>,
) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into ride_gear (barn_id, ride_id, gear_id)
         select $1, r.id, g from ride r cross join unnest($3::uuid[]) as g
         where r.barn_id = $1 and r.horse_id = $2 and r.state <> 'planned' and ($4::date[] is null or r.ridden_on = any($4))
            and not exists (select from ride_gear x where x.barn_id = r.barn_id and x.ride_id = r.id)",
        barn,
        horse,
        gear,
        days
    )
    .execute(db)
    .await?;
    Ok(())
}
