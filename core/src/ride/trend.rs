//! The change from ask to ask, as a rider reads it: sooner, lighter, more of it, or the other way.

use chrono::NaiveDate;

use super::{AskTrend, Asked, ask_trend};
use crate::{
    curriculum::Course,
    response::{Answer, Rep, ResponseTime},
    words::words,
};

/// First asks of earlier days from which on today's is set against them.
const USUAL: usize = 5;
/// Asks of a side that are looked at.
const LOOK_BACK: usize = 8;
/// A change is told from these odds on.
const TOLD: f64 = 0.75;
/// Under these odds there is no change to speak of,
const EVEN: f64 = 0.6;
/// and asks after which no change is worth a word.
const STILL: usize = 6;

words! {
    "a change from ask to ask";
    /// What changed from ask to ask.
    pub enum AskChange {
        /// The answer comes sooner.
        Sooner,
        /// It takes less in the hand.
        Lighter,
        /// More of the answer comes.
        More,
        /// Nothing did.
        Same,
        /// The answer comes later.
        Later,
        /// It takes more in the hand.
        Heavier,
        /// Less of the answer comes.
        Less,
    }
}

impl AskChange {
    const fn phrase(self) -> &'static str {
        match self {
            AskChange::Sooner => "Sooner",
            AskChange::Lighter => "Lighter",
            AskChange::More => "More of the answer",
            AskChange::Same => "No change",
            AskChange::Later => "Later",
            AskChange::Heavier => "Heavier",
            AskChange::Less => "Less of the answer",
        }
    }
}

/// What changed over the last asks of a side.
#[derive(Debug, Clone, PartialEq)]
pub struct TrendLine {
    /// What.
    pub change: AskChange,
    /// How likely, 0 to 1.
    pub odds: f64,
    /// Asks that were looked at.
    pub asks: usize,
    /// "Sooner: 2.4, 1.9, 1.3 s, 9 in 10".
    pub says: String,
}

/// What changed up to the last ask, over the answers of its step and side; nothing while it is too early to say.
pub fn trend(course: &Course, on: NaiveDate, asked: &[Asked]) -> Option<TrendLine> {
    let last = asked.last()?;
    let same = asked.iter().filter(|a| a.step == last.step && a.side == last.side).filter_map(|a| a.rep().copied());
    let mut reps: Vec<Rep> = same.collect();
    reps.drain(..reps.len().saturating_sub(LOOK_BACK));
    let (change, odds) = surest(&ask_trend(&reps), reps.len())?;
    let met = |rep: &&Rep| course.step(last.step).standard_on(on).is_met_by(rep);
    let figures = match change {
        AskChange::Same => format!("{} of {} met the standard", reps.iter().filter(met).count(), reps.len()),
        AskChange::Sooner | AskChange::Later => {
            format!("{} s", joined(&reps, |r| Some(format!("{:.1}", answered(r)?.seconds()))))
        }
        AskChange::Lighter | AskChange::Heavier => joined(&reps, |r| Some(r.weight.word().to_owned())),
        AskChange::More | AskChange::Less => joined(&reps, |r| Some(r.answer.outcome().word().to_owned())),
    };
    let says = match change {
        AskChange::Same => format!("{} over {} asks: {figures}", change.phrase(), reps.len()),
        _ => format!("{}: {figures}, {} in 10", change.phrase(), in_ten(odds)),
    };
    Some(TrendLine { change, odds, asks: reps.len(), says })
}

