//! The demo's pen with its ruts, a set-up of barrels in it, and three weeks of passes over it.

use anyhow::Context;
use cavesson_core::{
    curriculum::Gait,
    pattern::{
        Area, Asked, BarrelTold, FOOT, Footwork, Hand, Horse, Outline, PassFault, Pen, Pocket, PocketTold, Point,
        Polygon, RateTold, Room, Run, SetUp, Spot, Underfoot, fit, lay_over, pocket_for, quickest_run,
    },
};
use cavesson_sim::{Watch, ridden};
use cavesson_store::{
    Scope,
    pattern::{self, KeptTrack, NewPass, OnEarth, PassTold, SetUpFields},
};
use chrono::{Days, NaiveDate, NaiveTime};
use sqlx::PgPool;

use super::{
    id,
    people::{MARA, OREN},
};

/// A horse's passes: how much wider than planned it goes at each barrel, metres, and days ago by gait.
struct Story {
    horse: &'static str,
    rider: &'static str,
    wide: [f64; 3],
    /// What share of what horses do it does.
    able: f64,
    passes: &'static [(u64, Gait, Option<PassFault>)],
    /// How many of the last were ridden with a watch.
    watched: usize,
}

const STORIES: [Story; 2] = [
    Story {
        horse: "Quarter Moon",
        rider: MARA,
        wide: [0.05, 0.5, 0.45],
        able: 0.95,
        passes: &[
            (20, Gait::Lope, None),
            (18, Gait::Run, Some(PassFault::RanPast)),
            (14, Gait::Run, None),
            (11, Gait::Lope, None),
            (7, Gait::Run, None),
            (2, Gait::Run, None),
        ],
        watched: 2,
    },
    Story {
        horse: "Spool",
        rider: OREN,
        wide: [-0.1, 0.15, -0.35],
        able: 0.9,
        passes: &[
            (21, Gait::Walk, None),
            (21, Gait::Jog, None),
            (16, Gait::Jog, Some(PassFault::SteppedOff)),
            (12, Gait::Jog, None),
            (8, Gait::Jog, None),
            (4, Gait::Jog, Some(PassFault::FellIn)),
        ],
        watched: 0,
    },
];

fn area(x: f64, y: f64, size: (f64, f64), underfoot: Underfoot, bad: u8) -> Area {
    let corner = |dx: f64, dy: f64| Point::new((x + dx * size.0) * FOOT, (y + dy * size.1) * FOOT);
    let corners = Polygon(vec![corner(0.0, 0.0), corner(1.0, 0.0), corner(1.0, 1.0), corner(0.0, 1.0)]);
    Area { corners, underfoot, bad }
}

/// The big arena as it is: ruts in the middle, and a corner that stays wet.
fn pen() -> Pen {
    let (width, length) = (130.0 * FOOT, 250.0 * FOOT);
    Pen {
        outline: Outline::Rectangle { width, length },
        north: 24.0,
        gate: Some(Point::new(width / 2.0, 0.0)),
        posts: vec![Point::new(0.0, length / 2.0), Point::new(width, length / 2.0)],
        areas: vec![
            area(48.0, 96.0, (26.0, 20.0), Underfoot::Rutted, 3),
            area(98.0, 196.0, (26.0, 40.0), Underfoot::Wet, 2),
        ],
    }
}

/// How a pocket that was ridden looks against the one planned: a foot is seen from the saddle.
fn looked(ridden: Pocket, planned: Pocket, spot: Spot) -> PocketTold {
    match ridden.at(spot) - planned.at(spot) {
        off if off > 0.3 => PocketTold::Wide,
        off if off < -0.3 => PocketTold::Close,
        _ => PocketTold::AsPlanned,
    }
}

fn told(plan: &SetUp, run: &Run, fault: Option<PassFault>, seed: usize) -> PassTold {
    let barrel = |n: usize| {
        let radii = run.path.turns[n].radii.map(|r| r - plan.barrel_radius);
        let ridden = Pocket { entry: radii[0], back: radii[1], exit: radii[2] };
        let pocket = Spot::ALL.map(|spot| Some(looked(ridden, plan.barrels[n].pocket, spot)));
        let faults = fault.filter(|_| n == 1 + seed % 2).into_iter().collect();
        let rate = Some(if seed % 3 == n { RateTold::Late } else { RateTold::AsPlanned });
        BarrelTold { pocket, rate, knocked: false, faults }
    };
    let hundredths = |t: f64| (t * 100.0).round() / 100.0;
    PassTold {
        barrels: (0..plan.barrels.len()).map(barrel).collect(),
        behind: run.spots.iter().map(|spot| Some(hundredths(run.points[spot[1]].t))).collect(),
        seconds: Some(hundredths(run.time())),
        note: String::new(),
    }
}

/// Draws the pen, sets barrels up in it and rides the stories' passes.
pub(super) async fn load(db: &PgPool, scope: &Scope, today: NaiveDate) -> anyhow::Result<()> {
    let (ground, set_up_id) = (id("Big arena"), id("set-up"));
    pattern::put_pen(db, scope, ground, 0, &pen()).await?;
    let pocket = pocket_for(Gait::Run, Footwork::Has);
    let asked = Asked { room: Room::default(), pocket, first: Hand::Right, lopsided: false };
    let plan = fit(&pen(), &asked).context("the demo's pen holds no pattern")?.set_up;
    let fields = SetUpFields { ground_id: ground, name: "Round the ruts".into(), set_up: plan.clone() };
    pattern::put_set_up(db, scope, set_up_id, &fields).await?;
    for story in &STORIES {
        for (n, (ago, gait, fault)) in story.passes.iter().enumerate() {
            let usual = Horse::of_gait(*gait).context("a pass is not stood")?;
            let share = story.able;
            let able = Horse { top_speed: usual.top_speed * share, side_grip: usual.side_grip * share, ..usual };
            let run = ridden(&plan, &able, &story.wide, n as u64)?;
            let pass = id(&format!("{} pass {n}", story.horse));
            let new = NewPass {
                rider_id: id(story.rider),
                ride_id: None,
                set_up_id,
                passed_on: today - Days::new(*ago),
                gait: *gait,
                told: told(&plan, &run, *fault, n),
                set_up: None,
            };
            pattern::put_pass(db, scope, id(story.horse), pass, &new).await?;
            if n + story.watched >= story.passes.len() {
                pattern::set_track(db, scope, pass, &watched(&plan, &run, new.passed_on)?).await?;
            }
        }
    }
    Ok(())
}

/// Seconds since 1970 at noon.
fn noon(on: NaiveDate) -> f64 {
    on.and_time(NaiveTime::MIN).and_utc().timestamp() as f64 + 12.0 * 3600.0
}

/// What a watch on the rider's arm makes of a run.
fn watched(plan: &SetUp, run: &Run, on: NaiveDate) -> anyhow::Result<KeptTrack> {
    let track = Watch { off: 0.25, per_second: 10.0, seed: 77 }.track(run);
    let usual = Horse::of_gait(Gait::Run).context("a run is a gait")?;
    let laid = lay_over(&quickest_run(plan, &usual)?, plan.barrel_radius, &track)?;
    Ok(KeptTrack {
        points: laid.points.iter().map(|p| [p.at.x, p.at.y, p.t]).collect(),
        off: laid.off,
        pockets: laid.pockets,
        behind: laid.behind,
        seconds: laid.time,
        // In the open sea: the barn is invented.
        on_earth: Some(OnEarth { lat: -40.0, lon: -20.0, turned: laid.placed.turned, began: noon(on) }),
    })
}
