//! Many rides at once, for the demo and for benches: a few statements instead of one a rep.

use cavesson_core::{
    barn::RideState,
    count::Count,
    curriculum::{Gait, Place, Side},
    response::Rep,
};
use chrono::{NaiveDate, NaiveTime};
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{
    Result,
    log::{
        count::to_json,
        rep::{note_steps, to_row},
        sets::column,
    },
};

/// A ride with all that was logged in it.
#[derive(Debug, Clone)]
#[allow(missing_docs)]
pub struct WholeRide {
    pub id: Uuid,
    pub horse_id: Uuid,
    pub rider_id: Uuid,
    pub ridden_on: NaiveDate,
    pub starts_at: Option<NaiveTime>,
    pub place: Place,
    pub ground_id: Option<Uuid>,
    pub state: RideState,
    pub note: String,
    pub signs: Vec<String>,
    pub bit: Option<String>,
    pub hot: Option<bool>,
    pub sets: Vec<WholeSet>,
}

/// A set of a [`WholeRide`].
#[derive(Debug, Clone)]
#[allow(missing_docs)]
pub struct WholeSet {
    pub rung: String,
    pub gait: Gait,
    pub side: Side,
    pub reps: Vec<(Rep, Option<String>)>,
    /// With the fault that showed.
    pub count: Option<(Count, Option<String>)>,
}

/// Stores rides that are new, of one barn, logged by their riders.
pub async fn insert(tx: &mut PgConnection, barn: Uuid, rides: &[WholeRide]) -> Result<()> {
    for chunk in rides.chunks(200) {
        insert_rides(tx, barn, chunk).await?;
        insert_sets(tx, barn, chunk).await?;
    }
    Ok(())
}

/// Counts the tables of the log anew, once many rides went in: until the database does so by itself, it may take them for the few rows that
/// they were, and read a barn's reps by plans that take minutes.
pub async fn count_anew(db: &PgPool) -> Result<()> {
    sqlx::query!("analyze ride, ride_set, rep").execute(db).await?;
    Ok(())
}

async fn insert_rides(tx: &mut PgConnection, barn: Uuid, rides: &[WholeRide]) -> Result<()> {
    // Arrays of arrays cannot be unnested a row each, so the signs travel as one text.
    let signs: Vec<String> = rides.iter().map(|r| r.signs.join(",")).collect();
    sqlx::query!(
        "insert into ride (barn_id, id, horse_id, rider_id, ridden_on, starts_at, place, state, entered, note, signs, bit, hot,
                           created_by, ground_id)
         select $1, id, horse, rider, day, at, place, state, 'pen', note, string_to_array(signs, ','), bit, hot, rider, ground
         from unnest($2::uuid[], $3::uuid[], $4::uuid[], $5::date[], $6::time[], $7::text[], $8::text[], $9::text[], $10::text[],
                     $11::text[], $12::bool[], $13::uuid[])
              as r (id, horse, rider, day, at, place, state, note, signs, bit, hot, ground)",
        barn,
        &column(rides, |r| r.id),
        &column(rides, |r| r.horse_id),
        &column(rides, |r| r.rider_id),
        &column(rides, |r| r.ridden_on),
        &column(rides, |r| r.starts_at) as &[Option<NaiveTime>],
        &column(rides, |r| r.place.word().to_owned()),
        &column(rides, |r| r.state.word().to_owned()),
        &column(rides, |r| r.note.clone()),
        &signs,
        &column(rides, |r| r.bit.clone()) as &[Option<String>],
        &column(rides, |r| r.hot) as &[Option<bool>],
        &column(rides, |r| r.ground_id) as &[Option<Uuid>]
    )
    .execute(&mut *tx)
    .await?;
    Ok(())
}

async fn insert_sets(tx: &mut PgConnection, barn: Uuid, rides: &[WholeRide]) -> Result<()> {
    let sets: Vec<(Uuid, &WholeRide, usize, &WholeSet)> = rides
        .iter()
        .flat_map(|ride| ride.sets.iter().enumerate().map(move |(n, set)| (Uuid::new_v4(), ride, n, set)))
        .collect();
    let counts: Vec<Option<serde_json::Value>> =
        sets.iter().map(|s| s.3.count.as_ref().map(|c| to_json(&c.0)).transpose()).collect::<Result<_>>()?;
    sqlx::query!(
        "insert into ride_set (barn_id, id, ride_id, position, rung, gait, side, count, count_faults)
         select $1, id, ride, position, rung, gait, side, count, case when fault is null then '{}' else array[fault] end
         from unnest($2::uuid[], $3::uuid[], $4::int[], $5::text[], $6::text[], $7::text[], $8::jsonb[], $9::text[])
              as s (id, ride, position, rung, gait, side, count, fault)",
        barn,
        &column(&sets, |s| s.0),
        &column(&sets, |s| s.1.id),
        &column(&sets, |s| s.2 as i32),
        &column(&sets, |s| s.3.rung.clone()),
        &column(&sets, |s| s.3.gait.word().to_owned()),
        &column(&sets, |s| s.3.side.word().to_owned()),
        &counts as &[Option<serde_json::Value>],
        &column(&sets, |s| s.3.count.as_ref().and_then(|c| c.1.clone())) as &[Option<String>]
    )
    .execute(&mut *tx)
    .await?;
    note_steps(tx, barn, &column(rides, |r| r.id)).await?;
    type Line<'a> = (Uuid, Uuid, usize, &'a Rep, &'a Option<String>);
    let reps: Vec<Line<'_>> = sets
        .iter()
        .flat_map(|(id, ride, _, set)| {
            set.reps.iter().enumerate().map(|(n, (rep, fault))| (*id, ride.rider_id, n, rep, fault))
        })
        .collect();
    sqlx::query!(
        "insert into rep (barn_id, id, set_id, position, outcome, missing, weight, millis, faults, logged_by)
         select $1, gen_random_uuid(), set_id, position, outcome, missing, weight, millis,
                case when fault is null then '{}' else array[fault] end, rider
         from unnest($2::uuid[], $3::int[], $4::text[], $5::smallint[], $6::text[], $7::int[], $8::text[], $9::uuid[])
              as r (set_id, position, outcome, missing, weight, millis, fault, rider)",
        barn,
        &column(&reps, |r| r.0),
        &column(&reps, |r| r.2 as i32),
        &column(&reps, |r| to_row(r.3).outcome.to_owned()),
        &column(&reps, |r| to_row(r.3).missing) as &[Option<i16>],
        &column(&reps, |r| to_row(r.3).weight.to_owned()),
        &column(&reps, |r| to_row(r.3).millis) as &[Option<i32>],
        &column(&reps, |r| r.4.clone()) as &[Option<String>],
        &column(&reps, |r| r.1)
    )
    .execute(&mut *tx)
    .await?;
    Ok(())
}
