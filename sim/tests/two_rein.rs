//! The model of the two-rein and the test for a brace, on stand-ins whose truth is known. `cavesson roads` prints the same at more length.

use cavesson_core::tack::{Brace, SharedRide, brace_test, readiness};
use cavesson_sim::{InTwoRein, asked_on_one_and_two, ridden_in_two_rein};
use chrono::{Days, NaiveDate};

fn horses() -> Vec<InTwoRein> {
    (1000..1200).map(|seed| ridden_in_two_rein(NaiveDate::default(), seed)).collect()
}

#[test]
fn a_horse_is_the_same_from_the_same_seed_and_gets_ready() {
    let (a, b) = (ridden_in_two_rein(NaiveDate::default(), 7), ridden_in_two_rein(NaiveDate::default(), 7));
    assert_eq!((&a.rides, a.ready), (&b.rides, b.ready));
    for horse in horses() {
        assert!(horse.carried.is_sorted() && horse.carried.last().is_some_and(|c| *c >= 0.95));
        let at = horse.rides.iter().position(|r| r.on() >= horse.ready).unwrap();
        assert!(horse.carried[at] >= 0.95 && (at == 0 || horse.carried[at - 1] < 0.95));
    }
}

/// Four to nineteen times of twenty the range from the 5th to the 95th hundredth holds the true date; from few rides it is wide and
/// its middle about a year off the start.
#[test]
fn the_range_of_dates_holds_the_true_one() {
    let horses = horses();
    for after in [30, 90, 180, 270] {
        let on = NaiveDate::default() + Days::new(after);
        let (mut held, mut n) = (0, 0);
        for horse in horses.iter().filter(|h| h.ready > on) {
            let known: Vec<SharedRide> = horse.rides.iter().filter(|r| r.on() < on).cloned().collect();
            let now = readiness(&known).unwrap();
            let [early, late] = [0.05, 0.95].map(|sure| now.straight_up_by(sure).unwrap_or(NaiveDate::MAX));
            held += usize::from(early <= horse.ready && horse.ready <= late);
            n += 1;
        }
        let share = held as f64 / f64::from(n);
        assert!((0.8..=0.95).contains(&share), "{after} days: {share} of {n}");
    }
    let few = readiness(&horses[0].rides[..3]).unwrap().straight_up_by(0.5).unwrap();
    let days = (few - horses[0].rides[0].on()).num_days();
    assert!((250..500).contains(&days), "{days}");
}

/// A brace that is not there is found at most one time in ten, whichever share braces; one that is there at least eight times of ten.
#[test]
fn a_brace_on_two_is_found_and_seldom_invented() {
    let found = |on_one, on_two| {
        let test = |seed| brace_test(&asked_on_one_and_two(NaiveDate::default(), 12, on_one, on_two, seed));
        (5000..5500).filter(|seed| test(*seed).says == Brace::OnTwo).count() as f64 / 500.0
    };
    for alike in [0.1, 0.3, 0.5, 0.8] {
        assert!(found(alike, alike) <= 0.1, "{alike}: {}", found(alike, alike));
    }
    for (on_one, on_two) in [(0.2, 0.5), (0.1, 0.6), (0.4, 0.8)] {
        assert!(found(on_one, on_two) >= 0.8, "{on_one} {on_two}: {}", found(on_one, on_two));
    }
}
