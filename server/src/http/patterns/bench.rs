//! What a set-up comes to: the quickest run, what a foot costs, what to mind, and the largest that fits.

use axum::{Json, extract::State};
use cavesson_core::{
    curriculum::Gait,
    pattern::{
        Asked, Cost, Fitted, FootOf, Footwork, Hand, Horse, Pocket, Point, Room, Run, SetUp, Spot, cautions, costs,
        fit as largest, least_pockets, pocket_for, quickest_pockets, quickest_run,
    },
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::{pens, sound};
use crate::{App, Problem, auth::Rider, http::extract::Body};

/// Points of a run are at most so far apart, metres.
const APART: f64 = 0.4;

/// A set-up to run in mind.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RunIn {
    set_up: SetUp,
    horse: Horse,
    /// The place whose pen it stands in, to say what is in the way.
    ground_id: Option<Uuid>,
}

/// A straight.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LegOut {
    length: f64,
    strides: f64,
}

/// The way round a barrel.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TurnOut {
    degrees: f64,
    length: f64,
    seconds: f64,
    /// m/s.
    slowest: f64,
    /// Where it starts, behind the barrel, and where it ends.
    spots: Vec<Point>,
    /// Where the horse must start to slow.
    rate_at: Point,
    /// Metres before the first spot.
    rate_before: f64,
    rate_strides: f64,
}

/// Where the lead changes.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LeadOut {
    /// After which barrel, from 0.
    after: usize,
    at: Point,
}

/// What a foot costs.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CostOut {
    /// What is changed: a foot of pocket, a stride of sitting earlier, a foot a second at the start, a tenth of grip.
    #[schema(pattern = "^(pocket|early|speed-in|grip)$")]
    of: &'static str,
    /// Which barrel, from 0.
    barrel: Option<usize>,
    spot: Option<Spot>,
    /// Seconds more with it.
    more: f64,
    /// Seconds more with as much less.
    less: Option<f64>,
    /// How much the slowest rises, m/s.
    slowest: f64,
}

/// The quickest run of a set-up.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RunOut {
    length: f64,
    seconds: f64,
    strides: f64,
    legs: Vec<LegOut>,
    turns: Vec<TurnOut>,
    lead_changes: Vec<LeadOut>,
    /// x, y, metres from the start, m/s, seconds from the start.
    points: Vec<[f64; 5]>,
    costs: Vec<CostOut>,
    /// The pockets that would be quickest on paper, none under those of the set-up by more than a foot.
    quickest: Vec<Pocket>,
    quickest_seconds: f64,
    /// What to mind, in words.
    cautions: Vec<String>,
}

fn rounded(value: f64) -> f64 {
    (value * 1000.0).round() / 1000.0
}

fn xy(p: Point) -> Point {
    Point::new(rounded(p.x), rounded(p.y))
}

fn cost(cost: Cost) -> CostOut {
    let (of, barrel, spot) = match cost.of {
        FootOf::Pocket { barrel, spot } => ("pocket", Some(barrel), Some(spot)),
        FootOf::Early { barrel } => ("early", Some(barrel), None),
        FootOf::SpeedIn => ("speed-in", None, None),
        FootOf::Grip => ("grip", None, None),
    };
    let (more, less) = (rounded(cost.more), cost.less.map(rounded));
    CostOut { of, barrel, spot, more, less, slowest: rounded(cost.slowest) }
}

/// The point of a run that lies so far along it.
fn at(run: &Run, s: f64) -> Point {
    let n = run.points.partition_point(|p| p.s < s).min(run.points.len() - 1);
    run.points[n].at
}

fn turn(run: &Run, horse: &Horse, n: usize) -> TurnOut {
    let round = run.round(n);
    let before = run.rates[n].before;
    TurnOut {
        degrees: rounded(run.path.turns[n].sweep.to_degrees()),
        length: rounded(round[round.len() - 1].s - round[0].s),
        seconds: rounded(run.turn_time(n)),
        slowest: rounded(run.slowest(n)),
        spots: run.path.turns[n].spots().map(xy).to_vec(),
        rate_at: xy(at(run, round[0].s - before)),
        rate_before: rounded(before),
        rate_strides: rounded(before / horse.stride),
    }
}

