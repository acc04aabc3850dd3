//! What stands around a planned ride: the trainer's changes to the plan, checks before mounting, and the weather.

use cavesson_core::{
    barn::{CheckAnswer, EditKind},
    curriculum::Side,
    load::Weather,
};
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Owned, Put, Result, Scope, StoreError, log::revision::rides_changed};

/// A change to a plan.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Edit {
    pub id: Uuid,
    pub edit: EditKind,
    pub step: String,
    pub into_step: Option<String>,
}

/// A swap made on an earlier ride of a horse.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Swapped {
    pub horse_id: Uuid,
    pub on: NaiveDate,
    pub from: String,
    pub to: String,
}

/// A check as it was answered.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Checked {
    pub ride_id: Uuid,
    pub check: String,
    pub side: Side,
    pub answer: CheckAnswer,
    pub words: String,
    pub who: String,
}

/// The changes to the plans of rides, by ride and in order.
pub async fn edits(db: &PgPool, scope: &Scope, rides: &[Uuid]) -> Result<Vec<(Uuid, Edit)>> {
    let rows = sqlx::query!(
        r#"select ride_id, id, edit as "edit: EditKind", step, into_step from ride_edit
           where barn_id = $1 and ride_id = any($2) order by ride_id, position"#,
        scope.of_seen(),
        rides
    )
    .fetch_all(db)
    .await?;
    Ok(rows
        .into_iter()
        .map(|r| (r.ride_id, Edit { id: r.id, edit: r.edit, step: r.step, into_step: r.into_step }))
        .collect())
}

/// Keeps a change to the plan of a ride. A swap is remembered, so the horse's log counts up.
pub async fn put_edit(db: &PgPool, scope: &Scope, ride: Uuid, new: &Edit) -> Result<Put> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "insert into ride_edit (barn_id, id, ride_id, edit, step, into_step, made_by)
         select $1, $2, $3, $4, $5, $6, $7 where exists (select from ride where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do nothing",
        barn,
        new.id,
        ride,
        new.edit.word(),
        new.step,
        new.into_step,
        scope.person()
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        rides_changed(&mut tx, scope, &[ride]).await?;
        tx.commit().await?;
        return Ok(Put::Created);
    }
    let there = edits(db, scope, &[ride]).await?.into_iter().map(|e| e.1).find(|e| e.id == new.id);
    Ok(match there {
        Some(e) if e == *new => Put::Same,
        Some(_) => Put::Taken,
        None => {
            let known = sqlx::query_scalar!(
                r#"select exists (select from ride where barn_id = $1 and id = $2) as "yes!""#,
                barn,
                ride
            )
            .fetch_one(db)
            .await?;
            if known { Put::Taken } else { Put::Missing }
        }
    })
}

/// Takes back every change to the plan of a ride.
pub async fn clear_edits(db: &PgPool, scope: &Scope, ride: Uuid) -> Result<()> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    sqlx::query!("delete from ride_edit where barn_id = $1 and ride_id = $2", barn, ride).execute(&mut *tx).await?;
    // The swaps among them are no longer remembered either.
    rides_changed(&mut tx, scope, &[ride]).await?;
    tx.commit().await?;
    Ok(())
}

/// Swaps made on rides of these horses since a day, by horse and then by day.
pub async fn swaps(db: &PgPool, scope: &Scope, horses: &[Uuid], since: NaiveDate) -> Result<Vec<Swapped>> {
    Ok(sqlx::query_as!(
        Swapped,
        r#"select r.horse_id, r.ridden_on as "on", e.step as "from", e.into_step as "to!"
           from ride_edit e join ride r on r.barn_id = e.barn_id and r.id = e.ride_id
           where e.barn_id = $1 and r.horse_id = any($2) and r.ridden_on >= $3 and e.edit = 'swap'
           order by r.horse_id, r.ridden_on, e.position"#,
        scope.of_seen(),
        horses,
        since
    )
    .fetch_all(db)
    .await?)
}

/// The checks of rides that were answered, by ride and in the order of the answers.
pub async fn checks(db: &PgPool, scope: &Scope, rides: &[Uuid]) -> Result<Vec<Checked>> {
    Ok(sqlx::query_as!(
        Checked,
        r#"select c.ride_id, c.check_id as "check", c.side as "side: Side", c.answer as "answer: CheckAnswer", c.words, p.name as who
           from ride_check c join person p on p.barn_id = c.barn_id and p.id = c.answered_by
           where c.barn_id = $1 and c.ride_id = any($2) order by c.ride_id, c.answered_at, c.check_id"#,
        scope.of_seen(),
        rides
    )
    .fetch_all(db)
    .await?)
}

