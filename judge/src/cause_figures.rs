use std::collections::BTreeMap;

use cavesson_core::{
    advice::{AskContext, Cause, FaultCounts, causes},
    curriculum::{Course, Curriculum, Fault, Place, Side, StepIx},
};
use chrono::{Days, NaiveDate};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// Asks of a rung in a ride.
const ASKS: usize = 8;
/// Rides before the cause is asked for.
const RIDES: u64 = 2;
/// A fault that shows in fewer asks than this is cured.
const CURED: f64 = 0.06;
/// Rides after which nobody goes on.
const MOST_RIDES: u32 = 60;

/// How causes of faults were named, on simulated horses with one hole each.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct CauseFigures {
    /// Horses.
    pub horses: usize,
    /// Those whose hole was named first.
    pub first: usize,
    /// Causes named that the horse had not reached.
    pub unreached: usize,
    /// Mean rides until the fault is gone, working on what is named first,
    pub rides_followed: f64,
    /// and working on where it shows.
    pub rides_there: f64,
}

/// A horse with a hole: a rung that a fault points to and that it does not own.
struct Holed<'c> {
    course: &'c Course,
    fault: &'c Fault,
    /// Rungs below that the fault points to.
    go_to: &'c [String],
    at: StepIx,
    hole: StepIx,
    /// How much of each reached rung the horse can do, 0 to 1.
    can: BTreeMap<StepIx, f64>,
}

impl Holed<'_> {
    /// How often the fault shows on a step: where the horse cannot do it, and where what it rests on is the hole.
    fn shows(&self, step: StepIx) -> f64 {
        let lacks = 1.0 - self.can.get(&self.hole).copied().unwrap_or(1.0);
        if step == self.hole {
            0.03 + 0.25 * lacks
        } else if step == self.at {
            0.03 + 0.5 * lacks
        } else {
            // What is half known shows it now and then.
            0.03 + 0.1 * (1.0 - self.can.get(&step).copied().unwrap_or(1.0))
        }
    }

    fn ride(&self, day: u64, step: StepIx, rng: &mut ChaCha8Rng) -> Vec<AskContext> {
        let (s, shows) = (self.course.step(step), self.shows(step));
        let date = NaiveDate::from_ymd_opt(2026, 3, 2).unwrap_or_default() + Days::new(day);
        let ask = |_| AskContext {
            date,
            rung: s.rung.clone(),
            gait: s.gait,
            side: Side::Both,
            place: Place::Arena,
            rider: "Ada".to_owned(),
            bit: None,
            late: false,
            hot: None,
            faults: if rng.random_bool(shows) { vec![self.fault.tag.clone()] } else { vec![] },
        };
        (0..ASKS).map(ask).collect()
    }

    /// Rides until the fault is gone where it shows, each spent on a step. Work on the hole mends it; work where it shows does so
    /// little by little.
    fn rides_until_cured(mut self, worked: StepIx) -> u32 {
        const MENDS: f64 = 0.3;
        const MENDS_THERE: f64 = 0.06;
        for ride in 0..MOST_RIDES {
            if self.shows(self.at) < CURED {
                return ride;
            }
            let by = if worked == self.hole {
                MENDS
            } else if worked == self.at {
                MENDS_THERE
            } else {
                MENDS_THERE / 2.0
            };
            if let Some(can) = self.can.get_mut(&self.hole) {
                *can += by * (1.0 - *can);
            }
        }
        MOST_RIDES
    }
}

/// Names causes on horses of every fault that points to two rungs or more, each of those in turn the hole.
pub fn cause_figures(horses_each: u32, seed: u64) -> CauseFigures {
    let curriculum = Curriculum::standard();
    let course = curriculum.course();
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let (mut f, mut followed, mut there) = (CauseFigures::default(), 0, 0);
    for fault in curriculum.faults().iter().filter(|fault| fault.go_to.len() >= 2) {
        let Some(at) = seen_at(curriculum, &course, fault) else { continue };
        let go_to = curriculum.remedies(fault, &course.step(at).rung);
        let reached: Vec<StepIx> = go_to.iter().filter_map(|rung| slowest(&course, rung, at)).collect();
        if reached.len() < 2 {
            continue;
        }
        for &hole in &reached {
            for _ in 0..horses_each {
                let can: BTreeMap<StepIx, f64> =
                    reached.iter().map(|&s| (s, if s == hole { 0.35 } else { rng.random_range(0.5..0.95) })).collect();
                let horse = || Holed { course: &course, fault, go_to: &go_to, at, hole, can: can.clone() };
                let all = named(&horse(), &reached, &mut rng);
                f.horses += 1;
                f.first += usize::from(all.first().is_some_and(|c| c.step == hole));
                f.unreached += all.iter().filter(|c| !reached.contains(&c.step)).count();
                followed += horse().rides_until_cured(all.first().map_or(at, |c| c.step));
                there += horse().rides_until_cured(at);
            }
        }
    }
    let mean = |rides: u32| f64::from(rides) / f.horses.max(1) as f64;
    CauseFigures { rides_followed: mean(followed), rides_there: mean(there), ..f }
}

/// What is named for a horse after some rides. What is believed of a rung is near what is true of it, and not the same.
fn named(horse: &Holed<'_>, reached: &[StepIx], rng: &mut ChaCha8Rng) -> Vec<Cause> {
    let mut asked = vec![];
    for day in 0..RIDES {
        for step in reached.iter().copied().chain([horse.at]) {
            asked.extend(horse.ride(day, step, rng));
        }
    }
    let believed = |step: &StepIx| (*step, (horse.can[step] + rng.random_range(-0.3..0.3)).clamp(0.02, 0.98));
    let owned = reached.iter().map(believed).collect();
    let counts = FaultCounts::of(&asked);
    causes(horse.course, &owned, &counts, &horse.fault.tag, horse.go_to, horse.at)
}

/// The highest step that shows a fault and is no rung that it points to.
fn seen_at(curriculum: &Curriculum, course: &Course, fault: &Fault) -> Option<StepIx> {
    let shows = |ix: &StepIx| {
        let rung = &course.step(*ix).rung;
        !fault.go_to.contains(rung) && curriculum.rung(rung).is_some_and(|r| r.faults.contains(&fault.tag))
    };
    (0..course.steps().len()).rev().find(shows)
}

fn slowest(course: &Course, rung: &str, at: StepIx) -> Option<StepIx> {
    let step = (0..course.steps().len()).find(|&ix| course.step(ix).rung == rung)?;
    (course.step(step).gait <= course.step(at).gait).then_some(step)
}
