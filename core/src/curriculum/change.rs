//! What a barn makes of the curriculum that ships: each change with its day.

use std::collections::BTreeSet;

use chrono::NaiveDate;
use serde::{Deserialize, Serialize};

use super::{Course, Curriculum, CurriculumError, Ladder, Rung, definition::error};
use crate::response::Standard;

/// One change to a curriculum.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Change {
    /// Another standard for a rung. What was logged before is still judged by what held then.
    Standard {
        /// The rung.
        rung: String,
        /// What owning it means from that day on.
        standard: Standard,
    },
    /// A rung is not taught.
    LeaveOut {
        /// The rung.
        rung: String,
    },
    /// A rung that was left out is taught again.
    TakeBack {
        /// The rung.
        rung: String,
    },
    /// A ladder of the barn's own.
    Ladder {
        /// What it is called, and its letter.
        ladder: Ladder,
    },
    /// A rung of the barn's own, or a new text for one of them.
    Rung {
        /// The rung.
        rung: Box<Rung>,
    },
    /// Another school.
    School {
        /// The question.
        school: String,
        /// The answer.
        choice: String,
    },
}

/// A change, and the day from which it holds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct DatedChange {
    /// The first day on which it holds.
    pub on: NaiveDate,
    /// What changes.
    pub change: Change,
}

/// Rungs that shipped once. A barn's changes to them change nothing.
const RETIRED: [&str; 14] = ["B1", "B2", "B3", "B4", "B5", "B6", "B7", "B8", "B9", "B10", "B11", "B12", "B13", "B30"];

impl Change {
    fn is_of_a_retired_rung(&self) -> bool {
        let (Change::Standard { rung, .. } | Change::LeaveOut { rung } | Change::TakeBack { rung }) = self else {
            return false;
        };
        RETIRED.contains(&rung.as_str())
    }
}

impl Curriculum {
    /// This curriculum after some changes, in the order in which they were made.
    ///
    /// ```
    /// use cavesson_core::curriculum::{Change, Curriculum, DatedChange};
    /// let on = "2026-03-02".parse().unwrap();
    /// let left_out = DatedChange { on, change: Change::LeaveOut { rung: "O3".into() } };
    /// let ours = Curriculum::standard().changed(&[left_out]).unwrap();
    /// assert!(ours.is_left_out("O3"));
    /// let unknown = DatedChange { on, change: Change::LeaveOut { rung: "Z9".into() } };
    /// assert!(Curriculum::standard().changed(&[unknown]).is_err());
    /// ```
    ///
    /// # Errors
    /// Every error that they make: an unknown rung, ladder, school or choice, an id that is taken, a ring of needs, or a rung
    /// left without its need.
    pub fn changed<'a>(
        &self,
        changes: impl IntoIterator<Item = &'a DatedChange>,
    ) -> Result<Curriculum, Vec<CurriculumError>> {
        let mut changed = self.clone();
        let mut own = BTreeSet::new();
        for dated in changes.into_iter().filter(|c| !c.change.is_of_a_retired_rung()) {
            changed.apply(dated, &mut own).map_err(|f| vec![f])?;
        }
        let mut errors = vec![];
        changed.check(&mut errors);
        if errors.is_empty() { Ok(changed) } else { Err(errors) }
    }

    fn apply(&mut self, dated: &DatedChange, own: &mut BTreeSet<String>) -> Result<(), CurriculumError> {
        match &dated.change {
            Change::Standard { rung, standard } => {
                self.known(rung)?;
                self.standards.entry(rung.clone()).or_default().push((dated.on, *standard));
            }
            Change::LeaveOut { rung } => {
                self.known(rung)?;
                self.left_out.insert(rung.clone());
                self.taken_back.remove(rung);
            }
            Change::TakeBack { rung } => {
                self.known(rung)?;
                self.left_out.remove(rung);
                self.taken_back.insert(rung.clone());
            }
            Change::Ladder { ladder } => {
                if !ladder.letter.is_ascii_uppercase() {
                    return Err(error(&ladder.name, "a ladder's letter is one from A to Z".into()));
                }
                if self.ladders.iter().any(|l| l.letter == ladder.letter) {
                    return Err(error(&ladder.name, format!("the letter {} is another ladder's", ladder.letter)));
                }
                self.ladders.push(ladder.clone());
            }
            Change::Rung { rung } => {
                match self.rungs.iter().position(|r| r.id == rung.id) {
                    Some(at) if own.contains(&rung.id) => self.rungs[at] = (**rung).clone(),
                    Some(_) => {
                        return Err(error(&rung.id, "this id is a rung's that ships with the application".into()));
                    }
                    None => {
                        let same_ladder = |r: &Rung| r.ladder() == rung.ladder();
                        let at = self.rungs.iter().rposition(same_ladder).map_or(self.rungs.len(), |at| at + 1);
                        self.rungs.insert(at, (**rung).clone());
                    }
                }
                own.insert(rung.id.clone());
            }
            Change::School { school, choice } => {
                let asked = self.schools.iter().find(|s| s.id == *school);
                let asked = asked.ok_or_else(|| error(school, "there is no such question".into()))?;
                if !asked.choice.iter().any(|c| c.id == *choice) {
                    return Err(error(school, format!("\"{choice}\" is not one of its answers")));
                }
                self.choices.insert(school.clone(), choice.clone());
            }
        }
        Ok(())
    }

    fn known(&self, rung: &str) -> Result<(), CurriculumError> {
        self.rung(rung).map(|_| ()).ok_or_else(|| error(rung, "there is no such rung".into()))
    }

    /// The changes that make this curriculum into another: what an import does to a barn. Rungs that the other lacks are left
    /// out; nothing is forgotten.
    pub fn changes_to(&self, other: &Curriculum, on: NaiveDate) -> Vec<DatedChange> {
        let mut changes = vec![];
        for ladder in other.ladders().iter().filter(|l| self.ladders.iter().all(|own| own.letter != l.letter)) {
            changes.push(Change::Ladder { ladder: ladder.clone() });
        }
        for rung in other.rungs() {
            match self.rung(&rung.id) {
                None => changes.push(Change::Rung { rung: Box::new(rung.clone()) }),
                Some(_) => {
                    let wanted = other.standard_on(rung, on);
                    if self.rung(&rung.id).is_some_and(|own| self.standard_on(own, on) != wanted) {
                        changes.push(Change::Standard { rung: rung.id.clone(), standard: wanted });
                    }
                }
            }
        }
        for (school, choice) in &other.choices {
            if self.choices.get(school) != Some(choice) {
                changes.push(Change::School { school: school.clone(), choice: choice.clone() });
            }
        }
        for rung in self.rungs() {
            let (here, there) =
                (self.is_left_out(&rung.id), other.rung(&rung.id).is_none() || other.is_left_out(&rung.id));
            match (here, there) {
                (false, true) => changes.push(Change::LeaveOut { rung: rung.id.clone() }),
                (true, false) => changes.push(Change::TakeBack { rung: rung.id.clone() }),
                _ => {}
            }
        }
        changes.into_iter().map(|change| DatedChange { on, change }).collect()
    }

    /// The course of this curriculum.
    ///
    /// # Panics
    /// Never: a curriculum is checked when it is made.
    pub fn course(&self) -> Course {
        Course::of(self).expect("a curriculum is checked when it is made")
    }
}
