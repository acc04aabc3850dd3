//! Rides in the two-rein, with the share on the bridle rein as it moved.

use cavesson_core::tack::ShareMove;
use chrono::NaiveDate;
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

use crate::{
    Owned, Result, Scope, Update,
    tack_event::{self, MovedRide},
};

/// A ride in the two-rein as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct KeptShares {
    pub ride_id: Uuid,
    pub horse_id: Uuid,
    pub on: NaiveDate,
    pub seconds: i32,
    /// Per cent on the bridle rein at the start.
    pub begins: i16,
    pub moves: Vec<ShareMove>,
    /// 0 where it was moved from the saddle and nobody noted it by hand.
    pub version: i32,
}

impl From<MovedRide> for KeptShares {
    fn from(moved: MovedRide) -> KeptShares {
        let MovedRide { ride_id, horse_id, on, seconds, begins, moves } = moved;
        KeptShares { ride_id, horse_id, on, seconds, begins, moves, version: 0 }
    }
}

/// What can be set of it.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Shares {
    pub seconds: i32,
    pub begins: i16,
    pub moves: Vec<ShareMove>,
}

struct Row {
    ride_id: Uuid,
    horse_id: Uuid,
    on: NaiveDate,
    seconds: i32,
    begins: i16,
    moves: Json<Vec<ShareMove>>,
    version: i32,
}

impl From<Row> for KeptShares {
    fn from(r: Row) -> KeptShares {
        let Row { ride_id, horse_id, on, seconds, begins, moves, version } = r;
        KeptShares { ride_id, horse_id, on, seconds, begins, moves: moves.0, version }
    }
}

/// The rides of a horse in the two-rein since a day, oldest first.
pub async fn of_horses(db: &PgPool, scope: &Scope, horses: &[Uuid], since: NaiveDate) -> Result<Vec<KeptShares>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query_as!(
        Row,
        r#"select s.ride_id, r.horse_id, r.ridden_on as "on", s.seconds, s.begins, s.moves as "moves: Json<Vec<ShareMove>>", s.version
           from shared_ride s
           join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
           join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
           where s.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and r.horse_id = any($3) and r.ridden_on >= $4
           order by r.ridden_on, r.starts_at, s.ride_id"#,
        barn,
        owner,
        horses,
        since
    )
    .fetch_all(db)
    .await?;
    let by_hand = rows.into_iter().map(KeptShares::from);
    let moved = tack_event::moved_rides(db, scope, horses, since).await?.into_iter().map(KeptShares::from);
    let mut all: Vec<KeptShares> = by_hand.chain(moved).collect();
    all.sort_by_key(|ride| ride.on);
    Ok(all)
}

async fn get(db: &PgPool, scope: &Scope, ride: Uuid) -> Result<Option<KeptShares>> {
    let row = sqlx::query_as!(
        Row,
        r#"select s.ride_id, r.horse_id, r.ridden_on as "on", s.seconds, s.begins, s.moves as "moves: Json<Vec<ShareMove>>", s.version
           from shared_ride s join ride r on r.barn_id = s.barn_id and r.id = s.ride_id
           where s.barn_id = $1 and s.ride_id = $2"#,
        scope.staff()?,
        ride
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map(Into::into))
}

/// Notes the shares of a ride, or notes them anew if the version is still `version` (0 where there are none).
pub async fn put(db: &PgPool, scope: &Scope, ride: Uuid, version: i32, shares: &Shares) -> Result<Update<KeptShares>> {
    let barn = scope.staff()?;
    let done = sqlx::query!(
        "insert into shared_ride (barn_id, ride_id, seconds, begins, moves)
         select $1, $2, $4, $5, $6 where exists (select from ride where barn_id = $1 and id = $2)
            and ($3 = 0 or exists (select from shared_ride where barn_id = $1 and ride_id = $2))
         on conflict (barn_id, ride_id) do update set seconds = excluded.seconds, begins = excluded.begins, moves = excluded.moves,
            version = shared_ride.version + 1 where shared_ride.version = $3",
        barn,
        ride,
        version,
        shares.seconds,
        shares.begins,
        Json(&shares.moves) as _
    )
    .execute(db)
    .await?
    .rows_affected();
    let same =
        |kept: &KeptShares| (kept.seconds, kept.begins, &kept.moves) == (shares.seconds, shares.begins, &shares.moves);
    Ok(match get(db, scope, ride).await? {
        Some(kept) if done == 1 || same(&kept) => Update::Done(kept),
        Some(kept) => Update::Stale(kept),
        None => Update::Missing,
    })
}
