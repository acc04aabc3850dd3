use serde::{Deserialize, Serialize};

use crate::{
    curriculum::Measure,
    response::{Outcome, Tally},
    words::words,
};

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
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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
    /// How long it stayed off the hand.
    Held {
        /// Whole seconds.
        seconds: u16,
        /// Whether it came back onto the hand then. If not, it was let go of while it was soft.
        lost: bool,
    },
    /// Steps on end that were right.
    Steps {
        /// How many.
        steps: u8,
        /// Whether the next one went wrong. If not, it was told to stand.
        broke: bool,
    },
}

/// The most seconds that are held: an hour.
const MOST_SECONDS: u16 = 3600;
/// The most tries that are written down as one count.
const MOST_TRIES: usize = 60;

/// A count whose parts contradict each other or its rung.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum CountError {
    /// The rung is counted otherwise.
    #[error("this rung is counted in {}", .0.noun())]
    OtherMeasure(Measure),
    /// More of the part than of the whole, or nothing at all.
    #[error("there must be at least one, and no more good ones than all")]
    PartOverWhole,
    /// More than anybody counts at a time.
    #[error("that is more than one count holds: at most an hour held, and {MOST_TRIES} tries")]
    TooMuch,
}

impl Count {
    /// Checks a count against the measure of its rung.
    ///
    /// ```
    /// use cavesson_core::{count::Count, curriculum::Measure};
    /// assert!(Count::NoseUps { circles: 4, ups: 1 }.checked(Measure::NoseUps).is_ok());
    /// assert!(Count::NoseUps { circles: 4, ups: 1 }.checked(Measure::SetUps).is_err(), "another measure");
    /// ```
    ///
    /// # Errors
    /// Another measure, a part that is more than the whole, or more than one count holds.
    pub fn checked(self, measure: Measure) -> Result<Count, CountError> {
        if !self.is_of(measure) {
            return Err(CountError::OtherMeasure(measure));
        }
        let whole = match &self {
            Count::Laps { laps, .. } => *laps > 0,
            Count::NoseUps { circles, .. } => *circles > 0,
            Count::SetUps { asked, accepted } => *asked > 0 && accepted <= asked,
            Count::Tries { tries } => !tries.is_empty(),
            Count::ReinShare { bridle, .. } => *bridle <= 100,
            Count::Mounts { mounts, loose } => *mounts > 0 && loose <= mounts,
            Count::Held { seconds, lost } => *lost || *seconds > 0,
            Count::Steps { steps, broke } => *broke || *steps > 0,
        };
        let holds = match &self {
            Count::Tries { tries } => tries.len() <= MOST_TRIES,
            Count::Held { seconds, .. } => *seconds <= MOST_SECONDS,
            _ => true,
        };
        match (whole, holds) {
            (false, _) => Err(CountError::PartOverWhole),
            (_, false) => Err(CountError::TooMuch),
            _ => Ok(self),
        }
    }

    /// Whether it is of the kind that a measure counts.
    pub fn is_of(&self, measure: Measure) -> bool {
        matches!(
            (self, measure),
            (Count::Laps { .. }, Measure::Laps { .. })
                | (Count::NoseUps { .. }, Measure::NoseUps)
                | (Count::SetUps { .. }, Measure::SetUps)
                | (Count::Tries { .. }, Measure::Tries { .. })
                | (Count::ReinShare { .. }, Measure::ReinShare { .. })
                | (Count::Mounts { .. }, Measure::Mounts { .. })
                | (Count::Held { .. }, Measure::Held { .. })
                | (Count::Steps { .. }, Measure::Steps { .. })
        )
    }

    /// How many there were, and how many of them met what the measure asks. What was let go of before it could meet it, and was
    /// good until then, is none at all.
    ///
    /// ```
    /// use cavesson_core::{count::Count, curriculum::Measure};
    /// let tally = Count::SetUps { asked: 6, accepted: 4 }.tally(Measure::SetUps);
    /// assert_eq!((tally.reps, tally.met), (6, 4));
    /// let early = Count::Held { seconds: 4, lost: false }.tally(Measure::Held { seconds: 10 });
    /// assert_eq!((early.reps, early.met), (0, 0), "nobody knows whether it would have held ten");
    /// ```
    pub fn tally(&self, measure: Measure) -> Tally {
        let reached = |reached: bool, cut_short: bool| (u32::from(reached || !cut_short), u32::from(reached));
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
            (Count::Held { seconds, lost }, Measure::Held { seconds: wanted }) => reached(*seconds >= wanted, !lost),
            (Count::Steps { steps, broke }, Measure::Steps { count }) => reached(*steps >= count, !broke),
            _ => (1, 0),
        };
        Tally { reps, met, not_whole: reps - met, ..Tally::default() }
    }

    /// The same in the words of an ask: gave where all of it met the standard, tried where some of it did or it went that way,
    /// none where nothing of it was there.
    ///
    /// ```
    /// use cavesson_core::{count::{Count, ObstacleStage}, curriculum::Measure, response::Outcome};
    /// let tries = |stage| Count::Tries { tries: vec![stage] }.outcome(Measure::Tries { within: 3 });
    /// assert_eq!(tries(ObstacleStage::Crosses), Outcome::Gave);
    /// assert_eq!(tries(ObstacleStage::TwoFeet), Outcome::Tried);
    /// assert_eq!(tries(ObstacleStage::Looks), Outcome::None);
    /// ```
    pub fn outcome(&self, measure: Measure) -> Outcome {
        let tally = self.tally(measure);
        let some_of_it = match self {
            Count::Laps { soft, .. } | Count::ReinShare { soft, .. } => *soft,
            Count::Tries { tries } => tries.iter().any(|t| *t > ObstacleStage::Looks),
            Count::Held { seconds, .. } => *seconds > 0,
            Count::Steps { steps, .. } => *steps > 0,
            // One nose-up a circle is on the way, more is not.
            Count::NoseUps { circles, ups } => ups <= circles,
            Count::SetUps { .. } | Count::Mounts { .. } => tally.met > 0,
        };
        match some_of_it {
            _ if tally.reps > 0 && tally.met == tally.reps => Outcome::Gave,
            true => Outcome::Tried,
            false => Outcome::None,
        }
    }

    /// Lower is better among counts of one measure: for the best of the day. `None` where one good one is as good as another.
    pub(crate) fn rank(&self) -> Option<i32> {
        match self {
            Count::Laps { laps, .. } => Some(i32::from(*laps)),
            Count::Held { seconds, .. } => Some(-i32::from(*seconds)),
            Count::Steps { steps, .. } => Some(-i32::from(*steps)),
            Count::Tries { tries } => Some(tries.len() as i32),
            _ => None,
        }
    }
}
