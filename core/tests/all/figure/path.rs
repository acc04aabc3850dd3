//! Where a figure goes, by hand.

use std::f64::consts::PI;

use super::{feet, figure, places};
use cavesson_core::{
    figure::{Figure, FigureGait, Shape, ride},
    pattern::{FOOT, Hand, Point},
};

fn end_of(text: &str) -> (f64, f64, f64, f64) {
    let figure = figure(text);
    let end = ride(&figure).unwrap().end();
    (end.at.x / FOOT, end.at.y / FOOT, end.heading, end.s / FOOT)
}

fn near(got: (f64, f64, f64, f64), want: (f64, f64, f64, f64)) {
    let apart = [got.0 - want.0, got.1 - want.1, got.2 - want.2, got.3 - want.3];
    assert!(apart.iter().all(|off| off.abs() < 1e-9), "{got:?}, should be {want:?}");
}

#[test]
fn straights_and_curves_add_up() {
    near(end_of("jog\nline 40\narc right 20 90\nline 10"), (30.0, 60.0, 90.0, 50.0 + 10.0 * PI));
    near(end_of("jog\nline 40\narc left 20 90\nline 10"), (-30.0, 60.0, 270.0, 50.0 + 10.0 * PI));
    near(end_of("jog\nrepeat 4\n  line 30\n  arc right 10 90\nend"), (0.0, 0.0, 0.0, 120.0 + 20.0 * PI));
    near(end_of("start 5 5 heading 90\nlope right\ncircle right 40 times 2"), (5.0, 5.0, 90.0, 160.0 * PI));
    near(end_of("jog\nserpentine left 10 loops 3 straight 6"), (-60.0, 0.0, 180.0, 30.0 * PI + 12.0));
    near(end_of("lope left\neight left 25 change flying"), (0.0, 0.0, 0.0, 100.0 * PI));
    near(end_of("walk\nstop\nback 12\nsidepass right 4\nturnaround left 1.25"), (4.0, -12.0, 270.0, 16.0));
    // Half a circle of 3 ft beside the gate, on to the other side of it.
    near(end_of("gate right"), (6.0, 0.0, 180.0, 3.0 * PI));
    // Back 8 ft; turned to the right, so that going on backwards leads to the left of the way ahead.
    near(end_of("backthrough ell left 8 6 wide 3"), (-6.0, -8.0, 90.0, 14.0));
    near(end_of("run left\nline 30\nrollback right\nline 30"), (0.0, 0.0, 180.0, 60.0));
}

/// Feet per unit by the international agreement of 1959.
#[test]
fn units_are_as_agreed() {
    let (_, y, ..) = end_of("jog\nline 2 yd\nline 12 in\nline 3.048 m\nline 1 ft");
    assert!((y - (6.0 + 1.0 + 10.0 + 1.0)).abs() < 1e-12);
}

/// From the origin ahead on a right-hand circle of 30 about (30, 0); (30, 50) is 50 from the middle. The tangent leaves a right
/// triangle of 30, 40 and 50: at (6, 18), heading (3, 4)/5.
#[test]
fn an_arc_leaves_its_circle_on_the_tangent() {
    let ground = places(&[("far", 30.0, 50.0)]);
    let figure = Figure::read("jog\narc right 30 toward far\nline to far", &ground).unwrap();
    let ridden = ride(&figure).unwrap();
    let tangent = ridden.steps[1].after;
    assert!(tangent.at.distance(feet(6.0, 18.0)) < 1e-9, "{:?}", tangent.at);
    assert!((tangent.heading - (3.0_f64 / 4.0).atan().to_degrees()).abs() < 1e-9);
    assert!(ridden.end().at.distance(feet(30.0, 50.0)) < 1e-9);
    assert!((ridden.path[1].length / FOOT - 40.0).abs() < 1e-9);
    // Already ahead: no curve.
    let straight = Figure::read("jog\narc right 30 toward far", &places(&[("far", 0.0, 50.0)])).unwrap();
    assert!(ride(&straight).unwrap().path.is_empty());
}

#[test]
fn a_line_to_a_name_ends_square_beside_it() {
    let ground = places(&[("post", 7.0, 20.0)]);
    for (text, y) in [("line to post", 20.0), ("line to post short 3", 17.0), ("line to post past 1 yd", 23.0)] {
        let figure = Figure::read(&format!("jog\n{text}"), &ground).unwrap();
        assert!((ride(&figure).unwrap().end().at.y / FOOT - y).abs() < 1e-9);
    }
    let figure = Figure::read("start at post heading 270\njog\nline 7", &ground).unwrap();
    assert!(ride(&figure).unwrap().end().at.distance(feet(0.0, 20.0)) < 1e-9);
}

/// What is ridden in which gait and on which lead: the straight of a serpentine changes the lead half way.
#[test]
fn pieces_know_their_gait_and_lead() {
    let figure =
        figure("lope left\nserpentine left 20 loops 2 straight 16 change simple\nchange simple 5\nline 3\ngate left");
    let faults = ride(&figure).unwrap_err();
    assert_eq!((faults.len(), faults[0].line), (1, 5), "a gate needs a stand");
    let figure =
        self::figure("lope left\nserpentine left 20 loops 2 straight 16 change simple\nchange simple 5\nline 3");
    let ridden = ride(&figure).unwrap();
    let told: Vec<_> = (ridden.path.iter())
        .map(|piece| {
            let curve = matches!(piece.shape, Shape::Arc { .. });
            (curve, piece.start.gait, piece.start.lead, (piece.length / FOOT).round())
        })
        .collect();
    let (lope, left, right) = (FigureGait::Lope, Some(Hand::Left), Some(Hand::Right));
    assert_eq!(
        told,
        [
            (true, lope, left, 63.0),
            (false, lope, left, 8.0),
            (false, lope, right, 8.0),
            (true, lope, right, 63.0),
            (false, FigureGait::Jog, None, 5.0),
            (false, lope, left, 3.0),
        ]
    );
}

/// The large circle of the western pleasure ring: 20 m across is 62.8 m round (equestrian arenas, from memory).
#[test]
fn a_twenty_metre_circle_is_sixty_three_metres_round() {
    let figure = figure("jog\ncircle left 10 m");
    let ridden = ride(&figure).unwrap();
    assert!((ridden.end().s - 20.0 * PI).abs() < 1e-9);
    assert_eq!(ridden.end().at, Point::default());
}
