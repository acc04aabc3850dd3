use std::{
    collections::{BTreeMap, BTreeSet},
    sync::LazyLock,
};

use chrono::NaiveDate;
use serde::{Deserialize, Serialize};

use super::{Choice, Course, Fault, Ladder, Need, Rung, School, Sign, WorkNeeds};
use crate::response::Standard;

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
    faults: Vec<Fault>,
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

    fn picked(&self) -> impl Iterator<Item = &Choice> {
        self.schools.iter().map(|s| self.choice(s))
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
        let extra = self.picked().flat_map(|c| &c.needs).filter(|n| n.rung == rung.id).map(|n| &n.need);
        rung.needs.iter().chain(extra).filter(|n| !self.is_left_out(&n.rung) && !self.is_passed(&n.rung))
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

    pub(super) fn check(&self, errors: &mut Vec<CurriculumError>) {
        let mut ids = BTreeSet::new();
        for rung in &self.rungs {
            if !ids.insert(rung.id.as_str()) {
                errors.push(error(&rung.id, "this id is used twice".into()));
            }
            self.check_rung(rung, errors);
        }
        for fault in &self.faults {
            if fault.go_to.is_empty() {
                errors.push(error(&fault.tag, "a fault needs a rung to go to".into()));
            }
            for to in fault.go_to.iter().filter(|to| !ids.contains(to.as_str())) {
                errors.push(error(&fault.tag, format!("it sends to rung {to}, which does not exist")));
            }
        }
        self.check_schools(&ids, errors);
        if errors.is_empty()
            && let Err(flaw_in_course) = Course::of(self)
        {
            errors.push(error(&flaw_in_course.step, flaw_in_course.problem));
        }
    }

    fn check_rung(&self, rung: &Rung, errors: &mut Vec<CurriculumError>) {
        let mut say = |problem: String| errors.push(error(&rung.id, problem));
        if !self.ladders.iter().any(|l| l.letter == rung.ladder()) {
            say("its first letter is no ladder's".into());
        }
        if rung.id.len() > 8 || !rung.id.chars().all(|c| c.is_ascii_alphanumeric()) {
            say("an id is a ladder's letter and a few letters or figures".into());
        }
        if rung.name.trim().is_empty() || rung.name.chars().count() > 60 {
            say("it needs a name of at most 60 letters".into());
        }
        if rung.gaits.is_empty() || !rung.gaits.is_sorted_by(|a, b| a < b) {
            say("gaits must be one or more, slowest first, each once".into());
        }
        if rung.ask.is_empty() || !(1..=2).contains(&rung.answer.len()) {
            say("it needs an ask, and an answer of one part or two".into());
        }
        if rung.faults.is_empty() || rung.cautions.is_empty() {
            say("it needs a fault and a caution".into());
        }
        for tag in rung.faults.iter().filter(|t| self.fault(t).is_none()) {
            say(format!("its fault \"{tag}\" is not among the tags"));
        }
        let needs = self.work_needs(rung);
        needs.problems().into_iter().for_each(|problem| say(problem.into()));
        if needs.set_ups_on.as_ref().is_some_and(|on| self.rung(on).is_none()) {
            say("its set-ups are ridden on a rung that does not exist".into());
        }
    }

    fn check_schools(&self, ids: &BTreeSet<&str>, errors: &mut Vec<CurriculumError>) {
        for school in &self.schools {
            if school.choice.is_empty() {
                errors.push(error(&school.id, "a question needs an answer".into()));
            }
            for choice in &school.choice {
                let needs = choice.needs.iter().flat_map(|n| [&n.rung, &n.need.rung]);
                for rung in choice.passes.iter().chain(&choice.leaves_out).chain(needs) {
                    if !ids.contains(rung.as_str()) {
                        errors.push(error(&school.id, format!("it names rung {rung}, which does not exist")));
                    }
                }
            }
        }
        for rung in self.standards.keys().chain(&self.left_out).chain(&self.taken_back) {
            if !ids.contains(rung.as_str()) {
                errors.push(error(rung, "there is no such rung".into()));
            }
        }
        for (school, choice) in &self.choices {
            let known = self.schools.iter().any(|s| s.id == *school && s.choice.iter().any(|c| c.id == *choice));
            if !known {
                errors.push(error(school, format!("\"{choice}\" is not one of its answers")));
            }
        }
    }
}

pub(super) fn error(found_in: &str, problem: String) -> CurriculumError {
    CurriculumError { found_in: found_in.to_owned(), problem }
}
