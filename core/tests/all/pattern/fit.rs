//! The fit against a linear program for each heading, and against a search of every place.

use cavesson_core::pattern::{
    Area, Asked, Barrel, FOOT, Fitted, Hand, NoRoom, Outline, Pen, PenFault, Point, Polygon, Room, SetUp, Underfoot,
    fit,
};
use microlp::{ComparisonOp, OptimizationDirection, Problem, SolveOutcome};

use super::pocket;

pub(crate) fn asked() -> Asked {
    Asked { room: Room::default(), pocket: pocket(4.0), first: Hand::Right, lopsided: false }
}

pub(crate) fn pen(outline: Outline, areas: Vec<Area>) -> Pen {
    Pen { outline, north: 0.0, gate: None, posts: vec![], areas }
}

fn corners(feet: &[(f64, f64)]) -> Outline {
    Outline::Corners { corners: feet.iter().map(|(x, y)| Point::new(x * FOOT, y * FOOT)).collect() }
}

fn rectangle(width: f64, length: f64) -> Outline {
    Outline::Rectangle { width: width * FOOT, length: length * FOOT }
}

fn area(x: f64, y: f64, size: f64, bad: u8) -> Area {
    let corner = |dx: f64, dy: f64| Point::new((x + dx * size) * FOOT, (y + dy * size) * FOOT);
    let corners = Polygon(vec![corner(0.0, 0.0), corner(1.0, 0.0), corner(1.0, 1.0), corner(0.0, 1.0)]);
    Area { corners, underfoot: Underfoot::Rutted, bad }
}

/// Pens with all corners outward: for each heading the largest scale is a linear program in place and scale.
pub(crate) fn convex_pens() -> Vec<Outline> {
    let r = rectangle;
    vec![
        r(150.0, 260.0),
        r(120.0, 200.0),
        r(100.0, 150.0),
        r(90.0, 220.0),
        r(200.0, 140.0),
        r(130.0, 130.0),
        r(110.0, 300.0),
        Outline::Oval { width: 140.0 * FOOT, length: 220.0 * FOOT },
        Outline::Oval { width: 180.0 * FOOT, length: 180.0 * FOOT },
        corners(&[(0.0, 0.0), (130.0, 0.0), (160.0, 180.0), (20.0, 210.0)]),
        corners(&[(0.0, 0.0), (180.0, 0.0), (90.0, 220.0)]),
        corners(&[(20.0, 0.0), (120.0, 0.0), (150.0, 90.0), (120.0, 190.0), (20.0, 190.0), (-10.0, 90.0)]),
    ]
}

/// Pens with corners inward or bad ground.
pub(crate) fn other_pens() -> Vec<Pen> {
    let l = [(0.0, 0.0), (140.0, 0.0), (140.0, 240.0), (70.0, 240.0), (70.0, 120.0), (0.0, 120.0)];
    let notched = [(0.0, 0.0), (150.0, 0.0), (150.0, 220.0), (90.0, 220.0), (75.0, 170.0), (60.0, 220.0), (0.0, 220.0)];
    vec![
        pen(corners(&l), vec![]),
        pen(corners(&notched), vec![]),
        pen(rectangle(100.0, 165.0), vec![area(40.0, 60.0, 20.0, 3)]),
        pen(rectangle(105.0, 150.0), vec![area(15.0, 70.0, 15.0, 3)]),
        pen(rectangle(110.0, 180.0), vec![area(50.0, 90.0, 25.0, 2)]),
        pen(rectangle(100.0, 160.0), vec![area(0.0, 80.0, 35.0, 1), area(70.0, 110.0, 25.0, 2)]),
        pen(rectangle(120.0, 140.0), vec![area(50.0, 100.0, 30.0, 2)]),
        pen(corners(&l), vec![area(90.0, 100.0, 20.0, 2)]),
    ]
}

