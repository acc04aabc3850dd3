use std::collections::{BTreeMap, BTreeSet};

use chrono::NaiveDate;

use super::{
    Call, Overrule, Posture, SideCall, Standing, Status, Verdict,
    alarm::Alarm,
    call::Best,
    opening::Openings,
    pain::{self, CareChange, Pain, Residual},
    reach::Reach,
    reasons::{self, SideFacts},
};
use crate::{
    belief::{BarnFacts, Belief, Day, ModelSettings, Observer, Off, OutOfOrder},
    curriculum::{Course, Side, Step, StepIx},
    response::{Standard, Tally},
};

/// Days with reps before a side has a usual share to fall from.
const USUAL_DAYS: u32 = 3;

/// Days at a faster gait for which stiffness below it is normal (common practice, no published source).
pub(super) const STIFF_DAYS: usize = 2;

/// How likely a loss must be at the end of the first day that was under the standard.
const FIRST_DAY: f64 = 0.8;

/// What a trainer has written down beside the reps: it steers the calls, and is taken as given.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct TrainerInput {
    /// Overrules in order of their days.
    pub overrules: Vec<Overrule>,
    /// Days on which someone looked at the horse and wrote down what was found.
    pub findings: Vec<NaiveDate>,
    /// Changes that may hurt the horse, with their days.
    pub changes: Vec<(NaiveDate, CareChange)>,
}

/// Follows one horse day by day and makes its calls.
#[derive(Debug, Clone)]
pub struct Advisor<'a> {
    pub(super) observer: Observer<'a>,
    pub(super) posture: Posture,
    pub(super) trainer_input: TrainerInput,
    /// Sides that a call has said to advance on: what was owned once, and can slip. With the days of work that it took.
    advanced: BTreeMap<(StepIx, Side), u32>,
    /// The best of each of those since.
    best: BTreeMap<(StepIx, Side), Best>,
    pub(super) reach: Reach,
    openings: Openings,
    residuals: Vec<Residual>,
    /// How likely a loss on the left and on the right was, at the end of the last days.
    side_losses: Vec<[f64; 2]>,
    pub(super) pain: Option<Pain>,
    pub(super) alarms: Vec<Alarm>,
    pub(super) days: Vec<(NaiveDate, Vec<Off>)>,
    verdicts: BTreeMap<usize, Verdict>,
}

impl<'a> Advisor<'a> {
    /// Knows nothing of the horse yet.
    pub fn new(course: &'a Course, posture: Posture, settings: ModelSettings) -> Advisor<'a> {
        Advisor::with(course, posture, settings, TrainerInput::default())
    }

    /// Knows nothing of the horse yet but what was written down.
    pub fn with(
        course: &'a Course,
        posture: Posture,
        settings: ModelSettings,
        trainer_input: TrainerInput,
    ) -> Advisor<'a> {
        Advisor {
            observer: Observer::new(course, settings),
            posture,
            trainer_input,
            advanced: BTreeMap::new(),
            best: BTreeMap::new(),
            reach: Reach::default(),
            openings: Openings::default(),
            residuals: vec![],
            side_losses: vec![],
            pain: None,
            alarms: vec![],
            days: vec![],
            verdicts: BTreeMap::new(),
        }
    }

