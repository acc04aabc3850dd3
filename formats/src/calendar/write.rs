//! iCalendar (RFC 5545): what stands in a calendar, written so that any reader takes it.

use chrono::{DateTime, NaiveDateTime, TimeDelta, TimeZone, Utc};
use chrono_tz::Tz;

/// One thing in a calendar.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Event {
    /// The same for as long as it is the same thing, and no other thing's.
    pub uid: String,
    /// Counts its changes.
    pub sequence: u32,
    /// When it begins and ends. Told in UTC, so that no reader needs to know the zone's rules.
    pub from: DateTime<Utc>,
    /// After `from`.
    pub to: DateTime<Utc>,
    /// In a few words.
    pub summary: String,
    /// Where.
    pub location: String,
    /// More of it; may be empty.
    pub description: String,
}

/// The instant of a clock's time in a zone: the first of two where the clock is put back, an hour on where it is put forward
/// over it.
pub fn instant(zone: Tz, local: NaiveDateTime) -> DateTime<Utc> {
    let found = zone.from_local_datetime(&local).earliest();
    let later = || zone.from_local_datetime(&(local + TimeDelta::hours(1))).earliest();
    found.or_else(later).map_or_else(|| local.and_utc(), |t| t.with_timezone(&Utc))
}

/// Octets of a line before it is folded, its end not counted (RFC 5545, 3.1).
const LINE: usize = 75;

/// Writes a calendar with a name. `stamp` is when it was written.
///
/// ```
/// use cavesson_formats::calendar::{read::entries, write::{Event, calendar}};
/// use chrono::{DateTime, Utc};
/// let at = |hour: i64| DateTime::<Utc>::from_timestamp(1_767_225_600 + 3600 * hour, 0).unwrap();
/// let event = Event {
///     uid: "ride-1".into(), sequence: 0, from: at(9), to: at(10), summary: "Ride Juniper".into(), location: "Arena".into(),
///     description: String::new(),
/// };
/// let text = calendar("Low Meadow", &[event], at(0));
/// assert!(text.starts_with("BEGIN:VCALENDAR\r\n"));
/// assert_eq!(entries(&text, chrono_tz::UTC).unwrap()[0].as_ref().unwrap().summary, "Ride Juniper");
/// ```
pub fn calendar(name: &str, events: &[Event], stamp: DateTime<Utc>) -> String {
    let mut out = String::new();
    let mut put = |line: &str| fold(line, &mut out);
    put("BEGIN:VCALENDAR");
    put("VERSION:2.0");
    put("PRODID:-//Cavesson//Cavesson//EN");
    put("CALSCALE:GREGORIAN");
    put("METHOD:PUBLISH");
    // RFC 7986 has the first, and many readers know only the second.
    put(&format!("NAME:{}", escaped(name)));
    put(&format!("X-WR-CALNAME:{}", escaped(name)));
    for e in events {
        put("BEGIN:VEVENT");
        put(&format!("UID:{}", escaped(&e.uid)));
        put(&format!("DTSTAMP:{}", utc(stamp)));
        put(&format!("SEQUENCE:{}", e.sequence));
        put(&format!("DTSTART:{}", utc(e.from)));
        put(&format!("DTEND:{}", utc(e.to)));
        put(&format!("SUMMARY:{}", escaped(&e.summary)));
        for (key, value) in [("LOCATION", &e.location), ("DESCRIPTION", &e.description)] {
            if !value.is_empty() {
                put(&format!("{key}:{}", escaped(value)));
            }
        }
        put("END:VEVENT");
    }
    put("END:VCALENDAR");
    out
}

fn utc(at: DateTime<Utc>) -> String {
    at.format("%Y%m%dT%H%M%SZ").to_string()
}

/// TEXT (3.3.11): backslash, semicolon and comma are escaped, and a new line is `\n`. Other control characters have no place
/// in it.
fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.replace("\r\n", "\n").chars() {
        match c {
            '\\' | ';' | ',' => out.extend(['\\', c]),
            '\n' => out.push_str("\\n"),
            '\t' => out.push(c),
            c if c.is_control() => {}
            c => out.push(c),
        }
    }
    out
}

/// A line, folded between characters so that no piece has more than [`LINE`] octets, each ended by CRLF.
fn fold(line: &str, out: &mut String) {
    let mut room = LINE;
    for c in line.chars() {
        if c.len_utf8() > room {
            out.push_str("\r\n ");
            room = LINE - 1;
        }
        out.push(c);
        room -= c.len_utf8();
    }
    out.push_str("\r\n");
}
