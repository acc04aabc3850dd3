//! How near a path comes to the fence and to what stands in the pen, and how much of it is out of the pen.

use super::ride::{Piece, Ridden, Shape, TINY};
use crate::plane::{Point, Polygon};

/// Rounding of a place, metres: nearer than this is on the line.
const TOUCHES: f64 = 1e-7;

/// Something that stands in the pen.
#[derive(Debug, Clone, PartialEq)]
pub struct Marker {
    /// Its name.
    pub id: String,
    /// Its outline.
    pub body: Body,
    /// What the horse keeps off it, metres, 0 or more.
    pub keep: f64,
}

/// The outline of a marker, metres.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub enum Body {
    Disc { at: Point, radius: f64 },
    Box(Polygon),
}

impl Body {
    /// A box about its middle: width along x and depth along y before it is turned to the right, metres and degrees.
    pub fn boxed(at: Point, width: f64, depth: f64, turn: f64) -> Body {
        let corners = [(-0.5, -0.5), (0.5, -0.5), (0.5, 0.5), (-0.5, 0.5)];
        Body::Box(Polygon(
            corners.map(|(u, v)| at + Point::new(u * width, v * depth).turned(-turn.to_radians())).to_vec(),
        ))
    }
}

/// How near the path comes to something.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Clearance {
    /// The least distance, metres; 0 where the path touches it, or is where it must not be.
    pub distance: f64,
    /// Where on the path: the first place that touches, or one of the nearest. Metres from its start.
    pub s: f64,
    /// That place.
    pub at: Point,
}

impl Clearance {
    /// Whether it is as much as should be kept, metres.
    pub fn keeps(&self, keep: f64) -> bool {
        self.distance >= keep - TINY
    }
}

/// A ridden path with the bounds of its pieces, to be held against fence and markers.
pub struct Traced<'r> {
    ridden: &'r Ridden<'r>,
    bounds: Vec<Bounds>,
}

impl<'r> Traced<'r> {
    /// Of a ridden figure.
    pub fn of(ridden: &'r Ridden<'r>) -> Traced<'r> {
        Traced { ridden, bounds: ridden.path.iter().map(Bounds::of_piece).collect() }
    }

    fn pieces(&self) -> impl Iterator<Item = (&'r Piece, &Bounds)> {
        self.ridden.path.iter().zip(&self.bounds)
    }

    /// How near the path comes to the fence, and how much of it is outside, metres.
    pub fn pen_clearance(&self, pen: &Polygon) -> (Clearance, f64) {
        let start = self.ridden.start.at;
        let away = |p: Point| ring_distance(pen, p);
        let mut search = Search::new(self, !pen.holds(start) && away(start) > TOUCHES, None, away);
        let sides: Vec<Side> = pen.sides().map(Side::new).collect();
        let mut outside = 0.0;
        for (piece, bounds) in self.pieces() {
            let mut cuts = vec![0.0, piece.length];
            search.sides(piece, bounds, &sides, &mut cuts);
            outside += outside_of(piece, pen, cuts);
        }
        (search.found(), outside)
    }

    /// How near the path comes to a marker.
    pub fn marker_clearance(&self, body: &Body) -> Clearance {
        let start = self.ridden.start.at;
        match body {
            Body::Box(ring) => {
                let all = Bounds::of(&ring.0);
                let mut search = Search::new(self, ring.holds(start), Some(all), |p| ring_distance(ring, p));
                let sides: Vec<Side> = ring.sides().map(Side::new).collect();
                for (piece, bounds) in self.pieces() {
                    if !search.is_too_far(bounds.apart(&all)) {
                        search.sides(piece, bounds, &sides, &mut vec![]);
                    }
                }
                search.found()
            }
            Body::Disc { at, radius } => {
                let away = |p: Point| (p.distance(*at) - radius).max(0.0);
                let mut search = Search::new(self, away(start) <= TOUCHES, Some(Bounds::of(&[*at])), away);
                for (piece, bounds) in self.pieces() {
                    search.disc(piece, bounds, *at, *radius);
                }
                search.found()
            }
        }
    }
}

fn ring_distance(ring: &Polygon, p: Point) -> f64 {
    ring.sides().map(|(a, b)| p.from_stretch(a, b)).fold(f64::INFINITY, f64::min)
}

/// How much of a piece is outside, cut where it meets the fence.
fn outside_of(piece: &Piece, pen: &Polygon, mut cuts: Vec<f64>) -> f64 {
    cuts.sort_by(f64::total_cmp);
    let out = |t: f64| {
        let (p, _) = piece.at(t);
        !pen.holds(p) && ring_distance(pen, p) > TOUCHES
    };
    cuts.windows(2)
        .filter(|cut| cut[1] - cut[0] > TOUCHES && out((cut[0] + cut[1]) / 2.0))
        .map(|cut| cut[1] - cut[0])
        .sum()
}

