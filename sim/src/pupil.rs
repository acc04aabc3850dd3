//! A horse within its rides: it warms up, tires, learns from what is released and from what is rehearsed wrong. It is
//! there to compare ways of riding a lesson, the coach's with lessons of a fixed length.
//!
//! Common practice put into figures, without a published source, but for one: short lessons further apart need fewer asks than
//! long ones (Rubin, Oppegard and Hintz 1980, Journal of Animal Science; memory), which is why each good answer of a day
//! teaches a little less than the one before it.

use std::collections::BTreeMap;

use cavesson_core::{
    curriculum::{Course, Side, StepIx},
    load::HeatBand,
    response::Outcome,
    ride::{Advice, Asked, RideProgress, Shown, Split, coach},
};
use chrono::{Days, NaiveDate};
use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;

use crate::horse::{answer, normal};

/// How lessons are ridden.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Lesson {
    /// So many asks on each side, whatever comes.
    Fixed(usize),
    /// As the coach says.
    CoachLine,
}

/// What it took until a rung was owned on both sides.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Taken {
    /// Lessons.
    pub rides: usize,
    /// Asks.
    pub reps: usize,
    /// Asks that got nothing, or a wrong answer.
    pub wrong: usize,
    /// Whether it came within [`LESSONS`].
    pub owned: bool,
}

/// Lessons after which a rung is given up.
pub const LESSONS: usize = 60;
/// Asks after which any lesson ends.
const LONGEST: usize = 40;
/// Skill that a horse has when nothing holds it back and seven answers in eight are whole.
const OWNED: f64 = 1.15;

struct Pupil<'c> {
    course: &'c Course,
    step: StepIx,
    rng: ChaCha8Rng,
    skill: BTreeMap<Side, f64>,
    ceiling: f64,
    /// How much a good answer teaches.
    learns: f64,
    /// How much a wrong one spoils.
    spoils: f64,
    /// Asks since it last stood, beyond which it tires.
    tired: f64,
    day: f64,
    asked: Vec<Asked>,
    clock: u32,
}

/// Rides lessons on a step until both sides own it.
pub fn teach(course: &Course, step: StepIx, lesson: Lesson, seed: u64) -> Taken {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let stiff = if seed.is_multiple_of(2) { Side::Left } else { Side::Right };
    let start = -0.4 + normal(&mut rng, 0.3);
    let lag = normal(&mut rng, 0.3).abs();
    let skill = course.step(step).sides.list().iter().map(|&s| (s, if s == stiff { start - lag } else { start }));
    let mut pupil = Pupil {
        course,
        step,
        skill: skill.collect(),
        ceiling: 2.2 + normal(&mut rng, 0.2),
        learns: 0.07 * normal(&mut rng, 0.3).exp(),
        spoils: 0.02 * normal(&mut rng, 0.3).exp(),
        tired: 0.0,
        day: 0.0,
        asked: vec![],
        clock: 0,
        rng,
    };
    let first = NaiveDate::default();
    let mut taken = Taken::default();
    while taken.rides < LESSONS && !taken.owned {
        let on = first + Days::new(taken.rides as u64);
        pupil.begin();
        match lesson {
            Lesson::Fixed(n) => pupil.fixed(n),
            Lesson::CoachLine => pupil.coached(on),
        }
        let none = |a: &&Asked| a.outcome(course) == Outcome::None;
        taken.rides += 1;
        taken.reps += pupil.asked.len();
        taken.wrong += pupil.asked.iter().filter(none).count();
        pupil.end();
        taken.owned = pupil.skill.values().all(|&s| s >= OWNED);
    }
    taken
}

impl Pupil<'_> {
    fn begin(&mut self) {
        self.day = normal(&mut self.rng, 0.35);
        self.asked.clear();
        (self.tired, self.clock) = (0.0, 0);
    }

    fn sides(&self) -> Vec<Side> {
        self.course.step(self.step).sides.list().to_vec()
    }

    /// The side with less skill goes first in either kind of lesson.
    fn stiff_first(&self) -> Vec<Side> {
        let mut sides = self.sides();
        sides.sort_by(|a, b| self.skill[a].total_cmp(&self.skill[b]));
        sides
    }

    fn ask(&mut self, side: Side) {
        let here = self.asked.iter().filter(|a| a.side == side).count() as f64;
        let stiff = 0.5 * (-here / 3.0).exp();
        let weary = 0.06 * (self.tired - 8.0).max(0.0);
        let nearness = self.skill[&side] + self.day - stiff - weary + normal(&mut self.rng, 1.0);
        let rep = answer(&mut self.rng, self.course, self.step, nearness).rep;
        self.asked.push(Asked { step: self.step, side, shown: Shown::Rep(rep), faults: vec![], at: Some(self.clock) });
        self.tired += 1.0;
        self.clock += 12;
    }

    fn air(&mut self) {
        self.clock += 120;
        self.tired = (self.tired - 6.0).max(0.0);
    }

    fn fixed(&mut self, each: usize) {
        for side in self.stiff_first() {
            (0..each).for_each(|_| self.ask(side));
        }
    }

    fn coached(&mut self, on: NaiveDate) {
        let sides = self.stiff_first();
        let mut side = sides[0];
        let split = match sides.as_slice() {
            [Side::Left, Side::Right] => Split { left: 60, right: 40 },
            _ => Split { left: 40, right: 60 },
        };
        let (splits, foreseen) = (BTreeMap::from([(self.step, split)]), BTreeMap::new());
        let mut changes = 0;
        while self.asked.len() < LONGEST {
            self.ask(side);
            let course = self.course;
            let heat = HeatBand::Fine;
            let so_far = RideProgress {
                course,
                on,
                asked: &self.asked,
                splits: &splits,
                foreseen: &foreseen,
                heat,
                trend: None,
                cause: None,
            };
            match coach(&so_far).map(|c| c.advice) {
                None | Some(Advice::Another) => {}
                Some(Advice::OtherSide) => side = side.mirrored(),
                Some(Advice::Air) => self.air(),
                Some(Advice::QuitHere | Advice::LookAtHorse) => return,
                Some(Advice::StopAsking | Advice::ChangeSubject | Advice::SlowDown) => {
                    // Something else for a while, then once more; the second time the subject waits for tomorrow.
                    changes += 1;
                    if changes > 1 {
                        return;
                    }
                    self.air();
                    if sides.len() > 1 {
                        side = side.mirrored();
                    }
                }
            }
        }
    }

    /// What the day taught: each answer at the standard a little less than the one before it, a try that was released half of
    /// it, and a wrong one spoils. The last answer of a side is the one it sleeps on.
    fn end(&mut self) {
        let standard = self.course.step(self.step).standard;
        for side in self.sides() {
            let asked: Vec<&Asked> = self.asked.iter().filter(|a| a.side == side).collect();
            let Some(skill) = self.skill.get_mut(&side) else { continue };
            let mut fresh = 1.0;
            for (n, a) in asked.iter().enumerate() {
                let last = if n + 1 == asked.len() { 3.0 } else { 1.0 };
                let room = (self.ceiling - *skill).max(0.0);
                if a.rep().is_some_and(|r| standard.is_met_by(r)) {
                    *skill += last * fresh * self.learns * room;
                    fresh *= 0.85;
                } else {
                    match a.outcome(self.course) {
                        Outcome::None => *skill -= last * self.spoils,
                        Outcome::Tried | Outcome::Gave => {
                            *skill += 0.5 * fresh * self.learns * room;
                            fresh *= 0.95;
                        }
                    }
                }
            }
        }
    }
}
