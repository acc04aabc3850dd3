//! Alarms as they are told.

use cavesson_core::{
    advice::{Advisor, Alarm, AlarmAnswer, AlarmKind, Posture, TurnedOut},
    curriculum::Side,
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Nothing is told to be surer than this.
const SUREST: f64 = 0.99;

/// An alarm: what it was about, what was done about it, and how it turned out.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct AlarmOut {
    /// The step that was called back; none for possible pain.
    pub(crate) step: Option<String>,
    /// Its name.
    pub(crate) name: Option<String>,
    pub(crate) side: Side,
    pub(crate) since: NaiveDate,
    /// The day on which it was no longer raised.
    pub(crate) ended: Option<NaiveDate>,
    /// How likely the loss was at most, 0 to 1.
    pub(crate) likely: f64,
    pub(crate) answered: AlarmAnswer,
    pub(crate) turned_out: TurnedOut,
    /// Reps of the three days of work after it, and how many met the standard.
    pub(crate) reps: u32,
    pub(crate) met: u32,
    /// The postures that raise it.
    pub(crate) raised_by: Vec<Posture>,
}

/// How many days of alarms are told.
const DAYS: u64 = 90;

/// The first day whose alarms are told.
pub(crate) fn alarms_from(today: NaiveDate) -> NaiveDate {
    today - Days::new(DAYS)
}

/// The alarms of a horse of the last months, latest first.
pub(super) fn alarms_out(advisor: &Advisor<'_>, today: NaiveDate) -> Vec<AlarmOut> {
    let course = advisor.observer().course();
    let out = |a: &Alarm| {
        let step = match a.kind {
            AlarmKind::Slipping(step) => Some(course.step(step)),
            AlarmKind::Pain => None,
        };
        AlarmOut {
            step: step.map(|s| s.id.clone()),
            name: step.map(|s| s.name.clone()),
            side: a.side,
            since: a.since,
            ended: a.ended,
            likely: a.likely.min(SUREST),
            answered: advisor.answered(a),
            turned_out: advisor.turned_out(a),
            reps: a.after.reps,
            met: a.after.met,
            raised_by: Posture::ALL.into_iter().filter(|&p| a.raised_by(p)).collect(),
        }
    };
    let from = alarms_from(today);
    advisor.alarms().iter().rev().take_while(|a| a.since >= from).map(out).collect()
}
