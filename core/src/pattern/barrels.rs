//! The path of a barrel pattern: common tangents between circles, and turns whose radius changes from spot to spot.

use std::f64::consts::{PI, TAU};

use serde::{Deserialize, Serialize};

use crate::plane::Point;
use crate::words::words;

words! {
    "a hand";
    /// To which hand a barrel is turned.
    pub enum Hand {
        Left,
        Right,
    }
}

impl Hand {
    /// 1 counter-clockwise, to the left, and -1 clockwise.
    pub fn sign(self) -> f64 {
        if self == Hand::Left { 1.0 } else { -1.0 }
    }

    /// The other one.
    pub fn other(self) -> Hand {
        if self == Hand::Left { Hand::Right } else { Hand::Left }
    }
}

words! {
    "a spot";
    /// The three spots of a barrel: where the turn starts, behind the barrel, where it ends.
    pub enum Spot {
        Entry,
        Back,
        Exit,
    }
}

/// The clear distance from the barrel's side to the middle of the horse's track at each spot, metres, over 0.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)]
pub struct Pocket {
    pub entry: f64,
    pub back: f64,
    pub exit: f64,
}

impl Pocket {
    /// At a spot.
    pub fn at(&self, spot: Spot) -> f64 {
        match spot {
            Spot::Entry => self.entry,
            Spot::Back => self.back,
            Spot::Exit => self.exit,
        }
    }

    /// The same with another distance at one spot.
    pub fn with(mut self, spot: Spot, pocket: f64) -> Pocket {
        match spot {
            Spot::Entry => self.entry = pocket,
            Spot::Back => self.back = pocket,
            Spot::Exit => self.exit = pocket,
        }
        self
    }
}

/// A barrel, and how it is turned.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Barrel {
    /// Its middle.
    pub at: Point,
    /// To which hand it is turned.
    pub turn: Hand,
    /// How far the horse keeps from it.
    pub pocket: Pocket,
    /// Metres before the first spot at which the horse is down to the speed of the turn; 0 for the quickest run, more where the
    /// rider sits early.
    #[serde(default)]
    pub early: f64,
}

/// A set-up of barrels, in the order in which they are run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SetUp {
    /// Where the clock starts.
    pub start: Point,
    /// Where it stops.
    pub finish: Point,
    /// Of the barrels, metres, over 0.
    pub barrel_radius: f64,
    /// At least one.
    pub barrels: Vec<Barrel>,
}

/// A straight.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub struct Leg {
    pub from: Point,
    pub to: Point,
}

impl Leg {
    /// Metres.
    pub fn length(&self) -> f64 {
        self.from.distance(self.to)
    }
}

/// The way round a barrel.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Turn {
    /// The barrel's middle.
    pub centre: Point,
    /// To which hand.
    pub hand: Hand,
    /// Distance of the track from the centre at the three spots, metres.
    pub radii: [f64; 3],
    /// Direction of the first spot from the centre, radians.
    pub from: f64,
    /// Radians gone round: over 0, at most a whole circle.
    pub sweep: f64,
}

/// Where a turn is at one moment.
pub(crate) struct OnTurn {
    pub at: Point,
    /// Metres of track for each radian gone round.
    pub pace: f64,
    /// One over the radius of the bend, 1/m.
    pub curvature: f64,
}

impl Turn {
    /// Where the three spots are.
    pub fn spots(&self) -> [Point; 3] {
        [(0.0, 0), (0.5, 1), (1.0, 2)].map(|(share, n)| self.at(share * self.sweep, self.radii[n]))
    }

    fn at(&self, gone: f64, radius: f64) -> Point {
        self.centre + Point::polar(self.from + self.hand.sign() * gone, radius)
    }

    /// The most metres of track for each radian that a half (0 or 1) may come to.
    pub(crate) fn most_pace(&self, half: usize) -> f64 {
        let (a, b) = (self.radii[half], self.radii[half + 1]);
        a.max(b).hypot((b - a) * PI / self.sweep)
    }

    /// After so many radians of one half (0 or 1) of the turn: the radius goes over by half a cosine.
    pub(crate) fn on(&self, half: usize, gone: f64) -> OnTurn {
        let (a, b) = (self.radii[half], self.radii[half + 1]);
        let wave = TAU / self.sweep;
        let phase = wave * (gone - half as f64 * self.sweep / 2.0);
        let r = a + (b - a) * (1.0 - phase.cos()) / 2.0;
        let first = (b - a) / 2.0 * wave * phase.sin();
        let second = (b - a) / 2.0 * wave * wave * phase.cos();
        // Curvature of a polar curve: (r² + 2r'² - r r'') / (r² + r'²)^(3/2), from any text on differential geometry.
        let pace = r.hypot(first);
        let curvature = ((r * r + 2.0 * first * first - r * second) / pace.powi(3)).abs();
        OnTurn { at: self.at(gone, r), pace, curvature }
    }
}

/// A path: a straight more than turns.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct Path {
    pub legs: Vec<Leg>,
    pub turns: Vec<Turn>,
}

/// Why a set-up has no path. Barrels are named by their place in the order, from 0.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[allow(missing_docs)]
pub enum NoPath {
    #[error("there is no barrel")]
    NoBarrels,
    #[error(
        "the start is {distance:.2} m from the middle of the first barrel, inside its pocket: it must be over {least:.2} m away"
    )]
    StartInside { distance: f64, least: f64 },
    #[error(
        "the finish is {distance:.2} m from the middle of the last barrel, inside its pocket: it must be over {least:.2} m away"
    )]
    FinishInside { distance: f64, least: f64 },
    #[error("barrel {} stands inside the turn about barrel {}: {distance:.2} m apart, and must be over {least:.2} m", .inside + 1, .about + 1)]
    BarrelInside { inside: usize, about: usize, distance: f64, least: f64 },
    #[error("no straight leads from barrel {} to barrel {}: {distance:.2} m apart, and their pockets need {least:.2} m", .from + 1, .to + 1)]
    NoStraight { from: usize, to: usize, distance: f64, least: f64 },
}

