use cavesson_core::{
    advice::{Advisor, Posture, Standing, Status},
    belief::{Day, ModelSettings, Work},
    curriculum::{Course, Side, StepIx},
    response::Tally,
    ride::{Habits, Split, outline},
};
use chrono::{Datelike, Days, NaiveDate, Weekday};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use super::{Nature, SimCount, SimHorse, SimRep, Trouble};

/// Days on which a horse was not ridden, both ends included.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Layoff {
    /// First day off.
    pub from: NaiveDate,
    /// Last day off.
    pub to: NaiveDate,
}

/// How the subject of a ride is chosen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Subject {
    /// As the core plans it.
    #[default]
    Planned,
    /// The lowest step that is open and not owned, until it is.
    Lowest,
    /// Any step that is open and not owned.
    AnyOpen,
    /// On two rides in three the first of these rungs that is not owned, in this order and not more often than it may be worked; on
    /// the others as the core plans it.
    On(&'static [&'static str]),
}

/// A stretch of a simulated horse's work.
#[derive(Debug, Clone, PartialEq)]
pub struct Story {
    /// What the horse is like.
    pub nature: Nature,
    /// First day.
    pub from: NaiveDate,
    /// Last day, included.
    pub to: NaiveDate,
    /// Rides in a week, 1 to 6.
    pub rides_a_week: u32,
    /// The weekday on which nobody rides.
    pub free_day: Weekday,
    /// A stretch without rides.
    pub layoff: Option<Layoff>,
    /// What takes skill away, each from its day on.
    pub troubles: Vec<Trouble>,
    /// How subjects are chosen.
    pub subject: Subject,
    /// Makes the same story each time.
    pub seed: u64,
}

/// One set of a simulated ride.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SimSet {
    /// What was asked.
    pub step: StepIx,
    /// On which side.
    pub side: Side,
    /// The answers in order.
    pub reps: Vec<SimRep>,
    /// What was counted, on a step that is counted in something else than asks.
    pub counts: Vec<SimCount>,
}

impl SimSet {
    /// So many asks of a horse.
    fn asked(horse: &mut SimHorse<'_>, step: StepIx, side: Side, asks: u32) -> SimSet {
        let mut set = SimSet { step, side, reps: vec![], counts: vec![] };
        for _ in 0..asks {
            match horse.count(step, side) {
                Some(count) => set.counts.push(count),
                None => set.reps.push(horse.ask(step, side)),
            }
        }
        set
    }

    /// The same as the core takes it in.
    pub fn work(&self) -> Work {
        let counts = self.counts.iter().map(|c| c.count.clone()).collect();
        Work { counts, ..Work::reps(self.step, self.side, self.reps.iter().map(|r| r.rep).collect()) }
    }

    fn tally(&self, course: &Course) -> Tally {
        let step = course.step(self.step);
        let mut tally = Tally::of(&step.standard, self.reps.iter().map(|r| &r.rep));
        self.counts.iter().for_each(|c| tally += c.count.tally(step.measure));
        tally
    }
}

/// One simulated ride.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SimRide {
    /// The day.
    pub date: NaiveDate,
    /// The sets in order.
    pub sets: Vec<SimSet>,
    /// The note for tomorrow, where the ride left one.
    pub note: Option<String>,
    /// Whether at least seven reps in ten met their standards.
    pub sets_went_well: bool,
}

/// Rides a story out: each day the simulated trainer rides what the core suggests, loosening on owned steps first and
/// giving the weaker side more reps.
pub fn ride_out(course: &Course, story: &Story) -> Vec<SimRide> {
    let mut horse = SimHorse::new(course, story.nature, story.seed);
    let mut rng = ChaCha8Rng::seed_from_u64(story.seed ^ 0x5eed);
    let mut advisor = Advisor::new(course, Posture::Steady, ModelSettings::default());
    let mut rides: Vec<SimRide> = vec![];
    let days = std::iter::successors(Some(story.from), |d| d.checked_add_days(Days::new(1)));
    for date in days.take_while(|d| *d <= story.to) {
        let off = story.layoff.is_some_and(|l| (l.from..=l.to).contains(&date));
        if off || date.weekday() == story.free_day || !rng.random_ratio(story.rides_a_week.min(6), 6) {
            continue;
        }
        horse.set_troubles(story.troubles.iter().filter(|t| date >= t.from).copied().collect());
        horse.begin_day(date);
        let sets = one_ride(course, story, (&advisor, &rides), &mut horse, &mut rng, date);
        horse.end_day();
        let work = sets.iter().map(SimSet::work).collect();
        // Days come in order by construction, so the advisor cannot refuse one.
        if advisor.watch(&Day::new(date, work)).is_ok() {
            rides.push(SimRide { date, note: note_for(course, &sets), sets_went_well: went_well(course, &sets), sets });
        }
    }
    rides
}

