//! What happens with the tack on a ride, as devices log it.

use cavesson_core::tack::{ShareMove, TackEvent};
use chrono::{DateTime, NaiveDate, Utc};
use sqlx::{PgPool, types::Json};
use uuid::Uuid;

use crate::{
    Owned, Result, Scope,
    ride_event::{KeptEvent, NewEvent, PutEvent, events_of, put_event, put_events},
};

/// An event as it is kept.
pub type KeptTackEvent = KeptEvent<TackEvent<Uuid>>;
/// An event to keep.
pub type NewTackEvent = NewEvent<TackEvent<Uuid>>;

/// Events of a ride, in order.
pub async fn of_rides(db: &PgPool, scope: &Scope, rides: &[Uuid]) -> Result<Vec<KeptTackEvent>> {
    let Owned { barn, owner } = scope.owned();
    Ok(events_of!(db, "tack_event", "TackEvent<Uuid>", "e.ride_id = any($3)", barn, owner, rides).await?)
}

/// Events of horses' rides since a day, in order, without the shares: those are read with the two-rein.
pub async fn of_horses(db: &PgPool, scope: &Scope, horses: &[Uuid], since: NaiveDate) -> Result<Vec<KeptTackEvent>> {
    let Owned { barn, owner } = scope.owned();
    Ok(events_of!(
        db,
        "tack_event",
        "TackEvent<Uuid>",
        "r.horse_id = any($3) and r.ridden_on >= $4 and e.body ->> 'kind' <> 'share'",
        barn,
        owner,
        horses,
        since
    )
    .await?)
}

/// Keeps an event of a ride, or a later version of it. The same sent twice is kept once, in whichever order versions come.
pub async fn put(db: &PgPool, scope: &Scope, ride: Uuid, id: Uuid, new: &NewTackEvent) -> Result<PutEvent> {
    Ok(put_event!(db, scope, "tack_event", "TackEvent<Uuid>", ride, id, new))
}

/// Keeps what happened on many rides at once; what is known already stays as it is.
pub async fn put_all(db: &PgPool, scope: &Scope, all: &[(Uuid, Uuid, NewTackEvent)]) -> Result<()> {
    put_events!(db, scope, "tack_event", all);
    Ok(())
}

/// A ride in the two-rein as it was moved from the saddle: nobody noted it by hand.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct MovedRide {
    pub ride_id: Uuid,
    pub horse_id: Uuid,
    pub on: NaiveDate,
    pub seconds: i32,
    pub begins: i16,
    pub moves: Vec<ShareMove>,
}

/// The rides of horses that were moved from the saddle and not noted by hand, oldest first. A ride lasts from its first share to the last
/// thing that was logged on it, a minute at least.
pub async fn moved_rides(db: &PgPool, scope: &Scope, horses: &[Uuid], since: NaiveDate) -> Result<Vec<MovedRide>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"with share as (
               select e.ride_id, r.horse_id, r.ridden_on, r.starts_at, e.at, e.id, e.body from tack_event e
               join ride r on r.barn_id = e.barn_id and r.id = e.ride_id
               join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
               where e.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and r.horse_id = any($3) and r.ridden_on >= $4
                     and e.body ->> 'kind' = 'share' and not e.removed
                     and not exists (select from shared_ride s where s.barn_id = $1 and s.ride_id = e.ride_id)),
           logged as (
               select s.ride_id, max(p.asked_at) as at from ride_set s join rep p on p.barn_id = s.barn_id and p.set_id = s.id
               where s.barn_id = $1 and s.ride_id in (select ride_id from share) and p.removed_at is null group by s.ride_id)
           select s.ride_id, s.horse_id, s.ridden_on as "on", s.at, s.body as "body: Json<TackEvent<Uuid>>", l.at as "logged?"
           from share s left join logged l on l.ride_id = s.ride_id
           order by s.ridden_on, s.starts_at, s.ride_id, s.at, s.id"#,
        barn,
        owner,
        horses,
        since
    )
    .fetch_all(db)
    .await?;
    let mut rides: Vec<(DateTime<Utc>, MovedRide)> = vec![];
    for row in rows {
        let TackEvent::Share { bridle, asked } = row.body.0 else { continue };
        let since =
            |from: DateTime<Utc>, to: DateTime<Utc>| i32::try_from((to - from).num_seconds()).unwrap_or(i32::MAX);
        match rides.last_mut() {
            Some((from, ride)) if ride.ride_id == row.ride_id => {
                let at = since(*from, row.at).clamp(0, LONGEST);
                ride.moves.push(ShareMove { at: at.unsigned_abs(), bridle, asked });
                ride.seconds = ride.seconds.max(at);
            }
            _ => {
                let logged = row.logged.map_or(0, |to| since(row.at, to));
                let seconds = logged.clamp(60, LONGEST);
                let (ride_id, horse_id, on, begins) = (row.ride_id, row.horse_id, row.on, bridle.into());
                rides.push((row.at, MovedRide { ride_id, horse_id, on, seconds, begins, moves: vec![] }));
            }
        }
    }
    Ok(rides.into_iter().map(|(_, ride)| ride).collect())
}

/// No ride takes longer, seconds.
const LONGEST: i32 = 86_400;

/// Whether the shares of a ride were noted by hand.
pub async fn is_noted_by_hand(db: &PgPool, scope: &Scope, ride: Uuid) -> Result<bool> {
    let there = sqlx::query_scalar!(
        r#"select exists (select from shared_ride where barn_id = $1 and ride_id = $2) as "there!""#,
        scope.staff()?,
        ride
    );
    Ok(there.fetch_one(db).await?)
}

/// The first day on which a rung was asked of a horse.
pub async fn first_asked(db: &PgPool, scope: &Scope, horse: Uuid, rung: &str) -> Result<Option<NaiveDate>> {
    let Owned { barn, owner } = scope.owned();
    let first = sqlx::query_scalar!(
        "select min(r.ridden_on) from ride r
         join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
         join ride_set s on s.barn_id = r.barn_id and s.ride_id = r.id
         where r.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and r.horse_id = $3 and s.rung = $4",
        barn,
        owner,
        horse,
        rung
    );
    Ok(first.fetch_one(db).await?)
}
