//! Reading iCalendar (RFC 5545): appointments that were written elsewhere, by the clock of the barn.

use chrono::{DateTime, Datelike, Days, NaiveDate, NaiveDateTime, TimeDelta, TimeZone, Utc};
use chrono_tz::Tz;
use icalendar::{Calendar, CalendarComponent, CalendarDateTime, Component, DatePerhapsTime, Event, parser::unfold};

use super::recurrence::Recurrence;

/// Something that stands in a calendar.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Entry {
    /// What tells it from the others of its calendar. One time of a series that was moved has its own.
    pub uid: String,
    /// In a few words; what it is filed under.
    pub summary: String,
    /// More of it; may be empty.
    pub description: String,
    /// When it begins and ends, by the barn's clock.
    pub from: NaiveDateTime,
    /// After `from`.
    pub to: NaiveDateTime,
    /// How it repeats, as the value of an RRULE that holds from `from` on.
    pub rule: Option<String>,
    /// Days of the series that are left out.
    pub skipped: Vec<NaiveDate>,
    /// What was not taken as it stands, in words.
    pub doubts: Vec<String>,
}

/// An entry that cannot be taken, and why.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RejectedEntry {
    /// What it is called.
    pub summary: String,
    /// What is wrong with it.
    pub problem: String,
}

/// Why a text is not read as a calendar at all.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum CalendarError {
    /// It does not begin as one.
    #[error("This is no calendar: one begins with BEGIN:VCALENDAR")]
    NoCalendar,
    /// Its components stand more than [`MOST_DEPTH`] deep in each other.
    #[error("This calendar cannot be read: its parts stand more than {MOST_DEPTH} deep in each other")]
    TooDeep,
    /// The parser stopped in it; what it says.
    #[error("This calendar cannot be read: {0}")]
    Unreadable(String),
    /// It has more entries than [`MOST_ENTRIES`]; how many.
    #[error("This calendar has {0} entries; at most {MOST_ENTRIES} are read at a time")]
    TooMany(usize),
}

/// The most entries that are read from one calendar.
pub const MOST_ENTRIES: usize = 2_000;
/// How deep components may stand inside of each other. RFC 5545 needs three (an alarm in an event in a calendar); the parser
/// recurses once for each, so a file with thousands would overflow the stack.
const MOST_DEPTH: usize = 8;

/// Years that a barn's calendar reaches over. Beyond them days are typed wrongly, and a series would be worked out over them all.
const YEARS: std::ops::RangeInclusive<i32> = 1990..=2199;

/// Reads a calendar, entry by entry, in the order in which they stand.
///
/// ```
/// use cavesson_formats::calendar::read::entries;
/// let text = "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nSUMMARY:Farrier\r\nDTSTART:20260302T090000\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
/// let read = entries(text, chrono_tz::America::Denver)?;
/// assert_eq!(read[0].as_ref().unwrap().from.to_string(), "2026-03-02 09:00:00");
/// # Ok::<(), cavesson_formats::calendar::read::CalendarError>(())
/// ```
///
/// # Errors
/// A text that is no calendar, or one with more than [`MOST_ENTRIES`].
pub fn entries(text: &str, zone: Tz) -> Result<Vec<Result<Entry, RejectedEntry>>, CalendarError> {
    if !text.trim_start().to_ascii_uppercase().starts_with("BEGIN:VCALENDAR") {
        return Err(CalendarError::NoCalendar);
    }
    let text = unfold(text);
    if depth(&text) > MOST_DEPTH {
        return Err(CalendarError::TooDeep);
    }
    let calendar: Calendar = text.parse().map_err(CalendarError::Unreadable)?;
    let events: Vec<&Event> =
        calendar.components.iter().filter_map(CalendarComponent::as_event).filter(|e| !is_cancelled(e)).collect();
    if events.len() > MOST_ENTRIES {
        return Err(CalendarError::TooMany(events.len()));
    }
    let mut read: Vec<Result<Entry, RejectedEntry>> = events.iter().map(|e| entry(e, zone)).collect();
    // One time of a series that was moved or called off has an entry of its own, and is left out of the series.
    for component in calendar.components.iter().filter_map(CalendarComponent::as_event) {
        let (Some(uid), Some(day)) = (component.get_uid(), recurrence_day(component, zone)) else { continue };
        for series in read.iter_mut().flatten().filter(|e| e.rule.is_some() && e.uid == uid) {
            series.skipped.push(day);
        }
    }
    Ok(read)
}

/// How deep components stand inside of each other at the deepest place of an unfolded text. What the parser might take for the
/// beginning of one counts as one.
fn depth(text: &str) -> usize {
    let (mut depth, mut deepest) = (0_usize, 0);
    for line in text.split(['\r', '\n']) {
        let name = line.trim_start().split([':', ';']).next().unwrap_or_default();
        if name.eq_ignore_ascii_case("BEGIN") {
            depth += 1;
            deepest = deepest.max(depth);
        } else if name.eq_ignore_ascii_case("END") {
            depth = depth.saturating_sub(1);
        }
    }
    deepest
}

fn is_cancelled(event: &Event) -> bool {
    event.property_value("STATUS").is_some_and(|s| s.eq_ignore_ascii_case("CANCELLED"))
}

fn recurrence_day(event: &Event, zone: Tz) -> Option<NaiveDate> {
    let property = event.properties().get("RECURRENCE-ID")?;
    DatePerhapsTime::from_property(property).map(|d| moment(&d, zone, &mut vec![]).date())
}

