//! What to work on, best first, and why that.

use std::collections::{BTreeMap, BTreeSet};

use chrono::{Days, NaiveDate};

use crate::{
    advice::{ANTICIPATES, AskContext, FaultCounts, HANGS_LEFT, HANGS_RIGHT, Standing, Status, causes},
    curriculum::{Course, Curriculum, Side, StepIx, SubjectKind},
};

/// How many rungs a horse is in at a time before another is begun (common practice, no published source).
const AT_A_TIME: usize = 3;
/// Days running for which a subject that does not come yet is ridden again (common practice, no published source).
const DRILL_DAYS: u32 = 3;
/// A horse that was sour within so many days sours on sameness (common practice, no published source).
const SOUR_DAYS: u64 = 21;
/// A swap is remembered for so many days, and counts from the second time on.
const SWAP_DAYS: u64 = 28;
const SWAPS: usize = 2;
/// A fault counts for the plan from so many times on over the same days as answers before the ask,
const FAULTED: u32 = 3;
/// and its cause where it is this likely (common practice made into figures; no published source).
const LIKELY: f64 = 0.4;
/// Answers before the ask count for the plan over so many days (common practice, no published source).
const ANTICIPATED_DAYS: u64 = 14;

/// The trainer put another subject in the place of the one that was planned.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Swap {
    /// On which day.
    pub on: NaiveDate,
    /// What was planned.
    pub from: StepIx,
    /// What was ridden instead.
    pub to: StepIx,
}

/// What the record and the trainer's hand say of how this horse is best ridden.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Habits {
    /// Swaps made on earlier rides.
    pub swaps: Vec<Swap>,
    /// How often the horse answered before the ask lately, by step.
    pub anticipated: BTreeMap<StepIx, u32>,
    /// Faults that showed lately, commonest first.
    pub faulted: Vec<Faulted>,
    /// How often faults showed over the months.
    pub counts: FaultCounts,
    /// The rein that let go last on asks of both lately, where one mostly did.
    pub hangs: Option<Hangs>,
    /// Steps that someone says the horse knows.
    pub claimed: BTreeSet<StepIx>,
}

/// A rein that lets go last on asks of both reins.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Hangs {
    /// Which.
    pub side: Side,
    /// How often,
    pub times: u32,
    /// of how many asks on which one did.
    pub of: u32,
}

/// A rein hangs from so many asks on,
const HANGS: u32 = 3;
/// and where it was that one in two of three (common practice, no published source).
const MOSTLY: (u32, u32) = (2, 3);

impl Hangs {
    fn of(asked: &[AskContext], since: NaiveDate) -> Option<Hangs> {
        let count = |tag: &str| {
            let lately = asked.iter().filter(|a| a.date >= since);
            lately.filter(|a| a.faults.iter().any(|f| f == tag)).count() as u32
        };
        let (left, right) = (count(HANGS_LEFT), count(HANGS_RIGHT));
        let (side, times) = if left >= right { (Side::Left, left) } else { (Side::Right, right) };
        let of = left + right;
        (of >= HANGS && MOSTLY.1 * times >= MOSTLY.0 * of).then_some(Hangs { side, times, of })
    }

    /// "The left rein hung last in 4 of 5 asks of both: a little more on the left".
    pub fn in_words(&self) -> String {
        let Hangs { side, times, of } = *self;
        format!("The {side} rein hung last in {times} of {of} asks of both: a little more on the {side}")
    }
}

/// A fault that showed at a step lately.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Faulted {
    /// Where.
    pub at: StepIx,
    /// Its tag.
    pub tag: String,
    /// Rungs below that the trade names for it.
    pub go_to: Vec<String>,
    /// How often.
    pub times: u32,
}

