//! What reps say about how near the answer a horse is.
//!
//! Each rep has a nearness `u`: the horse's state on that day plus logistic noise. The answer comes whole when `u > 0`
//! and is a try down to `−try_width`. The weight and the logarithm of the seconds fall in a straight line with `u`, with
//! normal noise of their own; the weight is rounded to the scale and cut off at its ends.

use std::{
    ops::RangeInclusive,
    sync::{Arc, OnceLock},
};

use super::{normal, settings::ObservationModel};
use crate::response::{Outcome, Rep, ResponseTime, Standard, Weight};

/// States weighed: log-odds −7.5 to 9, a quarter apart.
pub(super) const STATES: usize = 67;
pub(super) const STEP: f64 = 0.25;
const LOWEST: f64 = -7.5;
/// Nodes of `u`, midway between multiples of [`STEP`], so that the edges of the answers fall between them.
const NODES: usize = 120;
const LOWEST_NODE: f64 = -14.0 + STEP / 2.0;
/// Seconds are sorted into classes this wide in their logarithm.
const TIME_CLASS: f64 = 0.05;

/// The state at a place of the grid.
pub(super) fn state(i: usize) -> f64 {
    LOWEST + STEP * i as f64
}

/// Places of the grid within `reach` of a state, at least two.
pub(super) fn window(middle: f64, reach: f64) -> RangeInclusive<usize> {
    let place = |x: f64| ((x - LOWEST) / STEP).clamp(0.0, (STATES - 1) as f64) as usize;
    let low = place(middle - reach).min(STATES - 2);
    low..=place(middle + reach).max(low + 1)
}

fn node(i: usize) -> f64 {
    LOWEST_NODE + STEP * i as f64
}

/// A value for each state.
pub(super) type Curve = [f64; STATES];

type Key = (Weight, Outcome, Weight, Option<i32>);

/// The furthest class of seconds, to either side.
const TIMES: i32 = 80;
/// How many outcomes a rep may have.
const OUTCOMES: usize = 3;
/// How many keys there are.
const KEYS: usize = Weight::ALL.len() * OUTCOMES * Weight::ALL.len() * (2 * TIMES as usize + 2);

/// Where a key has its place among all.
fn place((standard, outcome, weight, time): Key) -> usize {
    let time = time.map_or(0, |t| (t + TIMES + 1) as usize);
    let weights = Weight::ALL.len();
    let answer = (standard as usize * OUTCOMES + outcome as usize) * weights + weight as usize;
    answer * (2 * TIMES as usize + 2) + time
}

/// Standards, classes, and whether there are seconds.
const COARSE: usize = Weight::ALL.len() * 4 * 2;

/// What a rep comes to where its weight and seconds tell no more than whether it met the standard.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Class {
    Met,
    Whole,
    Tried,
    None,
}

/// What some reps say, read in two ways.
#[derive(Debug, Clone)]
pub(super) struct DayLikelihood {
    /// Their likelihood under each state, weight and seconds read as signs of nearness.
    pub fine: Likelihood,
    /// The same for hands that log by habit: what they log tells whether the standard was met, and no more.
    pub coarse: Likelihood,
}

/// A likelihood under each state, as parts of the greatest of them.
#[derive(Debug, Clone)]
pub(super) struct Likelihood {
    /// The logarithm of the greatest.
    pub ln_top: f64,
    /// Each as a part of it, 0 to 1.
    pub parts: Curve,
    /// The logarithm of each.
    pub ln: Curve,
}

impl Likelihood {
    fn of(ln: &Curve) -> Likelihood {
        let ln_top = ln.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        // Under a millionth of a billionth of the greatest, a part adds nothing that could be told.
        let part = |l: f64| if l - ln_top > -35.0 { (l - ln_top).exp() } else { 0.0 };
        Likelihood { ln_top, parts: ln.map(part), ln: *ln }
    }
}

/// Reads reps. Keeps what it has worked out, for itself and for those cloned from it: reps repeat themselves.
#[derive(Debug, Clone)]
pub(super) struct RepModel {
    signs: ObservationModel,
    /// How likely each node is from each state.
    reach: Arc<[[f64; NODES]]>,
    fine: Arc<[OnceLock<Box<Curve>>]>,
    coarse: Arc<[OnceLock<Box<Curve>>; COARSE]>,
    /// How often each weight was logged with each class: the habit of the hands that log.
    habit: Logged,
    /// What was logged today, which is not habit before tomorrow: all sides of a day are read alike.
    today: Logged,
}

