//! The way back after time off: by days, from the walk in hand to full work, the load rising in equal steps.

use chrono::{Days, NaiveDate};

use crate::{curriculum::Gait, words::words};

words! {
    "a reason for time off";
    /// Why a horse was off.
    pub enum OffReason {
        /// A lay-off: turned out, or nobody to ride it.
        Rest,
        Injury,
        Sickness,
    }
}

words! {
    "a stage of the way back";
    /// What a horse does on a day of its way back, each with all before it.
    pub enum ComebackStage {
        /// Not in work.
        Off,
        /// Led at the walk, nobody on it.
        InHand,
        Walk,
        /// Short jogs.
        Jog,
        /// Short lopes.
        Lope,
    }
}

impl ComebackStage {
    /// The fastest gait ridden in it; none where nobody is on it.
    ///
    /// ```
    /// use cavesson_core::{curriculum::Gait, load::ComebackStage};
    /// assert_eq!((ComebackStage::InHand.fastest(), ComebackStage::Jog.fastest()), (None, Some(Gait::Jog)));
    /// ```
    pub const fn fastest(self) -> Option<Gait> {
        match self {
            ComebackStage::Off | ComebackStage::InHand => None,
            ComebackStage::Walk => Some(Gait::Walk),
            ComebackStage::Jog => Some(Gait::Jog),
            ComebackStage::Lope => Some(Gait::Lope),
        }
    }

    /// In a sentence: `walked and jogged`.
    pub const fn says(self) -> &'static str {
        match self {
            ComebackStage::Off => "off",
            ComebackStage::InHand => "walk in hand",
            ComebackStage::Walk => "ridden at the walk",
            ComebackStage::Jog => "walk and short jogs",
            ComebackStage::Lope => "walk, jog and short lopes",
        }
    }
}

/// Time off, and the day on which work begins again.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct LayOff {
    /// The first day off.
    pub off_since: NaiveDate,
    /// The first day back.
    pub back_on: NaiveDate,
    /// Why.
    pub why: OffReason,
    /// Whether a vet has said that it may work; asked after an injury and sickness.
    pub vet_agrees: bool,
}

/// A day of the way back.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ComebackDay {
    /// Which, from 1; 0 while it is off.
    pub day: u32,
    /// Of how many.
    pub of: u32,
    /// What it does.
    pub stage: ComebackStage,
    /// The most of its usual load, in per cent.
    pub load_percent: u32,
    /// Why it was off, while the vet's word is still asked.
    pub vet_asked: Option<OffReason>,
}

/// The shortest and the longest way back, in days.
const SHORTEST: u32 = 6;
const LONGEST: u32 = 60;
/// The load of the first day, in per cent of the usual.
const FIRST_LOAD: u32 = 20;

impl LayOff {
    /// Whole days off.
    pub fn days_off(&self) -> u32 {
        u32::try_from((self.back_on - self.off_since).num_days()).unwrap_or(0)
    }

    /// Days of the way back: one for three days off, half as many again after sickness and twice as many after an injury, from 6 to 60
    /// (common practice made into figures; no published source). A vet's plan goes before it.
    ///
    /// ```
    /// use cavesson_core::load::{LayOff, OffReason};
    /// let day = |text: &str| text.parse().unwrap();
    /// let rest = LayOff { off_since: day("2026-01-01"), back_on: day("2026-03-02"), why: OffReason::Rest, vet_agrees: false };
    /// assert_eq!((rest.days_off(), rest.length()), (60, 20));
    /// assert_eq!(LayOff { why: OffReason::Injury, ..rest }.length(), 40);
    /// ```
    pub fn length(&self) -> u32 {
        let halves = match self.why {
            OffReason::Rest => 2,
            OffReason::Sickness => 3,
            OffReason::Injury => 4,
        };
        (self.days_off() * halves).div_ceil(6).clamp(SHORTEST, LONGEST)
    }

    /// The last day of the way back.
    pub fn until(&self) -> NaiveDate {
        self.back_on + Days::new(u64::from(self.length()) - 1)
    }

    /// What a day is; none before it went off and after the way back.
    ///
    /// The load rises in equal steps from a fifth of the usual on the first day to all of it on the last.
    pub fn on(&self, date: NaiveDate) -> Option<ComebackDay> {
        if date < self.off_since || date > self.until() {
            return None;
        }
        let of = self.length();
        let vet_asked = Some(self.why).filter(|why| *why != OffReason::Rest && !self.vet_agrees);
        let Ok(past) = u32::try_from((date - self.back_on).num_days()) else {
            return Some(ComebackDay { day: 0, of, stage: ComebackStage::Off, load_percent: 0, vet_asked });
        };
        let load_percent = FIRST_LOAD + (100 - FIRST_LOAD) * past / (of - 1);
        Some(ComebackDay { day: past + 1, of, stage: self.stage(past), load_percent, vet_asked })
    }

    /// The stage after so many days back. After an injury and sickness the first fifth is led; then the walk, the jog and the lope
    /// take what is left in equal parts.
    fn stage(&self, past: u32) -> ComebackStage {
        let led = if self.why == OffReason::Rest { 0 } else { self.length().div_ceil(5) };
        let Some(ridden) = past.checked_sub(led) else { return ComebackStage::InHand };
        let rest = self.length() - led;
        match ridden * 3 / rest {
            0 => ComebackStage::Walk,
            1 => ComebackStage::Jog,
            _ => ComebackStage::Lope,
        }
    }

    /// The stages in order, each with its first and last day.
    ///
    /// ```
    /// use cavesson_core::load::{LayOff, OffReason, ComebackStage};
    /// let day = |text: &str| text.parse().unwrap();
    /// let rest = LayOff { off_since: day("2026-03-01"), back_on: day("2026-03-19"), why: OffReason::Rest, vet_agrees: false };
    /// assert_eq!(rest.stages()[0], (ComebackStage::Walk, day("2026-03-19"), day("2026-03-20")));
    /// ```
    pub fn stages(&self) -> Vec<(ComebackStage, NaiveDate, NaiveDate)> {
        let mut out: Vec<(ComebackStage, NaiveDate, NaiveDate)> = vec![];
        for past in 0..self.length() {
            let (stage, date) = (self.stage(past), self.back_on + Days::new(u64::from(past)));
            match out.last_mut().filter(|last| last.0 == stage) {
                Some(last) => last.2 = date,
                None => out.push((stage, date, date)),
            }
        }
        out
    }
}

impl ComebackDay {
    /// "Day 3 of 12 back in work: walk and short jogs, at most 40% of its usual load".
    pub fn in_words(&self) -> String {
        match self.stage {
            ComebackStage::Off => "It is off: no work".to_owned(),
            stage => format!(
                "Day {} of {} back in work: {}, at most {}% of its usual load",
                self.day,
                self.of,
                stage.says(),
                self.load_percent
            ),
        }
    }
}
