//! A recorded track laid over a planned run.

use super::{barrels::Spot, run::Run};
use crate::plane::Point;

/// A point of a track, in metres of any axes, and seconds.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub struct TrackPoint {
    pub at: Point,
    pub t: f64,
}

/// Why a track says nothing of a run.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[allow(missing_docs)]
pub enum NoTrack {
    #[error("the track has {0} points that can be used; it needs {LEAST_POINTS}")]
    TooFew(usize),
    #[error("the track is {is:.0} m long, and the pattern {plan:.0} m: it does not hold a whole pass")]
    TooShort { is: f64, plan: f64 },
    #[error("no part of the track looks like the pattern: the nearest is {off:.1} m off on the average")]
    Elsewhere { off: f64 },
}

/// A track on the plan.
#[derive(Debug, Clone, PartialEq)]
pub struct LaidOver {
    /// The pass within the track, in the plan's axes; seconds from its start.
    pub points: Vec<TrackPoint>,
    /// How far the track lies from the plan, root mean square, metres: what the horse did otherwise and what the device is off.
    pub off: f64,
    /// Pocket at the three spots of each barrel, metres; negative where the track goes over the barrel.
    pub pockets: Vec<[f64; 3]>,
    /// Seconds behind each barrel.
    pub behind: Vec<f64>,
    /// Seconds in all.
    pub time: f64,
    /// Where the plan lies in the track's own axes.
    pub placed: Placed,
    /// Seconds of the track at which the pass begins.
    pub began: f64,
}

/// Where the axes of a plan lie in those of a track.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Placed {
    /// The plan's origin.
    pub origin: Point,
    /// Radians from the track's x to the plan's, counter-clockwise.
    pub turned: f64,
}

impl Placed {
    /// A point of the plan, in the track's axes.
    ///
    /// ```
    /// use cavesson_core::pattern::{Placed, Point};
    /// let placed = Placed { origin: Point::new(10.0, 0.0), turned: std::f64::consts::FRAC_PI_2 };
    /// let there = placed.recorded(Point::new(2.0, 0.0));
    /// assert!(there.distance(Point::new(10.0, 2.0)) < 1e-9);
    /// ```
    pub fn recorded(&self, p: Point) -> Point {
        p.turned(self.turned) + self.origin
    }
}

const LEAST_POINTS: usize = 20;
/// A horse is not faster, m/s: such a step is a jump of the device.
const JUMP: f64 = 22.0;
/// Seconds to either side over which a track is smoothed to measure its length.
const MOMENT: f64 = 0.35;
/// The pass is compared at so many places.
const PLACES: usize = 120;
/// A track further off than this on the average is of something else, metres.
const ELSEWHERE: f64 = 8.0;

/// A line with the way along it.
struct Line {
    points: Vec<TrackPoint>,
    along: Vec<f64>,
}

impl Line {
    /// The way is measured over the mean of what lies within a moment, so that a device's noise does not lengthen it.
    fn new(points: Vec<TrackPoint>) -> Line {
        let smooth = |n: usize| {
            let near = |p: &&TrackPoint| (p.t - points[n].t).abs() <= MOMENT;
            let before = points[..n].iter().rev().take_while(near);
            let (sum, count) = (before.chain(points[n..].iter().take_while(near)))
                .fold((Point::default(), 0.0), |(sum, count), p| (sum + p.at, count + 1.0));
            sum * (1.0 / count)
        };
        let mut way = 0.0;
        let mut last = smooth(0);
        let along = (0..points.len())
            .map(|n| {
                let here = smooth(n);
                way += here.distance(last);
                last = here;
                way
            })
            .collect();
        Line { points, along }
    }

    fn length(&self) -> f64 {
        self.along.last().copied().unwrap_or(0.0)
    }

    /// At a way along it, between points.
    fn at(&self, way: f64) -> TrackPoint {
        let after = self.along.partition_point(|a| *a < way).clamp(1, self.points.len() - 1);
        let (a, b) = (self.points[after - 1], self.points[after]);
        let stretch = self.along[after] - self.along[after - 1];
        let share = if stretch > 0.0 { ((way - self.along[after - 1]) / stretch).clamp(0.0, 1.0) } else { 0.0 };
        TrackPoint { at: a.at + (b.at - a.at) * share, t: a.t + (b.t - a.t) * share }
    }

    fn places(&self, from: f64, to: f64) -> Vec<Point> {
        (0..PLACES).map(|n| self.at(from + (to - from) * n as f64 / (PLACES - 1) as f64).at).collect()
    }
}

/// A turn and a shift.
#[derive(Clone, Copy)]
struct Move {
    angle: f64,
    from: Point,
    to: Point,
}

impl Move {
    fn of(&self, p: Point) -> Point {
        (p - self.from).turned(self.angle) + self.to
    }

    /// The same the other way round.
    fn placed(&self) -> Placed {
        let turned = -self.angle;
        Placed { origin: self.from - self.to.turned(turned), turned }
    }

    /// That brings points onto others best, by least squares (in the plane: Umeyama 1991 without scale, from memory).
    fn onto(points: &[Point], others: &[Point]) -> Move {
        let mean = |of: &[Point]| of.iter().fold(Point::default(), |sum, p| sum + *p) * (1.0 / of.len() as f64);
        let (from, to) = (mean(points), mean(others));
        let (mut dot, mut cross) = (0.0, 0.0);
        for (p, o) in points.iter().zip(others) {
            dot += (*p - from).dot(*o - to);
            cross += (*p - from).cross(*o - to);
        }
        Move { angle: cross.atan2(dot), from, to }
    }

