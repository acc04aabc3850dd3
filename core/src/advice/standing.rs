use std::{collections::BTreeMap, sync::OnceLock};

use chrono::NaiveDate;

use super::{
    Advisor, Call, Forecast, HorseCall, Overrule, SideCall, Status, StepCall,
    advisor::STIFF_DAYS,
    cause::owned_by_sides,
    reach::holds,
    reasons::{self, labelled},
    rest::leave_alone,
};
use crate::{
    belief::Off,
    curriculum::{Course, Hands, Place, Side, Step, StepIx},
};

/// Where a horse stands on a day, on every step of its course.
#[derive(Debug)]
pub struct Standing<'s, 'a> {
    advisor: &'s Advisor<'a>,
    on: NaiveDate,
    sides: Vec<Vec<SideCall>>,
    statuses: Vec<Status>,
    /// Whether what needs a step may begin.
    opens: Vec<bool>,
    horse: Option<HorseCall>,
    /// Worked out when they are asked for: one that waits for others asks for theirs too.
    forecasts: Vec<OnceLock<Option<Forecast>>>,
}

impl<'s, 'a> Standing<'s, 'a> {
    pub(super) fn of(advisor: &'s Advisor<'a>, on: NaiveDate) -> Standing<'s, 'a> {
        let course = advisor.observer().course();
        let sides: Vec<Vec<SideCall>> = (0..course.steps().len())
            .map(|ix| course.step(ix).sides.list().iter().filter_map(|&s| advisor.side(ix, s, on)).collect())
            .collect();
        let forecasts = sides.iter().map(|_| OnceLock::new()).collect();
        let mut standing = Standing { advisor, on, sides, statuses: vec![], opens: vec![], horse: None, forecasts };
        standing.statuses = (0..standing.sides.len()).map(|ix| standing.status_of(ix)).collect();
        let opens = |ix: usize| match standing.statuses[ix] {
            Status::Owned => true,
            Status::Learning => advisor.opens(ix),
            Status::Untried | Status::Slipping => false,
        };
        standing.opens = (0..standing.sides.len()).map(opens).collect();
        standing.horse = standing.horse_call_now();
        standing
    }

    /// The advisor that was asked.
    pub fn advisor(&self) -> &'s Advisor<'a> {
        self.advisor
    }

    /// The forecast for a step, worked out once.
    pub(super) fn forecast_once(&self, ix: StepIx, work_out: impl FnOnce() -> Option<Forecast>) -> Option<Forecast> {
        self.forecasts[ix].get_or_init(work_out).clone()
    }

    /// The day.
    pub fn on(&self) -> NaiveDate {
        self.on
    }

