//! The week: plans as drafts and as published, and the rides that a plan puts on the days.

use cavesson_core::{
    barn::{MissedReason, RideState},
    curriculum::Place,
};
use chrono::{NaiveDate, NaiveTime};
use serde_json::Value;
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{
    Owned, Result, Scope, Update,
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
        scope.shared(),
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
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into week_plan (barn_id, week_start, draft, made_by) select $1, $2, $3, $4 where $5 = 0
         on conflict (barn_id, week_start) do nothing",
        barn,
        start,
        draft,
        scope.person(),
        version
    )
    .execute(db)
    .await?
    .rows_affected()
        + sqlx::query!(
            "update week_plan set draft = $3, made_by = $4, version = version + 1, updated_at = now()
             where barn_id = $1 and week_start = $2 and version = $5 and $5 > 0",
            barn,
            start,
            draft,
            scope.person(),
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
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "update week_plan set published = draft, published_at = now(), version = version + 1
         where barn_id = $1 and week_start = $2 and version = $3",
        barn,
        start,
        version
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        let standing = standing(&mut tx, scope, from, start + chrono::Days::new(6)).await?;
        let blocked = blocked(&mut tx, scope, &standing, rides).await?;
        let rides: Vec<PlannedRide> =
            rides.iter().filter(|r| !blocked.contains(&(r.horse_id, r.ridden_on))).cloned().collect();
        let taken = taken(&mut tx, scope, &standing, &rides).await?;
        let rides = with_kept_ids(&standing, &taken, rides);
        let gone: Vec<Uuid> = standing.iter().map(|s| s.id).filter(|id| rides.iter().all(|r| r.id != *id)).collect();
        dropped::remember(&mut tx, scope, &gone).await?;
        sqlx::query!("delete from ride where barn_id = $1 and id = any($2)", barn, &gone).execute(&mut *tx).await?;
        put_planned(&mut tx, scope, &rides).await?;
    }
    tx.commit().await?;
    Ok(match get(db, scope, start).await? {
        Some(plan) if done == 1 => Update::Done(plan),
        Some(plan) => Update::Stale(plan),
        None => Update::Missing,
    })
}

/// A ride that the week's plan put on a day before, and that was not begun.
struct Standing {
    id: Uuid,
    work: String,
}

async fn standing(tx: &mut PgConnection, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Standing>> {
    let barn = scope.staff()?;
    Ok(sqlx::query_as!(
        Standing,
        r#"select id, work as "work!" from ride r
           where r.barn_id = $1 and r.ridden_on between $2 and $3 and r.work is not null and r.state = 'planned'
           and r.missed is null and not exists (select from ride_set s where s.barn_id = r.barn_id and s.ride_id = r.id)
           order by r.ridden_on, r.starts_at, r.id for update"#,
        barn,
        from,
        to
    )
    .fetch_all(tx)
    .await?)
}

/// Horses that have a ride of another kind on a day for which one is planned: that one stays.
async fn blocked(
    tx: &mut PgConnection,
    scope: &Scope,
    standing: &[Standing],
    rides: &[PlannedRide],
) -> Result<Vec<(Uuid, NaiveDate)>> {
    let barn = scope.staff()?;
    let rows = sqlx::query!(
        "select r.horse_id, r.ridden_on from ride r
         join (select distinct h, d from unnest($2::uuid[], $3::date[]) as n (h, d)) n on r.horse_id = n.h and r.ridden_on = n.d
         where r.barn_id = $1 and r.id <> all($4)",
        barn,
        &rides.iter().map(|r| r.horse_id).collect::<Vec<_>>(),
        &rides.iter().map(|r| r.ridden_on).collect::<Vec<_>>(),
        &standing.iter().map(|s| s.id).collect::<Vec<_>>()
    )
    .fetch_all(tx)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.ridden_on)).collect())
}

/// Ids of these rides under which something was ridden: a ride that moved keeps the id of the day that it was first planned for.
async fn taken(
    tx: &mut PgConnection,
    scope: &Scope,
    standing: &[Standing],
    rides: &[PlannedRide],
) -> Result<Vec<Uuid>> {
    let barn = scope.staff()?;
    Ok(sqlx::query_scalar!(
        "select id from ride where barn_id = $1 and id = any($2) and id <> all($3)",
        barn,
        &rides.iter().map(|r| r.id).collect::<Vec<_>>(),
        &standing.iter().map(|s| s.id).collect::<Vec<_>>()
    )
    .fetch_all(tx)
    .await?)
}

