//! What happens with the tack on a ride, logged from the saddle through a device's outbox.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    barn::Role,
    curriculum::Gait,
    tack::{PairedAsk, Reins, SharedRide, TackEvent, next_share, order_of_reins},
};
use cavesson_store::{
    gear::{self, Gear},
    log::ride::{self, Ride, RideToLog},
    tack_event::{self, KeptTackEvent, NewTackEvent},
    two_rein::KeptShares,
};
use chrono::{DateTime, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::{
    first_day::{self, FirstDayOut},
    horse::asks,
    on_road::{OnRoad, road_of},
    two_rein,
};
use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        ride_event::{kept, ride_of_event},
    },
};

/// An event to keep.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TackEventIn {
    /// When it happened.
    at: DateTime<Utc>,
    event: TackEvent<Uuid>,
    /// Taken back.
    #[serde(default)]
    removed: bool,
    /// 1 at first, and one more each time that it is put right: the highest stands.
    #[schema(minimum = 1, maximum = 10000)]
    version: i32,
}

/// Something about the tack on a ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TackEventOut {
    id: Uuid,
    at: DateTime<Utc>,
    event: TackEvent<Uuid>,
    version: i32,
    who: String,
}

/// In which order to ask on one rein and on two at a gait, beginning with the next.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct OrderOut {
    gait: Gait,
    reins: Vec<Reins>,
}

/// The tack of a ride: what the saddle needs to know of it.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RideTackOut {
    /// In order.
    events: Vec<TackEventOut>,
    /// Per cent on the bridle rein to begin with, and why; none where the horse was never ridden in the two-rein.
    share: Option<BeginOut>,
    /// The test for a brace; empty where the horse is not stepping down with a spoiled mouth.
    orders: Vec<OrderOut>,
    /// The list of a first day in leverage, while it runs.
    first_day: Option<FirstDayOut>,
}

/// What to begin a ride in the two-rein with.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BeginOut {
    bridle: u8,
    why: &'static str,
}

/// A test takes fewer asks on one ride.
const MOST_ASKS: usize = 60;

impl From<KeptTackEvent> for TackEventOut {
    fn from(kept: KeptTackEvent) -> TackEventOut {
        let KeptTackEvent { id, at, event, version, who, .. } = kept;
        TackEventOut { id, at, event, version, who }
    }
}