    /// The course.
    pub fn course(&self) -> &'a Course {
        self.advisor.observer().course()
    }

    /// Where a step stands as a whole: the worst of its sides.
    pub fn status(&self, ix: StepIx) -> Status {
        self.statuses[ix]
    }

    /// Where every step stands, in the order of the course.
    pub fn statuses(&self) -> &[Status] {
        &self.statuses
    }

    /// The sides of a step that have reps, left before right.
    pub fn sides(&self, ix: StepIx) -> &[SideCall] {
        &self.sides[ix]
    }

    /// How many of the last days ridden had this step in them, without one between that had not.
    pub fn days_running(&self, ix: StepIx) -> u32 {
        let sides = self.step(ix).sides.list();
        let rode = |on: NaiveDate| {
            sides.iter().any(|&s| self.advisor.observer().tallies(ix, s).binary_search_by_key(&on, |t| t.0).is_ok())
        };
        let days = self.advisor.days.iter().rev().map(|d| d.0).filter(|d| *d < self.on);
        days.take_while(|d| rode(*d)).count() as u32
    }

    /// Days on which a step was ridden in a place, on the side that was ridden there most.
    pub fn days_at(&self, ix: StepIx, place: Place) -> u32 {
        let sides = self.step(ix).sides.list();
        sides.iter().map(|&s| self.advisor.reach.place(ix, s, place).days).max().unwrap_or(0)
    }

    /// Whether an owned step was not asked for so long that a few reps are due.
    pub fn due(&self, ix: StepIx) -> bool {
        let last = self.sides[ix].iter().map(|s| s.belief.last).max();
        let idle = last.map_or(0, |last| (self.on - last).num_days());
        self.statuses[ix] == Status::Owned && idle >= i64::from(self.advisor.posture.keep_days())
    }

    /// A call on the whole horse, where there is one.
    pub fn horse_call(&self) -> Option<&HorseCall> {
        self.horse.as_ref()
    }

    /// The calls on every step with reps, in the order of the course.
    pub fn calls(&self) -> Vec<StepCall> {
        (0..self.sides.len()).filter(|&ix| !self.sides[ix].is_empty()).map(|ix| self.call(ix)).collect()
    }

    fn status_of(&self, ix: StepIx) -> Status {
        let sides = &self.sides[ix];
        let own = if sides.is_empty() {
            Status::Untried
        } else if sides.iter().any(|s| s.status == Status::Slipping) {
            if self.advisor.is_stiff(ix) { Status::Owned } else { Status::Slipping }
        } else if sides.len() == self.step(ix).sides.list().len() && sides.iter().all(|s| s.status == Status::Owned) {
            Status::Owned
        } else {
            Status::Learning
        };
        self.overrule(ix).map_or(own, |o| o.standing(own))
    }

    fn overrule(&self, ix: StepIx) -> Option<&Overrule> {
        self.advisor
            .trainer_input
            .overrules
            .iter()
            .rev()
            .find(|o| o.step == ix && o.on <= self.on)
            .filter(|o| o.holds(self.on))
    }

    fn horse_call_now(&self) -> Option<HorseCall> {
        if let Some(pain) = self.advisor.pain(self.on) {
            return Some(HorseCall::LookAt(pain.clone()));
        }
        let found = self.advisor.last_finding(self.on);
        let days = self.advisor.days.iter().rev();
        let sore = days.filter(|(d, off)| *d <= self.on && off.contains(&Off::Sore)).map(|d| d.0).next();
        if let Some(since) = sore.filter(|s| found.is_none_or(|f| *s > f)) {
            return Some(HorseCall::Sore { since });
        }
        leave_alone(self.advisor.posture, &self.advisor.days, self.on).map(HorseCall::LeaveAlone)
    }

    fn call(&self, ix: StepIx) -> StepCall {
        let step = self.step(ix);
        let sides = self.sides[ix].clone();
        let holes = self.waits_for(ix);
        let untried = step.sides.list().iter().copied().find(|&s| sides.iter().all(|c| c.side != s));
        let mut call = StepCall {
            step: ix,
            call: Call::Hold,
            status: self.statuses[ix],
            weaker: untried.or_else(|| weaker_of(&sides)),
            sides,
            holes,
            next: vec![],
            place: None,
            hands: None,
            back_to: None,
            due: false,
            why: vec![],
        };
        match call.status {
            Status::Slipping => self.call_back(&mut call),
            Status::Owned => self.call_owned(&mut call),
            Status::Learning | Status::Untried => self.call_learning(&mut call, untried),
        }
        let holes = call.holes.iter().map(|&need| reasons::hole(self.course(), need, self.weakest_share(need)));
        call.why.extend(holes);
        self.under_overrule(ix, &mut call);
        self.under_horse_call(&mut call);
        call
    }

    fn call_back(&self, call: &mut StepCall) {
        call.call = Call::Back;
        let below = call.step.checked_sub(1).filter(|&b| self.step(b).rung == self.step(call.step).rung);
        let back_to = call.holes.first().copied().or(below).unwrap_or(call.step);
        call.back_to = Some(back_to);
        let slipping = call.sides.iter().filter(|c| c.status == Status::Slipping);
        call.why.extend(slipping.flat_map(|c| labelled(c, &c.why)));
        if let Some((faster, days)) = self.advisor.faster_gait(call.step) {
            let gait = self.step(faster).gait.phrase();
            call.why.push(format!("It has not come back after {days} days {gait}"));
        }
        if back_to != call.step {
            let to = self.step(back_to);
            call.why.push(format!("Back to {} {}", to.rung, to.name.to_lowercase()));
        }
    }

    fn call_owned(&self, call: &mut StepCall) {
        let step = self.step(call.step);
        let last = call.sides.iter().map(|s| s.belief.last).max().unwrap_or(self.on);
        let idle = (self.on - last).num_days();
        call.due = self.due(call.step);
        if call.due {
            call.why.push(format!("Owned, and {idle} days without a rep: due for a few"));
        }
        if let Some((faster, days)) = self.advisor.faster_gait(call.step).filter(|f| f.1 <= STIFF_DAYS) {
            let gait = self.step(faster).gait.phrase();
            let name = if days == 1 { "1 day".to_owned() } else { format!("{days} days") };
            call.why.push(format!("{name} {gait}: stiffer for a day or two is normal, not slipping"));
        }
        if !call.holes.is_empty() {
            return;
        }
        call.call = Call::Advance;
        call.next = self.opened_by(call.step);
        call.place = self.next_place(call);
        call.hands = self.next_hands(call);
        let weakest = call.sides.iter().min_by(|a, b| a.belief.ready.total_cmp(&b.belief.ready));
        call.why.push(reasons::advance(self.course(), call));
        call.why.extend(weakest.iter().flat_map(|c| labelled(c, &c.why)));
        debug_assert!(step.taught || call.next.is_empty() || !call.why.is_empty());
    }

    fn call_learning(&self, call: &mut StepCall, untried: Option<Side>) {
        let step = self.step(call.step);
        if let Some(side) = untried {
            call.why.push(format!("No reps on the {side} yet: left and right are two horses"));
        }
        let weakest = call.sides.iter().min_by(|a, b| a.belief.ready.total_cmp(&b.belief.ready));
        if let Some(weak) = weakest {
            call.why.push(reasons::stay(step, weak, self.on));
            call.why.extend(labelled(weak, &weak.why).into_iter().skip(1));
            call.next = if self.opens[call.step] { self.opened_by(call.step) } else { vec![] };
            if !call.next.is_empty() {
                call.why.insert(0, reasons::opens(self.course(), call));
            }
            if let Some(mounts) = self.advisor.observer().mounts(call.step, weak.side) {
                call.why.insert(0, reasons::mounts(step, mounts));
            }
        }
    }

    fn under_overrule(&self, ix: StepIx, call: &mut StepCall) {
        let Some(o) = self.overrule(ix).filter(|o| o.to != call.call || o.to == Call::Advance) else { return };
        let own = call.sides.iter().map(|s| s.call.word()).next().unwrap_or("hold");
        if o.to != call.call || call.sides.iter().any(|s| s.call != Call::Advance) {
            call.why.insert(0, format!("Overruled on {}: {}, against {own}", o.on.format("%-d %B"), o.to.word()));
        }
        call.call = o.to;
        if o.to != Call::Advance {
            call.next.clear();
            (call.place, call.hands) = (None, None);
        }
    }

    /// A call on the whole horse comes before any on a rung.
    fn under_horse_call(&self, call: &mut StepCall) {
        let Some(horse) = &self.horse else { return };
        let spared = horse.call() == Call::LeaveAlone && call.status == Status::Owned;
        call.why.insert(0, horse.why(self.course()).swap_remove(0));
        call.call = if spared { Call::Hold } else { horse.call() };
        call.next.clear();
        (call.place, call.hands, call.back_to) = (None, None, None);
    }

    fn step(&self, ix: StepIx) -> &'a Step {
        self.course().step(ix)
    }

    fn weakest_share(&self, ix: StepIx) -> Option<(Side, f64)> {
        let shares = self.sides[ix].iter().map(|s| (s.side, s.belief.share.mean));
        shares.min_by(|a, b| a.1.total_cmp(&b.1))
    }

    /// Steps that need this one, are taught, whose needs are all owned, and that are not owned themselves.
    fn opened_by(&self, ix: StepIx) -> Vec<StepIx> {
        let steps = self.course().steps().iter().enumerate();
        steps
            .filter(|(at, s)| {
                s.taught && s.needs.contains(&ix) && self.statuses[*at] != Status::Owned && self.is_open(*at)
            })
            .map(|(at, _)| at)
            .collect()
    }

    /// Whether everything that a step needs is owned, or good enough to open what needs it.
    pub fn is_open(&self, ix: StepIx) -> bool {
        self.step(ix).needs.iter().all(|&n| self.opens[n])
    }

    /// How likely each step that the horse has reached is owned, on its weaker side.
    pub fn reached(&self) -> BTreeMap<StepIx, f64> {
        let is_reached = |ix: &StepIx| !self.sides[*ix].is_empty() || self.is_open(*ix);
        let likely = |ix: StepIx| owned_by_sides(self.sides[ix].iter().map(|s| s.belief.ready));
        (0..self.sides.len()).filter(is_reached).map(|ix| (ix, likely(ix))).collect()
    }

    /// Needs of a step that are neither owned nor good enough to open it, lowest first.
    pub fn waits_for(&self, ix: StepIx) -> Vec<StepIx> {
        self.step(ix).needs.iter().copied().filter(|&n| !self.opens[n]).collect()
    }

    /// The smallest place in which the step was not yet shown to be owned, where it is in the one before.
    fn next_place(&self, call: &StepCall) -> Option<Place> {
        let known = |p: Place| call.sides.iter().any(|s| self.advisor.reach.place(call.step, s.side, p).days > 0);
        let home = Place::ALL.into_iter().find(|&p| known(p))?;
        let mut out = (1..).zip(Place::ALL.into_iter().filter(|&p| p > home));
        out.find(|(n, p)| !self.holds_at(call, |s| (self.advisor.reach.place(call.step, s, *p), *n))).map(|f| f.1)
    }

    fn next_hands(&self, call: &StepCall) -> Option<Hands> {
        let known = |h: Hands| call.sides.iter().any(|s| self.advisor.reach.hands(call.step, s.side, h).days > 0);
        let first = Hands::ALL.into_iter().find(|&h| known(h))?;
        let mut on = (1..).zip(Hands::ALL.into_iter().filter(|&h| h > first));
        on.find(|(n, h)| !self.holds_at(call, |s| (self.advisor.reach.hands(call.step, s, *h), *n))).map(|f| f.1)
    }

    fn holds_at(&self, call: &StepCall, there: impl Fn(Side) -> (super::reach::ReachRecord, usize)) -> bool {
        let standard = self.step(call.step).standard_on(self.on);
        call.sides.iter().all(|s| {
            let (there, out) = there(s.side);
            there.days > 0 && holds(&s.belief, standard, out, there) >= 0.5
        })
    }
}

/// The side that lags, where both have reps and they stand apart by at least a tenth of the reps.
fn weaker_of(sides: &[SideCall]) -> Option<Side> {
    let [left, right] = sides else { return None };
    let gap = left.belief.share.mean - right.belief.share.mean;
    (gap.abs() >= 0.1).then_some(if gap < 0.0 { left.side } else { right.side })
}
