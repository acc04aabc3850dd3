//! Calendars as others write them, read by the barn's clock. The forms are those of RFC 5545; the text is invented.

use cavesson_formats::calendar::{
    read::{Entry, RejectedEntry, entries},
    write::{Event, calendar},
};
use chrono::{DateTime, Utc};
use chrono_tz::Tz;
use proptest::prelude::*;

fn denver() -> Tz {
    "America/Denver".parse().unwrap()
}

fn read(events: &str) -> Vec<Result<Entry, RejectedEntry>> {
    let text = format!("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//x//EN\r\n{events}END:VCALENDAR\r\n");
    entries(&text, denver()).unwrap()
}

fn event(lines: &[&str]) -> String {
    let all: Vec<&str> = ["BEGIN:VEVENT"].iter().chain(lines).chain(&["END:VEVENT"]).copied().collect();
    all.iter().map(|l| format!("{l}\r\n")).collect()
}

fn one(lines: &[&str]) -> Entry {
    read(&event(lines)).remove(0).unwrap()
}

fn span(e: &Entry) -> (String, String) {
    (e.from.format("%F %H:%M").to_string(), e.to.format("%F %H:%M").to_string())
}

fn as_told(from: &str, to: &str) -> (String, String) {
    (from.to_owned(), to.to_owned())
}

#[test]
fn times_are_taken_by_the_barns_clock() {
    // 16:00 UTC is 9:00 in Denver in winter and 10:00 in summer (IANA time zone database).
    let winter = one(&["UID:a", "SUMMARY:Farrier", "DTSTART:20260114T160000Z", "DTEND:20260114T180000Z"]);
    assert_eq!(span(&winter), as_told("2026-01-14 09:00", "2026-01-14 11:00"));
    let summer = one(&["UID:a", "SUMMARY:Farrier", "DTSTART:20260715T160000Z", "DURATION:PT1H30M"]);
    assert_eq!(span(&summer), as_told("2026-07-15 10:00", "2026-07-15 11:30"));
    let chicago = one(&[
        "UID:a",
        "SUMMARY:Vet",
        "DTSTART;TZID=America/Chicago:20260310T090000",
        "DTEND;TZID=America/Chicago:20260310T100000",
    ]);
    assert_eq!(span(&chicago), as_told("2026-03-10 08:00", "2026-03-10 09:00"));
    let floating = one(&["UID:a", "SUMMARY:Vet", "DTSTART:20260310T090000"]);
    assert_eq!(span(&floating), as_told("2026-03-10 09:00", "2026-03-10 10:00"));
    let show = one(&["UID:a", "SUMMARY:Show", "DTSTART;VALUE=DATE:20260612", "DTEND;VALUE=DATE:20260615"]);
    assert_eq!(span(&show), as_told("2026-06-12 00:00", "2026-06-15 00:00"));
    let unknown = one(&["UID:a", "SUMMARY:Vet", "DTSTART;TZID=Barn Time:20260310T090000"]);
    assert_eq!(span(&unknown).0, "2026-03-10 09:00");
    assert!(unknown.doubts[0].contains("Barn Time"), "{:?}", unknown.doubts);
}

#[test]
fn a_series_keeps_its_rule_and_what_was_moved_or_called_off_is_left_out_of_it() {
    let series = event(&[
        "UID:feet",
        "SUMMARY:Farrier\\, all of the string",
        "DESCRIPTION:Juniper\\nBiscuit",
        "DTSTART;TZID=America/Denver:20260107T090000",
        "DTEND;TZID=America/Denver:20260107T120000",
        "RRULE:FREQ=WEEKLY;INTERVAL=6",
        "EXDATE;TZID=America/Denver:20260401T090000,20260513T090000",
    ]);
    let moved = event(&[
        "UID:feet",
        "SUMMARY:Farrier",
        "RECURRENCE-ID;TZID=America/Denver:20260218T090000",
        "DTSTART;TZID=America/Denver:20260219T090000",
        "DTEND;TZID=America/Denver:20260219T120000",
    ]);
    let off = event(&[
        "UID:feet",
        "STATUS:CANCELLED",
        "RECURRENCE-ID;TZID=America/Denver:20260624T090000",
        "DTSTART;TZID=America/Denver:20260624T090000",
    ]);
    let all: Vec<Entry> = read(&(series + &moved + &off)).into_iter().map(Result::unwrap).collect();
    assert_eq!(all.len(), 2);
    assert_eq!(all[0].summary, "Farrier, all of the string");
    assert_eq!(all[0].description, "Juniper\nBiscuit");
    assert_eq!(all[0].rule.as_deref(), Some("FREQ=WEEKLY;INTERVAL=6"));
    let mut skipped: Vec<String> = all[0].skipped.iter().map(ToString::to_string).collect();
    skipped.sort();
    assert_eq!(skipped, ["2026-02-18", "2026-04-01", "2026-05-13", "2026-06-24"]);
    assert_ne!(all[0].uid, all[1].uid);
    assert_eq!(span(&all[1]).0, "2026-02-19 09:00");
}

