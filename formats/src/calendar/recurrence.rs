//! What repeats, by the rules of RFC 5545 (RRULE).

use chrono::{NaiveDate, NaiveDateTime};
use chrono_tz::Tz;
use rrule::{Frequency, RRule, RRuleSet, Unvalidated};

/// Times of one rule that are worked out at most: more than two years of days.
const MOST: u16 = 800;

/// Why a rule cannot be used.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RuleError(pub String);

impl std::fmt::Display for RuleError {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.0)
    }
}

impl std::error::Error for RuleError {}

/// Something that repeats: `FREQ=WEEKLY;INTERVAL=6` from a first time on, by the clock of a zone.
#[derive(Debug, Clone)]
pub struct Recurrence {
    set: RRuleSet,
    skipped: Vec<NaiveDate>,
    zone: rrule::Tz,
}

impl Recurrence {
    /// From the text of a rule, the first time by the zone's clock, and days that are left out.
    ///
    /// # Errors
    /// A text that is no rule, or one that repeats within a day.
    pub fn new(rule: &str, first: NaiveDateTime, zone: Tz, skipped: &[NaiveDate]) -> Result<Recurrence, RuleError> {
        let rule: RRule<Unvalidated> =
            rule.trim().parse().map_err(|e| RuleError(format!("\"{rule}\" is no rule of RFC 5545: {e}")))?;
        if matches!(rule.get_freq(), Frequency::Hourly | Frequency::Minutely | Frequency::Secondly) {
            return Err(RuleError("this repeats within a day; say it in days, weeks, months or years".to_owned()));
        }
        let zone = rrule::Tz::Tz(zone);
        let first =
            on_clock(first, zone).ok_or_else(|| RuleError("the first time does not exist on this clock".to_owned()))?;
        let set = rule.build(first).map_err(|e| RuleError(format!("this rule never comes to a day: {e}")))?;
        Ok(Recurrence { set, skipped: skipped.to_vec(), zone })
    }

    /// The times from a day to another, both included, by the zone's clock.
    ///
    /// ```
    /// use cavesson_formats::calendar::recurrence::Recurrence;
    /// let first = "2026-01-07T09:00:00".parse()?;
    /// let farrier = Recurrence::new("FREQ=WEEKLY;INTERVAL=6", first, chrono_tz::America::Denver, &[])?;
    /// let times = farrier.between("2026-02-01".parse()?, "2026-04-30".parse()?);
    /// // Nine o'clock stays nine o'clock when the clocks change.
    /// assert_eq!(times.iter().map(ToString::to_string).collect::<Vec<_>>(), ["2026-02-18 09:00:00", "2026-04-01 09:00:00"]);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn between(&self, from: NaiveDate, to: NaiveDate) -> Vec<NaiveDateTime> {
        let edge = |day: NaiveDate, end: bool| {
            let time = if end { day.and_hms_opt(23, 59, 59) } else { day.and_hms_opt(0, 0, 0) };
            time.and_then(|t| on_clock(t, self.zone))
        };
        let (Some(after), Some(before)) = (edge(from, false), edge(to, true)) else { return vec![] };
        let found = self.set.clone().after(after).before(before).all(MOST);
        let mut times: Vec<NaiveDateTime> = found.dates.into_iter().map(|d| d.naive_local()).collect();
        times.retain(|t| !self.skipped.contains(&t.date()));
        times
    }
}

/// A clock's time in a zone; where the clock is put forward over it, an hour on.
fn on_clock(at: NaiveDateTime, zone: rrule::Tz) -> Option<chrono::DateTime<rrule::Tz>> {
    let there = |t: NaiveDateTime| t.and_local_timezone(zone).earliest();
    there(at).or_else(|| there(at + chrono::TimeDelta::hours(1)))
}
