//! A work on the flag: where it goes, how fast and how long it waits, from what the horse is on and how its stops came out.

use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde::{Deserialize, Serialize};

use super::FlagEnd;

/// A stop on the flag as it was logged.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct StopTold {
    /// Where on the line.
    pub end: FlagEnd,
    /// Tenths of a foot that the horse was past the flag; short under 0.
    #[cfg_attr(feature = "schema", schema(minimum = -300, maximum = 300))]
    pub past: i16,
    /// It answered late.
    pub late: bool,
    /// It left before the flag did.
    pub guessed: bool,
}

impl StopTold {
    /// Whether it was even with the flag, within a foot, and waited.
    pub fn is_right(&self) -> bool {
        self.past.abs() <= 10 && !self.guessed && !self.late
    }
}

/// How the stops at one end came out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct EndHabit {
    /// Where.
    pub end: FlagEnd,
    /// Stops.
    pub stops: usize,
    /// Feet past on average; short under 0.
    pub past: f64,
    /// Guesses.
    pub guesses: usize,
    /// What helps there, where something does.
    pub remedy: Option<&'static str>,
}

/// A move of the programme.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FlagMove {
    /// To where on the line, feet from its middle.
    pub to: f64,
    /// Feet a second.
    pub speed: f64,
    /// Seconds that it stands there.
    pub wait: f64,
    /// What to do there, where the horse has a habit at that end.
    pub remedy: Option<&'static str>,
}

/// What a programme is made from.
#[derive(Debug, Clone, PartialEq)]
pub struct FlagAsked {
    /// Half the length of the line, feet.
    pub half: f64,
    /// Whether the horse turns with the flag yet; before that it goes along with it and stops even.
    pub turns: bool,
    /// Its stops so far, oldest first.
    pub stops: Vec<StopTold>,
    /// Makes the same programme each time.
    pub seed: u64,
}

/// Moves of a work: few good stops are worth more than many tired ones.
const MOVES: usize = 8;
/// The latest stops that say how a horse does.
const BACK: usize = 24;
/// A habit is so far past or short on average, feet, over so many stops.
const HABIT: (f64, usize) = (1.0, 3);
/// The speed of a first work, and of one in which the stops are right, feet a second.
const SPEEDS: (f64, f64) = (5.0, 9.0);
/// Seconds that the flag waits, from and to; and where the horse guesses or runs past.
const WAITS: (f64, f64) = (2.0, 5.0);
const LONG_WAITS: (f64, f64) = (5.0, 9.0);

/// How the latest stops came out at an end.
pub fn end_habit(stops: &[StopTold], end: FlagEnd) -> EndHabit {
    let latest = &stops[stops.len().saturating_sub(BACK)..];
    let here: Vec<&StopTold> = latest.iter().filter(|stop| stop.end == end).collect();
    let sum: f64 = here.iter().map(|stop| f64::from(stop.past) / 10.0).sum();
    let past = if here.is_empty() { 0.0 } else { sum / here.len() as f64 };
    let guesses = here.iter().filter(|stop| stop.guessed).count();
    let late = here.iter().filter(|stop| stop.late).count();
    let remedy = if here.len() < HABIT.1 {
        None
    } else if past >= HABIT.0 {
        Some("turn it up and circle until the flag leaves the other way")
    } else if past <= -HABIT.0 {
        Some("hurry it there")
    } else if guesses * 3 >= here.len() {
        Some("wait: it goes when you go")
    } else if late * 2 >= here.len() {
        Some("late: let it, once")
    } else {
        None
    };
    EndHabit { end, stops: here.len(), past, guesses, remedy }
}

/// The speed of the flag for a horse: slow at first, faster as its stops come right.
pub fn flag_speed(stops: &[StopTold]) -> f64 {
    let latest = &stops[stops.len().saturating_sub(BACK)..];
    if latest.len() < HABIT.1 {
        return SPEEDS.0;
    }
    let right = latest.iter().filter(|stop| stop.is_right()).count() as f64 / latest.len() as f64;
    SPEEDS.0 + (SPEEDS.1 - SPEEDS.0) * right
}

/// A work of eight moves: as many to either end, in an order drawn by lot, with waits of any length; longer where the horse guesses or goes
/// past. It ends where its stops are best.
///
/// ```
/// use cavesson_core::cattle::{FlagAsked, flag_programme};
/// let moves = flag_programme(&FlagAsked { half: 25.0, turns: true, stops: vec![], seed: 7 });
/// assert_eq!(moves.len(), 8);
/// assert!(moves.iter().all(|m| m.to.abs() < 25.0 && m.speed == 5.0 && m.wait >= 2.0));
/// ```
pub fn flag_programme(asked: &FlagAsked) -> Vec<FlagMove> {
    let mut rng = ChaCha8Rng::seed_from_u64(asked.seed);
    let habits = [FlagEnd::Left, FlagEnd::Middle, FlagEnd::Right].map(|end| end_habit(&asked.stops, end));
    let off = |habit: &EndHabit| if habit.stops == 0 { 0.0 } else { habit.past.abs() };
    let best = if off(&habits[2]) < off(&habits[0]) { FlagEnd::Right } else { FlagEnd::Left };
    let speed = flag_speed(&asked.stops);
    let mut moves: Vec<FlagMove> = vec![];
    let (mut left, mut right) = (MOVES.div_ceil(2), MOVES / 2);
    if best == FlagEnd::Right {
        std::mem::swap(&mut left, &mut right);
    }
    let mut at = 0.0;
    while left + right > 0 {
        let last = left + right == 1;
        // Twice the same way is stopping half way first: which it will be cannot be known from the last.
        let goes_left = if last { best == FlagEnd::Left } else { rng.random_range(0..left + right) < left };
        let goes_left = (goes_left && left > 0) || right == 0;
        let way = if goes_left { -1.0 } else { 1.0 };
        *(if goes_left { &mut left } else { &mut right }) -= 1;
        let to = target(asked, at, way, &mut rng);
        let end = &habits[if to < -asked.half / 2.0 {
            0
        } else if to > asked.half / 2.0 {
            2
        } else {
            1
        }];
        let waits = if end.remedy.is_some() && end.past > -HABIT.0 { LONG_WAITS } else { WAITS };
        let hurried = if end.past <= -HABIT.0 && end.remedy.is_some() { 1.15 } else { 1.0 };
        let wait = rng.random_range(waits.0..waits.1);
        moves.push(FlagMove { to, speed: (speed * hurried).min(SPEEDS.1), wait, remedy: end.remedy });
        at = to;
    }
    moves
}

/// Where a move one way ends: some way on, never against the end of the rail; a horse that does not turn yet is led further.
fn target(asked: &FlagAsked, at: f64, way: f64, rng: &mut impl rand::Rng) -> f64 {
    let rail = asked.half * 0.92;
    let room = rail - at * way;
    let least = if asked.turns { 0.35 } else { 0.6 };
    if room < asked.half * 0.3 {
        // Against the rail there is nowhere to go on to: it goes the other way.
        return at - way * asked.half * rng.random_range(0.5..1.2);
    }
    at + way * room * rng.random_range(least..1.0)
}
