//! A work on the flag whose truth is known, and what a tracker records of it.

use cavesson_core::cattle::{Recording, Sample};
use rand::{Rng, RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Normal};

/// Going from one place to another: evenly faster, even, evenly slower.
#[derive(Debug, Clone, Copy)]
pub struct Move {
    /// When it begins, seconds.
    pub begin: f64,
    /// From where to where, feet along the line.
    pub from: f64,
    /// To where.
    pub to: f64,
    /// The most speed, feet a second.
    pub top: f64,
    /// Feet a second gained in a second, and lost.
    pub gain: f64,
    /// Lost in a second.
    pub brake: f64,
}

impl Move {
    /// Top speed, and the seconds of gaining, of going evenly and of braking.
    fn parts(&self) -> [f64; 4] {
        let feet = (self.to - self.from).abs();
        let reached = (2.0 * feet * self.gain * self.brake / (self.gain + self.brake)).sqrt();
        let top = self.top.min(reached);
        let (gaining, braking) = (top / self.gain, top / self.brake);
        [top, gaining, ((feet - top * (gaining + braking) / 2.0) / top).max(0.0), braking]
    }

    /// When it is there, seconds.
    pub fn end(&self) -> f64 {
        let [_, gaining, even, braking] = self.parts();
        self.begin + gaining + even + braking
    }

    /// Place and speed at a time.
    fn at(&self, t: f64) -> (f64, f64) {
        let [top, gaining, even, braking] = self.parts();
        let long = gaining + even + braking;
        let t = (t - self.begin).clamp(0.0, long);
        let left = long - t;
        let (feet, speed) = if t < gaining {
            (self.gain * t * t / 2.0, self.gain * t)
        } else if left < braking {
            ((self.to - self.from).abs() - self.brake * left * left / 2.0, self.brake * left)
        } else {
            (top * (t - gaining / 2.0), top)
        };
        let way = (self.to - self.from).signum();
        (self.from + way * feet, way * speed)
    }
}

/// Moves in order of time, with stands between.
#[derive(Debug, Clone)]
pub struct Moves(pub Vec<Move>);

impl Moves {
    /// Place, feet, and speed, feet a second, at a time. There is at least one move.
    pub fn at(&self, t: f64) -> (f64, f64) {
        match self.0.partition_point(|m| m.begin <= t) {
            0 => (self.0[0].from, 0.0),
            n => self.0[n - 1].at(t),
        }
    }
}

/// A work: what flag and horse did.
#[derive(Debug, Clone)]
pub struct FlagWork {
    /// Half the length of the line, feet: it lies about 0.
    pub half: f64,
    /// When the recording ends, seconds.
    pub end: f64,
    /// What the flag did.
    pub flag: Moves,
    /// What the horse's eye did.
    pub horse: Moves,
}

impl FlagWork {
    /// A work of some ten moves, from a seed: the horse is late or early, past or short by its habit at either end, walks through a stop after
    /// which the flag goes on, and sometimes leaves first.
    pub fn of(seed: u64) -> FlagWork {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let half = rng.random_range(20.0..32.0);
        let (flag, goes_on) = flag_moves(half, &mut rng);
        let horse = horse_moves(&flag, &goes_on, &mut rng);
        let end = flag.last().map_or(0.0, Move::end) + rng.random_range(2.0..4.0);
        FlagWork { half, end, flag: Moves(flag), horse: Moves(horse) }
    }

    /// What a tracker records: `noise` feet of spread about the horse, some values wild and some lost.
    pub fn record(&self, noise: f64, seed: u64) -> Recording {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let rate = rng.random_range(10.0..19.0);
        let mut lost_until = 0.0;
        let mut t = rng.random_range(0.0..0.05);
        let mut samples = vec![];
        while t < self.end {
            if rng.random_bool(0.004) {
                lost_until = t + rng.random_range(0.2..0.7);
            }
            let flag = seen(self.flag.at(t).0, 0.08, &mut rng);
            let horse = seen(self.horse.at(t).0, noise, &mut rng).filter(|_| t >= lost_until);
            samples.push(Sample { t, flag, horse });
            t += rng.random_range(0.85..1.15) / rate;
        }
        Recording { left: -self.half, right: self.half, samples }
    }
}

