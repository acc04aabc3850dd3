//! How likely the answers of one ride get sooner, lighter or fuller from ask to ask.
//!
//! Each is a straight line over the asks of a stretch: a level of this day, of which nothing is known, a change over the stretch, and a
//! spread from ask to ask. All three are weighed on a grid under the likelihood of every ask, and all but the change are summed out. An ask
//! that got no answer has no seconds: the answer would have come later than it was held (a censored time).

use libm::erfc;

use crate::response::{Answer, Outcome, Rep};

/// How likely something got better over a stretch of asks, and how likely it got worse.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Odds {
    /// Better, 0 to 1.
    pub better: f64,
    /// Worse, 0 to 1.
    pub worse: f64,
}

/// What changed from ask to ask; `None` where too little was noted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct AskTrend {
    /// The seconds to the answer: better is sooner.
    pub seconds: Option<Odds>,
    /// The weight in the hand: better is lighter.
    pub weight: Option<Odds>,
    /// How much of the answer came: better is more.
    pub answer: Option<Odds>,
}

/// How a reading usually behaves (common practice made into figures; no published source).
struct Habit {
    /// Spreads from ask to ask that are weighed, each as likely as the others.
    spreads: [f64; 3],
    /// How far it usually moves over a stretch: one standard deviation.
    change: f64,
    /// A change of less than this is none.
    little: f64,
}

/// Logarithm of seconds.
const SECONDS: Habit = Habit { spreads: [0.2, 0.33, 0.48], change: 0.5, little: 0.07 };
/// Steps of the scale of weights.
const WEIGHT: Habit = Habit { spreads: [0.9, 1.5, 2.1], change: 2.2, little: 0.3 };
/// Log-odds of the whole answer; a try lies under it by no more than [`TRY_WIDTH`].
const ANSWER: Habit = Habit { spreads: [1.0; 3], change: 2.5, little: 0.4 };
const TRY_WIDTH: f64 = 1.4;
/// Of the normal density.
const ROOT_TAU: f64 = 2.506_628_274_631_000_5;
/// Fewest readings from which a change is told.
const FEWEST: usize = 3;
/// How often nothing moves at all over a stretch.
const STILL: f64 = 0.3;
/// Nodes of the change to each side of none, up to three standard deviations, and of the level.
const CHANGES: i32 = 15;
const LEVELS: i32 = 24;

/// One reading and where it stands in the stretch, −½ to ½.
#[derive(Clone, Copy)]
struct Point<T> {
    at: f64,
    shown: T,
}

#[derive(Clone, Copy)]
enum Reading {
    Exact(f64),
    AtLeast(f64),
}

impl AskTrend {
    /// A change of less than this over a stretch is none: of the logarithm of seconds, of the weight in steps of the scale, and of the
    /// answer in log-odds.
    pub const LITTLE: [f64; 3] = [SECONDS.little, WEIGHT.little, ANSWER.little];
}

/// What changed over asks of one side of a step, oldest first.
///
/// ```
/// use cavesson_core::{response::{Answer, Rep, ResponseTime, Weight}, ride::ask_trend};
/// let gave = |seconds| Rep { answer: Answer::Gave, weight: Weight::Egg, time: ResponseTime::from_seconds(seconds).ok() };
/// let seconds = ask_trend(&[gave(3.0), gave(2.4), gave(1.8), gave(1.2)]).seconds.ok_or("four asks")?;
/// assert!(seconds.better > 0.8 && seconds.worse < 0.05);
/// assert_eq!(ask_trend(&[gave(3.0), gave(2.4)]).seconds, None, "two asks are no line");
/// # Ok::<(), &str>(())
/// ```
pub fn ask_trend(asks: &[Rep]) -> AskTrend {
    let last = asks.len().saturating_sub(1).max(1) as f64;
    let at = |n: usize| n as f64 / last - 0.5;
    let points = |read: &dyn Fn(&Rep) -> Option<Reading>| -> Vec<Point<Reading>> {
        asks.iter().enumerate().filter_map(|(n, r)| Some(Point { at: at(n), shown: read(r)? })).collect()
    };
    let seconds = points(&|r| {
        let ln = r.time?.seconds().max(0.1).ln();
        Some(if r.answer == Answer::None { Reading::AtLeast(ln) } else { Reading::Exact(ln) })
    });
    let weight = points(&|r| Some(Reading::Exact(f64::from(r.weight as u8))));
    let outcomes: Vec<Point<Outcome>> =
        asks.iter().enumerate().map(|(n, r)| Point { at: at(n), shown: r.answer.outcome() }).collect();
    let fallen = |odds: Odds| Odds { better: odds.worse, worse: odds.better };
    AskTrend {
        seconds: line(&SECONDS, &seconds).map(fallen),
        weight: line(&WEIGHT, &weight).map(fallen),
        answer: answer_line(&outcomes),
    }
}

