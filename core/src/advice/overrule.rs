use chrono::{Days, NaiveDate};

use super::{Call, SideCall, Status};
use crate::{curriculum::StepIx, response::Standard, words::words};

/// A trainer's call against the record's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Overrule {
    /// The day from which it holds.
    pub on: NaiveDate,
    /// The step.
    pub step: StepIx,
    /// What the trainer calls: advance, hold or back.
    pub to: Call,
}

words! {
    "a verdict";
    /// What the record said of an overrule later.
    pub enum Verdict {
        /// Too few days with reps since.
        Open,
        /// The trainer was right.
        Right,
        /// The record was right.
        Wrong,
    }
}

/// Days after which an overrule can be judged.
const JUDGED_AFTER: u64 = 21;
/// Days with reps on the step that it takes.
const JUDGED_BY: usize = 2;
/// Days for which an overrule holds, unless the record agrees before.
const HOLDS: u64 = 60;
/// As close to the standard as counts as at it.
const NEAR: f64 = 0.05;

impl Overrule {
    /// Whether it still holds on a day.
    pub(super) fn holds(&self, on: NaiveDate) -> bool {
        self.on <= on && self.on.checked_add_days(Days::new(HOLDS)).is_none_or(|end| on < end)
    }

    /// Whether it is time to judge it.
    pub(super) fn is_ripe(&self, on: NaiveDate, days_since: usize) -> bool {
        days_since >= JUDGED_BY && self.on.checked_add_days(Days::new(JUDGED_AFTER)).is_some_and(|from| on >= from)
    }

    /// Who was right. To advance was right where every side is at the standard or within 0.05 of it by then; to hold or go
    /// back was right where one is not.
    pub(super) fn judge(&self, sides: &[SideCall], standard: &Standard) -> Verdict {
        let wanted = standard.share.fraction() - NEAR;
        let Some(worst) = sides.iter().map(|s| s.belief.share.mean).reduce(f64::min) else { return Verdict::Open };
        if (self.to == Call::Advance) == (worst >= wanted) { Verdict::Right } else { Verdict::Wrong }
    }

    /// Where the step stands under it.
    pub(super) fn standing(&self, own: Status) -> Status {
        match (self.to, own) {
            (Call::Advance, _) => Status::Owned,
            (Call::Back, Status::Owned) => Status::Slipping,
            (_, own) => own,
        }
    }
}
