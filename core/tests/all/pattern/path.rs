//! The path against plane geometry.

use std::f64::consts::PI;

use cavesson_core::pattern::{FOOT, Hand, NoPath, Point, SetUp, quickest_run};
use proptest::prelude::*;

use super::{barrel, feet, pocket, runner, standard};

fn near(a: f64, b: f64, most: f64) {
    assert!((a - b).abs() <= most, "{a} is not {b}");
}

/// Half of a belt about two pulleys of one size: the distance twice and half the circumference (any table of mechanics).
#[test]
fn a_barrel_half_round_is_half_a_belt() {
    let r = 4.96 * FOOT;
    let d = 80.0 * FOOT;
    // The start and the finish lie where the belt leaves the other pulley.
    let set_up = SetUp {
        start: feet(4.96, 0.0),
        finish: feet(-4.96, 0.0),
        barrel_radius: 0.96 * FOOT,
        barrels: vec![barrel(0.0, 80.0, Hand::Left, 4.0)],
    };
    let run = quickest_run(&set_up, &runner()).unwrap();
    near(run.length(), 2.0 * d + PI * r, 1e-6);
    near(run.path.turns[0].sweep, PI, 1e-9);
}

/// A crossed belt: straights of sqrt(d² - (r1 + r2)²), and turns that meet them (any table of mechanics).
#[test]
fn opposite_hands_make_a_crossed_belt() {
    let mut set_up = standard();
    set_up.barrels.truncate(2);
    set_up.barrels[1].pocket = pocket(6.0);
    let path = set_up.path().unwrap();
    let (r1, r2) = (4.96 * FOOT, 6.96 * FOOT);
    near(path.legs[1].length(), ((90.0 * FOOT).powi(2) - (r1 + r2).powi(2)).sqrt(), 1e-9);
    set_up.barrels[1].turn = Hand::Right;
    let open = set_up.path().unwrap();
    near(open.legs[1].length(), ((90.0 * FOOT).powi(2) - (r2 - r1).powi(2)).sqrt(), 1e-9);
}

#[test]
fn the_standard_pattern_is_as_far_apart_as_the_rule_books_say() {
    let b = standard().barrels;
    near(b[0].at.distance(b[1].at), 90.0 * FOOT, 1e-9);
    near(b[0].at.distance(b[2].at), 105.0 * FOOT, 1e-9);
    near(b[1].at.distance(b[2].at), 105.0 * FOOT, 1e-9);
    let path = standard().path().unwrap();
    let changes = path.lead_changes();
    assert_eq!(changes.len(), 1, "the lead changes between the first and the second only");
    assert_eq!(changes[0].0, 0);
}

#[test]
fn straights_on_one_line_leave_a_whole_circle() {
    let set_up = SetUp {
        start: feet(4.96, -40.0),
        finish: feet(4.96, 40.0),
        barrel_radius: 0.96 * FOOT,
        barrels: vec![barrel(0.0, 0.0, Hand::Left, 4.0)],
    };
    let path = set_up.path().unwrap();
    near(path.turns[0].sweep, 2.0 * PI, 1e-6);
    near(path.legs[0].length(), 40.0 * FOOT, 1e-9);
}

#[test]
fn a_set_up_with_no_path_says_why() {
    let with = |change: &dyn Fn(&mut SetUp)| {
        let mut set_up = standard();
        change(&mut set_up);
        set_up.path().unwrap_err()
    };
    assert!(matches!(with(&|s| s.barrels.clear()), NoPath::NoBarrels));
    assert!(matches!(with(&|s| s.start = feet(44.0, 60.0)), NoPath::StartInside { .. }));
    assert!(matches!(with(&|s| s.finish = feet(0.0, 155.0)), NoPath::FinishInside { .. }));
    let near = with(&|s| s.barrels[1].at = feet(42.0, 60.0));
    assert!(matches!(near, NoPath::BarrelInside { .. }), "{near}");
    let apart = with(&|s| s.barrels[1].at = feet(37.0, 60.0));
    assert!(matches!(apart, NoPath::NoStraight { from: 0, to: 1, .. }), "{apart}");
}

fn any_set_up() -> impl Strategy<Value = SetUp> {
    let one = (-60.0..60.0, 20.0..150.0, any::<bool>(), 1.0..7.0, 1.0..7.0, 1.0..7.0);
    (prop::collection::vec(one, 1..5), -40.0..40.0, -20.0..0.0).prop_map(|(all, x, y)| SetUp {
        start: feet(x, y),
        finish: feet(-x, y),
        barrel_radius: 0.96 * FOOT,
        barrels: (all.into_iter())
            .map(|(x, y, left, entry, back, exit)| {
                let mut b = barrel(x, y, if left { Hand::Left } else { Hand::Right }, entry);
                b.pocket.back = back * FOOT;
                b.pocket.exit = exit * FOOT;
                b
            })
            .collect(),
    })
}

proptest! {
    /// Straights touch their circles at a right angle, spots lie on theirs, and the run's points hang together.
    #[test]
    fn straights_touch_and_spots_lie_on_their_circles(set_up in any_set_up()) {
        let Ok(path) = set_up.path() else { return Ok(()) };
        for (n, turn) in path.turns.iter().enumerate() {
            for (spot, r) in turn.spots().iter().zip(turn.radii) {
                prop_assert!((spot.distance(turn.centre) - r).abs() < 1e-9);
            }
            for (leg, end) in [(path.legs[n], path.legs[n].to), (path.legs[n + 1], path.legs[n + 1].from)] {
                prop_assert!((leg.to - leg.from).dot(end - turn.centre).abs() < 1e-6 * leg.length().max(1.0));
            }
            prop_assert!(turn.sweep > 0.0 && turn.sweep <= 2.0 * PI + 1e-9);
        }
        let run = quickest_run(&set_up, &runner()).unwrap();
        for w in run.points.windows(2) {
            let chord = w[0].at.distance(w[1].at);
            prop_assert!(chord <= w[1].s - w[0].s + 1e-6 && w[1].t >= w[0].t);
        }
    }

    /// Seen in a mirror, and from anywhere, the same pattern is as long and as quick.
    #[test]
    fn neither_a_mirror_nor_a_move_changes_it(set_up in any_set_up(), turn in 0.0..6.0, x in -50.0..50.0) {
        let Ok(run) = quickest_run(&set_up, &runner()) else { return Ok(()) };
        let moved = |p: Point| (Point::new(-p.x, p.y)).turned(turn) + Point::new(x, 2.0 * x);
        let mut other = set_up.clone();
        other.start = moved(set_up.start);
        other.finish = moved(set_up.finish);
        for b in &mut other.barrels {
            b.at = moved(b.at);
            b.turn = if b.turn == Hand::Left { Hand::Right } else { Hand::Left };
        }
        let there = quickest_run(&other, &runner()).unwrap();
        prop_assert!((run.length() - there.length()).abs() < 1e-6 * run.length());
        prop_assert!((run.time() - there.time()).abs() < 1e-3 * run.time());
    }
}
