//! Heading a cow off along the fence, and holding one that stops.

use cavesson_core::cattle::{Band, HeadOff, Hold, Made, Mark, MarkFound, RunningCow, RunningHorse, Tires};
use serde_json::{Value, json};

use crate::cli::document::{Node, Object, rounded};

/// No pen is longer, feet.
const LONGEST: f64 = 10_000.0;
/// Nothing runs faster, feet a second.
const FASTEST: f64 = 200.0;
/// Nothing gains or brakes harder, feet a second in a second.
const HARDEST: f64 = 1_000.0;
/// No delay is longer, seconds.
const LATEST: f64 = 600.0;
const MOST: usize = 200;

pub(super) fn head_off(root: &Node<'_>) -> Option<Value> {
    let doc = root.object(&["kind", "cow", "horse", "pen", "room", "holds", "marks"], &[])?;
    let pen = doc
        .get("pen")
        .and_then(|n| n.object(&["long", "wide"], &[]))
        .map(|of| (of.over_zero("long", LONGEST), of.over_zero("wide", LONGEST)));
    let room = doc.within("room", 0.0, LONGEST);
    let holds = doc.within("holds", 0.0, FASTEST);
    let cow = doc.get("cow").and_then(|n| cow(&n));
    let horse = doc.get("horse").and_then(|n| horse(&n));
    let marks = doc.get("marks").map(|n| marks(&n))?;
    let (Some(long), Some(wide)) = pen? else { return None };
    let (room, holds, cow, (horse, nose), marks) = (room?, holds?, cow?, horse?, marks?);
    if horse.nose > long - room {
        nose.say(format!("{} is past {}: the fence less the room", horse.nose, long - room));
        return None;
    }
    let asked = HeadOff { cow, horse, long, room };
    let mut found = vec![];
    for (id, mark, at) in marks {
        if !cow.when_at(long - room - mark.behind).is_finite() {
            at.say("the cow is too tired to come that far");
            return None;
        }
        found.push(mark_found(id, &asked.mark(mark)));
    }
    let run_out = cow.run_out(holds).map(|run| {
        json!({ "t": rounded(run.t), "feet": rounded(run.feet), "laps": rounded(run.feet / (2.0 * (long + wide))) })
    });
    Some(json!({ "marks": found, "run_out": run_out }))
}

fn mark_found(id: &str, found: &MarkFound) -> Value {
    let of = |part: fn(&Made) -> f64| found.made.as_ref().map(|made| rounded(part(made)));
    json!({
        "id": id,
        "left": rounded(found.left),
        "made": found.made.is_some(),
        "t": of(|m| m.t),
        "cow": of(|m| m.cow),
        "nose": of(|m| m.nose),
        "speed": of(|m| m.speed),
        "stop": of(|m| m.stop),
        "clear": of(|m| m.clear),
        "start": rounded(found.start),
        "least_top": found.least_top.map(rounded),
        "most_delay": found.most_delay.map(rounded),
    })
}

fn cow(node: &Node<'_>) -> Option<RunningCow> {
    let doc = node.object(&["at", "speed", "tires"], &[])?;
    let at = doc.within("at", -LONGEST, LONGEST);
    let speed = doc.over_zero("speed", FASTEST);
    let tires = match doc.get("tires") {
        Some(tires) if !tires.is_null() => Some(tires_of(&tires, speed)?),
        Some(_) => None,
        None => return None,
    };
    Some(RunningCow { at: at?, speed: speed?, tires })
}

fn tires_of(node: &Node<'_>, speed: Option<f64>) -> Option<Tires> {
    let doc = node.object(&["to", "half_seconds"], &[])?;
    let to = doc.within("to", 0.0, speed.unwrap_or(FASTEST));
    let half_seconds = doc.over_zero("half_seconds", LATEST);
    Some(Tires { to: to?, half_seconds: half_seconds? })
}