/// How often each weight was logged with each class.
type Logged = [[f64; Weight::ALL.len()]; 4];

impl RepModel {
    pub(super) fn new(signs: ObservationModel) -> RepModel {
        let row = |i: usize| {
            let mut row: [f64; NODES] = std::array::from_fn(|k| {
                let e = (-(node(k) - state(i)).abs()).exp();
                e / (1.0 + e).powi(2)
            });
            let total: f64 = row.iter().sum();
            row.iter_mut().for_each(|p| *p /= total);
            row
        };
        RepModel {
            signs,
            reach: (0..STATES).map(row).collect(),
            fine: (0..KEYS).map(|_| OnceLock::new()).collect(),
            coarse: Arc::new(std::array::from_fn(|_| OnceLock::new())),
            habit: [[0.5; Weight::ALL.len()]; 4],
            today: [[0.0; Weight::ALL.len()]; 4],
        }
    }

    /// What some reps of one day say. The order of the reps does not matter.
    pub(super) fn likelihood(&mut self, standard: &Standard, reps: &[&Rep]) -> DayLikelihood {
        let (mut fine, mut coarse) = ([0.0; STATES], [0.0; STATES]);
        // What says the same of every state.
        let mut level = 0.0;
        let add = |sum: &mut Curve, rep: &Curve| sum.iter_mut().zip(rep).for_each(|(s, l)| *s += l);
        for rep in reps {
            add(&mut fine, self.fine_of(standard, rep));
            let class = class_of(standard, rep);
            add(&mut coarse, self.coarse_of(standard, class, rep.time.is_some()));
            let seconds = rep.time.map_or(0.0, |t| seconds_by_habit(class, ln_ratio(t, standard)));
            let usual = &self.habit[class as usize];
            let weight = (usual[rep.weight as usize] / usual.iter().sum::<f64>()).ln();
            level += seconds + weight;
            self.today[class as usize][rep.weight as usize] += 1.0;
        }
        coarse.iter_mut().for_each(|s| *s += level);
        DayLikelihood { fine: Likelihood::of(&fine), coarse: Likelihood::of(&coarse) }
    }

    /// A day is over.
    pub(super) fn end_day(&mut self) {
        for (habit, day) in self.habit.iter_mut().flatten().zip(self.today.iter_mut().flatten()) {
            *habit += std::mem::take(day);
        }
    }

    fn fine_of(&self, standard: &Standard, rep: &Rep) -> &Curve {
        let class = |t: ResponseTime| {
            (ln_ratio(t, standard) / TIME_CLASS).round().clamp(f64::from(-TIMES), f64::from(TIMES)) as i32
        };
        let key = (standard.weight, rep.answer.outcome(), rep.weight, rep.time.map(class));
        self.fine[place(key)].get_or_init(|| Box::new(self.work_out(key)))
    }

    fn work_out(&self, (standard, outcome, weight, time): Key) -> Curve {
        let s = &self.signs;
        let shown: [f64; NODES] = std::array::from_fn(|k| {
            let u = node(k);
            if !self.is_outcome(outcome, u) {
                return 0.0;
            }
            let seconds = time.map_or(1.0, |class| {
                let off = f64::from(class) * TIME_CLASS - (s.time_at_zero - s.time_slope * u);
                normal::density(off / s.time_sd) / s.time_sd
            });
            (self.weight_at_most(standard, weight, u) - self.weight_under(standard, weight, u)) * seconds
        });
        self.seen_from(&shown)
    }

    fn coarse_of(&self, standard: &Standard, class: Class, timed: bool) -> &Curve {
        let at = (standard.weight as usize * 4 + class as usize) * 2 + usize::from(timed);
        self.coarse[at].get_or_init(|| {
            let shown: [f64; NODES] = std::array::from_fn(|k| {
                let u = node(k);
                let met = self.met_at(standard, standard, u, timed);
                match class {
                    Class::Met => met,
                    Class::Whole => f64::from(u8::from(u > 0.0)) - met,
                    Class::Tried => f64::from(u8::from(self.is_outcome(Outcome::Tried, u))),
                    Class::None => f64::from(u8::from(self.is_outcome(Outcome::None, u))),
                }
            });
            Box::new(self.seen_from(&shown))
        })
    }

