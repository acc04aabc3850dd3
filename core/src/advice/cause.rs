//! Where a fault likely comes from: a rung below that is not owned, or not now.
//!
//! A small Bayesian weighing over the rungs that the fault points to and the open needs of what was asked. The prior is the order in
//! which the trade names them; it is weighed by how likely the horse does not own the rung, by how often the same fault showed on it, and
//! by how often working it helped in this barn.
//! A rung that the horse has not reached is never named (common practice, no published source).

use std::{collections::BTreeMap, sync::Arc};

use super::{AskContext, RemedyRecord, capitalised};
use crate::curriculum::{Course, Fault, StepIx};

/// The first rung that the trade names for a fault; each after it has this part of the weight of the one before,
const NAMED_NEXT: f64 = 0.75;
/// and all open needs that it does not name together this much of the first.
const UNNAMED: f64 = 0.35;
/// How much the fault may lie in what was asked itself, against the first rung named.
const ITSELF: f64 = 0.25;
/// What is owned may be the cause all the same: not now, not here.
const NOT_NOW: f64 = 0.06;
/// How far the same fault on a rung speaks for it at most, and against it.
const GOES_WITH: (f64, f64) = (0.4, 4.0);
/// Asks that the usual share of a fault counts for.
const USUAL_ASKS: f64 = 6.0;

/// What working a rung did for a fault is told from so many times on.
const TRIED: u32 = 3;
/// A cause is told from this probability on; under it, what the trade does is told alone.
const TOLD: f64 = 0.3;
/// How likely a step is owned that is open and was not ridden.
const NOT_BEGUN: f64 = 0.2;

/// How likely a step that the horse has reached is owned: as likely as its weaker side is at the standard.
///
/// ```
/// use cavesson_core::advice::owned_by_sides;
/// assert_eq!(owned_by_sides([0.9, 0.4]), 0.4);
/// assert!(owned_by_sides([]) < 0.5, "open, and not ridden");
/// ```
pub fn owned_by_sides(ready: impl IntoIterator<Item = f64>) -> f64 {
    ready.into_iter().reduce(f64::min).unwrap_or(NOT_BEGUN)
}

/// A likely cause of a fault.
#[derive(Debug, Clone, PartialEq)]
pub struct Cause {
    /// The step to go to.
    pub step: StepIx,
    /// How likely the cause lies there, 0 to 1; what is left of all causes lies in what was asked itself.
    pub likely: f64,
    /// How likely the horse owns it on its weaker side.
    pub owned: f64,
    /// Asks on its rung in which the same fault showed, and all asks on it.
    pub showed: (u32, u32),
    /// How often working it was tried against the fault in this barn, and about how often that helped.
    pub tried: (u32, f64),
}

impl Cause {
    /// Whether it is likely enough to be told.
    pub fn is_told(&self) -> bool {
        self.likely >= TOLD
    }
}

/// How often faults showed on rungs lately.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct FaultCounts {
    asks: BTreeMap<String, u32>,
    showed: BTreeMap<(String, String), u32>,
    /// What remedies did for the barn's horses.
    remedies: Arc<RemedyRecord>,
}

impl FaultCounts {
    /// Counted over reps.
    pub fn of(asked: &[AskContext]) -> FaultCounts {
        let mut counts = FaultCounts::default();
        for ask in asked {
            *counts.asks.entry(ask.rung.clone()).or_default() += 1;
            for fault in &ask.faults {
                *counts.showed.entry((fault.clone(), ask.rung.clone())).or_default() += 1;
            }
        }
        counts
    }

    /// The same, with what remedies did in the barn: those that did not help sink.
    pub fn with_remedies(self, remedies: Arc<RemedyRecord>) -> FaultCounts {
        FaultCounts { remedies, ..self }
    }

    fn on(&self, fault: &str, rung: &str) -> (u32, u32) {
        let showed = self.showed.get(&(fault.to_owned(), rung.to_owned())).copied().unwrap_or(0);
        (showed, self.asks.get(rung).copied().unwrap_or(0))
    }

    /// The share of all asks in which a fault showed.
    fn usual(&self, fault: &str) -> f64 {
        let showed: u32 = self.showed.iter().filter(|(key, _)| key.0 == fault).map(|(_, n)| n).sum();
        let all: u32 = self.asks.values().sum();
        (f64::from(showed) + 0.5) / (f64::from(all) + 5.0)
    }
}

