//! One day of a horse, all its reps together: whether the day was good or bad, and whether something was lost.
//!
//! A day moves everything that is worked on it; a loss moves one side of one rung, a side, or the horse, and stays. Both are weighed
//! on grids, with every step and side of the day at once, and each side is then read with what the others say of the day.

use super::{
    loss::{AMOUNTS, CommonLoss, LEVELS, Lost, SCOPES, SOUND, covers, together},
    normal,
    rep_model::{Curve, STATES, STEP, state},
    settings::DaySettings,
};
use crate::curriculum::Side;

/// Effects of a day weighed: log-odds −4.5 to 2.5.
const EFFECTS: usize = 29;
const LOWEST_EFFECT: i32 = -18;
/// Shifts of a side: a day's effect less what was lost.
const SHIFTS: usize = EFFECTS + MOST_LOST;
/// The greatest amount, in steps of the grid.
const MOST_LOST: usize = (AMOUNTS[LEVELS - 1] / STEP) as usize;
/// How many spreads of days are weighed.
pub(super) const SPREADS: usize = 5;

/// A value for each spread of days.
pub(super) type Spreads = [f64; SPREADS];

/// One side of a day's work, before it.
#[derive(Debug)]
pub(super) struct SideBefore<'a> {
    pub side: Side,
    /// What is believed of the state without losses: mean and variance.
    pub sound: (f64, f64),
    /// What this side has lost itself.
    pub own: Lost,
    /// It was ridden on so few days that there is nothing to lose yet: what it shows is how it starts.
    pub is_new: bool,
    /// The likelihood of its reps, as parts of the greatest.
    pub likelihood: &'a Curve,
}

/// What a day says of one of its sides.
#[derive(Debug)]
pub(super) struct SideAfter {
    /// What it may have lost, by all the rest of the day: what its likelihood is spread with.
    pub expected: Lost,
    /// What it has lost by itself, its own reps included.
    pub own: Lost,
}

/// What a day comes to.
#[derive(Debug)]
pub(super) struct DayAfter {
    pub sides: Vec<SideAfter>,
    pub common: CommonLoss,
    /// The probability of the day under each spread, as parts of the greatest.
    pub spreads: Spreads,
    /// What is to be expected of the day's effect, its kind being known as far as it is: mean and variance.
    pub effect: (f64, f64),
}

/// How likely each effect is under each spread.
#[derive(Debug, Clone)]
pub(super) struct DayPrior {
    usual: [[f64; EFFECTS]; SPREADS],
    bad: [f64; EFFECTS],
    settings: DaySettings,
}

impl DayPrior {
    pub(super) fn new(settings: &DaySettings) -> DayPrior {
        let bell = |mean: f64, sd: f64| {
            let mut p: [f64; EFFECTS] = std::array::from_fn(|i| normal::density((effect(i) - mean) / sd));
            let total: f64 = p.iter().sum();
            p.iter_mut().for_each(|p| *p /= total);
            p
        };
        let bad = bell(settings.bad.mean, settings.bad.sd);
        DayPrior { usual: settings.spreads.map(|sd| bell(0.0, sd)), bad, settings: *settings }
    }

    /// How likely each effect is, with how likely each spread is.
    fn effects(&self, spreads: &Spreads) -> [f64; EFFECTS] {
        let mut effects = self.bad.map(|b| b * self.settings.bad_share);
        for (p, row) in spreads.iter().zip(&self.usual) {
            effects.iter_mut().zip(row).for_each(|(e, r)| *e += p * (1.0 - self.settings.bad_share) * r);
        }
        effects
    }

    /// The probability of a day under each spread, and what is to be expected of its effect, by how likely the day is under each
    /// effect.
    fn kind(&self, spreads: &Spreads, by_effect: &[f64; EFFECTS]) -> (Spreads, (f64, f64)) {
        let s = &self.settings;
        let bad = s.bad_share * dot(&self.bad, by_effect);
        let usual: Spreads = std::array::from_fn(|k| (1.0 - s.bad_share) * dot(&self.usual[k], by_effect));
        let each: Spreads = std::array::from_fn(|k| spreads[k] * usual[k]);
        let total = bad + each.iter().sum::<f64>();
        let p = bad / total;
        let variance: f64 = each.iter().zip(s.spreads).map(|(e, sd)| e / total * sd * sd).sum();
        let apart = p * (1.0 - p) * s.bad.mean * s.bad.mean;
        (usual.map(|u| u + bad), (p * s.bad.mean, variance + p * s.bad.sd * s.bad.sd + apart))
    }
}

fn dot(a: &[f64], b: &[f64]) -> f64 {
    a.iter().zip(b).map(|(a, b)| a * b).sum()
}

fn effect(i: usize) -> f64 {
    f64::from(LOWEST_EFFECT + i as i32) * STEP
}

