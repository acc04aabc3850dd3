//! Where each marker stands by two tapes from two posts, and how far off a slip of the tape puts it.

use crate::plane::Point;

/// A slip of the tape that is usual, metres: half a foot.
pub const SLIP: f64 = 0.1524;

/// A marker by two tapes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mark {
    /// Where it stands.
    pub at: Point,
    /// Lengths from the first and the second post, metres.
    pub tapes: [f64; 2],
    /// Whether it lies to the left of the way from the first post to the second.
    pub left: bool,
    /// How far off half a foot on either tape puts it at the worst, metres.
    pub off: f64,
}

/// A length between two markers that tells whether they stand right, metres.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub struct Check {
    pub from: usize,
    pub to: usize,
    pub length: f64,
}

/// A sheet to lay a set-up out by.
#[derive(Debug, Clone, PartialEq)]
pub struct TapeSheet {
    /// The posts that the tapes are held at, by their place in the list given.
    pub posts: [usize; 2],
    /// Metres between the posts, to know that they are the right ones.
    pub base: f64,
    /// In the order of the markers.
    pub marks: Vec<Mark>,
    /// Between each two markers.
    pub checks: Vec<Check>,
}

/// How far off a marker is at the worst with a slip on either tape. The tapes' lengths change by the unit vectors from the posts
/// times how the marker moves; turned round, the marker moves by the inverse times the slips.
fn worst(a: Point, b: Point, mark: Point) -> f64 {
    let unit = |from: Point| (mark - from) * (1.0 / mark.distance(from));
    let (u, v) = (unit(a), unit(b));
    let det = u.cross(v);
    let moved =
        |first: f64, second: f64| Point::new(v.y * first - u.y * second, u.x * second - v.x * first) * (1.0 / det);
    moved(SLIP, SLIP).length().max(moved(SLIP, -SLIP).length())
}

/// The sheet of markers from the two posts that a slip of the tape harms least. None where there are not two posts to measure from.
///
/// ```
/// use cavesson_core::pattern::{Point, tape_sheet};
/// let posts = [Point::new(0.0, 0.0), Point::new(6.0, 0.0)];
/// let sheet = tape_sheet(&posts, &[Point::new(3.0, 4.0)]).unwrap();
/// assert_eq!(sheet.marks[0].tapes, [5.0, 5.0]);
/// assert!(sheet.marks[0].left, "as seen from the first post toward the second");
/// ```
pub fn tape_sheet(posts: &[Point], markers: &[Point]) -> Option<TapeSheet> {
    let pairs = (0..posts.len()).flat_map(|a| (a + 1..posts.len()).map(move |b| [a, b]));
    let worst_of = |pair: &[usize; 2]| {
        let off = markers.iter().map(|m| worst(posts[pair[0]], posts[pair[1]], *m));
        off.fold(0.0, |most: f64, one| if one.is_finite() { most.max(one) } else { f64::INFINITY })
    };
    let best =
        pairs.map(|pair| (worst_of(&pair), pair)).filter(|p| p.0.is_finite()).min_by(|a, b| a.0.total_cmp(&b.0))?;
    let [a, b] = best.1.map(|n| posts[n]);
    let mark = |at: &Point| Mark {
        at: *at,
        tapes: [at.distance(a), at.distance(b)],
        left: (b - a).cross(*at - a) > 0.0,
        off: worst(a, b, *at),
    };
    let check = |(from, to): (usize, usize)| Check { from, to, length: markers[from].distance(markers[to]) };
    let all = (0..markers.len()).flat_map(|from| (from + 1..markers.len()).map(move |to| (from, to)));
    Some(TapeSheet {
        posts: best.1,
        base: a.distance(b),
        marks: markers.iter().map(mark).collect(),
        checks: all.map(check).collect(),
    })
}
