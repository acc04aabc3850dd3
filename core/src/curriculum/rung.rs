use serde::{Deserialize, Serialize};

use super::{Gait, Sides, WorkNeeds};
use crate::{
    response::Standard,
    words::{UnknownWord, words},
};

/// A ladder: rungs of one subject, in teaching order.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Ladder {
    /// One capital letter, unique.
    pub letter: char,
    /// Its name: `Stop and back`.
    pub name: String,
    /// What working its rungs takes, where a rung says nothing else.
    #[serde(default)]
    pub work: WorkNeeds,
}

/// How the answers on a rung are counted. What each says of owning the rung is in [`crate::count::Count`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Measure {
    /// One ask, one answer, one release.
    #[default]
    Reps,
    /// Laps of a circle until it is soft.
    Laps {
        /// The most laps that still meet the standard.
        most: u8,
    },
    /// Times the nose came up in so many circles; none is owned.
    NoseUps,
    /// Set-ups that ended without going, and how many of them were accepted.
    SetUps,
    /// Tries at an obstacle: how far each got.
    Tries {
        /// The most tries until it crosses that still meet the standard.
        within: u8,
    },
    /// The share of the bridle rein, beside the hackamore's.
    ReinShare {
        /// Per cent of the work on the bridle rein that the rung is about.
        bridle: u8,
    },
    /// Times up and down, and how many of them it stood loose.
    Mounts {
        /// How many there should be before the first steps.
        count: u16,
    },
    /// Seconds that it stays off the hand.
    Held {
        /// The fewest that meet the standard.
        seconds: u16,
    },
    /// Steps on end that are right.
    Steps {
        /// The fewest that meet the standard.
        count: u8,
    },
}

words! {
    "a zone of the horse";
    /// Where on the horse a rung shows: a part of the view from the saddle.
    pub enum Zone {
        /// Face and poll.
        Poll,
        Neck,
        Shoulders,
        Ribs,
        Hips,
        /// Hind feet.
        Feet,
    }
}

/// A rung that must be owned first, at its slowest gait or at a named one (`S6` or `S6@jog` in the data).
///
/// ```
/// use cavesson_core::curriculum::{Gait, Need};
/// let need: Need = "S6@jog".to_owned().try_into()?;
/// assert_eq!((need.rung.as_str(), need.gait), ("S6", Some(Gait::Jog)));
/// assert_eq!(String::from(need), "S6@jog");
/// # Ok::<(), cavesson_core::UnknownWord>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Need {
    /// The rung's id.
    pub rung: String,
    /// The gait, where it is not the rung's slowest.
    pub gait: Option<Gait>,
}

impl TryFrom<String> for Need {
    type Error = UnknownWord;
    fn try_from(text: String) -> Result<Self, UnknownWord> {
        Ok(match text.split_once('@') {
            Some((rung, gait)) => Need { rung: rung.to_owned(), gait: Some(gait.parse()?) },
            None => Need { rung: text, gait: None },
        })
    }
}

impl From<Need> for String {
    fn from(need: Need) -> String {
        match need.gait {
            Some(gait) => format!("{}@{gait}", need.rung),
            None => need.rung,
        }
    }
}

/// One thing that is asked for, and what owning it means.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Rung {
    /// Ladder letter and number: `T2`.
    pub id: String,
    /// Its short name: `Stop at the walk`.
    pub name: String,
    /// Rungs that must be owned first.
    #[serde(default)]
    pub needs: Vec<Need>,
    /// Left and right, or the whole horse.
    pub sides: Sides,
    /// Gaits at which it is trained, slowest first; each above the first needs the one below.
    pub gaits: Vec<Gait>,
    /// Where on the horse it shows; none for the whole horse.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub zone: Option<Zone>,
    /// The cues in order: seat and voice before leg before rein.
    pub ask: Vec<String>,
    /// The answer in one part or two. Two parts count only when both came.
    pub answer: Vec<String>,
    /// What owning it means, at every gait.
    #[serde(default)]
    pub standard: Standard,
    /// How answers are counted.
    #[serde(default)]
    pub measure: Measure,
    /// What working it takes, where that is not as for its whole ladder.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub work: Option<WorkNeeds>,
    /// Tags of the faults that show on this rung, commonest first.
    #[serde(default)]
    pub faults: Vec<String>,
    /// Short cautions for horse and rider.
    #[serde(default)]
    pub cautions: Vec<String>,
    /// A note on how it is taught.
    #[serde(default)]
    pub note: String,
}

impl Rung {
    /// The letter of its ladder, with which its id begins.
    ///
    /// ```
    /// use cavesson_core::curriculum::Curriculum;
    /// assert_eq!(Curriculum::standard().rung("T2").unwrap().ladder(), 'T');
    /// ```
    pub fn ladder(&self) -> char {
        self.id.chars().next().unwrap_or_default()
    }
}

/// A fault, what it tells, and where to go with it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Fault {
    /// The tag that is logged: `head-up`.
    pub tag: String,
    /// As it reads on a chip: `head up`.
    pub name: String,
    /// What it likely tells.
    pub likely: String,
    /// What to do about it.
    pub remedy: String,
    /// Rungs to go to.
    pub go_to: Vec<String>,
}

words! {
    "a kind of sign";
    /// Which way a sign points.
    pub enum SignKind {
        /// The horse lets down.
        Soft,
        /// The horse is tight.
        Tight,
        /// Not a day for something new: sour, hot, sore, tired, in season.
        Off,
    }
}

/// A sign on the horse, noted with the ride.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Sign {
    /// The tag that is logged: `licks`.
    pub tag: String,
    /// As it reads on a chip.
    pub name: String,
    /// Letting down, tight, or off.
    pub kind: SignKind,
}
