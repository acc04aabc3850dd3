//! The same answers in two pieces, on horses of which the difference is known.

use cavesson_core::tack::{DayEffort, Piece, TooFewDays, compare_pieces};
use chrono::{Days, NaiveDate};
use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Normal};

fn day(n: u64) -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 1, 5).unwrap() + Days::new(n)
}

/// How a horse is made: what the second piece changes, what a day of training changes, and how days differ.
#[derive(Clone, Copy)]
struct Known {
    by: f64,
    a_day: f64,
    days_differ: f64,
}

/// Two kinds of asks on each day, each piece on the days that it is worn.
fn ridden(known: Known, worn: &[(u64, Piece)], seed: u64) -> Vec<DayEffort> {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let (of_day, of_ask) = (Normal::new(0.0, known.days_differ).unwrap(), Normal::new(0.0, 0.15).unwrap());
    let mut rows = vec![];
    for (n, piece) in worn {
        let mood = of_day.sample(&mut rng);
        for (kind, level) in [("S2@walk left", 1.0), ("T2@walk both", 2.0)] {
            let piece_makes = if *piece == Piece::Second { known.by } else { 0.0 };
            let y = level + piece_makes + known.a_day * *n as f64 + mood + of_ask.sample(&mut rng);
            rows.push(DayEffort {
                day: day(*n),
                ask: kind.to_owned(),
                piece: *piece,
                asks: 6,
                weight: y,
                seconds: Some(y),
                whole: 0.5,
            });
        }
    }
    rows
}

fn by_turns(days: u64) -> Vec<(u64, Piece)> {
    (0..days).map(|n| (n * 2, if n % 2 == 0 { Piece::First } else { Piece::Second })).collect()
}

fn one_after_the_other(days: u64) -> Vec<(u64, Piece)> {
    (0..days).map(|n| (n * 2, if n < days / 2 { Piece::First } else { Piece::Second })).collect()
}

/// Of 400 horses each, about nine of ten intervals hold what the piece does, and training alone is not called the piece's.
#[test]
fn intervals_hold_what_the_piece_does() {
    let learns = Known { by: -0.5, a_day: -0.02, days_differ: 0.25 };
    for (what, worn) in [("by turns", by_turns(20)), ("one after the other", one_after_the_other(30))] {
        for by in [learns.by, 0.0] {
            let held = (0..400).filter(|seed| {
                let d = compare_pieces(&ridden(Known { by, ..learns }, &worn, *seed)).unwrap().weight;
                d.low <= by && by <= d.high
            });
            let share = held.count() as f64 / 400.0;
            assert!((0.85..=0.97).contains(&share), "{what}, {by}: {share}");
        }
    }
}

/// Without noise the difference and the learning come out as they are.
#[test]
fn a_difference_without_noise_is_found() {
    let exact = |n: u64, piece: Piece, kind: &str, y: f64| DayEffort {
        day: day(n),
        ask: kind.to_owned(),
        piece,
        asks: 4,
        weight: y,
        seconds: None,
        whole: 0.5,
    };
    let rows: Vec<DayEffort> = by_turns(8)
        .into_iter()
        .map(|(n, piece)| exact(n, piece, "S2", 3.0 - 0.01 * n as f64 - if piece == Piece::Second { 0.4 } else { 0.0 }))
        .collect();
    let found = compare_pieces(&rows).unwrap();
    assert!((found.weight.by + 0.4).abs() < 1e-9 && (found.weight.in_a_month + 0.3).abs() < 1e-9, "{found:?}");
    assert!(found.weight.high - found.weight.low < 1e-6);
    assert_eq!((found.kinds, found.days, found.asks, found.seconds), (1, [4, 4], [16, 16], None));
    assert!(found.whole.by.abs() < 1e-9);
}

/// What was asked in one piece only says nothing, and too few days are said so.
#[test]
fn only_like_asks_are_compared() {
    let known = Known { by: -0.5, a_day: 0.0, days_differ: 0.1 };
    let mut rows = ridden(known, &by_turns(12), 1);
    let before = compare_pieces(&rows).unwrap();
    let mut other = rows[0].clone();
    (other.ask, other.weight) = ("S9@lope left".into(), 100.0);
    rows.push(other);
    assert_eq!(compare_pieces(&rows).unwrap(), before);
    let few = ridden(known, &by_turns(5), 1);
    assert_eq!(compare_pieces(&few), Err(TooFewDays { days: [3, 2] }));
    assert_eq!(compare_pieces(&[]), Err(TooFewDays { days: [0, 0] }));
}
