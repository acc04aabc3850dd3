//! `cavesson roads`: the two-rein's dates and the test for a brace, on simulated horses whose truth is known.

use std::fmt::Write;

use cavesson_core::tack::{Brace, SharedRide, brace_test, readiness};
use cavesson_sim::{InTwoRein, asked_on_one_and_two, ridden_in_two_rein};
use chrono::{Days, NaiveDate};

/// Horses that each way is tried on.
const HORSES: u64 = 400;
/// Whoever goes by the calendar puts every horse straight up after a year.
const A_YEAR: u64 = 365;

/// The tables.
pub fn roads() -> String {
    let from = NaiveDate::default();
    let horses: Vec<InTwoRein> = (0..HORSES).map(|seed| ridden_in_two_rein(from, seed)).collect();
    let mut out = format!("{HORSES} simulated horses in the two-rein: when straight up in the bridle\n\n");
    let _ = writeln!(
        out,
        "{:<26}{:>10}{:>12}{:>12}{:>14}{:>14}",
        "after", "horses", "held", "range, days", "off, days", "a year's off"
    );
    for after in [30, 90, 180, 270] {
        dates(&mut out, &horses, from, after);
    }
    put_up(&mut out, &horses, from);
    braces(&mut out, from);
    out
}

/// How often the range of dates holds the true one, and how far its middle is off, beside a year for every horse.
fn dates(out: &mut String, horses: &[InTwoRein], from: NaiveDate, after: u64) {
    let on = from + Days::new(after);
    let days = |a: NaiveDate, b: NaiveDate| (b - a).num_days() as f64;
    let (mut held, mut wide, mut off, mut year, mut n) = (0, vec![], vec![], vec![], 0);
    for horse in horses.iter().filter(|h| h.ready > on) {
        let known: Vec<SharedRide> = horse.rides.iter().filter(|r| r.on() < on).cloned().collect();
        let Some(now) = readiness(&known) else { continue };
        let [early, middle, late] = [0.05, 0.5, 0.95].map(|sure| now.straight_up_by(sure));
        let last = on + Days::new(5 * A_YEAR);
        let (early, late) = (early.unwrap_or(last), late.unwrap_or(last));
        n += 1;
        held += usize::from(early <= horse.ready && horse.ready <= late);
        wide.push(days(early, late));
        off.push(days(middle.unwrap_or(last), horse.ready).abs());
        year.push(days(from + Days::new(A_YEAR), horse.ready).abs());
    }
    let median = |of: &mut Vec<f64>| {
        of.sort_by(f64::total_cmp);
        of.get(of.len() / 2).copied().unwrap_or(f64::NAN)
    };
    let _ = writeln!(
        out,
        "{:<26}{n:>10}{:>11.0}%{:>12.0}{:>14.0}{:>14.0}",
        format!("{after} days"),
        100.0 * f64::from(held as u32) / f64::from(n as u32),
        median(&mut wide),
        median(&mut off),
        median(&mut year)
    );
}

/// The ride on which a horse is put straight up; none where that is never.
type PutUp<'a> = &'a dyn Fn(&InTwoRein) -> Option<usize>;

/// What horses carry on the day on which they are put straight up: by the range, by the calendar, and as soon as they ask once.
fn put_up(out: &mut String, horses: &[InTwoRein], from: NaiveDate) {
    let _ = writeln!(out, "\n{:<34}{:>10}{:>18}{:>14}", "straight up", "carries", "under 80 % ready", "days late");
    let by_range = |h: &InTwoRein| {
        (1..h.rides.len()).find(|n| {
            let now = readiness(&h.rides[..*n]);
            now.and_then(|r| r.straight_up_by(0.8)).is_some_and(|by| by <= h.rides[*n - 1].on())
        })
    };
    let by_calendar = |h: &InTwoRein| h.rides.iter().position(|r| r.on() >= from + Days::new(A_YEAR));
    let asks_once = |h: &InTwoRein| h.rides.iter().position(|r| r.mean_share() >= 0.5 && r.asks().0 > 0);
    let ways: [(&str, PutUp<'_>); 3] = [
        ("when it is likely ready (4 in 5)", &by_range),
        ("a year by the calendar", &by_calendar),
        ("as soon as it asks once", &asks_once),
    ];
    for (name, way) in ways {
        let up: Vec<(f64, f64)> = (horses.iter())
            .map(|h| {
                // Never within what was ridden: on the last ride, when it long was ready.
                let n = way(h).unwrap_or(h.rides.len() - 1);
                (h.carried[n], (h.rides[n].on() - h.ready).num_days().max(0) as f64)
            })
            .collect();
        let mean = |of: &dyn Fn(&(f64, f64)) -> f64| up.iter().map(of).sum::<f64>() / up.len() as f64;
        let _ = writeln!(
            out,
            "{name:<34}{:>9.0}%{:>17.0}%{:>14.0}",
            100.0 * mean(&|u| u.0.min(1.0)),
            100.0 * mean(&|u| f64::from(u8::from(u.0 < 0.8))),
            mean(&|u| u.1)
        );
    }
}

/// How often a brace on two reins is found where there is one, and called where there is none.
fn braces(out: &mut String, from: NaiveDate) {
    let _ = writeln!(
        out,
        "\n{:<44}{:>12}{:>14}{:>12}{:>10}",
        "braces on one and on two, twelve rides", "brace", "no difference", "unknown", "pairs"
    );
    for (on_one, on_two) in [(0.2, 0.2), (0.5, 0.5), (0.8, 0.8), (0.2, 0.5), (0.2, 0.7), (0.4, 0.8)] {
        let tests: Vec<_> =
            (0..HORSES).map(|seed| brace_test(&asked_on_one_and_two(from, 12, on_one, on_two, seed))).collect();
        let share = |says| 100.0 * tests.iter().filter(|t| t.says == says).count() as f64 / tests.len() as f64;
        let pairs = tests.iter().map(|t| t.pairs).sum::<usize>() as f64 / tests.len() as f64;
        let _ = writeln!(
            out,
            "{:<44}{:>11.0}%{:>13.0}%{:>11.0}%{pairs:>10.0}",
            format!("{:.0} and {:.0} of a hundred", 100.0 * on_one, 100.0 * on_two),
            share(Brace::OnTwo),
            share(Brace::None),
            share(Brace::Unknown)
        );
    }
}
