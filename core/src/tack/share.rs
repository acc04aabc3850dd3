//! The two-rein: the share of the work that is on the bridle rein, as it moved through a ride and who asked; and when the horse is ready
//! to go straight up in the bridle.

use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use statrs::distribution::{ContinuousCDF, Normal};

use crate::words::words;

words! {
    "one who asks";
    /// Who asked for another share, and by what.
    pub enum Asker {
        /// The horse bears on what it has.
        Bears,
        /// The horse roots on what it has.
        Roots,
        /// The horse is sharp.
        Sharp,
        /// The horse is tired.
        Tired,
        /// The horse is scared or angry.
        Scared,
        /// The rider is tired or cross.
        Rider,
    }
}

/// The share was moved.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)]
pub struct ShareMove {
    /// Seconds from the start of the ride.
    pub at: u32,
    /// Per cent on the bridle rein from then on.
    pub bridle: u8,
    /// Who asked, where that was told.
    pub asked: Option<Asker>,
}

/// A ride in the two-rein. Made by [`SharedRide::new`], so that its moves are in order.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SharedRide {
    on: NaiveDate,
    seconds: u32,
    begins: u8,
    moves: Vec<ShareMove>,
}

/// Why a ride cannot have been ridden so.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[allow(missing_docs)]
pub enum NoSuchRide {
    #[error("a share is 0 to 100 percent, not {0}")]
    Share(u8),
    #[error("move {} comes before the one it follows, or after the ride", .0 + 1)]
    Order(usize),
    #[error("the ride takes no time")]
    Empty,
}

impl SharedRide {
    /// A ride that begins with a share, per cent, and in which it was moved.
    ///
    /// # Errors
    /// [`NoSuchRide`]: a share over 100, moves out of order or after the end, no time at all.
    ///
    /// ```
    /// use cavesson_core::tack::{Asker, ShareMove, SharedRide};
    /// let on = "2026-03-02".parse().unwrap();
    /// let more = ShareMove { at: 600, bridle: 30, asked: Some(Asker::Bears) };
    /// let ride = SharedRide::new(on, 2400, 10, vec![more])?;
    /// assert!((ride.mean_share() - 0.25).abs() < 1e-12, "ten minutes at 10 %, thirty at 30 %");
    /// assert_eq!(ride.asks(), (1, 0));
    /// # Ok::<(), cavesson_core::tack::NoSuchRide>(())
    /// ```
    pub fn new(on: NaiveDate, seconds: u32, begins: u8, moves: Vec<ShareMove>) -> Result<SharedRide, NoSuchRide> {
        if let Some(over) = moves.iter().map(|m| m.bridle).chain([begins]).find(|share| *share > 100) {
            return Err(NoSuchRide::Share(over));
        }
        if seconds == 0 {
            return Err(NoSuchRide::Empty);
        }
        let mut last = 0;
        for (n, m) in moves.iter().enumerate() {
            if m.at < last || m.at > seconds {
                return Err(NoSuchRide::Order(n));
            }
            last = m.at;
        }
        Ok(SharedRide { on, seconds, begins, moves })
    }

    /// The day.
    pub fn on(&self) -> NaiveDate {
        self.on
    }

    /// How long it was.
    pub fn seconds(&self) -> u32 {
        self.seconds
    }

    /// The share that it began with, per cent.
    pub fn begins(&self) -> u8 {
        self.begins
    }

    /// How it was moved, in order.
    pub fn moves(&self) -> &[ShareMove] {
        &self.moves
    }

    /// The share on the bridle rein, 0 to 1, weighted by time.
    pub fn mean_share(&self) -> f64 {
        let (mut since, mut share, mut sum) = (0, self.begins, 0.0);
        for m in &self.moves {
            sum += f64::from(m.at - since) * f64::from(share);
            (since, share) = (m.at, m.bridle);
        }
        sum += f64::from(self.seconds - since) * f64::from(share);
        sum / f64::from(self.seconds) / 100.0
    }

    /// How often more and less was asked for, by whoever asked.
    pub fn asks(&self) -> (usize, usize) {
        let befores = [self.begins].into_iter().chain(self.moves.iter().map(|m| m.bridle));
        let asked = self.moves.iter().zip(befores).filter(|(m, _)| m.asked.is_some());
        asked.fold((0, 0), |(more, less), (m, before)| match m.bridle.cmp(&before) {
            std::cmp::Ordering::Greater => (more + 1, less),
            std::cmp::Ordering::Less => (more, less + 1),
            std::cmp::Ordering::Equal => (more, less),
        })
    }
}

/// How far a horse is in the two-rein.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Readiness {
    /// The day of the last ride that it rests on.
    pub on: NaiveDate,
    /// The share that it carries on an ordinary day, 0 to 1, and one standard deviation.
    pub share: (f64, f64),
    /// How much that rises in a day, and one standard deviation.
    pub a_day: (f64, f64),
    /// How the two hang together.
    covariance: f64,
    /// Rides that it rests on.
    pub rides: usize,
}

