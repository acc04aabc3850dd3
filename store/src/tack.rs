//! What bits and bosals measure, who wears them, and what was answered in them.

use cavesson_core::{
    response::Weight,
    ride::Mouthpiece,
    tack::{AnswerCount, Measures, Piece},
};
use chrono::NaiveDate;
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

use crate::{Owned, Result, Scope, Update};

/// Measures as they are kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct KeptMeasures {
    pub measures: Measures,
    pub measured_on: NaiveDate,
    pub version: i32,
}

/// A piece that is in use, on the wall.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct OnWall {
    pub gear_id: Uuid,
    pub horse_id: Uuid,
    pub horse: String,
    /// The year in which the horse was foaled.
    pub foaled: Option<i32>,
    pub name: String,
    pub mouthpiece: Mouthpiece,
    /// Since when the horse has it: the day it was fitted.
    pub since: NaiveDate,
    pub mouth_seen: Option<NaiveDate>,
    pub teeth_seen: Option<NaiveDate>,
    pub measures: Option<KeptMeasures>,
    /// Days ridden in it.
    pub days: i64,
    pub last_worn: Option<NaiveDate>,
    /// Whether a ride of the day wears it.
    pub today: bool,
}

/// The bits and bosals in use of horses that are here, by horse. What was worn on `today` counts as worn.
pub async fn wall(db: &PgPool, scope: &Scope, today: NaiveDate) -> Result<Vec<OnWall>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select g.id, g.horse_id, h.name as horse, h.foaled, g.name, g.mouthpiece as "mouthpiece!: Mouthpiece", g.since, g.mouth_seen,
                  g.teeth_seen, m.body as "body?: Json<Measures>", m.measured_on as "measured_on?", m.version as "version?",
                  w.days as "days!", w.last as last_worn, w.today as "today!"
           from gear g
           join horse h on h.barn_id = g.barn_id and h.id = g.horse_id
           left join gear_measure m on m.barn_id = g.barn_id and m.gear_id = g.id
           cross join lateral (
               select count(distinct r.ridden_on) filter (where r.state <> 'planned') as days,
                      max(r.ridden_on) filter (where r.state <> 'planned') as last,
                      coalesce(bool_or(r.ridden_on = $3), false) as today
               from worn rg join ride r on r.barn_id = rg.barn_id and r.id = rg.ride_id
               where rg.barn_id = g.barn_id and rg.gear_id = g.id and r.ridden_on <= $3) w
           where g.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and g.archived_at is null and h.archived_at is null
                 and g.mouthpiece is not null
           order by h.name, h.id, g.since desc, g.name, g.id limit 500"#,
        barn,
        owner,
        today
    )
    .fetch_all(db)
    .await?;
    let piece = rows.into_iter().map(|r| OnWall {
        gear_id: r.id,
        horse_id: r.horse_id,
        horse: r.horse,
        foaled: r.foaled,
        name: r.name,
        mouthpiece: r.mouthpiece,
        since: r.since,
        mouth_seen: r.mouth_seen,
        teeth_seen: r.teeth_seen,
        measures: (r.body.zip(r.measured_on).zip(r.version)).map(|((body, measured_on), version)| KeptMeasures {
            measures: body.0,
            measured_on,
            version,
        }),
        days: r.days,
        last_worn: r.last_worn,
        today: r.today,
    });
    Ok(piece.collect())
}

/// What a piece measures, where that was taken.
pub async fn measures(db: &PgPool, scope: &Scope, gear: Uuid) -> Result<Option<KeptMeasures>> {
    let Owned { barn, owner } = scope.owned();
    let row = sqlx::query!(
        r#"select m.body as "body: Json<Measures>", m.measured_on, m.version from gear_measure m
           join gear g on g.barn_id = m.barn_id and g.id = m.gear_id
           join horse h on h.barn_id = g.barn_id and h.id = g.horse_id
           where m.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and m.gear_id = $3"#,
        barn,
        owner,
        gear
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map(|r| KeptMeasures { measures: r.body.0, measured_on: r.measured_on, version: r.version }))
}

/// Notes what a piece measures, or notes it anew if the version is still `version` (0 where there is none).
pub async fn put_measures(
    db: &PgPool,
    scope: &Scope,
    gear: Uuid,
    version: i32,
    measures: &Measures,
    on: NaiveDate,
) -> Result<Update<KeptMeasures>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into gear_measure (barn_id, gear_id, body, measured_on)
         select $1, $2, $4, $5 where exists (select from gear where barn_id = $1 and id = $2)
            and ($3 = 0 or exists (select from gear_measure where barn_id = $1 and gear_id = $2))
         on conflict (barn_id, gear_id) do update set body = excluded.body, measured_on = excluded.measured_on,
            version = gear_measure.version + 1 where gear_measure.version = $3",
        barn,
        gear,
        version,
        Json(measures) as _,
        on
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(match self::measures(db, scope, gear).await? {
        Some(kept) if done == 1 || kept.measures == *measures => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}

/// The answers that a horse gave in either of two pieces since a day, counted by day, ask, weight and whether they were whole. A stretch
/// in which it wore both says nothing of either.
pub async fn answers_in(
    db: &PgPool,
    scope: &Scope,
    horse: Uuid,
    [first, second]: [Uuid; 2],
    since: NaiveDate,
) -> Result<Vec<AnswerCount>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"with stretch as (
               select w.ride_id, w.at, lead(w.at) over (partition by w.ride_id order by w.at) as until,
                      bool_or(w.gear_id = $5) as second, count(*) filter (where w.gear_id in ($4, $5)) as pieces
               from worn w join ride r on r.barn_id = w.barn_id and r.id = w.ride_id
               where w.barn_id = $1 and r.horse_id = $3 and r.ridden_on >= $6
               group by w.ride_id, w.at)
           select r.ridden_on as day, s.rung || '@' || s.gait || ' ' || s.side as "ask!", w.second as "second!",
                  p.weight as "weight: Weight", p.outcome = 'gave' as "whole!", count(*) as "asks!", count(p.millis) as "timed!",
                  avg(ln(greatest(p.millis, 50) / 1000.0))::float8 as log_seconds
           from stretch w
           join ride r on r.barn_id = $1 and r.id = w.ride_id and r.state <> 'planned'
           join horse h on h.barn_id = r.barn_id and h.id = r.horse_id and ($2::uuid is null or h.owner_id = $2)
           join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
           join rep p on p.barn_id = s.barn_id and p.set_id = s.id and p.removed_at is null
                and coalesce(p.asked_at, '-infinity') >= w.at and (w.until is null or coalesce(p.asked_at, '-infinity') < w.until)
           where w.pieces = 1
           group by 1, 2, 3, 4, 5 order by 1, 2, 3, 4, 5"#,
        barn,
        owner,
        horse,
        first,
        second,
        since
    )
    .fetch_all(db)
    .await?;
    let count = |n: i64| u32::try_from(n).unwrap_or(u32::MAX);
    let counted = rows.into_iter().map(|r| AnswerCount {
        day: r.day,
        ask: r.ask,
        piece: if r.second { Piece::Second } else { Piece::First },
        weight: r.weight,
        whole: r.whole,
        asks: count(r.asks),
        seconds: r.log_seconds.map(|log| (count(r.timed), log)),
    });
    Ok(counted.collect())
}
