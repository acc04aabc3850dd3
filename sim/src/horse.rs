use std::collections::BTreeMap;

use cavesson_core::{
    belief::normal_upper_tail,
    count::Count,
    curriculum::{Course, Curriculum, Gait, Side, StepIx},
    response::{Answer, Outcome, Part, Rep, ResponseTime, Weight},
};
use chrono::NaiveDate;
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Normal};

use crate::counted;

/// What a simulated horse is like. Skills are on a scale where 0 seldom meets a standard and 2 nearly always does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Nature {
    /// Skill on the steps it arrives with.
    pub arrives_at: f64,
    /// The rungs that it arrives with, by id: `S4` at every gait, `S6@walk` at one.
    pub knows: &'static [&'static str],
    /// Share of the way to its ceiling that one day of work covers, 0 to 1.
    pub learns: f64,
    /// The skill it can reach.
    pub ceiling: f64,
    /// Spread of good and bad days.
    pub day_sd: f64,
    /// The stiff side, and how much skill it lacks there.
    pub stiff: Option<(Side, f64)>,
    /// Skill that one gait faster costs at first.
    pub gait_cost: f64,
    /// Skill lost in a week without work.
    pub forgets: f64,
}

impl Default for Nature {
    fn default() -> Self {
        Nature {
            arrives_at: 1.6,
            knows: &[],
            learns: 0.12,
            ceiling: 2.3,
            day_sd: 0.35,
            stiff: None,
            gait_cost: 0.35,
            forgets: 0.1,
        }
    }
}

/// Something that takes skill away: a sore side, a rung that was spoiled.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Trouble {
    /// The first day.
    pub from: NaiveDate,
    /// The side it shows on; none for both.
    pub side: Option<Side>,
    /// The rungs it shows on, by id; none for all.
    pub rungs: &'static [&'static str],
    /// How much skill it takes.
    pub lack: f64,
}

impl Trouble {
    fn takes_from(&self, course: &Course, step: StepIx) -> bool {
        self.rungs.is_empty() || self.rungs.contains(&course.step(step).rung.as_str())
    }
}

impl Nature {
    /// Whether it arrives with a step.
    pub fn knows_step(&self, course: &Course, ix: StepIx) -> bool {
        let step = course.step(ix);
        self.knows.iter().any(|k| *k == step.id || *k == step.rung)
    }
}

/// A rep with the fault that went with it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SimRep {
    /// Answer, weight and time.
    pub rep: Rep,
    /// Tag of the fault, if one showed.
    pub fault: Option<String>,
}

/// A count with the fault that went with it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SimCount {
    /// What was counted.
    pub count: Count,
    /// Tag of the fault, if one showed.
    pub fault: Option<String>,
}

/// A horse that learns as it is worked, has good and bad days, and lags on its stiff side.
#[derive(Debug)]
pub struct SimHorse<'a> {
    course: &'a Course,
    nature: Nature,
    skill: BTreeMap<(StepIx, Side), (f64, NaiveDate)>,
    worked: Vec<(StepIx, Side)>,
    today: Option<NaiveDate>,
    day_effect: f64,
    /// What takes skill away for now.
    troubles: Vec<Trouble>,
    rng: ChaCha8Rng,
}

/// How far over a whole answer one is that is light enough for the standard.
const LIGHT: f64 = 0.4;

impl<'a> SimHorse<'a> {
    /// A horse of this nature, the same for the same seed.
    pub fn new(course: &'a Course, nature: Nature, seed: u64) -> SimHorse<'a> {
        SimHorse {
            course,
            nature,
            skill: BTreeMap::new(),
            worked: vec![],
            today: None,
            day_effect: 0.0,
            troubles: vec![],
            rng: ChaCha8Rng::seed_from_u64(seed),
        }
    }

    /// A horse that arrives with just these sides of steps, whatever its nature says that it knows.
    pub fn knowing(
        course: &'a Course,
        nature: Nature,
        known: &[(StepIx, Side)],
        seed: u64,
        on: NaiveDate,
    ) -> SimHorse<'a> {
        let mut horse = SimHorse::new(course, Nature { knows: &[], ..nature }, seed);
        let skills = known.iter().map(|&key| (key, (nature.arrives_at - horse.lag(key.1), on)));
        horse.skill = skills.collect();
        horse
    }

    /// Begins a day: draws whether it is a good one or a bad one.
    pub fn begin_day(&mut self, date: NaiveDate) {
        self.end_day();
        self.today = Some(date);
        self.day_effect = normal(&mut self.rng, self.nature.day_sd);
    }

    /// What takes skill away from now on, in place of what did before.
    pub fn set_troubles(&mut self, troubles: Vec<Trouble>) {
        self.troubles = troubles;
    }

    /// Ends the day: what was worked is a little better tomorrow.
    pub fn end_day(&mut self) {
        let Some(today) = self.today.take() else { return };
        for key in std::mem::take(&mut self.worked) {
            let ceiling = self.ceiling(key);
            if let Some((skill, last)) = self.skill.get_mut(&key) {
                *skill += self.nature.learns * (ceiling - *skill).max(0.0);
                *last = today;
            }
        }
    }

