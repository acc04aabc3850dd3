use std::{collections::BTreeMap, sync::Arc};

use chrono::NaiveDate;

use super::{
    barn::BarnFacts,
    barn_prior::{BarnPrior, HorseEvidence, Weights},
    count_model,
    day::{Day, OutOfOrder},
    hypotheses::{DayReading, FAINT, HypothesisBank},
    log_habits::{LogHabits, Written},
    loss::AMOUNTS,
    normal::Mixture,
    readings::{ReadingTally, Readings},
    rep_model::{Curve, Likelihood, RepModel, at, reaches},
    settings::ModelSettings,
    shares::{StepShares, curves},
    told::{Belief, Foreseen, Interval},
};
use crate::{
    count::Count,
    curriculum::{Course, Measure, Side, StepIx},
    response::{Rep, Tally},
};

/// Follows one horse through its days.
#[derive(Debug, Clone)]
pub struct Observer<'a> {
    course: &'a Course,
    settings: ModelSettings,
    reps_read: RepModel,
    readings: Arc<Readings>,
    log_habits: LogHabits,
    /// The share of reps that meets each standard of a step, for steps with reps.
    shares: BTreeMap<StepIx, StepShares>,
    bank: HypothesisBank,
    barn: BarnPrior,
    /// How likely each hypothesis is, given all that was seen here and in the barn.
    weights: Weights,
    seen: BTreeMap<(StepIx, Side), Vec<(NaiveDate, Tally)>>,
    /// Times up and down, on steps that count them.
    mounts: BTreeMap<(StepIx, Side), u32>,
    last: Option<NaiveDate>,
    /// Days off over the free ones, up to the last day seen.
    faded: f64,
    reps: u32,
    untimed: u32,
}

/// What was worked on one step and side on one day.
#[derive(Debug, Default)]
struct SideWork<'d> {
    reps: Vec<&'d Rep>,
    counts: Vec<&'d Count>,
}

impl<'a> Observer<'a> {
    /// Knows nothing of the horse yet, nor of the barn.
    pub fn new(course: &'a Course, settings: ModelSettings) -> Observer<'a> {
        let barn = BarnPrior::new(&settings);
        let steps = course.steps().len();
        Observer {
            course,
            settings,
            reps_read: RepModel::of(&settings.signs),
            readings: Arc::new(Readings::of(course, &settings.signs, &ReadingTally::default())),
            log_habits: LogHabits::default(),
            shares: BTreeMap::new(),
            bank: HypothesisBank::new(&settings, steps),
            weights: barn.weigh(&HorseEvidence::none()),
            barn,
            seen: BTreeMap::new(),
            mounts: BTreeMap::new(),
            last: None,
            faded: 0.0,
            reps: 0,
            untimed: 0,
        }
    }

    /// The same over another borrow of its course, or over none.
    pub(crate) fn with_course(self, course: &Course) -> Observer<'_> {
        Observer {
            course,
            settings: self.settings,
            reps_read: self.reps_read,
            readings: self.readings,
            log_habits: self.log_habits,
            shares: self.shares,
            bank: self.bank,
            barn: self.barn,
            weights: self.weights,
            seen: self.seen,
            mounts: self.mounts,
            last: self.last,
            faded: self.faded,
            reps: self.reps,
            untimed: self.untimed,
        }
    }

    /// Takes up standards that came to its course since it was put by: as if they had been there, and nobody had been held to them yet.
    pub(crate) fn take_up_new_standards(&mut self) {
        let known: Vec<(StepIx, Written)> = self.shares.iter().map(|(&ix, shares)| (ix, shares.written())).collect();
        known.into_iter().for_each(|(ix, written)| self.keep_shares(ix, written));
    }

