//! The record read back as evidence, of several horses at once.

use cavesson_core::{
    belief::Count,
    ladder::{Gait, Hands, Place, Side},
    response::Rep,
};
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{
    Result, Scope, StoreError,
    rep::{from_row, known},
};

/// A rep as evidence: when, what, which side, where, in whose hands, and the answer.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Evidence {
    pub horse_id: Uuid,
    pub date: NaiveDate,
    pub rung: String,
    pub gait: Gait,
    pub side: Side,
    pub place: Place,
    pub hands: Hands,
    pub rep: Rep,
}

/// A count as evidence.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Counted {
    pub horse_id: Uuid,
    pub date: NaiveDate,
    pub rung: String,
    pub gait: Gait,
    pub side: Side,
    pub count: Count,
}

/// A rep with all that stood around it, for the faults.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Faulted {
    pub horse_id: Uuid,
    pub ride_id: Uuid,
    pub date: NaiveDate,
    pub rung: String,
    pub gait: Gait,
    pub side: Side,
    pub place: Place,
    pub rider: String,
    pub bit: Option<String>,
    pub hot: Option<bool>,
    pub faults: Vec<String>,
}

/// Every rep of these horses that was not removed, by horse and then in order of the day; of one rung and gait alone
/// where `only` names them.
pub async fn reps(db: &PgPool, scope: &Scope, horses: &[Uuid], only: Option<(&str, Gait)>) -> Result<Vec<Evidence>> {
    let rows = sqlx::query!(
        "select r.horse_id, r.ridden_on, r.place, p.role, s.rung, s.gait, s.side, rep.outcome, rep.missing, rep.weight,
                rep.millis
         from ride r
         join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
         join person p on p.barn_id = r.barn_id and p.id = coalesce(s.rider_id, r.rider_id)
         join rep on rep.barn_id = s.barn_id and rep.set_id = s.id
         where r.barn_id = $1 and r.horse_id = any($2) and rep.removed_at is null
           and ($3::text is null or (s.rung = $3 and s.gait = $4))
         order by r.horse_id, r.ridden_on",
        scope.barn,
        horses,
        only.map(|(rung, _)| rung),
        only.map(|(_, gait)| gait.word())
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            Ok(Evidence {
                horse_id: r.horse_id,
                date: r.ridden_on,
                gait: known(&r.gait)?,
                side: known(&r.side)?,
                place: known(&r.place)?,
                hands: known(&r.role)?,
                rep: from_row(&r.outcome, r.missing, &r.weight, r.millis)?,
                rung: r.rung,
            })
        })
        .collect()
}

/// Every count of these horses, by horse and then in order of the day.
pub async fn counts(db: &PgPool, scope: &Scope, horses: &[Uuid]) -> Result<Vec<Counted>> {
    let rows = sqlx::query!(
        r#"select r.horse_id, r.ridden_on, s.rung, s.gait, s.side, s.count as "count!"
           from ride r join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
           where r.barn_id = $1 and r.horse_id = any($2) and s.count is not null
           order by r.horse_id, r.ridden_on, s.position"#,
        scope.barn,
        horses
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            let count = serde_json::from_value(r.count).map_err(|e| StoreError::Unreadable(format!("a count: {e}")))?;
            let (gait, side) = (known(&r.gait)?, known(&r.side)?);
            Ok(Counted { horse_id: r.horse_id, date: r.ridden_on, rung: r.rung, gait, side, count })
        })
        .collect()
}

/// Days on which a sign was noted, by horse and then in order of the day.
pub async fn signs(db: &PgPool, scope: &Scope, horses: &[Uuid]) -> Result<Vec<(Uuid, NaiveDate, Vec<String>)>> {
    let rows = sqlx::query!(
        "select horse_id, ridden_on, signs from ride
         where barn_id = $1 and horse_id = any($2) and state <> 'planned' and signs <> '{}'
         order by horse_id, ridden_on",
        scope.barn,
        horses
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.horse_id, r.ridden_on, r.signs)).collect())
}

/// The reps of these horses since a day, with their faults, in the order in which they were asked, by horse and ride.
pub async fn faults(db: &PgPool, scope: &Scope, horses: &[Uuid], since: NaiveDate) -> Result<Vec<Faulted>> {
    let rows = sqlx::query!(
        "select r.horse_id, r.id, r.ridden_on, r.place, r.bit, r.hot, p.name, s.rung, s.gait, s.side, rep.faults
         from ride r
         join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
         join person p on p.barn_id = r.barn_id and p.id = coalesce(s.rider_id, r.rider_id)
         join rep on rep.barn_id = s.barn_id and rep.set_id = s.id
         where r.barn_id = $1 and r.horse_id = any($2) and rep.removed_at is null and r.ridden_on >= $3
         order by r.horse_id, r.ridden_on, r.id, s.position, rep.position",
        scope.barn,
        horses,
        since
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            Ok(Faulted {
                horse_id: r.horse_id,
                ride_id: r.id,
                date: r.ridden_on,
                rung: r.rung,
                gait: known(&r.gait)?,
                side: known(&r.side)?,
                place: known(&r.place)?,
                rider: r.name,
                bit: r.bit,
                hot: r.hot,
                faults: r.faults,
            })
        })
        .collect()
}