impl Habits {
    /// What the trainer's swaps and the reps that were asked lately say.
    pub fn of(
        course: &Course,
        curriculum: &Curriculum,
        swaps: Vec<Swap>,
        asked: &[AskContext],
        today: NaiveDate,
    ) -> Habits {
        let since = today - Days::new(ANTICIPATED_DAYS);
        let mut anticipated = BTreeMap::new();
        let early = asked.iter().filter(|a| a.date >= since && a.faults.iter().any(|f| f == ANTICIPATES));
        for step in early.filter_map(|a| course.find_at(&a.rung, a.gait)) {
            *anticipated.entry(step).or_default() += 1;
        }
        Habits {
            swaps,
            anticipated,
            faulted: faulted(course, curriculum, asked, since),
            counts: FaultCounts::of(asked),
            hangs: Hangs::of(asked, since),
            claimed: BTreeSet::new(),
        }
    }
}

/// The faults of the reps since a day, commonest first. What comes before the ask has a remedy of its own, set-ups; so has a rein
/// that hangs, the split.
fn faulted(course: &Course, curriculum: &Curriculum, asked: &[AskContext], since: NaiveDate) -> Vec<Faulted> {
    let heights = curriculum.heights();
    let mut times: BTreeMap<(StepIx, &str), u32> = BTreeMap::new();
    for ask in asked.iter().filter(|a| a.date >= since) {
        let Some(at) = course.find_at(&ask.rung, ask.gait) else { continue };
        for tag in ask.faults.iter().filter(|f| ![ANTICIPATES, HANGS_LEFT, HANGS_RIGHT].contains(&f.as_str())) {
            *times.entry((at, tag)).or_default() += 1;
        }
    }
    let all = times.into_iter().filter_map(|((at, tag), times)| {
        let go_to = heights.remedies(curriculum.fault(tag)?, &course.step(at).rung);
        Some(Faulted { at, tag: tag.to_owned(), go_to, times })
    });
    let mut all: Vec<Faulted> = all.collect();
    all.sort_by_key(|f| std::cmp::Reverse(f.times));
    all
}

/// Why a step is a subject for today.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reason {
    /// It was owned and is slipping.
    Slipping,
    /// Everything it needs is owned, and it was never tried.
    Begin,
    /// Someone says that it knows this, and it was never asked for here.
    Claimed,
    /// Under way, and the one left alone longest.
    UnderWay,
    /// It did not come yet last time: the same again, while it is fresh.
    Drill {
        /// Days running that it was ridden.
        days: u32,
    },
    /// The trainer chose it over what was planned before.
    Swapped {
        /// How often within four weeks.
        times: usize,
    },
    /// Faults lately in something else likely come from here.
    Cause {
        /// Where they showed.
        at: StepIx,
        /// How often.
        times: u32,
    },
    /// Under way, though something it needs is not owned.
    OverAHole,
    /// It was owned, and nobody has seen it since the horse was off.
    Recheck,
}

impl Reason {
    /// In a sentence.
    pub fn says(self, course: &Course) -> String {
        match self {
            Reason::Slipping => "It was owned and is slipping: get it back before anything new".to_owned(),
            Reason::Begin => "Everything it needs is owned: begin it, a few reps at a time".to_owned(),
            Reason::Claimed => "It is said to know this, and nobody here has seen it: ask and see".to_owned(),
            Reason::UnderWay => "Under way, and everything below it is owned".to_owned(),
            Reason::Drill { days: 1 } => "It did not come last time: the same again, while it is fresh".to_owned(),
            Reason::Drill { days } => format!("It has not come in {days} rides running: once more, then change"),
            Reason::Swapped { times } => format!("You chose it over what was planned {times} times lately"),
            Reason::Cause { at, times } => format!(
                "A fault showed {times} times lately in {}: the cause is likely here",
                course.step(at).name.to_lowercase()
            ),
            Reason::Recheck => "Owned before: see that it is still there".to_owned(),
            Reason::OverAHole => "Under way; mind the hole below it".to_owned(),
        }
    }
}

