//! Rules of repetition against the worked examples of RFC 5545 (3.8.5.3): all begin on the day named there at 9:00 in New York.

use cavesson_formats::calendar::recurrence::Recurrence;
use chrono::{Datelike, NaiveDate, NaiveDateTime, Weekday};
use chrono_tz::Tz;
use proptest::prelude::*;

fn day(text: &str) -> NaiveDate {
    text.parse().unwrap()
}

fn at_nine(text: &str) -> NaiveDateTime {
    day(text).and_hms_opt(9, 0, 0).unwrap()
}

fn new_york() -> Tz {
    "America/New_York".parse().unwrap()
}

/// Days of a rule from a first day to a last, as month and day.
fn days(rule: &str, first: &str, skipped: &[&str], to: &str) -> Vec<(u32, u32)> {
    let skipped: Vec<NaiveDate> = skipped.iter().map(|s| day(s)).collect();
    let repeat = Recurrence::new(rule, at_nine(first), new_york(), &skipped).unwrap();
    let times = repeat.between(day(first), day(to));
    // 9:00 by the clock on each of them, summer time or not.
    assert!(times.iter().all(|t| t.time() == at_nine(first).time()), "{times:?}");
    times.iter().map(|t| (t.month(), t.day())).collect()
}

#[test]
fn the_examples_of_the_standard() {
    let september = |days: &[u32]| days.iter().map(|d| (9, *d)).collect::<Vec<_>>();
    // Daily for 10 occurrences.
    assert_eq!(days("FREQ=DAILY;COUNT=10", "1997-09-02", &[], "1998-01-01"), september(&(2..=11).collect::<Vec<_>>()));
    // Every other week, Tuesday and Thursday, for 8 occurrences, weeks from Sunday.
    let every_other = "FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH";
    assert_eq!(
        days(every_other, "1997-09-02", &[], "1998-01-01"),
        [(9, 2), (9, 4), (9, 16), (9, 18), (9, 30), (10, 2), (10, 14), (10, 16)]
    );
    // Monthly on the first Friday for 10 occurrences; the clocks go back between.
    assert_eq!(
        days("FREQ=MONTHLY;COUNT=10;BYDAY=1FR", "1997-09-05", &[], "1998-12-31"),
        [(9, 5), (10, 3), (11, 7), (12, 5), (1, 2), (2, 6), (3, 6), (4, 3), (5, 1), (6, 5)]
    );
    // Monthly on the second to last Monday for 6 months.
    assert_eq!(
        days("FREQ=MONTHLY;COUNT=6;BYDAY=-2MO", "1997-09-22", &[], "1998-12-31"),
        [(9, 22), (10, 20), (11, 17), (12, 22), (1, 19), (2, 16)]
    );
    // Every Friday the 13th, without the first day.
    assert_eq!(
        days("FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13", "1997-09-02", &["1997-09-02"], "1998-12-31"),
        [(2, 13), (3, 13), (11, 13)]
    );
    // An end in UTC takes in the last time before it.
    let until = "FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH";
    assert_eq!(days(until, "1997-09-02", &[], "1998-01-01").len(), 10);
}

#[test]
fn what_is_no_rule_is_told() {
    let told = |rule: &str| Recurrence::new(rule, at_nine("2026-03-02"), new_york(), &[]).unwrap_err().to_string();
    for rule in ["", "every six weeks", "FREQ=SOMETIMES", "INTERVAL=2", "FREQ=WEEKLY;BYDAY=XX"] {
        assert!(told(rule).contains("no rule of RFC 5545"), "{rule}: {}", told(rule));
    }
    assert!(told("FREQ=HOURLY").contains("within a day"));
    assert!(told("FREQ=DAILY;COUNT=1001").contains("at most 1000 times"));
    assert!(Recurrence::new("FREQ=DAILY;INTERVAL=0", at_nine("2026-03-02"), new_york(), &[]).is_err());
}

/// A window years on is found without walking through the days between: a whole number of intervals from the first time.
#[test]
fn a_late_window_of_an_old_series_lies_whole_intervals_from_its_first_time() {
    let (first, from, to) = ("1990-01-02", day("2026-02-01"), day("2026-03-31"));
    let times = |rule: &str| Recurrence::new(rule, at_nine(first), new_york(), &[]).unwrap().between(from, to);
    for (rule, apart) in [("FREQ=DAILY", 1), ("FREQ=DAILY;INTERVAL=3", 3), ("FREQ=WEEKLY;INTERVAL=6", 42)] {
        let expected: Vec<NaiveDateTime> = from
            .iter_days()
            .take_while(|d| *d <= to)
            .filter(|d| (*d - day(first)).num_days() % apart == 0)
            .map(|d| d.and_hms_opt(9, 0, 0).unwrap())
            .collect();
        assert_eq!(times(rule), expected, "{rule}");
    }
    // Of weeks from Monday on, every other one, Tuesday and Saturday.
    let every_other = times("FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SA");
    let fits = |d: &NaiveDate| {
        let weeks = (*d - day("1990-01-01")).num_days() / 7;
        weeks % 2 == 0 && matches!(d.weekday(), Weekday::Tue | Weekday::Sat)
    };
    let expected: Vec<NaiveDate> = from.iter_days().take_while(|d| *d <= to).filter(fits).collect();
    assert_eq!(every_other.iter().map(NaiveDateTime::date).collect::<Vec<_>>(), expected);
}

proptest! {
    /// Every so many weeks is just that, whatever the zone does with its clock.
    #[test]
    fn weeks_apart(interval in 1_u32..12, first in 0_u64..2000, zone in prop::sample::select(vec![
        "America/New_York", "America/Denver", "Australia/Sydney", "Europe/Berlin", "UTC", "America/Phoenix"])) {
        let first = day("2024-01-01") + chrono::Days::new(first);
        let zone: Tz = zone.parse().unwrap();
        let repeat = Recurrence::new(&format!("FREQ=WEEKLY;INTERVAL={interval}"), first.and_hms_opt(9, 0, 0).unwrap(), zone, &[]).unwrap();
        let times = repeat.between(first, first + chrono::Days::new(364));
        prop_assert_eq!(times.len(), 1 + 52 / interval as usize);
        for pair in times.windows(2) {
            prop_assert_eq!((pair[1] - pair[0]).num_days(), i64::from(interval) * 7);
        }
    }

    /// No text brings it down.
    #[test]
    fn any_text_is_a_rule_or_is_told(rule in "[A-Z0-9=;,+-]{0,60}") {
        if let Ok(repeat) = Recurrence::new(&rule, at_nine("2026-03-02"), new_york(), &[]) {
            for time in repeat.between(day("2026-03-02"), day("2026-09-01")) {
                prop_assert!(time.date().weekday() != Weekday::Mon || time.date() >= day("2026-03-02"));
            }
        }
    }
}

#[test]
fn a_rule_in_other_letters_is_refused() {
    // Found by spoiled inputs: the parser of rules cut this inside a character.
    for rule in ["FREQ=WEEKLY;BYDAY=M\u{fcb82}", "FREQ=WEEKLY;BYDAY=Ü", "FREQ=DÄILY"] {
        assert!(Recurrence::new(rule, at_nine("2026-03-02"), new_york(), &[]).is_err(), "{rule}");
    }
}
