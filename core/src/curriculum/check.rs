//! What is refused in curriculum data.

use std::collections::BTreeSet;

use super::{Course, Curriculum, CurriculumError, Rung, definition::error};

impl Curriculum {
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
        for tag in self.as_taught(rung).faults.iter().filter(|t| self.fault(t).is_none()) {
            say(format!("its fault \"{tag}\" is not among the tags"));
        }
        for cue in self.as_taught(rung).ask.iter().filter(|cue| cue.contains('{')) {
            say(format!("\"{cue}\" names no school in its braces"));
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
                let shown = choice.shows.iter().flat_map(|s| &s.rungs);
                for rung in choice.passes.iter().chain(&choice.leaves_out).chain(needs).chain(shown) {
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
