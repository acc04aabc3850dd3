//! Herds of simulated horses whose true state is known: what the judge of the calls is run on, and what settings are fitted to.

mod kind;
mod learner;
mod rider_log;

use std::collections::BTreeMap;

use cavesson_core::{
    belief::{Day, Work},
    curriculum::{Course, Gait, Measure, Side, Sides, Step, StepIx},
    response::{Rep, ResponseTime, Share, Standard, Weight},
};
use chrono::{Days, NaiveDate};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

pub use kind::{Draw, KINDS, Kind, Learners, Losing, RiderKind, Showing};

use crate::{counted, horse::normal};
use learner::Learner;
use rider_log::RiderLog;

/// The ordinary-day share of reps that meet the standard in each session of a horse; none before the side was first ridden.
pub type TrueShares = BTreeMap<(StepIx, Side), Vec<Option<f64>>>;

/// A horse of a herd.
#[derive(Debug, Clone, PartialEq)]
pub struct HerdHorse {
    /// Its id.
    pub id: String,
    /// Its sessions in order.
    pub days: Vec<Day>,
    /// What was true in each of them.
    pub truth: TrueShares,
    /// The side that it lost all at once on all that it could, if it is known, and the session after which.
    pub fell: Option<(Side, usize)>,
}

/// Horses of one kind, with the rungs that they are taught.
#[derive(Debug)]
pub struct Herd {
    /// The rungs, each at one gait.
    pub course: Course,
    /// The horses.
    pub horses: Vec<HerdHorse>,
}

/// A rung of a herd as the horses see it: where its weights and seconds sit.
#[derive(Debug, Clone, Copy)]
struct RungNature {
    weight: f64,
    time: f64,
}

impl Herd {
    /// A herd of this kind, the same for the same seed.
    ///
    /// ```
    /// use cavesson_sim::{Herd, KINDS};
    /// let herd = Herd::of(&KINDS[0], 2, 7);
    /// assert_eq!(herd.horses.len(), 2);
    /// assert_eq!(herd.horses, Herd::of(&KINDS[0], 2, 7).horses, "the same seed, the same herd");
    /// ```
    ///
    /// # Panics
    /// Never: the rungs that it makes are a course.
    pub fn of(kind: &Kind, horses: u32, seed: u64) -> Herd {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let course = course(kind.counted, &mut rng);
        let draw = |rng: &mut ChaCha8Rng, d: Draw| d.mean + normal(rng, d.sd);
        let natures: Vec<RungNature> = course
            .steps()
            .iter()
            .map(|s| {
                // A standard that asks for more of the reps is met by lighter ones.
                let stricter = logit(s.standard.share.fraction()) - logit(0.8);
                let weight = draw(&mut rng, kind.showing.weight) - kind.showing.weight_slope * stricter;
                RungNature { weight, time: draw(&mut rng, kind.showing.time) - kind.showing.time_slope * stricter }
            })
            .collect();
        let horses = (0..horses).map(|n| ridden(kind, &course, &natures, n, &mut rng)).collect();
        Herd { course, horses }
    }
}

/// The asks of one side in one ride, and how far the horse moved over them.
#[derive(Debug, Clone, PartialEq)]
pub struct AskedRide {
    /// The asks, oldest first.
    pub reps: Vec<Rep>,
    /// How far the seconds moved from the first ask to the last, in their logarithm; under zero, sooner.
    pub seconds: f64,
    /// How far the weight moved, in steps of the scale; under zero, lighter.
    pub weight: f64,
    /// How far the horse came nearer to the whole answer, log-odds.
    pub nearer: f64,
}

/// Rides of horses of a kind that move over the asks or do not, three to eight asks each.
pub fn asked_rides(kind: &Kind, rides: u32, seed: u64) -> Vec<AskedRide> {
    /// Log-odds over a stretch, where a horse moves at all.
    const MOVES: f64 = 2.8;
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let standard = Standard::default();
    let ride = |_| {
        let log = RiderLog::new(kind, &mut rng);
        let nature = RungNature { weight: kind.showing.weight.mean, time: kind.showing.time.mean };
        let (level, day) = (0.8 + normal(&mut rng, 1.2), normal(&mut rng, 0.6));
        let nearer = if rng.random_bool(0.25) { 0.0 } else { normal(&mut rng, MOVES) };
        let asks: u32 = rng.random_range(3..=8);
        let reps = (0..asks).map(|n| {
            let p: f64 = rng.random_range(1e-9..1.0 - 1e-9);
            let at = f64::from(n) / f64::from(asks - 1) - 0.5;
            log.log(&standard, nature, level + day + nearer * at + (p / (1.0 - p)).ln(), &mut rng)
        });
        let reps = reps.collect();
        AskedRide {
            reps,
            seconds: -kind.showing.time_slope * nearer,
            weight: -kind.showing.weight_slope * nearer,
            nearer,
        }
    };
    (0..rides).map(ride).collect()
}

