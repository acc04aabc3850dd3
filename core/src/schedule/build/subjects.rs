//! What of a horse is drawn into a week: what slips, what is next, what a show asks for, what else is under way, what is due.

use super::barn::{Motive, StepFacts, Subject};
use crate::{
    advice::{Call, Status},
    curriculum::{Gait, WorkNeeds},
    load::ComebackDay,
};

/// Not more than two of a kind, so that a week does not split a horse's days among too many things.
const OF_A_KIND: usize = 2;

/// What slips first, what is next, what a show wants, what else is under way, what is due, and a day out; each step once
/// (common practice, no published source). On its way back after time off a horse is only asked for what it owned, what slips first.
pub fn subjects(steps: &[StepFacts], next: Option<&str>, comeback: Option<ComebackDay>) -> Vec<Subject> {
    if let Some(back) = comeback {
        return rechecked(steps, back.stage.fastest());
    }
    let open = |s: &&StepFacts| s.open && s.call != Some(Call::Back);
    let learning = |s: &&StepFacts| open(s) && s.status == Status::Learning;
    let wanted = |s: &&StepFacts| s.aim.is_some() && open(s) && s.status != Status::Owned;
    let slipping = steps.iter().filter(|s| s.status == Status::Slipping).take(OF_A_KIND);
    let main = steps.iter().filter(|s| Some(s.step.as_str()) == next);
    let due = steps.iter().filter(|s| s.status == Status::Owned && s.due).take(1);
    let all = (slipping.map(|s| (s, Motive::Slipping)))
        .chain(main.map(|s| (s, Motive::Next)))
        .chain(steps.iter().filter(wanted).take(OF_A_KIND).map(|s| (s, Motive::UnderWay)))
        .chain(steps.iter().filter(learning).take(OF_A_KIND).map(|s| (s, Motive::UnderWay)))
        .chain(due.map(|s| (s, Motive::Keep)));
    let mut out: Vec<Subject> = vec![];
    for (step, motive) in all {
        if out.iter().all(|s| s.step != step.step) {
            out.push(subject(step, motive));
        }
    }
    let keeps = steps.iter().rfind(|s| s.status == Status::Owned);
    if let Some(step) = keeps.filter(|s| out.len() < 3 && out.iter().all(|o| o.step != s.step)) {
        out.push(subject(step, Motive::Keep));
    }
    out.push(out_of_the_pen());
    out
}

/// What slips and what was owned, no faster than a gait, and a day out.
fn rechecked(steps: &[StepFacts], fastest: Option<Gait>) -> Vec<Subject> {
    let slow = |s: &&StepFacts| fastest.is_some_and(|fastest| s.gait <= fastest);
    let with = |status: Status| steps.iter().filter(slow).filter(move |s| s.status == status);
    let slipping = with(Status::Slipping).take(OF_A_KIND).map(|s| subject(s, Motive::Slipping));
    let due = with(Status::Owned).filter(|s| s.due);
    let other = with(Status::Owned).filter(|s| !s.due);
    let owned = due.chain(other).take(OF_A_KIND + 1).map(|s| subject(s, Motive::Keep));
    slipping.chain(owned).chain(fastest.map(|_| out_of_the_pen())).collect()
}

fn out_of_the_pen() -> Subject {
    Subject {
        step: "out".to_owned(),
        name: "a day out".to_owned(),
        gait: Gait::Walk,
        motive: Motive::Out,
        aim: None,
        work: WorkNeeds::outing(),
    }
}

fn subject(s: &StepFacts, motive: Motive) -> Subject {
    Subject {
        step: s.step.clone(),
        name: s.name.clone(),
        gait: s.gait,
        motive,
        aim: s.aim.clone(),
        work: s.work.clone(),
    }
}
