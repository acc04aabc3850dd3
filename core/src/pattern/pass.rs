//! A pass as it is told from the saddle, and what passes say together.

use chrono::{Datelike, Days, NaiveDate};
use serde::{Deserialize, Serialize};

use super::barrels::Hand;
use crate::{curriculum::Gait, words::words};

words! {
    "a way to pass a spot";
    /// How close the horse went at a spot.
    pub enum PocketTold {
        Close,
        AsPlanned,
        Wide,
    }
}

words! {
    "a way to rate";
    /// When the horse rated for a barrel.
    pub enum RateTold {
        Early,
        AsPlanned,
        Late,
    }
}

words! {
    "a fault at a barrel";
    /// What went wrong at a barrel.
    pub enum PassFault {
        FellIn,
        SteppedOff,
        RanPast,
        BrokeGait,
        WrongLead,
    }
}

/// What is told of one barrel.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct BarrelTold {
    /// At the three spots.
    #[serde(default)]
    pub pocket: [Option<PocketTold>; 3],
    /// When it rated.
    #[serde(default)]
    pub rate: Option<RateTold>,
    /// Whether the barrel went down.
    #[serde(default)]
    pub knocked: bool,
    /// What went wrong.
    #[serde(default)]
    pub faults: Vec<PassFault>,
}

impl BarrelTold {
    /// Why this barrel is to get more pocket; nothing where it was right.
    ///
    /// ```
    /// use cavesson_core::pattern::{BarrelTold, PocketTold};
    /// let close = Some(PocketTold::Close);
    /// let told = BarrelTold { pocket: [close, close, None], ..BarrelTold::default() };
    /// assert_eq!(told.failed(), Some("too close at two spots"));
    /// assert_eq!(BarrelTold::default().failed(), None);
    /// ```
    pub fn failed(&self) -> Option<&'static str> {
        let close = self.pocket.iter().filter(|p| **p == Some(PocketTold::Close)).count();
        let has = |fault| self.faults.contains(&fault);
        [
            (self.knocked, "knocked down"),
            (has(PassFault::FellIn), "fell in"),
            (has(PassFault::SteppedOff), "stepped off"),
            (has(PassFault::RanPast), "ran past"),
            (close >= 2, "too close at two spots"),
        ]
        .into_iter()
        .find_map(|(is, why)| is.then_some(why))
    }
}

/// A pass.
#[derive(Debug, Clone, PartialEq)]
pub struct Pass {
    /// On which day.
    pub on: NaiveDate,
    /// At which gait.
    pub gait: Gait,
    /// To which hand each barrel was turned.
    pub hands: Vec<Hand>,
    /// Barrel by barrel.
    pub told: Vec<BarrelTold>,
    /// Seconds without what is added for barrels, where it was timed.
    pub seconds: Option<f64>,
}

/// Seconds added for a barrel that is knocked down (association rule books, from memory).
pub const KNOCKED_SECONDS: f64 = 5.0;

impl Pass {
    /// Seconds with what is added for barrels that went down.
    pub fn official(&self) -> Option<f64> {
        let knocked = self.told.iter().filter(|t| t.knocked).count();
        self.seconds.map(|s| s + KNOCKED_SECONDS * knocked as f64)
    }
}

/// How close or wide a horse goes at a barrel in one week.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Drift {
    /// Which barrel, from 0.
    pub barrel: usize,
    /// To which hand it was turned.
    pub hand: Hand,
    /// The Monday of the week.
    pub week: NaiveDate,
    /// Spots told.
    pub spots: usize,
    /// Share wide less share close: 1 always wide, -1 always close.
    pub drift: f64,
}

/// The drift of passes by barrel, hand and week, in that order.
pub fn drifts(passes: &[Pass]) -> Vec<Drift> {
    let mut sums: std::collections::BTreeMap<(usize, Hand, NaiveDate), (usize, i32)> =
        std::collections::BTreeMap::new();
    for pass in passes {
        let week = pass.on - Days::new(u64::from(pass.on.weekday().num_days_from_monday()));
        for ((barrel, told), hand) in pass.told.iter().enumerate().zip(&pass.hands) {
            for pocket in told.pocket.iter().flatten() {
                let sum = sums.entry((barrel, *hand, week)).or_default();
                sum.0 += 1;
                sum.1 += match pocket {
                    PocketTold::Close => -1,
                    PocketTold::AsPlanned => 0,
                    PocketTold::Wide => 1,
                };
            }
        }
    }
    let drift = |((barrel, hand, week), (spots, sum)): ((usize, Hand, NaiveDate), (usize, i32))| Drift {
        barrel,
        hand,
        week,
        spots,
        drift: f64::from(sum) / spots as f64,
    };
    sums.into_iter().map(drift).collect()
}

/// Divisions begin at the fastest time and so many seconds from it, as many events have them (common practice).
pub const DIVISION_SPREADS: [f64; 3] = [0.5, 1.0, 2.0];

/// Where a run is placed in an event of divisions.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Placing {
    /// From 1: the division whose spread from the fastest the time reaches.
    pub division: usize,
    /// From 1 within the division; equal times have the same place.
    pub place: usize,
}

/// The placings of times, in their order. A division begins at the fastest time and each spread, seconds, that rise from it.
///
/// ```
/// use cavesson_core::pattern::{Placing, placings};
/// let placed = placings(&[17.2, 16.8, 17.4, 17.2], &[0.5, 1.0]);
/// assert_eq!(placed[0], Placing { division: 1, place: 2 });
/// assert_eq!(placed[2], Placing { division: 2, place: 1 }, "0.6 s from the fastest");
/// assert_eq!(placed[3], placed[0], "equal times share a place");
/// ```
pub fn placings(times: &[f64], spreads: &[f64]) -> Vec<Placing> {
    let fastest = times.iter().copied().fold(f64::INFINITY, f64::min);
    // Times are told to the millisecond; sums of them are not exact.
    let division = |t: f64| 1 + spreads.iter().filter(|spread| t - fastest >= **spread - 5e-4).count();
    times
        .iter()
        .map(|&t| {
            let faster = times.iter().filter(|o| division(**o) == division(t) && **o < t - 5e-4).count();
            Placing { division: division(t), place: 1 + faster }
        })
        .collect()
}
