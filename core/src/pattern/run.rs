//! The quickest run over a path that a horse's speed, push, brakes and grip allow.

use serde::{Deserialize, Serialize};

use super::barrels::{NoPath, Path, SetUp};
use crate::plane::Point;

/// What a horse can do on this ground; metres and seconds, all over 0 but the start speed, which may be 0.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = HorseAbility))]
#[serde(deny_unknown_fields)]
pub struct Horse {
    /// m/s.
    pub top_speed: f64,
    /// The most it gains, m/s².
    pub speed_up: f64,
    /// The most it loses, m/s².
    pub slow_down: f64,
    /// The most it holds to the side, m/s².
    pub side_grip: f64,
    /// At the start, m/s.
    pub start_speed: f64,
    /// Metres a stride.
    pub stride: f64,
}

/// A point of a run.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RunPoint {
    /// Where.
    pub at: Point,
    /// Metres from the start.
    pub s: f64,
    /// m/s.
    pub speed: f64,
    /// Seconds from the start.
    pub t: f64,
}

/// Where a horse must start to slow for a turn.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Rate {
    /// Metres before the first spot; the whole straight where it slows all along it, 0 where it need not.
    pub before: f64,
}

/// A run.
#[derive(Debug, Clone, PartialEq)]
pub struct Run {
    /// Over which path.
    pub path: Path,
    /// At most [`STRAIGHT`] apart.
    pub points: Vec<RunPoint>,
    /// For each turn, the places of its three spots in `points`.
    pub spots: Vec<[usize; 3]>,
    /// For each turn.
    pub rates: Vec<Rate>,
}

/// Points of a straight are at most so far apart, metres (half a foot).
const STRAIGHT: f64 = 0.1524;
/// Points of a turn are at most so far apart, metres (an eighth of a foot).
const ROUND: f64 = 0.0381;

struct Sample {
    at: Point,
    s: f64,
    /// The most speed that grip and the horse allow, squared.
    cap: f64,
}

fn even(length: f64, step: f64) -> usize {
    ((length / step).ceil() as usize).max(1)
}

struct Sampler<'a> {
    horse: &'a Horse,
    samples: Vec<Sample>,
    s: f64,
}

impl Sampler<'_> {
    fn push(&mut self, at: Point, ds: f64, curvature: f64) {
        let top = self.horse.top_speed * self.horse.top_speed;
        let cap = if curvature > 0.0 { top.min(self.horse.side_grip / curvature) } else { top };
        self.s += ds;
        self.samples.push(Sample { at, s: self.s, cap });
    }

    /// Two stretches meet here: the tighter of them holds.
    fn tighten(&mut self, curvature: f64) {
        if let Some(last) = self.samples.last_mut().filter(|_| curvature > 0.0) {
            last.cap = last.cap.min(self.horse.side_grip / curvature);
        }
    }

    fn straight(&mut self, from: Point, to: Point) {
        let length = from.distance(to);
        let n = even(length, STRAIGHT);
        for k in 1..=n {
            let share = k as f64 / n as f64;
            self.push(from + (to - from) * share, length / n as f64, 0.0);
        }
    }

    /// One half of a turn. Lengths are by Simpson's rule on each step.
    fn half(&mut self, turn: &super::barrels::Turn, half: usize) {
        let begin = half as f64 * turn.sweep / 2.0;
        let n = even(turn.sweep / 2.0 * turn.most_pace(half), ROUND);
        let step = turn.sweep / 2.0 / n as f64;
        let mut before = turn.on(half, begin);
        self.tighten(before.curvature);
        for k in 0..n {
            let middle = turn.on(half, begin + (k as f64 + 0.5) * step);
            let after = turn.on(half, begin + (k as f64 + 1.0) * step);
            let ds = (before.pace + 4.0 * middle.pace + after.pace) * step / 6.0;
            self.push(after.at, ds, after.curvature);
            before = after;
        }
    }

    fn here(&self) -> usize {
        self.samples.len() - 1
    }
}

/// The quickest run of a set-up: at each point the speed is at most the top speed and what the grip holds in the bend, and between
/// points it gains and loses at most what the horse can. Forward and backward over the limit in turn, which is exact for limits
/// that do not hang on each other (bang-bang control along a given path; Bobrow, Dubowsky and Gibson 1985, from memory).
///
/// # Errors
/// [`NoPath`] where the set-up has none.
pub fn quickest_run(set_up: &SetUp, horse: &Horse) -> Result<Run, NoPath> {
    let path = set_up.path()?;
    let mut sampler = Sampler { horse, samples: vec![], s: 0.0 };
    sampler.push(set_up.start, 0.0, 0.0);
    let mut spots = vec![];
    for (n, turn) in path.turns.iter().enumerate() {
        let begin = sampler.here();
        sampler.straight(path.legs[n].from, path.legs[n].to);
        let entry = sampler.here();
        sampler.half(turn, 0);
        let back = sampler.here();
        sampler.half(turn, 1);
        spots.push([entry, back, sampler.here()]);
        settle(&mut sampler.samples, begin, entry, set_up.barrels[n].early);
    }
    if let Some(last) = path.legs.last() {
        sampler.straight(last.from, last.to);
    }
    let samples = sampler.samples;
    let squared = squared_speeds(&samples, horse);
    let points = timed(&samples, &squared);
    let rates = rates(&path, &points, &spots, (set_up, horse));
    Ok(Run { path, points, spots, rates })
}

