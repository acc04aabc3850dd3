//! `cavesson decide`: a log of horses in, what each owns and whether to advance out.

use std::collections::BTreeSet;

use cavesson_core::{
    advice::{Advisor, HorseRecord, SideCall, replay_barn},
    belief::{Day, ModelSettings, Work},
    curriculum::{Course, Gait, Side, Sides, Step},
    response::{Answer, Outcome, Rep, ResponseTime, Share, Standard, Weight},
};
use serde_json::{Value, json};

use crate::cli::{
    decide_fast::{self, Log},
    document::{Node, Object, Problem},
};

/// Answers the contract.
///
/// ```
/// let log = r#"{"posture": "steady", "trace": false, "rungs": [], "horses": []}"#;
/// assert_eq!(cavesson::cli::decide(log).unwrap()["horses"], serde_json::json!([]));
/// assert!(cavesson::cli::decide("{").is_err());
/// ```
///
/// # Errors
/// Every problem of a document that cannot be used.
pub fn decide(text: &str) -> Result<Value, Vec<Problem>> {
    let log = read(text)?;
    let ids = log.horses.iter().map(|(id, _)| id);
    let horses: Vec<Value> = ids.zip(calls(&log)).map(|(id, calls)| json!({ "id": id, "calls": calls })).collect();
    Ok(json!({ "horses": horses }))
}

/// The log in a document.
pub(crate) fn read(text: &str) -> Result<Log, Vec<Problem>> {
    decide_fast::read(text).map_or_else(|| strict(text), Ok)
}

/// Reads a log value by value, and says all that is wrong with it.
fn strict(text: &str) -> Result<Log, Vec<Problem>> {
    let value: Value = serde_json::from_str(text).map_err(|e| vec![Problem::whole(format!("not JSON: {e}"))])?;
    let root = Node::root(&value);
    let log = read_log(&root);
    let problems = root.problems();
    log.filter(|_| problems.is_empty()).ok_or(problems)
}

/// The calls on every horse. The barn is taken through its weeks together: what its horses have in common is learned from all of them,
/// and nothing from a day still to come.
fn calls(log: &Log) -> Vec<Vec<Value>> {
    let settings = ModelSettings::default();
    // Clones share what they work out about reps.
    let advisor = Advisor::new(&log.course, log.posture, settings);
    let records = log.horses.iter().map(|(_, days)| HorseRecord { follower: advisor.clone(), days: &days[..] });
    let mut out = vec![vec![]; log.horses.len()];
    replay_barn(&settings, &mut records.collect::<Vec<_>>(), |horse, session, advisor| {
        let days = &log.horses[horse].1;
        if log.trace || session + 1 == days.len() {
            out[horse].extend(entries(log, advisor, session, &days[session]));
        }
    });
    out
}

fn entries<'a>(
    log: &'a Log,
    advisor: &'a Advisor<'_>,
    session: usize,
    day: &'a Day,
) -> impl Iterator<Item = Value> + 'a {
    let calls = advisor.observer().seen().filter_map(|(ix, side)| Some((ix, advisor.side(ix, side, day.date)?)));
    calls.map(move |(ix, call)| entry(session, day, &log.course.step(ix).id, &call))
}

fn entry(session: usize, day: &Day, rung: &str, call: &SideCall) -> Value {
    let share = call.belief.share;
    json!({
        "session": session,
        "date": day.date.to_string(),
        "rung": rung,
        "side": call.side.word(),
        "ready": four(call.belief.ready),
        "share": { "mean": four(share.mean), "low": four(share.low), "high": four(share.high) },
        "call": call.call.word(),
        "why": call.why,
    })
}

fn four(x: f64) -> f64 {
    (x * 10_000.0).round() / 10_000.0
}

fn read_log(root: &Node<'_>) -> Option<Log> {
    let doc = root.object(&["posture", "trace", "rungs", "horses"], &[])?;
    let posture = doc.get("posture").and_then(|n| n.word());
    let trace = doc.get("trace").and_then(|n| n.boolean());
    let rungs = doc.get("rungs")?;
    let steps: Vec<(Step, Vec<String>)> = rungs.list().iter().filter_map(read_rung).collect();
    let course = match Course::new(steps) {
        Ok(course) => course,
        Err(error) => {
            rungs.say(error.to_string());
            return None;
        }
    };
    let mut ids = BTreeSet::new();
    let mut horses = vec![];
    for node in doc.get("horses")?.list() {
        let Some((id, days)) = read_horse(&node, &course) else { continue };
        if !ids.insert(id.clone()) {
            node.say(format!("the id \"{id}\" is used twice"));
        }
        horses.push((id, days));
    }
    Some(Log { posture: posture?, trace: trace?, course, horses })
}