/// A side of an outline, with its bounds.
struct Side {
    a: Point,
    b: Point,
    bounds: Bounds,
}

impl Side {
    fn new((a, b): (Point, Point)) -> Side {
        Side { a, b, bounds: Bounds::of(&[a, b]) }
    }
}

#[derive(Clone, Copy)]
struct Bounds {
    least: Point,
    most: Point,
}

impl Bounds {
    fn of(points: &[Point]) -> Bounds {
        let mut bounds = Bounds { least: points[0], most: points[0] };
        for p in points {
            bounds.least = Point::new(bounds.least.x.min(p.x), bounds.least.y.min(p.y));
            bounds.most = Point::new(bounds.most.x.max(p.x), bounds.most.y.max(p.y));
        }
        bounds
    }

    fn of_piece(piece: &Piece) -> Bounds {
        let mut points = vec![piece.start.at, piece.at(piece.length).0];
        if let Shape::Arc { hand, radius, .. } = piece.shape {
            // A curve is furthest out at its ends, or where it runs along an axis.
            let centre = piece.start.centre(hand, radius);
            let axes = [(1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0)].map(|(x, y)| Point::new(x, y));
            let on_it = |to: &Point| first_lap(piece, *to) <= piece.length;
            points.extend(axes.into_iter().filter(on_it).map(|to| centre + to * radius));
        }
        Bounds::of(&points)
    }

    /// At least so far apart.
    fn apart(&self, o: &Bounds) -> f64 {
        let gap = |least: f64, most: f64| (least - most).max(0.0);
        let x = gap(self.least.x, o.most.x).max(gap(o.least.x, self.most.x));
        let y = gap(self.least.y, o.most.y).max(gap(o.least.y, self.most.y));
        (x * x + y * y).sqrt()
    }
}

/// The nearest place so far.
struct Search {
    best: Clearance,
    /// No piece further away than this has the nearest place.
    bound: f64,
    /// A place that touches was found: the first one stands.
    touched: bool,
}

impl Search {
    /// `target` bounds what the path is held against, where it lies apart from it.
    fn new(
        traced: &Traced<'_>,
        wrong_from_the_start: bool,
        target: Option<Bounds>,
        away: impl Fn(Point) -> f64,
    ) -> Search {
        let start = traced.ridden.start.at;
        let distance = if wrong_from_the_start { 0.0 } else { away(start) };
        // Where a piece begins is on the path too. One that lies near leaves little to look at.
        let near = target.and_then(|target| {
            let by_bounds =
                |(_, a): &(&Piece, &Bounds), (_, b): &(&Piece, &Bounds)| a.apart(&target).total_cmp(&b.apart(&target));
            traced.pieces().min_by(by_bounds)
        });
        let bound = near.map_or(distance, |(piece, _)| away(piece.start.at).min(distance));
        Search { best: Clearance { distance, s: 0.0, at: start }, bound, touched: wrong_from_the_start }
    }

    /// Whether nothing so far away can change what was found.
    fn is_too_far(&self, least: f64) -> bool {
        least > TOUCHES && (self.touched || least > self.bound.min(self.best.distance))
    }

    fn found(self) -> Clearance {
        let distance = if self.touched { 0.0 } else { self.best.distance };
        Clearance { distance, ..self.best }
    }

    /// Nearest of one piece: candidates are looked at in any order, and the first that touches stands before a later one.
    fn look(&mut self, piece: &Piece, t: f64, distance: impl Fn(Point) -> f64) -> f64 {
        let (at, _) = piece.at(t);
        let away = distance(at);
        let s = piece.start.s + t;
        if away <= TOUCHES {
            if !self.touched || s < self.best.s {
                self.best = Clearance { distance: 0.0, s, at };
            }
            self.touched = true;
        } else if !self.touched && away < self.best.distance {
            self.best = Clearance { distance: away, s, at };
        }
        away
    }

    /// Looks at an outline's sides, and notes where the piece meets them.
    fn sides(&mut self, piece: &Piece, bounds: &Bounds, sides: &[Side], cuts: &mut Vec<f64>) {
        for side in sides {
            // Where it touched already only the places that cut the path count yet.
            if self.is_too_far(bounds.apart(&side.bounds)) || self.is_too_far(from_circle(piece, side)) {
                continue;
            }
            for t in near_side(piece, side) {
                if self.look(piece, t, |p| p.from_stretch(side.a, side.b)) <= TOUCHES {
                    cuts.push(t);
                }
            }
        }
    }