fn one_ride(
    course: &Course,
    story: &Story,
    (advisor, before): (&Advisor<'_>, &[SimRide]),
    horse: &mut SimHorse<'_>,
    rng: &mut ChaCha8Rng,
    date: NaiveDate,
) -> Vec<SimSet> {
    let standing = advisor.standing(date);
    let mut plan = outline(&standing, &Habits::default());
    let open: Vec<StepIx> = (0..course.steps().len())
        .filter(|&ix| course.step(ix).taught && standing.is_open(ix) && standing.status(ix) != Status::Owned)
        .collect();
    let other = match story.subject {
        Subject::Planned => None,
        Subject::Lowest => open.first().copied(),
        Subject::AnyOpen => (!open.is_empty()).then(|| open[rng.random_range(0..open.len())]),
        Subject::On(rungs) => rng.random_ratio(2, 3).then(|| in_work(course, rungs, &standing, before)).flatten(),
    };
    if let (Some(step), Some(main)) = (other, plan.main.as_mut()) {
        main.step = step;
        main.split = course.step(step).sides.has(Side::Left).then_some(Split { left: 50, right: 50 });
    }
    let mut steps = plan.loosen.clone();
    let known: Vec<StepIx> = (0..course.steps().len()).filter(|&ix| story.nature.knows_step(course, ix)).collect();
    if known.len() > 3 {
        // A horse that arrives with much is shown over all of it, a few steps a day; the more it knows, the more of them.
        let shown = (known.len() / 8).max(3);
        steps.extend((0..shown).map(|_| known[rng.random_range(0..known.len())]));
    }
    steps.sort_unstable();
    steps.dedup();
    let mut sets = vec![];
    for step in steps {
        for &side in course.step(step).sides.list() {
            let reps = rng.random_range(3..=5);
            sets.push(SimSet::asked(horse, step, side, reps));
        }
    }
    if let Some(main) = plan.main {
        for &side in course.step(main.step).sides.list() {
            let share = match (main.split, side) {
                (Some(split), Side::Left) => u32::from(split.left),
                (Some(split), Side::Right) => u32::from(split.right),
                _ => 60,
            };
            let reps = (rng.random_range(12..=18) * share / 100).max(3);
            sets.push(SimSet::asked(horse, main.step, side, reps));
        }
    }
    sets
}

/// The first step of some rungs that is not owned and was not ridden too lately.
fn in_work(course: &Course, rungs: &[&str], standing: &Standing<'_, '_>, before: &[SimRide]) -> Option<StepIx> {
    let rested = |ix: StepIx| {
        let worked = before.iter().rev().find(|ride| ride.sets.iter().any(|set| set.step == ix));
        let since = worked.map_or(i64::MAX, |ride| (standing.on() - ride.date).num_days());
        since >= i64::from(course.step(ix).work.days_between)
    };
    let steps = rungs.iter().flat_map(|rung| (0..course.steps().len()).filter(|&ix| course.step(ix).rung == *rung));
    steps.into_iter().find(|&ix| standing.status(ix) != Status::Owned && rested(ix))
}

fn went_well(course: &Course, sets: &[SimSet]) -> bool {
    let mut all = Tally::default();
    sets.iter().for_each(|s| all += s.tally(course));
    all.met * 10 >= all.reps * 7
}

/// The set with the lowest share of whole answers is what tomorrow starts from.
fn note_for(course: &Course, sets: &[SimSet]) -> Option<String> {
    let share = |set: &SimSet| {
        let tally = set.tally(course);
        tally.met * 1000 / tally.reps.max(1)
    };
    let worst = sets.iter().min_by_key(|s| share(s))?;
    let share = share(worst) / 10;
    let name = course.step(worst.step).name.to_lowercase();
    let side = match worst.side {
        Side::Left => " to the left",
        Side::Right => " to the right",
        Side::Both => "",
    };
    match share {
        0..=39 => Some(format!("Begin slower with {name}{side}; one good one and walk off")),
        40..=64 => Some(format!("A few more on {name}{side}, end on a give")),
        _ => None,
    }
}
