//! Tracks, timers and markers: read back as they were written, and refused with what is wrong.

use cavesson_core::pattern::{Barrel, FOOT, Hand, Pocket, Point, SetUp, TimerEvent, TrackPoint};
use cavesson_formats::{gpx, gpx::GpxError, pattern::markers_csv, timer};
use proptest::prelude::*;

fn near(a: Point, b: Point) -> bool {
    a.distance(b) < 0.05
}

proptest! {
    /// Between the 60th parallels, a track of a pen is read as it was written, to five centimetres.
    #[test]
    fn a_track_comes_back(lat in -60.0..60.0, lon in -180.0..180.0, points in prop::collection::vec((-150.0..150.0, -150.0..150.0), 2..60)) {
        let track: Vec<TrackPoint> =
            points.iter().enumerate().map(|(n, (x, y))| TrackPoint { at: Point::new(*x, *y), t: n as f64 * 0.1 }).collect();
        let read = gpx::read(&gpx::write("Here & <there>", &track, (lat, lon), 1_770_000_000.25)).unwrap();
        prop_assert_eq!(read.points.len(), track.len());
        prop_assert!((read.began - 1_770_000_000.25).abs() < 1e-3);
        let (north, east) = read.on_earth(track[0].at * -1.0);
        prop_assert!((north - lat).abs() < 1e-6 && ((east - lon + 540.0).rem_euclid(360.0) - 180.0).abs() < 1e-5);
        for (a, b) in read.points.iter().zip(&track) {
            prop_assert!(near(a.at, b.at - track[0].at), "{:?} {:?}", a, b);
            prop_assert!((a.t - b.t).abs() < 1e-6);
        }
    }

    /// Whatever a timer's file holds, it is read or refused at a line.
    #[test]
    fn no_text_brings_the_timer_down(text in "[a-z,0-9.\\-\"\n ]{0,200}") {
        if let Err(e) = timer::read(&text) {
            prop_assert!(e.line >= 1, "{}", e);
        }
    }
}

#[test]
fn a_timers_events_come_back() {
    let events = [
        TimerEvent::Start(1.0),
        TimerEvent::FalseStart(2.0),
        TimerEvent::Start(30.25),
        TimerEvent::Split(34.0),
        TimerEvent::Blocked(36.5),
        TimerEvent::NoSignal(38.0),
        TimerEvent::Finish(48.125),
    ];
    assert_eq!(timer::read(&timer::write(&events)).unwrap(), events);
    let wrong = timer::read("start,0\nsplit,soon").unwrap_err();
    assert_eq!((wrong.line, wrong.text.as_str()), (2, "\"soon\" is not a time in seconds"));
    assert_eq!(timer::read("start,-1").unwrap_err().line, 1);
}

#[test]
fn what_is_no_track_is_refused() {
    assert!(matches!(gpx::read("horse,date"), Err(GpxError::Unreadable(_))));
    let empty = "<gpx version=\"1.1\" creator=\"x\" xmlns=\"http://www.topografix.com/GPX/1/1\"></gpx>";
    assert_eq!(gpx::read(empty), Err(GpxError::NoTrack));
    let deep = "<a>".repeat(50_000);
    assert!(gpx::read(&deep).is_err(), "deep nesting is refused, and nothing overflows");
}

/// By hand: 45 ft is 13.716 m.
#[test]
fn markers_are_told_in_feet_and_metres() {
    let pocket = Pocket { entry: 1.0, back: 1.0, exit: 1.0 };
    let barrel = Barrel { at: Point::new(45.0 * FOOT, 60.0 * FOOT), turn: Hand::Right, pocket, early: 0.0 };
    let set_up = SetUp { start: Point::default(), finish: Point::default(), barrel_radius: 0.3, barrels: vec![barrel] };
    let csv = markers_csv(&set_up);
    assert_eq!(csv.lines().last(), Some("barrel 1,45.000,60.000,13.716,18.288,right"));
}
