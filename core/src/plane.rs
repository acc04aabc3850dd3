//! Points, lines and polygons of the plane: of a pen from above, of a bit from the side.

use serde::{Deserialize, Serialize};

/// A point or a vector, metres.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Point {
    /// In a pen: to the right. On a bit: behind the mouthpiece.
    pub x: f64,
    /// In a pen: ahead. On a bit: up along the cheekpiece.
    pub y: f64,
}

impl std::ops::Add for Point {
    type Output = Point;
    fn add(self, o: Point) -> Point {
        Point::new(self.x + o.x, self.y + o.y)
    }
}

impl std::ops::Sub for Point {
    type Output = Point;
    fn sub(self, o: Point) -> Point {
        Point::new(self.x - o.x, self.y - o.y)
    }
}

impl std::ops::Mul<f64> for Point {
    type Output = Point;
    fn mul(self, by: f64) -> Point {
        Point::new(self.x * by, self.y * by)
    }
}

impl Point {
    /// A point at x and y.
    pub const fn new(x: f64, y: f64) -> Point {
        Point { x, y }
    }

    /// At an angle from the x axis, counter-clockwise, and a distance.
    pub fn polar(angle: f64, distance: f64) -> Point {
        Point::new(distance * angle.cos(), distance * angle.sin())
    }

    /// The dot product.
    pub fn dot(self, o: Point) -> f64 {
        self.x * o.x + self.y * o.y
    }

    /// The cross product's height: positive where `o` points to the left of this.
    pub fn cross(self, o: Point) -> f64 {
        self.x * o.y - self.y * o.x
    }

    /// Its length as a vector.
    pub fn length(self) -> f64 {
        self.x.hypot(self.y)
    }

    /// How far away another point is.
    ///
    /// ```
    /// use cavesson_core::pattern::Point;
    /// assert_eq!(Point::new(0.0, 0.0).distance(Point::new(3.0, 4.0)), 5.0);
    /// ```
    pub fn distance(self, o: Point) -> f64 {
        (self - o).length()
    }

    /// The angle of the vector from the x axis, counter-clockwise.
    pub fn angle(self) -> f64 {
        self.y.atan2(self.x)
    }

    /// Turned about the origin, counter-clockwise.
    pub fn turned(self, angle: f64) -> Point {
        let (sin, cos) = angle.sin_cos();
        Point::new(self.x * cos - self.y * sin, self.x * sin + self.y * cos)
    }

    /// The middle between two points.
    pub fn middle(self, o: Point) -> Point {
        (self + o) * 0.5
    }

    /// How far it is from the stretch between two points.
    pub fn from_stretch(self, a: Point, b: Point) -> f64 {
        let along = b - a;
        let squared = along.dot(along);
        let share = if squared > 0.0 { ((self - a).dot(along) / squared).clamp(0.0, 1.0) } else { 0.0 };
        let off = self - a - along * share;
        off.dot(off).sqrt()
    }
}

/// Whether two stretches have a point in common.
pub(crate) fn stretches_meet(a: (Point, Point), b: (Point, Point)) -> bool {
    let side = |s: (Point, Point), p: Point| (s.1 - s.0).cross(p - s.0);
    let (a0, a1) = (side(b, a.0), side(b, a.1));
    let (b0, b1) = (side(a, b.0), side(a, b.1));
    if a0 * a1 < 0.0 && b0 * b1 < 0.0 {
        return true;
    }
    let on = |s: (Point, Point), p: Point, turn: f64| turn == 0.0 && p.from_stretch(s.0, s.1) == 0.0;
    on(b, a.0, a0) || on(b, a.1, a1) || on(a, b.0, b0) || on(a, b.1, b1)
}

/// A closed outline, its corners in order.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
pub struct Polygon(pub Vec<Point>);

impl Polygon {
    /// Its sides, from corner to corner.
    pub fn sides(&self) -> impl Iterator<Item = (Point, Point)> + '_ {
        let corners = &self.0;
        (0..corners.len()).map(move |n| (corners[n], corners[(n + 1) % corners.len()]))
    }

    /// The first two sides that cross or touch: neighbours where the one folds back over the other.
    ///
    /// ```
    /// use cavesson_core::pattern::{Point, Polygon};
    /// let of = |corners: &[(f64, f64)]| Polygon(corners.iter().map(|&(x, y)| Point::new(x, y)).collect());
    /// assert_eq!(of(&[(0.0, 0.0), (4.0, 0.0), (4.0, 3.0)]).crossing(), None);
    /// assert_eq!(of(&[(0.0, 0.0), (4.0, 3.0), (4.0, 0.0), (0.0, 3.0)]).crossing(), Some((0, 2)));
    /// assert_eq!(of(&[(0.0, 0.0), (4.0, 0.0), (2.0, 0.0), (2.0, 3.0)]).crossing(), Some((0, 1)));
    /// ```
    pub fn crossing(&self) -> Option<(usize, usize)> {
        let sides: Vec<_> = self.sides().collect();
        let last = sides.len().saturating_sub(1);
        let way = |n: usize| sides[n].1 - sides[n].0;
        let folds = |a: usize, b: usize| way(a).cross(way(b)) == 0.0 && way(a).dot(way(b)) < 0.0;
        if let Some(n) = (0..sides.len()).find(|&n| folds(n, (n + 1) % sides.len())) {
            return Some((n, (n + 1) % sides.len()));
        }
        (0..sides.len())
            .flat_map(|a| (a + 2..sides.len()).map(move |b| (a, b)))
            .find(|&(a, b)| !(a == 0 && b == last) && stretches_meet(sides[a], sides[b]))
    }

    /// Its area, square metres.
    ///
    /// ```
    /// use cavesson_core::pattern::{Point, Polygon};
    /// let pen = Polygon([(0.0, 0.0), (4.0, 0.0), (4.0, 3.0), (0.0, 3.0)].map(|(x, y)| Point::new(x, y)).to_vec());
    /// assert_eq!(pen.area(), 12.0);
    /// assert_eq!(pen.room_at(Point::new(1.0, 1.5)), 1.0);
    /// assert_eq!(pen.room_at(Point::new(-2.0, 1.5)), -2.0);
    /// ```
    pub fn area(&self) -> f64 {
        self.sides().map(|(a, b)| a.cross(b)).sum::<f64>().abs() / 2.0
    }

    /// Whether a point is inside, by the crossings of a line to the right (even-odd rule).
    pub fn holds(&self, p: Point) -> bool {
        let crosses =
            |(a, b): &(Point, Point)| (a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x;
        self.sides().filter(crosses).count() % 2 == 1
    }

    /// How far a point is from the outline: negative outside.
    pub fn room_at(&self, p: Point) -> f64 {
        let away = self.sides().map(|(a, b)| p.from_stretch(a, b)).fold(f64::INFINITY, f64::min);
        if self.holds(p) { away } else { -away }
    }

    /// Left, bottom, right and top.
    pub fn bounds(&self) -> (Point, Point) {
        let least =
            self.0.iter().fold(Point::new(f64::INFINITY, f64::INFINITY), |m, p| Point::new(m.x.min(p.x), m.y.min(p.y)));
        let most = self
            .0
            .iter()
            .fold(Point::new(f64::NEG_INFINITY, f64::NEG_INFINITY), |m, p| Point::new(m.x.max(p.x), m.y.max(p.y)));
        (least, most)
    }
}
