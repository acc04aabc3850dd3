//! What reps say about how near the answer a horse is.
//!
//! Each rep has a nearness `u`: the horse's state on that day plus logistic noise. The answer comes whole when `u > 0`
//! and is a try down to `−try_width`. The weight and the logarithm of the seconds fall in a straight line with `u`, with
//! normal noise of their own. What is written down is a stretch of each: a clock has a tick, and not every rider uses every weight.

use std::{
    ops::RangeInclusive,
    sync::{Arc, LazyLock},
};

use super::{
    log_habits::{ReadRep, Stretch},
    memo::Memo,
    normal,
    readings::RungReading,
    settings::ObservationModel,
};
use crate::response::{Outcome, Standard};

/// States weighed: log-odds −7.5 to 9, a quarter apart.
pub(super) const STATES: usize = 67;
pub(super) const STEP: f64 = 0.25;
const LOWEST: f64 = -7.5;
/// Nodes of `u`, midway between multiples of [`STEP`], so that the edge of the whole answer falls between them.
const NODES: usize = 120;
const LOWEST_NODE: f64 = -14.0 + STEP / 2.0;
/// Edges of weights are sorted into classes this wide, in steps of the scale.
const WEIGHT_CLASS: f64 = 0.25;
/// Edges of seconds are sorted into classes this wide in their logarithm.
const TIME_CLASS: f64 = 0.025;

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

/// A value for each node of nearness.
type Nodes = [f64; NODES];

/// A likelihood under each state, as parts of the greatest of them.
#[derive(Debug, Clone)]
pub(super) struct Likelihood {
    /// The logarithm of the greatest.
    pub ln_top: f64,
    /// Each as a part of it, 0 to 1.
    pub parts: Curve,
}

impl Likelihood {
    /// From the logarithm of it under each state.
    pub(super) fn of(ln: &Curve) -> Likelihood {
        let ln_top = ln.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        Likelihood { ln_top, parts: ln.map(|l| (l - ln_top).max(-300.0).exp()) }
    }

    /// The same greatest with other parts of it.
    pub(super) fn with_parts(&self, parts: Curve) -> Likelihood {
        Likelihood { ln_top: self.ln_top, parts }
    }
}

/// A rep as it is read: its outcome and, as classes over the standard, between which edges weight and seconds lie.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
struct Key {
    outcome: Outcome,
    weight: (i16, i16),
    time: Option<(i16, i16)>,
    /// Figures of the reading: width of a try, spread of the weight, spread of the time, in thousandths.
    figures: (i16, i16, i16),
}

/// Beyond every class: an open end.
const OPEN: i16 = i16::MAX;

fn class(edge: f64, width: f64) -> i16 {
    if edge.is_infinite() {
        return if edge > 0.0 { OPEN } else { -OPEN };
    }
    (edge / width).round().clamp(-3000.0, 3000.0) as i16
}

fn edge(class: i16, width: f64) -> f64 {
    match class {
        OPEN => f64::INFINITY,
        c if c == -OPEN => f64::NEG_INFINITY,
        c => f64::from(c) * width,
    }
}

/// Reads reps. Keeps what it has worked out, for itself and for all of the same model: reps repeat themselves.
#[derive(Debug, Clone)]
pub(super) struct RepModel {
    weight_slope: f64,
    time_slope: f64,
    /// How likely each node is from each state.
    reach: Arc<[Nodes]>,
    curves: Memo<Key, Curve>,
    stretches: Memo<StretchKey, Nodes>,
    shares: Memo<ShareKey, [Curve; 2]>,
}

/// Results of each kind that are kept, and as many again: about 50 MB at most.
const MOST_KEPT: usize = 20_000;

/// All horses are read alike, so what was worked out for one serves the others.
static USUAL: LazyLock<(ObservationModel, RepModel)> = LazyLock::new(|| {
    let model = super::ModelSettings::default().signs;
    (model, RepModel::new(&model))
});

/// What is read on a scale.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Scale {
    Weight,
    Time,
}

/// A stretch of a scale, as classes, and the spread around it in thousandths.
type StretchKey = (Scale, (i16, i16), i16);

/// Edges of what meets a standard and the spreads around them, in thousandths.
type ShareKey = [i64; 4];

/// The logistic density over the nodes from each state.
fn reach() -> Arc<[Nodes]> {
    let row = |i: usize| {
        let mut row: Nodes = std::array::from_fn(|k| {
            let e = (-(node(k) - state(i)).abs()).exp();
            e / (1.0 + e).powi(2)
        });
        let total: f64 = row.iter().sum();
        row.iter_mut().for_each(|p| *p /= total);
        row
    };
    (0..STATES).map(row).collect()
}

impl RepModel {
    /// Reads by a model.
    pub(super) fn of(model: &ObservationModel) -> RepModel {
        if *model == USUAL.0 { USUAL.1.clone() } else { RepModel::new(model) }
    }

    fn new(model: &ObservationModel) -> RepModel {
        let (weight_slope, time_slope) = (model.weight_slope, model.time_slope);
        RepModel {
            weight_slope,
            time_slope,
            reach: reach(),
            curves: Memo::new(MOST_KEPT),
            stretches: Memo::new(MOST_KEPT),
            shares: Memo::new(MOST_KEPT),
        }
    }

