//! Rides: planned, ridden and closed.

mod change;

use cavesson_core::{
    barn::{EntryMethod, MissedReason, RideState, Trait},
    curriculum::{Gait, Place},
    load::GaitMinutes,
};
use chrono::{NaiveDate, NaiveTime};
use sqlx::PgPool;
use uuid::Uuid;

pub use change::{drop_planned, put, set_missed, update};

use crate::{Owned, Result, Scope, log::dropped, scope::first};

/// Minutes of a ride by gait, as its columns have them: standing, walk, jog, lope, run.
#[derive(Debug, Clone, PartialEq, Eq, sqlx::Type)]
#[sqlx(transparent, no_pg_array)]
pub struct MinutesByGait(Vec<i16>);

impl From<MinutesByGait> for GaitMinutes {
    fn from(columns: MinutesByGait) -> GaitMinutes {
        let told = Gait::ALL.into_iter().zip(columns.0);
        told.fold(GaitMinutes::default(), |minutes, (gait, m)| minutes.plus(gait, m.unsigned_abs()))
    }
}

/// A ride with the names that stand beside it.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Ride {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub horse_name: String,
    pub rider_id: Uuid,
    pub rider_name: String,
    pub ridden_on: NaiveDate,
    pub starts_at: Option<NaiveTime>,
    pub place: Place,
    /// Which of the barn's own grounds, where that is known.
    pub ground_id: Option<Uuid>,
    pub ground_name: Option<String>,
    pub state: RideState,
    pub entered: EntryMethod,
    pub note: String,
    pub signs: Vec<String>,
    pub bit: Option<String>,
    pub hot: Option<bool>,
    pub decicelsius: Option<i16>,
    pub humidity: Option<i16>,
    /// Minutes by gait.
    pub minutes: Option<MinutesByGait>,
    /// Why it was not ridden, where it was asked.
    pub missed: Option<MissedReason>,
    /// Whether the week's plan put it there.
    pub from_week: bool,
    pub version: i32,
    /// Reps that were not removed.
    pub reps: i64,
}

/// What is said when a ride is made.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct NewRide {
    pub horse_id: Uuid,
    pub rider_id: Uuid,
    pub ridden_on: NaiveDate,
    pub starts_at: Option<NaiveTime>,
    pub place: Place,
    pub ground_id: Option<Uuid>,
    pub state: RideState,
    pub entered: EntryMethod,
    pub note: String,
    pub signs: Vec<String>,
    pub bit: Option<String>,
    pub hot: Option<bool>,
    /// Minutes by gait, where they were told.
    pub minutes: Option<GaitMinutes>,
}

/// What can be changed about a ride besides its reps.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct RideFields {
    pub rider_id: Uuid,
    pub starts_at: Option<NaiveTime>,
    pub place: Place,
    /// What is not told stays as it is while the place does.
    pub ground_id: Option<Uuid>,
    pub state: RideState,
    pub note: String,
    pub signs: Vec<String>,
    pub bit: Option<String>,
    pub hot: Option<bool>,
    /// Minutes by gait; what is not told stays as it is.
    pub minutes: Option<GaitMinutes>,
}

macro_rules! select_rides {
    ($where:literal, $($arg:expr),*) => {
        sqlx::query_as!(
            Ride,
            r#"select r.id, r.horse_id, h.name as horse_name, r.rider_id, p.name as rider_name, r.ridden_on, r.starts_at,
                      r.place as "place: Place", r.ground_id,
                      g.name as "ground_name?", r.state as "state: RideState", r.entered as "entered: EntryMethod", r.note, r.signs, r.bit, r.hot, r.decicelsius,
                      r.humidity, case when r.stand_minutes is not null
                      then array[r.stand_minutes, r.walk_minutes, r.jog_minutes, r.lope_minutes, r.run_minutes] end
                      as "minutes: MinutesByGait",
                      r.missed as "missed: MissedReason", r.work is not null as "from_week!", r.version,
                      (select count(*) from ride_set s left join rep on rep.barn_id = s.barn_id and rep.set_id = s.id
                                                                        and rep.removed_at is null
                       where s.barn_id = r.barn_id and s.ride_id = r.id
                             and (rep.id is not null or s.count is not null and s.count_removed_at is null)) as "reps!"
               from ride r
               join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
               join person p on p.barn_id = r.barn_id and p.id = r.rider_id
               left join ground g on g.barn_id = r.barn_id and g.id = r.ground_id
               where r.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and "# + $where,
            $($arg),*
        )
    };
}

/// Rides of a day in order of the clock.
pub async fn on_day(db: &PgPool, scope: &Scope, date: NaiveDate) -> Result<Vec<Ride>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_rides!(
        "r.ridden_on = $3 and h.archived_at is null order by r.starts_at nulls last, h.name, r.id",
        barn,
        owner,
        date
    )
    .fetch_all(db)
    .await?)
}