    /// The logarithm of what is likely at each state, from what is likely at each nearness. A millionth for any rep at all:
    /// slips of the thumb do not decide alone.
    fn seen_from(&self, shown: &[f64; NODES]) -> Curve {
        std::array::from_fn(|i| (self.reach[i].iter().zip(shown).map(|(r, p)| r * p).sum::<f64>() + 1e-6).ln())
    }

    fn is_outcome(&self, outcome: Outcome, u: f64) -> bool {
        match outcome {
            Outcome::Gave => u > 0.0,
            Outcome::Tried => u <= 0.0 && u > -self.signs.try_width,
            Outcome::None => u <= -self.signs.try_width,
        }
    }

    fn weight_at_most(&self, standard: Weight, weight: Weight, u: f64) -> f64 {
        let s = &self.signs;
        if weight == Weight::Tug {
            return 1.0;
        }
        let middle = standard as i32 as f64 + s.weight_at_zero - s.weight_slope * u;
        normal::below((weight as i32 as f64 + 0.5 - middle) / s.weight_sd)
    }

    fn weight_under(&self, standard: Weight, weight: Weight, u: f64) -> f64 {
        match (weight as usize).checked_sub(1) {
            None => 0.0,
            Some(lighter) => self.weight_at_most(standard, Weight::ALL[lighter], u),
        }
    }

    /// The share of reps that meet a standard from each state: of those with seconds, and of those without. States are told
    /// by the step's first standard.
    pub(super) fn shares(&self, first: &Standard, standard: &Standard) -> [Curve; 2] {
        [true, false].map(|timed| {
            let met: [f64; NODES] = std::array::from_fn(|k| self.met_at(first, standard, node(k), timed));
            std::array::from_fn(|i| self.reach[i].iter().zip(&met).map(|(r, p)| r * p).sum())
        })
    }

    /// How likely a rep of this nearness meets a standard.
    fn met_at(&self, first: &Standard, standard: &Standard, u: f64, timed: bool) -> f64 {
        let s = &self.signs;
        if u <= 0.0 {
            return 0.0;
        }
        let slack = ln_ratio(standard.seconds, first);
        let in_time =
            if timed { normal::below((slack - (s.time_at_zero - s.time_slope * u)) / s.time_sd) } else { 1.0 };
        self.weight_at_most(first.weight, standard.weight, u) * in_time
    }
}

/// Logarithm of the seconds over the standard's.
fn ln_ratio(time: ResponseTime, standard: &Standard) -> f64 {
    (time.seconds().max(0.05) / standard.seconds.seconds().max(0.05)).ln()
}

fn class_of(standard: &Standard, rep: &Rep) -> Class {
    match rep.answer.outcome() {
        Outcome::Gave if standard.is_met_by(rep) => Class::Met,
        Outcome::Gave => Class::Whole,
        Outcome::Tried => Class::Tried,
        Outcome::None => Class::None,
    }
}

/// Logarithm of how likely the seconds are where only the class tells of them: a wide normal for each.
fn seconds_by_habit(class: Class, ln_ratio: f64) -> f64 {
    let (mean, sd) = match class {
        Class::Met => (-0.45, 0.35),
        Class::Whole => (0.0, 0.35),
        Class::Tried => (0.03, 0.25),
        Class::None => (0.4, 0.3),
    };
    normal::ln_density((ln_ratio - mean) / sd) - f64::ln(sd)
}

/// The value of a rising curve at a state, in a straight line between places and level beyond the ends.
pub(super) fn at(curve: &Curve, x: f64) -> f64 {
    let place = ((x - LOWEST) / STEP).clamp(0.0, (STATES - 1) as f64);
    let i = (place as usize).min(STATES - 2);
    let part = place - i as f64;
    curve[i] * (1.0 - part) + curve[i + 1] * part
}

/// The state at which a rising curve reaches a value; far above the grid where it never does.
pub(super) fn reaches(curve: &Curve, value: f64) -> f64 {
    match curve.iter().position(|&c| c >= value) {
        None => 40.0,
        Some(0) => LOWEST,
        Some(i) => {
            let part = (value - curve[i - 1]) / (curve[i] - curve[i - 1]);
            state(i - 1) + STEP * part
        }
    }
}
