//! What the horses of a barn say of each other, week by week.
//!
//! A horse is judged with what all of its barn had shown by the start of the week: so nothing that is worked out of one horse depends
//! on the order in which horses are worked out, nor on what was logged of another since Monday.

use std::{
    collections::{BTreeMap, BTreeSet},
    sync::Arc,
};

use chrono::{Datelike, NaiveDate, Weekday};

use super::{
    barn_prior::{BarnEvidence, BarnPrior, HorseEvidence},
    readings::ReadingTally,
    settings::ModelSettings,
};

/// The Monday of a day's week.
///
/// ```
/// use cavesson_core::belief::week_of;
/// let sunday: chrono::NaiveDate = "2026-03-08".parse()?;
/// assert_eq!(week_of(sunday).to_string(), "2026-03-02");
/// # Ok::<(), chrono::ParseError>(())
/// ```
pub fn week_of(day: NaiveDate) -> NaiveDate {
    day.week(Weekday::Mon).checked_first_day().unwrap_or(day.with_ordinal(1).unwrap_or(day))
}

/// What one horse has shown by the end of a week.
#[derive(Debug, Clone, PartialEq)]
pub struct HorseWeek {
    /// What its logs of this week say of weights and seconds.
    pub readings: ReadingTally,
    /// What all of its record says of how it goes.
    pub evidence: HorseEvidence,
}

/// What is known of a barn when one of its horses is ridden.
#[derive(Debug, Clone, PartialEq)]
pub struct BarnFacts {
    /// How horses go there, by all the others.
    pub prior: BarnPrior,
    /// What its logs say of weights and seconds.
    pub readings: Arc<ReadingTally>,
}

/// What the horses of a barn had shown at the start of each week in which any was ridden.
#[derive(Debug, Clone)]
pub struct BarnWeeks {
    blank: BarnEvidence,
    /// By the Monday from which on it holds.
    weeks: BTreeMap<NaiveDate, Arc<WeekStart>>,
}

/// What the horses of a barn had shown when a week began.
#[derive(Debug, Clone)]
struct WeekStart {
    evidence: BarnEvidence,
    readings: Arc<ReadingTally>,
}

impl BarnWeeks {
    /// A barn with this many horses, none of them seen.
    pub fn new(settings: &ModelSettings, horses: usize) -> BarnWeeks {
        BarnWeeks { blank: BarnEvidence::new(settings, horses), weeks: BTreeMap::new() }
    }

    /// Ends a week, with what each horse that was ridden in it had shown by then. Weeks come in order.
    ///
    /// ```
    /// use cavesson_core::belief::{BarnWeeks, HorseEvidence, HorseWeek, ModelSettings, ReadingTally};
    /// let mut barn = BarnWeeks::new(&ModelSettings::default(), 2);
    /// let monday = "2026-03-02".parse()?;
    /// let shown = HorseWeek { readings: ReadingTally::default(), evidence: HorseEvidence::none() };
    /// barn.end_week(monday, &[(0, shown)]);
    /// assert!(barn.starts_on("2026-03-11".parse()?).is_some(), "the week after knows of it");
    /// assert!(barn.starts_on("2026-03-08".parse()?).is_none(), "its own week does not");
    /// # Ok::<(), chrono::ParseError>(())
    /// ```
    pub fn end_week(&mut self, monday: NaiveDate, shown: &[(usize, HorseWeek)]) {
        let Some(next) = monday.checked_add_days(chrono::Days::new(7)) else { return };
        let last = self.weeks.last_key_value().map(|(_, start)| WeekStart::clone(start));
        let blank = || WeekStart { evidence: self.blank.clone(), readings: Arc::default() };
        let WeekStart { mut evidence, readings } = last.unwrap_or_else(blank);
        let mut all = ReadingTally::clone(&readings);
        for (horse, week) in shown {
            evidence.show(*horse, &week.evidence);
            all.add(&week.readings);
        }
        self.weeks.insert(next, Arc::new(WeekStart { evidence, readings: Arc::new(all) }));
    }

    /// The Monday since which what is known on a day was known; none where nothing was.
    pub fn starts_on(&self, day: NaiveDate) -> Option<NaiveDate> {
        self.weeks.range(..=day).next_back().map(|w| *w.0)
    }

    /// What is known on a day, for one horse.
    pub fn facts(&self, horse: usize, day: NaiveDate) -> BarnFacts {
        match self.weeks.range(..=day).next_back() {
            Some((_, start)) => start.facts(horse),
            None => BarnFacts { prior: self.blank.prior_without(horse), readings: Arc::default() },
        }
    }

    /// The first Monday from which on a horse is judged otherwise with `other`, where it has the place `there`: by other facts, or because
    /// only one of the two has a week that begins then. `None` where all is the same.
    ///
    /// ```
    /// use cavesson_core::belief::{BarnWeeks, HorseEvidence, HorseWeek, ModelSettings, ReadingTally};
    /// let before = BarnWeeks::new(&ModelSettings::default(), 1);
    /// let mut after = before.clone();
    /// let shown = HorseWeek { readings: ReadingTally::default(), evidence: HorseEvidence::none() };
    /// after.end_week("2026-03-02".parse()?, &[(0, shown)]);
    /// assert_eq!(after.differs_from(0, &before, 0), Some("2026-03-09".parse()?));
    /// assert_eq!(after.differs_from(0, &after, 0), None);
    /// # Ok::<(), chrono::ParseError>(())
    /// ```
    pub fn differs_from(&self, horse: usize, other: &BarnWeeks, there: usize) -> Option<NaiveDate> {
        let mondays: BTreeSet<NaiveDate> = self.weeks.keys().chain(other.weeks.keys()).copied().collect();
        mondays.into_iter().find(|monday| match (self.weeks.get(monday), other.weeks.get(monday)) {
            (Some(a), Some(b)) if Arc::ptr_eq(a, b) && horse == there => false,
            (Some(a), Some(b)) => a.facts(horse) != b.facts(there),
            _ => true,
        })
    }
}

impl WeekStart {
    fn facts(&self, horse: usize) -> BarnFacts {
        BarnFacts { prior: self.evidence.prior_without(horse), readings: Arc::clone(&self.readings) }
    }
}