fn logit(p: f64) -> f64 {
    (p / (1.0 - p)).ln()
}

/// How rungs are counted that are not asked one by one.
const COUNTED: [Measure; 7] = [
    Measure::Laps { most: 2 },
    Measure::NoseUps,
    Measure::SetUps,
    Measure::Tries { within: 3 },
    Measure::ReinShare { bridle: 50 },
    Measure::Held { seconds: 10 },
    Measure::Steps { count: 10 },
];

/// Six to eight rungs: each but the first two needs one or two of those before it, of its own gait or a slower one.
fn course(counted: f64, rng: &mut ChaCha8Rng) -> Course {
    const SHARES: [u32; 5] = [70, 75, 80, 80, 85];
    let n = rng.random_range(6..=8);
    let mut steps: Vec<(Step, Vec<String>)> = vec![];
    for i in 0..n {
        let gait = Gait::ALL[(i * 4 / n).min(3)];
        let sides = if rng.random_bool(0.6) { Sides::Each } else { Sides::Both };
        let standard = Standard {
            weight: Weight::ALL[rng.random_range(1..=4)],
            share: Share::percent(SHARES[rng.random_range(0..SHARES.len())] as u8).expect("a share"),
            seconds: ResponseTime::from_seconds([1.5, 2.0, 2.5][rng.random_range(0..3)]).expect("seconds"),
            days: 3,
        };
        let mut needs: Vec<String> = vec![];
        if i >= 2 {
            needs.push(format!("r{}", rng.random_range(0..i)));
            if rng.random_bool(0.4) {
                needs.push(format!("r{}", rng.random_range(0..i)));
            }
            needs.dedup();
        }
        let mut step = Step::plain(&format!("r{i}"), gait, sides, standard);
        if counted > 0.0 && rng.random_bool(counted) {
            step.measure = COUNTED[rng.random_range(0..COUNTED.len())];
        }
        steps.push((step, needs));
    }
    Course::new(steps).expect("every rung needs earlier ones alone")
}

/// One horse through its sessions.
fn ridden(kind: &Kind, course: &Course, natures: &[RungNature], n: u32, rng: &mut ChaCha8Rng) -> HerdHorse {
    let log = RiderLog::new(kind, rng);
    let mut horse = Learner::new(kind, course, rng);
    let sessions = rng.random_range(kind.sessions.0..=kind.sessions.1) as usize;
    let layoff = rng.random_bool(0.5).then(|| rng.random_range(5..sessions));
    let mut date = NaiveDate::from_ymd_opt(2026, 1, 5).expect("a date") + Days::new(rng.random_range(0..10));
    let (mut days, mut truth) = (vec![], TrueShares::new());
    for session in 0..sessions {
        let off = if layoff == Some(session) { rng.random_range(10..40) } else { rng.random_range(1..=3) };
        date = date + Days::new(off);
        horse.begin_day(off, rng);
        let mut work = vec![];
        for (step, side) in horse.todays_work(course, &log, natures, rng) {
            let (asks, measure) = (log.reps(rng), course.step(step).measure);
            let mut done = Work::reps(step, side, vec![]);
            for _ in 0..asks {
                match counted::count(rng, measure, horse.share_today(step, side)) {
                    Some(count) => done.counts.push(count),
                    None => {
                        let nearness = horse.nearness(step, side, rng);
                        done.reps.push(log.log(&course.step(step).standard, natures[step], nearness, rng));
                    }
                }
            }
            work.push(done);
            horse.note_work(step, side);
        }
        for (key, state) in horse.states() {
            let share = log.share(course.step(key.0), natures[key.0], state);
            let shares = truth.entry(key).or_insert_with(|| vec![None; session]);
            shares.push(Some(share));
        }
        days.push(Day::new(date, work));
        horse.end_day(session, rng);
    }
    let fell = horse.falls().filter(|(_, session)| session + 1 < days.len());
    HerdHorse { id: format!("{}{}", &kind.name[..1], n + 1), days, truth, fell }
}
