//! When there is who and what: people's hours, places, cattle, rides agreed on, and who is away.

use cavesson_core::curriculum::Place;
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Owned, Put, Result, Scope};

/// A stretch of a weekday, 0 for Monday, in minutes after midnight.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Hours {
    pub weekday: i16,
    pub from: i16,
    pub to: i16,
}

/// The hours of everyone who has some, by person.
pub async fn of_people(db: &PgPool, scope: &Scope) -> Result<Vec<(Uuid, Hours)>> {
    let barn = scope.staff()?;
    let rows = sqlx::query!(
        "select person_id, weekday, from_minute, to_minute from person_hours where barn_id = $1
         order by person_id, weekday, from_minute",
        barn
    )
    .fetch_all(db)
    .await?;
    Ok(rows
        .into_iter()
        .map(|r| (r.person_id, Hours { weekday: r.weekday, from: r.from_minute, to: r.to_minute }))
        .collect())
}

/// Sets all hours of a person. False where the barn has no such person.
pub async fn set_for_person(db: &PgPool, scope: &Scope, person: Uuid, hours: &[Hours]) -> Result<bool> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    // Of two who set the same person's hours at once, one waits for the other.
    let known =
        sqlx::query_scalar!("select id from person where barn_id = $1 and id = $2 for no key update", barn, person)
            .fetch_optional(&mut *tx)
            .await?;
    if known.is_none() {
        return Ok(false);
    }
    sqlx::query!("delete from person_hours where barn_id = $1 and person_id = $2", barn, person)
        .execute(&mut *tx)
        .await?;
    sqlx::query!(
        "insert into person_hours (barn_id, person_id, weekday, from_minute, to_minute)
         select $1, $2, * from unnest($3::smallint[], $4::smallint[], $5::smallint[])",
        barn,
        person,
        &hours.iter().map(|h| h.weekday).collect::<Vec<_>>(),
        &hours.iter().map(|h| h.from).collect::<Vec<_>>(),
        &hours.iter().map(|h| h.to).collect::<Vec<_>>()
    )
    .execute(&mut *tx)
    .await?;
    tx.commit().await?;
    Ok(true)
}

/// A place as the barn set it.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct PlaceHours {
    pub place: Place,
    pub at_once: i16,
    pub from: i16,
    pub to: i16,
}

/// The places that the barn has set.
pub async fn places(db: &PgPool, scope: &Scope) -> Result<Vec<PlaceHours>> {
    Ok(sqlx::query_as!(
        PlaceHours,
        r#"select place as "place: Place", at_once, from_minute as "from!", to_minute as "to!" from place_hours where barn_id = $1"#,
        scope.shared()
    )
    .fetch_all(db)
    .await?)
}

/// Sets a place.
pub async fn set_place(db: &PgPool, scope: &Scope, p: &PlaceHours) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into place_hours (barn_id, place, at_once, from_minute, to_minute) values ($1, $2, $3, $4, $5)
         on conflict (barn_id, place) do update set at_once = $3, from_minute = $4, to_minute = $5",
        barn,
        p.place.word(),
        p.at_once,
        p.from,
        p.to
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Works of the cattle by weekday.
pub async fn cattle(db: &PgPool, scope: &Scope) -> Result<Vec<(i16, i16)>> {
    let rows =
        sqlx::query!("select weekday, works from cattle_day where barn_id = $1", scope.shared()).fetch_all(db).await?;
    Ok(rows.into_iter().map(|r| (r.weekday, r.works)).collect())
}

/// Sets the works of the cattle on every weekday.
pub async fn set_cattle(db: &PgPool, scope: &Scope, works: &[i16; 7]) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into cattle_day (barn_id, weekday, works)
         select $1, n - 1, w from unnest($2::smallint[]) with ordinality as t (w, n)
         on conflict (barn_id, weekday) do update set works = excluded.works",
        barn,
        &works[..]
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Rides a week that were agreed on, by horse.
pub async fn agreed(db: &PgPool, scope: &Scope) -> Result<Vec<(Uuid, i16, i16)>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select id, rides_least as "least!", rides_most as "most!" from horse
           where barn_id = $1 and rides_least is not null and ($2::uuid is null or owner_id = $2)"#,
        barn,
        owner
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.id, r.least, r.most)).collect())
}

/// Sets the rides a week of a horse, or that nothing was agreed on. False where the barn has no such horse.
pub async fn set_agreed(db: &PgPool, scope: &Scope, horse: Uuid, rides: Option<(i16, i16)>) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update horse set rides_least = $3, rides_most = $4 where barn_id = $1 and id = $2",
        barn,
        horse,
        rides.map(|r| r.0),
        rides.map(|r| r.1)
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Someone or a horse that is not there for a while.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Away {
    pub id: Uuid,
    pub person_id: Option<Uuid>,
    pub horse_id: Option<Uuid>,
    pub day: NaiveDate,
    pub from: i16,
    pub to: i16,
    pub why: String,
}

/// Who is away from a day to another, both included. An owner sees when their own horses are.
pub async fn away(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Away>> {
    let Owned { barn, owner } = scope.owned();
    Ok(sqlx::query_as!(
        Away,
        r#"select id, person_id, horse_id, day, from_minute as "from!", to_minute as "to!", why from away
           where barn_id = $1 and day between $2 and $3
             and ($4::uuid is null or horse_id in (select h.id from horse h where h.barn_id = $1 and h.owner_id = $4))
           order by day, from_minute, id"#,
        barn,
        from,
        to,
        owner
    )
    .fetch_all(db)
    .await?)
}

/// Writes down that someone is away. The person or the horse must be of the barn.
pub async fn put_away(db: &PgPool, scope: &Scope, a: &Away) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into away (barn_id, id, person_id, horse_id, day, from_minute, to_minute, why, made_by)
         select $1, $2, $3, $4, $5, $6, $7, $8, $9
         where ($3::uuid is null or exists (select from person where barn_id = $1 and id = $3))
           and ($4::uuid is null or exists (select from horse where barn_id = $1 and id = $4))
         on conflict (barn_id, id) do nothing",
        barn,
        a.id,
        a.person_id,
        a.horse_id,
        a.day,
        a.from,
        a.to,
        a.why,
        scope.person()
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let there = away(db, scope, a.day, a.day).await?;
    let taken =
        sqlx::query_scalar!(r#"select exists (select from away where barn_id = $1 and id = $2) as "yes!""#, barn, a.id)
            .fetch_one(db)
            .await?;
    Ok(if there.contains(a) {
        Put::Same
    } else if taken {
        Put::Taken
    } else {
        Put::Missing
    })
}

/// Takes back that someone is away. False where that was not written down.
pub async fn drop_away(db: &PgPool, scope: &Scope, id: Uuid) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!("delete from away where barn_id = $1 and id = $2", barn, id).execute(db).await?;
    Ok(done.rows_affected() == 1)
}