    /// The course it was made for.
    pub fn course(&self) -> &'a Course {
        self.course
    }

    /// About how many bytes it takes up, without what it shares with others.
    pub(crate) fn bytes(&self) -> usize {
        size_of_val(self) + self.bank.bytes() + self.seen.values().map(|days| size_of_val(&days[..])).sum::<usize>()
    }

    /// What the barn's horses have shown by now: of how horses go there, and of what its logs say.
    pub fn set_barn(&mut self, facts: &BarnFacts) {
        self.barn = facts.prior.clone();
        self.weights = self.barn.weigh(&self.evidence());
        self.set_readings(&facts.readings);
    }

    /// What this horse has shown of each hypothesis: what it adds to the [`BarnPrior`].
    pub fn evidence(&self) -> HorseEvidence {
        self.bank.evidence()
    }

    /// Takes in one whole day.
    ///
    /// ```
    /// use cavesson_core::{
    ///     belief::{Day, ModelSettings, Observer, Work},
    ///     curriculum::{Course, Gait, Side, Sides, Step},
    ///     response::{Answer, Rep, Standard, Weight},
    /// };
    /// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
    /// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
    /// let mut observer = Observer::new(&course, ModelSettings::default());
    /// let day = |date: &str| Day::new(date.parse().unwrap(), vec![Work::reps(0, Side::Left, vec![rep])]);
    /// observer.watch(&day("2026-03-02"))?;
    /// assert!(observer.watch(&day("2026-03-01")).is_err(), "nothing is learned from the future");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// A day that is not after every day already seen: days are whole, and come in order.
    pub fn watch(&mut self, day: &Day) -> Result<(), OutOfOrder> {
        self.begin_day(day.date)?;
        self.observe_work(day);
        Ok(())
    }

    /// The morning of a day: nothing of it is seen yet.
    ///
    /// # Errors
    /// A day that is not after every day already seen.
    pub(crate) fn begin_day(&mut self, date: NaiveDate) -> Result<(), OutOfOrder> {
        if let Some(seen) = self.last.filter(|&l| date <= l) {
            return Err(OutOfOrder { day: date, seen });
        }
        self.faded = self.faded_by(date);
        self.last = Some(date);
        self.bank.next_day(&self.settings, self.faded);
        Ok(())
    }

    /// What a day showed on whose morning the horse was woken.
    pub(crate) fn observe_work(&mut self, day: &Day) {
        let mut work: BTreeMap<(StepIx, Side), SideWork<'_>> = BTreeMap::new();
        for w in day.work.iter().filter(|w| !w.reps.is_empty() || !w.counts.is_empty()) {
            let side = work.entry((w.step, w.side)).or_default();
            side.reps.extend(&w.reps);
            side.counts.extend(&w.counts);
        }
        let read: Vec<DayReading> =
            work.iter().map(|(&(ix, side), work)| self.read(day.date, ix, side, work)).collect();
        // What was written today tells of the log's habits from tomorrow on: all sides of a day are read alike.
        work.iter().for_each(|((ix, _), work)| self.log_habits.note(*ix, work.reps.iter().copied()));
        self.bank.update(&self.settings, self.course, &read, &self.weights, self.faded);
        self.weights = self.barn.weigh(&self.evidence());
    }

    fn tally(&mut self, date: NaiveDate, ix: StepIx, side: Side, tally: Tally) {
        let days = self.seen.entry((ix, side)).or_default();
        match days.last_mut().filter(|(last, _)| *last == date) {
            Some((_, sum)) => *sum += tally,
            None => days.push((date, tally)),
        }
    }

    fn read(&mut self, date: NaiveDate, ix: StepIx, side: Side, work: &SideWork<'_>) -> DayReading {
        let step = self.course.step(ix);
        let as_read = self.log_habits.read(ix, &work.reps);
        let mut ln = self.reps_read.ln_likelihood(&step.standard, self.readings.rung(ix), &as_read);
        count_model::add(&mut ln, step.measure, &work.counts);
        self.keep_shares(ix, self.log_habits.written());
        self.reps += work.reps.len() as u32;
        self.untimed += work.reps.iter().filter(|r| r.time.is_none()).count() as u32;
        let mut tally = Tally::of(step.standard_on(date), work.reps.iter().copied());
        for count in &work.counts {
            tally += count.tally(step.measure);
            if let Count::Mounts { mounts, .. } = count {
                *self.mounts.entry((ix, side)).or_default() += u32::from(*mounts);
            }
        }
        let days = self.days(ix, side);
        self.tally(date, ix, side, tally);
        DayReading { step: ix, side, shown: Likelihood::of(&ln), days }
    }

    /// The shares by which a step is judged, as what was `written` in this log is to be read.
    fn keep_shares(&mut self, ix: StepIx, written: Written) {
        let (step, reading) = (self.course.step(ix), self.readings.rung(ix));
        self.shares.entry(ix).or_default().update(step, &self.reps_read, reading, written);
    }

    fn set_readings(&mut self, tally: &ReadingTally) {
        let readings = Readings::of(self.course, &self.settings.signs, tally);
        if *self.readings != readings {
            self.readings = Arc::new(readings);
            let (known, written): (Vec<StepIx>, _) = (self.shares.keys().copied().collect(), self.log_habits.written());
            known.into_iter().for_each(|ix| self.keep_shares(ix, written));
        }
    }

    fn faded_by(&self, on: NaiveDate) -> f64 {
        let off = self.last.map_or(0, |last| (on - last).num_days() - i64::from(self.settings.learning.free_days));
        self.faded + off.max(0) as f64
    }

    /// Steps and sides with any rep, in the order of the course and left before right.
    pub fn seen(&self) -> impl Iterator<Item = (StepIx, Side)> + '_ {
        self.seen.keys().copied()
    }

    /// What the days watched so far say, as of `on`. `None` for a step and side without reps.
    ///
    /// ```
    /// use cavesson_core::{
    ///     belief::{Day, ModelSettings, Observer, Work},
    ///     curriculum::{Course, Gait, Side, Sides, Step},
    ///     response::{Answer, Rep, Standard, Weight},
    /// };
    /// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
    /// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
    /// let mut observer = Observer::new(&course, ModelSettings::default());
    /// for day in 1..=6 {
    ///     let date = chrono::NaiveDate::from_ymd_opt(2026, 3, day).ok_or("no such day")?;
    ///     observer.watch(&Day::new(date, vec![Work::reps(0, Side::Left, vec![rep; 8])]))?;
    /// }
    /// let on = "2026-03-07".parse()?;
    /// let left = observer.belief(0, Side::Left, on).ok_or("no reps")?;
    /// assert!(left.ready > 0.9 && left.days == 6);
    /// assert!(observer.belief(0, Side::Right, on).is_none(), "left and right are two horses");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn belief(&self, step: StepIx, side: Side, on: NaiveDate) -> Option<Belief> {
        let tallies = self.seen.get(&(step, side))?;
        let (ready, under, share) = self.figures(step, side, on)?;
        let mut recent = Tally::default();
        tallies.iter().rev().take(3).for_each(|&(_, t)| recent += t);
        Some(Belief { ready, under, share, days: tallies.len() as u32, last: tallies.last()?.0, recent })
    }

    fn figures(&self, ix: StepIx, side: Side, on: NaiveDate) -> Option<(f64, f64, Interval)> {
        let step = self.course.step(ix);
        let state = self.state(ix, side, on)?;
        let curve = self.curve(ix, on)?;
        let reach = |share: f64| (1.0 - state.below(reaches(&curve, share))).clamp(0.0, 1.0);
        let mean = state.expect(|x| at(&curve, x));
        let end = |q: f64| at(&curve, state.quantile(q));
        let share = step.standard_on(on).share.fraction();
        let interval = Interval { mean, low: end(0.05).min(mean), high: end(0.95).max(mean) };
        Some((reach(share) * self.enough_mounts(ix, side, 0.0), 1.0 - reach(share - 0.05), interval))
    }

    /// Times up and down so far, on a step that counts mounts.
    pub fn mounts(&self, step: StepIx, side: Side) -> Option<u32> {
        matches!(self.course.step(step).measure, Measure::Mounts { .. })
            .then(|| self.mounts.get(&(step, side)).copied())
            .flatten()
    }

    /// One where there were as many mounts as the step asks for, counting those of `days` more at the pace so far; else nothing.
    /// One on any other step.
    fn enough_mounts(&self, step: StepIx, side: Side, days: f64) -> f64 {
        let Measure::Mounts { count } = self.course.step(step).measure else { return 1.0 };
        let ridden = f64::from(self.days(step, side)).max(1.0);
        let so_far = f64::from(self.mounts(step, side).unwrap_or(0));
        f64::from(u8::from(so_far * (1.0 + days / ridden) >= f64::from(count)))
    }

    /// What a day on `on` should show on a step and side that was ridden before.
    pub fn foresee(&self, step: StepIx, side: Side, on: NaiveDate) -> Option<Foreseen> {
        let state = self.state(step, side, on)?;
        let curve = self.curve(step, on)?;
        let (mean, sd) = (state.mean(), state.sd().hypot(self.usual_day_sd()));
        let slope = (at(&curve, mean + 0.5) - at(&curve, mean - 0.5)).max(0.0);
        Some(Foreseen { share: at(&curve, mean), sd: slope * sd })
    }

    /// Probability that the step and side will be at the standard of `on` after 0, 1, 2, … more days of work. Before any rep,
    /// as the horse starts on such a step.
    pub fn ahead(&self, step: StepIx, side: Side, on: NaiveDate, days: usize) -> Vec<f64> {
        let share = self.course.step(step).standard_on(on).share.fraction();
        let s = self.course.step(step);
        let unknown = || {
            let met = self.log_habits.written().met(s.standard_on(on));
            curves(s, &self.reps_read, self.readings.rung(step), met)[0]
        };
        let curve = self.curve(step, on).unwrap_or_else(unknown);
        let reached = reaches(&curve, share);
        let mut out = vec![0.0; days + 1];
        let unseen = if self.seen.contains_key(&(step, side)) { 0.0 } else { self.settings.starts.unseen_sd };
        let lost = self.bank.lost(step, side);
        let lost: Vec<(f64, f64)> = AMOUNTS.into_iter().zip(lost).filter(|(_, q)| *q > FAINT).collect();
        // What is too faint to count for where the horse stands does not count for where it will.
        let likely = |(_, weight): &(usize, &f64)| **weight > FAINT;
        let mut total = 0.0;
        for (n, weight) in self.weights.hypotheses.iter().enumerate().filter(likely) {
            total += weight * lost.iter().map(|(_, q)| q).sum::<f64>();
            let path = self.bank.ahead(&self.settings, self.course, n, (step, side), days);
            for (p, (mean, variance)) in out.iter_mut().zip(path) {
                let sd = (variance.max(1e-6).sqrt() * self.settings.caution).hypot(unseen);
                let over = |lost: f64| 1.0 - super::normal::below((reached + lost - mean) / sd);
                *p += weight * lost.iter().map(|(amount, q)| q * over(*amount)).sum::<f64>();
            }
        }
        for (n, p) in out.iter_mut().enumerate() {
            *p *= self.enough_mounts(step, side, n as f64) / total;
        }
        out
    }

    /// [`Belief::ready`] alone, which is quicker than the whole belief.
    pub fn ready(&self, step: StepIx, side: Side, on: NaiveDate) -> Option<f64> {
        let share = self.course.step(step).standard_on(on).share.fraction();
        let reached = reaches(&self.curve(step, on)?, share);
        let ready = (1.0 - self.state(step, side, on)?.below(reached)).clamp(0.0, 1.0);
        Some(ready * self.enough_mounts(step, side, 0.0))
    }

    /// [`Belief::under`] alone, which is quicker than the whole belief.
    pub fn under(&self, step: StepIx, side: Side, on: NaiveDate) -> Option<f64> {
        let share = self.course.step(step).standard_on(on).share.fraction();
        let reached = reaches(&self.curve(step, on)?, share - 0.05);
        Some(self.state(step, side, on)?.below(reached).clamp(0.0, 1.0))
    }

    /// The share of reps that meet the standard of a day from each state, with seconds taken as often as they are here.
    fn curve(&self, step: StepIx, on: NaiveDate) -> Option<Curve> {
        let usual = self.settings.signs.time_missing;
        let missing = (f64::from(self.untimed) + 10.0 * usual) / (f64::from(self.reps) + 10.0);
        let [timed, untimed] = self.shares.get(&step)?.curves(self.course.step(step).standards_by(on))?;
        Some(std::array::from_fn(|i| timed[i] + missing * (untimed[i] - timed[i])))
    }

    /// The state on the log-odds scale, as of `on`.
    fn state(&self, step: StepIx, side: Side, on: NaiveDate) -> Option<Mixture> {
        let later = self.last.is_some_and(|last| on > last).then(|| self.faded_by(on));
        self.bank.state(&self.settings, step, side, &self.weights, later)
    }

    /// How likely it is that the horse has lost something on all of a side.
    pub fn side_lost(&self, side: Side) -> f64 {
        self.bank.side_lost(side)
    }

    /// How far this horse's days move it, as far as is known.
    fn usual_day_sd(&self) -> f64 {
        self.weights.spreads.iter().zip(self.settings.days.spreads).map(|(w, sd)| w * sd).sum()
    }

    /// Separate days with reps on a step and side.
    pub fn days(&self, step: StepIx, side: Side) -> u32 {
        self.tallies(step, side).len() as u32
    }

    /// The counts of each day on a step and side, oldest first.
    pub fn tallies(&self, step: StepIx, side: Side) -> &[(NaiveDate, Tally)] {
        self.seen.get(&(step, side)).map_or(&[], Vec::as_slice)
    }
}
