//! What to do after the last ask: another, the other side, slower, air, something else, quit, stop, or look at the horse.
//!
//! A pure function of the ride so far. The rules are common practice made into figures, without a published source. They are
//! asked in the order below; the first that speaks is the coach's line.

mod elsewhere;
mod now;

use std::collections::BTreeMap;

use chrono::NaiveDate;

use self::{
    elsewhere::{come_back, elsewhere, pain},
    now::Now,
};
use super::{AskChange, Asked, Split, TrendLine, asked::best_asked};
use crate::{
    curriculum::{Course, Fault, Side, StepIx},
    load::HeatBand,
    response::{Outcome, Rep, ResponseTime},
    words::words,
};

/// The ride so far.
#[derive(Debug, Clone)]
pub struct RideProgress<'a> {
    /// The course.
    pub course: &'a Course,
    /// The day.
    pub on: NaiveDate,
    /// The asks in order.
    pub asked: &'a [Asked],
    /// How the plan shares the reps of a step.
    pub splits: &'a BTreeMap<StepIx, Split>,
    /// The share that was foreseen for a step and side, where it is known well enough to be missed.
    pub foreseen: &'a BTreeMap<(StepIx, Side), f64>,
    /// The heat.
    pub heat: HeatBand,
    /// What changed from ask to ask, where it can be said.
    pub trend: Option<&'a TrendLine>,
    /// The fault of the last ask and the step that it likely comes from, where that is told.
    pub cause: Option<(&'a Fault, StepIx)>,
}

words! {
    "the coach's advice";
    /// What to do next.
    pub enum Advice {
        /// The same again.
        Another,
        /// The other side.
        OtherSide,
        /// The same, a gait slower.
        SlowDown,
        /// Let it stand.
        Air,
        /// Something else, and come back.
        ChangeSubject,
        /// That was the one.
        QuitHere,
        /// Do not escalate.
        StopAsking,
        /// Something may hurt.
        LookAtHorse,
    }
}

/// The coach's line.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CoachLine {
    /// What to do.
    pub advice: Advice,
    /// The step to ask instead, where the advice is to slow down.
    pub step: Option<StepIx>,
    /// Why, in one line with the figures.
    pub why: String,
}

/// Days with reps from which on what is foreseen of a side is known well enough to be missed (common practice, no published source).
pub const FORESEEN_FROM_DAYS: u32 = 3;

/// Asks over which weight or seconds may not rise.
const RISING: usize = 3;
/// How sure a change for the worse is, and over how many asks, before the coach says stop.
const SURELY_WORSE: f64 = 0.9;
const WORSE_ASKS: usize = 5;
/// Asks of a subject before its best answer can be the last.
const BEFORE_QUIT: usize = 4;
/// Asks of a subject after which any whole answer at the standard is a place to quit, whatever the best was.
const ENOUGH: usize = 12;
/// A subject is dull after so many asks without air or change.
const DULL: usize = 16;
/// A gap this long was air, seconds.
const AIR_SECONDS: u32 = 60;
/// A ride is late after so many asks or seconds.
const LATE_ASKS: usize = 20;
const LATE_SECONDS: u32 = 25 * 60;
/// Asks that are compared with as many before them.
const STRETCH: usize = 4;

/// What to do next; nothing before the first ask.
pub fn coach(ride: &RideProgress<'_>) -> Option<CoachLine> {
    let last = ride.asked.last()?;
    let now = Now::of(ride, last);
    let rules: [fn(&Now<'_, '_>) -> Option<CoachLine>; 13] =
        [pain, elsewhere, rising, anticipates, tired, worse, confused, come_back, quits, air, dull, other_side, stiff];
    let spoken = rules.into_iter().find_map(|rule| rule(&now));
    let plainly = || now.ride.trend.map_or_else(|| now.plainly(), |t| t.says.clone());
    Some(spoken.unwrap_or_else(|| now.say(Advice::Another, plainly())))
}

/// Weight or seconds up over three asks that all missed, or counts down.
fn rising(now: &Now<'_, '_>) -> Option<CoachLine> {
    let three = now.tail(RISING);
    if three.len() < RISING || now.count(three) > 0 {
        return None;
    }
    let reps: Option<Vec<&Rep>> = three.iter().map(|a| a.rep()).collect();
    let Some(reps) = reps else { return counts_fall(now, three) };
    if reps.windows(2).all(|p| p[0].weight < p[1].weight) {
        let path: Vec<&str> = reps.iter().map(|r| r.weight.word()).collect();
        return Some(now.say(Advice::StopAsking, format!("{}: stop adding, change the question", path.join(", "))));
    }
    let times: Option<Vec<f64>> = reps.iter().map(|r| r.time.map(ResponseTime::seconds)).collect();
    let times = times.filter(|t| t.windows(2).all(|p| p[0] < p[1]))?;
    let path: Vec<String> = times.iter().map(|t| format!("{t:.1}")).collect();
    Some(now.say(Advice::StopAsking, format!("{} s and longer each time: change the question", path.join(", "))))
}

