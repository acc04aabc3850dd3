//! The week: plans as drafts and as published, and the rides that a plan puts on the days.

use cavesson_core::{
    barn::{MissedReason, RideState},
    curriculum::Place,
};
use chrono::{NaiveDate, NaiveTime};
use serde_json::Value;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{
    Result, Scope, Update,
    log::{dropped, ride::MinutesByGait},
};

/// The plan of a week.
#[derive(Debug, Clone, PartialEq)]
pub struct WeekPlan {
    /// Counts the changes.
    pub version: i32,
    /// The rides as they are being planned.
    pub draft: Value,
    /// The rides as they were last published.
    pub published: Option<Value>,
}

/// The plan of a week, if one was begun.
pub async fn get(db: &PgPool, scope: &Scope, start: NaiveDate) -> Result<Option<WeekPlan>> {
    Ok(sqlx::query_as!(
        WeekPlan,
        "select version, draft, published from week_plan where barn_id = $1 and week_start = $2",
        scope.barn,
        start
    )
    .fetch_optional(db)
    .await?)
}

/// Keeps a draft made from `version`, 0 for a week that was not begun. Of two that were made from the same version one is
/// kept; the other is told what stands there now.
pub async fn save(
    db: &PgPool,
    scope: &Scope,
    start: NaiveDate,
    version: i32,
    draft: &Value,
) -> Result<Update<WeekPlan>> {
    let done = sqlx::query!(
        "insert into week_plan (barn_id, week_start, draft, made_by) select $1, $2, $3, $4 where $5 = 0
         on conflict (barn_id, week_start) do nothing",
        scope.barn,
        start,
        draft,
        scope.person,
        version
    )
    .execute(db)
    .await?
    .rows_affected()
        + sqlx::query!(
            "update week_plan set draft = $3, made_by = $4, version = version + 1, updated_at = now()
             where barn_id = $1 and week_start = $2 and version = $5 and $5 > 0",
            scope.barn,
            start,
            draft,
            scope.person,
            version
        )
        .execute(db)
        .await?
        .rows_affected();
    Ok(match get(db, scope, start).await? {
        Some(plan) if done == 1 => Update::Done(plan),
        Some(plan) => Update::Stale(plan),
        None => Update::Missing,
    })
}

/// A ride that a plan puts on a day.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct PlannedRide {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub rider_id: Uuid,
    pub ridden_on: NaiveDate,
    pub starts_at: NaiveTime,
    pub place: Place,
    pub work: String,
}

/// Publishes the draft of `version`: its rides take the place of those that the week's plan had put on the days from `from` on,
/// as far as those were not begun. A horse that has another ride on a day keeps that one. All of it happens or nothing.
pub async fn publish(
    db: &PgPool,
    scope: &Scope,
    start: NaiveDate,
    version: i32,
    from: NaiveDate,
    rides: &[PlannedRide],
) -> Result<Update<WeekPlan>> {
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "update week_plan set published = draft, published_at = now(), version = version + 1
         where barn_id = $1 and week_start = $2 and version = $3",
        scope.barn,
        start,
        version
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        let replaced = sqlx::query_scalar!(
            "select id from ride r
             where r.barn_id = $1 and r.ridden_on between $2 and $3 and r.work is not null and r.state = 'planned'
             and r.missed is null and not exists (select from ride_set s where s.barn_id = r.barn_id and s.ride_id = r.id)
             for update",
            scope.barn,
            from,
            start + chrono::Days::new(6)
        )
        .fetch_all(&mut *tx)
        .await?;
        dropped::remember(&mut tx, scope, &replaced).await?;
        sqlx::query!("delete from ride where barn_id = $1 and id = any($2)", scope.barn, &replaced)
            .execute(&mut *tx)
            .await?;
        let column = |of: fn(&PlannedRide) -> Uuid| rides.iter().map(of).collect::<Vec<_>>();
        let places: Vec<String> = rides.iter().map(|r| r.place.word().to_owned()).collect();
        let works: Vec<String> = rides.iter().map(|r| r.work.clone()).collect();
        sqlx::query!(
            "insert into ride (barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, work, state, entered, created_by,
                               ground_id)
             select $1, n.id, n.horse_id, n.rider_id, n.ridden_on, n.starts_at, n.place, n.work, 'planned', 'pen', $2,
                    (select (array_agg(g.id))[1] from ground g
                     where g.barn_id = $1 and g.place = n.place and g.archived_at is null having count(*) = 1)
             from unnest($3::uuid[], $4::uuid[], $5::uuid[], $6::date[], $7::time[], $8::text[], $9::text[])
                  as n (id, horse_id, rider_id, ridden_on, starts_at, place, work)
             where not exists (select from ride r where r.barn_id = $1 and r.horse_id = n.horse_id and r.ridden_on = n.ridden_on)",
            scope.barn,
            scope.person,
            &column(|r| r.id),
            &column(|r| r.horse_id),
            &column(|r| r.rider_id),
            &rides.iter().map(|r| r.ridden_on).collect::<Vec<_>>(),
            &rides.iter().map(|r| r.starts_at).collect::<Vec<_>>(),
            &places,
            &works
        )
        .execute(&mut *tx)
        .await?;
    }
    tx.commit().await?;
    Ok(match get(db, scope, start).await? {
        Some(plan) if done == 1 => Update::Done(plan),
        Some(plan) => Update::Stale(plan),
        None => Update::Missing,
    })
}

