//! Rides: planned, ridden and closed.

use cavesson_core::{
    barn::{EntryMethod, MissedReason, RideState},
    curriculum::{Gait, Place},
    load::GaitMinutes,
};
use chrono::{NaiveDate, NaiveTime};
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Page, Put, Result, Scope, Update, log::dropped};

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
    pub state: RideState,
    pub entered: EntryMethod,
    pub note: String,
    pub signs: Vec<String>,
    pub bit: Option<String>,
    pub hot: Option<bool>,
}

/// What can be changed about a ride besides its reps.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct RideFields {
    pub rider_id: Uuid,
    pub starts_at: Option<NaiveTime>,
    pub place: Place,
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
                      r.place as "place: Place", r.state as "state: RideState", r.entered as "entered: EntryMethod", r.note, r.signs, r.bit, r.hot, r.decicelsius,
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
               where r.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and "# + $where,
            $($arg),*
        )
    };
}

/// Rides of a day in order of the clock.
pub async fn on_day(db: &PgPool, scope: &Scope, date: NaiveDate) -> Result<Vec<Ride>> {
    Ok(select_rides!(
        "r.ridden_on = $3 and h.archived_at is null order by r.starts_at nulls last, h.name, r.id",
        scope.barn,
        scope.owned_by,
        date
    )
    .fetch_all(db)
    .await?)
}

/// Planned rides from a day to another, both included, that were neither ridden nor said why not, latest first.
pub async fn unanswered(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Ride>> {
    Ok(select_rides!(
        "r.ridden_on between $3 and $4 and r.state = 'planned' and r.missed is null and h.archived_at is null
         order by r.ridden_on desc, r.starts_at nulls last, h.name, r.id",
        scope.barn,
        scope.owned_by,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}

/// Notes why a planned ride was not ridden, or takes that back. False where there is no such ride that was not begun.
pub async fn set_missed(db: &PgPool, scope: &Scope, id: Uuid, why: Option<MissedReason>) -> Result<bool> {
    let done = sqlx::query!(
        "update ride set missed = $3, version = version + 1 where barn_id = $1 and id = $2 and state = 'planned'",
        scope.barn,
        id,
        why.map(MissedReason::word)
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// A horse's rides that have reps or a note, latest first.
pub async fn of_horse(db: &PgPool, scope: &Scope, horse: Uuid, offset: i64, limit: i64) -> Result<Page<Ride>> {
    let rows = select_rides!(
        "r.horse_id = $3 and r.state <> 'planned' order by r.ridden_on desc, r.starts_at desc nulls first, r.id offset $4 limit $5",
        scope.barn,
        scope.owned_by,
        horse,
        offset,
        limit + 1
    )
    .fetch_all(db)
    .await?;
    Ok(Page::of(rows, offset, limit))
}

/// One ride.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Ride>> {
    Ok(select_rides!("r.id = $3", scope.barn, scope.owned_by, id).fetch_optional(db).await?)
}

/// One ride, put back where it was taken off its day. `None` where there never was one.
pub async fn get_or_restore(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Ride>> {
    if let Some(ride) = get(db, scope, id).await? {
        return Ok(Some(ride));
    }
    dropped::restore(db, scope, id).await?;
    get(db, scope, id).await
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
        scope.barn,
        horses,
        date
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.ridden_on, r.note)).collect())
}

/// Stores a new ride, or fills a planned one with a ride entered afterwards under its id. The horse and the rider must be of the
/// barn and not archived.
pub async fn put(db: &mut sqlx::PgConnection, scope: &Scope, id: Uuid, new: &NewRide) -> Result<Put> {
    let known = sqlx::query_scalar!(
        r#"select exists (select from horse where barn_id = $1 and id = $2 and archived_at is null)
              and exists (select from person where barn_id = $1 and id = $3 and archived_at is null) as "yes!""#,
        scope.barn,
        new.horse_id,
        new.rider_id
    )
    .fetch_one(&mut *db)
    .await?;
    if !known {
        return Ok(Put::Missing);
    }
    let done = sqlx::query!(
        "insert into ride (barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, state, entered, note, signs,
                           bit, hot, created_by, closed_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, case when $8 = 'closed' then now() end)
         on conflict (barn_id, id) do nothing",
        scope.barn,
        id,
        new.horse_id,
        new.rider_id,
        new.ridden_on,
        new.starts_at,
        new.place.word(),
        new.state.word(),
        new.entered.word(),
        new.note,
        &new.signs,
        new.bit,
        new.hot,
        scope.person
    )
    .execute(&mut *db)
    .await?
    .rows_affected();
    if done == 1 {
        if !new.signs.is_empty() {
            log_changed(db, scope, &[id]).await?;
        }
        return Ok(Put::Created);
    }
    if new.entered == EntryMethod::Afterwards && fill(db, scope, id, new).await? {
        return Ok(Put::Created);
    }
    // A ride that was ridden keeps its horse, day and way of entry for good, so these tell whether it is the same ride sent again.
    let same = sqlx::query_scalar!(
        r#"select horse_id = $3 and ridden_on = $4 and entered = $5 as "same!" from ride where barn_id = $1 and id = $2"#,
        scope.barn,
        id,
        new.horse_id,
        new.ridden_on,
        new.entered.word()
    )
    .fetch_one(&mut *db)
    .await?;
    Ok(if same { Put::Same } else { Put::Taken })
}

/// Fills a planned ride of that horse and day with what was ridden. False where there is none under this id.
async fn fill(db: &mut PgConnection, scope: &Scope, id: Uuid, new: &NewRide) -> Result<bool> {
    let filled = sqlx::query!(
        "update ride set rider_id = $5, starts_at = coalesce($6, starts_at), place = $7, state = 'closed', entered = 'afterwards',
                note = $8, signs = $9, bit = coalesce($10, bit), hot = coalesce($11, hot), missed = null, closed_at = now(),
                version = version + 1
         where barn_id = $1 and id = $2 and horse_id = $3 and ridden_on = $4 and state = 'planned'",
        scope.barn,
        id,
        new.horse_id,
        new.ridden_on,
        new.rider_id,
        new.starts_at,
        new.place.word(),
        new.note,
        &new.signs,
        new.bit,
        new.hot
    )
    .execute(&mut *db)
    .await?
    .rows_affected()
        == 1;
    if filled && !new.signs.is_empty() {
        log_changed(db, scope, &[id]).await?;
    }
    Ok(filled)
}

/// The planned rides of some horses, each on a day, in order of the clock: those that a ride entered afterwards may fill.
pub async fn planned_of(db: &PgPool, scope: &Scope, days: &[(Uuid, NaiveDate)]) -> Result<Vec<Ride>> {
    let (horses, dates): (Vec<Uuid>, Vec<NaiveDate>) = days.iter().copied().unzip();
    Ok(select_rides!(
        "r.state = 'planned'
         and exists (select from unnest($3::uuid[], $4::date[]) d (horse, day) where d.horse = r.horse_id and d.day = r.ridden_on)
         order by r.ridden_on, r.starts_at nulls last, r.id",
        scope.barn,
        scope.owned_by,
        &horses,
        &dates
    )
    .fetch_all(db)
    .await?)
}

/// Changes a ride if the version is still `version`. A ride that was ridden cannot become planned again.
pub async fn update(db: &PgPool, scope: &Scope, id: Uuid, version: i32, f: &RideFields) -> Result<Update<Ride>> {
    let at = |gait: Gait| f.minutes.map(|m| m.at(gait) as i16);
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "update ride set rider_id = $4, starts_at = $5, place = $6, note = $8, signs = $9, bit = coalesce($10, bit), hot = coalesce($11, hot),
                stand_minutes = coalesce($12, stand_minutes), walk_minutes = coalesce($13, walk_minutes),
                jog_minutes = coalesce($14, jog_minutes), lope_minutes = coalesce($15, lope_minutes),
                run_minutes = coalesce($16, run_minutes), version = version + 1,
                state = case when state <> 'planned' and $7 = 'planned' then state else $7 end,
                missed = case when $7 = 'planned' then missed end,
                closed_at = case when $7 = 'closed' then coalesce(closed_at, now()) end
         where barn_id = $1 and id = $2 and version = $3",
        scope.barn,
        id,
        version,
        f.rider_id,
        f.starts_at,
        f.place.word(),
        f.state.word(),
        f.note,
        &f.signs,
        f.bit,
        f.hot,
        at(Gait::Stand),
        at(Gait::Walk),
        at(Gait::Jog),
        at(Gait::Lope),
        at(Gait::Run)
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        // Place, hands and signs are evidence too.
        log_changed(&mut tx, scope, &[id]).await?;
    }
    tx.commit().await?;
    Ok(match get(db, scope, id).await? {
        Some(ride) if done == 1 => Update::Done(ride),
        Some(ride) => Update::Stale(ride),
        None => Update::Missing,
    })
}

