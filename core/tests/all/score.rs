//! Practice scores: the arithmetic of a sheet, and agreement against an independent library.

use cavesson_core::score::{MarkGiven, Sheet, SheetError, agreement, halves, where_points_go};
use proptest::prelude::*;

fn mark(score: i8, penalties: &[u8]) -> MarkGiven {
    MarkGiven { score: Some(score), penalties: penalties.to_vec() }
}

/// A run of eight manoeuvres worked by hand: 70 + ½ + 0 - ½ + 1 + 1½ - 1½ + 0 + ½ = 71½, less penalties of ½, 2 and 5 = 64.
#[test]
fn a_run_is_scored_as_by_hand() {
    let marks = vec![
        mark(1, &[]),
        mark(0, &[1]),
        mark(-1, &[]),
        mark(2, &[]),
        mark(3, &[4]),
        mark(-3, &[10]),
        mark(0, &[]),
        mark(1, &[]),
    ];
    let sheet = Sheet::check(marks, 8, true).unwrap();
    assert_eq!(halves(sheet.total()), "64");
    let points = where_points_go(&[sheet]);
    assert_eq!((points[0].manoeuvre, points[0].mean), (5, -13.0), "the one with five off cost most");
    assert_eq!(points.last().unwrap().manoeuvre, 3);
}

#[test]
fn a_sheet_names_the_mark_that_is_not_one() {
    let one = |mark: MarkGiven, done| Sheet::check(vec![MarkGiven::default(), mark], 2, done).unwrap_err();
    assert_eq!(one(mark(4, &[]), false), SheetError::Score(1));
    assert_eq!(one(mark(0, &[3]), false), SheetError::Penalty(1));
    assert_eq!(one(mark(0, &[1; 21]), false), SheetError::Penalty(1));
    assert_eq!(one(mark(0, &[]), true), SheetError::Open(0), "nothing is done with a manoeuvre open");
    assert_eq!(Sheet::check(vec![], 3, false).unwrap_err(), SheetError::Count { given: 0, manoeuvres: 3 });
}

/// Scores of two judges, in halves, as `first:second`.
const TWENTY: &str = "0:0 1:1 1:0 -1:-2 2:1 0:0 0:1 -3:-1 3:2 1:1 0:-1 -1:-1 0:0 2:2 1:2 \
        0:0 -2:-2 1:0 0:1 -1:0";
const SIXTY: &str = "1:1 2:2 3:3 3:3 2:3 -3:-3 3:3 2:1 -2:-3 -1:-1 3:3 0:1 -3:-2 -2:-3 2:2 \
        0:0 -2:-2 -2:-3 -2:-1 1:1 -2:-2 -3:-3 -2:-2 -2:-2 -1:-1 -2:-1 2:3 -2:-2 2:2 0:0 \
        -3:-3 0:0 -2:-2 -3:-3 -1:0 1:0 1:2 2:2 -3:-3 -1:-1 0:1 -1:-1 0:0 2:2 -3:-3 \
        -3:-2 -1:-1 -3:-2 3:3 -1:-1 1:0 0:-1 2:2 1:1 -3:-3 3:3 -1:0 -1:0 -1:-1 -3:-2";

fn pairs(text: &str) -> Vec<(i8, i8)> {
    let pair = |it: &str| it.split_once(':').map(|(a, b)| (a.parse().unwrap(), b.parse().unwrap())).unwrap();
    text.split_whitespace().map(pair).collect()
}

/// Against statsmodels 0.15.0, `cohens_kappa(table, wt="linear")`: kappa, `kappa_low` and `kappa_upp`.
#[test]
fn weighted_kappa_and_its_interval_are_those_of_statsmodels() {
    let known = [
        (TWENTY, [0.568_345_323_741_007_2, 0.382_078_898_019_132_5, 0.754_611_749_462_881_9]),
        (SIXTY, [0.846_566_000_974_184_1, 0.788_260_322_606_039_2, 0.904_871_679_342_329]),
    ];
    for (text, [value, low, high]) in known {
        let kappa = agreement(&pairs(text)).kappa.unwrap();
        assert!((kappa.value - value).abs() < 1e-12, "{}", kappa.value);
        assert!((kappa.between[0] - low).abs() < 1e-9 && (kappa.between[1] - high).abs() < 1e-9, "{:?}", kappa.between);
    }
}

#[test]
fn where_everything_gets_one_score_there_is_nothing_to_agree_on() {
    assert_eq!(agreement(&[(0, 0); 9]).kappa, None);
    assert_eq!(agreement(&[]).kappa, None);
    let apart = agreement(&[(-3, 3), (3, -3)]).kappa.unwrap();
    assert_eq!((apart.value, apart.strength()), (-1.0, "hardly better than by chance"));
}

proptest! {
    #[test]
    fn agreement_is_the_same_from_both_sides(pairs in prop::collection::vec((-3_i8..=3, -3_i8..=3), 1..60)) {
        let turned: Vec<(i8, i8)> = pairs.iter().map(|&(a, b)| (b, a)).collect();
        let (one, other) = (agreement(&pairs), agreement(&turned));
        prop_assert!((one.higher + other.higher).abs() < 1e-12);
        if let (Some(a), Some(b)) = (one.kappa, other.kappa) {
            prop_assert!((a.value - b.value).abs() < 1e-9);
            prop_assert!(a.value <= 1.0 + 1e-12 && a.between[0] <= a.value + 1e-12 && a.value <= a.between[1] + 1e-12);
        }
    }

    #[test]
    fn a_total_is_seventy_and_all_that_was_given(marks in prop::collection::vec((-3_i8..=3, 0_usize..4), 1..30)) {
        let given: Vec<MarkGiven> =
            marks.iter().map(|&(score, penalty)| mark(score, &[1, 2, 4, 10][penalty..=penalty])).collect();
        let sum: i32 = given.iter().map(|m| i32::from(m.score.unwrap()) - i32::from(m.penalties[0])).sum();
        prop_assert_eq!(Sheet::check(given, marks.len(), true).unwrap().total(), 140 + sum);
    }
}