fn seen(at: f64, noise: f64, rng: &mut impl Rng) -> Option<f64> {
    if rng.random_bool(0.02) {
        return None;
    }
    if rng.random_bool(0.015) {
        return Some(at + rng.random_range(-15.0..15.0));
    }
    // The spread is over 0, so there is such a distribution.
    let off = Normal::new(0.0, noise).map_or(0.0, |normal| normal.sample(rng));
    Some(at + off)
}

/// The flag's moves, and of each whether it goes on the way of the one before.
fn flag_moves(half: f64, rng: &mut impl Rng) -> (Vec<Move>, Vec<bool>) {
    let (gain, brake) = (rng.random_range(7.0..16.0), rng.random_range(7.0..16.0));
    let top: f64 = rng.random_range(6.0..14.0);
    let mut way = if rng.random_bool(0.5) { 1.0 } else { -1.0 };
    let (mut from, mut begin) = (rng.random_range(-5.0..5.0), rng.random_range(0.5..2.0));
    let (mut moves, mut goes_on): (Vec<Move>, Vec<bool>) = (vec![], vec![]);
    for n in 0..rng.random_range(8..13) {
        let on = n > 0 && from * way < half * 0.4 && rng.random_bool(0.12);
        way = if n == 0 || on { way } else { -way };
        let far = if !on && rng.random_bool(0.3) { rng.random_range(-0.3..0.4) } else { rng.random_range(0.75..0.97) };
        let to: f64 = way * half * far;
        let to = if (to - from) * way < 6.0 { from + way * 8.0 } else { to }.clamp(-half, half);
        // A flag that goes on stood before, or it is no stop.
        begin += if on { 0.6 } else { 0.0 };
        let next = Move { begin, from, to, top: top * rng.random_range(0.7..1.1), gain, brake };
        begin = next.end() + if rng.random_bool(0.35) { 0.0 } else { rng.random_range(0.5..4.5) };
        from = to;
        moves.push(next);
        goes_on.push(on);
    }
    (moves, goes_on)
}

fn horse_moves(flag: &[Move], goes_on: &[bool], rng: &mut impl Rng) -> Vec<Move> {
    let (gain, brake) = (rng.random_range(7.0..15.0), rng.random_range(7.0..16.0));
    let habit = [rng.random_range(-1.5..2.5), rng.random_range(-1.5..2.5)];
    let mut from = flag[0].from + rng.random_range(-1.5..1.5);
    let mut begin = flag[0].begin + rng.random_range(0.1..0.6);
    let (mut moves, mut n) = (vec![], 0);
    while n < flag.len() {
        while n + 1 < flag.len() && goes_on[n + 1] && rng.random_bool(0.5) {
            n += 1;
        }
        let led = flag[n];
        let way = (led.to - led.from).signum();
        let past = habit[usize::from(way > 0.0)] + rng.random_range(-1.2..1.2);
        let to = led.to + way * past;
        let to = if (to - from) * way < 3.5 { from + way * 4.0 } else { to };
        let early = rng.random_bool(0.1);
        let there = led.end() + if early { rng.random_range(-1.0..0.0) } else { rng.random_range(-0.1..1.1) };
        let top = in_time((to - from).abs(), there - begin, gain, brake);
        let next = Move { begin, from, to, top, gain, brake };
        let stands = next.end();
        moves.push(next);
        from = to;
        n += 1;
        if n < flag.len() {
            begin = leaves(stands, flag[n].begin, goes_on[n], rng);
        }
    }
    moves
}

/// When the horse leaves a stand: after the flag, or well before it, where it guesses.
fn leaves(stands: f64, flag: f64, goes_on: bool, rng: &mut impl Rng) -> f64 {
    let waited = flag - stands;
    let leaves = if waited > 1.2 && rng.random_bool(0.1) {
        flag - rng.random_range(0.35..waited - 0.6)
    } else {
        flag + rng.random_range(0.1..0.6)
    };
    leaves.max(stands + if goes_on { 0.4 } else { 0.001 })
}

/// The speed at which so many feet take so many seconds, with gaining and braking; a fast one where there is too little time.
fn in_time(feet: f64, seconds: f64, gain: f64, brake: f64) -> f64 {
    let lost = (gain + brake) / (2.0 * gain * brake);
    let under = seconds * seconds - 4.0 * lost * feet;
    if seconds <= 0.0 || under < 0.0 { 30.0 } else { ((seconds - under.sqrt()) / (2.0 * lost)).max(1.5) }
}