/// The first ask of a side today against the first asks of earlier days: how many of those it is sooner or lighter than, or later or
/// heavier. Nothing with fewer than five of them.
///
/// ```
/// use cavesson_core::{response::{Answer, Rep, ResponseTime, Weight}, ride::{AskChange, against_usual}};
/// let rep = |seconds| Rep { answer: Answer::Gave, weight: Weight::Egg, time: ResponseTime::from_seconds(seconds).ok() };
/// let usual = [2.4, 2.0, 2.1, 1.9, 2.6].map(rep);
/// let line = against_usual(&rep(1.2), &usual).ok_or("too few")?;
/// assert_eq!(line.change, AskChange::Sooner);
/// assert_eq!(line.says, "First ask 1.2 s, sooner than 5 of its last 5 first asks");
/// # Ok::<(), &str>(())
/// ```
pub fn against_usual(first: &Rep, usual: &[Rep]) -> Option<TrendLine> {
    if usual.len() < USUAL {
        return None;
    }
    // An ask without an answer took longer than any that had one.
    let seconds = |r: &Rep| answered(r).map_or(f64::INFINITY, ResponseTime::seconds);
    let timed = |r: &&Rep| r.time.is_some() || r.answer == Answer::None;
    let all: Vec<f64> = usual.iter().filter(timed).map(seconds).collect();
    let weights: Vec<f64> = usual.iter().map(|r| f64::from(r.weight as u8)).collect();
    let time = timed(&first).then(|| Beyond::of(seconds(first), &all)).filter(|b| b.of >= USUAL);
    let weight = Beyond::of(f64::from(first.weight as u8), &weights);
    let mut each = vec![(weight, AskChange::Lighter, AskChange::Heavier, first.weight.phrase().to_owned())];
    let in_seconds = answered(first).map_or_else(String::new, |t| format!("{:.1} s", t.seconds()));
    each.extend(time.map(|t| (t, AskChange::Sooner, AskChange::Later, in_seconds)));
    let told = each
        .into_iter()
        .flat_map(|(b, better, worse, now)| [(b.under, better, now.clone(), b.of), (b.over, worse, now, b.of)]);
    // Of two that are as sure, the seconds: they are what riders watch.
    let (n, change, now, of) = told.max_by(|a, b| (a.0 * b.3).cmp(&(b.0 * a.3)))?;
    let odds = (n as f64 + 0.5) / (of as f64 + 1.0);
    (odds >= TOLD).then(|| {
        let says = match first.answer {
            Answer::None if change == AskChange::Later => {
                format!("The first ask had no answer; {n} of the last {of} first asks had one")
            }
            _ => format!("First ask {now}, {} than {n} of its last {of} first asks", change.phrase().to_lowercase()),
        };
        TrendLine { change, odds, asks: 1, says }
    })
}

/// How many of some values are over one, and how many under it.
struct Beyond {
    under: usize,
    over: usize,
    of: usize,
}

impl Beyond {
    /// `under`: of the values, those over this one, so that it is the lower; `over`: those under it.
    fn of(value: f64, all: &[f64]) -> Beyond {
        let count = |is: &dyn Fn(f64) -> bool| all.iter().filter(|v| is(**v)).count();
        Beyond { under: count(&|v| v > value), over: count(&|v| v < value), of: all.len() }
    }
}

/// The surest of the changes, where one is sure enough to be told.
fn surest(trend: &AskTrend, asks: usize) -> Option<(AskChange, f64)> {
    let each = [
        (trend.answer, AskChange::More, AskChange::Less),
        (trend.weight, AskChange::Lighter, AskChange::Heavier),
        (trend.seconds, AskChange::Sooner, AskChange::Later),
    ];
    let told = each.into_iter().filter_map(|(odds, better, worse)| Some((odds?, better, worse)));
    let told: Vec<(AskChange, f64)> = told.flat_map(|(odds, b, w)| [(b, odds.better), (w, odds.worse)]).collect();
    let (change, odds) = told.iter().copied().max_by(|a, b| a.1.total_cmp(&b.1))?;
    match odds {
        sure if sure >= TOLD => Some((change, odds)),
        unsure if asks >= STILL && unsure < EVEN => Some((AskChange::Same, 1.0 - unsure)),
        _ => None,
    }
}

fn in_ten(odds: f64) -> u32 {
    ((10.0 * odds) as u32).min(9)
}

/// The last of something that was noted, at most four.
fn joined(reps: &[Rep], told: impl Fn(&Rep) -> Option<String>) -> String {
    let all: Vec<String> = reps.iter().filter_map(told).collect();
    all[all.len().saturating_sub(4)..].join(", ")
}

/// The seconds of an answer. Those of an ask without one are only how long it was held.
fn answered(rep: &Rep) -> Option<ResponseTime> {
    rep.time.filter(|_| rep.answer != Answer::None)
}