/// A ride as the planner looks at it.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Ridden {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub rider_id: Uuid,
    pub ridden_on: NaiveDate,
    pub starts_at: Option<NaiveTime>,
    pub place: Place,
    pub state: RideState,
    pub work: Option<String>,
    /// Why it was not ridden.
    pub missed: Option<MissedReason>,
    /// Minutes by gait, where they were told.
    pub minutes: Option<MinutesByGait>,
    /// The steps that were worked, as `rung@gait`.
    pub steps: Vec<String>,
}

/// Rides from a day to another, both included.
pub async fn rides(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Ridden>> {
    Ok(sqlx::query_as!(
        Ridden,
        r#"select r.id, r.horse_id, r.rider_id, r.ridden_on, r.starts_at, r.place as "place: Place", r.state as "state: RideState",
                  r.work, r.missed as "missed: MissedReason",
                  case when r.stand_minutes is not null
                      then array[r.stand_minutes, r.walk_minutes, r.jog_minutes, r.lope_minutes, r.run_minutes] end
                      as "minutes: MinutesByGait", r.steps
           from ride r
           join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
           where r.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and r.ridden_on between $3 and $4
           order by r.ridden_on, r.starts_at nulls last, r.id"#,
        scope.barn,
        scope.owned_by,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}

/// How often each rider rode each horse since a day.
pub async fn rode(db: &PgPool, scope: &Scope, since: NaiveDate) -> Result<Vec<(Uuid, Uuid, i64)>> {
    let rows = sqlx::query!(
        r#"select horse_id, rider_id, count(*) as "rides!" from ride
           where barn_id = $1 and ridden_on >= $2 and state <> 'planned' group by horse_id, rider_id"#,
        scope.barn,
        since
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.rider_id, r.rides)).collect())
}

/// The day of each horse's first ride.
pub async fn first_ridden(db: &PgPool, scope: &Scope) -> Result<Vec<(Uuid, NaiveDate)>> {
    let rows = sqlx::query!(
        r#"select h.id, f.ridden_on as "first!" from horse h cross join lateral (
               select r.ridden_on from ride r
               where r.barn_id = h.barn_id and r.horse_id = h.id and r.state <> 'planned' order by r.ridden_on limit 1) f
           where h.barn_id = $1 and ($2::uuid is null or h.owner_id = $2)"#,
        scope.barn,
        scope.owned_by
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.id, r.first)).collect())
}

/// A ride as months are looked at.
#[derive(Debug, Clone)]
#[allow(missing_docs)]
pub struct Worked {
    pub horse_id: Uuid,
    pub rider_id: Uuid,
    pub ridden_on: NaiveDate,
    pub place: Place,
    /// Planned, and not ridden so far.
    pub waits: bool,
    /// Put on its day by the plan of a week.
    pub from_week: bool,
    /// Why it was not ridden.
    pub missed: Option<MissedReason>,
    /// Minutes by gait, where they were told.
    pub minutes: Option<MinutesByGait>,
    /// The steps that were worked, as `rung@gait`.
    pub steps: Vec<String>,
}

/// Rides from a day to another, both included, in no order: a year of a barn is ten thousand.
pub async fn worked(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Worked>> {
    Ok(sqlx::query_as!(
        Worked,
        r#"select r.horse_id, r.rider_id, r.ridden_on, r.place as "place: Place", r.state = 'planned' as "waits!", r.work is not null as "from_week!",
                  r.missed as "missed: MissedReason", case when r.stand_minutes is not null
                      then array[r.stand_minutes, r.walk_minutes, r.jog_minutes, r.lope_minutes, r.run_minutes] end
                      as "minutes: MinutesByGait", r.steps
           from ride r
           where r.barn_id = $1 and r.ridden_on between $3 and $4 and ($2::uuid is null or exists (
               select from horse h where h.barn_id = r.barn_id and h.id = r.horse_id and h.owner_id = $2))"#,
        scope.barn,
        scope.owned_by,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}