/// Keeps the answer to a check; a later answer takes the place of an earlier one. False where there is no such ride.
pub async fn put_check(
    db: &PgPool,
    scope: &Scope,
    ride: Uuid,
    check: &str,
    side: Side,
    answer: CheckAnswer,
    words: &str,
) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into ride_check (barn_id, ride_id, check_id, side, answer, words, answered_by)
         select $1, $2, $3, $4, $5, $6, $7 where exists (select from ride where barn_id = $1 and id = $2)
         on conflict (barn_id, ride_id, check_id, side) do update
         set answer = excluded.answer, words = excluded.words, answered_by = excluded.answered_by, answered_at = now()",
        barn,
        ride,
        check,
        side.word(),
        answer.word(),
        words,
        scope.person()
    )
    .execute(db)
    .await?
    .rows_affected();
    Ok(done == 1)
}

/// The air of a day, where someone typed it in.
pub async fn weather(db: &PgPool, scope: &Scope, day: NaiveDate) -> Result<Option<Weather>> {
    let row =
        sqlx::query!("select decicelsius, humidity from weather where barn_id = $1 and day = $2", scope.shared(), day)
            .fetch_optional(db)
            .await?;
    row.map(|r| air(r.decicelsius, r.humidity)).transpose()
}

/// Keeps the air of a day; what is typed later takes the place of what was typed before.
pub async fn put_weather(db: &PgPool, scope: &Scope, day: NaiveDate, air: Weather) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into weather (barn_id, day, decicelsius, humidity, told_by) values ($1, $2, $3, $4, $5)
         on conflict (barn_id, day) do update set decicelsius = excluded.decicelsius, humidity = excluded.humidity,
             told_by = excluded.told_by, told_at = now()",
        barn,
        day,
        decicelsius(air),
        i16::from(air.humidity()),
        scope.person()
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Notes the air in which a ride is ridden, where none is noted yet.
pub async fn note_air(db: &PgPool, scope: &Scope, ride: Uuid, air: Weather, hot: bool) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "update ride set decicelsius = $3, humidity = $4, hot = coalesce(hot, $5)
         where barn_id = $1 and id = $2 and decicelsius is null",
        barn,
        ride,
        decicelsius(air),
        i16::from(air.humidity()),
        hot
    )
    .execute(db)
    .await?;
    Ok(())
}

fn decicelsius(air: Weather) -> i16 {
    (air.celsius() * 10.0).round() as i16
}

fn air(decicelsius: i16, humidity: i16) -> Result<Weather> {
    Weather::new(f64::from(decicelsius) / 10.0, f64::from(humidity)).map_err(|e| StoreError::Unreadable(e.to_string()))
}

/// The barn's own words for rungs.
pub async fn aliases(db: &PgPool, scope: &Scope) -> Result<Vec<(String, String)>> {
    let rows = sqlx::query!("select word, rung from alias where barn_id = $1 order by word", scope.shared())
        .fetch_all(db)
        .await?;
    Ok(rows.into_iter().map(|r| (r.word, r.rung)).collect())
}

/// Keeps a word for a rung, or forgets it where there is no rung.
pub async fn put_alias(db: &PgPool, scope: &Scope, word: &str, rung: Option<&str>) -> Result<()> {
    let barn = scope.staff()?;
    match rung {
        Some(rung) => {
            sqlx::query!(
                "insert into alias (barn_id, word, rung) values ($1, $2, $3)
             on conflict (barn_id, word) do update set rung = excluded.rung",
                barn,
                word,
                rung
            )
            .execute(db)
            .await?
        }
        None => sqlx::query!("delete from alias where barn_id = $1 and word = $2", barn, word).execute(db).await?,
    };
    Ok(())
}

/// The next planned ride of each horse from a day on.
pub async fn next_of_each(db: &PgPool, scope: &Scope, from: NaiveDate) -> Result<Vec<(Uuid, NaiveDate)>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select r.horse_id, min(r.ridden_on) as "day!" from ride r join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
           where r.barn_id = $1 and ($2::uuid is null or h.owner_id = $2)
             and r.state = 'planned' and r.missed is null and r.ridden_on >= $3
           group by r.horse_id"#,
        barn,
        owner,
        from
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.day)).collect())
}