/// The line, its back and the barrels of the standard, from the line, with the room that each keeps; feet.
fn standard() -> [([f64; 2], [f64; 2], f64); 5] {
    let up = 60.0 + (105.0_f64.powi(2) - 45.0_f64.powi(2)).sqrt();
    let half = 0.5 / FOOT;
    // What scales, what does not, and the room.
    [
        ([45.0, 60.0], [0.0, 0.0], 15.0),
        ([-45.0, 60.0], [0.0, 0.0], 15.0),
        ([0.0, up], [0.0, 0.0], 25.0),
        ([0.0, 0.0], [0.0, 0.0], half),
        ([0.0, 0.0], [0.0, -45.0], half),
    ]
}

fn turned([x, y]: [f64; 2], heading: f64) -> [f64; 2] {
    let (sin, cos) = heading.sin_cos();
    [x * cos - y * sin, x * sin + y * cos]
}

/// The largest scale at a heading in a convex pen, by a linear program in x, y and scale.
fn by_program(sides: &[(Point, Point)], heading: f64) -> Option<f64> {
    let mut program = Problem::new(OptimizationDirection::Maximize);
    let x = program.add_var(0.0, (f64::NEG_INFINITY, f64::INFINITY));
    let y = program.add_var(0.0, (f64::NEG_INFINITY, f64::INFINITY));
    let scale = program.add_var(1.0, (0.3, 1.0));
    for (a, b) in sides {
        // Inward normal of a side of corners in counter-clockwise order.
        let length = a.distance(*b);
        let (nx, ny) = (-(b.y - a.y) / length, (b.x - a.x) / length);
        for (scaled, fixed, room) in standard() {
            let (s, f) = (turned(scaled, heading), turned(fixed, heading));
            let (s, f) = (nx * s[0] + ny * s[1], nx * f[0] + ny * f[1]);
            let from = (nx * a.x + ny * a.y) / FOOT;
            program.add_constraint([(x, nx), (y, ny), (scale, s)], ComparisonOp::Ge, from + room - f);
        }
    }
    match program.solve() {
        Ok(SolveOutcome::Solution(best)) => Some(best.objective()),
        _ => None,
    }
}

fn scale_of(outline: &Outline) -> f64 {
    fit(&pen(outline.clone(), vec![]), &asked()).map_or(0.0, |f| f.scale)
}

#[test]
fn in_convex_pens_it_is_the_best_of_a_linear_program_over_all_headings() {
    for outline in convex_pens() {
        let fences = outline.polygon();
        let sides: Vec<_> = fences.sides().collect();
        let degree = std::f64::consts::PI / 180.0;
        let of = |heading: f64| by_program(&sides, heading).map_or((0.0, heading), |best| (best, heading));
        let best_of = |from: f64, step: f64, count: i32| {
            (0..=count).map(|n| of(from + step * f64::from(n))).max_by(|a, b| a.0.total_cmp(&b.0)).unwrap()
        };
        let coarse = best_of(0.0, degree / 4.0, 1439).1;
        let best = best_of(coarse - degree / 4.0, degree / 100.0, 50).0;
        let found = scale_of(&outline);
        println!("| {outline:?} | {best:.4} | {found:.4} |");
        assert!(found >= best * 0.995 && found <= best * 1.0005, "{outline:?}: {found} against {best}");
    }
}

/// Whether two stretches cross: both shares of the way, by Cramer's rule, lie between 0 and 1.
fn crosses((u, v): (Point, Point), (a, b): (Point, Point)) -> bool {
    let (d, e) = (v - u, b - a);
    let det = d.x * e.y - d.y * e.x;
    let along = ((a.x - u.x) * e.y - (a.y - u.y) * e.x) / det;
    let across = ((a.x - u.x) * d.y - (a.y - u.y) * d.x) / det;
    (0.0..=1.0).contains(&along) && (0.0..=1.0).contains(&across)
}

/// The value of a layout by code of its own: nothing of the core's is used but the even-odd rule for a point.
struct Slow<'a> {
    pen: &'a Pen,
    fences: Polygon,
}