/// Three counts that all missed, each worse than the one before.
fn counts_fall(now: &Now<'_, '_>, three: &[&Asked]) -> Option<CoachLine> {
    let ranks: Option<Vec<(i32, u32)>> = three.iter().map(|a| a.count().and(a.rank())).collect();
    ranks.filter(|r| r.windows(2).all(|p| p[0] < p[1]))?;
    let path: Vec<String> = three.iter().filter_map(|a| Some(a.count()?.in_words())).collect();
    Some(now.say(Advice::StopAsking, format!("{}: worse each time, change the question", path.join("; "))))
}

/// Surely worse from ask to ask, and not an answer at the standard now: asking on teaches the wrong one.
fn worse(now: &Now<'_, '_>) -> Option<CoachLine> {
    let trend = now.ride.trend.filter(|t| t.odds >= SURELY_WORSE && t.asks >= WORSE_ASKS)?;
    let is_worse = matches!(trend.change, AskChange::Later | AskChange::Heavier | AskChange::Less);
    (is_worse && !now.met(now.last))
        .then(|| now.say(Advice::StopAsking, format!("{}: change the question", trend.says)))
}

/// The answer before the ask.
fn anticipates(now: &Now<'_, '_>) -> Option<CoachLine> {
    let recent = &now.step[now.step.len().saturating_sub(STRETCH)..];
    let early = recent.iter().filter(|a| a.is_early()).count();
    (now.last.is_early() && early >= 2).then(|| {
        let text =
            format!("Answered before the ask {early} of {}: set it up and do not go, or somewhere else", recent.len());
        now.say(Advice::ChangeSubject, text)
    })
}

/// Falling late in the ride: the last stretch well under the one before it.
fn tired(now: &Now<'_, '_>) -> Option<CoachLine> {
    let asked: Vec<&Asked> = now.ride.asked.iter().collect();
    if !now.is_late() || asked.len() < 2 * STRETCH {
        return None;
    }
    let (before, recent) = asked[asked.len() - 2 * STRETCH..].split_at(STRETCH);
    let (was, is) = (now.count(before), now.count(recent));
    (was >= is + 2).then(|| {
        let text =
            format!("{was} of {STRETCH}, now {is} of {STRETCH}, late in the ride: it is tired. One it owns, and quit");
        let advice = if now.met(now.last) { Advice::QuitHere } else { Advice::Air };
        now.say(advice, text)
    })
}

/// Nothing, nothing, then a try: it searches. Nothing three times: the question is too big.
fn confused(now: &Now<'_, '_>) -> Option<CoachLine> {
    let three: Vec<Outcome> = now.tail(3).iter().map(|a| a.outcome(now.ride.course)).collect();
    let (searches, nothing) = match now.last.count() {
        None => ("None, none, tried".to_owned(), "No answer three times".to_owned()),
        Some(count) => {
            (format!("Now {}", count.in_words()), format!("Three on end like the last, {}", count.in_words()))
        }
    };
    match three.as_slice() {
        [Outcome::None, Outcome::None, Outcome::Tried] => {
            Some(now.say(Advice::Another, format!("{searches}: it searches. Wait, and release on the try")))
        }
        [Outcome::None, Outcome::None, Outcome::None] => Some(match slower(now) {
            Some(step) => {
                let gait = now.ride.course.step(step).gait.phrase();
                let line = now.say(Advice::SlowDown, format!("{nothing}: ask it {gait}"));
                CoachLine { step: Some(step), ..line }
            }
            None => now.say(Advice::ChangeSubject, format!("{nothing}: a smaller question, then come back")),
        }),
        _ => None,
    }
}

/// The same rung one gait slower, where there is one.
fn slower(now: &Now<'_, '_>) -> Option<StepIx> {
    let step = now.ride.course.step(now.last.step);
    let below = now.last.step.checked_sub(1)?;
    (now.ride.course.step(below).rung == step.rung).then_some(below)
}