/// Straight up in the bridle: the share that the horse carries through.
const STRAIGHT_UP: f64 = 0.95;
/// The two-rein takes about a year from a tenth on the bridle (common practice): the rise in a day.
const RISE: f64 = 0.85 / 365.0;
/// Horses differ in it by this share of it.
const HORSES_DIFFER: f64 = 0.35;
/// The mean share of a ride is off what the horse carries by this.
const RIDES_DIFFER: f64 = 0.1;
/// A ride this many times further below than rides differ is a hard day, and says little of the others.
const HARD_DAY: f64 = 2.0;
/// How the rise wanders in a day.
const WANDERS: f64 = RISE * 0.01;
/// How the share that a horse carries wanders in a day, as a variance: half a hundredth in two days.
const A_DAY: f64 = 5e-6;
/// No forecast looks further, days.
const FURTHEST: u64 = 5 * 365;

/// Follows a horse through its rides in the two-rein, oldest first: a level and a rise, by the Kalman filter of a local linear trend
/// (Harvey 1989, from memory), begun from what horses do. None where there are no rides.
pub fn readiness(rides: &[SharedRide]) -> Option<Readiness> {
    let first = rides.first()?;
    let noise = RIDES_DIFFER * RIDES_DIFFER;
    let (mut level, mut rise) = (first.mean_share(), RISE);
    let (mut vl, mut vr, mut c) = (noise, (RISE * HORSES_DIFFER).powi(2), 0.0);
    let mut day = first.on;
    for ride in &rides[1..] {
        let days = (ride.on - day).num_days().max(0) as f64;
        day = ride.on;
        level += rise * days;
        vl += 2.0 * c * days + vr * days * days + A_DAY * days;
        c += vr * days;
        vr += WANDERS * WANDERS * days;
        let off = ride.mean_share() - level;
        // A hard day pulls the level down by little: it is repaired the next, not a step back.
        let hard = off < -HARD_DAY * (vl + noise).sqrt();
        let total = vl + if hard { 9.0 * noise } else { noise };
        let (gain_level, gain_rise) = (vl / total, c / total);
        level += gain_level * off;
        rise += gain_rise * off;
        vr -= gain_rise * c;
        c -= gain_level * c;
        vl -= gain_level * vl;
    }
    Some(Readiness { on: day, share: (level, vl.sqrt()), a_day: (rise, vr.sqrt()), covariance: c, rides: rides.len() })
}

impl Readiness {
    /// The day by which the horse is ready to go straight up, as likely as `sure` (0 to 1); none within five years.
    pub fn straight_up_by(&self, sure: f64) -> Option<NaiveDate> {
        let z = Normal::standard().inverse_cdf(sure);
        let ready = |days: u64| {
            let t = days as f64;
            let mean = self.share.0 + self.a_day.0 * t;
            let wander = WANDERS * WANDERS * t * t * t / 3.0 + A_DAY * t;
            let variance = self.share.1.powi(2) + 2.0 * self.covariance * t + self.a_day.1.powi(2) * t * t + wander;
            mean - z * variance.sqrt() >= STRAIGHT_UP
        };
        (0..=FURTHEST).find(|days| ready(*days)).map(|days| self.on + Days::new(days))
    }
}

/// What to begin the next ride with.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NextShare {
    /// Per cent on the bridle rein, in steps of five.
    pub bridle: u8,
    /// Why.
    pub why: &'static str,
}

/// The rides that say whether the horse keeps asking.
const LATELY: usize = 4;

/// The share to begin the next ride with, from the rides so far, oldest first (common practice for the hard day; the rest is what the
/// horse carries). None where there are no rides.
///
/// ```
/// use cavesson_core::tack::{SharedRide, next_share};
/// let ride = |day: u32, share| SharedRide::new(chrono::NaiveDate::from_ymd_opt(2026, 3, day).unwrap(), 2400, share, vec![]).unwrap();
/// let mut rides: Vec<SharedRide> = (1..20).map(|day| ride(day, 40)).collect();
/// assert_eq!(next_share(&rides).unwrap().bridle, 40);
/// rides.push(ride(20, 5));
/// assert!(next_share(&rides).unwrap().why.contains("hard day"));
/// ```
pub fn next_share(rides: &[SharedRide]) -> Option<NextShare> {
    let (last, before) = rides.split_last()?;
    let carries = readiness(if before.is_empty() { rides } else { before })?.share.0;
    let in_fives = |share: f64| ((share.clamp(0.0, 1.0) * 20.0).round() * 5.0) as u8;
    if last.mean_share() < carries - HARD_DAY * RIDES_DIFFER {
        let why = "After a hard day: the old share first, for fifteen or twenty minutes, then what it asks for";
        return Some(NextShare { bridle: in_fives(last.mean_share()), why });
    }
    let now = readiness(rides)?.share.0;
    let lately = &rides[rides.len().saturating_sub(LATELY)..];
    let (more, less) = lately.iter().map(SharedRide::asks).fold((0, 0), |sum, asks| (sum.0 + asks.0, sum.1 + asks.1));
    let (bridle, why) = match (more, less) {
        (2.., 0) => (now + 0.05, "It asks for more and does not ask back: a little over what it carries"),
        (_, 2..) if less > more => (now - 0.05, "It asks back: a little under what it carries"),
        _ => (now, "What it carries on an ordinary day"),
    };
    Some(NextShare { bridle: in_fives(bridle), why })
}