    /// What some reps of one day say, as the logarithm of a likelihood. The order of the reps does not matter.
    pub(super) fn ln_likelihood(&self, standard: &Standard, reading: &RungReading, reps: &[ReadRep]) -> Curve {
        let mut keys: Vec<Key> = reps.iter().map(|r| key(standard, reading, r)).collect();
        keys.sort_unstable_by_key(|k| (k.outcome as u8, k.weight, k.time));
        let mut ln = [0.0; STATES];
        for same in keys.chunk_by(|a, b| a == b) {
            let (n, curve) = (same.len() as f64, self.curves.get(&same[0], || self.work_out(&same[0])));
            ln.iter_mut().zip(curve.iter()).for_each(|(sum, l)| *sum += n * l);
        }
        ln
    }

    /// The logarithm of how likely a rep is from each state. A millionth for any rep at all: slips of the thumb do not decide alone.
    fn work_out(&self, key: &Key) -> Curve {
        let (try_width, weight_sd, time_sd) = key.figures;
        let try_width = f64::from(try_width) / 1000.0;
        let weight = self.stretch(Scale::Weight, key.weight, weight_sd);
        let time = key.time.map(|t| self.stretch(Scale::Time, t, time_sd));
        let shown: Nodes = std::array::from_fn(|k| {
            let seconds = time.as_ref().map_or(1.0, |t| t[k]);
            outcome_part(key.outcome, try_width, node(k)) * seconds * weight[k]
        });
        std::array::from_fn(|i| (dot(&self.reach[i], &shown) + 1e-6).ln())
    }

    /// How likely a reading falls into a stretch from each nearness.
    fn stretch(&self, scale: Scale, classes: (i16, i16), sd: i16) -> Arc<Nodes> {
        let key = (scale, classes, sd);
        self.stretches.get(&key, || {
            let (width, slope) = match scale {
                Scale::Weight => (WEIGHT_CLASS, self.weight_slope),
                Scale::Time => (TIME_CLASS, self.time_slope),
            };
            let [from, to] = [classes.0, classes.1].map(|c| edge(c, width));
            let sd = f64::from(sd) / 1000.0;
            std::array::from_fn(|k| within(from, to, -slope * node(k), sd))
        })
    }

    /// The share of reps that meet a standard from each state: of those with seconds, and of those without. States are told by the
    /// step's first standard. `met` are the stretches that meet it: up to which weight, up to which logarithm of seconds.
    pub(super) fn shares(&self, first: &Standard, reading: &RungReading, met: (f64, f64)) -> Arc<[Curve; 2]> {
        let (weight, ln_seconds) = (met.0 - weight_zero(first, reading), met.1 - time_zero(first, reading));
        let key = [weight, ln_seconds, reading.weight_sd, reading.time_sd].map(|x| (x * 1000.0).round() as i64);
        self.shares.get(&key, || self.work_out_shares(key))
    }

    fn work_out_shares(&self, key: ShareKey) -> [Curve; 2] {
        let open = |x: i64| if x == i64::MAX { f64::INFINITY } else { x as f64 / 1000.0 };
        let [weight, ln_seconds, weight_sd, time_sd] = key.map(open);
        [true, false].map(|timed| {
            let shown: Nodes = std::array::from_fn(|k| {
                let u = node(k);
                if u <= 0.0 {
                    return 0.0;
                }
                let in_time =
                    if timed { within(f64::NEG_INFINITY, ln_seconds, -self.time_slope * u, time_sd) } else { 1.0 };
                in_time * within(f64::NEG_INFINITY, weight, -self.weight_slope * u, weight_sd)
            });
            std::array::from_fn(|i| dot(&self.reach[i], &shown))
        })
    }
}

fn dot(a: &Nodes, b: &Nodes) -> f64 {
    a.iter().zip(b).map(|(a, b)| a * b).sum()
}

/// The weight at nearness 0, in steps of the scale.
fn weight_zero(standard: &Standard, reading: &RungReading) -> f64 {
    f64::from(standard.weight as u8) + reading.weight_at_zero
}

/// The logarithm of the seconds at nearness 0.
fn time_zero(standard: &Standard, reading: &RungReading) -> f64 {
    standard.seconds.seconds().max(0.05).ln() + reading.time_at_zero
}

fn key(standard: &Standard, reading: &RungReading, rep: &ReadRep) -> Key {
    let (weight, time) = (weight_zero(standard, reading), time_zero(standard, reading));
    let classes = |s: Stretch, zero: f64, width: f64| {
        let (from, mut to) = (class(s.from - zero, width), class(s.to - zero, width));
        // A stretch is never empty.
        if to <= from {
            to = from + 1;
        }
        (from, to)
    };
    let thousandths = |x: f64| (x * 1000.0).round() as i16;
    Key {
        outcome: rep.outcome,
        weight: classes(rep.weight, weight, WEIGHT_CLASS),
        time: rep.time.map(|t| classes(t, time, TIME_CLASS)),
        figures: (thousandths(reading.try_width), thousandths(reading.weight_sd), thousandths(reading.time_sd)),
    }
}

/// How much of a node's stretch of nearness has an outcome.
fn outcome_part(outcome: Outcome, try_width: f64, u: f64) -> f64 {
    // The edge of a try may fall within a node.
    let over = ((u + try_width) / STEP + 0.5).clamp(0.0, 1.0);
    match outcome {
        Outcome::Gave => f64::from(u8::from(u > 0.0)),
        Outcome::Tried if u > 0.0 => 0.0,
        Outcome::Tried => over,
        Outcome::None => 1.0 - over,
    }
}

fn within(from: f64, to: f64, mean: f64, sd: f64) -> f64 {
    (normal::below((to - mean) / sd) - normal::below((from - mean) / sd)).max(0.0)
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
