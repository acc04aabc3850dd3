//! What devices log of a ride besides asks: events whose ids and versions are the device's. The higher version stands, whichever comes
//! first.

use chrono::{DateTime, NaiveDate, Utc};
use uuid::Uuid;

/// An event as it is kept.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct KeptEvent<Event> {
    pub id: Uuid,
    pub ride_id: Uuid,
    pub horse_id: Uuid,
    /// The day of its ride.
    pub on: NaiveDate,
    pub at: DateTime<Utc>,
    pub event: Event,
    pub version: i32,
    /// Who logged it.
    pub who: String,
}

/// An event to keep.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct NewEvent<Event> {
    pub at: DateTime<Utc>,
    pub event: Event,
    pub removed: bool,
    pub version: i32,
}

/// What became of an event.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PutEvent {
    /// It stands, or a later version of it does.
    Done,
    /// The same version was told otherwise, or of another ride.
    Conflict,
    /// There is no such ride.
    Missing,
}

impl PutEvent {
    /// What became of an event of a ride, where this is there now, of that ride.
    pub(crate) fn of<Event: PartialEq>(
        ride: Uuid,
        new: &NewEvent<Event>,
        there: Option<(Uuid, NewEvent<Event>)>,
    ) -> PutEvent {
        let Some((of, kept)) = there else { return PutEvent::Missing };
        // The database keeps a moment to the microsecond.
        let same = kept.at.timestamp_micros() == new.at.timestamp_micros()
            && kept.event == new.event
            && kept.removed == new.removed;
        let stands = of == ride && (kept.version > new.version || kept.version == new.version && same);
        if stands { PutEvent::Done } else { PutEvent::Conflict }
    }
}

/// Selects the events of a table, in order, as [`KeptEvent`]s: those of the session's barn, and of an owner's own horses.
macro_rules! events_of {
    ($db:expr, $table:literal, $event:literal, $where:literal, $($arg:expr),*) => {
        sqlx::query!(
            r#"select e.id, e.ride_id, r.horse_id, r.ridden_on as "on", e.at, e.body as "body: Json<"# + $event + r#">", e.version, p.name as who
               from "# + $table + " e
               join ride r on r.barn_id = e.barn_id and r.id = e.ride_id
               join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
               join person p on p.barn_id = e.barn_id and p.id = e.who
               where e.barn_id = $1 and ($2::uuid is null or h.owner_id = $2) and not e.removed and " + $where
               + " order by r.ridden_on, e.at, e.id",
            $($arg),*
        )
        .map(|r| crate::ride_event::KeptEvent {
            id: r.id,
            ride_id: r.ride_id,
            horse_id: r.horse_id,
            on: r.on,
            at: r.at,
            event: r.body.0,
            version: r.version,
            who: r.who,
        })
        .fetch_all($db)
    };
}

/// Keeps an event of a ride in a table, or a later version of it, and opens the ride. Gives what became of it.
macro_rules! put_event {
    ($db:expr, $scope:expr, $table:literal, $event:literal, $ride:expr, $id:expr, $new:expr) => {{
        let (barn, ride, id, new) = ($scope.staff()?, $ride, $id, $new);
        let mut tx = $db.begin().await?;
        sqlx::query!(
            "insert into "
                + $table
                + " as e (barn_id, id, ride_id, at, body, removed, version, who)
             select $1, $2, $3, $4, $5, $6, $7, $8 where exists (select from ride where barn_id = $1 and id = $3)
             on conflict (barn_id, id) do update set at = excluded.at, body = excluded.body, removed = excluded.removed,
                version = excluded.version where e.version < excluded.version and e.ride_id = excluded.ride_id",
            barn,
            id,
            ride,
            new.at,
            Json(&new.event) as _,
            new.removed,
            new.version,
            $scope.person()
        )
        .execute(&mut *tx)
        .await?;
        crate::log::rep::open(&mut tx, $scope, &[ride]).await?;
        let there = sqlx::query!(
            r#"select ride_id, at, body as "body: Json<"#
                + $event
                + r#">", removed, version from "#
                + $table
                + " where barn_id = $1 and id = $2",
            barn,
            id
        )
        .fetch_optional(&mut *tx)
        .await?;
        tx.commit().await?;
        let there = there.map(|r| {
            let (at, event, removed, version) = (r.at, r.body.0, r.removed, r.version);
            (r.ride_id, crate::ride_event::NewEvent { at, event, removed, version })
        });
        crate::ride_event::PutEvent::of(ride, new, there)
    }};
}

/// Keeps new events of many rides in a table at once, each by its ride and its id; what is known already stays as it is.
macro_rules! put_events {
    ($db:expr, $scope:expr, $table:literal, $all:expr) => {{
        let (barn, all) = ($scope.staff()?, $all);
        let rides: Vec<Uuid> = all.iter().map(|(ride, ..)| *ride).collect();
        let ids: Vec<Uuid> = all.iter().map(|(_, id, _)| *id).collect();
        let at: Vec<chrono::DateTime<chrono::Utc>> = all.iter().map(|(.., new)| new.at).collect();
        let bodies: Vec<_> = all.iter().map(|(.., new)| Json(&new.event)).collect();
        sqlx::query!(
            "insert into "
                + $table
                + " (barn_id, id, ride_id, at, body, who)
             select $1, e.id, e.ride_id, e.at, e.body, $6
             from unnest($2::uuid[], $3::uuid[], $4::timestamptz[], $5::jsonb[]) as e (ride_id, id, at, body)
             on conflict do nothing",
            barn,
            &rides,
            &ids,
            &at,
            &bodies as _,
            $scope.person()
        )
        .execute($db)
        .await?;
    }};
}

pub(crate) use {events_of, put_event, put_events};
