//! The barn: name, posture, units, time zone.

use cavesson_core::{advice::Posture, barn::Units};
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Result, Scope, Update};

/// A barn.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Barn {
    pub id: Uuid,
    pub name: String,
    pub posture: Posture,
    pub units: Units,
    pub time_zone: String,
    pub is_demo: bool,
    pub version: i32,
}

/// What a trainer may change about a barn.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct BarnSettings {
    pub name: String,
    pub posture: Posture,
    pub units: Units,
    pub time_zone: String,
}

/// Whether any barn exists yet.
pub async fn any(db: impl sqlx::PgExecutor<'_>) -> Result<bool> {
    Ok(sqlx::query_scalar!(r#"select exists (select from barn) as "yes!""#).fetch_one(db).await?)
}

/// The id of the demo barn, if this installation has one.
pub async fn demo(db: &PgPool) -> Result<Option<Uuid>> {
    Ok(sqlx::query_scalar!("select id from barn where demo_day is not null order by created_at limit 1")
        .fetch_optional(db)
        .await?)
}

/// Stores a new barn.
pub async fn create(
    db: impl sqlx::PgExecutor<'_>,
    id: Uuid,
    settings: &BarnSettings,
    demo_day: Option<NaiveDate>,
) -> Result<()> {
    sqlx::query!(
        "insert into barn (id, name, posture, units, time_zone, demo_day) values ($1, $2, $3, $4, $5, $6)",
        id,
        settings.name,
        settings.posture.word(),
        settings.units.word(),
        settings.time_zone,
        demo_day
    )
    .execute(db)
    .await?;
    Ok(())
}

/// The barn of a scope.
pub async fn get(db: &PgPool, scope: &Scope) -> Result<Barn> {
    Ok(sqlx::query_as!(
        Barn,
        r#"select id, name, posture as "posture: Posture", units as "units: Units", time_zone, demo_day is not null as "is_demo!", version from barn where id = $1"#,
        scope.shared()
    )
    .fetch_one(db)
    .await?)
}

/// Every barn of the installation, for work that the server does by itself.
pub async fn all(db: &PgPool) -> Result<Vec<Barn>> {
    Ok(sqlx::query_as!(
        Barn,
        r#"select id, name, posture as "posture: Posture", units as "units: Units", time_zone, demo_day is not null as "is_demo!", version from barn order by id"#
    )
    .fetch_all(db)
    .await?)
}

/// Changes the settings if the version is still `version`.
pub async fn update(db: &PgPool, scope: &Scope, version: i32, settings: &BarnSettings) -> Result<Update<Barn>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update barn set name = $3, posture = $4, units = $5, time_zone = $6, version = version + 1
         where id = $1 and version = $2",
        barn,
        version,
        settings.name,
        settings.posture.word(),
        settings.units.word(),
        settings.time_zone
    )
    .execute(db)
    .await?
    .rows_affected();
    let now = get(db, scope).await?;
    Ok(if done == 1 { Update::Done(now) } else { Update::Stale(now) })
}

/// Moves the demo barn's rides along so that what was today when they were made is today again.
pub async fn redate_demo(db: &PgPool, today: NaiveDate) -> Result<()> {
    let mut tx = db.begin().await?;
    sqlx::query!(
        "update ride set ridden_on = ridden_on + ($1::date - barn.demo_day) from barn
         where barn.id = ride.barn_id and barn.demo_day < $1",
        today
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!(
        "update layoff set off_since = off_since + ($1::date - barn.demo_day), back_on = back_on + ($1::date - barn.demo_day)
         from barn where barn.id = layoff.barn_id and barn.demo_day < $1",
        today
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!(
        "update pattern_pass set passed_on = passed_on + ($1::date - barn.demo_day) from barn
         where barn.id = pattern_pass.barn_id and barn.demo_day < $1",
        today
    )
    .execute(&mut *tx)
    .await?;
    // Its weeks are of days that are over: they are planned again.
    sqlx::query!(
        "delete from ride using barn where barn.id = ride.barn_id and barn.demo_day < $1 and ride.work is not null
         and ride.state = 'planned' and not exists (select from ride_set s where s.barn_id = ride.barn_id and s.ride_id = ride.id)",
        today
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!("delete from week_plan using barn where barn.id = week_plan.barn_id and barn.demo_day < $1", today)
        .execute(&mut *tx)
        .await?;
    sqlx::query!("update barn set demo_day = $1 where demo_day < $1", today).execute(&mut *tx).await?;
    tx.commit().await?;
    Ok(())
}
