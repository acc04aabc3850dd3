//! At the fence: whether a horse gets past a cow's head before the fence ends, and how fast a cow it holds when the cow stops.

use axum::Json;
use cavesson_core::cattle::{Band, HeadOff, Hold, Mark, Position, RunningCow, RunningHorse, Tires};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::{FieldProblem, Problem, auth::Rider, http::extract::Body};

/// A cow that runs down the fence, and a horse that is to head it off. Feet, seconds.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FenceIn {
    /// How long the fence is, 20 to 1000.
    #[schema(minimum = 20, maximum = 1000)]
    long: f64,
    /// What is left to turn in, 0 to 100.
    #[schema(minimum = 0, maximum = 100)]
    room: f64,
    /// Where the cow's head is, from the beginning of the fence, 0 to 1000.
    #[schema(minimum = 0, maximum = 1000)]
    cow_at: f64,
    /// Feet a second, 1 to 40.
    #[schema(minimum = 1, maximum = 40)]
    cow_speed: f64,
    /// What its speed falls to, 0 to its speed; the same where it does not tire.
    #[schema(minimum = 0, maximum = 40)]
    cow_tires_to: f64,
    /// How hard the cow stops, feet a second in a second, 1 to 60.
    #[schema(minimum = 1, maximum = 60)]
    cow_brake: f64,
    /// Where the horse's nose is along the fence, 0 to 1000.
    #[schema(minimum = 0, maximum = 1000)]
    nose: f64,
    /// How far it is off the cow's line, 0 to 300.
    #[schema(minimum = 0, maximum = 300)]
    across: f64,
    /// Feet a second, 0 to its top.
    #[schema(minimum = 0, maximum = 70)]
    speed: f64,
    /// Seconds until the horse answers, 0 to 5.
    #[schema(minimum = 0, maximum = 5)]
    delay: f64,
    /// Feet a second gained in a second, 0.5 to 40.
    #[schema(minimum = 0.5, maximum = 40)]
    accel: f64,
    /// The most that it runs, feet a second, 5 to 70.
    #[schema(minimum = 5, maximum = 70)]
    top: f64,
    /// How hard it stops, feet a second in a second, 1 to 60.
    #[schema(minimum = 1, maximum = 60)]
    brake: f64,
}

/// Whether the cow's head is brought so far back of the nose, and how.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FenceMarkOut {
    position: Position,
    /// None where the fence ends before.
    made: Option<FenceMadeOut>,
    /// How much further on the cow could be, feet; under 0 where it has to be further back.
    start: f64,
    /// The least top speed that does it, feet a second; none where none does.
    least_top: Option<f64>,
}

/// How a mark is made.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FenceMadeOut {
    /// Seconds from now.
    seconds: f64,
    /// Where the cow's head is then, feet.
    cow: f64,
    /// Fence that is left then, feet.
    clear: f64,
}

/// How far past the horse goes when a cow of a speed stops.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FencePastOut {
    /// Feet a second.
    speed: f64,
    /// Feet.
    past: f64,
    holds: bool,
}

/// What comes of it.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FenceOut {
    marks: Vec<FenceMarkOut>,
    past: Vec<FencePastOut>,
    /// The fastest cow that is held, feet a second; none where every one is.
    most_speed: Option<f64>,
    /// In position is from so far short to so far past, feet.
    band: [f64; 2],
}

/// Half of the way to its tired speed a cow has lost in so many seconds. Assumed.
const TIRES_HALF: f64 = 6.0;
/// In position when the cow stops: from so far short to so far past, feet. Assumed: a cow's neck either way.
const BAND: Band = Band { short: 3.0, long: 3.0 };
/// Speeds that are told, feet a second: a walk, a jog, a lope, a run.
const SPEEDS: [f64; 4] = [4.0, 7.0, 11.0, 16.0];

/// Where each number of the question may be.
fn ranges(of: &FenceIn) -> [(&'static str, f64, f64, f64); 13] {
    [
        ("long", of.long, 20.0, 1000.0),
        ("room", of.room, 0.0, 100.0),
        ("cow_at", of.cow_at, 0.0, of.long),
        ("cow_speed", of.cow_speed, 1.0, 40.0),
        ("cow_tires_to", of.cow_tires_to, 0.0, of.cow_speed),
        ("cow_brake", of.cow_brake, 1.0, 60.0),
        ("nose", of.nose, 0.0, of.long - of.room),
        ("across", of.across, 0.0, 300.0),
        ("speed", of.speed, 0.0, of.top),
        ("delay", of.delay, 0.0, 5.0),
        ("accel", of.accel, 0.5, 40.0),
        ("top", of.top, 5.0, 70.0),
        ("brake", of.brake, 1.0, 60.0),
    ]
}

/// Whether the horse heads the cow off, and how fast a cow it holds.
#[utoipa::path(post, path = "/api/cattle-fence", request_body = FenceIn,
    responses((status = 200, body = FenceOut), (status = 422, body = Problem)))]
pub(crate) async fn ask(_rider: Rider, Body(sent): Body<FenceIn>) -> Result<Json<FenceOut>, Problem> {
    let wrong = ranges(&sent).into_iter().filter(|(_, value, least, most)| !(least..=most).contains(&value));
    let wrong: Vec<FieldProblem> = wrong
        .map(|(field, _, least, most)| FieldProblem { field: field.to_owned(), detail: format!("{least} to {most}") })
        .collect();
    if !wrong.is_empty() {
        return Err(Problem::fields(wrong));
    }
    let tires = Tires { to: sent.cow_tires_to, half_seconds: TIRES_HALF };
    let tires = Some(tires).filter(|tires| tires.to < sent.cow_speed);
    let cow = RunningCow { at: sent.cow_at, speed: sent.cow_speed, tires };
    let FenceIn { nose, across, speed, delay, accel, top, brake, long, room, .. } = sent;
    let asked = HeadOff { cow, horse: RunningHorse { nose, across, speed, delay, accel, top, brake }, long, room };
    // A cow that is too tired to come as far as a mark is never past it.
    let reached = |position: &Position| cow.when_at(long - room - position.behind_nose()).is_finite();
    let marks = Position::ALL.into_iter().filter(reached).map(|position| mark(&asked, position)).collect();
    let hold = Hold { cow_brake: sent.cow_brake, off: 0.0, delay, horse_brake: brake };
    let past = SPEEDS.map(|speed| FencePastOut { speed, past: hold.at(speed).past, holds: hold.holds(speed, BAND) });
    let band = [BAND.short, BAND.long];
    Ok(Json(FenceOut { marks, past: past.into(), most_speed: hold.most_speed(BAND), band }))
}

fn mark(asked: &HeadOff, position: Position) -> FenceMarkOut {
    let found = asked.mark(Mark { behind: position.behind_nose() });
    let made = found.made.map(|made| FenceMadeOut { seconds: made.t, cow: made.cow, clear: made.clear });
    FenceMarkOut { position, made, start: found.start, least_top: found.least_top }
}
