//! Rungs that are counted in something else than reps, each with the likelihood that fits it.
//!
//! | measure | what a day says | what is asked |
//! |---|---|---|
//! | laps until soft | every lap that was not the last one missed: geometric | soft within so many laps |
//! | nose-ups a circle | Poisson | a circle without any |
//! | set-ups | binomial | a set-up accepted |
//! | tries | each stage of the approach passed or not, the same chance at each: geometric, cut off at the far side | across within so many tries |
//! | share of rein | binomial over the stretches ridden at the share or over it | such a stretch soft |
//! | mounts | binomial, and so many of them | stood loose |
//!
//! The chance behind each has a Jeffreys prior. Sets of one day are alike, so that each beyond the first counts for less;
//! and what is old counts half after [`HALF_LIFE`] days.

use std::collections::BTreeMap;

use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use statrs::distribution::{Beta, ContinuousCDF, Gamma};

use super::Interval;
use crate::{
    curriculum::Measure,
    response::{Standard, Tally},
    words::words,
};

/// Days after which a count weighs half. Common practice made into a figure, no published source.
const HALF_LIFE: f64 = 60.0;
/// How alike the sets of one day are, 0 to 1: the intraclass correlation of the design effect (Kish 1965; memory).
const ALIKE: f64 = 0.3;

words! {
    "a stage of a try";
    /// How far a try at an obstacle got.
    pub enum ObstacleStage {
        /// It looks.
        Looks,
        /// It steps toward it.
        Toward,
        /// One foot on.
        OneFoot,
        /// Two feet on.
        TwoFeet,
        /// Four feet on.
        FourFeet,
        /// It stands on it.
        Stands,
        /// It crosses.
        Crosses,
    }
}

words! {
    "a reason for more or less rein";
    /// What asked for more or less of the bridle rein.
    pub enum AskedBy {
        /// It bears on what it has.
        Bears,
        /// It roots.
        Roots,
        /// It is tired.
        Tired,
        /// It is scared.
        Scared,
        /// It is sharp.
        Sharp,
    }
}

/// What one set showed on a rung that is not counted in reps.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Count {
    /// Laps ridden, and whether the last of them was soft.
    Laps {
        /// How many.
        laps: u8,
        /// Whether it came soft in the end.
        soft: bool,
    },
    /// Circles ridden, and how often the nose came up in them.
    NoseUps {
        /// How many circles.
        circles: u8,
        /// Nose-ups in all of them.
        ups: u8,
    },
    /// Set-ups, and how many it accepted without going.
    SetUps {
        /// How many.
        asked: u8,
        /// How many it accepted.
        accepted: u8,
    },
    /// Tries at an obstacle, in order.
    Tries {
        /// How far each got.
        tries: Vec<ObstacleStage>,
    },
    /// A stretch of the ride at some share of the bridle rein.
    ReinShare {
        /// Per cent on the bridle rein.
        bridle: u8,
        /// Whether it stayed soft at it.
        soft: bool,
        /// What asked for this share, where it was moved.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        asked: Option<AskedBy>,
    },
    /// Times up and down, and how many of them it stood loose.
    Mounts {
        /// How many.
        mounts: u8,
        /// How many it stood loose.
        loose: u8,
    },
}

/// A count whose parts contradict each other or its rung.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum CountError {
    /// The rung is counted otherwise.
    #[error("this rung is not counted that way")]
    OtherMeasure,
    /// More of the part than of the whole, or nothing at all.
    #[error("there must be at least one, and no more good ones than all")]
    PartOverWhole,
}