#[test]
fn what_cannot_be_taken_is_told_entry_by_entry() {
    let all = read(
        &(event(&["UID:a", "SUMMARY:No start"])
            + &event(&["UID:b", "SUMMARY:Backwards", "DTSTART:20260110T100000Z", "DTEND:20260110T090000Z"])
            + &event(&["UID:c", "SUMMARY:Hourly", "DTSTART:20260110T100000Z", "RRULE:FREQ=HOURLY"])
            + &event(&["UID:d", "SUMMARY:Long", "DTSTART:20260110T100000Z", "DURATION:two hours"])
            + &event(&["UID:e", "SUMMARY:Fine", "DTSTART:20260110T100000Z"])),
    );
    let problems: Vec<String> = all.iter().filter_map(|e| e.as_ref().err()).map(|u| u.problem.clone()).collect();
    assert_eq!(problems.len(), 4);
    for (told, part) in problems.iter().zip(["when it begins", "ends before", "within a day", "no length"]) {
        assert!(told.contains(part), "{told}");
    }
    assert_eq!(all[4].as_ref().unwrap().summary, "Fine");
    for text in ["", "a letter", "BEGIN:VCALENDAR", "BEGIN:VCARD\r\nEND:VCARD\r\n"] {
        if let Ok(read) = entries(text, denver()) {
            assert!(read.is_empty(), "{text}");
        }
    }
}

#[test]
fn a_calendar_nested_thousands_deep_is_refused_and_does_not_overflow_the_stack() {
    for begin in ["BEGIN:X\r\n", "begin:X\n", "BEG\r\n IN:X\r\n"] {
        let text = format!("BEGIN:VCALENDAR\r\n{}END:VCALENDAR\r\n", begin.repeat(2_000));
        let refused = entries(&text, denver()).unwrap_err();
        assert!(refused.to_string().contains("8 deep"), "{refused}");
    }
    // An alarm in an event in a calendar is as deep as real ones go.
    let alarm = ["UID:a", "SUMMARY:Vet", "DTSTART:20260110T100000Z", "BEGIN:VALARM", "TRIGGER:-PT15M", "END:VALARM"];
    assert_eq!(one(&alarm).summary, "Vet");
}

#[test]
fn a_length_past_the_end_of_the_calendar_is_refused() {
    let endless = format!("DURATION:P{}", "999999W".repeat(40));
    let all = read(&event(&["UID:a", "SUMMARY:Long", "DTSTART:20260110T100000Z", &endless]));
    assert!(all[0].as_ref().unwrap_err().problem.contains("no length of time"), "{all:?}");
}

#[test]
fn what_lies_beyond_the_barns_calendar_or_never_comes_is_refused() {
    let refused = |lines: &[&str]| read(&event(lines)).remove(0).unwrap_err().problem;
    for start in ["DTSTART:00010101T090000Z", "DTSTART:19891231T090000", "DTSTART:22000102T090000"] {
        assert!(refused(&["UID:a", "SUMMARY:Old", start, "RRULE:FREQ=DAILY"]).contains("1990 to 2199"), "{start}");
    }
    for rule in ["RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", "RRULE:FREQ=DAILY;INTERVAL=0"] {
        assert!(
            refused(&["UID:a", "SUMMARY:Never", "DTSTART:20260110T100000Z", rule]).contains("never comes"),
            "{rule}"
        );
    }
}

proptest! {
    /// What is written here is read back as it was.
    #[test]
    fn what_was_written_is_read_back(summary in "[ -~äö]{1,80}", start in 0_i64..40_000, minutes in 1_i64..600) {
        let at = |m: i64| DateTime::<Utc>::from_timestamp(1_767_225_600 + 60 * m, 0).unwrap();
        let event = Event {
            uid: "one".into(),
            sequence: 0,
            from: at(start * 15),
            to: at(start * 15 + minutes),
            summary: summary.clone(),
            location: String::new(),
            description: String::new(),
        };
        let text = calendar("x", &[event], at(0));
        let back = entries(&text, Tz::UTC).unwrap().remove(0).unwrap();
        prop_assert_eq!(back.summary, summary.trim());
        prop_assert_eq!((back.from, back.to), (at(start * 15).naive_utc(), at(start * 15 + minutes).naive_utc()));
    }

    /// No text brings it down.
    #[test]
    fn any_text_is_read_or_told(lines in prop::collection::vec("[A-Z;=:0-9TZ,\\\\a-z-]{0,40}", 0..12)) {
        let _told = entries(&format!("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n{}\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n", lines.join("\r\n")), Tz::UTC);
    }
}
