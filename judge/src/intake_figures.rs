//! How an intake ride does on horses whose holes are known, beside three asks of everything.

use std::collections::BTreeSet;

use cavesson_core::{
    curriculum::{Course, Curriculum, Gait, Side, StepIx},
    intake::{Intake, Next, Told},
    response::Outcome,
    ride::{Asked, Shown},
};
use cavesson_sim::{Nature, SimHorse};
use chrono::{Days, NaiveDate};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// Asks of each side of each step when everything is tested.
const ASKS_EACH: usize = 3;

type Key = (StepIx, Side);

/// What one way of looking at horses came to, over all of them.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct IntakeFigures {
    /// How it is called.
    pub name: String,
    /// Horses.
    pub horses: usize,
    /// Asks in all.
    pub asks: usize,
    /// Holes that there were: what a horse does not own though it owns all that it rests on.
    pub holes: usize,
    /// Those that were named,
    pub found: usize,
    /// and what was named and was none.
    pub false_holes: usize,
    /// Horses that are stiff on one side, and those whose stiff side was named.
    pub stiff: (usize, usize),
    /// Asks at a gait whose one-rein stop had not been shown.
    pub unsafe_asks: usize,
}

impl IntakeFigures {
    fn add(&mut self, truth: &Horse, named: &BTreeSet<Key>, asks: usize, stiff: Option<Side>) {
        self.horses += 1;
        self.asks += asks;
        self.holes += truth.holes.len();
        self.found += truth.holes.intersection(named).count();
        self.false_holes += named.difference(&truth.holes).count();
        if truth.stiff.is_some() {
            self.stiff.0 += 1;
            self.stiff.1 += usize::from(truth.stiff == stiff);
        }
    }
}

/// A horse and what it owns.
struct Horse {
    owned: BTreeSet<Key>,
    holes: BTreeSet<Key>,
    stiff: Option<Side>,
    seed: u64,
}

/// The sides of steps that an intake ride is about.
fn scope(course: &Course) -> Vec<Key> {
    let intake = Intake::new(course, &[], &[], &[], 0);
    let steps = (0..course.steps().len()).filter(|&ix| intake.owned(ix).is_some());
    steps.flat_map(|ix| course.step(ix).sides.list().iter().map(move |&side| (ix, side))).collect()
}

fn rests_on(course: &Course, all: &BTreeSet<Key>, (ix, side): Key) -> Vec<Key> {
    let needs = course.step(ix).needs.iter();
    let keys = needs.flat_map(|&n| course.step(n).sides.list().iter().map(move |&s| (n, s)));
    keys.filter(|key| all.contains(key) && (side == Side::Both || key.1 == Side::Both || key.1 == side)).collect()
}

/// A horse that was taught up to some height, was taken over two or three things, and may be stiff on one side.
fn horse(course: &Course, scope: &[Key], seed: u64) -> Horse {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let all: BTreeSet<Key> = scope.iter().copied().collect();
    let taught = rng.random_range(0.45..0.97);
    let stiff = rng.random_bool(0.5).then(|| if rng.random_bool(0.5) { Side::Left } else { Side::Right });
    let mut owned: BTreeSet<Key> = BTreeSet::new();
    // Needs come before what rests on them in no order of the ladders: go round until nothing is added.
    let mut drawn: BTreeSet<Key> = BTreeSet::new();
    loop {
        let before = drawn.len();
        for &key in scope {
            let ready = rests_on(course, &all, key).iter().all(|k| owned.contains(k));
            if ready && drawn.insert(key) {
                let brake = course.step(key.0).id == "G7@walk";
                let lags = stiff == Some(key.1) && rng.random_bool(0.25);
                if brake || (rng.random_bool(taught) && !lags) {
                    owned.insert(key);
                }
            }
        }
        if drawn.len() == before {
            break;
        }
    }
    for _ in 0..rng.random_range(1..=3) {
        let over: Vec<Key> = owned.iter().copied().filter(|k| course.step(k.0).rung != "G7").collect();
        if !over.is_empty() {
            owned.remove(&over[rng.random_range(0..over.len())]);
        }
    }
    let is_hole = |key: &&Key| !owned.contains(*key) && rests_on(course, &all, **key).iter().all(|k| owned.contains(k));
    let holes = scope.iter().filter(is_hole).copied().collect();
    Horse { holes, owned, stiff, seed }
}

fn first_day() -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 3, 2).unwrap_or_default()
}

