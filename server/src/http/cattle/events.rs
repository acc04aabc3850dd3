//! What happens on cattle on a ride, logged from the saddle or the fence through a device's outbox.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    cattle::{
        CameBack, CattleAdvice, CattleEvent, CattleFault, CattleLimits, CowHealth, CowWork, Freshness, Manner,
        NextOnCattle, Outside, Position, Turn, Way, came_back, fix_elsewhere, next_on_cattle, outside,
    },
    curriculum::{Curriculum, Rung},
};
use cavesson_store::{
    cattle::{self, KeptOnCattle, NewOnCattle},
    log::ride,
};
use chrono::{DateTime, Days, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::{
    draw,
    known::{DayWork, Herd, limits, works_of},
};
use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        ride_event::{kept, ride_of_event},
    },
    services::book::books,
};

/// Something on cattle to keep.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct CattleEventIn {
    /// When it happened.
    at: DateTime<Utc>,
    event: CattleEvent<Uuid>,
    /// Taken back.
    #[serde(default)]
    removed: bool,
    /// 1 at first, and one more each time that it is put right: the highest stands.
    #[schema(minimum = 1, maximum = 10000)]
    version: i32,
}

/// Something on cattle on a ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CattleEventOut {
    id: Uuid,
    at: DateTime<Utc>,
    event: CattleEvent<Uuid>,
    version: i32,
    who: String,
}

impl From<KeptOnCattle> for CattleEventOut {
    fn from(kept: KeptOnCattle) -> CattleEventOut {
        let KeptOnCattle { id, at, event, version, who, .. } = kept;
        CattleEventOut { id, at, event, version, who }
    }
}

/// A cow that may be picked.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PickCow {
    id: Uuid,
    tag: String,
    looks: String,
    manner: Manner,
    health: CowHealth,
    freshness: Freshness,
    /// Whether the day's draw has it for this horse.
    drawn: bool,
    /// Why it is not worked today.
    spared: Option<&'static str>,
    /// The horse that worked it last, within the last minutes.
    with: Option<String>,
}

/// How fast a cow the horse holds one way, and how far outside.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LimitOut {
    way: Way,
    /// The furthest outside that it holds: none where not even with the cow's head at the leg.
    held: Option<Position>,
    /// The next step of that ladder; none where it holds the last.
    next: Option<Position>,
    /// Right turns on that step, and all of them.
    seen: [usize; 2],
    /// Feet a second.
    limit: f64,
    /// Four times in five it lies between these.
    between: [f64; 2],
    /// Turns that it rests on.
    turns: usize,
}

/// What to do next.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CattleAdviceOut {
    next: NextOnCattle,
    why: String,
    /// What to ride in the open pen before coming back, where the herd is left for a fault.
    ride: Vec<StepToRide>,
}

/// A rung to ride in the open pen.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StepToRide {
    rung: String,
    name: String,
}

impl CattleAdviceOut {
    /// Advice that sends to no rung.
    pub(super) fn plain(CattleAdvice { next, why }: CattleAdvice) -> CattleAdviceOut {
        CattleAdviceOut { next, why, ride: vec![] }
    }
}

/// An earlier work of the horse.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct EarlierWork {
    on: chrono::NaiveDate,
    minutes: f64,
    turns: usize,
    right: usize,
    lost: u32,
}

/// Cattle on a ride: what the saddle needs to know.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RideCattleOut {
    /// In order.
    events: Vec<CattleEventOut>,
    /// Those drawn for this horse first; empty for owners.
    cows: Vec<PickCow>,
    limits: Vec<LimitOut>,
    advice: Option<CattleAdviceOut>,
    /// What the herd was left for on this ride, before and since, latest first.
    came_back: Vec<String>,
    /// Earlier days of the horse on cattle, latest first.
    earlier: Vec<EarlierWork>,
}

/// Minutes on cattle that are enough for a day, and right turns each way.
const ENOUGH: (u8, u8) = (12, 3);
/// Days of turns that say how fast a cow a horse holds, and of works that this one is held against.
const BACK: u64 = 60;
/// Earlier works that are told.
const EARLIER: usize = 5;
/// Two horses are not put on one cow within so many seconds.
const TOGETHER: i64 = 120;

