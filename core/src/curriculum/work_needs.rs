use serde::{Deserialize, Serialize};

use super::{Gait, Place};
use crate::{cattle::CowNeeds, words::words};

words! {
    "a subject";
    /// What a ladder is about.
    pub enum SubjectKind { Ground, Softness, Stop, Turn, Lope, Bit, Cattle, Pattern, Obstacle, Other }
}

words! {
    "a road of bits";
    /// A way from the first bit to the last (common practice; the trade disagrees on which).
    pub enum BitRoad {
        /// Snaffle to leverage.
        Leverage,
        /// Hackamore to bridle.
        Bridle,
        /// Down again, on a spoiled mouth.
        Spoiled,
    }
}

/// What working a rung takes besides a horse and a rider, and how often it comes.
///
/// The rules that plan a week, a ride and its checks read this and never the ladder's letter, so that a barn's own rung is treated as
/// one that ships. A ladder has these for all of its rungs; a rung may have its own in place of them.
///
/// ```
/// use cavesson_core::curriculum::{Curriculum, Gait, Place};
/// let curriculum = Curriculum::standard();
/// let turn = curriculum.work_needs(curriculum.rung("C5").unwrap());
/// assert!(turn.cattle > 0 && turn.days_between == 3);
/// let stop = curriculum.work_needs(curriculum.rung("T3").unwrap());
/// assert!(stop.fits(Place::RoundPen, Gait::Jog) && !stop.fits(Place::RoundPen, Gait::Lope));
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub struct WorkNeeds {
    /// What it is about.
    pub subject: SubjectKind,
    /// Cows that one ride takes, 0 to 20.
    pub cattle: u16,
    /// Whether it is worked on the flag.
    pub flag: bool,
    /// Fewest days from one ride of it to the next, 1 to 30: 1 for any two different days.
    pub days_between: u8,
    /// Where it is worked, at least one place.
    pub places: Vec<Place>,
    /// The fastest gait for which the round pen is large enough; any gait where none is named.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub round_pen_to: Option<Gait>,
    /// Whether a ride of it is a day out, wherever it is ridden.
    pub outing: bool,
    /// The road of bits it belongs to; none where it is on all of them, or is about no bit.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub road: Option<BitRoad>,
    /// What it asks of the cow that it is worked on; none where it is on no single cow.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cow: Option<CowNeeds>,
    /// The rung on which set-ups that do not go are ridden, where that is not the rung itself.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub set_ups_on: Option<String>,
}

impl Default for WorkNeeds {
    /// The arena, any two different days, nothing else.
    fn default() -> Self {
        WorkNeeds {
            subject: SubjectKind::Other,
            cattle: 0,
            flag: false,
            days_between: 1,
            places: vec![Place::Arena],
            round_pen_to: None,
            outing: false,
            road: None,
            cow: None,
            set_ups_on: None,
        }
    }
}

impl WorkNeeds {
    /// What a day out takes.
    pub fn outing() -> WorkNeeds {
        WorkNeeds { outing: true, places: vec![Place::Outside, Place::Trail], ..WorkNeeds::default() }
    }

    /// Whether it can be worked in a place at a gait.
    pub fn fits(&self, place: Place, gait: Gait) -> bool {
        let too_small = place == Place::RoundPen && self.round_pen_to.is_some_and(|fastest| gait > fastest);
        self.places.contains(&place) && !too_small
    }

    /// Whether it is worked so seldom that it is not drilled: cattle, flag and pattern.
    pub fn is_spared(&self) -> bool {
        self.days_between > 1
    }

    /// What is wrong with it, in words.
    pub(super) fn problems(&self) -> Vec<&'static str> {
        let checks = [
            (self.cattle > 20, "a ride takes at most 20 cows"),
            (!(1..=30).contains(&self.days_between), "from one ride of it to the next there are 1 to 30 days"),
            (self.places.is_empty(), "it needs a place where it is worked"),
        ];
        let own = checks.into_iter().filter(|(wrong, _)| *wrong).map(|(_, says)| says);
        own.chain(self.cow.as_ref().and_then(CowNeeds::problem)).collect()
    }
}
