//! Appointments: farrier, vet, dentist, owner visits, shows and lay-ups, once or by a rule.

use cavesson_core::schedule::AppointmentKind;
use chrono::NaiveDate;
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Owned, Result, Scope, Update};

/// An appointment with whom it takes.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Appointment {
    pub id: Uuid,
    pub kind: AppointmentKind,
    pub title: String,
    /// Its first day, and how many in a row.
    pub day: NaiveDate,
    pub days: i16,
    pub from: i16,
    pub to: i16,
    /// How it repeats: the value of an RRULE.
    pub rule: Option<String>,
    pub skipped: Vec<NaiveDate>,
    pub wants: Vec<String>,
    pub uid: Option<String>,
    pub version: i32,
    pub people: Vec<Uuid>,
    pub horses: Vec<Uuid>,
}

macro_rules! select_appointments {
    ($where:literal, $($arg:expr),*) => {
        sqlx::query_as!(
            Appointment,
            r#"select a.id, a.kind as "kind: AppointmentKind", a.title, a.day, a.days, a.from_minute as "from!", a.to_minute as "to!", a.rule, a.skipped,
                      a.wants, a.uid, a.version,
                      array(select w.person_id from appointment_who w where w.barn_id = a.barn_id and w.appointment_id = a.id
                            and w.person_id is not null order by w.person_id) as "people!: Vec<Uuid>",
                      array(select w.horse_id from appointment_who w where w.barn_id = a.barn_id and w.appointment_id = a.id
                            and w.horse_id is not null and ($2::uuid is null or exists (
                                select from horse h where h.barn_id = w.barn_id and h.id = w.horse_id and h.owner_id = $2))
                            order by w.horse_id) as "horses!: Vec<Uuid>"
               from appointment a where a.barn_id = $1 and ($2::uuid is null or exists (
                   select from appointment_who w join horse h on h.barn_id = w.barn_id and h.id = w.horse_id
                   where w.barn_id = a.barn_id and w.appointment_id = a.id and h.owner_id = $2)) and "# + $where,
            $($arg),*
        )
    };
}

/// Appointments that may come to a day between two, both included: those that repeat, and those whose days lie there.
pub async fn between(db: &PgPool, scope: &Scope, from: NaiveDate, to: NaiveDate) -> Result<Vec<Appointment>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_appointments!(
        "a.day <= $4 and (a.rule is not null or a.day + a.days > $3) order by a.day, a.from_minute, a.id",
        barn,
        owner,
        from,
        to
    )
    .fetch_all(db)
    .await?)
}

/// One appointment.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Appointment>> {
    let Owned { barn, owner } = scope.owned();
    Ok(select_appointments!("a.id = $3", barn, owner, id).fetch_optional(db).await?)
}

/// Which of some names from other calendars are known already.
pub async fn known(db: &PgPool, scope: &Scope, uids: &[String]) -> Result<Vec<String>> {
    let barn = scope.staff()?;
    let rows = sqlx::query_scalar!(
        r#"select uid as "uid!" from appointment where barn_id = $1 and uid = any($2)"#,
        barn,
        uids
    )
    .fetch_all(db)
    .await?;
    Ok(rows)
}

/// Keeps an appointment made from `version`, 0 for a new one. The same new one sent again is acknowledged again.
pub async fn save(db: &PgPool, scope: &Scope, version: i32, a: &Appointment) -> Result<Update<Appointment>> {
    let mut tx = db.begin().await?;
    if !are_here(&mut tx, scope, a).await? {
        return Ok(Update::Missing);
    }
    let done = if version == 0 { insert(&mut tx, scope, a).await? } else { change(&mut tx, scope, version, a).await? };
    if done {
        set_who(&mut tx, scope, a).await?;
    }
    tx.commit().await?;
    let now = get(db, scope, a.id).await?;
    let same = |now: &Appointment| Appointment { version: now.version, ..a.clone() } == *now;
    Ok(match now {
        Some(now) if done || same(&now) => Update::Done(now),
        Some(now) => Update::Stale(now),
        None => Update::Missing,
    })
}

/// Adds appointments, all or none. Those whose id or name from another calendar is there already are passed over; how many were
/// added is told.
pub async fn add_all(db: &PgPool, scope: &Scope, all: &[Appointment]) -> Result<usize> {
    let mut tx = db.begin().await?;
    let mut added = 0;
    for a in all {
        if insert(&mut tx, scope, a).await? {
            set_who(&mut tx, scope, a).await?;
            added += 1;
        }
    }
    tx.commit().await?;
    Ok(added)
}

async fn are_here(tx: &mut PgConnection, scope: &Scope, a: &Appointment) -> Result<bool> {
    let barn = scope.staff()?;
    Ok(sqlx::query_scalar!(
        r#"select (select count(*) from person where barn_id = $1 and id = any($2)) = cardinality($2::uuid[])
              and (select count(*) from horse where barn_id = $1 and id = any($3)) = cardinality($3::uuid[]) as "yes!""#,
        barn,
        &a.people,
        &a.horses
    )
    .fetch_one(tx)
    .await?)
}

async fn insert(tx: &mut PgConnection, scope: &Scope, a: &Appointment) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into appointment (barn_id, id, kind, title, day, days, from_minute, to_minute, rule, skipped, wants, uid, made_by)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) on conflict do nothing",
        barn,
        a.id,
        a.kind.word(),
        a.title,
        a.day,
        a.days,
        a.from,
        a.to,
        a.rule,
        &a.skipped,
        &a.wants,
        a.uid,
        scope.person()
    )
    .execute(tx)
    .await?;
    Ok(done.rows_affected() == 1)
}

async fn change(tx: &mut PgConnection, scope: &Scope, version: i32, a: &Appointment) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "update appointment set kind = $4, title = $5, day = $6, days = $7, from_minute = $8, to_minute = $9, rule = $10,
                skipped = $11, wants = $12, version = version + 1
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        a.id,
        version,
        a.kind.word(),
        a.title,
        a.day,
        a.days,
        a.from,
        a.to,
        a.rule,
        &a.skipped,
        &a.wants
    )
    .execute(tx)
    .await?;
    Ok(done.rows_affected() == 1)
}

async fn set_who(tx: &mut PgConnection, scope: &Scope, a: &Appointment) -> Result<()> {
    let barn = scope.staff()?;
    sqlx::query!("delete from appointment_who where barn_id = $1 and appointment_id = $2", barn, a.id)
        .execute(&mut *tx)
        .await?;
    sqlx::query!(
        "insert into appointment_who (barn_id, appointment_id, person_id, horse_id)
         select $1::uuid, $2::uuid, p, null::uuid from unnest($3::uuid[]) p union all select $1, $2, null, h from unnest($4::uuid[]) h",
        barn,
        a.id,
        &a.people,
        &a.horses
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Takes an appointment off the calendar. False where there is none.
pub async fn drop(db: &PgPool, scope: &Scope, id: Uuid) -> Result<bool> {
    let barn = scope.staff()?;
    let done = sqlx::query!("delete from appointment where barn_id = $1 and id = $2", barn, id).execute(db).await?;
    Ok(done.rows_affected() == 1)
}