impl Slow<'_> {
    fn value(&self, place: [f64; 3], scale: f64) -> Option<f64> {
        let spot = |(scaled, fixed): ([f64; 2], [f64; 2])| {
            let [x, y] = turned([scaled[0] * scale + fixed[0], scaled[1] * scale + fixed[1]], place[2]);
            Point::new(place[0] + x * FOOT, place[1] + y * FOOT)
        };
        let mut spare = f64::INFINITY;
        for (scaled, fixed, room) in standard() {
            let p = spot((scaled, fixed));
            if !self.fences.holds(p) {
                return None;
            }
            let away = self.fences.sides().map(|(a, b)| p.from_stretch(a, b)).fold(f64::INFINITY, f64::min);
            spare = f64::min(spare, away - room * FOOT);
            if spare < 0.0 {
                return None;
            }
        }
        let spots = standard().map(|(scaled, fixed, _)| spot((scaled, fixed)));
        let [a, b, c, line, _] = spots;
        // To the far side of a horse in a pocket of 4 ft.
        let reach = 0.2921 + 4.0 * FOOT + 0.5;
        let mut value = scale * 100.0 + spare.min(10.0) * 0.01;
        let hand = |turn, at| Barrel { at, turn, pocket: pocket(4.0), early: 0.0 };
        let barrels = vec![hand(Hand::Right, a), hand(Hand::Left, b), hand(Hand::Left, c)];
        // The path is held against plane geometry elsewhere.
        let legs = SetUp { start: line, finish: line, barrel_radius: 0.2921, barrels }.path().ok()?.legs;
        for area in &self.pen.areas {
            let walked = |u: Point, v: Point| {
                let near = |corner: &Point| corner.from_stretch(u, v) < 0.5;
                area.corners.holds(u)
                    || area.corners.sides().any(|(a, b)| crosses((u, v), (a, b)))
                    || area.corners.0.iter().any(near)
            };
            let turns = [a, b, c]
                .into_iter()
                .filter(|p| area.corners.holds(*p) || area.corners.sides().any(|(u, v)| p.from_stretch(u, v) < reach));
            let turns = turns.count() as f64;
            let straights = legs.iter().filter(|leg| walked(leg.from, leg.to)).count() as f64;
            let each = [3.0, 8.0, f64::INFINITY][usize::from(area.bad) - 1];
            value -= if turns + straights > 0.0 { each * (turns + straights / 2.0) } else { 0.0 };
        }
        value.is_finite().then_some(value)
    }

    /// Every place and heading of a grid, every scale of a ladder, then finer about the best of them.
    fn best(&self) -> f64 {
        let (least, most) = self.fences.bounds();
        let mut all: Vec<([f64; 4], f64)> = vec![];
        let count = |from: f64, to: f64, step: f64| ((to - from) / step) as usize;
        for n in 0..40 {
            let heading = f64::from(n) * std::f64::consts::TAU / 40.0;
            for (ix, iy) in
                (0..count(least.x, most.x, 2.5)).flat_map(|x| (0..count(least.y, most.y, 2.5)).map(move |y| (x, y)))
            {
                let (x, y) = (least.x + 2.5 * ix as f64, least.y + 2.5 * iy as f64);
                let best = (0..=20).filter_map(|s| {
                    let scale = 0.3 + 0.035 * f64::from(s);
                    self.value([x, y, heading], scale).map(|v| ([x, y, heading, scale], v))
                });
                all.extend(best.max_by(|a, b| a.1.total_cmp(&b.1)));
            }
        }
        all.sort_by(|a, b| b.1.total_cmp(&a.1));
        all.truncate(60);
        let finer = all.into_iter().map(|(mut at, mut value)| {
            let mut step = [1.2, 1.2, 0.08, 0.02];
            for _ in 0..60 {
                let mut moved = false;
                // Every neighbour, also across the corners.
                for n in 0..81_i32 {
                    let by = |d: u32| f64::from(n / 3_i32.pow(d) % 3 - 1);
                    let next: [f64; 4] = std::array::from_fn(|d| at[d] + step[d] * by(d as u32));
                    let next = [next[0], next[1], next[2], next[3].min(1.0)];
                    if let Some(better) = self.value([next[0], next[1], next[2]], next[3]).filter(|v| *v > value + 1e-9)
                    {
                        (at, value, moved) = (next, better, true);
                    }
                }
                if !moved {
                    step = step.map(|s| s / 2.0);
                }
            }
            value
        });
        finer.fold(0.0, f64::max)
    }
}

