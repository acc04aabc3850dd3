//! Every text of the curriculum that ships, to be read aloud once before it goes out.

use std::fmt::Write;

use cavesson_core::curriculum::{Curriculum, Road, Rung, Sides};

/// All texts: rungs as the first choice of each school teaches them, faults, signs, schools and roads.
pub fn texts() -> String {
    let curriculum = Curriculum::standard();
    let mut out = String::new();
    for ladder in curriculum.ladders() {
        let _ = writeln!(out, "\n{} {}", ladder.letter, ladder.name);
        let rungs = curriculum.rungs().iter().filter(|r| r.ladder() == ladder.letter);
        rungs.for_each(|rung| rung_texts(&mut out, curriculum, rung));
    }
    out.push_str("\nFaults\n");
    for fault in curriculum.faults() {
        let _ = writeln!(out, "  {}: {}. {}", fault.name, fault.likely, fault.remedy);
    }
    out.push_str("\nSigns\n");
    for sign in curriculum.signs() {
        let _ = writeln!(out, "  {}", sign.name);
    }
    out.push_str("\nSchools\n");
    for school in curriculum.schools() {
        let _ = writeln!(out, "  {}", school.question);
        for choice in &school.choice {
            let _ = writeln!(out, "    {}: {}", choice.name, choice.says);
            let cautions = choice.shows.iter().filter_map(|s| s.caution.as_ref());
            cautions.for_each(|caution| _ = writeln!(out, "      {caution}"));
        }
    }
    out.push_str("\nRoads\n");
    for road in Road::all() {
        let _ = writeln!(out, "  {}: {}", road.name, road.says);
        for stage in &road.stage {
            let _ = writeln!(out, "    {}, in a {}: {}", stage.name, stage.bit, stage.takes);
            for step in &stage.step {
                let _ =
                    writeln!(out, "      {}: {}. Passed when {}. {}", step.name, step.ask, step.passed, step.caution);
            }
        }
    }
    out
}

fn rung_texts(out: &mut String, curriculum: &Curriculum, rung: &Rung) {
    let taught = curriculum.as_taught(rung);
    let _ = writeln!(out, "  {} {}", rung.id, rung.name);
    let _ = writeln!(out, "    Ask: {}.", taught.ask.join(", "));
    let _ = writeln!(out, "    Answer: {}.", taught.answer.join(" and "));
    let _ = writeln!(out, "    Owned: {}.", rung.measure.standard_in_words(&rung.standard));
    if let Some(opening) = &rung.opening {
        let _ = writeln!(out, "    To begin with: {}.", rung.measure.standard_in_words(opening));
    }
    if rung.sides == Sides::Each {
        let _ = writeln!(out, "    Left is {}.", rung.left);
    }
    let _ = writeln!(out, "    {}", taught.cautions.join(" "));
    let _ = writeln!(out, "    {}", rung.note);
}
