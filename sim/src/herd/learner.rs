//! A horse of a herd: it learns toward a ceiling, fades, has good and bad days, and may lose what it owned.

use std::collections::{BTreeMap, BTreeSet};

use cavesson_core::curriculum::{Course, Side, Sides, StepIx};
use rand::RngExt;
use rand_chacha::ChaCha8Rng;

use super::{Draw, Kind, Losing, RungNature, rider_log::RiderLog};
use crate::horse::normal;

/// A side of a step.
#[derive(Debug, Clone, Copy)]
struct SideState {
    state: f64,
    ceiling: f64,
    lost: f64,
    worked: bool,
}

/// Something that is lost, from some session on.
#[derive(Debug, Clone, Copy)]
struct Loss {
    from: usize,
    /// All of the horse where it names no step.
    step: Option<StepIx>,
    /// Both sides where it names none.
    side: Option<Side>,
    amount: f64,
    /// Sessions over which it comes.
    over: usize,
    /// Share of it that one session of work brings back.
    back: f64,
}

#[derive(Debug)]
pub(super) struct Learner {
    sides: BTreeMap<(StepIx, Side), SideState>,
    /// How much of its needs it brings to a new rung.
    carries: f64,
    pace: f64,
    chance_sd: f64,
    fade: f64,
    day_sd: f64,
    bad_days: f64,
    today: f64,
    loss: Option<Loss>,
    seen: BTreeSet<(StepIx, Side)>,
    /// Sessions that each rung still waits once its needs are near enough.
    waits: Vec<u32>,
}

fn drawn(rng: &mut ChaCha8Rng, d: Draw) -> f64 {
    d.mean + normal(rng, d.sd)
}

impl Learner {
    pub(super) fn new(kind: &Kind, course: &Course, rng: &mut ChaCha8Rng) -> Learner {
        let l = &kind.learners;
        let (level, ceiling, lean) = (drawn(rng, l.level), drawn(rng, l.ceiling), normal(rng, l.lean_sd));
        let mut sides: BTreeMap<(StepIx, Side), SideState> = BTreeMap::new();
        for (ix, step) in course.steps().iter().enumerate() {
            let (rung, top) = (normal(rng, l.own_sd), normal(rng, l.own_sd));
            for &side in step.sides.list() {
                let lean = match side {
                    Side::Left => -lean,
                    Side::Right => lean,
                    Side::Both => 0.0,
                };
                // What it brings of its needs is added on the first day.
                let brings =
                    if step.needs.is_empty() { level } else { l.carries.1 * level - l.step_cost[step.gait as usize] };
                let state = brings + lean + rung + normal(rng, l.own_sd);
                let ceiling = ceiling + lean + top + normal(rng, l.own_sd);
                sides.insert((ix, side), SideState { state, ceiling, lost: 0.0, worked: false });
            }
        }
        Learner {
            sides,
            carries: l.carries.0,
            pace: drawn(rng, l.ln_pace).exp().min(0.6),
            chance_sd: 0.1,
            fade: drawn(rng, l.fade).max(0.0),
            day_sd: drawn(rng, l.ln_day_sd).exp(),
            bad_days: l.bad_days,
            today: 0.0,
            loss: loss(&kind.losing, course, kind.sessions.1 as usize, rng),
            seen: BTreeSet::new(),
            // What needs nothing is where a horse starts.
            waits: course
                .steps()
                .iter()
                .map(|s| if s.needs.is_empty() { 0 } else { rng.random_range(0..=kind.riders.waits) })
                .collect(),
        }
    }

    /// The horse comes out some days after the last.
    pub(super) fn begin_day(&mut self, off: u64, rng: &mut ChaCha8Rng) {
        let faded = self.fade * (off as f64 - 3.0).max(0.0);
        self.sides.values_mut().for_each(|s| s.state -= faded);
        self.today = normal(rng, self.day_sd);
        if rng.random_bool(self.bad_days) {
            self.today -= 1.5 + normal(rng, 0.5).abs();
        }
    }

    /// What is worked today: of the rungs whose needs are near enough, some, each mostly on all of its sides.
    pub(super) fn todays_work(
        &mut self,
        course: &Course,
        log: &RiderLog,
        natures: &[RungNature],
        rng: &mut ChaCha8Rng,
    ) -> Vec<(StepIx, Side)> {
        let share = |ix: StepIx, side: Side| {
            log.share(course.step(ix), natures[ix], self.effective(ix, side))
                - course.step(ix).standard.share.fraction()
        };
        let near = |ix: StepIx| course.step(ix).sides.list().iter().all(|&s| share(ix, s) > -0.08);
        let open: Vec<StepIx> =
            (0..course.steps().len()).filter(|&ix| course.step(ix).needs.iter().all(|&n| near(n))).collect();
        let mut work = vec![];
        for &ix in open.iter().filter(|ix| self.waits[**ix] == 0) {
            // What is owned is asked now and then.
            if !rng.random_bool(if near(ix) { 0.4 } else { 0.75 }) {
                continue;
            }
            for &side in course.step(ix).sides.list() {
                if course.step(ix).sides == Sides::Both || rng.random_bool(0.9) {
                    work.push((ix, side));
                }
            }
        }
        for ix in open {
            self.waits[ix] = self.waits[ix].saturating_sub(1);
        }
        for &(ix, side) in &work {
            if self.seen.insert((ix, side)) {
                self.carry_over(course, ix, side);
            }
        }
        work
    }