/// The best so far, or good enough after enough of them, on the side that needed it.
fn quits(now: &Now<'_, '_>) -> Option<CoachLine> {
    if !now.met(now.last) || now.step.len() < BEFORE_QUIT || !sides_done(now) {
        return None;
    }
    let earlier = now.side[..now.side.len() - 1].iter().copied();
    let (asks, told) = (now.step.len(), now.last.in_words());
    let is_best = match (now.last.rank(), best_asked(now.ride.course, now.ride.on, earlier)) {
        (Some(rank), Some(best)) => best.rank().is_none_or(|b| rank < b),
        (Some(_), None) => true,
        (None, _) => false,
    };
    if is_best && now.side.len() >= 3 {
        return Some(now.say(Advice::QuitHere, format!("The best of {asks}: {told}. Leave it wanting more")));
    }
    if now.last.count().is_some() && now.side.len() >= 3 && now.count(now.tail(3)) == 3 {
        return Some(now.say(Advice::QuitHere, format!("Three on end at the standard, now {told}. Leave it at that")));
    }
    let recent = now.tail(3);
    (asks >= ENOUGH && now.count(recent) >= 2).then(|| {
        let text = format!("{asks} asks, and a whole answer at {told}: as good a place to quit as any");
        now.say(Advice::QuitHere, text)
    })
}

/// Whether both sides had their part, ending on a give on each.
fn sides_done(now: &Now<'_, '_>) -> bool {
    if now.last.side == Side::Both || !now.ride.course.step(now.last.step).sides.has(Side::Left) {
        return true;
    }
    let other: Vec<&Asked> = now.step.iter().copied().filter(|a| a.side == now.last.side.mirrored()).collect();
    let ended_well = other.last().is_some_and(|a| now.gave(a));
    ended_well && part_of(now, now.last.side) >= 0.8 * planned(now, now.last.side)
}

/// The part of the reps that a side has had, 0 to 1.
fn part_of(now: &Now<'_, '_>, side: Side) -> f64 {
    now.step.iter().filter(|a| a.side == side).count() as f64 / now.step.len() as f64
}

/// The part of the reps that the plan gives a side, 0 to 1.
fn planned(now: &Now<'_, '_>, side: Side) -> f64 {
    let split = now.ride.splits.get(&now.last.step).copied().unwrap_or(Split { left: 50, right: 50 });
    f64::from(if side == Side::Left { split.left } else { split.right }) / 100.0
}

/// Rest is the reward, and nobody gives it too often.
fn air(now: &Now<'_, '_>) -> Option<CoachLine> {
    let (since, most) = (now.since_air(), now.ride.heat.reps_to_air() as usize);
    let gave = now.gave(now.last);
    let why = if now.ride.heat > HeatBand::Fine { "in this heat" } else { "running" };
    // On a give, or at the latest four asks on.
    (since >= most && (gave || since >= most + STRETCH))
        .then(|| now.say(Advice::Air, format!("{since} asks {why}: let it stand where it should like being")))
}

/// The same for too long, without getting better.
fn dull(now: &Now<'_, '_>) -> Option<CoachLine> {
    let running = now.ride.asked.iter().rev().take_while(|a| a.step == now.last.step).count();
    if running < DULL {
        return None;
    }
    let run: Vec<&Asked> = now.ride.asked[now.ride.asked.len() - running..].iter().collect();
    let (first, second) = run.split_at(running / 2);
    (now.count(second) <= now.count(first)).then(|| {
        let text = format!("{running} of the same and no better: walk off, go round, come back to it");
        now.say(Advice::ChangeSubject, text)
    })
}

/// This side has had its part and ended on a give.
fn other_side(now: &Now<'_, '_>) -> Option<CoachLine> {
    let side = now.last.side;
    let two = side != Side::Both && now.ride.course.step(now.last.step).sides.has(side.mirrored());
    let gave = now.gave(now.last);
    if !two || !gave || now.side.len() < 3 {
        return None;
    }
    let (has, wanted) = (part_of(now, side), planned(now, side));
    let streak = now.ride.asked.iter().rev().take_while(|a| a.step == now.last.step && a.side == side).count();
    (has > wanted + 0.05 && streak >= 3).then(|| {
        let other = side.mirrored();
        let theirs = now.step.len() - now.side.len();
        let text = format!(
            "{} {} asks and a give; {other} has {theirs}",
            crate::advice::capitalised(side.word()),
            now.side.len()
        );
        now.say(Advice::OtherSide, text)
    })
}

/// Rising with the warm-up: stiff, not unwilling.
fn stiff(now: &Now<'_, '_>) -> Option<CoachLine> {
    if now.is_late() || now.side.len() < 2 * STRETCH - 2 {
        return None;
    }
    let (first, second) = now.side.split_at(now.side.len() / 2);
    let (was, is) = (now.count(first), now.count(second));
    (is >= was + 2).then(|| {
        let text =
            format!("{was} of {}, then {is} of {}: it was stiff and loosens. Another", first.len(), second.len());
        now.say(Advice::Another, text)
    })
}