    /// Asks once. Call [`SimHorse::begin_day`] first.
    ///
    /// ```
    /// use cavesson_core::curriculum::{Curriculum, Side};
    /// use cavesson_sim::{Nature, SimHorse};
    /// let course = Curriculum::standard().course();
    /// let step = course.find("S1").unwrap();
    /// let answers = |seed| {
    ///     let mut horse = SimHorse::new(&course, Nature::default(), seed);
    ///     horse.begin_day("2026-03-02".parse().unwrap());
    ///     (0..5).map(|_| horse.ask(step, Side::Left)).collect::<Vec<_>>()
    /// };
    /// assert_eq!(answers(7), answers(7), "the same seed answers the same");
    /// ```
    ///
    /// # Panics
    /// When no day was begun.
    pub fn ask(&mut self, step: StepIx, side: Side) -> SimRep {
        let nearness = self.work(step, side) + normal(&mut self.rng, 1.0);
        answer(&mut self.rng, self.course, step, nearness)
    }

    /// Asks once on a step that is counted in something else than asks; `None` on any other. Call [`SimHorse::begin_day`] first.
    ///
    /// # Panics
    /// When no day was begun.
    pub fn count(&mut self, step: StepIx, side: Side) -> Option<SimCount> {
        let measure = self.course.step(step).measure;
        // Of the noise of one ask this share stays over what a whole and light answer needs.
        let share = 1.0 - normal_upper_tail(self.work(step, side) - LIGHT);
        let count = counted::count(&mut self.rng, measure, share)?;
        let rung = Curriculum::standard().rung(&self.course.step(step).rung);
        let shows = count.outcome(measure) != Outcome::Gave && self.rng.random_bool(0.4);
        let fault = shows.then(|| rung.and_then(|r| pick(&mut self.rng, &r.faults))).flatten();
        Some(SimCount { count, fault })
    }

    /// How near the whole answer it is today before the noise of one ask. What was asked is worked.
    fn work(&mut self, step: StepIx, side: Side) -> f64 {
        let today = self.today.expect("begin_day comes before ask");
        let key = (step, side);
        let skill = self.skill_on(key, today);
        self.skill.entry(key).or_insert((skill, today));
        if !self.worked.contains(&key) {
            self.worked.push(key);
        }
        let here = |t: &&Trouble| t.side.is_none_or(|s| s == side) && t.takes_from(self.course, step);
        let lost: f64 = self.troubles.iter().filter(here).map(|t| t.lack).sum();
        skill - lost + self.day_effect
    }

    fn skill_on(&self, key: (StepIx, Side), today: NaiveDate) -> f64 {
        match self.skill.get(&key) {
            Some((skill, last)) => {
                let idle_weeks = ((today - *last).num_days() - 4).max(0) as f64 / 7.0;
                skill - self.nature.forgets * idle_weeks
            }
            None if self.nature.knows_step(self.course, key.0) => self.nature.arrives_at - self.lag(key.1),
            None => 0.2 - self.lag(key.1) - self.gait_cost(self.course.step(key.0).gait),
        }
    }

    fn ceiling(&self, key: (StepIx, Side)) -> f64 {
        self.nature.ceiling - self.lag(key.1)
    }

    fn lag(&self, side: Side) -> f64 {
        self.nature.stiff.map_or(0.0, |(stiff, lack)| if side == stiff { lack } else { 0.0 })
    }

    fn gait_cost(&self, gait: Gait) -> f64 {
        self.nature.gait_cost * (gait as u8) as f64 * 0.5
    }
}

/// An answer to an ask on a step, from how near the horse came to the standard: over 0 is a whole answer.
pub(crate) fn answer(rng: &mut ChaCha8Rng, course: &Course, step: StepIx, nearness: f64) -> SimRep {
    let standard = course.step(step).standard;
    let rung = Curriculum::standard().rung(&course.step(step).rung);
    let two_parts = rung.is_some_and(|r| r.answer.len() == 2);
    let answer = match nearness {
        n if n > 0.0 => Answer::Gave,
        n if n > -0.9 && two_parts => {
            Answer::Tried { missing: Some(if rng.random_bool(0.75) { Part::Second } else { Part::First }) }
        }
        n if n > -0.9 => Answer::Tried { missing: None },
        _ => Answer::None,
    };
    let steps_off = (0.9 - nearness + normal(rng, 0.3)).round() as i32;
    let scale = Weight::ALL.len() as i32 - 1;
    let weight = Weight::ALL[(standard.weight as i32 + steps_off).clamp(0, scale) as usize];
    let seconds = standard.seconds.seconds() * (-0.35 * (nearness - 0.4) + normal(rng, 0.12)).exp();
    let time = ResponseTime::from_seconds((seconds.clamp(0.2, 12.0) * 10.0).round() / 10.0).ok();
    let fault =
        (answer != Answer::Gave && rng.random_bool(0.4)).then(|| rung.and_then(|r| pick(rng, &r.faults))).flatten();
    SimRep { rep: Rep { answer, weight, time }, fault }
}

pub(crate) fn normal(rng: &mut ChaCha8Rng, sd: f64) -> f64 {
    Normal::new(0.0, sd).map_or(0.0, |d| d.sample(rng))
}

/// The first of the list half of the time, the second a quarter, and so on.
fn pick(rng: &mut ChaCha8Rng, list: &[String]) -> Option<String> {
    let at = (0..list.len()).find(|_| rng.random_bool(0.5)).unwrap_or(0);
    list.get(at).cloned()
}