/// A line through readings: how likely it rises, as better, and falls, as worse.
fn line(habit: &Habit, points: &[Point<Reading>]) -> Option<Odds> {
    let exact: Vec<f64> =
        points.iter().filter_map(|p| if let Reading::Exact(y) = p.shown { Some(y) } else { None }).collect();
    if exact.len() < FEWEST {
        return None;
    }
    let reach = 2.0 * habit.spreads[2];
    let low = exact.iter().copied().fold(f64::INFINITY, f64::min) - reach;
    let high = exact.iter().copied().fold(f64::NEG_INFINITY, f64::max) + reach;
    let ln_likely = |level: f64, change: f64, spread: f64| {
        let ask = |p: &Point<Reading>| {
            let z = |y: f64| (y - level - change * p.at) / spread;
            match p.shown {
                Reading::Exact(y) => -0.5 * z(y).powi(2) - spread.ln(),
                Reading::AtLeast(y) => (0.5 * erfc(z(y) * std::f64::consts::FRAC_1_SQRT_2)).max(1e-12).ln(),
            }
        };
        points.iter().map(ask).sum()
    };
    Some(summed(habit, (low, high), ln_likely))
}

fn answer_line(points: &[Point<Outcome>]) -> Option<Odds> {
    let same = points.iter().all(|p| p.shown == points[0].shown);
    if points.len() < FEWEST || same {
        return None;
    }
    let over = |x: f64| 1.0 / (1.0 + (-x).exp());
    let ln_likely = |level: f64, change: f64, _: f64| {
        let ask = |p: &Point<Outcome>| {
            let state = level + change * p.at;
            let likely = match p.shown {
                Outcome::Gave => over(state),
                Outcome::Tried => over(state + TRY_WIDTH) - over(state),
                Outcome::None => 1.0 - over(state + TRY_WIDTH),
            };
            likely.max(1e-12).ln()
        };
        points.iter().map(ask).sum()
    };
    Some(summed(&ANSWER, (-5.0, 5.0), ln_likely))
}

/// Sums a likelihood over levels and spreads, and under the usual change.
fn summed(habit: &Habit, (low, high): (f64, f64), ln_likely: impl Fn(f64, f64, f64) -> f64) -> Odds {
    let step = 3.0 * habit.change / f64::from(CHANGES);
    let mut sums = [0.0_f64; 3];
    let mut ln: Vec<(usize, f64)> = vec![];
    for n in -CHANGES..=CHANGES {
        let change = f64::from(n) * step;
        let kind = if change > habit.little {
            0
        } else if change < -habit.little {
            1
        } else {
            2
        };
        let moves = (1.0 - STILL) * (-0.5 * (change / habit.change).powi(2)).exp() * step / (habit.change * ROOT_TAU);
        let usual = (moves + if n == 0 { STILL } else { 0.0 }).ln();
        for l in 0..=LEVELS {
            let level = low + (high - low) * f64::from(l) / f64::from(LEVELS);
            ln.extend(habit.spreads.iter().map(|&spread| (kind, usual + ln_likely(level, change, spread))));
        }
    }
    let top = ln.iter().map(|l| l.1).fold(f64::NEG_INFINITY, f64::max);
    ln.iter().for_each(|&(kind, l)| sums[kind] += (l - top).exp());
    let all: f64 = sums.iter().sum();
    Odds { better: sums[0] / all, worse: sums[1] / all }
}