#[test]
fn in_other_pens_it_is_the_best_of_every_place() {
    for pen in other_pens() {
        let found = fit(&pen, &asked()).unwrap();
        let best = Slow { pen: &pen, fences: pen.checked().unwrap() }.best();
        println!("| {:?} and {} areas | {best:.2} | {:.2} |", pen.outline, pen.areas.len(), found.value);
        assert!(found.value >= best * 0.995, "{pen:?}: {} against {best}", found.value);
    }
}

fn keeps_its_room(pen: &Pen, fitted: &Fitted) {
    let fences = pen.checked().unwrap();
    for (barrel, room) in fitted.set_up.barrels.iter().zip([15.0, 15.0, 25.0]) {
        assert!(fences.room_at(barrel.at) >= room * FOOT - 1e-6);
    }
    fitted.set_up.path().unwrap();
}

#[test]
fn a_large_pen_holds_the_standard_and_a_short_one_says_what_it_gave_up() {
    let whole = pen(rectangle(200.0, 320.0), vec![]);
    let fitted = fit(&whole, &asked()).unwrap();
    keeps_its_room(&whole, &fitted);
    assert!((fitted.scale - 1.0).abs() < 1e-3);
    for d in &fitted.distances {
        assert!((d.is - d.standard).abs() < 0.02, "{d:?}");
    }
    let short = pen(rectangle(95.0, 150.0), vec![]);
    let fitted = fit(&short, &asked()).unwrap();
    keeps_its_room(&short, &fitted);
    assert!(fitted.scale < 0.8 && fitted.distances.iter().all(|d| d.is < d.standard));
    assert!(fitted.with_a_foot_more > fitted.scale + 0.005, "a foot more helps");
    let uneven = fit(&short, &Asked { lopsided: true, ..asked() }).unwrap();
    keeps_its_room(&short, &uneven);
    assert!(uneven.scale >= fitted.scale, "{} against {}", uneven.scale, fitted.scale);
    assert_eq!(uneven.set_up.barrels[0].pocket, fitted.set_up.barrels[0].pocket, "the same arc");
}

#[test]
fn a_rut_is_kept_off() {
    let rutted = &other_pens()[2];
    let fitted = fit(rutted, &asked()).unwrap();
    assert!(fitted.over_bad_ground.is_empty(), "nothing goes over it");
    let clear = fit(&pen(rectangle(130.0, 220.0), vec![]), &asked()).unwrap();
    assert!(fitted.scale <= clear.scale + 1e-3);
}

#[test]
fn what_cannot_be_is_said() {
    let small = fit(&pen(rectangle(50.0, 60.0), vec![]), &asked()).unwrap_err();
    assert!(matches!(small, NoRoom::TooSmall { width, length } if width > 15.0 && length > 30.0), "{small}");
    let crossed = pen(corners(&[(0.0, 0.0), (100.0, 100.0), (100.0, 0.0), (0.0, 100.0)]), vec![]);
    assert_eq!(fit(&crossed, &asked()).unwrap_err(), NoRoom::Pen(PenFault::SidesCross(0, 2)));
    let fault = |pen: Pen| pen.checked().unwrap_err();
    let rect = || pen(rectangle(100.0, 150.0), vec![]);
    assert!(matches!(fault(pen(rectangle(5.0, 150.0), vec![])), PenFault::Size(..)));
    assert!(matches!(fault(pen(corners(&[(0.0, 0.0), (100.0, 0.0)]), vec![])), PenFault::Corners(2)));
    assert!(matches!(fault(pen(rectangle(100.0, 150.0), vec![area(0.0, 0.0, 9.0, 4)])), PenFault::Area(0)));
    assert!(matches!(fault(Pen { gate: Some(Point::new(10.0, 10.0)), ..rect() }), PenFault::Gate(_)));
    assert!(matches!(fault(Pen { posts: vec![Point::new(-30.0, 0.0)], ..rect() }), PenFault::Post(0)));
}