fn answer(set_up: &SetUp, horse: &Horse, pen: Option<&cavesson_core::pattern::Pen>) -> Result<RunOut, Problem> {
    let run = quickest_run(set_up, horse).map_err(sound::no_path)?;
    let leg = |length: f64| LegOut { length: rounded(length), strides: rounded(length / horse.stride) };
    let quickest = quickest_pockets(set_up, horse, least_pockets(set_up)).unwrap_or_else(|_| set_up.clone());
    let quickest_seconds = quickest_run(&quickest, horse).map_or(run.time(), |r| r.time());
    Ok(RunOut {
        length: rounded(run.length()),
        seconds: rounded(run.time()),
        strides: rounded(run.length() / horse.stride),
        legs: run.path.legs.iter().map(|l| leg(l.length())).collect(),
        turns: (0..run.path.turns.len()).map(|n| turn(&run, horse, n)).collect(),
        lead_changes: run.path.lead_changes().into_iter().map(|(after, at)| LeadOut { after, at: xy(at) }).collect(),
        points: (run.thinned(APART).iter()).map(|p| [p.at.x, p.at.y, p.s, p.speed, p.t].map(rounded)).collect(),
        costs: costs(set_up, horse).map_err(sound::no_path)?.into_iter().map(cost).collect(),
        quickest: quickest.barrels.iter().map(|b| b.pocket).collect(),
        quickest_seconds: rounded(quickest_seconds),
        cautions: cautions(set_up, &run, horse, pen),
    })
}

/// The quickest run of a set-up, with what a foot costs.
#[utoipa::path(post, path = "/api/patterns/run", request_body = RunIn,
    responses((status = 200, body = RunOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn run(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<RunIn>,
) -> Result<Json<RunOut>, Problem> {
    sound::set_up(&sent.set_up)?;
    sound::horse(&sent.horse)?;
    let pen = match sent.ground_id {
        Some(id) => Some(pens::of(&app, &signed, id).await?.pen),
        None => None,
    };
    app.compute.run(signed.scope.shared(), move || answer(&sent.set_up, &sent.horse, pen.as_ref())).await?.map(Json)
}

/// What to fit into a pen.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FitIn {
    ground_id: Uuid,
    /// Room to leave; that of rule books where it is left out.
    room: Option<Room>,
    /// The pocket of every barrel; the usual one where it is left out.
    pocket: Option<Pocket>,
    /// To which hand the first barrel is turned.
    first: Hand,
    /// Whether the barrels may stand unevenly.
    #[serde(default)]
    lopsided: bool,
}

/// A distance against the standard, metres.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DistanceOut {
    what: &'static str,
    is: f64,
    standard: f64,
}

/// The largest set-up that fits.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FitOut {
    set_up: SetUp,
    /// Against the standard, 0 to 1.
    scale: f64,
    /// What it would be with a foot more of pen all round.
    with_a_foot_more: f64,
    distances: Vec<DistanceOut>,
    /// The pieces of bad ground it goes over, from 0.
    over_bad_ground: Vec<usize>,
}

impl From<Fitted> for FitOut {
    fn from(fitted: Fitted) -> FitOut {
        let distances = fitted.distances.into_iter();
        FitOut {
            set_up: fitted.set_up,
            scale: rounded(fitted.scale),
            with_a_foot_more: rounded(fitted.with_a_foot_more),
            distances: distances
                .map(|d| DistanceOut { what: d.what, is: rounded(d.is), standard: rounded(d.standard) })
                .collect(),
            over_bad_ground: fitted.over_bad_ground,
        }
    }
}

/// The pocket of a run, for a horse of which nothing is known.
fn usual_pocket() -> Pocket {
    pocket_for(Gait::Run, Footwork::Lacks)
}

/// The largest set-up that fits into a pen.
#[utoipa::path(post, path = "/api/patterns/fit", request_body = FitIn,
    responses((status = 200, body = FitOut), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn fit(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<FitIn>,
) -> Result<Json<FitOut>, Problem> {
    let pen = pens::of(&app, &signed, sent.ground_id).await?.pen;
    let room = sent.room.unwrap_or_default();
    let pocket = sent.pocket.unwrap_or_else(usual_pocket);
    let sides = [pocket.entry, pocket.back, pocket.exit];
    if !sides.iter().all(|p| (0.1..=10.0).contains(p)) {
        return Err(Problem::field("pocket", "a pocket is 0.1 to 10 m (33 ft) here"));
    }
    if ![room.beside, room.behind, room.stop].iter().all(|m| (0.0..=100.0).contains(m)) {
        return Err(Problem::field("room", "room is 0 to 100 m"));
    }
    let asked = Asked { room, pocket, first: sent.first, lopsided: sent.lopsided };
    let fitted = app.compute.run(signed.scope.shared(), move || largest(&pen, &asked)).await?;
    fitted.map(|f| Json(f.into())).map_err(|why| Problem::field("ground_id", why.to_string()))
}