/// Counts up the logs of the horses of rides: what was worked out from them before no longer holds. A ride tells at which
/// count it changed.
pub(crate) async fn log_changed(tx: &mut PgConnection, scope: &Scope, rides: &[Uuid]) -> Result<()> {
    sqlx::query!(
        "with counted as (
             update horse h set log_revision = h.log_revision + 1 from ride r
             where r.barn_id = $1 and r.id = any($2) and h.barn_id = r.barn_id and h.id = r.horse_id
             returning h.id, h.log_revision)
         update ride set logged_at = counted.log_revision from counted
         where barn_id = $1 and ride.id = any($2) and horse_id = counted.id",
        scope.barn,
        rides
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Takes a planned ride off the day. Only one without sets: nothing that was ridden is deleted.
pub async fn drop_planned(db: &PgPool, scope: &Scope, id: Uuid) -> Result<bool> {
    let mut tx = db.begin().await?;
    dropped::remember(&mut tx, scope, &[id]).await?;
    let done = sqlx::query!(
        "delete from ride r where r.barn_id = $1 and r.id = $2 and r.state = 'planned'
         and not exists (select from ride_set s where s.barn_id = r.barn_id and s.ride_id = r.id)",
        scope.barn,
        id
    )
    .execute(&mut *tx)
    .await?;
    if done.rows_affected() == 1 {
        tx.commit().await?;
    }
    Ok(done.rows_affected() == 1)
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
        scope.barn,
        horse,
        from,
        to
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.ridden_on, r.minutes.into())).collect())
}