    fn off(&self, points: &[Point], others: &[Point]) -> f64 {
        let sum: f64 = points.iter().zip(others).map(|(p, o)| self.of(*p).distance(*o).powi(2)).sum();
        (sum / points.len() as f64).sqrt()
    }
}

/// Without jumps and repeated moments, from its first moment.
fn usable(track: &[TrackPoint]) -> Vec<TrackPoint> {
    let mut out: Vec<TrackPoint> = vec![];
    for p in track.iter().filter(|p| p.at.x.is_finite() && p.at.y.is_finite() && p.t.is_finite()) {
        let Some(last) = out.last() else {
            out.push(*p);
            continue;
        };
        let dt = p.t - last.t;
        if dt > 0.0 && last.at.distance(p.at) <= JUMP * dt.min(10.0) {
            out.push(*p);
        }
    }
    out
}

/// The part of a track that looks most like the plan when both are walked at even pace.
fn most_alike(track: &Line, plan: &[Point], length: f64) -> Option<(f64, f64, Move, f64)> {
    let step = (length / 60.0).max(1.0);
    let mut best: Option<(f64, f64, Move, f64)> = None;
    for longer in [0.94, 1.0, 1.06, 1.14, 1.25] {
        let part = (length * longer).min(track.length());
        let starts = ((track.length() - part) / step) as usize;
        for n in 0..=starts {
            let (from, to) = (n as f64 * step, n as f64 * step + part);
            let points = track.places(from, to);
            let moved = Move::onto(&points, plan);
            let off = moved.off(&points, plan);
            if best.as_ref().is_none_or(|b| off < b.3) {
                best = Some((from, to, moved, off));
            }
        }
    }
    best
}

/// Brings the part nearer: each place is held against the nearest of the plan that is not far from it along the way.
fn nearer(points: &[Point], plan: &[Point], mut moved: Move) -> (Move, f64) {
    let near = PLACES / 12;
    let mut off = f64::INFINITY;
    for _ in 0..25 {
        let others: Vec<Point> = (points.iter().enumerate())
            .map(|(n, p)| {
                let at = moved.of(*p);
                let some = &plan[n.saturating_sub(near)..(n + near + 1).min(plan.len())];
                let stretches = some.windows(2).map(|w| nearest_on(at, w[0], w[1]));
                stretches.min_by(|a, b| at.distance(*a).total_cmp(&at.distance(*b))).unwrap_or(some[0])
            })
            .collect();
        moved = Move::onto(points, &others);
        off = moved.off(points, &others);
    }
    (moved, off)
}

fn nearest_on(p: Point, a: Point, b: Point) -> Point {
    let along = b - a;
    let squared = along.dot(along);
    let share = if squared > 0.0 { ((p - a).dot(along) / squared).clamp(0.0, 1.0) } else { 0.0 };
    a + along * share
}

/// Lays a track over a run: finds the pass in it, turns and shifts it onto the plan, and reads off pockets and times.
///
/// # Errors
/// [`NoTrack`]: too few points, too short, or nothing in it looks like the pattern.
pub fn lay_over(run: &Run, barrel_radius: f64, track: &[TrackPoint]) -> Result<LaidOver, NoTrack> {
    let points = usable(track);
    if points.len() < LEAST_POINTS {
        return Err(NoTrack::TooFew(points.len()));
    }
    let track = Line::new(points);
    let plan = Line::new(run.points.iter().map(|p| TrackPoint { at: p.at, t: p.t }).collect());
    let (is, length) = (track.length(), plan.length());
    if is < length * 0.8 {
        return Err(NoTrack::TooShort { is, plan: length });
    }
    let places = plan.places(0.0, length);
    let (from, to, moved, off) = most_alike(&track, &places, length).ok_or(NoTrack::TooShort { is, plan: length })?;
    if off > ELSEWHERE {
        return Err(NoTrack::Elsewhere { off });
    }
    let (moved, off) = nearer(&track.places(from, to), &places, moved);
    let begin = track.at(from).t;
    let count = ((to - from) / 0.5) as usize + 2;
    let pass: Vec<TrackPoint> = (0..count)
        .map(|n| {
            let p = track.at(from + (to - from) * n as f64 / (count - 1) as f64);
            TrackPoint { at: moved.of(p.at), t: p.t - begin }
        })
        .collect();
    let (pockets, behind) = (0..run.path.turns.len()).map(|n| at_barrel(run, n, barrel_radius, &pass)).unzip();
    let time = track.at(to).t - begin;
    Ok(LaidOver { off, pockets, behind, time, placed: moved.placed(), began: begin, points: pass })
}

/// The pocket at each spot of a barrel, where the track passes its direction from the barrel, and when it is behind it.
fn at_barrel(run: &Run, n: usize, barrel_radius: f64, pass: &[TrackPoint]) -> ([f64; 3], f64) {
    let turn = &run.path.turns[n];
    let spots = turn.spots();
    let share = |spot: usize| run.points[run.spots[n][spot]].s / run.length();
    let at = Spot::ALL.map(|spot| {
        let spot = spot as usize;
        let towards = spots[spot] - turn.centre;
        let middle = (share(spot) * (pass.len() - 1) as f64) as usize;
        let window = pass.len() / 10;
        let some = &pass[middle.saturating_sub(window)..(middle + window + 1).min(pass.len())];
        let turned = |p: &TrackPoint| towards.cross(p.at - turn.centre).atan2(towards.dot(p.at - turn.centre)).abs();
        some.iter().min_by(|a, b| turned(a).total_cmp(&turned(b))).copied().unwrap_or(pass[middle])
    });
    (at.map(|p| p.at.distance(turn.centre) - barrel_radius), at[1].t)
}
