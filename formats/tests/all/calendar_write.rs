//! Calendars as we write them, read back by a general-purpose library, and held against the text of RFC 5545.

use cavesson_formats::calendar::write::{Event, calendar, instant};
use chrono::{DateTime, Utc};
use icalendar::{Calendar, CalendarComponent, Component, DatePerhapsTime, EventLike};
use proptest::prelude::*;

fn at(text: &str) -> DateTime<Utc> {
    text.parse().unwrap()
}

fn event(summary: &str) -> Event {
    Event {
        uid: "7b1@cavesson".into(),
        sequence: 2,
        from: at("2026-03-08T14:30:00Z"),
        to: at("2026-03-08T15:15:00Z"),
        summary: summary.into(),
        location: "Arena".into(),
        description: String::new(),
    }
}

#[test]
fn an_event_is_read_back_as_it_was() {
    let text = calendar("Dell's rides", &[event("Juniper, stop; left first")], at("2026-03-01T00:00:00Z"));
    let read: Calendar = text.parse().unwrap();
    assert_eq!(read.get_name(), Some("Dell's rides"));
    let [CalendarComponent::Event(e)] = read.components.as_slice() else { panic!("{read:?}") };
    assert_eq!((e.get_summary(), e.get_location()), (Some("Juniper, stop; left first"), Some("Arena")));
    assert_eq!((e.get_uid(), e.get_sequence()), (Some("7b1@cavesson"), Some(2)));
    assert_eq!(e.get_start(), Some(DatePerhapsTime::from(at("2026-03-08T14:30:00Z"))));
    assert_eq!(e.get_end(), Some(DatePerhapsTime::from(at("2026-03-08T15:15:00Z"))));
}

#[test]
fn lines_are_folded_at_75_octets_and_end_in_crlf() {
    let long = "Jünïper – ".repeat(30);
    let text = calendar("x", &[event(&long)], at("2026-03-01T00:00:00Z"));
    assert!(text.ends_with("END:VCALENDAR\r\n"));
    for line in text.split("\r\n") {
        assert!(line.len() <= 75 && !line.contains(['\r', '\n']), "{line}");
    }
    assert!(text.contains("\r\n "));
}

proptest! {
    /// Whatever stands in a name, the calendar stays one event, and what can be read in it is read back.
    #[test]
    fn any_text_comes_back(summary in "[ -~äöü–\\n]{1,200}") {
        let text = calendar("x", &[event(&summary)], at("2026-03-01T00:00:00Z"));
        let unfolded = text.replace("\r\n ", "");
        prop_assert_eq!(unfolded.matches("BEGIN:VEVENT").count(), 1 + summary.matches("BEGIN:VEVENT").count());
        let line = unfolded.split("\r\n").find_map(|l| l.strip_prefix("SUMMARY:")).unwrap();
        let mut back = String::new();
        let mut chars = line.chars();
        while let Some(c) = chars.next() {
            match c {
                '\\' => back.push(match chars.next().unwrap() { 'n' => '\n', c => c }),
                c => back.push(c),
            }
        }
        prop_assert_eq!(back, summary);
    }
}

/// The rules of America/Denver for 2026: forward on March 8, back on November 1 (IANA time zone database).
#[test]
fn a_clock_that_is_put_forward_or_back_still_has_one_instant() {
    let denver = "America/Denver".parse().unwrap();
    let at = |text: &str| instant(denver, text.parse().unwrap()).format("%F %H:%M").to_string();
    assert_eq!(at("2026-03-07T08:00:00"), "2026-03-07 15:00");
    assert_eq!(at("2026-03-09T08:00:00"), "2026-03-09 14:00");
    assert_eq!(at("2026-03-08T02:30:00"), "2026-03-08 09:30");
    assert_eq!(at("2026-11-01T01:30:00"), "2026-11-01 07:30");
}