impl Count {
    /// Checks a count against the measure of its rung.
    ///
    /// ```
    /// use cavesson_core::{belief::Count, curriculum::Measure};
    /// assert!(Count::NoseUps { circles: 4, ups: 1 }.checked(Measure::NoseUps).is_ok());
    /// assert!(Count::NoseUps { circles: 4, ups: 1 }.checked(Measure::SetUps).is_err(), "another measure");
    /// ```
    ///
    /// # Errors
    /// Another measure, or a part that is more than the whole.
    pub fn checked(self, measure: Measure) -> Result<Count, CountError> {
        let fits = matches!(
            (&self, measure),
            (Count::Laps { .. }, Measure::Laps { .. })
                | (Count::NoseUps { .. }, Measure::NoseUps)
                | (Count::SetUps { .. }, Measure::SetUps)
                | (Count::Tries { .. }, Measure::Tries { .. })
                | (Count::ReinShare { .. }, Measure::ReinShare { .. })
                | (Count::Mounts { .. }, Measure::Mounts { .. })
        );
        let whole = match &self {
            Count::Laps { laps, .. } => *laps > 0,
            Count::NoseUps { circles, .. } => *circles > 0,
            Count::SetUps { asked, accepted } => *asked > 0 && accepted <= asked,
            Count::Tries { tries } => !tries.is_empty() && tries.len() <= 60,
            Count::ReinShare { bridle, .. } => *bridle <= 100,
            Count::Mounts { mounts, loose } => *mounts > 0 && loose <= mounts,
        };
        match (fits, whole) {
            (false, _) => Err(CountError::OtherMeasure),
            (_, false) => Err(CountError::PartOverWhole),
            _ => Ok(self),
        }
    }

    /// Passed and missed chances: what it says of the one chance behind its measure. For nose-ups, the nose-ups and the
    /// circles.
    fn chances(&self, measure: Measure) -> (f64, f64) {
        match self {
            Count::Laps { laps, soft: true } => (1.0, f64::from(*laps) - 1.0),
            Count::Laps { laps, soft: false } => (0.0, f64::from(*laps)),
            Count::NoseUps { circles, ups } => (f64::from(*ups), f64::from(*circles)),
            Count::SetUps { asked, accepted } => (f64::from(*accepted), f64::from(asked - accepted)),
            Count::Tries { tries } => {
                let passed: f64 = tries.iter().map(|&t| f64::from(t as u8)).sum();
                (passed, tries.iter().filter(|t| **t < ObstacleStage::Crosses).count() as f64)
            }
            Count::ReinShare { bridle, soft, .. } => match measure {
                Measure::ReinShare { bridle: wanted } if *bridle < wanted => (0.0, 0.0),
                _ => (f64::from(u8::from(*soft)), f64::from(u8::from(!*soft))),
            },
            Count::Mounts { mounts, loose } => (f64::from(*loose), f64::from(mounts - loose)),
        }
    }

    /// How many there were, and how many of them met what the measure asks.
    ///
    /// ```
    /// use cavesson_core::{belief::Count, curriculum::Measure};
    /// let tally = Count::SetUps { asked: 6, accepted: 4 }.tally(Measure::SetUps);
    /// assert_eq!((tally.reps, tally.met), (6, 4));
    /// ```
    pub fn tally(&self, measure: Measure) -> Tally {
        let (reps, met) = match (self, measure) {
            (Count::Laps { laps, soft }, Measure::Laps { most }) => (1, u32::from(*soft && *laps <= most)),
            (Count::NoseUps { circles, ups }, _) => (u32::from(*circles), u32::from(circles.saturating_sub(*ups))),
            (Count::SetUps { asked, accepted }, _) => (u32::from(*asked), u32::from(*accepted)),
            (Count::Tries { tries }, _) => {
                (tries.len() as u32, tries.iter().filter(|t| **t == ObstacleStage::Crosses).count() as u32)
            }
            (Count::Mounts { mounts, loose }, _) => (u32::from(*mounts), u32::from(*loose)),
            (Count::ReinShare { bridle, soft, .. }, Measure::ReinShare { bridle: wanted }) => {
                (1, u32::from(*soft && *bridle >= wanted))
            }
            _ => (1, 0),
        };
        Tally { reps, met, not_whole: reps - met, ..Tally::default() }
    }
}

/// What the counts of one step and side say: `ready`, `under`, and the share that meets the standard.
pub(super) struct Counted {
    pub ready: f64,
    pub under: f64,
    pub share: Interval,
}

