use std::{
    collections::{BTreeMap, BTreeSet},
    sync::LazyLock,
};

use chrono::NaiveDate;
use serde::{Deserialize, Serialize};

use super::{Choice, Fault, Ladder, Need, Rung, School, Sign, WorkNeeds};
use crate::response::{Standard, Weight};

/// What is ridden at a gait needs the one-rein stop at that gait (common practice, no published source).
pub const ONE_REIN_STOP: &str = "G7";

/// A problem found in curriculum data, and where it was found.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{found_in}: {problem}")]
pub struct CurriculumError {
    /// File or rung.
    pub found_in: String,
    /// What is wrong, in plain words.
    pub problem: String,
}

/// Ladders, rungs, schools, faults and signs, checked as a whole. It is written as one document and read back with
/// [`Curriculum::read`].
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Curriculum {
    pub(super) ladders: Vec<Ladder>,
    pub(super) rungs: Vec<Rung>,
    pub(super) schools: Vec<School>,
    pub(super) faults: Vec<Fault>,
    signs: Vec<Sign>,
    /// Answers to the schools, where one was picked.
    pub(super) choices: BTreeMap<String, String>,
    /// Standards that came later, with their first day, in the order in which they were set.
    pub(super) standards: BTreeMap<String, Vec<(NaiveDate, Standard)>>,
    pub(super) left_out: BTreeSet<String>,
    /// Rungs that a school leaves out and the barn teaches all the same.
    pub(super) taken_back: BTreeSet<String>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct LadderFile {
    letter: char,
    name: String,
    #[serde(default)]
    work: WorkNeeds,
    rung: Vec<Rung>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct TagFile {
    fault: Vec<Fault>,
    sign: Vec<Sign>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SchoolFile {
    school: Vec<School>,
}

const LADDERS: [(&str, &str); 9] = [
    ("ground.toml", include_str!("../../curriculum/ground.toml")),
    ("softness.toml", include_str!("../../curriculum/softness.toml")),
    ("stop.toml", include_str!("../../curriculum/stop.toml")),
    ("turn.toml", include_str!("../../curriculum/turn.toml")),
    ("lope.toml", include_str!("../../curriculum/lope.toml")),
    ("bits.toml", include_str!("../../curriculum/bits.toml")),
    ("cattle.toml", include_str!("../../curriculum/cattle.toml")),
    ("barrels.toml", include_str!("../../curriculum/barrels.toml")),
    ("trail.toml", include_str!("../../curriculum/trail.toml")),
];
const SCHOOLS: (&str, &str) = ("schools.toml", include_str!("../../curriculum/schools.toml"));
const TAGS: (&str, &str) = ("tags.toml", include_str!("../../curriculum/tags.toml"));

impl Curriculum {
    /// The curriculum that ships with the application. Its data is checked by the tests of this crate.
    ///
    /// ```
    /// use cavesson_core::curriculum::Curriculum;
    /// let shipped = Curriculum::standard();
    /// assert_eq!(shipped.ladders().len(), 9);
    /// assert_eq!(shipped.rung("T2").map(|r| r.name.as_str()), Some("Stop at the walk"));
    /// ```
    ///
    /// # Panics
    /// Never in a tested build: the files are compiled in.
    pub fn standard() -> &'static Curriculum {
        static STANDARD: LazyLock<Curriculum> =
            LazyLock::new(|| Curriculum::parse(&LADDERS, TAGS, SCHOOLS).unwrap_or_else(|errors| panic!("{errors:?}")));
        &STANDARD
    }

    /// Reads ladders, tags and schools from named TOML texts.
    ///
    /// # Errors
    /// Every error found: a text that does not parse, an id used twice, a need or remedy that does not exist, a ring
    /// of needs, a rung with no gait, no fault, no caution, or with more than two parts to its answer.
    pub fn parse(
        ladders: &[(&str, &str)],
        tags: (&str, &str),
        schools: (&str, &str),
    ) -> Result<Curriculum, Vec<CurriculumError>> {
        let mut errors = Vec::new();
        let mut files: Vec<LadderFile> = vec![];
        for (file, text) in ladders {
            files.extend(toml::from_str(text).map_err(|e| errors.push(error(file, e.to_string()))));
        }
        let tags: Option<TagFile> = toml::from_str(tags.1).map_err(|e| errors.push(error(tags.0, e.to_string()))).ok();
        let schools: Option<SchoolFile> =
            toml::from_str(schools.1).map_err(|e| errors.push(error(schools.0, e.to_string()))).ok();
        let (Some(tags), Some(schools), true) = (tags, schools, errors.is_empty()) else { return Err(errors) };
        let (mut ladders, mut rungs) = (vec![], vec![]);
        for file in files {
            ladders.push(Ladder { letter: file.letter, name: file.name, work: file.work });
            rungs.extend(file.rung);
        }
        let all = Curriculum {
            ladders,
            rungs,
            schools: schools.school,
            faults: tags.fault,
            signs: tags.sign,
            choices: BTreeMap::new(),
            standards: BTreeMap::new(),
            left_out: BTreeSet::new(),
            taken_back: BTreeSet::new(),
        };
        all.check(&mut errors);
        if errors.is_empty() { Ok(all) } else { Err(errors) }
    }

    /// Checks a curriculum that was read from a document.
    ///
    /// # Errors
    /// As [`Curriculum::parse`].
    pub fn checked(self) -> Result<Curriculum, Vec<CurriculumError>> {
        let mut errors = vec![];
        self.check(&mut errors);
        if errors.is_empty() { Ok(self) } else { Err(errors) }
    }

    /// Ladders in teaching order.
    pub fn ladders(&self) -> &[Ladder] {
        &self.ladders
    }

    /// Rungs in teaching order.
    pub fn rungs(&self) -> &[Rung] {
        &self.rungs
    }

    /// All faults.
    pub fn faults(&self) -> &[Fault] {
        &self.faults
    }

    /// All signs.
    pub fn signs(&self) -> &[Sign] {
        &self.signs
    }

    /// Where the trade disagrees.
    pub fn schools(&self) -> &[School] {
        &self.schools
    }

    /// The answer that holds for a school.
    pub fn choice<'a>(&'a self, school: &'a School) -> &'a Choice {
        let picked = self.choices.get(&school.id);
        school.choice.iter().find(|c| Some(&c.id) == picked).unwrap_or(&school.choice[0])
    }

    pub(super) fn picked(&self) -> impl Iterator<Item = &Choice> {
        self.schools.iter().map(|s| self.choice(s))
    }

    /// A rung as the schools picked here teach it: their cues in its ask, and the cautions and faults that they show besides.
    ///
    /// ```
    /// use cavesson_core::curriculum::{Change, Curriculum, DatedChange};
    /// let shipped = Curriculum::standard();
    /// let flexion = |c: &Curriculum| c.as_taught(c.rung("S1").unwrap()).ask[1].clone();
    /// assert_eq!(flexion(shipped), "hold the same weight and wait");
    /// let on = "2026-03-02".parse().unwrap();
    /// let change = Change::School { school: "pressure".into(), choice: "leg".into() };
    /// let ours = shipped.changed(&[DatedChange { on, change }]).unwrap();
    /// assert_eq!(flexion(&ours), "hold the hand still and add leg");
    /// ```
    pub fn as_taught(&self, rung: &Rung) -> Rung {
        let mut taught = rung.clone();
        for school in &self.schools {
            let choice = self.choice(school);
            let stands_for = format!("{{{}}}", school.id);
            taught.ask.iter_mut().for_each(|cue| *cue = cue.replace(&stands_for, &choice.cue));
            for shows in choice.shows.iter().filter(|s| s.rungs.contains(&rung.id)) {
                taught.cautions.extend(shows.caution.clone());
                taught.faults.extend(shows.fault.clone().filter(|f| !rung.faults.contains(f)));
            }
        }
        taught
    }

    /// Whether a rung is not taught here.
    pub fn is_left_out(&self, rung: &str) -> bool {
        let by_school = || self.picked().any(|c| c.leaves_out.iter().any(|r| r == rung));
        self.left_out.contains(rung) || (!self.taken_back.contains(rung) && by_school())
    }

    /// Whether a rung counts as owned where others need it.
    pub fn is_passed(&self, rung: &str) -> bool {
        self.picked().any(|c| c.passes.iter().any(|r| r == rung))
    }

    /// What a rung needs in the schools picked here, without what is passed by or not taught.
    pub fn needs_of<'a>(&'a self, rung: &'a Rung) -> impl Iterator<Item = &'a Need> {
        self.needs_with_passed(rung).filter(|n| !self.is_left_out(&n.rung) && !self.is_passed(&n.rung))
    }

    /// What a rung needs in the schools picked here, with what is passed by or not taught.
    pub(super) fn needs_with_passed<'a>(&'a self, rung: &'a Rung) -> impl Iterator<Item = &'a Need> {
        static BRAKE: LazyLock<Need> = LazyLock::new(|| Need::of(ONE_REIN_STOP));
        let extra = self.picked().flat_map(|c| &c.needs).filter(|n| n.rung == rung.id).map(|n| &n.need);
        let named = |id: &str| rung.needs.iter().any(|n| n.rung == id);
        // A barn whose curriculum has no such rung needs none.
        let brake =
            rung.ridden && rung.id != ONE_REIN_STOP && !named(ONE_REIN_STOP) && self.rung(ONE_REIN_STOP).is_some();
        rung.needs.iter().chain(extra).chain(brake.then_some(&*BRAKE))
    }

    /// What working a rung takes: its own needs, else those of its ladder.
    pub fn work_needs<'a>(&'a self, rung: &'a Rung) -> &'a WorkNeeds {
        static NOTHING_ELSE: LazyLock<WorkNeeds> = LazyLock::new(WorkNeeds::default);
        let ladder = || self.ladders.iter().find(|l| l.letter == rung.ladder()).map(|l| &l.work);
        rung.work.as_ref().or_else(ladder).unwrap_or(&NOTHING_ELSE)
    }

    /// Standards of a rung that came later than its first, with the first day of each.
    pub fn later_standards(&self, rung: &str) -> &[(NaiveDate, Standard)] {
        self.standards.get(rung).map_or(&[], Vec::as_slice)
    }

    /// The standard of a rung that holds on a day.
    pub fn standard_on(&self, rung: &Rung, on: NaiveDate) -> Standard {
        let later = self.later_standards(&rung.id).iter().rev().find(|(from, _)| *from <= on);
        later.map_or(rung.standard, |(_, standard)| *standard)
    }

    /// This curriculum for a horse that answers the rein slowly for good: so many per cent of the time, on every rung that is asked for
    /// with the rein and in every standard it has had.
    ///
    /// ```
    /// use cavesson_core::curriculum::Curriculum;
    /// let seconds = |c: &Curriculum| c.rung("S1").unwrap().standard.seconds.seconds();
    /// let usual = Curriculum::standard();
    /// assert_eq!(seconds(&usual.clone().with_rein_time(150)), 1.5 * seconds(usual));
    /// ```
    #[must_use]
    pub fn with_rein_time(mut self, percent: u32) -> Curriculum {
        let longer = |s: &mut Standard| {
            if s.weight > Weight::None {
                *s = s.with_time(percent);
            }
        };
        for rung in &mut self.rungs {
            longer(&mut rung.standard);
            rung.opening.as_mut().map(longer);
        }
        self.standards.values_mut().flatten().for_each(|(_, standard)| longer(standard));
        self
    }

    /// The rung with this id.
    pub fn rung(&self, id: &str) -> Option<&Rung> {
        self.rungs.iter().find(|r| r.id == id)
    }

    /// The fault with this tag.
    ///
    /// ```
    /// use cavesson_core::curriculum::Curriculum;
    /// assert!(Curriculum::standard().fault("leans").is_some_and(|f| !f.go_to.is_empty()));
    /// ```
    pub fn fault(&self, tag: &str) -> Option<&Fault> {
        self.faults.iter().find(|f| f.tag == tag)
    }
}

pub(super) fn error(found_in: &str, problem: String) -> CurriculumError {
    CurriculumError { found_in: found_in.to_owned(), problem }
}
