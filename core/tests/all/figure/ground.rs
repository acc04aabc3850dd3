//! How near a path comes to things, against a path walked in small steps and against an independent geometry library.

use super::{feet, figure};
use cavesson_core::{
    figure::{Body, Ridden, Shape, Traced, ride},
    pattern::{FOOT, Hand, Point, Polygon},
};
use geo::{Contains, Distance, Euclidean, LineString};
use proptest::prelude::*;

/// The path in steps of about an inch, worked out from the pieces' own starts by turning about the middle.
fn walked(ridden: &Ridden<'_>) -> Vec<Point> {
    let mut points = vec![ridden.start.at];
    for piece in &ridden.path {
        let steps = (piece.length / 0.02).ceil().max(1.0) as u32;
        let heading = piece.start.heading.to_radians();
        let ahead = Point::new(heading.sin(), heading.cos());
        for n in 1..=steps {
            let share = f64::from(n) / f64::from(steps);
            points.push(match piece.shape {
                Shape::Line { .. } => piece.start.at + ahead * (piece.length * share),
                Shape::Arc { hand, radius, degrees } => {
                    let sign = if hand == Hand::Left { 1.0 } else { -1.0 };
                    let centre = piece.start.at + ahead.turned(sign * std::f64::consts::FRAC_PI_2) * radius;
                    centre + (piece.start.at - centre).turned(sign * (degrees * share).to_radians())
                }
            });
        }
    }
    points
}

fn line_string(points: &[Point]) -> LineString {
    points.iter().map(|p| (p.x, p.y)).collect()
}

fn polygon(ring: &Polygon) -> geo::Polygon {
    geo::Polygon::new(line_string(&ring.0), vec![])
}

fn ground() -> Polygon {
    Polygon(
        [(-60.0, -40.0), (70.0, -40.0), (70.0, 60.0), (10.0, 60.0), (10.0, 110.0), (-60.0, 110.0)]
            .map(|(x, y)| feet(x, y))
            .to_vec(),
    )
}

#[test]
fn a_figure_in_the_middle_keeps_off_the_fence() {
    let figure = figure("start 0 0 heading 0\nlope right\ncircle right 20");
    let ridden = ride(&figure).unwrap();
    let (clear, outside) = Traced::of(&ridden).pen_clearance(&ground());
    // The circle's lowest place is 20 ft over the near fence.
    assert!((clear.distance / FOOT - 20.0).abs() < 1e-9 && clear.at.distance(feet(20.0, -20.0)) < 1e-9, "{clear:?}");
    assert_eq!(outside, 0.0);
    assert!(clear.keeps(20.0 * FOOT) && !clear.keeps(20.01 * FOOT));
}

#[test]
fn a_path_out_of_the_pen_is_told_where_it_leaves() {
    let figure = figure("start 0 50 heading 90\njog\nline 100\nstop\nturnaround left 0.5\njog\nline 50");
    let ridden = ride(&figure).unwrap();
    let (clear, outside) = Traced::of(&ridden).pen_clearance(&ground());
    assert_eq!(clear.distance, 0.0);
    assert!((clear.s / FOOT - 70.0).abs() < 1e-9 && clear.at.distance(feet(70.0, 50.0)) < 1e-9);
    assert!((outside / FOOT - 60.0).abs() < 1e-6, "30 ft out and 30 ft back: {}", outside / FOOT);
    let begins_outside = self::figure("start 90 0 heading 270\njog\nline 40");
    let ridden = ride(&begins_outside).unwrap();
    let (clear, outside) = Traced::of(&ridden).pen_clearance(&ground());
    assert_eq!((clear.distance, clear.s), (0.0, 0.0));
    assert!((outside / FOOT - 20.0).abs() < 1e-6);
}

#[test]
fn along_the_fence_is_on_it_and_not_out() {
    let figure = figure("start 70 -40 heading 0\nwalk\nline 100\nstop\nback 10");
    let ridden = ride(&figure).unwrap();
    let (clear, outside) = Traced::of(&ridden).pen_clearance(&ground());
    assert_eq!((clear.distance, clear.s, outside), (0.0, 0.0, 0.0));
    // A circle that only touches the fence.
    let touching = self::figure("start 40 0 heading 0\njog\ncircle right 15");
    let ridden = ride(&touching).unwrap();
    let (clear, outside) = Traced::of(&ridden).pen_clearance(&ground());
    assert_eq!((clear.distance, outside), (0.0, 0.0));
    assert!(clear.at.distance(feet(70.0, 0.0)) < 1e-6);
}