/// The rides under the ids that they had: one that stays where it is, and else one of the same work that only moves. A device that
/// logs without the network knows a ride by its id.
fn with_kept_ids(standing: &[Standing], taken: &[Uuid], mut rides: Vec<PlannedRide>) -> Vec<PlannedRide> {
    let stays: Vec<Uuid> = rides.iter().map(|r| r.id).collect();
    let mut free: Vec<&Standing> = standing.iter().filter(|s| !stays.contains(&s.id)).collect();
    for ride in rides.iter_mut().filter(|r| standing.iter().all(|s| s.id != r.id)) {
        if let Some(at) = free.iter().position(|s| s.work == ride.work) {
            ride.id = free.remove(at).id;
        } else if taken.contains(&ride.id) {
            ride.id = Uuid::new_v4();
        }
    }
    rides
}

/// Puts rides on their days; one that is there under its id moves.
async fn put_planned(tx: &mut PgConnection, scope: &Scope, rides: &[PlannedRide]) -> Result<()> {
    let barn = scope.staff()?;
    let column = |of: fn(&PlannedRide) -> Uuid| rides.iter().map(of).collect::<Vec<_>>();
    let places: Vec<String> = rides.iter().map(|r| r.place.word().to_owned()).collect();
    let works: Vec<String> = rides.iter().map(|r| r.work.clone()).collect();
    sqlx::query!(
        "insert into ride (barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, work, state, entered, created_by, ground_id)
         select $1, n.id, n.horse_id, n.rider_id, n.ridden_on, n.starts_at, n.place, n.work, 'planned', 'pen', $2,
                (select (array_agg(g.id))[1] from ground g
                 where g.barn_id = $1 and g.place = n.place and g.archived_at is null having count(*) = 1)
         from unnest($3::uuid[], $4::uuid[], $5::uuid[], $6::date[], $7::time[], $8::text[], $9::text[])
              as n (id, horse_id, rider_id, ridden_on, starts_at, place, work)
         on conflict (barn_id, id) do update set
             rider_id = excluded.rider_id, ridden_on = excluded.ridden_on, starts_at = excluded.starts_at, place = excluded.place,
             ground_id = case when ride.place = excluded.place then ride.ground_id else excluded.ground_id end,
             version = ride.version + 1
         where ride.state = 'planned'
           and (ride.rider_id, ride.ridden_on, ride.starts_at, ride.place)
               is distinct from (excluded.rider_id, excluded.ridden_on, excluded.starts_at, excluded.place)",
        barn,
        scope.person(),
        &column(|r| r.id),
        &column(|r| r.horse_id),
        &column(|r| r.rider_id),
        &rides.iter().map(|r| r.ridden_on).collect::<Vec<_>>(),
        &rides.iter().map(|r| r.starts_at).collect::<Vec<_>>(),
        &places,
        &works
    )
    .execute(tx)
    .await?;
    Ok(())
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
    let Owned { barn, owner } = scope.owned();
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
        barn,
        owner,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}

/// How often each rider rode each horse since a day.
pub async fn rode(db: &PgPool, scope: &Scope, since: NaiveDate) -> Result<Vec<(Uuid, Uuid, i64)>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select r.horse_id, r.rider_id, count(*) as "rides!" from ride r
           join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
           where r.barn_id = $1 and ($3::uuid is null or h.owner_id = $3) and r.ridden_on >= $2 and r.state <> 'planned'
           group by r.horse_id, r.rider_id"#,
        barn,
        since,
        owner
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.rider_id, r.rides)).collect())
}

/// The day of each horse's first ride.
pub async fn first_ridden(db: &PgPool, scope: &Scope) -> Result<Vec<(Uuid, NaiveDate)>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select h.id, f.ridden_on as "first!" from horse h cross join lateral (
               select r.ridden_on from ride r
               where r.barn_id = h.barn_id and r.horse_id = h.id and r.state <> 'planned' order by r.ridden_on limit 1) f
           where h.barn_id = $1 and ($2::uuid is null or h.owner_id = $2)"#,
        barn,
        owner
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
    /// The steps that were worked, as `rung@gait`, with blanks between: a year of a barn has a hundred thousand.
    pub steps: String,
}

/// Rides from a day to another, both included, in no order: a year of a barn is ten thousand.
pub async fn worked(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Worked>> {
    let Owned { barn, owner } = scope.owned();
    Ok(sqlx::query_as!(
        Worked,
        r#"select r.horse_id, r.rider_id, r.ridden_on, r.place as "place: Place", r.state = 'planned' as "waits!", r.work is not null as "from_week!",
                  r.missed as "missed: MissedReason", case when r.stand_minutes is not null
                      then array[r.stand_minutes, r.walk_minutes, r.jog_minutes, r.lope_minutes, r.run_minutes] end
                      as "minutes: MinutesByGait", array_to_string(r.steps, ' ') as "steps!"
           from ride r
           where r.barn_id = $1 and r.ridden_on between $3 and $4 and ($2::uuid is null or exists (
               select from horse h where h.barn_id = r.barn_id and h.id = r.horse_id and h.owner_id = $2))"#,
        barn,
        owner,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}
