//! A pen: its outline, gate and posts, and what is wrong with its ground.

use serde::{Deserialize, Serialize};

use crate::plane::{Point, Polygon};
use crate::words::words;

/// The outline, metres. A rectangle has its left front corner at the origin, an oval its bounding rectangle's.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[allow(missing_docs)]
pub enum Outline {
    Rectangle { width: f64, length: f64 },
    Oval { width: f64, length: f64 },
    Corners { corners: Vec<Point> },
}

words! {
    "a kind of bad ground";
    /// What is wrong with a piece of ground.
    pub enum Underfoot {
        Rutted,
        Wet,
        Hard,
        /// Something stands there.
        Taken,
    }
}

/// A piece of ground to keep off.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Area {
    /// Its corners.
    pub corners: Polygon,
    /// What is wrong with it.
    pub underfoot: Underfoot,
    /// How bad: 1 a little, 2 bad, 3 nothing goes over it.
    pub bad: u8,
}

/// A pen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Pen {
    /// The fences.
    pub outline: Outline,
    /// Degrees clockwise from the pen's y axis to north.
    #[serde(default)]
    pub north: f64,
    /// The middle of the gate.
    #[serde(default)]
    pub gate: Option<Point>,
    /// Posts to measure from besides the corners.
    #[serde(default)]
    pub posts: Vec<Point>,
    /// Ground to keep off.
    #[serde(default)]
    pub areas: Vec<Area>,
}

/// Why a pen cannot be used.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[allow(missing_docs)]
pub enum PenFault {
    #[error("a pen has 3 to {MOST_CORNERS} corners, this one has {0}")]
    Corners(usize),
    #[error("sides {} and {} of the pen cross", .0 + 1, .1 + 1)]
    SidesCross(usize, usize),
    #[error("sides of bad ground {} cross", .0 + 1)]
    AreaCrosses(usize),
    #[error("bad ground {} needs 3 to {MOST_CORNERS} corners, and how bad it is from 1 to 3", .0 + 1)]
    Area(usize),
    #[error("a pen is {LEAST} to {MOST} m each way, this one is {0:.1} by {1:.1} m")]
    Size(f64, f64),
    #[error("a pen has at most {MOST_POSTS} posts and {MOST_AREAS} pieces of bad ground")]
    TooMany,
    #[error("post {} is not near the pen", .0 + 1)]
    Post(usize),
    #[error("the gate is {0:.1} m from the fence")]
    Gate(f64),
}

const MOST_CORNERS: usize = 40;
const MOST_POSTS: usize = 40;
const MOST_AREAS: usize = 20;
/// The least and the most of a pen each way, metres.
const LEAST: f64 = 6.0;
const MOST: f64 = 400.0;
/// An oval is drawn with so many sides: off by under 1 part in 400 of its half width.
const OVAL_SIDES: usize = 48;
/// The gate stands at most so far from the fence, and posts at most so far outside, metres.
const NEAR: f64 = 3.0;

impl Outline {
    /// As corners.
    pub fn polygon(&self) -> Polygon {
        match self {
            Outline::Rectangle { width, length } => Polygon(
                [(0.0, 0.0), (*width, 0.0), (*width, *length), (0.0, *length)].map(|(x, y)| Point::new(x, y)).to_vec(),
            ),
            Outline::Oval { width, length } => {
                let at = |n: usize| Point::polar(std::f64::consts::TAU * n as f64 / OVAL_SIDES as f64, 1.0);
                let corner = |p: Point| Point::new((p.x + 1.0) * width / 2.0, (p.y + 1.0) * length / 2.0);
                Polygon((0..OVAL_SIDES).map(|n| corner(at(n))).collect())
            }
            Outline::Corners { corners } => Polygon(corners.clone()),
        }
    }
}

impl Pen {
    /// Its fences as corners, once it is known to be in order.
    ///
    /// ```
    /// use cavesson_core::pattern::{Outline, Pen, PenFault, Point};
    /// let bow_tie = [(0.0, 0.0), (30.0, 40.0), (30.0, 0.0), (0.0, 40.0)].map(|(x, y)| Point::new(x, y)).to_vec();
    /// let pen = Pen { outline: Outline::Corners { corners: bow_tie }, north: 0.0, gate: None, posts: vec![], areas: vec![] };
    /// assert_eq!(pen.checked(), Err(PenFault::SidesCross(0, 2)));
    /// ```
    ///
    /// # Errors
    /// [`PenFault`]: sides cross, or something is missing, too small, too large or somewhere else.
    pub fn checked(&self) -> Result<Polygon, PenFault> {
        let fences = self.outline.polygon();
        let count = fences.0.len();
        if count < 3 || (count > MOST_CORNERS && matches!(self.outline, Outline::Corners { .. })) {
            return Err(PenFault::Corners(count));
        }
        let (least, most) = fences.bounds();
        let size = most - least;
        if !(LEAST..=MOST).contains(&size.x) || !(LEAST..=MOST).contains(&size.y) {
            return Err(PenFault::Size(size.x, size.y));
        }
        if let Some((a, b)) = fences.crossing() {
            return Err(PenFault::SidesCross(a, b));
        }
        if self.posts.len() > MOST_POSTS || self.areas.len() > MOST_AREAS {
            return Err(PenFault::TooMany);
        }
        for (n, area) in self.areas.iter().enumerate() {
            if !(3..=MOST_CORNERS).contains(&area.corners.0.len()) || !(1..=3).contains(&area.bad) {
                return Err(PenFault::Area(n));
            }
            if area.corners.crossing().is_some() {
                return Err(PenFault::AreaCrosses(n));
            }
        }
        if let Some(n) = self.posts.iter().position(|p| fences.room_at(*p) < -NEAR) {
            return Err(PenFault::Post(n));
        }
        match self.gate.map(|gate| fences.room_at(gate).abs()) {
            Some(away) if away > NEAR => Err(PenFault::Gate(away)),
            _ => Ok(fences),
        }
    }

    /// Everything that a tape can be held at: corners that are posts, and posts.
    pub fn posts(&self) -> Vec<Point> {
        let corners = match &self.outline {
            Outline::Oval { .. } => vec![],
            other => other.polygon().0,
        };
        corners.into_iter().chain(self.posts.iter().copied()).collect()
    }
}