/// The horse, and where its nose stands in the document.
fn horse<'a>(node: &Node<'a>) -> Option<(RunningHorse, Node<'a>)> {
    let doc = node.object(&["nose", "across", "speed", "delay", "accel", "top", "brake"], &[])?;
    let nose = doc.within("nose", -LONGEST, LONGEST);
    let across = doc.within("across", 0.0, LONGEST);
    let top = doc.over_zero("top", FASTEST);
    let speed = doc.within("speed", 0.0, top.unwrap_or(FASTEST));
    let delay = doc.within("delay", 0.0, LATEST);
    let accel = doc.over_zero("accel", HARDEST);
    let brake = doc.over_zero("brake", HARDEST);
    let horse = RunningHorse {
        nose: nose?,
        across: across?,
        speed: speed?,
        delay: delay?,
        accel: accel?,
        top: top?,
        brake: brake?,
    };
    Some((horse, doc.get("nose")?))
}

/// The marks in order, each with its id and where it stands.
fn marks<'a>(node: &Node<'a>) -> Option<Vec<(&'a str, Mark, Node<'a>)>> {
    let mut found: Vec<(&str, Mark, Node<'_>)> = vec![];
    let nodes = node.list();
    if nodes.is_empty() || nodes.len() > MOST {
        node.say(format!("1 to {MOST} marks"));
    }
    for mark in nodes {
        let Some(doc) = mark.object(&["id", "behind"], &[]) else { continue };
        let id = text(&doc, "id");
        let behind = doc.within("behind", -LONGEST, LONGEST);
        let (Some(id), Some(behind)) = (id, behind) else { continue };
        if found.iter().any(|(known, ..)| *known == id) {
            doc.get("id")?.say(format!("\"{id}\" stands here twice"));
        }
        if found.last().is_some_and(|(_, last, _)| last.behind >= behind) {
            doc.get("behind")?.say("marks rise: each is further behind than the one before");
        }
        found.push((id, Mark { behind }, doc.get("behind")?));
    }
    Some(found)
}

fn text<'a>(doc: &Object<'a>, key: &str) -> Option<&'a str> {
    doc.get(key)?.text()
}

pub(super) fn hold(root: &Node<'_>) -> Option<Value> {
    let doc = root.object(&["kind", "cow", "horse", "band", "speeds"], &[])?;
    let cow_brake =
        doc.get("cow").and_then(|n| n.object(&["brake"], &[])).and_then(|of| of.over_zero("brake", HARDEST));
    let band = doc.get("band").and_then(|n| n.object(&["short", "long"], &[])).and_then(|of| {
        let (short, long) = (of.within("short", 0.0, LONGEST), of.within("long", 0.0, LONGEST));
        Some(Band { short: short?, long: long? })
    });
    let horse = doc.get("horse").and_then(|n| n.object(&["off", "delay", "brake"], &[])).and_then(|of| {
        let off = match band {
            Some(Band { short, long }) => of.within("off", -short, long),
            None => of.within("off", -LONGEST, LONGEST),
        };
        let (delay, brake) = (of.within("delay", 0.0, LATEST), of.over_zero("brake", HARDEST));
        Some((off?, delay?, brake?))
    });
    let speeds = doc.get("speeds").map(|n| speeds(&n));
    let (cow_brake, band, (off, delay, horse_brake), speeds) = (cow_brake?, band?, horse?, speeds??);
    let asked = Hold { cow_brake, off, delay, horse_brake };
    let of = |speed: f64| {
        let held = asked.at(speed);
        json!({
            "speed": speed,
            "past": rounded(held.past),
            "most": rounded(held.most),
            "cow_feet": rounded(held.cow.0),
            "cow_time": rounded(held.cow.1),
            "horse_feet": rounded(held.horse.0),
            "horse_time": rounded(held.horse.1),
            "holds": asked.holds(speed, band),
        })
    };
    let speeds: Vec<Value> = speeds.into_iter().map(of).collect();
    Some(json!({ "speeds": speeds, "most_speed": asked.most_speed(band).map(rounded) }))
}

fn speeds(node: &Node<'_>) -> Option<Vec<f64>> {
    let nodes = node.list();
    if nodes.is_empty() || nodes.len() > MOST {
        node.say(format!("1 to {MOST} speeds"));
    }
    let speed = |n: &Node<'_>| {
        let speed = n.number()?;
        if !(0.0..=FASTEST).contains(&speed) {
            n.say(format!("{speed} is not within 0 to {FASTEST}"));
            return None;
        }
        Some(speed)
    };
    nodes.iter().map(speed).collect()
}
