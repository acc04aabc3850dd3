//! Calendars of rides under private addresses.

use cavesson_core::curriculum::Place;
use chrono::{DateTime, NaiveDate, NaiveTime, Utc};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Put, Result, Scope};

/// An address that was given out.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Feed {
    pub id: Uuid,
    pub person_id: Option<Uuid>,
    pub horse_id: Option<Uuid>,
    /// The person's or the horse's.
    pub name: String,
    pub created_at: DateTime<Utc>,
}

/// Gives out an address, or another one in its place under the same id. The person or the horse must be of the barn.
pub async fn put(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    (person, horse): (Option<Uuid>, Option<Uuid>),
    token_hash: &[u8],
) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into feed (barn_id, id, token_hash, person_id, horse_id, made_by)
         select $1, $2, $3, $4, $5, $6
         where ($4::uuid is null or exists (select from person where barn_id = $1 and id = $4))
           and ($5::uuid is null or exists (select from horse where barn_id = $1 and id = $5))
         on conflict (barn_id, id) do update set token_hash = excluded.token_hash
            where feed.person_id is not distinct from $4 and feed.horse_id is not distinct from $5",
        barn,
        id,
        token_hash,
        person,
        horse,
        scope.person()
    )
    .execute(db)
    .await?;
    Ok(if done.rows_affected() == 1 { Put::Created } else { Put::Missing })
}

/// The addresses that were given out, by name.
pub async fn list(db: &PgPool, scope: &Scope) -> Result<Vec<Feed>> {
    let barn = scope.staff()?;
    Ok(sqlx::query_as!(
        Feed,
        r#"select f.id, f.person_id, f.horse_id, coalesce(p.name, h.name) as "name!", f.created_at from feed f
           left join person p on p.barn_id = f.barn_id and p.id = f.person_id
           left join horse h on h.barn_id = f.barn_id and h.id = f.horse_id
           where f.barn_id = $1 order by 4, f.id"#,
        barn
    )
    .fetch_all(db)
    .await?)
}

/// Takes an address back. False where there is none.
pub async fn revoke(db: &PgPool, scope: &Scope, id: Uuid) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!("delete from feed where barn_id = $1 and id = $2", barn, id).execute(db).await?;
    Ok(done.rows_affected() == 1)
}

/// Whose rides an address shows.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Shown {
    pub barn_id: Uuid,
    pub time_zone: String,
    pub name: String,
    pub person_id: Option<Uuid>,
    pub horse_id: Option<Uuid>,
}

/// The calendar of an address that was not taken back. A rider's ends with their work here, a horse's when whoever gave it out is no
/// longer a trainer.
pub async fn find(db: &PgPool, token_hash: &[u8]) -> Result<Option<Shown>> {
    Ok(sqlx::query_as!(
        Shown,
        r#"select f.barn_id, b.time_zone, coalesce(p.name, h.name) as "name!", f.person_id, f.horse_id
           from feed f join barn b on b.id = f.barn_id
           left join person p on p.barn_id = f.barn_id and p.id = f.person_id
           left join horse h on h.barn_id = f.barn_id and h.id = f.horse_id
           left join person m on m.barn_id = f.barn_id and m.id = f.made_by
           where f.token_hash = $1 and p.archived_at is null and h.archived_at is null
             and case when f.horse_id is null then p.role <> 'owner'
                      else m.archived_at is null and m.role = 'trainer' end"#,
        token_hash
    )
    .fetch_optional(db)
    .await?)
}

/// A ride of a calendar.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct FeedRide {
    pub id: Uuid,
    pub horse: String,
    pub rider: String,
    pub ridden_on: NaiveDate,
    pub starts_at: NaiveTime,
    pub place: Place,
    /// The barn's own name for where it is.
    pub ground: Option<String>,
    pub version: i32,
    /// Minutes that were told of a ride that was ridden.
    pub minutes: Option<i32>,
    /// What a planned ride is for: the horse and the step.
    pub work: Option<String>,
    /// The horse's year of birth.
    pub foaled: Option<i32>,
}

/// The rides of a calendar from a day to another that have an hour.
pub async fn rides(db: &PgPool, shown: &Shown, from: NaiveDate, to: NaiveDate) -> Result<Vec<FeedRide>> {
    Ok(sqlx::query_as!(
        FeedRide,
        r#"select r.id, h.name as horse, p.name as rider, r.ridden_on, r.starts_at as "starts_at!", r.place as "place: Place",
             g.name as "ground?", r.version,
             (r.stand_minutes + r.walk_minutes + r.jog_minutes + r.lope_minutes + r.run_minutes)::int as minutes, r.work,
             h.foaled::int as foaled
           from ride r
           join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
           join person p on p.barn_id = r.barn_id and p.id = r.rider_id
           left join ground g on g.barn_id = r.barn_id and g.id = r.ground_id
           where r.barn_id = $1 and r.ridden_on between $2 and $3 and r.starts_at is not null and r.missed is null
             and ($4::uuid is null or r.rider_id = $4) and ($5::uuid is null or r.horse_id = $5)
           order by r.ridden_on, r.starts_at, r.id"#,
        shown.barn_id,
        from,
        to,
        shown.person_id,
        shown.horse_id
    )
    .fetch_all(db)
    .await?)
}
