//! The pattern bench against closed forms, rule books and other ways to the same answer.

mod bench;
mod fit;
mod path;
mod run;
mod track;

use cavesson_core::pattern::{Barrel, FOOT, Hand, Horse, Pocket, Point, SetUp};

pub(crate) fn feet(x: f64, y: f64) -> Point {
    Point::new(x * FOOT, y * FOOT)
}

pub(crate) fn pocket(feet: f64) -> Pocket {
    Pocket { entry: feet * FOOT, back: feet * FOOT, exit: feet * FOOT }
}

pub(crate) fn barrel(x: f64, y: f64, turn: Hand, clear: f64) -> Barrel {
    Barrel { at: feet(x, y), turn, pocket: pocket(clear), early: 0.0 }
}

/// The standard pattern, right barrel first: 60 ft, 90 ft and 105 ft (association rule books, from memory).
pub(crate) fn standard() -> SetUp {
    let up = 60.0 + (105.0_f64.powi(2) - 45.0_f64.powi(2)).sqrt();
    SetUp {
        start: Point::default(),
        finish: Point::default(),
        barrel_radius: 0.96 * FOOT,
        barrels: vec![
            barrel(45.0, 60.0, Hand::Right, 4.0),
            barrel(-45.0, 60.0, Hand::Left, 4.0),
            barrel(0.0, up, Hand::Left, 4.0),
        ],
    }
}

pub(crate) fn runner() -> Horse {
    Horse { top_speed: 10.4, speed_up: 3.0, slow_down: 4.9, side_grip: 6.7, start_speed: 9.1, stride: 5.2 }
}
