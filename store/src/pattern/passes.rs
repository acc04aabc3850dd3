//! Passes over set-ups, with what each was ridden over.

use cavesson_core::{
    curriculum::Gait,
    pattern::{BarrelTold, SetUp},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

use crate::{Owned, Put, Result, Scope, Update};

/// What is told of a pass.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
pub struct PassTold {
    /// Barrel by barrel.
    pub barrels: Vec<BarrelTold>,
    /// Seconds behind each barrel, where they were taken.
    #[serde(default)]
    pub behind: Vec<Option<f64>>,
    /// Seconds in all.
    #[serde(default)]
    pub seconds: Option<f64>,
    /// How the ground was, and anything else.
    #[serde(default)]
    pub note: String,
}

/// A track laid over a set-up, as it is kept.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[allow(missing_docs)]
pub struct KeptTrack {
    /// Metres in the pen's axes, and seconds.
    pub points: Vec<[f64; 3]>,
    /// Root mean square from the plan, metres.
    pub off: f64,
    /// Pockets at the three spots of each barrel, metres.
    pub pockets: Vec<[f64; 3]>,
    /// Seconds behind each barrel.
    pub behind: Vec<f64>,
    pub seconds: f64,
    /// Where on the earth it was; none for a track that was kept before that was.
    #[serde(default)]
    pub on_earth: Option<OnEarth>,
}

/// Where on the earth a pen's axes lie by a track, and when the track began.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct OnEarth {
    /// Degrees north of the pen's origin.
    pub lat: f64,
    /// Degrees east of it.
    pub lon: f64,
    /// Radians from east to the pen's x, counter-clockwise.
    pub turned: f64,
    /// Seconds since 1970.
    pub began: f64,
}

/// A pass as it is kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct KeptPass {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub rider_id: Uuid,
    pub rider: String,
    pub ride_id: Option<Uuid>,
    pub set_up_id: Uuid,
    /// The name of the set-up.
    pub set_up_name: String,
    pub passed_on: NaiveDate,
    pub gait: Gait,
    pub told: PassTold,
    /// What it was ridden over.
    pub set_up: SetUp,
    pub track: Option<KeptTrack>,
    pub version: i32,
}

/// A pass to log.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct NewPass {
    pub rider_id: Uuid,
    pub ride_id: Option<Uuid>,
    pub set_up_id: Uuid,
    pub passed_on: NaiveDate,
    pub gait: Gait,
    pub told: PassTold,
    /// What it was ridden over, where that was told with it; the set-up as it stands where not.
    pub set_up: Option<SetUp>,
}

/// Passes of a horse since a day, oldest first.
pub async fn passes(db: &PgPool, scope: &Scope, horse: Uuid, since: NaiveDate) -> Result<Vec<KeptPass>> {
    read(db, scope, horse, since, None).await
}

async fn read(db: &PgPool, scope: &Scope, horse: Uuid, since: NaiveDate, only: Option<Uuid>) -> Result<Vec<KeptPass>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select p.id, p.horse_id, p.rider_id, r.name as rider, p.ride_id, p.set_up_id, s.name as set_up_name, p.passed_on,
                  p.gait as "gait: Gait", p.body as "told: Json<PassTold>", p.set_up as "set_up: Json<SetUp>",
                  p.track as "track: Json<KeptTrack>", p.version
           from pattern_pass p
           join horse h on h.barn_id = p.barn_id and h.id = p.horse_id
           join person r on r.barn_id = p.barn_id and r.id = p.rider_id
           join set_up s on s.barn_id = p.barn_id and s.id = p.set_up_id
           where p.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and p.horse_id = $3 and p.passed_on >= $4
                 and p.removed_at is null and ($5::uuid is null or p.id = $5)
           order by p.passed_on, p.created_at, p.id limit 500"#,
        barn,
        owner,
        horse,
        since,
        only
    )
    .fetch_all(db)
    .await?;
    let kept = rows.into_iter().map(|r| KeptPass {
        id: r.id,
        horse_id: r.horse_id,
        rider_id: r.rider_id,
        rider: r.rider,
        ride_id: r.ride_id,
        set_up_id: r.set_up_id,
        set_up_name: r.set_up_name,
        passed_on: r.passed_on,
        gait: r.gait,
        told: r.told.0,
        set_up: r.set_up.0,
        track: r.track.map(|t| t.0),
        version: r.version,
    });
    Ok(kept.collect())
}

/// A timed run of a day, as an event looks at it.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct TimedRun {
    pub pass: Uuid,
    pub horse: String,
    pub rider: String,
    pub told: PassTold,
}