/// Subjects for the standing's day, best first.
///
/// What slips comes before anything, lowest first. Then what is under way with all its needs owned, the one left alone
/// longest first; before those, where fewer than three are under way and none was begun within its first three days, the next
/// that is open, slowest gait first. What the horse is said to know, and what it needs for that has shown, is asked for before anything
/// is begun. Two rules bend that order. *Drill*: what met under half on the last day ridden comes
/// first, up to three days running. *Sameness*: a horse that was sour within three weeks gets no subject of its last ride
/// again while there is another. *Cause*: where a fault showed three times or more within two weeks and likely comes from a rung that is
/// open and not owned, that rung comes before the rest. A swap that the trainer made twice within four weeks is made beforehand.
pub fn choices(standing: &Standing<'_, '_>, habits: &Habits) -> Vec<(StepIx, Reason)> {
    let mut out: Vec<(StepIx, Reason)> = vec![];
    let taught = |ix: &StepIx| standing.course().step(*ix).taught;
    let all: Vec<StepIx> = (0..standing.course().steps().len()).filter(taught).collect();
    let with = |wanted: Status| all.iter().copied().filter(move |&ix| standing.status(ix) == wanted);
    out.extend(with(Status::Slipping).map(|ix| (ix, Reason::Slipping)));
    let mut under_way: Vec<StepIx> = with(Status::Learning).filter(|&ix| standing.is_open(ix)).collect();
    under_way.sort_by_key(|&ix| last(standing, ix));
    // A new bit is begun when tack is chosen, not as the subject of a ride.
    let is_bit = |ix: StepIx| standing.course().step(ix).work.subject == SubjectKind::Bit;
    let mut untried: Vec<StepIx> = with(Status::Untried).filter(|&ix| standing.is_open(ix) && !is_bit(ix)).collect();
    untried.sort_by_key(|&ix| standing.course().step(ix).gait);
    let begin = under_way.len() < AT_A_TIME && !begun_lately(standing, &under_way);
    let claimed = claimed(standing, habits);
    untried.retain(|ix| !claimed.contains(ix));
    let mut later = untried.into_iter().map(|ix| (ix, Reason::Begin));
    let next = later.next();
    let (drill, rest): (Vec<_>, Vec<_>) =
        bent(standing, under_way).into_iter().partition(|(_, because)| matches!(because, Reason::Drill { .. }));
    out.extend(drill);
    out.extend(claimed.iter().map(|&ix| (ix, Reason::Claimed)));
    out.extend(next.filter(|_| begin));
    out.extend(rest);
    out.extend(next.filter(|_| !begin));
    out.extend(later);
    let holed = with(Status::Learning).filter(|&ix| !standing.is_open(ix));
    out.extend(holed.map(|ix| (ix, Reason::OverAHole)));
    cause(standing, habits, &mut out);
    swap(standing, habits, &mut out);
    out
}

/// What the horse is said to know and was never asked for here, the slowest gait first: only what has shown all that it needs, so that no
/// word is taken for the step below.
fn claimed(standing: &Standing<'_, '_>, habits: &Habits) -> Vec<StepIx> {
    let course = standing.course();
    let shown = |ix: &StepIx| match standing.status(*ix) {
        Status::Owned => true,
        Status::Learning => standing.advisor().last_share(*ix).is_some_and(|share| share >= 0.5),
        Status::Slipping | Status::Untried => false,
    };
    let fits = |ix: &StepIx| {
        course.step(*ix).taught && standing.status(*ix) == Status::Untried && course.step(*ix).needs.iter().all(shown)
    };
    let mut all: Vec<StepIx> = habits.claimed.iter().copied().filter(fits).collect();
    all.sort_by_key(|&ix| course.step(ix).gait);
    all
}

