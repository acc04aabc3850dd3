//! Sets of a ride that arrive together with all that was logged in them: a few statements, however many reps.

use chrono::{DateTime, Utc};
use serde_json::Value;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::{
    Put, Result, Scope,
    log::{
        count::{NewCount, to_json},
        rep::{NewRep, SetKey, note_steps, to_row, touch},
    },
};

/// A set with its reps, or with what was counted in it.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct NewSet {
    pub key: SetKey,
    pub reps: Vec<NewRep>,
    pub count: Option<NewCount>,
}

/// Stores sets of rides that are there, inside a transaction, and counts up the logs of their horses. [`Put::Same`] where every one
/// of them was stored before; after [`Put::Taken`] and [`Put::Missing`] the transaction is to be dropped.
pub async fn put_sets(tx: &mut PgConnection, scope: &Scope, sets: &[NewSet]) -> Result<Put> {
    let barn = scope.staff()?;
    let mut rides = column(sets, |s| s.key.ride_id);
    rides.dedup();
    let made = insert_sets(tx, scope, sets).await?;
    match made {
        Put::Taken | Put::Missing => return Ok(made),
        Put::Created => note_steps(tx, barn, &rides).await?,
        Put::Same => {}
    }
    let reps: Vec<(Uuid, &NewRep)> = sets.iter().flat_map(|s| s.reps.iter().map(|r| (s.key.id, r))).collect();
    let put = match insert_reps(tx, scope, &reps).await? {
        Put::Same => made,
        other => other,
    };
    if put == Put::Created {
        touch(tx, scope, &rides).await?;
    }
    Ok(put)
}

async fn insert_sets(tx: &mut PgConnection, scope: &Scope, sets: &[NewSet]) -> Result<Put> {
    let barn = scope.staff()?;
    let count = |s: &NewSet| s.count.as_ref().map(|c| to_json(&c.count)).transpose();
    let counts: Vec<Option<Value>> = sets.iter().map(count).collect::<Result<_>>()?;
    // Arrays of arrays cannot be unnested a row each, so the faults travel as one text.
    let faults = column(sets, |s| s.count.as_ref().map(|c| c.faults.join(",")).unwrap_or_default());
    let counted_at = column(sets, |s| s.count.as_ref().and_then(|c| c.asked_at));
    let (ids, rides) = (column(sets, |s| s.key.id), column(sets, |s| s.key.ride_id));
    let rungs = column(sets, |s| s.key.rung.clone());
    let gaits = column(sets, |s| s.key.gait.word().to_owned());
    let sides = column(sets, |s| s.key.side.word().to_owned());
    let new = sqlx::query!(
        "insert into ride_set (barn_id, id, ride_id, position, rung, gait, side, rider_id, cow, count,
                               count_faults, counted_at)
         select $1, s.id, s.ride, s.position, s.rung, s.gait, s.side, s.rider, s.cow, s.count,
                string_to_array(s.faults, ','), s.counted_at
         from unnest($2::uuid[], $3::uuid[], $4::int[], $5::text[], $6::text[], $7::text[], $8::uuid[], $9::text[], $10::jsonb[],
                     $11::text[], $12::timestamptz[])
                as s (id, ride, position, rung, gait, side, rider, cow, count, faults, counted_at)
         where exists (select from ride where barn_id = $1 and id = s.ride)
         on conflict (barn_id, id) do nothing",
        barn,
        &ids,
        &rides,
        &column(sets, |s| s.key.position),
        &rungs,
        &gaits,
        &sides,
        &column(sets, |s| s.key.rider_id) as &[Option<Uuid>],
        &column(sets, |s| s.key.cow.clone()) as &[Option<String>],
        &counts as &[Option<Value>],
        &faults,
        &counted_at as &[Option<DateTime<Utc>>]
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if new == sets.len() as u64 {
        return Ok(if sets.is_empty() { Put::Same } else { Put::Created });
    }
    let found = sqlx::query!(
        r#"select count(*) as "there!",
                  count(*) filter (where r.ride_id = s.ride and r.rung = s.rung and r.gait = s.gait and r.side = s.side
                                   and (r.count is not distinct from s.count or r.count_version > 1 and s.count is not null)) as "same!"
           from unnest($2::uuid[], $3::uuid[], $4::text[], $5::text[], $6::text[], $7::jsonb[])
                as s (id, ride, rung, gait, side, count)
           join ride_set r on r.barn_id = $1 and r.id = s.id"#,
        barn,
        &ids,
        &rides,
        &rungs,
        &gaits,
        &sides,
        &counts as &[Option<Value>]
    )
    .fetch_one(&mut *tx)
    .await?;
    Ok(put_of(new, sets.len(), found.there, found.same))
}

