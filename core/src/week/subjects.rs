//! What of a horse is drawn into a week: what slips, what is next, what a show asks for, what else is under way, what is due.

use super::{Aim, Pull, Subject};
use crate::{
    advice::{Call, Standing},
    ladder::Gait,
};

/// A step of a horse, as far as a week asks.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct StepFacts {
    /// Its id.
    pub step: String,
    /// In words.
    pub name: String,
    /// At which gait.
    pub gait: Gait,
    /// How it stands.
    pub standing: Standing,
    /// The call on it.
    pub call: Option<Call>,
    /// Whether all that it needs is owned.
    pub open: bool,
    /// Owned, and due for a few reps.
    pub due: bool,
    /// The show that it is wanted for, itself or for what rests on it.
    pub aim: Option<Aim>,
}

/// Not more than two of a kind, so that a week does not split a horse's days among too many things.
const OF_A_KIND: usize = 2;

/// What slips first, what is next, what a show wants, what else is under way, what is due, and a day out; each step once
/// (common practice, no published source).
pub fn subjects(steps: &[StepFacts], next: Option<&str>) -> Vec<Subject> {
    let open = |s: &&StepFacts| s.open && s.call != Some(Call::Back);
    let learning = |s: &&StepFacts| open(s) && s.standing == Standing::Learning;
    let wanted = |s: &&StepFacts| s.aim.is_some() && open(s) && s.standing != Standing::Owned;
    let slipping = steps.iter().filter(|s| s.standing == Standing::Slipping).take(OF_A_KIND);
    let main = steps.iter().filter(|s| Some(s.step.as_str()) == next);
    let due = steps.iter().filter(|s| s.standing == Standing::Owned && s.due).take(1);
    let all = (slipping.map(|s| (s, Pull::Slipping)))
        .chain(main.map(|s| (s, Pull::Next)))
        .chain(steps.iter().filter(wanted).take(OF_A_KIND).map(|s| (s, Pull::UnderWay)))
        .chain(steps.iter().filter(learning).take(OF_A_KIND).map(|s| (s, Pull::UnderWay)))
        .chain(due.map(|s| (s, Pull::Keep)));
    let mut out: Vec<Subject> = vec![];
    for (step, pull) in all {
        if out.iter().all(|s| s.step != step.step) {
            out.push(subject(step, pull));
        }
    }
    let keeps = steps.iter().rfind(|s| s.standing == Standing::Owned);
    if let Some(step) = keeps.filter(|s| out.len() < 3 && out.iter().all(|o| o.step != s.step)) {
        out.push(subject(step, Pull::Keep));
    }
    out.push(Subject {
        step: "out".to_owned(),
        name: "a day out".to_owned(),
        gait: Gait::Walk,
        pull: Pull::Out,
        aim: None,
    });
    out
}

fn subject(s: &StepFacts, pull: Pull) -> Subject {
    Subject { step: s.step.clone(), name: s.name.clone(), gait: s.gait, pull, aim: s.aim.clone() }
}