    /// On its first day a rung begins with part of what its needs were brought to.
    fn carry_over(&mut self, course: &Course, ix: StepIx, side: Side) {
        let needs = &course.step(ix).needs;
        if needs.is_empty() {
            return;
        }
        let of = |n: StepIx| {
            let sides: Vec<f64> = self
                .sides
                .iter()
                .filter(|(k, _)| k.0 == n && (k.1 == side || side == Side::Both || k.1 == Side::Both))
                .map(|(_, s)| s.state)
                .collect();
            sides.iter().sum::<f64>() / sides.len().max(1) as f64
        };
        let brought = needs.iter().map(|&n| of(n)).sum::<f64>() / needs.len() as f64;
        if let Some(s) = self.sides.get_mut(&(ix, side)) {
            s.state += self.carries * brought;
        }
    }

    fn effective(&self, ix: StepIx, side: Side) -> f64 {
        self.sides.get(&(ix, side)).map_or(0.0, |s| s.state - s.lost)
    }

    pub(super) fn nearness(&self, ix: StepIx, side: Side, rng: &mut ChaCha8Rng) -> f64 {
        let p: f64 = rng.random_range(1e-9..1.0 - 1e-9);
        self.effective(ix, side) + self.today + (p / (1.0 - p)).ln()
    }

    /// The share of whole answers today.
    pub(super) fn share_today(&self, ix: StepIx, side: Side) -> f64 {
        1.0 / (1.0 + (-self.effective(ix, side) - self.today).exp())
    }

    pub(super) fn note_work(&mut self, ix: StepIx, side: Side) {
        if let Some(s) = self.sides.get_mut(&(ix, side)) {
            s.worked = true;
        }
    }

    /// The state of an ordinary day of everything that was ridden so far.
    pub(super) fn states(&self) -> impl Iterator<Item = ((StepIx, Side), f64)> + '_ {
        self.seen.iter().map(|&key| (key, self.effective(key.0, key.1)))
    }

    /// The side that it loses all at once on all of its rungs, and the session after which.
    pub(super) fn falls(&self) -> Option<(Side, usize)> {
        let loss = self.loss.filter(|l| l.step.is_none() && l.over == 1)?;
        Some((loss.side?, loss.from))
    }

    pub(super) fn end_day(&mut self, session: usize, rng: &mut ChaCha8Rng) {
        for (&(ix, side), s) in &mut self.sides {
            if std::mem::take(&mut s.worked) {
                s.state += self.pace * (s.ceiling - s.state) + normal(rng, self.chance_sd);
                if let Some(loss) = self.loss.filter(|l| session >= l.from + l.over && l.covers(ix, side)) {
                    s.lost *= 1.0 - loss.back;
                }
            }
            if let Some(loss) = self.loss.filter(|l| (l.from..l.from + l.over).contains(&session) && l.covers(ix, side))
            {
                s.lost += loss.amount / loss.over as f64;
            }
        }
    }
}

impl Loss {
    fn covers(&self, ix: StepIx, side: Side) -> bool {
        self.step.is_none_or(|s| s == ix) && self.side.is_none_or(|s| s == side)
    }
}

fn loss(kind: &Losing, course: &Course, sessions: usize, rng: &mut ChaCha8Rng) -> Option<Loss> {
    if !rng.random_bool(kind.horses) {
        return None;
    }
    let from = rng.random_range(sessions / 3..sessions * 4 / 5);
    let side = || if rng_bool(from) { Side::Left } else { Side::Right };
    let (step, side) = match rng.random_range(0..3) {
        0 => {
            let ix = rng.random_range(0..course.steps().len() / 2);
            let list = course.step(ix).sides.list();
            (Some(ix), Some(list[rng.random_range(0..list.len())]))
        }
        1 => (None, Some(side())),
        _ => (None, None),
    };
    let over = if rng.random_bool(kind.by_and_by) { rng.random_range(4..10) } else { 1 };
    let back = if rng.random_bool(kind.comes_back) { rng.random_range(0.08..0.25) } else { 0.0 };
    Some(Loss { from, step, side, amount: drawn(rng, kind.amount).max(0.4), over, back })
}

fn rng_bool(n: usize) -> bool {
    n.is_multiple_of(2)
}
