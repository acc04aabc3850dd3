//! Corrections of logged reps, with a trace of who changed what.

use cavesson_core::{
    curriculum::{Gait, Side},
    response::Rep,
};
use chrono::{DateTime, NaiveDate, Utc};
use serde_json::json;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{
    Page, Result, Scope, Update,
    log::rep::{LoggedRep, get, to_row, touch},
};

/// What a rep is corrected to.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Correction {
    pub rep: Rep,
    pub faults: Vec<String>,
    pub removed: bool,
}

/// A change to a logged rep, or with an id under 0 to a count or to who rode a set.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct Change {
    pub id: i64,
    pub at: DateTime<Utc>,
    pub person_name: String,
    pub ride_id: Uuid,
    pub ridden_on: NaiveDate,
    pub rung: String,
    pub gait: Gait,
    pub side: Side,
    pub before: serde_json::Value,
    pub after: Option<serde_json::Value>,
}

/// Corrects, removes or restores a logged rep, and keeps who did it and what it was before.
pub async fn put(db: &PgPool, scope: &Scope, id: Uuid, version: i32, to: &Correction) -> Result<Update<LoggedRep>> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let Some(row) = sqlx::query!(
        "select s.ride_id, r.horse_id from rep join ride_set s on s.barn_id = rep.barn_id and s.id = rep.set_id
         join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
         where rep.barn_id = $1 and rep.id = $2 for update of rep",
        barn,
        id
    )
    .fetch_optional(&mut *tx)
    .await?
    else {
        return Ok(Update::Missing);
    };
    let before = get(&mut tx, scope, id).await?;
    if before.version != version {
        return Ok(Update::Stale(before));
    }
    let new = to_row(&to.rep);
    sqlx::query!(
        "update rep set outcome = $3, missing = $4, weight = $5, millis = $6, faults = $7, version = version + 1,
                removed_at = case when $8 then coalesce(removed_at, now()) end
         where barn_id = $1 and id = $2",
        barn,
        id,
        new.outcome,
        new.missing,
        new.weight,
        new.millis,
        &to.faults,
        to.removed
    )
    .execute(&mut *tx)
    .await?;
    let after = get(&mut tx, scope, id).await?;
    sqlx::query!(
        "insert into rep_change (barn_id, rep_id, horse_id, person_id, before, after) values ($1, $2, $3, $4, $5, $6)",
        barn,
        id,
        row.horse_id,
        scope.person(),
        told(&before),
        (!after.removed).then(|| told(&after))
    )
    .execute(&mut *tx)
    .await?;
    touch(&mut tx, scope, &[row.ride_id]).await?;
    tx.commit().await?;
    Ok(Update::Done(after))
}

fn told(rep: &LoggedRep) -> serde_json::Value {
    let row = to_row(&rep.rep);
    json!({ "outcome": row.outcome, "missing": row.missing, "weight": row.weight, "millis": row.millis, "faults": rep.faults,
            "removed": rep.removed })
}

/// Changes to a horse's logged reps and counts and to who rode its sets, latest first.
pub async fn changes(db: &PgPool, scope: &Scope, horse: Uuid, offset: i64, limit: i64) -> Result<Page<Change>> {
    let rows = sqlx::query_as!(
        Change,
        r#"select c.id as "id!", c.at as "at!", p.name as "person_name!", r.id as "ride_id!", r.ridden_on as "ridden_on!",
                  s.rung as "rung!", s.gait as "gait!: Gait", s.side as "side!: Side", c.before as "before!", c.after
           from (select rc.id, rc.at, rc.person_id, rep.set_id, rc.before, rc.after
                 from rep_change rc join rep on rep.barn_id = rc.barn_id and rep.id = rc.rep_id
                 where rc.barn_id = $1 and rc.horse_id = $2
                 union all
                 select -sc.id, sc.at, sc.person_id, sc.set_id, sc.before, sc.after
                 from set_change sc where sc.barn_id = $1 and sc.horse_id = $2 and sc.before ? 'count'
                 union all
                 select -sc.id, sc.at, sc.person_id, sc.set_id, jsonb_build_object('rider', was.name),
                        jsonb_build_object('rider', is_now.name)
                 from set_change sc
                 join person was on was.barn_id = sc.barn_id and was.id = (sc.before ->> 'rider_id')::uuid
                 join person is_now on is_now.barn_id = sc.barn_id and is_now.id = (sc.after ->> 'rider_id')::uuid
                 where sc.barn_id = $1 and sc.horse_id = $2) c
           join person p on p.barn_id = $1 and p.id = c.person_id
           join ride_set s on s.barn_id = $1 and s.id = c.set_id
           join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
           order by c.at desc, c.id desc offset $3 limit $4"#,
        scope.of_seen(),
        horse,
        offset,
        limit + 1
    )
    .fetch_all(db)
    .await?;
    Ok(Page::of(rows, offset, limit))
}
