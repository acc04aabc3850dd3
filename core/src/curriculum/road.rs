use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use super::{BitRoad, Curriculum};
use crate::words::words;

words! {
    "a mouthpiece";
    /// What the horse wears in the mouth or on the nose.
    pub enum Mouthpiece {
        /// A halter or a bosal: nothing in the mouth.
        Bitless,
        /// A smooth snaffle.
        Snaffle,
        /// A bit with shanks and a curb strap.
        Leverage,
    }
}

/// A way from one bit to the next, in stages (common practice; the trade disagrees on which).
///
/// ```
/// use cavesson_core::curriculum::{BitRoad, Road};
/// let leverage = Road::all().iter().find(|r| r.id == BitRoad::Leverage).unwrap();
/// let first_day = leverage.stage.iter().find(|s| s.name == "First day in leverage").unwrap();
/// assert_eq!(first_day.step[0].name, "Slip it in");
/// assert_eq!(first_day.step.len(), 10);
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Road {
    /// Which road.
    pub id: BitRoad,
    /// Its name.
    pub name: String,
    /// Where it leads.
    pub says: String,
    /// Its stages in order.
    pub stage: Vec<Stage>,
}

/// A stretch of a road in one bit.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stage {
    /// Its name.
    pub name: String,
    /// What the horse wears.
    pub bit: String,
    /// How long it takes, in words.
    pub takes: String,
    /// The rung whose asks tell whether the stage holds.
    pub rung: String,
    /// The mouthpiece that a horse on it wears, where none before it has it.
    #[serde(default)]
    pub mouthpiece: Option<Mouthpiece>,
    /// Whether it is over once its rung was ridden.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required))]
    pub once: bool,
    /// Weeks that it usually takes, where it is planned by the week.
    #[serde(default)]
    pub usual_weeks: Option<u8>,
    /// What is done once, each step passed before the next; none where the stage is ridden by its rung alone.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required))]
    pub step: Vec<RoadStep>,
}

/// One step of the first days of a stage. Where it frets the horse, it goes back one step or waits for another day.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoadStep {
    /// Its name.
    pub name: String,
    /// What to do.
    pub ask: String,
    /// What shows that it is passed.
    pub passed: String,
    /// A short caution.
    pub caution: String,
    /// Whether it is the one at which the strap is set: a tossed head leads back to it.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required))]
    pub strap: bool,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct RoadFile {
    road: Vec<Road>,
}

impl Road {
    /// The roads that ship with the application. Their data is checked by the tests of this crate.
    ///
    /// # Panics
    /// Never in a tested build: the file is compiled in.
    pub fn all() -> &'static [Road] {
        static ROADS: LazyLock<Vec<Road>> = LazyLock::new(|| {
            let file: Result<RoadFile, _> = toml::from_str(include_str!("../../curriculum/roads.toml"));
            file.unwrap_or_else(|error| panic!("roads.toml: {error}")).road
        });
        &ROADS
    }

    /// The road that the schools picked in a curriculum take.
    ///
    /// ```
    /// use cavesson_core::curriculum::{BitRoad, Curriculum, Road};
    /// assert_eq!(Road::picked(Curriculum::standard()).id, BitRoad::Leverage);
    /// ```
    pub fn picked(curriculum: &Curriculum) -> &'static Road {
        let school = curriculum.schools().iter().find(|school| school.id == "road");
        let choice = school.map_or("", |school| curriculum.choice(school).id.as_str());
        // A choice is named for its road; one that leaves something out of it goes on behind the name.
        let is_picked =
            |road: &&Road| choice.strip_prefix(road.id.word()).is_some_and(|r| r.is_empty() || r.starts_with('-'));
        Road::all().iter().find(is_picked).unwrap_or(&Road::all()[0])
    }

    /// The stage that a horse is on: the first that is taught and not behind it. None at the end of the road.
    pub fn stage_now(
        &self,
        taught: impl Fn(&str) -> bool,
        owned: impl Fn(&str) -> bool,
        ridden: impl Fn(&str) -> bool,
    ) -> Option<usize> {
        self.stage.iter().position(|s| taught(&s.rung) && !owned(&s.rung) && !(s.once && ridden(&s.rung)))
    }
}