/// The likely causes of a fault that showed at a step, surest first. `go_to` are the rungs below that the trade names for it, and `owned` how
/// likely each step that the horse has reached is owned on its weaker side.
///
/// ```
/// use cavesson_core::{advice::{FaultCounts, causes}, curriculum::Curriculum};
/// let curriculum = Curriculum::standard();
/// let course = curriculum.course();
/// let step = |id| course.find(id).ok_or("no such step");
/// // Head up in the stop: the flexion and the poll are there, the bend is not.
/// let owned = [(step("S1")?, 0.97), (step("S2")?, 0.1), (step("S6@stand")?, 0.9)].into();
/// let go_to = curriculum.remedies(curriculum.fault("head-up").ok_or("no such fault")?, "T2");
/// let causes = causes(&course, &owned, &FaultCounts::default(), "head-up", &go_to, step("T2")?);
/// assert_eq!(course.step(causes[0].step).rung, "S2");
/// # Ok::<(), &str>(())
/// ```
pub fn causes(
    course: &Course,
    owned: &BTreeMap<StepIx, f64>,
    counts: &FaultCounts,
    fault: &str,
    go_to: &[String],
    at: StepIx,
) -> Vec<Cause> {
    let usual = counts.usual(fault);
    let weigh = |step: StepIx, prior: f64| {
        let owned = owned.get(&step).copied().unwrap_or_default();
        let showed = counts.on(fault, &course.step(step).rung);
        let share = (f64::from(showed.0) + USUAL_ASKS * usual) / (f64::from(showed.1) + USUAL_ASKS);
        let goes_with = (share / usual).clamp(GOES_WITH.0, GOES_WITH.1);
        let rung = &course.step(step).rung;
        let helps = counts.remedies.weight(fault, rung);
        let tried = counts.remedies.of_remedy(fault, rung);
        Cause { step, likely: prior * (1.0 - owned + NOT_NOW) * goes_with * helps, owned, showed, tried }
    };
    let named = go_to
        .iter()
        .enumerate()
        .filter_map(|(n, rung)| Some((lowest_open(course, owned, rung, at)?, NAMED_NEXT.powi(n as i32))));
    let named: Vec<(StepIx, f64)> = named.collect();
    let below = course.down_from(at).into_iter().filter(|s| *s != at && owned.get(s).is_some_and(|p| *p < 0.5));
    let unnamed = below.filter(|s| !named.iter().any(|(n, _)| course.step(*n).rung == course.step(*s).rung));
    let unnamed: Vec<StepIx> = unnamed.collect();
    let each = UNNAMED / unnamed.len().max(1) as f64;
    let unnamed = unnamed.into_iter().map(|s| (s, each));
    let mut out: Vec<Cause> = named.into_iter().chain(unnamed).map(|(step, prior)| weigh(step, prior)).collect();
    let all = ITSELF + out.iter().map(|c| c.likely).sum::<f64>();
    out.iter_mut().for_each(|c| c.likely /= all);
    out.sort_by(|a, b| b.likely.total_cmp(&a.likely));
    out
}

/// The slowest gait of a rung that is reached and not owned, up to the gait of the ask; where all of them are owned, the fastest.
fn lowest_open(course: &Course, owned: &BTreeMap<StepIx, f64>, rung: &str, at: StepIx) -> Option<StepIx> {
    let asked = course.step(at);
    let reached = (0..course.steps().len()).filter(|&ix| {
        let step = course.step(ix);
        step.rung == rung && ix != at && step.rung != asked.rung && step.gait <= asked.gait && owned.contains_key(&ix)
    });
    let reached: Vec<StepIx> = reached.collect();
    reached.iter().copied().find(|ix| owned[ix] < 0.5).or_else(|| reached.last().copied())
}

/// What to do about a fault: "Head up: braced on a straight pull. Bend and walk first: 10% likely owned; head up in 4 of 20 asks
/// there". Where no cause is likely enough, the remedy of the trade.
pub fn remedy_in_words(course: &Course, fault: &Fault, cause: Option<&Cause>) -> String {
    let name = capitalised(&fault.name);
    let Some(cause) = cause else { return format!("{name}: {}. {}", fault.likely, capitalised(&fault.remedy)) };
    let owned = match cause.owned {
        p if p >= 0.5 => "owned, and not there now".to_owned(),
        p => format!("{:.0}% likely owned", (100.0 * p).max(1.0)),
    };
    let (showed, asks) = cause.showed;
    let there = if showed > 0 { format!("; {} in {showed} of {asks} asks there", fault.name) } else { String::new() };
    let helped = match cause.tried {
        (tried, helped) if tried >= TRIED => format!("; it helped {helped:.0} of {tried} times here"),
        _ => String::new(),
    };
    format!("{name}: {}. {} first: {owned}{there}{helped}", fault.likely, course.step(cause.step).name)
}