#[test]
fn markers_are_cleared_or_ridden_into() {
    let figure = figure("jog\nline 40\ncircle left 10 times 3");
    let ridden = ride(&figure).unwrap();
    let disc = |x, y| Traced::of(&ridden).marker_clearance(&Body::Disc { at: feet(x, y), radius: 2.0 * FOOT });
    assert!((disc(5.0, 20.0).distance / FOOT - 3.0).abs() < 1e-9);
    assert!((disc(-10.0, 40.0).distance / FOOT - 8.0).abs() < 1e-9, "in the middle of the circle");
    let hit = disc(0.0, 20.0);
    assert!(hit.distance == 0.0 && (hit.s / FOOT - 18.0).abs() < 1e-9, "at its near edge: {hit:?}");
    let boxed = Body::boxed(feet(0.0, 30.0), 12.0 * FOOT, 2.0 * FOOT, 90.0);
    let hit = Traced::of(&ridden).marker_clearance(&boxed);
    assert!(hit.distance == 0.0 && (hit.s / FOOT - 24.0).abs() < 1e-9, "turned on end: {hit:?}");
    let within = Body::boxed(feet(0.0, 0.0), 4.0 * FOOT, 4.0 * FOOT, 0.0);
    assert_eq!(
        (Traced::of(&ridden).marker_clearance(&within).distance, Traced::of(&ridden).marker_clearance(&within).s),
        (0.0, 0.0)
    );
}

fn any_step() -> impl Strategy<Value = String> {
    let hand = || prop_oneof![Just("left"), Just("right")];
    prop_oneof![
        (1..60_u32).prop_map(|d| format!("line {d}")),
        (hand(), 5..30_u32, 10..700_u32).prop_map(|(h, r, d)| format!("arc {h} {r} {d}")),
        (hand(), 5..25_u32, 1..3_u32).prop_map(|(h, r, n)| format!("circle {h} {r} times {n}")),
        (hand(), 5..15_u32, 1..5_u32, 1..20_u32)
            .prop_map(|(h, r, n, d)| format!("serpentine {h} {r} loops {n} straight {d}")),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]

    /// Distances and the length outside, held against the walked path by `geo`.
    #[test]
    fn distances_are_as_an_independent_library_finds_them(
        steps in prop::collection::vec(any_step(), 1..8),
        (x, y, radius) in (-60.0..70.0, -40.0..110.0, 0.5..12.0),
        (width, depth, turn) in (0.5..15.0, 0.5..15.0, 0.0..360.0),
    ) {
        let figure = figure(&format!("jog\n{}", steps.join("\n")));
        let ridden = ride(&figure).unwrap();
        let points = walked(&ridden);
        let path = line_string(&points);
        // Off the whole feet that the figures end on: the library calls a place on the fence outside.
        let pen = Polygon(ground().0.iter().map(|&corner| corner + feet(0.123, 0.457)).collect());
        let (clear, outside) = Traced::of(&ridden).pen_clearance(&pen);
        let fence = polygon(&pen);
        let to_fence = Euclidean.distance(&path, fence.exterior());
        let all_in = points.iter().all(|p| fence.contains(&geo::Point::new(p.x, p.y)));
        let want = if all_in { to_fence } else { 0.0 };
        prop_assert!((clear.distance - want).abs() < 2e-4, "fence {} {want}", clear.distance);
        let mut out = 0.0;
        for pair in points.windows(2) {
            let middle = pair[0].middle(pair[1]);
            if !fence.contains(&geo::Point::new(middle.x, middle.y)) {
                out += pair[0].distance(pair[1]);
            }
        }
        prop_assert!((outside - out).abs() < 0.05 + 0.002 * out, "outside {outside} {out}");
        let disc = Traced::of(&ridden).marker_clearance(&Body::Disc { at: feet(x, y), radius: radius * FOOT });
        let middle = feet(x, y);
        let away: f64 = Euclidean.distance(&path, &geo::Point::new(middle.x, middle.y));
        let want = f64::max(away - radius * FOOT, 0.0);
        prop_assert!((disc.distance - want).abs() < 2e-4, "disc {} {want}", disc.distance);
        let body = Body::boxed(middle, width * FOOT, depth * FOOT, turn);
        let Body::Box(ring) = &body else { unreachable!() };
        let boxed = Traced::of(&ridden).marker_clearance(&body);
        let want = Euclidean.distance(&path, &polygon(ring));
        prop_assert!((boxed.distance - want).abs() < 2e-4, "box {} {want}", boxed.distance);
        for found in [clear, disc, boxed] {
            let nearest = points.iter().map(|p| p.distance(found.at)).fold(f64::INFINITY, f64::min);
            prop_assert!(nearest < 0.02, "the place is on the path");
        }
    }
}
