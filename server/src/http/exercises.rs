//! What came of exercises on a ride: moves of a drill, tries at obstacles, set-ups and changes of lead; and what comes next.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    count::ObstacleStage,
    exercise::{
        ChangeCheck, ChangePart, ChangePlace, ExerciseEvent, LeadChange, LopeSetUp, NextTry, ObstacleTry, SetUpTold,
        change_advice, change_ledger, coming, next_set_up, next_try, set_up_ledger,
    },
    figure::Obstacle,
    pattern::Hand,
};
use cavesson_store::{
    exercise::{self, KeptExercise, NewExercise},
    log::ride::{self, Ride},
};
use chrono::{DateTime, Days, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::{router::OpenApiRouter, routes};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        ride_event::{kept, ride_of_event},
    },
};

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new().routes(routes!(read)).routes(routes!(put))
}

/// Something of an exercise to keep.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ExerciseEventIn {
    /// When it happened.
    at: DateTime<Utc>,
    event: ExerciseEvent,
    /// Taken back.
    #[serde(default)]
    removed: bool,
    /// 1 at first, and one more each time that it is put right: the highest stands.
    #[schema(minimum = 1, maximum = 10000)]
    version: i32,
}

/// Something of an exercise on a ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ExerciseEventOut {
    id: Uuid,
    at: DateTime<Utc>,
    event: ExerciseEvent,
    version: i32,
    who: String,
}

impl From<KeptExercise> for ExerciseEventOut {
    fn from(kept: KeptExercise) -> ExerciseEventOut {
        let KeptExercise { id, at, event, version, who, .. } = kept;
        ExerciseEventOut { id, at, event, version, who }
    }
}

/// The set-ups for a lead over the last weeks, and what the next one ends in.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SetUpsOut {
    lead: Hand,
    go: u32,
    walk_on: u32,
    wait: u32,
    guessed: u32,
    /// What the next one ends in, and those after it while each comes off as it is drawn.
    coming: Vec<SetUpTold>,
    why: String,
    /// The share that may end in going, 0 to 1.
    share: f64,
    share_why: String,
}

/// The changes to a lead over the last weeks, and whether the next is asked once the check before it is good.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LeadChangesOut {
    to: Hand,
    all: u32,
    clean: u32,
    front_first: u32,
    late_behind: u32,
    leaned: u32,
    /// The hind end before the front, tenths of a second: the middle of those that were seen.
    median_tenths: Option<i8>,
    offered: bool,
    why: String,
    place: ChangePlace,
    /// The rung to ride instead.
    instead: Option<&'static str>,
}

/// A part of the check before a change, in the order in which they are put right.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ChangeCheckOut {
    part: ChangePart,
    says: &'static str,
    /// The rung that works on it.
    rung: &'static str,
}

/// An obstacle that was tried on this ride, and what to do next.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TriedOut {
    name: String,
    obstacle: Obstacle,
    tries: Vec<ObstacleTry>,
    next: NextTry,
    why: String,
    guard: Option<Hand>,
    /// A smaller piece of it.
    smaller: &'static str,
}

/// Tries at a kind of obstacle on earlier days.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TriedBeforeOut {
    obstacle: Obstacle,
    on: chrono::NaiveDate,
    tries: Vec<ObstacleTry>,
}

/// A kind of obstacle.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ObstacleKindOut {
    obstacle: Obstacle,
    name: &'static str,
    rung: &'static str,
    /// How far a try can get, nearest first.
    stages: &'static [ObstacleStage],
}

/// The exercises of a ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RideExercisesOut {
    /// Of this ride, in order.
    events: Vec<ExerciseEventOut>,
    set_ups: Vec<SetUpsOut>,
    changes: Vec<LeadChangesOut>,
    check: Vec<ChangeCheckOut>,
    tried: Vec<TriedOut>,
    /// The latest day of each kind of obstacle before this ride.
    before: Vec<TriedBeforeOut>,
    /// The kinds of obstacles there are.
    kinds: Vec<ObstacleKindOut>,
}

/// So many days back count.
const BACK: u64 = 60;
/// Set-ups that are drawn ahead, for a device without a signal.
const AHEAD: usize = 20;

