//! Calls put into the trade's words, always with the figures that decided them.

use chrono::NaiveDate;

use super::{Call, Posture, SideCall, Status, StepCall, call::Best};
use crate::{
    belief::Belief,
    curriculum::{Course, Measure, Side, Step, StepIx},
    response::{Shortfall, Standard},
};

pub(super) fn percent(fraction: f64) -> String {
    format!("{}%", (fraction * 100.0).round())
}

/// A probability in whole per cent, which is never told as 0 or 100: nothing here is that sure.
fn likelihood(probability: f64) -> String {
    match probability {
        p if p < 0.01 => "under 1%".to_owned(),
        p if p > 0.99 => "over 99%".to_owned(),
        p => percent(p),
    }
}

fn whose(side: Side) -> &'static str {
    match side {
        Side::Left => "left",
        Side::Right => "right",
        Side::Both => "it",
    }
}

/// "Left met 6 of 10": the counts of the last three days.
fn counts(side: Side, belief: &Belief) -> String {
    let who = if side == Side::Both { "" } else { whose(side) };
    let days = match belief.days.min(3) {
        1 => "its only day".to_owned(),
        n => format!("the last {n} days"),
    };
    let text = format!("{who} met the standard {} of {} times on {days}", belief.recent.met, belief.recent.reps);
    capitalised(text.trim_start())
}

fn ordinary_day(belief: &Belief, standard: &Standard) -> String {
    format!(
        "on an ordinary day {} ({} to {}), the standard is {}",
        percent(belief.share.mean),
        percent(belief.share.low),
        percent(belief.share.high),
        standard.share
    )
}

/// What the call on one side goes by.
pub(super) struct SideFacts<'f> {
    pub side: Side,
    pub belief: &'f Belief,
    pub standard: &'f Standard,
    pub measure: Measure,
    /// The parts of the answer.
    pub answer: &'f [String],
    pub call: Call,
    pub status: Status,
    pub best: Option<Best>,
    pub posture: Posture,
}

/// Where most reps fell short, if enough did to be worth a sentence.
fn main_shortfall(facts: &SideFacts<'_>) -> Option<String> {
    let SideFacts { side, belief, standard, measure, .. } = *facts;
    let (what, n) = belief.recent.main_shortfall().filter(|&(_, n)| n >= 2)?;
    if measure != Measure::Reps {
        return Some(capitalised(&format!("{} {}", whose(side), measure.shortfall_in_words(n, belief.recent.reps))));
    }
    let asks = format!("in {n} of {} asks", belief.recent.reps);
    let who = whose(side);
    Some(capitalised(&match what {
        Shortfall::Answer => half_that_lags(facts).unwrap_or_else(|| format!("{who} gave no whole answer {asks}")),
        Shortfall::Weight => format!("{who} took more than {} {asks}", standard.weight.phrase()),
        Shortfall::Time => format!("{who} was slower than {} {asks}", standard.seconds),
    }))
}

/// "Right gave half an answer in 7 of 11 asks: 'feet stopped' came and 'off the bridle' did not": where one half is missing in most of the asks
/// that were not whole.
fn half_that_lags(facts: &SideFacts<'_>) -> Option<String> {
    let [first, second] = facts.answer else { return None };
    let tally = facts.belief.recent;
    let [no_first, no_second] = tally.lacked;
    let (n, came, lags) = if no_second >= no_first { (no_second, first, second) } else { (no_first, second, first) };
    let who = whose(facts.side);
    (n >= 2 && 2 * n > tally.not_whole).then(|| {
        format!("{who} gave half an answer in {n} of {} asks: \"{came}\" came and \"{lags}\" did not", tally.reps)
    })
}

/// Why one side is called as it is.
pub(super) fn for_side(facts: &SideFacts<'_>) -> Vec<String> {
    let SideFacts { side, belief, standard, call, status, best, posture, .. } = *facts;
    let likely =
        format!("{} likely to be at the standard; {}", likelihood(belief.ready), ordinary_day(belief, standard));
    let mut why = vec![];
    match (call, status) {
        (Call::Advance, _) => {
            why.push(counts(side, belief));
            why.push(capitalised(&likely));
        }
        (Call::Back, _) => {
            why.push(format!(
                "Was owned, and is {} likely to be under the standard now: {}",
                likelihood(belief.under),
                ordinary_day(belief, standard)
            ));
            why.push(counts(side, belief));
            why.extend(main_shortfall(facts));
        }
        (_, status) => {
            if belief.days < u32::from(standard.days) {
                why.push(format!("{} of {} days so far", belief.days, standard.days));
            } else if status == Status::Owned {
                why.push(format!(
                    "Still owned, and {} likely to be under the standard: a few reps tell",
                    likelihood(belief.under)
                ));
            }
            why.push(counts(side, belief));
            why.extend(main_shortfall(facts));
            why.push(capitalised(&likely));
        }
    }
    if status == Status::Owned {
        let over = belief.share.mean >= standard.share.fraction();
        why.extend(
            best.filter(|b| over && b.share - belief.share.mean >= LESS_PERFECT).map(|b| less_perfect(b, belief)),
        );
    }
    why.push(turns(belief, standard, call, posture));
    why
}