async fn insert_reps(tx: &mut PgConnection, scope: &Scope, reps: &[(Uuid, &NewRep)]) -> Result<Put> {
    let barn = scope.staff()?;
    let (ids, sets) = (column(reps, |r| r.1.id), column(reps, |r| r.0));
    let outcomes = column(reps, |r| to_row(&r.1.rep).outcome.to_owned());
    let missing = column(reps, |r| to_row(&r.1.rep).missing);
    let weights = column(reps, |r| to_row(&r.1.rep).weight.to_owned());
    let millis = column(reps, |r| to_row(&r.1.rep).millis);
    let faults = column(reps, |r| r.1.faults.join(","));
    let new = sqlx::query!(
        // Arrays of arrays cannot be unnested a row each, so the faults travel as one text.
        "insert into rep (barn_id, id, set_id, position, outcome, missing, weight, millis, faults, logged_by, asked_at)
         select $1, id, set_id, position, outcome, missing, weight, millis, string_to_array(faults, ','), $2, asked_at
         from unnest($3::uuid[], $4::uuid[], $5::int[], $6::text[], $7::smallint[], $8::text[], $9::int[], $10::text[],
                     $11::timestamptz[])
              as r (id, set_id, position, outcome, missing, weight, millis, faults, asked_at)
         on conflict (barn_id, id) do nothing",
        barn,
        scope.person(),
        &ids,
        &sets,
        &column(reps, |r| r.1.position),
        &outcomes,
        &missing as &[Option<i16>],
        &weights,
        &millis as &[Option<i32>],
        &faults,
        &column(reps, |r| r.1.asked_at) as &[Option<chrono::DateTime<chrono::Utc>>]
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if new == reps.len() as u64 {
        return Ok(if reps.is_empty() { Put::Same } else { Put::Created });
    }
    // A rep may have been corrected since it was first sent: then its first form is no longer there to compare with.
    let found = sqlx::query!(
        r#"select count(*) as "there!",
                  count(*) filter (where r.set_id = n.set_id
                                   and (r.version > 1 or (r.outcome = n.outcome and r.missing is not distinct from n.missing
                                        and r.weight = n.weight and r.millis is not distinct from n.millis
                                        and array_to_string(r.faults, ',') = n.faults))) as "same!"
           from unnest($2::uuid[], $3::uuid[], $4::text[], $5::smallint[], $6::text[], $7::int[], $8::text[])
                as n (id, set_id, outcome, missing, weight, millis, faults)
           join rep r on r.barn_id = $1 and r.id = n.id"#,
        barn,
        &ids,
        &sets,
        &outcomes,
        &missing as &[Option<i16>],
        &weights,
        &millis as &[Option<i32>],
        &faults
    )
    .fetch_one(&mut *tx)
    .await?;
    Ok(put_of(new, reps.len(), found.there, found.same))
}

/// What came of rows of which some are new, some may be as they were before, and some another's.
fn put_of(new: u64, all: usize, there: i64, same: i64) -> Put {
    if there < all as i64 {
        Put::Missing
    } else if same < all as i64 {
        Put::Taken
    } else if new > 0 {
        Put::Created
    } else {
        Put::Same
    }
}

/// One column of rows, as the database takes it.
pub(crate) fn column<R, T>(rows: &[R], value: impl Fn(&R) -> T) -> Vec<T> {
    rows.iter().map(value).collect()
}