/// What happened with the tack on a ride, and what comes next.
#[utoipa::path(get, path = "/api/rides/{id}/tack", params(("id" = Uuid, Path)),
    responses((status = 200, body = RideTackOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<RideTackOut>, Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    let road = road_of(&app, &signed, ride.horse_id).await?;
    let gear = gear::of_horse(&app.db, &signed.scope, ride.horse_id, ride.ridden_on).await?;
    let log = TackLog::read(&app, &signed, ride.ridden_on, &[(&ride, &road)]).await?;
    Ok(Json(log.of_ride(&ride, &road, &gear)))
}

/// What happened with the tack of horses that are ridden on a day: read at once, however many they are.
pub(crate) struct TackLog {
    of_rides: Vec<KeptTackEvent>,
    shared: Vec<(KeptShares, SharedRide)>,
    /// Of those horses whose road asks for it.
    of_horses: Vec<KeptTackEvent>,
}

impl TackLog {
    /// Reads what happened on these rides of a day, and on earlier ones of their horses.
    pub(crate) async fn read(
        app: &App,
        signed: &SignedIn,
        day: NaiveDate,
        rides: &[(&Ride, &OnRoad)],
    ) -> Result<TackLog, Problem> {
        let ids: Vec<Uuid> = rides.iter().map(|(ride, _)| ride.id).collect();
        let horses: Vec<Uuid> = rides.iter().map(|(ride, _)| ride.horse_id).collect();
        let asks_for_it = |road: &OnRoad| road.is_step_down() || road.first_day().is_some();
        let on_road: Vec<Uuid> = rides.iter().filter(|(_, road)| asks_for_it(road)).map(|r| r.0.horse_id).collect();
        Ok(TackLog {
            of_rides: tack_event::of_rides(&app.db, &signed.scope, &ids).await?,
            shared: two_rein::rides(app, signed, &horses, day).await?,
            of_horses: first_day::events_of(app, signed, &on_road, day).await?,
        })
    }

    /// What happened with the tack on one of the rides, of a horse on its road with this gear among others', and what comes next.
    pub(crate) fn of_ride(&self, ride: &Ride, road: &OnRoad, gear: &[Gear]) -> RideTackOut {
        let events = self.of_rides.iter().filter(|kept| kept.ride_id == ride.id).cloned();
        let shared = self.shared.iter().filter(|(kept, _)| kept.horse_id == ride.horse_id && kept.ride_id != ride.id);
        let before: Vec<SharedRide> = shared.map(|(_, ride)| ride.clone()).collect();
        let share = next_share(&before).map(|next| BeginOut { bridle: next.bridle, why: next.why });
        let of_horse: Vec<&KeptTackEvent> = self.of_horses.iter().filter(|e| e.horse_id == ride.horse_id).collect();
        let asks = asks(of_horse.iter().copied(), ride.ridden_on).into_iter().map(|(ask, _)| ask).collect::<Vec<_>>();
        let orders = if road.is_step_down() { orders(ride, &asks) } else { vec![] };
        let gear: Vec<&Gear> = gear.iter().filter(|g| g.horse_id == ride.horse_id).collect();
        let first_day = first_day::list(&gear, &of_horse, ride.ridden_on, road).filter(FirstDayOut::is_running);
        RideTackOut { events: events.map(Into::into).collect(), share, orders, first_day }
    }
}

fn orders(ride: &Ride, asks: &[PairedAsk]) -> Vec<OrderOut> {
    // The same lot for whoever asks on this ride, and another on the next.
    let seed = ride.id.as_u64_pair().0;
    let order = |gait| OrderOut { gait, reins: order_of_reins(asks, ride.ridden_on, gait, seed, MOST_ASKS) };
    Gait::ALL.into_iter().map(order).collect()
}

/// Keeps something that happened with the tack on a ride, or puts it right. The same sent twice is kept once.
#[utoipa::path(put, path = "/api/rides/{ride}/tack/{id}", params(("ride" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = TackEventIn,
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(ride, id): Ids,
    Body(sent): Body<TackEventIn>,
) -> Result<StatusCode, Problem> {
    let ride = ride_of_event(&app, &signed, ride, (sent.at, sent.version)).await?;
    if let Some(wrong) = sent.event.wrong() {
        return Err(Problem::field(&format!("event.{}", wrong.field), wrong.text));
    }
    if !sent.removed {
        may_be(&app, &signed, &ride, &sent.event).await?;
    }
    let TackEventIn { at, event, removed, version } = sent;
    let new = NewTackEvent { at, event, removed, version };
    kept(tack_event::put(&app.db, &signed.scope, ride.id, id, &new).await?, "piece of the tack's log")
}

/// Whether what is known of the horse lets an event stand.
async fn may_be(app: &App, signed: &SignedIn, ride: &RideToLog, event: &TackEvent<Uuid>) -> Result<(), Problem> {
    match event {
        TackEvent::Worn { gear: worn } => {
            let own = gear::of_horse(&app.db, &signed.scope, ride.horse_id, ride.ridden_on).await?;
            match worn.iter().position(|piece| own.iter().all(|g| g.id != *piece)) {
                Some(n) => Err(Problem::field(&format!("event.gear[{n}]"), "pick from this horse's own gear")),
                None => Ok(()),
            }
        }
        TackEvent::Share { .. } if tack_event::is_noted_by_hand(&app.db, &signed.scope, ride.id).await? => {
            Err(Problem::conflict("The share of this ride was noted by hand meanwhile: put it in there"))
        }
        TackEvent::Anyway { .. } if signed.role != Role::Trainer => {
            Err(Problem::forbidden("A trainer signs for beginning all the same"))
        }
        TackEvent::Step { step, .. } => first_day::may_note(app, signed, ride, usize::from(*step)).await,
        _ => Ok(()),
    }
}
