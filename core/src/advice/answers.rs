//! How the answers themselves went over the days: the first ask of a day beside its best, what a faster gait costs, and what a
//! change of hands costs.

use std::collections::BTreeMap;

use super::{capitalised, compare::less_often};
use crate::{
    curriculum::{Course, Gait, Side, StepIx},
    response::{Answer, Rep, ResponseTime, Standard, Weight},
};

/// Days whose first and best asks are told together (common practice, no published source).
const LATELY: usize = 3;
/// Asks after a change of hands, and others, from which on the two are compared.
const ASKS: u32 = 6;
/// From these odds on a change of hands is told to cost something,
const COSTS: f64 = 0.9;
/// and under these to cost nothing.
const COSTS_NOTHING: f64 = 0.6;
/// Share of reps from which on a gait is told to cost something.
const GAIT_COSTS: f64 = 0.02;

/// The answers of one side on one day.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DayAnswers {
    /// The first ask of the day.
    pub first: Rep,
    /// The best at the standard: the lightest, then the quickest.
    pub best: Option<Rep>,
    /// Median seconds of those that were answered.
    pub seconds: Option<f64>,
    /// Median weight, in steps of the scale from none, 0 to 7.
    pub weight: f64,
}

impl DayAnswers {
    /// From the reps of a day in the order in which they were asked; `None` without any.
    ///
    /// ```
    /// use cavesson_core::{advice::DayAnswers, response::{Answer, Rep, ResponseTime, Standard, Weight}};
    /// let rep = |weight, seconds| Rep { answer: Answer::Gave, weight, time: ResponseTime::from_seconds(seconds).ok() };
    /// let day = [rep(Weight::Orange, 2.4), rep(Weight::Lemon, 1.8), rep(Weight::Egg, 1.0)];
    /// let answers = DayAnswers::of(&Standard::default(), &day).unwrap();
    /// assert_eq!((answers.first, answers.best), (day[0], Some(day[2])));
    /// assert_eq!((answers.seconds, answers.weight), (Some(1.8), Weight::Lemon as u8 as f64));
    /// ```
    pub fn of(standard: &Standard, reps: &[Rep]) -> Option<DayAnswers> {
        let times = reps.iter().filter(|r| r.answer != Answer::None).filter_map(|r| r.time);
        Some(DayAnswers {
            first: *reps.first()?,
            best: crate::response::best(standard, reps).copied(),
            seconds: median(times.map(ResponseTime::seconds).collect()),
            weight: median(reps.iter().map(|r| f64::from(r.weight as u8)).collect())?,
        })
    }
}

fn median(mut values: Vec<f64>) -> Option<f64> {
    values.sort_by(f64::total_cmp);
    let at = values.len().checked_sub(1)? / 2;
    Some(if values.len().is_multiple_of(2) { (values[at] + values[at + 1]) / 2.0 } else { values[at] })
}

/// "Left begins at an orange, 2.4 s, and comes to an egg, 1.0 s": the middle of the first asks of the last days, and of the best.
/// `None` with fewer days than that, or where the one is what the other is.
pub fn first_and_best_in_words(side: Side, days: &[DayAnswers]) -> Option<String> {
    let lately = days.get(days.len().checked_sub(LATELY)?..)?;
    let best: Option<Vec<Rep>> = lately.iter().map(|d| d.best).collect();
    let first: Vec<Rep> = lately.iter().map(|d| d.first).collect();
    let (first, best) = (in_the_middle(&first)?, in_the_middle(&best?)?);
    let who = match side {
        Side::Both => "It",
        Side::Left => "Left",
        Side::Right => "Right",
    };
    (first != best).then(|| format!("{who} begins a day at {first} and comes to {best}"))
}

/// `an orange, 2.4 s`: each in the middle of some reps.
fn in_the_middle(reps: &[Rep]) -> Option<String> {
    let weight = median(reps.iter().map(|r| f64::from(r.weight as u8)).collect())?;
    let hand = Weight::ALL.get(weight.round() as usize)?.phrase();
    let seconds = median(reps.iter().filter_map(|r| r.time.map(ResponseTime::seconds)).collect());
    Some(seconds.map_or_else(|| hand.to_owned(), |s| format!("{hand}, {s:.1} s")))
}

