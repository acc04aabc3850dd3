//! The record read back as evidence, of several horses at once.

use cavesson_core::{
    count::Count,
    curriculum::{Gait, Hands, Place, Side},
    response::{Outcome, Rep, Weight},
};
use chrono::NaiveDate;
use futures_util::{Stream, TryStreamExt};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{
    Result, Scope,
    log::{count::from_json, rep::from_row, revision::HorseDay},
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
    pub place: Place,
    pub hands: Hands,
    pub count: Count,
}

/// A rep or a count with all that stood around it, for the faults.
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
    pub set_position: i32,
    pub set_id: Uuid,
    /// Of the rep in its set; none of a count.
    pub position: Option<i32>,
    pub rep_id: Option<Uuid>,
}

/// Which part of the record is read.
#[derive(Debug, Clone, Copy)]
pub enum Of<'a> {
    /// All of some horses'.
    Horses(&'a [Uuid]),
    /// Some days of some horses.
    Days(&'a [HorseDay]),
}

/// One query over the rides of horses (`$2`) or of days (`$2` and `$3`), each planned for what it reads. In the end rows are in an order
/// that leaves nothing open: the same log is read the same each time, down to the last bit of what is worked out of it.
macro_rules! select_of {
    ($row:ty, $db:expr, $scope:expr, $of:expr, $columns:literal, $rest:literal, $order:literal) => {
        match $of {
            Of::Horses(horses) => {
                let rows = sqlx::query_as!(
                    $row,
                    "select " + $columns + " from ride r " + $rest + " and r.horse_id = any($2)" + $order,
                    $scope.of_seen(),
                    horses
                )
                .fetch($db);
                gathered(rows).await?
            }
            Of::Days(days) => {
                let (horses, dates): (Vec<Uuid>, Vec<NaiveDate>) = days.iter().copied().unzip();
                let rows = sqlx::query_as!(
                    $row,
                    "select "
                        + $columns
                        + " from unnest($2::uuid[], $3::date[]) d (horse_id, ridden_on)
                     join ride r on r.horse_id = d.horse_id and r.ridden_on = d.ridden_on "
                        + $rest
                        + $order,
                    $scope.of_seen(),
                    &horses,
                    &dates
                )
                .fetch($db);
                gathered(rows).await?
            }
        }
    };
}

struct RepRow {
    horse_id: Uuid,
    ridden_on: NaiveDate,
    place: Place,
    hands: Hands,
    rung: String,
    gait: Gait,
    side: Side,
    outcome: Outcome,
    missing: Option<i16>,
    weight: Weight,
    millis: Option<i32>,
    ride_id: Uuid,
    set_id: Uuid,
    set_position: i32,
    id: Uuid,
    position: i32,
}

/// So many rows are read at a stretch.
const AT_A_STRETCH: usize = 250;

/// Rows as they come, of which there may be very many: in between, the thread answers other requests.
async fn gathered<T>(mut rows: impl Stream<Item = sqlx::Result<T>> + Unpin) -> Result<Vec<T>> {
    let mut all = vec![];
    while let Some(row) = rows.try_next().await? {
        all.push(row);
        if all.len() % AT_A_STRETCH == 0 {
            tokio::task::yield_now().await;
        }
    }
    Ok(all)
}

/// From so many rows on they are put in order off the threads that answer requests.
const MANY: usize = 500;

/// Puts rows in order and makes something of each. The database takes longer to sort the reps of a few horses than to find them, on every
/// core that it is given.
async fn in_order<T, K, M>(
    mut rows: Vec<T>,
    key: impl Fn(&T) -> K + Send + 'static,
    make: impl Fn(T) -> Result<M> + Send + 'static,
) -> Result<Vec<M>>
where
    T: Send + 'static,
    M: Send + 'static,
    K: Ord,
{
    let many = rows.len() > MANY;
    let made = move || {
        rows.sort_unstable_by_key(key);
        rows.into_iter().map(make).collect()
    };
    if !many {
        return made();
    }
    tokio::task::spawn_blocking(made).await.map_err(|_| sqlx::Error::WorkerCrashed)?
}

/// Every rep that was not removed, by horse and then in order of the day.
pub async fn reps(db: &PgPool, scope: &Scope, of: Of<'_>) -> Result<Vec<Evidence>> {
    let rows = select_of!(
        RepRow,
        db,
        scope,
        of,
        r#"r.horse_id, r.ridden_on, r.place as "place: Place", p.role as "hands: Hands", s.rung, s.gait as "gait: Gait",
           s.side as "side: Side", rep.outcome as "outcome: Outcome", rep.missing, rep.weight as "weight: Weight", rep.millis,
           r.id as ride_id, s.id as set_id, s.position as set_position, rep.id, rep.position"#,
        "join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
         join person p on p.barn_id = r.barn_id and p.id = coalesce(s.rider_id, r.rider_id)
         join rep on rep.barn_id = s.barn_id and rep.set_id = s.id
         where r.barn_id = $1 and rep.removed_at is null",
        ""
    );
    let of_set = |r: &RepRow| (r.set_position, r.set_id, r.position, r.id);
    let evidence = |r: RepRow| {
        Ok(Evidence {
            horse_id: r.horse_id,
            date: r.ridden_on,
            gait: r.gait,
            side: r.side,
            place: r.place,
            hands: r.hands,
            rep: from_row(r.outcome, r.missing, r.weight, r.millis)?,
            rung: r.rung,
        })
    };
    in_order(rows, move |r| (r.horse_id, r.ridden_on, r.ride_id, of_set(r)), evidence).await
}

struct CountRow {
    horse_id: Uuid,
    ridden_on: NaiveDate,
    rung: String,
    gait: Gait,
    side: Side,
    place: Place,
    hands: Hands,
    count: Option<serde_json::Value>,
}

/// Every count that was not taken out, by horse and then in order of the day.
pub async fn counts(db: &PgPool, scope: &Scope, of: Of<'_>) -> Result<Vec<Counted>> {
    let rows = select_of!(
        CountRow,
        db,
        scope,
        of,
        r#"r.horse_id, r.ridden_on, s.rung, s.gait as "gait: Gait", s.side as "side: Side", r.place as "place: Place",
           p.role as "hands: Hands", s.count"#,
        "join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
         join person p on p.barn_id = r.barn_id and p.id = coalesce(s.rider_id, r.rider_id)
         where r.barn_id = $1 and s.count is not null and s.count_removed_at is null",
        " order by r.horse_id, r.ridden_on, r.id, s.position, s.id"
    );
    let counted = |r: CountRow| {
        Ok(Counted {
            horse_id: r.horse_id,
            date: r.ridden_on,
            rung: r.rung,
            gait: r.gait,
            side: r.side,
            place: r.place,
            hands: r.hands,
            count: from_json(r.count.unwrap_or_default())?,
        })
    };
    rows.into_iter().map(counted).collect()
}

struct SignRow {
    horse_id: Uuid,
    ridden_on: NaiveDate,
    signs: Vec<String>,
}

/// Days on which a sign was noted, by horse and then in order of the day.
pub async fn signs(db: &PgPool, scope: &Scope, of: Of<'_>) -> Result<Vec<(Uuid, NaiveDate, Vec<String>)>> {
    let rows = select_of!(
        SignRow,
        db,
        scope,
        of,
        "r.horse_id, r.ridden_on, r.signs",
        "where r.barn_id = $1 and r.state <> 'planned' and r.signs <> '{}'",
        " order by r.horse_id, r.ridden_on, r.id"
    );
    Ok(rows.into_iter().map(|r| (r.horse_id, r.ridden_on, r.signs)).collect())
}

macro_rules! select_faults {
    ($where:literal, $($arg:expr),*) => {
        sqlx::query_as!(
            Faulted,
            r#"select r.horse_id, r.id as ride_id, r.ridden_on as date, r.place as "place: Place", r.bit, r.hot, p.name as rider, s.rung,
                      s.gait as "gait: Gait", s.side as "side: Side", coalesce(rep.faults, s.count_faults) as "faults!",
                      s.position as set_position, s.id as set_id, rep.position as "position?", rep.id as "rep_id?"
             from ride r
             join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
             join person p on p.barn_id = r.barn_id and p.id = coalesce(s.rider_id, r.rider_id)
             left join rep on rep.barn_id = s.barn_id and rep.set_id = s.id and rep.removed_at is null
             where r.barn_id = $1 and (rep.id is not null or s.count is not null and s.count_removed_at is null) and "# + $where,
            $($arg),*
        )
    };
}

/// The reps and counts of these horses since a day, with their faults, in the order in which they were asked, by horse and ride.
pub async fn faults(db: &PgPool, scope: &Scope, horses: &[Uuid], since: NaiveDate) -> Result<Vec<Faulted>> {
    let rows = select_faults!("r.horse_id = any($2) and r.ridden_on >= $3", scope.of_seen(), horses, since);
    as_asked(gathered(rows.fetch(db)).await?).await
}

/// The same of some days of some horses.
pub async fn faults_of_days(db: &PgPool, scope: &Scope, days: &[HorseDay]) -> Result<Vec<Faulted>> {
    let (horses, dates): (Vec<Uuid>, Vec<NaiveDate>) = days.iter().copied().unzip();
    let rows = select_faults!(
        "(r.horse_id, r.ridden_on) in (select * from unnest($2::uuid[], $3::date[]))",
        scope.of_seen(),
        &horses,
        &dates
    );
    as_asked(gathered(rows.fetch(db)).await?).await
}

async fn as_asked(rows: Vec<Faulted>) -> Result<Vec<Faulted>> {
    in_order(rows, |f| (f.horse_id, f.date, f.ride_id, f.set_position, f.set_id, f.position, f.rep_id), Ok).await
}

/// An ask of one rein, as it stood among the others.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct SidedRep {
    pub ride_id: Uuid,
    pub date: NaiveDate,
    pub rung: String,
    pub gait: Gait,
    pub side: Side,
    pub rep: Rep,
}