/// What came of exercises on a ride, and what comes next.
#[utoipa::path(get, path = "/api/rides/{id}/exercises", params(("id" = Uuid, Path)),
    responses((status = 200, body = RideExercisesOut), (status = 404, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    signed: SignedIn,
    Id(id): Id,
) -> Result<Json<RideExercisesOut>, Problem> {
    let ride = ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    let all = lately(&app, &signed, &[ride.horse_id], ride.ridden_on).await?;
    Ok(Json(of_ride(&ride, &all)))
}

/// What came of exercises on horses up to a day, as far back as is looked at.
pub(crate) async fn lately(
    app: &App,
    signed: &SignedIn,
    horses: &[Uuid],
    day: NaiveDate,
) -> Result<Vec<KeptExercise>, Problem> {
    Ok(exercise::of_horses(&app.db, &signed.scope, horses, [day - Days::new(BACK), day]).await?)
}

/// What came of exercises on a ride, and what comes next, from what came of them on its horse up to its day.
pub(crate) fn of_ride(ride: &Ride, all: &[KeptExercise]) -> RideExercisesOut {
    let all = all.iter().filter(|kept| kept.horse_id == ride.horse_id);
    // The same draws for whoever looks at this ride, and others on the next.
    let seed = ride.id.as_u64_pair().0;
    let set_ups: Vec<LopeSetUp> = all.clone().filter_map(|kept| set_up(&kept.event)).collect();
    let (own, before): (Vec<KeptExercise>, Vec<KeptExercise>) = all.cloned().partition(|kept| kept.ride_id == ride.id);
    let changes_of = |all: &[KeptExercise]| all.iter().filter_map(|kept| change(&kept.event)).collect();
    let (earlier, today): (Vec<LeadChange>, Vec<LeadChange>) = (changes_of(&before), changes_of(&own));
    RideExercisesOut {
        set_ups: Hand::ALL.map(|lead| set_ups_out(&set_ups, lead, seed)).into(),
        changes: Hand::ALL.map(|to| changes_out(&earlier, &today, to, seed)).into(),
        check: ChangePart::ALL.map(|part| ChangeCheckOut { part, says: part.phrase(), rung: part.rung() }).into(),
        tried: tried(&own),
        before: tried_before(&before),
        kinds: Obstacle::ALL.map(kind_out).into(),
        events: own.into_iter().map(Into::into).collect(),
    }
}

fn kind_out(obstacle: Obstacle) -> ObstacleKindOut {
    ObstacleKindOut { obstacle, name: obstacle.named(), rung: obstacle.rung(), stages: obstacle.stages() }
}

fn set_up(event: &ExerciseEvent) -> Option<LopeSetUp> {
    if let ExerciseEvent::SetUp { of } = event { Some(*of) } else { None }
}

fn change(event: &ExerciseEvent) -> Option<LeadChange> {
    if let ExerciseEvent::Change { of } = event { Some(*of) } else { None }
}

fn set_ups_out(all: &[LopeSetUp], lead: Hand, seed: u64) -> SetUpsOut {
    let (ledger, next) = (set_up_ledger(all, lead), next_set_up(all, lead, seed));
    SetUpsOut {
        lead,
        go: ledger.go,
        walk_on: ledger.walk_on,
        wait: ledger.wait,
        guessed: ledger.guessed,
        coming: coming(all, lead, seed, AHEAD),
        why: next.why,
        share: next.go.share,
        share_why: next.go.why,
    }
}

fn changes_out(earlier: &[LeadChange], today: &[LeadChange], to: Hand, seed: u64) -> LeadChangesOut {
    let all: Vec<LeadChange> = earlier.iter().chain(today).copied().collect();
    let ledger = change_ledger(&all, to);
    let good = ChangeCheck { shoulders: true, hip: true, relaxed: true, straight: true, held: true };
    let advice = change_advice(earlier, today, to, good, seed);
    LeadChangesOut {
        to,
        all: ledger.all,
        clean: ledger.clean,
        front_first: ledger.front_first,
        late_behind: ledger.late_behind,
        leaned: ledger.leaned,
        median_tenths: ledger.median_tenths,
        offered: advice.offered,
        why: advice.why,
        place: advice.place,
        instead: advice.instead,
    }
}

/// The obstacles tried on a ride, each by its name, in the order in which they came first.
fn tried(own: &[KeptExercise]) -> Vec<TriedOut> {
    let mut all: Vec<(String, Obstacle, Vec<ObstacleTry>)> = vec![];
    for kept in own {
        let ExerciseEvent::Try { obstacle, name, of } = &kept.event else { continue };
        match all.iter_mut().find(|(known, ..)| known == name) {
            Some((.., tries)) => tries.push(*of),
            None => all.push((name.clone(), *obstacle, vec![*of])),
        }
    }
    all.into_iter()
        .map(|(name, obstacle, tries)| {
            let advice = next_try(&tries);
            let smaller = obstacle.smaller();
            TriedOut { name, obstacle, tries, next: advice.next, why: advice.why, guard: advice.guard, smaller }
        })
        .collect()
}

/// The latest day before of each kind of obstacle.
fn tried_before(before: &[KeptExercise]) -> Vec<TriedBeforeOut> {
    let mut all: Vec<TriedBeforeOut> = vec![];
    for kept in before {
        let ExerciseEvent::Try { obstacle, of, .. } = &kept.event else { continue };
        match all.iter_mut().find(|it| it.obstacle == *obstacle) {
            Some(it) if it.on == kept.on => it.tries.push(*of),
            Some(it) => (it.on, it.tries) = (kept.on, vec![*of]),
            None => all.push(TriedBeforeOut { obstacle: *obstacle, on: kept.on, tries: vec![*of] }),
        }
    }
    all
}

/// Keeps something of an exercise on a ride, or puts it right. The same sent twice is kept once.
#[utoipa::path(put, path = "/api/rides/{ride}/exercises/{id}", params(("ride" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = ExerciseEventIn,
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(ride, id): Ids,
    Body(sent): Body<ExerciseEventIn>,
) -> Result<StatusCode, Problem> {
    let ride = ride_of_event(&app, &signed, ride, (sent.at, sent.version)).await?;
    sent.event.check().map_err(|wrong| Problem::field(&format!("event.{}", wrong.field), wrong.mend))?;
    let ExerciseEventIn { at, event, removed, version } = sent;
    let new = NewExercise { at, event, removed, version };
    kept(exercise::put(&app.db, &signed.scope, ride.id, id, &new).await?, "piece of the log of exercises")
}