/// Where the rider sits early: the last metres before the first spot are at no more than what holds there.
fn settle(samples: &mut [Sample], begin: usize, entry: usize, early: f64) {
    let (s, cap) = (samples[entry].s, samples[entry].cap);
    for sample in samples[begin..entry].iter_mut().filter(|sample| early > 0.0 && s - sample.s <= early) {
        sample.cap = sample.cap.min(cap);
    }
}

fn squared_speeds(samples: &[Sample], horse: &Horse) -> Vec<f64> {
    let mut squared: Vec<f64> = samples.iter().map(|s| s.cap).collect();
    squared[0] = squared[0].min(horse.start_speed * horse.start_speed);
    for n in 1..samples.len() {
        squared[n] = squared[n].min(squared[n - 1] + 2.0 * horse.speed_up * (samples[n].s - samples[n - 1].s));
    }
    for n in (1..samples.len()).rev() {
        squared[n - 1] = squared[n - 1].min(squared[n] + 2.0 * horse.slow_down * (samples[n].s - samples[n - 1].s));
    }
    squared
}

/// With constant acceleration between points, the time from one to the next is the way over the mean of their speeds.
fn timed(samples: &[Sample], squared: &[f64]) -> Vec<RunPoint> {
    let mut t = 0.0;
    (0..samples.len())
        .map(|n| {
            let speed = squared[n].sqrt();
            if n > 0 {
                let mean = (speed + squared[n - 1].sqrt()) / 2.0;
                t += if mean > 0.0 { (samples[n].s - samples[n - 1].s) / mean } else { 0.0 };
            }
            RunPoint { at: samples[n].at, s: samples[n].s, speed, t }
        })
        .collect()
}

/// On the straight before a turn the horse gains up to its top speed, then loses down to the speed of the first spot: the two meet
/// where v0² + 2 up s = v1² + 2 down (length - s). What the rider sits early is not part of that straight.
fn rates(path: &Path, points: &[RunPoint], spots: &[[usize; 3]], (set_up, horse): (&SetUp, &Horse)) -> Vec<Rate> {
    (spots.iter().enumerate())
        .map(|(n, spot)| {
            let begin = if n == 0 { 0 } else { spots[n - 1][2] };
            let early = set_up.barrels[n].early.min(path.legs[n].length());
            let length = path.legs[n].length() - early;
            let (v0, v1) = (points[begin].speed.powi(2), points[spot[0]].speed.powi(2));
            let from_top = (horse.top_speed.powi(2) - v1) / (2.0 * horse.slow_down);
            let meet = (v0 + 2.0 * horse.speed_up * length - v1) / (2.0 * (horse.speed_up + horse.slow_down));
            Rate { before: early + from_top.min(meet).clamp(0.0, length) }
        })
        .collect()
}

impl Run {
    /// Metres.
    pub fn length(&self) -> f64 {
        self.points.last().map_or(0.0, |p| p.s)
    }

    /// Seconds.
    pub fn time(&self) -> f64 {
        self.points.last().map_or(0.0, |p| p.t)
    }

    /// The points of a turn, from its first spot to its last.
    pub fn round(&self, turn: usize) -> &[RunPoint] {
        &self.points[self.spots[turn][0]..=self.spots[turn][2]]
    }

    /// The slowest of a turn, m/s.
    pub fn slowest(&self, turn: usize) -> f64 {
        self.round(turn).iter().map(|p| p.speed).fold(f64::INFINITY, f64::min)
    }

    /// Seconds in a turn.
    pub fn turn_time(&self, turn: usize) -> f64 {
        let round = self.round(turn);
        round[round.len() - 1].t - round[0].t
    }

    /// The points, thinned to at most so far apart. Spots, ends and the slowest of each dip stay, and so many others that the speeds
    /// of two neighbours still tell the time between them, and in a turn are alike.
    pub fn thinned(&self, apart: f64) -> Vec<RunPoint> {
        let mut kept: Vec<bool> = vec![false; self.points.len()];
        self.spots.iter().flatten().for_each(|&spot| kept[spot] = true);
        for (n, w) in self.points.windows(3).enumerate() {
            kept[n + 1] |= w[1].speed < w[0].speed && w[1].speed <= w[2].speed;
        }
        let mut out: Vec<RunPoint> = self.points.first().copied().into_iter().collect();
        for (n, w) in self.points.windows(2).enumerate() {
            let (Some(last), [here, next]) = (out.last(), w) else { continue };
            let by_speeds = 2.0 * (next.s - last.s) / (next.speed + last.speed);
            let time = next.t - last.t;
            let other = (next.speed - last.speed).abs() > 0.06 * last.speed;
            let round = self.spots.iter().any(|spot| (spot[0]..spot[2]).contains(&n));
            if here.s > last.s
                && (kept[n] || next.s - last.s > apart || (round && other) || (by_speeds - time).abs() > 0.02 * time)
            {
                out.push(*here);
            }
        }
        out.extend(self.points.last());
        out
    }
}