/// The asks of one rein of a horse since a day, in the order in which they were made: by the clock of the device where it was
/// noted, else as the sets stand.
pub async fn sided(db: &PgPool, scope: &Scope, horse: Uuid, since: NaiveDate) -> Result<Vec<SidedRep>> {
    let rows = sqlx::query!(
        r#"select r.id as ride_id, r.ridden_on as date, s.rung, s.gait as "gait: Gait", s.side as "side: Side",
                  rep.outcome as "outcome: Outcome", rep.missing, rep.weight as "weight: Weight", rep.millis
           from ride r
           join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
           join rep on rep.barn_id = s.barn_id and rep.set_id = s.id
           where r.barn_id = $1 and r.horse_id = $2 and r.ridden_on >= $3 and rep.removed_at is null and s.side <> 'both'
           order by r.ridden_on, r.id, rep.asked_at nulls last, s.position, rep.position, rep.id"#,
        scope.of_seen(),
        horse,
        since
    )
    .fetch_all(db)
    .await?;
    rows.into_iter()
        .map(|r| {
            let rep = from_row(r.outcome, r.missing, r.weight, r.millis)?;
            Ok(SidedRep { ride_id: r.ride_id, date: r.date, rung: r.rung, gait: r.gait, side: r.side, rep })
        })
        .collect()
}

