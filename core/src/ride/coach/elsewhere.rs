//! What is not fixed by asking on: pain, and a fault on cattle or on the pattern that comes from a rung below.

use std::collections::BTreeMap;

use super::{Advice, CoachLine, STRETCH, now::Now};
use crate::{
    curriculum::{Curriculum, Side, StepIx},
    ride::Asked,
};

/// Times that a fault shows on cattle or on the pattern before it is fixed elsewhere.
const TWICE: usize = 2;

/// One side far under what was foreseen, on two ladders in one ride, with the other side sound.
pub(super) fn pain(now: &Now<'_, '_>) -> Option<CoachLine> {
    let side = now.last.side;
    if side == Side::Both {
        return None;
    }
    let mut here: BTreeMap<StepIx, Vec<&Asked>> = BTreeMap::new();
    let mut other: Vec<&Asked> = vec![];
    for a in now.ride.asked.iter().filter(|a| now.ride.foreseen.get(&(a.step, a.side)).is_some_and(|&f| f >= 0.6)) {
        if a.side == side {
            here.entry(a.step).or_default().push(a);
        } else if a.side == side.mirrored() {
            other.push(a);
        }
    }
    let fallen: Vec<StepIx> =
        here.iter().filter(|(_, asks)| asks.len() >= 3 && 4 * now.count(asks) <= asks.len()).map(|(&s, _)| s).collect();
    let ladder = |ix: StepIx| now.ride.course.step(ix).ladder;
    let apart = fallen.iter().any(|&a| fallen.first().is_some_and(|&b| ladder(a) != ladder(b)));
    let sound = other.len() >= 3 && 3 * now.count(&other) >= 2 * other.len();
    (apart && sound).then(|| {
        let all: Vec<&Asked> = fallen.iter().flat_map(|s| here[s].iter().copied()).collect();
        let text = format!(
            "{} met {} of {} on {} rungs that share nothing, the other side is sound: get off and look",
            crate::advice::capitalised(side.word()),
            now.count(&all),
            all.len(),
            fallen.len()
        );
        now.say(Advice::LookAtHorse, text)
    })
}

/// The same fault twice on cattle, flag or pattern that a rung below would cure: that is not fixed there.
pub(super) fn elsewhere(now: &Now<'_, '_>) -> Option<CoachLine> {
    let (fault, cause) = now.ride.cause?;
    let here = now.ride.course.step(now.last.step);
    let times = now.step.iter().filter(|a| a.faults.contains(&fault.tag)).count();
    if !here.work.is_spared() || times < TWICE || now.ride.course.step(cause).rung == here.rung {
        return None;
    }
    let text = format!(
        "{} {times} times here: leave it, work {}, then come back to the same thing and look",
        crate::advice::capitalised(&fault.name),
        now.ride.course.step(cause).name.to_lowercase()
    );
    Some(CoachLine { step: Some(cause), ..now.say(Advice::ChangeSubject, text) })
}

/// What was left for a rung below is looked at again, once that rung goes well.
pub(super) fn come_back(now: &Now<'_, '_>) -> Option<CoachLine> {
    let course = now.ride.course;
    let well = now.side.len() >= STRETCH && now.count(now.tail(STRETCH)) + 1 >= STRETCH && now.met(now.last);
    if !well || course.step(now.last.step).work.is_spared() {
        return None;
    }
    let left = now.ride.asked.iter().rev().find(|a| course.step(a.step).work.is_spared())?;
    let there = || now.ride.asked.iter().filter(|a| a.step == left.step);
    let fault = left.faults.iter().find(|f| there().filter(|a| a.faults.contains(f)).count() >= TWICE)?;
    let name = course.step(left.step).name.to_lowercase();
    let called = Curriculum::standard().fault(fault).map_or(fault.as_str(), |f| &f.name);
    let text = format!("This goes well now: back to {name}, and look whether that is gone: {called}");
    Some(CoachLine { step: Some(left.step), ..now.say(Advice::ChangeSubject, text) })
}