fn read_rung(node: &Node<'_>) -> Option<(Step, Vec<String>)> {
    let rung = node.object(&["id", "sides", "gait", "needs", "standard"], &[])?;
    let id = rung.get("id").and_then(|n| n.text())?.to_owned();
    let sides = read_sides(&rung.get("sides")?);
    let gait: Option<Gait> = rung.get("gait").and_then(|n| n.word());
    let needs = rung.get("needs")?.list().iter().filter_map(|n| n.text().map(str::to_owned)).collect();
    let standard = read_standard(&rung.get("standard")?);
    Some((Step::plain(&id, gait?, sides?, standard?), needs))
}

fn read_sides(node: &Node<'_>) -> Option<Sides> {
    let words: Vec<&str> = node.list().iter().filter_map(Node::text).collect();
    match words.as_slice() {
        ["left", "right"] => Some(Sides::Each),
        ["both"] => Some(Sides::Both),
        _ => {
            node.say("sides must be [\"left\",\"right\"] or [\"both\"]");
            None
        }
    }
}

fn read_standard(node: &Node<'_>) -> Option<Standard> {
    let s = node.object(&["share", "weight", "seconds", "days"], &[])?;
    let share = checked(&s.get("share")?, Share::new);
    let weight: Option<Weight> = s.get("weight")?.word();
    let seconds = checked(&s.get("seconds")?, ResponseTime::from_seconds);
    let days = checked(&s.get("days")?, whole_days);
    Some(Standard { share: share?, weight: weight?, seconds: seconds?, days: days? })
}

#[derive(Debug, thiserror::Error)]
#[error("{0} is not a number of days from 0 to 255")]
struct NotWholeDays(f64);

fn whole_days(days: f64) -> Result<u8, NotWholeDays> {
    if days.fract() == 0.0 && (0.0..=255.0).contains(&days) { Ok(days as u8) } else { Err(NotWholeDays(days)) }
}

/// A number made into what it stands for, or the problem that it cannot be.
fn checked<T, E: std::fmt::Display>(node: &Node<'_>, make: impl Fn(f64) -> Result<T, E>) -> Option<T> {
    make(node.number()?).map_err(|e| node.say(e.to_string())).ok()
}

fn read_horse(node: &Node<'_>, course: &Course) -> Option<(String, Vec<Day>)> {
    let horse = node.object(&["id", "sessions"], &[])?;
    let id = horse.get("id").and_then(|n| n.text())?.to_owned();
    let mut days: Vec<Day> = vec![];
    for node in horse.get("sessions")?.list() {
        let Some(session) = node.object(&["date", "sets"], &[]) else { continue };
        let date = session.get("date").and_then(|n| n.date());
        let sets = session.get("sets").map(|n| n.list()).unwrap_or_default();
        let work = sets.iter().filter_map(|n| read_set(n, course)).collect();
        let Some(date) = date else { continue };
        if let Some(before) = days.last().map(|d| d.date).filter(|&d| d >= date) {
            node.say(format!("{date} does not come after {before}; sessions are in date order, one a day"));
        }
        days.push(Day::new(date, work));
    }
    Some((id, days))
}

fn read_set(node: &Node<'_>, course: &Course) -> Option<Work> {
    let set = node.object(&["rung", "side", "reps"], &[])?;
    let rung = set.get("rung")?;
    let step = course.find(rung.text()?);
    if step.is_none() {
        rung.say("no rung has this id");
    }
    let side_at = set.get("side")?;
    let side: Option<Side> = side_at.word();
    let reps = set.get("reps")?.list().iter().filter_map(read_rep).collect();
    let (step, side) = (step?, side?);
    if !course.step(step).sides.has(side) {
        side_at.say(format!("the rung has no side \"{side}\""));
    }
    Some(Work::reps(step, side, reps))
}

fn read_rep(node: &Node<'_>) -> Option<Rep> {
    let rep = node.object(&["outcome", "weight"], &["seconds"])?;
    let answer = read_outcome(&rep);
    let weight: Option<Weight> = rep.get("weight").and_then(|n| n.word());
    let time = rep.get("seconds").map(|n| checked(&n, ResponseTime::from_seconds));
    Some(Rep { answer: answer?, weight: weight?, time: time.flatten() })
}

fn read_outcome(rep: &Object<'_>) -> Option<Answer> {
    let node = rep.get("outcome")?;
    let outcome: Outcome = node.word()?;
    Answer::of_outcome(outcome, None)
}