/// Planned rides from a day to another, both included, that were neither ridden nor said why not, latest first.
pub async fn unanswered(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Ride>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_rides!(
        "r.ridden_on between $3 and $4 and r.state = 'planned' and r.missed is null and h.archived_at is null
         order by r.ridden_on desc, r.starts_at nulls last, h.name, r.id",
        barn,
        owner,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}

/// Rides of a horse that were ridden, latest first: the first page, or the one that follows a ride. Whether there are more, too.
pub async fn of_horse(
    db: &PgPool,
    scope: &Scope,
    horse: Uuid,
    after: Option<Uuid>,
    limit: i64,
) -> Result<(Vec<Ride>, bool)> {
    let Owned { barn, owner } = scope.owned();
    // The page is found first, from its day on: the reps of what stands before it are not counted. A ride without an hour comes before
    // those of its day that have one, as at its end.
    let rows = select_rides!(
        "r.id in (select o.id from ride o
                  where o.barn_id = $1 and o.horse_id = $3 and o.state <> 'planned'
                        and o.ridden_on <= coalesce((select ridden_on from ride where barn_id = $1 and id = $4), 'infinity')
                        and ($4::uuid is null or (o.ridden_on, coalesce(o.starts_at, '24:00'), o.id)
                            < (select ridden_on, coalesce(starts_at, '24:00'), id from ride where barn_id = $1 and id = $4))
                  order by o.ridden_on desc, coalesce(o.starts_at, '24:00') desc, o.id desc limit $5)
         order by r.ridden_on desc, coalesce(r.starts_at, '24:00') desc, r.id desc",
        barn,
        owner,
        horse,
        after,
        limit + 1
    )
    .fetch_all(db)
    .await?;
    Ok(first(rows, limit))
}

/// One ride.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Ride>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_rides!("r.id = $3", barn, owner, id).fetch_optional(db).await?)
}

/// One ride, put back where it was taken off its day. `None` where there never was one.
pub async fn get_or_restore(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Ride>> {
    if let Some(ride) = get(db, scope, id).await? {
        return Ok(Some(ride));
    }
    dropped::restore(db, scope, id).await?;
    get(db, scope, id).await
}

/// What writing to a ride has to know of it.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct RideToLog {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub ridden_on: NaiveDate,
    /// The time zone of its barn.
    pub time_zone: String,
    /// What tells which curriculum its horse has: the number of the barn's change, and what the horse is like for good.
    pub curriculum_revision: i64,
    pub traits: Vec<Trait>,
}

/// What writing to a ride has to know of it, put back where it was taken off its day: the same however much was logged in it.
/// `None` where there never was one.
pub async fn to_log(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<RideToLog>> {
    if let Some(ride) = find_to_log(db, scope, id).await? {
        return Ok(Some(ride));
    }
    dropped::restore(db, scope, id).await?;
    find_to_log(db, scope, id).await
}

async fn find_to_log(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<RideToLog>> {
    Ok(sqlx::query_as!(
        RideToLog,
        r#"select r.id, r.horse_id, r.ridden_on, b.time_zone, b.curriculum_revision, h.traits as "traits: Vec<Trait>"
           from ride r join barn b on b.id = r.barn_id join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
           where r.barn_id = $1 and r.id = $2"#,
        scope.staff()?,
        id
    )
    .fetch_optional(db)
    .await?)
}

/// Notes that the last ride of each horse before `date` left for tomorrow, one a horse.
pub async fn last_notes(
    db: &PgPool,
    scope: &Scope,
    horses: &[Uuid],
    date: NaiveDate,
) -> Result<Vec<(Uuid, NaiveDate, String)>> {
    let rows = sqlx::query!(
        // One step into the index a horse: a string of some years has tens of thousands of rides.
        r#"select h.id as "horse_id!", r.ridden_on, r.note
           from (select distinct unnest($2::uuid[]) as id) h cross join lateral (
               select ridden_on, note from ride
               where barn_id = $1 and horse_id = h.id and ridden_on < $3 and state <> 'planned'
               order by ridden_on desc, created_at desc limit 1) r"#,
        scope.of_seen(),
        horses,
        date
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.ridden_on, r.note)).collect())
}

/// The planned rides of some horses, each on a day, in order of the clock: those that a ride entered afterwards may fill.
pub async fn planned_of(db: &PgPool, scope: &Scope, days: &[(Uuid, NaiveDate)]) -> Result<Vec<Ride>> {
    let Owned { barn, owner } = scope.owned();
    let (horses, dates): (Vec<Uuid>, Vec<NaiveDate>) = days.iter().copied().unzip();
    Ok(select_rides!(
        "r.state = 'planned'
         and exists (select from unnest($3::uuid[], $4::date[]) d (horse, day) where d.horse = r.horse_id and d.day = r.ridden_on)
         order by r.ridden_on, r.starts_at nulls last, r.id",
        barn,
        owner,
        &horses,
        &dates
    )
    .fetch_all(db)
    .await?)
}

/// Minutes by gait of a horse's rides from a day to another, both ends included, with their days.
pub async fn minutes(
    db: &PgPool,
    scope: &Scope,
    horse: Uuid,
    from: NaiveDate,
    to: NaiveDate,
) -> Result<Vec<(NaiveDate, GaitMinutes)>> {
    let rows = sqlx::query!(
        r#"select ridden_on, array[stand_minutes, walk_minutes, jog_minutes, lope_minutes, run_minutes] as "minutes!: MinutesByGait"
           from ride where barn_id = $1 and horse_id = $2 and ridden_on between $3 and $4 and stand_minutes is not null
           order by ridden_on"#,
        scope.of_seen(),
        horse,
        from,
        to
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.ridden_on, r.minutes.into())).collect())
}
