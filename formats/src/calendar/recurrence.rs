//! What repeats, by the rules of RFC 5545 (RRULE).

use chrono::{NaiveDate, NaiveDateTime, TimeDelta};
use chrono_tz::Tz;
use rrule::{Frequency, RRule, RRuleSet, Unvalidated};

/// Times of one rule that are worked out at most: more than two years of days.
const MOST: u16 = 800;
/// A rule that counts its times is walked from its first one for every look at it, so it counts no further than this.
const MOST_COUNTED: u32 = 1_000;

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
    rule: RRule<Unvalidated>,
    first: NaiveDateTime,
    skipped: Vec<NaiveDate>,
    zone: rrule::Tz,
}

impl Recurrence {
    /// From the text of a rule, the first time by the zone's clock, and days that are left out.
    ///
    /// # Errors
    /// A text that is no rule, one that repeats within a day or every no days, or one that counts too many times.
    pub fn new(rule: &str, first: NaiveDateTime, zone: Tz, skipped: &[NaiveDate]) -> Result<Recurrence, RuleError> {
        // The parser cuts days of the week after their second byte, which must not be inside a character.
        if !rule.is_ascii() {
            return Err(RuleError(format!(
                "\"{rule}\" is no rule of RFC 5545: it is written in plain letters and digits"
            )));
        }
        let rule: RRule<Unvalidated> =
            rule.trim().parse().map_err(|e| RuleError(format!("\"{rule}\" is no rule of RFC 5545: {e}")))?;
        if matches!(rule.get_freq(), Frequency::Hourly | Frequency::Minutely | Frequency::Secondly) {
            return Err(RuleError("this repeats within a day; say it in days, weeks, months or years".to_owned()));
        }
        if rule.get_interval() == 0 {
            return Err(RuleError("an INTERVAL of 0 never comes to another day".to_owned()));
        }
        if rule.get_count().is_some_and(|count| count > MOST_COUNTED) {
            return Err(RuleError(format!("at most {MOST_COUNTED} times are counted; say until when instead (UNTIL)")));
        }
        let zone = rrule::Tz::Tz(zone);
        let begins =
            on_clock(first, zone).ok_or_else(|| RuleError("the first time does not exist on this clock".to_owned()))?;
        let set = rule.clone().build(begins).map_err(|e| RuleError(format!("this rule never comes to a day: {e}")))?;
        Ok(Recurrence { set, rule, first, skipped: skipped.to_vec(), zone })
    }

    /// Whether it ever comes to a day: 30 February does not.
    ///
    /// ```
    /// use cavesson_formats::calendar::recurrence::Recurrence;
    /// let of = |rule| Recurrence::new(rule, "2026-01-07T09:00:00".parse().unwrap(), chrono_tz::UTC, &[]).unwrap();
    /// assert!(of("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29").comes());
    /// assert!(!of("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30").comes());
    /// ```
    pub fn comes(&self) -> bool {
        !self.set.clone().all(1).dates.is_empty()
    }

    /// The same rule begun shortly before a day, so that years of days are not walked through to reach it: a rule by days or weeks that
    /// does not count its times is the same from any of its intervals on.
    fn begun_shortly_before(&self, day: NaiveDate) -> Option<RRuleSet> {
        let unit = match self.rule.get_freq() {
            Frequency::Daily => 1,
            Frequency::Weekly => 7,
            _ => return None,
        };
        let interval = unit * i64::from(self.rule.get_interval());
        let whole = ((day - self.first.date()).num_days() / interval).checked_sub(1).filter(|n| *n > 0)?;
        if self.rule.get_count().is_some() {
            return None;
        }
        let later = self.first.checked_add_signed(TimeDelta::days(whole * interval))?;
        self.rule.clone().build(on_clock(later, self.zone)?).ok()
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
        let set = self.begun_shortly_before(from).unwrap_or_else(|| self.set.clone());
        let found = set.after(after).before(before).all(MOST);
        let mut times: Vec<NaiveDateTime> = found.dates.into_iter().map(|d| d.naive_local()).collect();
        times.retain(|t| !self.skipped.contains(&t.date()));
        times
    }
}

/// A clock's time in a zone; where the clock is put forward over it, an hour on.
fn on_clock(at: NaiveDateTime, zone: rrule::Tz) -> Option<chrono::DateTime<rrule::Tz>> {
    let there = |t: NaiveDateTime| t.and_local_timezone(zone).earliest();
    there(at).or_else(|| there(at + TimeDelta::hours(1)))
}