    /// The same over another borrow of its course, or over none.
    pub(super) fn with_course(self, course: &Course) -> Advisor<'_> {
        Advisor {
            observer: self.observer.with_course(course),
            posture: self.posture,
            trainer_input: self.trainer_input,
            advanced: self.advanced,
            best: self.best,
            reach: self.reach,
            openings: self.openings,
            residuals: self.residuals,
            side_losses: self.side_losses,
            pain: self.pain,
            alarms: self.alarms,
            days: self.days,
            verdicts: self.verdicts,
        }
    }

    /// A week begins: what the barn's horses had shown before it.
    pub fn begin_week(&mut self, facts: &BarnFacts) {
        self.observer.set_barn(facts);
    }

    /// Takes in one whole day, and remembers what was owned at the end of it.
    ///
    /// # Errors
    /// A day out of order.
    pub fn watch(&mut self, day: &Day) -> Result<(), OutOfOrder> {
        self.observer.begin_day(day.date)?;
        // Overrules are judged by what was known on the morning of the day.
        self.judge(day.date);
        let against = self.against_foreseen(day);
        self.observer.observe_work(day);
        self.residuals.extend(against);
        self.reach.watch(self.observer.course(), day);
        self.openings.watch(self.observer.course(), day);
        self.days.push((day.date, day.off.clone()));
        let was_seen = self.pain.is_some();
        self.detect_pain(day.date);
        self.note_alarms(day, !was_seen);
        self.record_owned(day);
        Ok(())
    }

    /// How the day went against what was foreseen, side by side.
    fn against_foreseen(&self, day: &Day) -> Vec<Residual> {
        let mut tallies: BTreeMap<(StepIx, Side), Tally> = BTreeMap::new();
        for w in &day.work {
            let step = self.step(w.step);
            let tally = tallies.entry((w.step, w.side)).or_default();
            *tally += Tally::of(step.standard_on(day.date), &w.reps);
            w.counts.iter().for_each(|count| *tally += count.tally(step.measure));
        }
        tallies.retain(|_, tally| tally.reps > 0);
        let residual = |((step, side), t): ((StepIx, Side), Tally)| {
            if self.observer.days(step, side) < USUAL_DAYS {
                return None;
            }
            let foreseen = self.observer.foresee(step, side, day.date)?;
            let z = standard_score(t, foreseen.share, foreseen.sd);
            Some(Residual { date: day.date, step, side, z, met: t.met, reps: t.reps, foreseen: foreseen.share })
        };
        tallies.into_iter().filter_map(residual).collect()
    }

    /// Looks for the pattern of pain, once nobody has looked since it was last seen.
    fn detect_pain(&mut self, on: NaiveDate) {
        if let Some(found) = self.last_finding(on) {
            self.residuals.retain(|r| r.date > found);
            self.pain = self.pain.take().filter(|p| p.since > found);
        }
        let mut dates: Vec<NaiveDate> = self.days.iter().rev().take(pain::SUDDEN_DAYS).map(|d| d.0).collect();
        dates.sort_unstable();
        let from = dates.first().copied().unwrap_or(on);
        self.residuals.retain(|r| r.date >= from);
        self.side_losses.push([Side::Left, Side::Right].map(|s| self.observer.side_lost(s)));
        let first = self.side_losses.len().saturating_sub(pain::SUDDEN_DAYS + 1);
        self.side_losses.drain(..first);
        if self.pain.is_none() {
            self.pain = pain::detect(self.observer.course(), &self.residuals, &self.side_losses);
            if let Some(pain) = &mut self.pain {
                let ridden: Vec<NaiveDate> = self.days.iter().map(|d| d.0).collect();
                pain.note_before(&self.trainer_input.changes, &ridden);
            }
        }
    }

    /// The last day by `on` on which someone wrote down what was found.
    pub(super) fn last_finding(&self, on: NaiveDate) -> Option<NaiveDate> {
        self.trainer_input.findings.iter().copied().filter(|f| *f <= on).max()
    }

    /// Possible pain that nobody has looked into by `on`.
    pub fn pain(&self, on: NaiveDate) -> Option<&Pain> {
        self.pain.as_ref().filter(|p| self.last_finding(on).is_none_or(|found| p.since > found))
    }

    fn record_owned(&mut self, day: &Day) {
        let worked: BTreeSet<(StepIx, Side)> = day.work.iter().map(|w| (w.step, w.side)).collect();
        for &(step, side) in &worked {
            // Once advanced on, always advanced on: the belief is worked out only while that is open.
            let open = !self.advanced.contains_key(&(step, side));
            let days = self.observer.days(step, side);
            if open
                && days >= u32::from(self.step(step).standard_on(day.date).days)
                && self.observer.ready(step, side, day.date).is_some_and(|r| r >= self.posture.sure())
            {
                self.advanced.insert((step, side), days);
            }
            if self.advanced.contains_key(&(step, side))
                && let Some(foreseen) = self.observer.foresee(step, side, day.date)
            {
                let best = self.best.entry((step, side)).or_insert(Best { share: 0.0, on: day.date });
                if foreseen.share >= best.share {
                    *best = Best { share: foreseen.share, on: day.date };
                }
            }
        }
    }

    fn judge(&mut self, on: NaiveDate) {
        for n in 0..self.trainer_input.overrules.len() {
            if !self.verdicts.contains_key(&n) {
                let verdict = self.verdict_now(n, on);
                if verdict != Verdict::Open {
                    self.verdicts.insert(n, verdict);
                }
            }
        }
    }

    /// Who was right on an overrule, by its place in [`TrainerInput::overrules`], as far as the record goes on `on`.
    pub fn verdict(&self, overrule: usize, on: NaiveDate) -> Verdict {
        self.verdicts.get(&overrule).copied().unwrap_or_else(|| self.verdict_now(overrule, on))
    }

    fn verdict_now(&self, overrule: usize, on: NaiveDate) -> Verdict {
        let o = self.trainer_input.overrules[overrule];
        let list = self.step(o.step).sides.list();
        let since = |side: &Side| self.observer.tallies(o.step, *side).iter().filter(|(date, _)| *date > o.on).count();
        if !o.is_ripe(on, list.iter().map(since).min().unwrap_or(0)) {
            return Verdict::Open;
        }
        let sides: Vec<SideCall> = list.iter().filter_map(|&s| self.side(o.step, s, on)).collect();
        o.judge(&sides, self.step(o.step).standard_on(on))
    }

    /// How sure the trainer wants to be.
    pub fn posture(&self) -> Posture {
        self.posture
    }

    /// The last day ridden.
    pub fn last_day(&self) -> Option<NaiveDate> {
        self.days.last().map(|d| d.0)
    }

    /// Whether the horse was noted sour on a day from `since` to `on`.
    pub fn was_sour(&self, since: NaiveDate, on: NaiveDate) -> bool {
        self.days.iter().any(|(date, off)| (since..=on).contains(date) && off.contains(&Off::Sour))
    }

    /// The share of reps that met the standard on the last day a step was ridden, all its sides together.
    pub fn last_share(&self, ix: StepIx) -> Option<f64> {
        let sides = self.step(ix).sides.list();
        let last = sides.iter().filter_map(|&s| self.observer.tallies(ix, s).last()).max_by_key(|t| t.0)?.0;
        let mut all = Tally::default();
        sides
            .iter()
            .filter_map(|&s| self.observer.tallies(ix, s).last().filter(|t| t.0 == last))
            .for_each(|t| all += t.1);
        (all.reps > 0).then(|| f64::from(all.met) / f64::from(all.reps))
    }

    /// What stands behind the calls.
    pub fn observer(&self) -> &Observer<'a> {
        &self.observer
    }

    /// The call on one side as of `on`; `None` where there are no reps.
    ///
    /// ```
    /// use cavesson_core::{
    ///     advice::{Advisor, Call, Posture, Status},
    ///     belief::{Day, ModelSettings, Work},
    ///     curriculum::{Course, Gait, Side, Sides, Step},
    ///     response::{Answer, Rep, Standard, Weight},
    /// };
    /// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
    /// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
    /// let mut advisor = Advisor::new(&course, Posture::Steady, ModelSettings::default());
    /// for day in 1..=6 {
    ///     let date = chrono::NaiveDate::from_ymd_opt(2026, 3, day).ok_or("no such day")?;
    ///     advisor.watch(&Day::new(date, vec![Work::reps(0, Side::Left, vec![rep; 8])]))?;
    /// }
    /// let left = advisor.side(0, Side::Left, "2026-03-07".parse()?).ok_or("no reps")?;
    /// assert_eq!((left.call, left.status), (Call::Advance, Status::Owned));
    /// assert!(left.why[0].contains("24 of 24"), "{:?}", left.why);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn side(&self, ix: StepIx, side: Side, on: NaiveDate) -> Option<SideCall> {
        let belief = self.observer.belief(ix, side, on)?;
        let standard = self.step(ix).standard_on(on);
        let was_owned = self.advanced.contains_key(&(ix, side));
        let (call, status) = if self.is_ready(ix, &belief, on) {
            (Call::Advance, Status::Owned)
        } else if was_owned && belief.under > self.sure_of_loss(ix, side, on) {
            (Call::Back, Status::Slipping)
        } else if was_owned {
            (Call::Hold, Status::Owned)
        } else {
            (Call::Hold, Status::Learning)
        };
        let best = self.best.get(&(ix, side)).copied();
        let answer = &self.step(ix).answer;
        let measure = self.step(ix).measure;
        let posture = self.posture;
        let facts = SideFacts { side, belief: &belief, standard, measure, answer, call, status, best, posture };
        let why = reasons::for_side(&facts);
        Some(SideCall { side, belief, call, status, why })
    }

    /// Days of work until every side of a step was owned for the first time; `None` where one was not yet.
    pub fn days_to_own(&self, step: StepIx) -> Option<u32> {
        let days = self.step(step).sides.list().iter().map(|&s| self.advanced.get(&(step, s)).copied());
        days.collect::<Option<Vec<u32>>>()?.into_iter().max()
    }

    /// Where the horse stands as of `on`: every call, worked out once.
    pub fn standing(&self, on: NaiveDate) -> Standing<'_, 'a> {
        Standing::of(self, on)
    }

    pub(super) fn step(&self, ix: StepIx) -> &'a Step {
        self.observer.course().step(ix)
    }

    /// Whether a side was advanced on before.
    pub(super) fn was_advanced(&self, side: (StepIx, Side)) -> bool {
        self.advanced.contains_key(&side)
    }

    /// The next gait of the same rung, and on how many days it was ridden.
    pub(super) fn faster_gait(&self, ix: StepIx) -> Option<(StepIx, usize)> {
        let steps = self.observer.course().steps();
        let next = Some(ix + 1).filter(|&next| steps.get(next).is_some_and(|s| s.rung == steps[ix].rung))?;
        let list = steps[next].sides.list();
        let days = list.iter().map(|&s| self.observer.tallies(next, s).len()).max()?;
        (days > 0).then_some((next, days))
    }

    /// Whether a step may be stiff because its faster gait is new: that is not slipping.
    pub(super) fn is_stiff(&self, ix: StepIx) -> bool {
        self.faster_gait(ix).is_some_and(|(_, days)| days <= STIFF_DAYS)
    }

    /// How likely a loss must be before what was owned is called back: one bad day is one bad day, unless all else speaks against it.
    pub(super) fn sure_of_loss(&self, ix: StepIx, side: Side, on: NaiveDate) -> f64 {
        let sure = self.posture.sure_of_loss();
        if self.is_first_bad_day(ix, side, on) { sure.max(FIRST_DAY) } else { sure }
    }

    /// Whether the last day of a side was the first on which fewer reps met the standard than it asks for.
    fn is_first_bad_day(&self, ix: StepIx, side: Side, on: NaiveDate) -> bool {
        let wanted = self.step(ix).standard_on(on).share.fraction();
        let is_under = |(_, t): &(NaiveDate, Tally)| f64::from(t.met) < wanted * f64::from(t.reps);
        match self.observer.tallies(ix, side) {
            [.., before, last] => is_under(last) && !is_under(before),
            _ => false,
        }
    }

    /// Whether every side of a step is good enough for what needs it to begin, where that takes less than owning it.
    pub(super) fn opens(&self, ix: StepIx) -> bool {
        let step = self.step(ix);
        let sure = |opening: Standard, side| self.openings.likely(ix, side, &opening) >= self.posture.sure();
        step.opening.is_some_and(|opening| step.sides.list().iter().all(|&side| sure(opening, side)))
    }

    fn is_ready(&self, ix: StepIx, belief: &Belief, on: NaiveDate) -> bool {
        belief.days >= u32::from(self.step(ix).standard_on(on).days) && belief.ready >= self.posture.sure()
    }
}

/// A day's share over a usual one, in standard deviations: the day's own spread and the chance of so few reps.
fn standard_score(day: Tally, usual: f64, day_sd: f64) -> f64 {
    let n = f64::from(day.reps);
    let usual = usual.clamp(0.01, 0.99);
    let sd = (usual * (1.0 - usual) / n + day_sd * day_sd).sqrt();
    (f64::from(day.met) / n - usual) / sd
}
