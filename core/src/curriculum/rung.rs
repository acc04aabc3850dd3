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

words! {
    "a part of a pattern";
    /// What owning a rung says of the horse on a barrel pattern.
    pub enum PatternPart {
        /// It goes the whole pattern at the rung's gaits.
        Pass,
        /// It goes it away from home too, so that a run may be timed.
        Away,
        /// It runs: it is kept, not taught.
        Finished,
        /// It has the footwork to turn close.
        Footwork,
    }
}

/// A rung that must be owned first, at the gait of the ask (`S6`), always at a named gait (`S6@jog`), or only for asks from some
/// gait on (`T3 from jog`).
///
/// ```
/// use cavesson_core::curriculum::{Gait, Need};
/// let pinned: Need = "S6@jog".to_owned().try_into()?;
/// assert_eq!((pinned.rung.as_str(), pinned.gait), ("S6", Some(Gait::Jog)));
/// let later: Need = "T3 from jog".to_owned().try_into()?;
/// assert_eq!((later.rung.as_str(), later.from), ("T3", Some(Gait::Jog)));
/// assert_eq!(String::from(later), "T3 from jog");
/// # Ok::<(), cavesson_core::UnknownWord>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Need {
    /// The rung's id.
    pub rung: String,
    /// The gait, where it is not that of the ask.
    pub gait: Option<Gait>,
    /// The slowest gait of the ask that needs it, where slower asks do not.
    pub from: Option<Gait>,
}

impl Need {
    /// A rung, at the gait of the ask.
    pub fn of(rung: &str) -> Need {
        Need { rung: rung.to_owned(), gait: None, from: None }
    }

    /// Whether an ask at this gait needs it.
    pub fn holds_at(&self, gait: Gait) -> bool {
        self.from.is_none_or(|from| gait >= from)
    }

    /// At which of its gaits the rung is needed for an ask: the ask's own, or its fastest below where it has none so fast; its
    /// slowest where all of them are faster.
    ///
    /// ```
    /// use cavesson_core::curriculum::{Gait, Need};
    /// let poll = [Gait::Stand, Gait::Walk, Gait::Jog];
    /// assert_eq!(Need::of("S6").gait_for(&poll, Gait::Walk), Some(Gait::Walk));
    /// assert_eq!(Need::of("S6").gait_for(&poll, Gait::Lope), Some(Gait::Jog));
    /// assert_eq!(Need::of("S9").gait_for(&[Gait::Jog], Gait::Walk), Some(Gait::Jog));
    /// ```
    pub fn gait_for(&self, gaits: &[Gait], ask: Gait) -> Option<Gait> {
        self.gait.or_else(|| gaits.iter().rev().find(|g| **g <= ask).or(gaits.first()).copied())
    }
}

impl TryFrom<String> for Need {
    type Error = UnknownWord;
    fn try_from(text: String) -> Result<Self, UnknownWord> {
        let (rest, from) = match text.split_once(" from ") {
            Some((rest, from)) => (rest, Some(from.parse()?)),
            None => (text.as_str(), None),
        };
        Ok(match rest.split_once('@') {
            Some((rung, gait)) => Need { rung: rung.to_owned(), gait: Some(gait.parse()?), from },
            None => Need { rung: rest.to_owned(), gait: None, from },
        })
    }
}

impl From<Need> for String {
    fn from(need: Need) -> String {
        let at = need.gait.map_or_else(String::new, |gait| format!("@{gait}"));
        let from = need.from.map_or_else(String::new, |gait| format!(" from {gait}"));
        format!("{}{at}{from}", need.rung)
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
    /// Whether someone rides the horse for it. What is ridden needs the one-rein stop at its gait.
    #[serde(default = "yes", skip_serializing_if = "is_yes")]
    pub ridden: bool,
    /// Rungs that must be owned first.
    #[serde(default)]
    pub needs: Vec<Need>,
    /// Left and right, or the whole horse.
    pub sides: Sides,
    /// What left means here, where it could be the rein, the lead, the hand of the circle or the direction of the turn.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub left: String,
    /// Gaits at which it is trained, slowest first; each above the first needs the one below.
    pub gaits: Vec<Gait>,
    /// Where on the horse it shows; none for the whole horse.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub zone: Option<Zone>,
    /// The cues in order: seat and voice before leg before rein. The id of a school in braces stands for what its choice says.
    pub ask: Vec<String>,
    /// The answer in one part or two. Two parts count only when both came.
    pub answer: Vec<String>,
    /// What owning it means, at every gait.
    #[serde(default)]
    pub standard: Standard,
    /// What is good enough for the rungs that need it to begin, where that is less than owning it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub opening: Option<Standard>,
    /// How answers are counted.
    #[serde(default)]
    pub measure: Measure,
    /// What it says of the horse on a pattern, where it says anything.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pattern: Option<PatternPart>,
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

const fn yes() -> bool {
    true
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "the signature that serde calls")]
const fn is_yes(ridden: &bool) -> bool {
    *ridden
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