/// One side of a step of a horse.
#[derive(Debug, Clone, Copy)]
#[allow(missing_docs)]
pub struct SideOf<'a> {
    pub horse: Uuid,
    pub rung: &'a str,
    pub gait: Gait,
    pub side: Side,
}

/// The first ask of each of the last days before one, latest first, at most so many.
pub async fn first_asks(db: &PgPool, scope: &Scope, of: SideOf<'_>, before: NaiveDate, most: i64) -> Result<Vec<Rep>> {
    let rows = sqlx::query!(
        r#"select distinct on (r.ridden_on) rep.outcome as "outcome: Outcome", rep.missing, rep.weight as "weight: Weight", rep.millis
           from ride r
           join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
           join rep on rep.barn_id = s.barn_id and rep.set_id = s.id
           where r.barn_id = $1 and r.horse_id = $2 and s.rung = $3 and s.gait = $4 and s.side = $5 and r.ridden_on < $6
                 and rep.removed_at is null
           order by r.ridden_on desc, r.id, rep.asked_at nulls last, s.position, rep.position, rep.id limit $7"#,
        scope.of_seen(),
        of.horse,
        of.rung,
        of.gait.word(),
        of.side.word(),
        before,
        most
    )
    .fetch_all(db)
    .await?;
    rows.into_iter().map(|r| from_row(r.outcome, r.missing, r.weight, r.millis)).collect()
}