    fn disc(&mut self, piece: &Piece, bounds: &Bounds, middle: Point, radius: f64) {
        let least = match piece.shape {
            Shape::Line { .. } => bounds.apart(&Bounds::of(&[middle])),
            Shape::Arc { hand, radius, .. } => (piece.start.centre(hand, radius).distance(middle) - radius).abs(),
        };
        if self.is_too_far(least - radius) || self.is_too_far(bounds.apart(&Bounds::of(&[middle])) - radius) {
            return;
        }
        for t in near_disc(piece, middle, radius) {
            self.look(piece, t, |p| (p.distance(middle) - radius).max(0.0));
        }
    }
}

/// A side is at least so far from the whole circle of a curve; 0 for a straight.
fn from_circle(piece: &Piece, side: &Side) -> f64 {
    let Shape::Arc { hand, radius, .. } = piece.shape else { return 0.0 };
    let centre = piece.start.centre(hand, radius);
    let (nearest, furthest) =
        (centre.from_stretch(side.a, side.b), centre.distance(side.a).max(centre.distance(side.b)));
    (nearest - radius).max(radius - furthest).max(0.0)
}

/// Places along a piece among which the nearest to a side is, and all where they meet.
fn near_side(piece: &Piece, side: &Side) -> Vec<f64> {
    let mut places = vec![0.0, piece.length];
    let along = side.b - side.a;
    match piece.shape {
        Shape::Line { .. } => {
            let way = piece.way();
            let from = side.a - piece.start.at;
            let turn = way.cross(along);
            if turn != 0.0 {
                places.push(from.cross(along) / turn);
            }
            places.extend([from.dot(way), (side.b - piece.start.at).dot(way)]);
            within(piece, places)
        }
        Shape::Arc { hand, radius, .. } => {
            let centre = piece.start.centre(hand, radius);
            let length = along.length();
            let way = along * (1.0 / length);
            let foot = side.a + way * (centre - side.a).dot(way);
            let square = foot - centre;
            let mut bearings = vec![side.a - centre, side.b - centre];
            // Square to the side; where the side runs through the middle, square to it by itself.
            let square_to = Point::new(-way.y, way.x);
            bearings.extend([square_to, square_to * -1.0]);
            let half = radius * radius - square.dot(square);
            if half >= 0.0 {
                bearings.extend([square + way * half.sqrt(), square - way * half.sqrt()]);
            }
            places.extend(bearings.into_iter().flat_map(|to| laps(piece, to)));
            within(piece, places)
        }
    }
}

/// Places along a piece among which the nearest to a disc is, and where it comes into it.
fn near_disc(piece: &Piece, middle: Point, disc: f64) -> Vec<f64> {
    let mut places = vec![0.0, piece.length];
    match piece.shape {
        Shape::Line { .. } => {
            let to = middle - piece.start.at;
            let (foot, aside) = (to.dot(piece.way()), to.cross(piece.way()));
            places.push(foot);
            let half = disc * disc - aside * aside;
            if half >= 0.0 {
                places.extend([foot - half.sqrt(), foot + half.sqrt()]);
            }
        }
        Shape::Arc { hand, radius, .. } => {
            let to = middle - piece.start.centre(hand, radius);
            let away = to.length();
            let mut bearings = vec![to];
            // Where two circles meet: so far along the line of their middles, and so far aside of it.
            let along = (away * away + radius * radius - disc * disc) / (2.0 * away);
            let half = radius * radius - along * along;
            if away > 0.0 && half >= 0.0 {
                let way = to * (1.0 / away);
                let aside = Point::new(-way.y, way.x) * half.sqrt();
                bearings.extend([way * along + aside, way * along - aside]);
            }
            places.extend(bearings.into_iter().flat_map(|to| laps(piece, to)));
        }
    }
    within(piece, places)
}

fn within(piece: &Piece, places: Vec<f64>) -> Vec<f64> {
    places.into_iter().filter(|t| (0.0..=piece.length).contains(t)).collect()
}

/// How far along an arc each place is that lies that way from its middle, one a lap.
fn laps(piece: &Piece, to: Point) -> impl Iterator<Item = f64> {
    let (radius, degrees) = match piece.shape {
        Shape::Arc { radius, degrees, .. } => (radius, degrees),
        Shape::Line { .. } => (0.0, 0.0),
    };
    let (first, lap) = (first_lap(piece, to), std::f64::consts::TAU * radius);
    (0..(degrees / 360.0).ceil() as u32).map(move |n| first + lap * f64::from(n))
}

/// How far along an arc the first place is that lies that way from its middle, metres; past its end where the arc ends before.
fn first_lap(piece: &Piece, to: Point) -> f64 {
    let Shape::Arc { hand, radius, .. } = piece.shape else { return f64::INFINITY };
    let sign = super::ride::clockwise(hand);
    // The heading of a horse that goes round to the right is a quarter more than its bearing from the middle.
    let heading = to.x.atan2(to.y).to_degrees() + 90.0 * sign;
    (sign * (heading - piece.start.heading)).rem_euclid(360.0).to_radians() * radius
}