/// The horse in the flesh, on an ordinary day.
fn ridden<'c>(course: &'c Course, horse: &Horse) -> SimHorse<'c> {
    let known: Vec<Key> = horse.owned.iter().copied().collect();
    // It neither learns nor forgets while it is looked at.
    let nature = Nature { arrives_at: 2.2, learns: 0.0, forgets: 0.0, ..Nature::default() };
    let mut sim = SimHorse::knowing(course, nature, &known, horse.seed, first_day());
    sim.begin_day(first_day());
    sim
}

fn answer(course: &Course, sim: &mut SimHorse<'_>, (step, side): Key) -> Told {
    let shown = match sim.count(step, side) {
        Some(count) => Shown::Count(count.count),
        None => Shown::Rep(sim.ask(step, side).rep),
    };
    Told::of(course, first_day(), &Asked { step, side, shown, faults: vec![], at: None })
}

/// Looks at so many horses: everything three times on one day, and by intake rides, each of the lists the most asks of its rides, a day
/// a ride.
pub fn intake_figures(horses: u64, seed: u64, ways: &[&[usize]]) -> Vec<IntakeFigures> {
    let course = Curriculum::standard().course();
    let scope = scope(&course);
    let everything = format!("{ASKS_EACH} asks of everything");
    let mut all = vec![IntakeFigures { name: everything, ..IntakeFigures::default() }];
    all.extend(ways.iter().map(|rides| IntakeFigures { name: name_of(rides), ..IntakeFigures::default() }));
    for n in 0..horses {
        let horse = horse(&course, &scope, seed.wrapping_mul(1_000_003) + n);
        test_everything(&course, &scope, &horse, &mut all[0]);
        for (rides, figures) in ways.iter().zip(&mut all[1..]) {
            take_in(&course, &horse, rides, figures);
        }
    }
    all
}

fn name_of(rides: &[usize]) -> String {
    let many = if rides.len() == 1 { "intake ride" } else { "intake rides" };
    format!("{} {many} of {}", rides.len(), rides.iter().max().unwrap_or(&0))
}

fn test_everything(course: &Course, scope: &[Key], horse: &Horse, figures: &mut IntakeFigures) {
    let mut sim = ridden(course, horse);
    let all: BTreeSet<Key> = scope.iter().copied().collect();
    let mut owned = BTreeSet::new();
    for &key in scope {
        let met = (0..ASKS_EACH).filter(|_| answer(course, &mut sim, key).met).count();
        if 2 * met > ASKS_EACH {
            owned.insert(key);
        }
    }
    let is_hole = |key: &&Key| !owned.contains(*key) && rests_on(course, &all, **key).iter().all(|k| owned.contains(k));
    let named: BTreeSet<Key> = scope.iter().filter(is_hole).copied().collect();
    let on = |side: Side| owned.iter().filter(|k| k.1 == side).count();
    let (left, right) = (on(Side::Left), on(Side::Right));
    let stiff = (left.abs_diff(right) >= 2).then_some(if left < right { Side::Left } else { Side::Right });
    figures.add(horse, &named, scope.len() * ASKS_EACH, stiff);
}

fn take_in(course: &Course, horse: &Horse, rides: &[usize], figures: &mut IntakeFigures) {
    let mut sim = ridden(course, horse);
    let (mut earlier, mut asks) = (vec![], 0);
    let mut placing = Intake::new(course, &[], &[], &[], 0).placing();
    for (n, &most) in rides.iter().enumerate() {
        sim.begin_day(first_day() + Days::new(n as u64));
        let mut today: Vec<Told> = vec![];
        let last = loop {
            let intake = Intake::new(course, &[], &earlier, &today, most);
            match intake.next() {
                Next::Ask(ask) => {
                    figures.unsafe_asks += usize::from(!is_safe(course, &today, ask.step));
                    today.push(answer(course, &mut sim, (ask.step, ask.side)));
                }
                Next::Done(_) => break intake,
            }
        };
        placing = last.placing();
        asks += today.len();
        earlier.extend(today);
    }
    let named = placing.holes.iter().map(|h| (h.step, h.side)).collect();
    figures.add(horse, &named, asks, placing.stiff);
}

/// Whether every slower one-rein stop was given on both sides before an ask, and that of its gait unless it is that itself.
fn is_safe(course: &Course, answers: &[Told], step: StepIx) -> bool {
    let asked = course.step(step);
    let brakes =
        course.steps().iter().enumerate().filter(|(_, s)| s.rung == "G7" && s.gait <= asked.gait.max(Gait::Walk));
    let needed = brakes.filter(|(_, s)| asked.rung != "G7" || s.gait < asked.gait);
    needed.into_iter().all(|(ix, _)| {
        [Side::Left, Side::Right]
            .iter()
            .all(|&side| answers.iter().any(|a| a.step == ix && a.side == side && a.outcome == Outcome::Gave))
    })
}
