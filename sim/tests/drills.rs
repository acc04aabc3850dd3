//! A drill that cannot be guessed teaches a horse that guesses in fewer asks, with fewer wrong answers rehearsed.

use cavesson_sim::{DrillOrder, DrillTaken, drilled};

const HORSES: u64 = 60;

fn all(order: DrillOrder, guesses: f64) -> (f64, f64, usize) {
    let taken: Vec<DrillTaken> = (0..HORSES).map(|seed| drilled(order, guesses, seed)).collect();
    let mean = |of: fn(&DrillTaken) -> usize| taken.iter().map(of).sum::<usize>() as f64 / HORSES as f64;
    (mean(|it| it.reps), mean(|it| it.wrong), taken.iter().filter(|it| it.there).count())
}

#[test]
fn a_horse_that_guesses_learns_sooner_from_a_drawn_order() {
    for guesses in [0.4, 0.9] {
        let (made, fixed) = (all(DrillOrder::Made, guesses), all(DrillOrder::Fixed, guesses));
        assert!(made.0 < 0.8 * fixed.0, "asks: {} and {}, guessing {guesses}", made.0, fixed.0);
        assert!(made.1 < 0.5 * fixed.1, "wrong: {} and {}, guessing {guesses}", made.1, fixed.1);
        assert_eq!(made.2 as u64, HORSES, "all are there");
    }
}

/// The order alone makes no difference to a horse that waits for the ask.
#[test]
fn a_horse_that_does_not_guess_learns_as_soon_either_way() {
    let (made, fixed) = (all(DrillOrder::Made, 0.0), all(DrillOrder::Fixed, 0.0));
    assert!((made.0 / fixed.0 - 1.0).abs() < 0.15, "{} and {}", made.0, fixed.0);
    assert_eq!((made.1, fixed.1), (0.0, 0.0));
}