/// What would change the call.
fn turns(belief: &Belief, standard: &Standard, call: Call, posture: Posture) -> String {
    match call {
        Call::Advance => {
            format!("Called back once it is {} likely to be under the standard", percent(posture.sure_of_loss()))
        }
        Call::Back => format!("Owned again once it is {} likely to be at the standard", percent(posture.sure())),
        _ if belief.days < u32::from(standard.days) && belief.ready >= posture.sure() => {
            "Only days are missing".to_owned()
        }
        _ => format!("Advances once it is {} likely to be at the standard", percent(posture.sure())),
    }
}

/// A share that is this much less than the best is worth a line, and no more than that.
const LESS_PERFECT: f64 = 0.05;

/// "98% on 3 October, 91% now: still owned".
fn less_perfect(best: Best, belief: &Belief) -> String {
    format!("{} on {}, {} now: still owned", percent(best.share), best.on.format("%-d %B"), percent(belief.share.mean))
}

/// The sentence that names the side that holds a step up: "Stay at the jog: left gave 6 of 10".
pub(super) fn stay(step: &Step, weak: &SideCall, on: NaiveDate) -> String {
    let standard = step.standard_on(on);
    let place = format!("Stay {}", step.gait.phrase());
    if weak.belief.days < u32::from(standard.days) {
        let who = if weak.side == Side::Both { String::new() } else { format!("{} has ", whose(weak.side)) };
        return format!("{place}: {who}{} of {} days so far", weak.belief.days, standard.days);
    }
    let tally = weak.belief.recent;
    format!(
        "{place}: {} met {} of {}, {} likely to be at the standard",
        whose(weak.side),
        tally.met,
        tally.reps,
        likelihood(weak.belief.ready)
    )
}

/// "S6 poll on two reins is not owned: nothing advances over a hole".
pub(super) fn hole(course: &Course, need: StepIx, share: Option<(Side, f64)>) -> String {
    let step = course.step(need);
    let figure = match share {
        None => "no reps yet".to_owned(),
        Some((Side::Both, mean)) => format!("{} on an ordinary day", percent(mean)),
        Some((side, mean)) => format!("{} {side} on an ordinary day", percent(mean)),
    };
    format!("{} {} is not owned ({figure}): nothing advances over a hole", step.rung, step.name.to_lowercase())
}

/// "60 of 100 mounts so far".
pub(super) fn mounts(step: &Step, mounts: u32) -> String {
    match step.measure {
        Measure::Mounts { count } => format!("{mounts} of {count} mounts so far"),
        _ => format!("{mounts} mounts so far"),
    }
}

/// "Good enough for S2 bend and walk to begin (up to two fingers, 2.0 s): finish it beside that".
pub(super) fn opens(course: &Course, call: &StepCall) -> String {
    let step = course.step(call.step);
    let enough = step.opening.map_or_else(String::new, |s| format!(" ({})", step.measure.standard_in_words(&s)));
    format!("Good enough to begin {}{enough}: finish it beside that", any_of(course, &call.next))
}

/// So many steps that a call leads to are named; the rest are counted.
const NAMED: usize = 3;

/// "S2 bend and walk, S4 hip over standing or one of 5 more".
fn any_of(course: &Course, steps: &[StepIx]) -> String {
    let name = |&n: &StepIx| format!("{} {}", course.step(n).rung, course.step(n).name.to_lowercase());
    let mut named: Vec<String> = steps.iter().take(NAMED).map(name).collect();
    match steps.len() - named.len() {
        0 => {}
        1 => named.push("one more".to_owned()),
        more => named.push(format!("one of {more} more")),
    }
    let last = named.pop().unwrap_or_default();
    if named.is_empty() { last } else { format!("{} or {last}", named.join(", ")) }
}

/// Where an advance leads.
pub(super) fn advance(course: &Course, call: &StepCall) -> String {
    let mut to = vec![];
    if !call.next.is_empty() {
        to.push(format!("go on to {}", any_of(course, &call.next)));
    }
    to.extend(call.place.map(|p| p.next().to_owned()));
    to.extend(call.hands.map(|h| h.next().to_owned()));
    if to.is_empty() {
        return "Owned on every side; what comes after it is owned too or waits for another rung".to_owned();
    }
    format!("Owned on every side: {}", to.join("; "))
}

/// The sentences of a side, each with the side's name where it does not begin with it.
pub(super) fn labelled(call: &SideCall, why: &[String]) -> Vec<String> {
    let named = |text: &String| {
        let lower = text.to_lowercase();
        if call.side == Side::Both || lower.starts_with(call.side.word()) {
            text.clone()
        } else {
            format!("{}: {}", capitalised(call.side.word()), uncapitalised(text))
        }
    };
    why.iter().map(named).collect()
}

fn uncapitalised(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| first.to_lowercase().chain(chars).collect())
}

pub(crate) fn capitalised(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| first.to_uppercase().chain(chars).collect())
}