fn entry(event: &Event, zone: Tz) -> Result<Entry, RejectedEntry> {
    let summary = event.get_summary().unwrap_or_default().trim().to_owned();
    let refuse = |problem: String| RejectedEntry { summary: summary.clone(), problem };
    let start = event.get_start().ok_or_else(|| refuse("it does not say when it begins".to_owned()))?;
    let mut doubts = vec![];
    let from = moment(&start, zone, &mut doubts);
    let to = end(event, &start, from, zone, &mut doubts).map_err(|e| refuse(e.to_string()))?;
    if !YEARS.contains(&from.year()) || !YEARS.contains(&to.year()) {
        return Err(refuse(format!("it is not within the years {} to {}", YEARS.start(), YEARS.end())));
    }
    if to <= from {
        return Err(refuse("it ends before it begins".to_owned()));
    }
    let rule = event.property_value("RRULE").map(str::to_owned);
    if let Some(rule) = &rule {
        let repeats = Recurrence::new(rule, from, zone, &[]).map_err(|e| refuse(e.to_string()))?;
        if !repeats.comes() {
            return Err(refuse("its rule never comes to a day".to_owned()));
        }
    }
    let uid = event.get_uid().unwrap_or_default();
    let uid = match recurrence_day(event, zone) {
        Some(day) => format!("{uid}/{day}"),
        None if uid.is_empty() => format!("{summary}/{from}"),
        None => uid.to_owned(),
    };
    if event.multi_properties().contains_key("RDATE") || event.properties().contains_key("RDATE") {
        doubts.push("it names further days one by one: those are not taken".to_owned());
    }
    let description = event.get_description().unwrap_or_default().trim().to_owned();
    Ok(Entry { uid, summary, description, from, to, rule, skipped: skipped(event, zone), doubts })
}

/// Days that a series leaves out.
fn skipped(event: &Event, zone: Tz) -> Vec<NaiveDate> {
    let many = event.multi_properties().get("EXDATE").into_iter().flatten();
    let one = event.properties().get("EXDATE");
    let mut out = vec![];
    for property in many.chain(one) {
        // Several days may stand in one line.
        for value in property.value().split(',') {
            let mut single = icalendar::Property::new("EXDATE", value);
            for parameter in property.params().values() {
                single.append_parameter(parameter.clone());
            }
            out.extend(DatePerhapsTime::from_property(&single).map(|d| moment(&d, zone, &mut vec![]).date()));
        }
    }
    out
}

/// A DURATION that is none.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("\"{0}\" is no length of time")]
struct NotALength(String);

/// When it ends: as it says, else after its length, else after the day or the hour.
fn end(
    event: &Event,
    start: &DatePerhapsTime,
    from: NaiveDateTime,
    zone: Tz,
    doubts: &mut Vec<String>,
) -> Result<NaiveDateTime, NotALength> {
    if let Some(end) = event.get_end() {
        return Ok(moment(&end, zone, doubts));
    }
    if let Some(length) = event.property_value("DURATION") {
        return length_of(length).and_then(|l| from.checked_add_signed(l)).ok_or_else(|| NotALength(length.to_owned()));
    }
    Ok(match start {
        DatePerhapsTime::Date(_) => from + Days::new(1),
        DatePerhapsTime::DateTime(_) => from + TimeDelta::hours(1),
    })
}

/// `P1W`, `P1DT2H30M` (RFC 5545, 3.3.6).
fn length_of(text: &str) -> Option<TimeDelta> {
    let (mut minutes, mut number, mut in_time) = (0_i64, String::new(), false);
    for c in text.trim_start_matches('+').strip_prefix('P')?.chars() {
        if c == 'T' {
            in_time = true;
        } else if c.is_ascii_digit() && number.len() < 6 {
            number.push(c);
        } else {
            let n: i64 = number.parse().ok()?;
            number.clear();
            minutes += match (c, in_time) {
                ('W', false) => n * 7 * 24 * 60,
                ('D', false) => n * 24 * 60,
                ('H', true) => n * 60,
                ('M', true) => n,
                ('S', true) => n / 60,
                _ => return None,
            };
        }
    }
    number.is_empty().then(|| TimeDelta::minutes(minutes))
}

/// A time by the barn's clock. One without a zone is taken as it stands; one of a zone that nobody knows too, and that is told.
fn moment(at: &DatePerhapsTime, zone: Tz, doubts: &mut Vec<String>) -> NaiveDateTime {
    let here = |utc: DateTime<Utc>| utc.with_timezone(&zone).naive_local();
    match at {
        DatePerhapsTime::Date(day) => day.and_time(chrono::NaiveTime::MIN),
        DatePerhapsTime::DateTime(CalendarDateTime::Floating(local)) => *local,
        DatePerhapsTime::DateTime(CalendarDateTime::Utc(utc)) => here(*utc),
        DatePerhapsTime::DateTime(CalendarDateTime::WithTimezone { date_time, tzid }) => match tzid.parse::<Tz>() {
            Ok(theirs) => {
                let found = theirs.from_local_datetime(date_time).earliest();
                let later = || theirs.from_local_datetime(&(*date_time + TimeDelta::hours(1))).earliest();
                found.or_else(later).map_or(*date_time, |t| here(t.with_timezone(&Utc)))
            }
            Err(_) => {
                let doubt = format!("its time zone \"{tzid}\" is not known: taken by the barn's own clock");
                if !doubts.contains(&doubt) {
                    doubts.push(doubt);
                }
                *date_time
            }
        },
    }
}