/// One ask with a side, in the order in which they were made.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct SidedAsk {
    /// Which ride, told apart from the one before it.
    pub ride: usize,
    /// What was asked.
    pub step: StepIx,
    /// Left or right.
    pub side: Side,
    /// Whether it met the standard.
    pub met: bool,
}

/// What the first ask after a change of hands costs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HandsCost {
    /// Those that met the standard, and all, of the first asks after a change.
    pub after: (u32, u32),
    /// The same of all others.
    pub others: (u32, u32),
    /// How likely the first ones meet it less often, 0 to 1, under Jeffreys priors.
    pub odds: f64,
}

/// Compares the first asks of a step after the hands were changed with its others; `None` with too few of either.
pub fn hands_cost(asks: &[SidedAsk], step: StepIx) -> Option<HandsCost> {
    let (mut after, mut others) = ((0, 0), (0, 0));
    let before = std::iter::once(None).chain(asks.iter().map(Some));
    for (ask, before) in asks.iter().zip(before).filter(|(a, _)| a.step == step) {
        let changed = before.is_some_and(|b| b.ride == ask.ride && b.side != ask.side);
        let sum = if changed { &mut after } else { &mut others };
        *sum = (sum.0 + u32::from(ask.met), sum.1 + 1);
    }
    (after.1 >= ASKS && others.1 >= ASKS).then(|| HandsCost { after, others, odds: less_often(after, others) })
}

impl HandsCost {
    /// "The first ask after a change of hands met 4 of 12, the others 31 of 40: it costs".
    pub fn in_words(&self) -> Option<String> {
        let figures = format!(
            "The first ask after a change of hands met {} of {}, the others {} of {}",
            self.after.0, self.after.1, self.others.0, self.others.1
        );
        match self.odds {
            sure if sure >= COSTS => Some(format!("{figures}: the change costs")),
            none if none < COSTS_NOTHING => Some(format!("{figures}: the change costs nothing")),
            _ => None,
        }
    }
}

/// What one gait faster costs a horse.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GaitCost {
    /// The slower gait.
    pub from: Gait,
    /// The faster one.
    pub to: Gait,
    /// How much less of the asks meet the standard, 0 to 1: the mean over rungs and sides; under 0, more of them do.
    pub share: f64,
    /// Rungs that both gaits were ridden on.
    pub rungs: u32,
}

/// What each faster gait costs, slowest first, from the share that meets the standard on an ordinary day on each step and side.
pub fn gait_costs(course: &Course, shares: &[(StepIx, Side, f64)]) -> Vec<GaitCost> {
    let mut by_gait: BTreeMap<(Gait, Gait), (f64, Vec<&str>)> = BTreeMap::new();
    let mut sides: BTreeMap<(Gait, Gait), u32> = BTreeMap::new();
    for &(ix, side, share) in shares {
        let step = course.step(ix);
        let faster = shares.iter().filter(|(other, s, _)| {
            // The same rung at the gait above this one: steps of a rung stand together, slowest first.
            *other == ix + 1 && *s == side && course.step(*other).rung == step.rung
        });
        for &(other, _, above) in faster {
            let key = (step.gait, course.step(other).gait);
            let sum = by_gait.entry(key).or_default();
            sum.0 += share - above;
            sum.1.push(&step.rung);
            *sides.entry(key).or_default() += 1;
        }
    }
    let cost = |((from, to), (sum, mut rungs)): ((Gait, Gait), (f64, Vec<&str>))| {
        let n = f64::from(sides[&(from, to)]);
        rungs.dedup();
        GaitCost { from, to, share: sum / n, rungs: rungs.len() as u32 }
    };
    by_gait.into_iter().map(cost).collect()
}

impl GaitCost {
    /// "At the jog 9 in 100 fewer meet the standard than at the walk, over 4 rungs".
    pub fn in_words(&self) -> String {
        let rungs = if self.rungs == 1 { "1 rung".to_owned() } else { format!("{} rungs", self.rungs) };
        let (to, from) = (capitalised(self.to.phrase()), self.from.phrase());
        match self.share {
            s if s >= GAIT_COSTS => {
                format!("{to} {:.0} in 100 fewer meet the standard than {from}, over {rungs}", 100.0 * s)
            }
            _ => format!("{to} it goes no worse than {from}, over {rungs}"),
        }
    }
}