/// The runs over a set-up on a day, with how they went, in the order in which they were logged.
pub async fn runs_of_day(db: &PgPool, scope: &Scope, set_up: Uuid, on: NaiveDate) -> Result<Vec<TimedRun>> {
    let barn = scope.staff()?;
    let rows = sqlx::query!(
        r#"select p.id, h.name as horse, r.name as rider, p.body as "told: Json<PassTold>" from pattern_pass p
           join horse h on h.barn_id = p.barn_id and h.id = p.horse_id
           join person r on r.barn_id = p.barn_id and r.id = p.rider_id
           where p.barn_id = $1 and p.set_up_id = $2 and p.passed_on = $3 and p.gait = 'run' and p.removed_at is null
           order by p.created_at, p.id limit 500"#,
        barn,
        set_up,
        on
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| TimedRun { pass: r.id, horse: r.horse, rider: r.rider, told: r.told.0 }).collect())
}

/// Logs a pass once. The horse, the rider and the set-up must be of the barn.
pub async fn put_pass(db: &PgPool, scope: &Scope, horse: Uuid, id: Uuid, new: &NewPass) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into pattern_pass (barn_id, id, horse_id, rider_id, ride_id, set_up_id, passed_on, gait, body, set_up)
         select $1, $2, $3, $4, $5, $6, $7, $8, $9, coalesce($10, s.body) from set_up s
         where s.barn_id = $1 and s.id = $6 and exists (select from horse where barn_id = $1 and id = $3)
           and exists (select from person where barn_id = $1 and id = $4)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        horse,
        new.rider_id,
        new.ride_id,
        new.set_up_id,
        new.passed_on,
        new.gait.word(),
        Json(&new.told) as _,
        new.set_up.as_ref().map(Json) as _
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let same = sqlx::query_scalar!(
        r#"select horse_id = $3 and set_up_id = $4 and passed_on = $5 and gait = $6 and body = $7 as "same!" from pattern_pass
           where barn_id = $1 and id = $2"#,
        barn,
        id,
        horse,
        new.set_up_id,
        new.passed_on,
        new.gait.word(),
        Json(&new.told) as _
    )
    .fetch_optional(db)
    .await?;
    Ok(Put::of_kept(same))
}

/// A pass that is there: whose, when and over what.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct RiddenOver {
    pub horse_id: Uuid,
    pub passed_on: NaiveDate,
    pub set_up: SetUp,
}

/// The set-up that a pass was ridden over, with its horse.
pub async fn ridden_over(db: &PgPool, scope: &Scope, pass: Uuid) -> Result<Option<RiddenOver>> {
    let barn = scope.staff()?;
    let row = sqlx::query!(
        r#"select horse_id, passed_on, set_up as "set_up: Json<SetUp>" from pattern_pass
           where barn_id = $1 and id = $2 and removed_at is null"#,
        barn,
        pass
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map(|r| RiddenOver { horse_id: r.horse_id, passed_on: r.passed_on, set_up: r.set_up.0 }))
}

/// One pass.
pub async fn pass(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<KeptPass>> {
    let Some(at) = ridden_over(db, scope, id).await? else { return Ok(None) };
    Ok(read(db, scope, at.horse_id, at.passed_on, Some(id)).await?.pop())
}

/// Corrects what was told of a pass, if its version is still `version`.
pub async fn correct_pass(
    db: &PgPool,
    scope: &Scope,
    pass: Uuid,
    version: i32,
    gait: Gait,
    told: &PassTold,
) -> Result<Update<KeptPass>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update pattern_pass set gait = $4, body = $5, version = version + 1
         where barn_id = $1 and id = $2 and version = $3 and removed_at is null",
        barn,
        pass,
        version,
        gait.word(),
        Json(told) as _
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match self::pass(db, scope, pass).await? {
        Some(kept) if done == 1 || (kept.gait == gait && kept.told == *told) => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}

/// Keeps the track of a pass. False where there is no such pass.
pub async fn set_track(db: &PgPool, scope: &Scope, pass: Uuid, track: &KeptTrack) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update pattern_pass set track = $3 where barn_id = $1 and id = $2 and removed_at is null",
        barn,
        pass,
        Json(track) as _
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Takes a pass out, or puts it back. False where there is no such pass.
pub async fn remove_pass(db: &PgPool, scope: &Scope, pass: Uuid, removed: bool) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update pattern_pass set removed_at = case when $3 then coalesce(removed_at, now()) end where barn_id = $1 and id = $2",
        barn,
        pass,
        removed
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}
