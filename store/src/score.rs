//! Practice runs that are scored, and the sheets of those who score them.

use cavesson_core::score::MarkGiven;
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

use crate::{Owned, Put, Result, Scope, ride_event::PutEvent};

/// A part of a run that is scored by itself.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct KeptManoeuvre {
    /// In words.
    pub name: String,
    /// What it asks: `L3 left`.
    pub rungs: Vec<String>,
}

/// A run that is scored.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct KeptRun {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub horse: String,
    pub day: NaiveDate,
    /// What the figure is called.
    pub name: String,
    /// Its text, as it was then.
    pub body: String,
    pub manoeuvres: Vec<KeptManoeuvre>,
}

/// A run to score.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct NewRun {
    pub horse_id: Uuid,
    pub day: NaiveDate,
    pub name: String,
    pub body: String,
    pub manoeuvres: Vec<KeptManoeuvre>,
}

/// The sheet of a person for a run.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct KeptSheet {
    pub run_id: Uuid,
    pub person_id: Uuid,
    pub who: String,
    pub marks: Vec<MarkGiven>,
    pub done: bool,
    pub version: i32,
}

macro_rules! runs {
    ($db:expr, $where:literal, $($arg:expr),*) => {
        sqlx::query!(
            r#"select r.id, r.horse_id, h.name as horse, r.day, r.name, r.body, r.manoeuvres as "manoeuvres: Json<Vec<KeptManoeuvre>>"
               from scored_run r join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
               where r.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and "# + $where
               + " order by r.day desc, r.created_at desc, r.id limit 100",
            $($arg),*
        )
        .map(|r| KeptRun {
            id: r.id,
            horse_id: r.horse_id,
            horse: r.horse,
            day: r.day,
            name: r.name,
            body: r.body,
            manoeuvres: r.manoeuvres.0,
        })
        .fetch_all($db)
    };
}

/// A run.
pub async fn run(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<KeptRun>> {
    let Owned { barn, owner } = scope.owned();
    Ok(runs!(db, "r.id = $3", barn, owner, id).await?.pop())
}

/// The latest runs of a horse, latest first: a hundred at most.
pub async fn runs_of(db: &PgPool, scope: &Scope, horse: Uuid) -> Result<Vec<KeptRun>> {
    let Owned { barn, owner } = scope.owned();
    Ok(runs!(db, "r.horse_id = $3", barn, owner, horse).await?)
}

/// Stores a new run; its horse is of the barn.
pub async fn put_run(db: &PgPool, scope: &Scope, id: Uuid, new: &NewRun) -> Result<Put> {
    let done = sqlx::query!(
        "insert into scored_run (barn_id, id, horse_id, day, name, body, manoeuvres, who)
         select $1, $2, $3, $4, $5, $6, $7, $8 where exists (select from horse where barn_id = $1 and id = $3)
         on conflict (barn_id, id) do nothing",
        scope.staff()?,
        id,
        new.horse_id,
        new.day,
        new.name,
        new.body,
        Json(&new.manoeuvres) as _,
        scope.person()
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 1 {
        return Ok(Put::Created);
    }
    // The day and the parts are the server's: they follow from when and from what it was made.
    let same = |kept: KeptRun| kept.horse_id == new.horse_id && kept.name == new.name && kept.body == new.body;
    Ok(Put::of_kept(run(db, scope, id).await?.map(same)))
}

/// The sheets of some runs, by person.
pub async fn sheets(db: &PgPool, scope: &Scope, runs: &[Uuid]) -> Result<Vec<KeptSheet>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select s.run_id, s.person_id, p.name as who, s.marks as "marks: Json<Vec<MarkGiven>>", s.done, s.version
           from score_sheet s
           join scored_run r on r.barn_id = s.barn_id and r.id = s.run_id
           join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
           join person p on p.barn_id = s.barn_id and p.id = s.person_id
           where s.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and s.run_id = any($3)
           order by s.run_id, p.name, s.person_id"#,
        barn,
        owner,
        runs
    )
    .map(|r| KeptSheet {
        run_id: r.run_id,
        person_id: r.person_id,
        who: r.who,
        marks: r.marks.0,
        done: r.done,
        version: r.version,
    });
    Ok(rows.fetch_all(db).await?)
}

/// Pairs of scores that two people gave the same parts of runs, in halves, over runs that both are done with: the latest first.
pub async fn pairs(db: &PgPool, scope: &Scope, one: Uuid, other: Uuid) -> Result<Vec<(i8, i8)>> {
    let rows = sqlx::query!(
        r#"select a.marks as "a: Json<Vec<MarkGiven>>", b.marks as "b: Json<Vec<MarkGiven>>"
           from score_sheet a
           join score_sheet b on b.barn_id = a.barn_id and b.run_id = a.run_id
           join scored_run r on r.barn_id = a.barn_id and r.id = a.run_id
           where a.barn_id = $1 and a.person_id = $2 and b.person_id = $3 and a.done and b.done
           order by r.day desc, r.created_at desc limit 200"#,
        scope.staff()?,
        one,
        other
    )
    .fetch_all(db)
    .await?;
    let both = |(a, b): (MarkGiven, MarkGiven)| a.score.zip(b.score);
    Ok(rows.into_iter().flat_map(|r| r.a.0.into_iter().zip(r.b.0).filter_map(both)).collect())
}

/// Keeps the session's own sheet for a run, or a later version of it. The higher version stands.
pub async fn put_sheet(
    db: &PgPool,
    scope: &Scope,
    run: Uuid,
    version: i32,
    marks: &[MarkGiven],
    done: bool,
) -> Result<PutEvent> {
    let barn = scope.staff()?;
    sqlx::query!(
        "insert into score_sheet as s (barn_id, run_id, person_id, marks, done, version)
         select $1, $2, $3, $4, $5, $6 where exists (select from scored_run where barn_id = $1 and id = $2)
         on conflict (barn_id, run_id, person_id) do update set marks = excluded.marks, done = excluded.done,
            version = excluded.version where s.version < excluded.version",
        barn,
        run,
        scope.person(),
        Json(marks) as _,
        done,
        version
    )
    .execute(db)
    .await?;
    let kept = sheets(db, scope, &[run]).await?.into_iter().find(|sheet| sheet.person_id == scope.person());
    Ok(match kept {
        None => PutEvent::Missing,
        Some(kept) if kept.version > version => PutEvent::Done,
        Some(kept) if kept.marks == marks && kept.done == done => PutEvent::Done,
        Some(_) => PutEvent::Conflict,
    })
}