/// After time off: what slips, then what was owned, the slowest gait first and in it what was left alone longest. Nothing new is begun.
pub(super) fn rechecks(standing: &Standing<'_, '_>) -> Vec<(StepIx, Reason)> {
    let course = standing.course();
    let because = |ix: StepIx| match standing.status(ix) {
        Status::Slipping => Some(Reason::Slipping),
        Status::Owned => Some(Reason::Recheck),
        Status::Learning | Status::Untried => None,
    };
    let taught = (0..course.steps().len()).filter(|&ix| course.step(ix).taught);
    let mut all: Vec<(StepIx, Reason)> = taught.filter_map(|ix| Some((ix, because(ix)?))).collect();
    all.sort_by_key(|&(ix, because)| (because != Reason::Slipping, course.step(ix).gait, last(standing, ix)));
    all
}

/// What is under way, as the two rules bend its order.
fn bent(standing: &Standing<'_, '_>, under_way: Vec<StepIx>) -> Vec<(StepIx, Reason)> {
    let since = standing.on().checked_sub_days(Days::new(SOUR_DAYS));
    let sours = since.is_some_and(|since| standing.advisor().was_sour(since, standing.on()));
    let drill = |ix: StepIx| {
        let days = standing.days_running(ix);
        let short = standing.advisor().last_share(ix).is_some_and(|share| share < 0.5);
        (!sours && short && (1..=DRILL_DAYS).contains(&days)).then_some(days)
    };
    let mut out: Vec<(StepIx, Reason)> = under_way
        .into_iter()
        .map(|ix| (ix, drill(ix).map_or(Reason::UnderWay, |days| Reason::Drill { days })))
        .collect();
    if sours {
        out.sort_by_key(|&(ix, _)| standing.days_running(ix) > 0);
    }
    out
}

/// Puts the likely cause of the commonest fault of late before what is under way. What slips stays first.
fn cause(standing: &Standing<'_, '_>, habits: &Habits, out: &mut Vec<(StepIx, Reason)>) {
    let Some(fault) = habits.faulted.first().filter(|f| f.times >= FAULTED) else { return };
    let course = standing.course();
    let all = causes(course, &standing.reached(), &habits.counts, &fault.tag, &fault.go_to, fault.at);
    let Some(cause) = all.first().filter(|c| c.likely >= LIKELY) else { return };
    let to_work = matches!(standing.status(cause.step), Status::Learning | Status::Untried);
    if !to_work || !standing.is_open(cause.step) || !course.step(cause.step).taught {
        return;
    }
    out.retain(|&(ix, because)| ix != cause.step || because == Reason::Slipping);
    let at = out.iter().take_while(|(_, because)| *because == Reason::Slipping).count();
    out.insert(at, (cause.step, Reason::Cause { at: fault.at, times: fault.times }));
}

fn swap(standing: &Standing<'_, '_>, habits: &Habits, out: &mut Vec<(StepIx, Reason)>) {
    let Some(&(first, because)) = out.first() else { return };
    let lately = |s: &&Swap| s.from == first && s.on + Days::new(SWAP_DAYS) >= standing.on();
    let mut times: BTreeMap<StepIx, usize> = BTreeMap::new();
    for s in habits.swaps.iter().filter(lately) {
        *times.entry(s.to).or_default() += 1;
    }
    let chosen = times.into_iter().filter(|&(to, n)| n >= SWAPS && standing.is_open(to)).max_by_key(|&(_, n)| n);
    if let Some((to, times)) = chosen.filter(|_| because != Reason::Slipping) {
        out.retain(|&(ix, _)| ix != to);
        out.insert(0, (to, Reason::Swapped { times }));
    }
}

/// Whether one of these was begun on one of its first three days: one new thing at a time.
fn begun_lately(standing: &Standing<'_, '_>, steps: &[StepIx]) -> bool {
    steps.iter().any(|&ix| standing.sides(ix).iter().any(|s| s.belief.days < 3))
}

/// The last day on which a step had reps.
pub(super) fn last(standing: &Standing<'_, '_>, ix: StepIx) -> Option<NaiveDate> {
    standing.sides(ix).iter().map(|s| s.belief.last).max()
}
