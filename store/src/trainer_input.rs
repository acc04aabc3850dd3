//! What trainers write down beside the reps: overrules, and what was found when someone looked at a horse.

use cavesson_core::{
    advice::{Call, CareChange, Overrule, TrainerInput},
    curriculum::Course,
};
use chrono::NaiveDate;
use sqlx::PgPool;
use uuid::Uuid;

use crate::{Put, Result, Scope, StoreError, log::revision::horse_changed};

/// An overrule as it is kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct KeptOverrule {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub step: String,
    pub was: Call,
    pub made: Call,
    pub reason: String,
    pub on: NaiveDate,
    pub made_by: Uuid,
    pub made_by_name: String,
}

/// What is said when an overrule is written.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct NewOverrule {
    pub step: String,
    pub was: Call,
    pub made: Call,
    pub reason: String,
    pub on: NaiveDate,
}

/// What was found, as it is kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct Finding {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub on: NaiveDate,
    /// Who looked: vet, farrier, dentist, the trainer.
    pub looked: String,
    pub found: String,
    pub made_by_name: String,
}

/// The overrules of these horses, oldest first.
pub async fn overrules(db: &PgPool, scope: &Scope, horses: &[Uuid]) -> Result<Vec<KeptOverrule>> {
    let rows = sqlx::query!(
        "select o.id, o.horse_id, o.step, o.was, o.made, o.reason, o.made_on, o.made_by, p.name
         from overrule o join person p on p.barn_id = o.barn_id and p.id = o.made_by
         where o.barn_id = $1 and o.horse_id = any($2) order by o.made_on, o.created_at, o.id",
        scope.of_seen(),
        horses
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            Ok(KeptOverrule {
                id: r.id,
                horse_id: r.horse_id,
                step: r.step,
                was: call(&r.was)?,
                made: call(&r.made)?,
                reason: r.reason,
                on: r.made_on,
                made_by: r.made_by,
                made_by_name: r.name,
            })
        })
        .collect()
}

/// What was found on these horses, oldest first.
pub async fn findings(db: &PgPool, scope: &Scope, horses: &[Uuid]) -> Result<Vec<Finding>> {
    let rows = sqlx::query!(
        "select f.id, f.horse_id, f.found_on, f.looked, f.found, p.name
         from finding f join person p on p.barn_id = f.barn_id and p.id = f.made_by
         where f.barn_id = $1 and f.horse_id = any($2) order by f.found_on, f.created_at, f.id",
        scope.of_seen(),
        horses
    )
    .fetch_all(db)
    .await?;
    let finding = |r| {
        let (id, horse_id, on, looked, found, made_by_name) = r;
        Finding { id, horse_id, on, looked, found, made_by_name }
    };
    Ok(rows.into_iter().map(|r| finding((r.id, r.horse_id, r.found_on, r.looked, r.found, r.name))).collect())
}

/// What the core takes of it all for one horse. A step that has left the course since steers nothing.
pub fn for_advisor(
    course: &Course,
    horse: Uuid,
    overrules: &[KeptOverrule],
    findings: &[Finding],
    changes: Vec<(NaiveDate, CareChange)>,
) -> TrainerInput {
    let mine = overrules.iter().filter(|o| o.horse_id == horse);
    TrainerInput {
        overrules: mine.filter_map(|o| Some(Overrule { on: o.on, step: course.find(&o.step)?, to: o.made })).collect(),
        findings: findings.iter().filter(|f| f.horse_id == horse).map(|f| f.on).collect(),
        changes,
    }
}

/// Keeps an overrule. The horse must be of the barn.
pub async fn put_overrule(db: &PgPool, scope: &Scope, horse: Uuid, id: Uuid, new: &NewOverrule) -> Result<Put> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "insert into overrule (barn_id, id, horse_id, step, was, made, reason, made_on, made_by)
         select $1, $2, $3, $4, $5, $6, $7, $8, $9 where exists (select from horse where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        horse,
        new.step,
        new.was.word(),
        new.made.word(),
        new.reason,
        new.on,
        scope.person()
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        horse_changed(&mut tx, scope, horse).await?;
        tx.commit().await?;
        return Ok(Put::Created);
    }
    let same = sqlx::query_scalar!(
        r#"select horse_id = $3 and step = $4 and made = $5 and reason = $6 as "same!" from overrule
           where barn_id = $1 and id = $2"#,
        barn,
        id,
        horse,
        new.step,
        new.made.word(),
        new.reason
    )
    .fetch_optional(&mut *tx)
    .await?;
    Ok(Put::of_kept(same))
}

/// Keeps what was found. The horse must be of the barn.
pub async fn put_finding(
    db: &PgPool,
    scope: &Scope,
    horse: Uuid,
    id: Uuid,
    on: NaiveDate,
    looked: &str,
    found: &str,
) -> Result<Put> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    let done = sqlx::query!(
        "insert into finding (barn_id, id, horse_id, found_on, looked, found, made_by)
         select $1, $2, $3, $4, $5, $6, $7 where exists (select from horse where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do nothing",
        barn,
        id,
        horse,
        on,
        looked,
        found,
        scope.person()
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        horse_changed(&mut tx, scope, horse).await?;
        tx.commit().await?;
        return Ok(Put::Created);
    }
    let same = sqlx::query_scalar!(
        r#"select horse_id = $3 and found_on = $4 and looked = $5 and found = $6 as "same!" from finding
           where barn_id = $1 and id = $2"#,
        barn,
        id,
        horse,
        on,
        looked,
        found
    )
    .fetch_optional(&mut *tx)
    .await?;
    Ok(Put::of_kept(same))
}

fn call(word: &str) -> Result<Call> {
    [Call::Advance, Call::Hold, Call::Back]
        .into_iter()
        .find(|c| c.word() == word)
        .ok_or_else(|| StoreError::Unreadable(format!("\"{word}\" is no call")))
}