/// What happened on cattle on a ride, what comes next, and the cows to pick from.
#[utoipa::path(get, path = "/api/rides/{id}/cattle", params(("id" = Uuid, Path)),
    responses((status = 200, body = RideCattleOut), (status = 404, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<RideCattleOut>, Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    let span = [ride.ridden_on - Days::new(BACK), ride.ridden_on];
    let all = cattle::of_horse(&app.db, &signed.scope, ride.horse_id, span).await?;
    let works = works_of(&all);
    let turns: Vec<Turn> = works.iter().flat_map(|w| w.work.turns.iter().copied()).collect();
    let limits = [Way::Left, Way::Right]
        .into_iter()
        .zip(limits(&turns))
        .map(|(way, l)| {
            let Outside { held, next, seen, .. } = outside(&turns, way);
            LimitOut { way, held, next, seen, limit: l.limit, between: l.between, turns: l.turns }
        })
        .collect();
    let earlier = days_before(&works, id);
    let own: Vec<CowWork<Uuid>> = works.into_iter().filter(|w| w.ride == id).map(|w| w.work).collect();
    let mut go_minutes = cavesson_core::cattle::HerdRules::default().go_minutes;
    let mut cows = vec![];
    if signed.scope.staff().is_ok() {
        let herd = Herd::of(&app, &signed, ride.ridden_on).await?;
        go_minutes = herd.rules.go_minutes;
        cows = pick(&app, &signed, &herd, &ride).await?;
    }
    let limits_of = CattleLimits { go_minutes, minutes: ENOUGH.0, right: ENOUGH.1 };
    let mut advice = next_on_cattle(&own, limits_of).map(CattleAdviceOut::plain);
    if let Some(leave) = advice.as_mut().filter(|advice| advice.next == NextOnCattle::LeaveCattle) {
        let own_turns: Vec<Turn> = own.iter().flat_map(|work| work.turns.iter().copied()).collect();
        leave.ride = steps_to_ride(&app, &signed, ride.horse_id, &own_turns).await?;
    }
    let of_ride: Vec<KeptOnCattle> = all.into_iter().filter(|kept| kept.ride_id == id).collect();
    let manner = |id: Uuid| cows.iter().find(|cow: &&PickCow| cow.id == id).map(|cow| cow.manner);
    let told: Vec<CattleEvent<Uuid>> = of_ride.iter().map(|kept| kept.event.clone()).collect();
    let came_back = came_back(&told, |a, b| a == b || manner(a).is_some() && manner(a) == manner(b));
    let came_back = came_back.iter().map(CameBack::says).collect();
    let events = of_ride.into_iter().map(Into::into).collect();
    Ok(Json(RideCattleOut { events, cows, limits, advice, came_back, earlier }))
}

/// Rungs that are ridden for a fault before coming back.
const STEPS: usize = 2;

/// What to ride in the open pen for the fault that the herd is left for: where the curriculum sends with it from the highest rung on a
/// single cow that knows it.
async fn steps_to_ride(app: &App, signed: &SignedIn, horse: Uuid, turns: &[Turn]) -> Result<Vec<StepToRide>, Problem> {
    let Some(fix) = fix_elsewhere(turns) else { return Ok(vec![]) };
    let books = books(app, &signed.scope, &[Some(horse)]).await?;
    Ok(books.first().map(|book| elsewhere(&book.curriculum, fix.fault)).unwrap_or_default())
}

fn elsewhere(curriculum: &Curriculum, fault: CattleFault) -> Vec<StepToRide> {
    let Some(fault) = curriculum.fault(fault.word()) else { return vec![] };
    let heights = curriculum.heights();
    let on_a_cow = |rung: &&Rung| curriculum.work_needs(rung).cow.is_some() && rung.faults.contains(&fault.tag);
    let Some(at) = curriculum.rungs().iter().filter(on_a_cow).max_by_key(|rung| heights.of(&rung.id)) else {
        return vec![];
    };
    // Away from cattle: what needs a cow itself does not count.
    let in_the_open = |rung: &&Rung| {
        let needs = curriculum.work_needs(rung);
        needs.cattle == 0 && !needs.flag
    };
    (heights.remedies(fault, &at.id).iter())
        .filter_map(|id| curriculum.rung(id))
        .filter(in_the_open)
        .take(STEPS)
        .map(|rung| StepToRide { rung: rung.id.clone(), name: rung.name.clone() })
        .collect()
}

/// Earlier days of the horse on cattle, latest first.
fn days_before(works: &[DayWork], ride: Uuid) -> Vec<EarlierWork> {
    let mut days: Vec<EarlierWork> = vec![];
    for DayWork { on, work, .. } in works.iter().rev().filter(|w| w.ride != ride) {
        if days.last().is_none_or(|day| day.on != *on) {
            days.push(EarlierWork { on: *on, minutes: 0.0, turns: 0, right: 0, lost: 0 });
        }
        if let Some(day) = days.last_mut() {
            day.minutes += work.minutes();
            day.turns += work.turns.len();
            day.right += work.turns.iter().filter(|turn| turn.is_right()).count();
            day.lost += work.lost.iter().sum::<u32>();
        }
    }
    days.truncate(EARLIER);
    days
}

async fn pick(app: &App, signed: &SignedIn, herd: &Herd, ride: &ride::Ride) -> Result<Vec<PickCow>, Problem> {
    let drawn = draw::drawn_for(app, signed, herd, ride).await?;
    let now = Utc::now().timestamp();
    let works = herd.works();
    let busy = |cow: Uuid| {
        let other = works.iter().rev().find(|w| w.work.cow == cow && w.on == ride.ridden_on && w.ride != ride.id)?;
        (now - other.work.begin - other.work.seconds < TOGETHER).then_some(other.horse)
    };
    let with: Vec<Option<Uuid>> = herd.cows.iter().map(|cow| busy(cow.id)).collect();
    let names = if with.iter().any(Option::is_some) {
        cavesson_store::horse::in_work(&app.db, &signed.scope).await?
    } else {
        vec![]
    };
    let mut cows: Vec<PickCow> = (herd.cows.iter().zip(&herd.known).zip(with))
        .map(|((cow, known), with)| PickCow {
            id: cow.id,
            tag: cow.fields.tag.clone(),
            looks: cow.fields.looks.clone(),
            manner: cow.fields.manner,
            health: cow.fields.health,
            freshness: known.today(&herd.rules).freshness,
            drawn: drawn.contains(&cow.id),
            spared: known.spared(&herd.rules),
            with: with.and_then(|horse| names.iter().find(|h| h.id == horse).map(|h| h.name.clone())),
        })
        .collect();
    let order = |cow: &PickCow| (drawn.iter().position(|id| *id == cow.id).unwrap_or(usize::MAX), cow.spared.is_some());
    cows.sort_by_key(order);
    Ok(cows)
}

/// Keeps something that happened on cattle on a ride, or puts it right. The same sent twice is kept once.
#[utoipa::path(put, path = "/api/rides/{ride}/cattle/{id}", params(("ride" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = CattleEventIn,
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(ride, id): Ids,
    Body(sent): Body<CattleEventIn>,
) -> Result<StatusCode, Problem> {
    let ride = ride_of_event(&app, &signed, ride, (sent.at, sent.version)).await?;
    if let CattleEvent::Work { why: Some(why), .. } = &sent.event
        && !(1..=500).contains(&why.trim().chars().count())
    {
        return Err(Problem::field("event.why", "a sentence of up to 500 characters"));
    }
    if let CattleEvent::Flag { stop } = &sent.event
        && stop.past.abs() > 300
    {
        return Err(Problem::field("event.stop.past", "at most 30 feet either way, in tenths"));
    }
    if let Some(cow) = sent.event.cow() {
        let cow = cattle::get(&app.db, &signed.scope, cow).await?;
        let cow = cow.ok_or_else(|| Problem::field("event.cow", "the herd has no such cow: pick one that is here"))?;
        if let Some(left) = cow.fields.left_on.filter(|left| *left <= ride.ridden_on) {
            let text = format!("{} left on {left}, before this ride: look at the tag", cow.fields.tag);
            return Err(Problem::field("event.cow", text));
        }
    }
    let CattleEventIn { at, event, removed, version } = sent;
    let new = NewOnCattle { at, event, removed, version };
    kept(cattle::put_event(&app.db, &signed.scope, ride.id, id, &new).await?, "piece of the log on cattle")
}