/// The chance behind a measure, as the counts have it.
enum Chance {
    Beta(Beta),
    /// Nose-ups a circle.
    Rate(Gamma),
}

pub(super) fn posterior(measure: Measure, standard: &Standard, log: &[(NaiveDate, Count)], on: NaiveDate) -> Counted {
    let (first, second) = weighed(measure, log, on);
    let chance = match measure {
        Measure::NoseUps => Gamma::new(0.5 + first, 0.25 + second).ok().map(Chance::Rate),
        _ => Beta::new(0.5 + first, 0.5 + second).ok().map(Chance::Beta),
    };
    let Some(chance) = chance else {
        return Counted { ready: 0.0, under: 1.0, share: Interval { mean: 0.5, low: 0.0, high: 1.0 } };
    };
    let under = |share: f64| match &chance {
        Chance::Beta(b) => b.cdf(chance_for(measure, share)),
        Chance::Rate(g) => 1.0 - g.cdf(-share.ln()),
    };
    let at = |q: f64| match &chance {
        Chance::Beta(b) => share_for(measure, b.inverse_cdf(q)),
        Chance::Rate(g) => (-g.inverse_cdf(1.0 - q)).exp(),
    };
    // The mean by the midpoint rule over its own quantiles.
    const NODES: usize = 40;
    let mean = (0..NODES).map(|i| at((i as f64 + 0.5) / NODES as f64)).sum::<f64>() / NODES as f64;
    let enough = match measure {
        Measure::Mounts { count } => mounts(log) >= u32::from(count),
        _ => true,
    };
    let wanted = standard.share.fraction();
    Counted {
        ready: if enough { 1.0 - under(wanted) } else { 0.0 },
        under: under(wanted - 0.05),
        share: Interval { mean, low: at(0.05).min(mean), high: at(0.95).max(mean) },
    }
}

/// Times up and down so far.
pub(super) fn mounts(log: &[(NaiveDate, Count)]) -> u32 {
    log.iter().map(|(_, c)| if let Count::Mounts { mounts, .. } = c { u32::from(*mounts) } else { 0 }).sum()
}

/// Chances passed and missed, each by its age and by how many came on its day.
fn weighed(measure: Measure, log: &[(NaiveDate, Count)], on: NaiveDate) -> (f64, f64) {
    let mut days: BTreeMap<NaiveDate, (f64, f64)> = BTreeMap::new();
    for (date, count) in log {
        let (first, second) = count.chances(measure);
        let day = days.entry(*date).or_default();
        day.0 += first;
        day.1 += second;
    }
    days.into_iter().fold((0.0, 0.0), |sum, (date, (first, second))| {
        let size = if measure == Measure::NoseUps { second } else { first + second };
        let alike = 1.0 / (1.0 + ALIKE * (size - 1.0).max(0.0));
        let weight = alike * 0.5_f64.powf((on - date).num_days().max(0) as f64 / HALF_LIFE);
        (sum.0 + weight * first, sum.1 + weight * second)
    })
}

/// The share that meets the standard, from the chance behind it.
fn share_for(measure: Measure, chance: f64) -> f64 {
    match measure {
        Measure::Laps { most } => 1.0 - (1.0 - chance).powi(i32::from(most)),
        Measure::Tries { within } => 1.0 - (1.0 - chance.powi(ObstacleStage::Crosses as i32)).powi(i32::from(within)),
        _ => chance,
    }
}

/// The chance at which the share is just this.
fn chance_for(measure: Measure, share: f64) -> f64 {
    match measure {
        Measure::Laps { most } => 1.0 - (1.0 - share).powf(1.0 / f64::from(most.max(1))),
        Measure::Tries { within } => {
            let across = 1.0 - (1.0 - share).powf(1.0 / f64::from(within.max(1)));
            across.powf(1.0 / f64::from(ObstacleStage::Crosses as u8))
        }
        _ => share,
    }
}