fn lost_steps(level: usize) -> usize {
    (AMOUNTS[level] / STEP) as usize
}

/// Where in [`SHIFTS`] an effect less an amount stands.
fn shift_at(effect: usize, level: usize) -> usize {
    effect + MOST_LOST - lost_steps(level)
}

/// Weighs a day. `shared` is the variance that the states have in common: where little is known of a horse, all its sides are
/// better or worse than thought together, on any day, and that is no sign of a good one or a bad one.
pub(super) fn weigh(
    prior: &DayPrior,
    spreads: &Spreads,
    common: &CommonLoss,
    shared: f64,
    sides: &[SideBefore<'_>],
) -> DayAfter {
    // For each side how likely its reps are under each shift, and under each effect and common amount.
    let shown: Vec<[f64; SHIFTS]> = sides.iter().map(|s| shown_under_shifts(s, shared)).collect();
    let blur = Blur::new(shared);
    let under: Vec<[[f64; LEVELS]; EFFECTS]> = sides.iter().zip(&shown).map(|(s, f)| under_effects(s, f)).collect();
    let effects = prior.effects(spreads);
    let each = Joint::of(common, sides, &under);
    let joint = each.clone().blurred(&blur);
    let total: f64 = effects.iter().zip(&joint.by_effect).map(|(e, j)| e * j).sum();
    let after = CommonLoss {
        sound: joint.weighed(&effects, |j| j.sound) / total,
        lost: std::array::from_fn(|scope| {
            std::array::from_fn(|a| joint.weighed(&effects, |j| j.lost[scope][a]) / total)
        }),
    };
    let after_side = |((s, f), u)| side_after(s, f, u, &effects, &each, &blur);
    let sides = sides.iter().zip(&shown).zip(&under).map(after_side).collect();
    let (spreads, effect) = prior.kind(spreads, &joint.by_effect);
    DayAfter { sides, common: after, spreads, effect }
}

/// No effect and no loss is less likely than this part of the likeliest, by one side's reps: many sides that speak against each other
/// still add up.
const LEAST: f64 = 1e-12;

/// How likely a side's reps are under each effect of the day and each common amount.
fn under_effects(side: &SideBefore<'_>, shown: &[f64; SHIFTS]) -> [[f64; LEVELS]; EFFECTS] {
    let at = |d: usize, a: usize| {
        let a = if side.is_new { 0 } else { a };
        side.own.iter().enumerate().map(|(c, p)| p * shown[shift_at(d, a.max(c))]).sum::<f64>()
    };
    let under: [[f64; LEVELS]; EFFECTS] = std::array::from_fn(|d| std::array::from_fn(|a| at(d, a)));
    let top = under.iter().flatten().copied().fold(f64::MIN_POSITIVE, f64::max);
    under.map(|row| row.map(|u| u.max(LEAST * top)))
}

/// How likely all sides are together, for each effect of the day and each common loss, its own probability included.
#[derive(Clone)]
struct Joint {
    at: Vec<CommonLoss>,
    by_effect: [f64; EFFECTS],
}

impl Joint {
    fn of(common: &CommonLoss, sides: &[SideBefore<'_>], under: &[[[f64; LEVELS]; EFFECTS]]) -> Joint {
        let mut joint = Joint { at: vec![*common; EFFECTS], by_effect: [1.0; EFFECTS] };
        for (side, u) in sides.iter().zip(under) {
            joint.at.iter_mut().zip(u).for_each(|(j, u)| j.take_in(side.side, u));
            joint.scale();
        }
        joint
    }

    /// Everything as parts of the greatest: many sides together are too unlikely for plain numbers.
    fn scale(&mut self) {
        let all = |j: &CommonLoss| j.sound + j.lost.iter().flatten().sum::<f64>();
        let top = self.at.iter().map(all).fold(f64::MIN_POSITIVE, f64::max);
        for (j, by_effect) in self.at.iter_mut().zip(&mut self.by_effect) {
            j.sound /= top;
            j.lost.iter_mut().flatten().for_each(|l| *l /= top);
            *by_effect = all(j).max(1e-280);
        }
    }

    /// The same for effects of the day alone, what the states have in common taken out.
    fn blurred(mut self, blur: &Blur) -> Joint {
        let at = blur.of(&self.at.iter().map(flat).collect::<Vec<_>>());
        self.at = at.iter().map(unflat).collect();
        self.scale();
        self
    }

    fn weighed(&self, effects: &[f64; EFFECTS], of: impl Fn(&CommonLoss) -> f64) -> f64 {
        effects.iter().zip(&self.at).map(|(e, j)| e * of(j)).sum()
    }
}

/// How far what all states have in common may move them, as weights around each effect.
struct Blur(Vec<f64>);

impl Blur {
    fn new(variance: f64) -> Blur {
        let sd = variance.sqrt();
        if sd < 0.5 * STEP {
            return Blur(vec![1.0]);
        }
        let reach = ((3.0 * sd / STEP).ceil() as i32).min(EFFECTS as i32);
        let mut w: Vec<f64> = (-reach..=reach).map(|k| normal::density(f64::from(k) * STEP / sd)).collect();
        let total: f64 = w.iter().sum();
        w.iter_mut().for_each(|w| *w /= total);
        Blur(w)
    }

    /// Rows for each effect, each with its neighbours mixed in; beyond the ends as at the ends.
    fn of<const N: usize>(&self, rows: &[[f64; N]]) -> Vec<[f64; N]> {
        let reach = self.0.len() as i32 / 2;
        let last = rows.len() as i32 - 1;
        (0..=last)
            .map(|d| {
                let mut out = [0.0; N];
                for (k, w) in (-reach..=reach).zip(&self.0) {
                    let row = &rows[(d + k).clamp(0, last) as usize];
                    out.iter_mut().zip(row).for_each(|(o, r)| *o += w * r);
                }
                out
            })
            .collect()
    }
}

const FLAT: usize = 1 + SCOPES * LEVELS;

fn flat(j: &CommonLoss) -> [f64; FLAT] {
    std::array::from_fn(|i| if i == 0 { j.sound } else { j.lost[(i - 1) / LEVELS][(i - 1) % LEVELS] })
}

fn unflat(row: &[f64; FLAT]) -> CommonLoss {
    CommonLoss { sound: row[0], lost: std::array::from_fn(|s| std::array::from_fn(|a| row[1 + s * LEVELS + a])) }
}

fn shown_under_shifts(side: &SideBefore<'_>, shared: f64) -> [f64; SHIFTS] {
    let (mean, variance) = side.sound;
    let sd = (variance - shared).max(0.0).sqrt().max(0.8 * STEP);
    let first = (((mean - 4.0 * sd - state(0)) / STEP).floor().max(0.0) as usize).min(STATES - 1);
    let last = (((mean + 4.0 * sd - state(0)) / STEP).ceil().max(0.0) as usize).clamp(first, STATES - 1);
    let bell: Vec<f64> = (first..=last).map(|i| normal::density((state(i) - mean) / sd)).collect();
    let total: f64 = bell.iter().sum::<f64>().max(1e-300);
    std::array::from_fn(|k| {
        let off = LOWEST_EFFECT - MOST_LOST as i32 + k as i32;
        let sum: f64 = bell.iter().enumerate().map(|(n, b)| b * side.likelihood[place(first + n, off)]).sum();
        sum / total
    })
}

fn place(i: usize, off: i32) -> usize {
    (i as i32 + off).clamp(0, STATES as i32 - 1) as usize
}

fn side_after(
    side: &SideBefore<'_>,
    shown: &[f64; SHIFTS],
    under: &[[f64; LEVELS]; EFFECTS],
    effects: &[f64; EFFECTS],
    joint: &Joint,
    blur: &Blur,
) -> SideAfter {
    // How likely each common amount is on this side, by all the others.
    let by_others = |(j, u): (&CommonLoss, &[f64; LEVELS])| {
        let mut others = [0.0; LEVELS];
        others[0] = j.sound / u[0];
        for (scope, lost) in j.lost.iter().enumerate() {
            for (a, l) in lost.iter().enumerate() {
                let a = if covers(scope, side.side) { a } else { 0 };
                others[a] += l / u[a];
            }
        }
        others
    };
    let others = blur.of(&joint.at.iter().zip(under).map(by_others).collect::<Vec<_>>());
    let mut by_amount = [0.0; LEVELS];
    let mut own = [0.0; LEVELS];
    for (d, (e, others)) in effects.iter().zip(&others).enumerate() {
        for (a, o) in others.iter().enumerate() {
            let w = e * o;
            by_amount[a] += w;
            for (c, p) in side.own.iter().enumerate() {
                own[c] += w * p * shown[shift_at(d, a.max(c))];
            }
        }
    }
    if side.is_new {
        return SideAfter { expected: SOUND, own: SOUND };
    }
    let (all, mine): (f64, f64) = (by_amount.iter().sum(), own.iter().sum());
    SideAfter { expected: together(&side.own, &by_amount.map(|b| b / all)), own: own.map(|o| o / mine) }
}

/// A likelihood of the state of a day, spread to one of the state that a horse would be in without losses.
pub(super) fn spread(likelihood: &Curve, lost: &Lost) -> Curve {
    std::array::from_fn(|i| {
        lost.iter().enumerate().map(|(a, p)| p * likelihood[place(i, -(lost_steps(a) as i32))]).sum()
    })
}
