//! Incidents: what happened, with whom, what came before, and who may ride since.

use cavesson_core::barn::{IncidentKind, MayRide};
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Put, Result, Scope};

/// An incident as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Incident {
    pub id: Uuid,
    pub happened_on: NaiveDate,
    pub kind: IncidentKind,
    pub rider_id: Uuid,
    pub rider: String,
    /// What came before.
    pub before: String,
    /// Who or what was hurt.
    pub hurt: String,
    pub may_ride: MayRide,
    pub made_by: String,
}

/// An incident to write down.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct NewIncident {
    pub happened_on: NaiveDate,
    pub kind: IncidentKind,
    pub rider_id: Uuid,
    pub before: String,
    pub hurt: String,
    pub may_ride: MayRide,
}

/// The incidents of a horse, latest first.
pub async fn of_horse(db: &PgPool, scope: &Scope, horse: Uuid) -> Result<Vec<Incident>> {
    Ok(sqlx::query_as!(
        Incident,
        r#"select i.id, i.happened_on, i.kind as "kind: IncidentKind", i.rider_id, r.name as rider, i.before, i.hurt,
                  i.may_ride as "may_ride: MayRide", m.name as made_by
           from incident i
           join person r on r.barn_id = i.barn_id and r.id = i.rider_id
           join person m on m.barn_id = i.barn_id and m.id = i.made_by
           where i.barn_id = $1 and i.horse_id = $2 order by i.happened_on desc, i.created_at desc, i.id"#,
        scope.of_seen(),
        horse
    )
    .fetch_all(db)
    .await?)
}

/// Writes an incident down, once. The horse and the rider must be of the barn.
pub async fn put(db: &PgPool, scope: &Scope, horse: Uuid, id: Uuid, new: &NewIncident) -> Result<Put> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into incident (barn_id, id, horse_id, happened_on, kind, rider_id, before, hurt, may_ride, made_by)
         select $1, $2, $3, $4, $5, $6, $7, $8, $9, $10
         where exists (select from horse where barn_id = $1 and id = $3)
           and exists (select from person where barn_id = $1 and id = $6)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        horse,
        new.happened_on,
        new.kind.word(),
        new.rider_id,
        new.before,
        new.hurt,
        new.may_ride.word(),
        scope.person()
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    let same = sqlx::query_scalar!(
        r#"select horse_id = $3 and kind = $4 and before = $5 and may_ride = $6 as "same!" from incident
           where barn_id = $1 and id = $2"#,
        barn,
        id,
        horse,
        new.kind.word(),
        new.before,
        new.may_ride.word()
    )
    .fetch_optional(db)
    .await?;
    Ok(Put::of_kept(same))
}