/// A circle that a straight touches, gone round to a hand; a point is a circle of no radius.
#[derive(Clone, Copy)]
struct Round {
    centre: Point,
    radius: f64,
    hand: f64,
}

/// The straight that leaves one circle and meets the next, as they are gone round. The circle lies to its hand of the straight at
/// its radius: with n the straight's normal to the left, (c2 - c1)·n = h2 r2 - h1 r1. None where no straight does.
fn tangent(a: Round, b: Round) -> Option<Leg> {
    let between = b.centre - a.centre;
    let distance = between.length();
    let aside = b.hand * b.radius - a.hand * a.radius;
    if distance <= 0.0 || aside.abs() > distance {
        return None;
    }
    let direction = between.angle() - (aside / distance).asin();
    let left = Point::polar(direction + PI / 2.0, 1.0);
    Some(Leg { from: a.centre - left * (a.hand * a.radius), to: b.centre - left * (b.hand * b.radius) })
}

/// A turn under this many radians is a whole circle: the straights in and out lie on one line.
const NO_TURN: f64 = 1e-9;

impl SetUp {
    fn radii(&self, barrel: &Barrel) -> [f64; 3] {
        Spot::ALL.map(|spot| self.barrel_radius + barrel.pocket.at(spot))
    }

    fn round(&self, n: usize, spot: usize) -> Round {
        let barrel = &self.barrels[n];
        Round { centre: barrel.at, radius: self.radii(barrel)[spot], hand: barrel.turn.sign() }
    }

    /// The path round its barrels.
    ///
    /// ```
    /// use cavesson_core::pattern::{Barrel, Hand, Pocket, Point, SetUp};
    /// let pocket = Pocket { entry: 1.0, back: 1.0, exit: 1.0 };
    /// let barrel = Barrel { at: Point::new(1.5, 20.0), turn: Hand::Right, pocket, early: 0.0 };
    /// let (start, finish) = (Point::default(), Point::new(3.0, 0.0));
    /// let path = SetUp { start, finish, barrel_radius: 0.5, barrels: vec![barrel] }.path().unwrap();
    /// let round = path.turns[0].sweep.to_degrees();
    /// assert!((round - 180.0).abs() < 1e-6, "straight up, half round, straight down");
    /// ```
    ///
    /// # Errors
    /// [`NoPath`]: the start or the finish lies inside a pocket, a barrel stands in another's turn, or pockets overlap.
    pub fn path(&self) -> Result<Path, NoPath> {
        let (Some(first), Some(last)) = (self.barrels.first(), self.barrels.last()) else {
            return Err(NoPath::NoBarrels);
        };
        let (distance, least) = (self.start.distance(first.at), self.radii(first)[0]);
        if distance < least {
            return Err(NoPath::StartInside { distance, least });
        }
        let (distance, least) = (self.finish.distance(last.at), self.radii(last)[2]);
        if distance < least {
            return Err(NoPath::FinishInside { distance, least });
        }
        self.none_inside_another()?;
        let end = self.barrels.len() - 1;
        let point = |centre: Point| Round { centre, radius: 0.0, hand: 1.0 };
        let leg = |n: usize| {
            let a = if n == 0 { point(self.start) } else { self.round(n - 1, 2) };
            let b = if n > end { point(self.finish) } else { self.round(n, 0) };
            tangent(a, b).ok_or_else(|| NoPath::NoStraight {
                from: n.saturating_sub(1),
                to: n,
                distance: a.centre.distance(b.centre),
                least: (b.hand * b.radius - a.hand * a.radius).abs(),
            })
        };
        let legs: Vec<Leg> = (0..=end + 1).map(leg).collect::<Result<_, _>>()?;
        let turns = (self.barrels.iter().enumerate()).map(|(n, barrel)| self.turn(barrel, &legs[n], &legs[n + 1]));
        Ok(Path { turns: turns.collect(), legs })
    }

    fn turn(&self, barrel: &Barrel, before: &Leg, after: &Leg) -> Turn {
        let from = (before.to - barrel.at).angle();
        let gone = (barrel.turn.sign() * ((after.from - barrel.at).angle() - from)).rem_euclid(TAU);
        let sweep = if gone < NO_TURN { TAU } else { gone };
        Turn { centre: barrel.at, hand: barrel.turn, radii: self.radii(barrel), from, sweep }
    }

    fn none_inside_another(&self) -> Result<(), NoPath> {
        for (about, a) in self.barrels.iter().enumerate() {
            let least = self.radii(a).into_iter().fold(0.0, f64::max);
            for (inside, b) in self.barrels.iter().enumerate() {
                let distance = a.at.distance(b.at);
                if inside != about && distance <= least {
                    return Err(NoPath::BarrelInside { inside, about, distance, least });
                }
            }
        }
        Ok(())
    }
}

impl Path {
    /// The middle of each straight between turns to opposite hands, where the lead changes, with the turn it comes after.
    pub fn lead_changes(&self) -> Vec<(usize, Point)> {
        let opposite = self.turns.windows(2).enumerate().filter(|(_, pair)| pair[0].hand != pair[1].hand);
        opposite.map(|(n, _)| (n, self.legs[n + 1].from.middle(self.legs[n + 1].to))).collect()
    }
}
