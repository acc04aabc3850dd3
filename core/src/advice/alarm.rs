//! The alarms that were raised on a horse, and how they turned out: whoever cries wolf is not heard.

use std::collections::BTreeSet;

use chrono::NaiveDate;

use super::{Advisor, Call, Overrule, Posture};
use crate::{
    belief::Day,
    curriculum::{Side, StepIx},
    response::Tally,
    words::words,
};

/// Days of work after an alarm by which it is judged.
const JUDGED_AFTER: u8 = 3;

/// What an alarm was about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum AlarmKind {
    /// What was owned of a step is called back.
    Slipping(StepIx),
    /// Possible pain.
    Pain,
}

words! {
    "how an alarm turned out";
    /// How an alarm turned out.
    pub enum TurnedOut {
        /// There is too little work since.
        Open,
        /// The work after it was under the standard, as it said.
        BorneOut,
        /// The work after it met the standard.
        Passed,
    }
}

words! {
    "an answer to an alarm";
    /// What was done about an alarm.
    pub enum AlarmAnswer {
        /// The horse was not ridden since.
        NotYet,
        /// Nothing that rests on the step was ridden until it held again; for possible pain, someone looked.
        Heeded,
        /// A trainer set it aside.
        Overruled,
        /// What rests on the step was ridden all the same; for possible pain, the horse was.
        RodeOn,
    }
}

/// An alarm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Alarm {
    /// What it was about.
    pub kind: AlarmKind,
    /// On which side.
    pub side: Side,
    /// The day on which it was raised.
    pub since: NaiveDate,
    /// The day on which it was no longer raised.
    pub ended: Option<NaiveDate>,
    /// How likely the loss was at most, 0 to 1.
    pub likely: f64,
    /// The work of the days after it, at most three.
    pub after: Tally,
    days_after: u8,
}

impl Alarm {
    /// Whether a posture raises it.
    pub fn raised_by(&self, posture: Posture) -> bool {
        self.kind == AlarmKind::Pain || self.likely > posture.sure_of_loss()
    }
}

impl Advisor<'_> {
    /// The alarms raised so far, oldest first.
    pub fn alarms(&self) -> &[Alarm] {
        &self.alarms
    }

    /// How an alarm on a step turned out, by the reps of the three days of work after it: nothing else of the model is asked. One of
    /// possible pain is not judged by work.
    pub fn turned_out(&self, alarm: &Alarm) -> TurnedOut {
        let AlarmKind::Slipping(step) = alarm.kind else { return TurnedOut::Open };
        if alarm.days_after < JUDGED_AFTER {
            return TurnedOut::Open;
        }
        let wanted = self.step(step).standard_on(alarm.since).share.fraction();
        let was_under = f64::from(alarm.after.met) < wanted * f64::from(alarm.after.reps);
        if was_under { TurnedOut::BorneOut } else { TurnedOut::Passed }
    }

    /// What was done about an alarm while it stood.
    pub fn answered(&self, alarm: &Alarm) -> AlarmAnswer {
        // Days are in order: the first one since tells of all.
        let stood =
            |first_since: Option<NaiveDate>| first_since.is_some_and(|on| alarm.ended.is_none_or(|ended| on < ended));
        let first_ridden = self.days.get(self.days.partition_point(|d| d.0 <= alarm.since)).map(|d| d.0);
        let step = match alarm.kind {
            AlarmKind::Pain => {
                let looked = self.trainer_input.findings.iter().any(|found| *found >= alarm.since);
                return if looked {
                    AlarmAnswer::Heeded
                } else if stood(first_ridden) {
                    AlarmAnswer::RodeOn
                } else {
                    AlarmAnswer::NotYet
                };
            }
            AlarmKind::Slipping(step) => step,
        };
        let until = alarm.ended.unwrap_or(NaiveDate::MAX);
        let set_aside = |o: &&Overrule| o.step == step && o.to != Call::Back && (alarm.since..=until).contains(&o.on);
        if self.trainer_input.overrules.iter().any(|o| set_aside(&o)) {
            return AlarmAnswer::Overruled;
        }
        let course = self.observer().course();
        let faster = |s: StepIx| s > step && course.step(s).rung == course.step(step).rung;
        let rests_on = |s: StepIx| s != step && (faster(s) || course.down_from(s).contains(&step));
        let ridden = |s: StepIx| {
            let days = |&side: &Side| self.observer().tallies(s, side);
            let first =
                |days: &[(NaiveDate, Tally)]| days.get(days.partition_point(|t| t.0 <= alarm.since)).map(|t| t.0);
            course.step(s).sides.list().iter().any(|side| stood(first(days(side))))
        };
        match (0..course.steps().len()).any(|s| ridden(s) && rests_on(s)) {
            true => AlarmAnswer::RodeOn,
            false if first_ridden.is_some() => AlarmAnswer::Heeded,
            false => AlarmAnswer::NotYet,
        }
    }

    /// The evening of a day: which alarms are raised, and what its work says of earlier ones.
    pub(super) fn note_alarms(&mut self, day: &Day, pain_is_new: bool) {
        if let Some(pain) = self.pain.as_ref().filter(|_| pain_is_new) {
            let (side, likely) = (pain.side, pain.likely);
            self.alarms.push(raised(AlarmKind::Pain, side, day.date, likely));
        }
        if self.pain.is_none() {
            let open = |a: &&mut Alarm| a.kind == AlarmKind::Pain && a.ended.is_none();
            self.alarms.iter_mut().filter(open).for_each(|a| a.ended = Some(day.date));
        }
        let worked = day.work.iter().map(|w| (w.step, w.side)).filter(|key| self.was_advanced(*key));
        for (step, side) in worked.collect::<BTreeSet<(StepIx, Side)>>() {
            let tallies = self.observer().tallies(step, side);
            let today = tallies.last().filter(|t| t.0 == day.date).map(|t| t.1).unwrap_or_default();
            let likely = self.slips(step, side, day.date);
            let of_side = |a: &&mut Alarm| a.kind == AlarmKind::Slipping(step) && a.side == side;
            let mut open = false;
            for alarm in self.alarms.iter_mut().filter(of_side) {
                if alarm.days_after < JUDGED_AFTER {
                    alarm.after += today;
                    alarm.days_after += 1;
                }
                if alarm.ended.is_none() {
                    open = true;
                    match likely {
                        Some(likely) => alarm.likely = alarm.likely.max(likely),
                        None => alarm.ended = Some(day.date),
                    }
                }
            }
            // Under possible pain no call on a step is made: it is one alarm, not one for each step that the pain shows on.
            if let Some(likely) = likely.filter(|_| !open && self.pain.is_none()) {
                self.alarms.push(raised(AlarmKind::Slipping(step), side, day.date, likely));
            }
        }
    }

    /// How likely a loss is on a side that is called back today.
    fn slips(&self, step: StepIx, side: Side, on: NaiveDate) -> Option<f64> {
        let likely = self.observer().under(step, side, on)?;
        (likely > self.sure_of_loss(step, side, on) && !self.is_stiff(step)).then_some(likely)
    }
}

fn raised(kind: AlarmKind, side: Side, since: NaiveDate, likely: f64) -> Alarm {
    Alarm { kind, side, since, ended: None, likely, after: Tally::default(), days_after: 0 }
}
