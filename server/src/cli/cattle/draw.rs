//! Which cow for which horse, today.

use std::collections::HashMap;

use cavesson_core::cattle::{
    CowDay, Draw, DrawCow, DrawHorse, Goes, Manner, Slots, Start, Wear, Work, WorkDone, draw as search,
};
use serde_json::{Value, json};

use crate::cli::document::{Node, Object};

/// Draws that each thread tries for each millisecond of the limit: what two idle cores do with the largest pens too.
const TRIES_A_MS: u64 = 2_000;
/// Milliseconds of the limit that starting, reading and writing are given.
const AROUND_MS: u64 = 200;
const MOST_SLOTS: u16 = 500;
const MOST_HORSES: usize = 64;
const MOST_COWS: usize = 200;
/// No figure is larger.
const LARGEST: f64 = 1e6;

struct Asked<'a> {
    draw: Draw,
    work: Work,
    horses: Vec<&'a str>,
    cows: Vec<&'a str>,
}

pub(super) fn draw(root: &Node<'_>) -> Option<Value> {
    let asked = read(root)?;
    if !root.problems().is_empty() {
        return None;
    }
    let (goes, value) = search(&asked.draw, asked.work);
    Some(answer(&asked, &goes, value))
}

fn answer(asked: &Asked<'_>, goes: &Goes, value: i64) -> Value {
    let Asked { draw, horses, cows, .. } = asked;
    let seconds = draw.seconds(goes);
    let mut works = vec![0_usize; cows.len()];
    let mut told = vec![];
    for (at, go) in goes.iter().enumerate() {
        let Some(go) = go else { continue };
        let (cow, k) = (usize::from(go.cow), works[usize::from(go.cow)]);
        works[cow] += 1;
        told.push(json!({
            "slot": at + 1,
            "horse": horses[usize::from(go.horse)],
            "cow": cows[cow],
            "work": k + 1,
            "speed": draw.cows[cow].speed[k],
            "honour": draw.cows[cow].honour[k],
            "second": seconds[at].map(|(cow, score)| json!({ "cow": cows[cow], "score": score })),
        }));
    }
    let left_out: Vec<Value> = draw
        .left_out(goes)
        .iter()
        .map(|out| json!({ "horse": horses[out.horse], "missed": out.missed, "why": out.why.word() }))
        .collect();
    let herd: Vec<Value> = (cows.iter().zip(&draw.cows).zip(works))
        .map(|((id, cow), works)| {
            json!({ "cow": id, "honour": cow.honour[0], "works": works, "after": cow.honour[works] })
        })
        .collect();
    json!({ "score": value, "goes": told, "left_out": left_out, "herd": herd })
}

const KEYS: [&str; 12] = [
    "kind",
    "seed",
    "time_limit_ms",
    "slots",
    "go_minutes",
    "bring",
    "change",
    "rest_half_days",
    "wear_half_minutes",
    "helper",
    "horses",
    "cows",
];

fn read<'a>(root: &Node<'a>) -> Option<Asked<'a>> {
    let doc = root.object(&KEYS, &[])?;
    let seed = whole(&doc, "seed", 0.0, 9e15);
    let limit = whole(&doc, "time_limit_ms", 1.0, 3_600_000.0);
    let slots = whole(&doc, "slots", 1.0, f64::from(MOST_SLOTS));
    let go_minutes = doc.over_zero("go_minutes", 1_000.0);
    let bring = whole(&doc, "bring", 0.0, LARGEST);
    let change = whole(&doc, "change", 0.0, f64::from(MOST_SLOTS));
    let rest_half_days = doc.over_zero("rest_half_days", 1_000.0);
    let wear_half_minutes = doc.over_zero("wear_half_minutes", LARGEST);
    let helper: Vec<Option<Slots>> =
        doc.get("helper")?.list().iter().map(|n| span(&n.object(&["from", "to"], &[])?)).collect();
    let cow_nodes = doc.get("cows")?.list();
    let cows = ids(&cow_nodes, MOST_COWS);
    let horse_nodes = doc.get("horses")?.list();
    let horses = ids(&horse_nodes, MOST_HORSES);
    let wear = Wear { rest_half_days: rest_half_days?, wear_half_minutes: wear_half_minutes? };
    let known = |ids: &[Option<&'a str>]| -> HashMap<&'a str, usize> {
        ids.iter().enumerate().filter_map(|(n, id)| Some(((*id)?, n))).collect()
    };
    let (known_horses, known_cows) = (known(&horses), known(&cows));
    let of_cows: Vec<Option<DrawCow>> = cow_nodes.iter().map(|n| cow(n, wear, go_minutes)).collect();
    let of_horses: Vec<Option<DrawHorse>> = horse_nodes.iter().map(|n| horse(n, &known_horses, &known_cows)).collect();
    let of_horses: Option<Vec<DrawHorse>> = of_horses.into_iter().collect();
    let draw = Draw {
        slots: slots? as u16,
        bring: bring? as usize,
        change: change? as u16,
        helper: helper.into_iter().collect::<Option<_>>()?,
        horses: of_horses?,
        cows: of_cows.into_iter().collect::<Option<_>>()?,
    };
    in_a_ring(&draw.horses, &horse_nodes);
    let tries = (limit? as u64).saturating_sub(AROUND_MS).max(1) * TRIES_A_MS;
    let (horses, cows) = (horses.into_iter().collect::<Option<_>>()?, cows.into_iter().collect::<Option<_>>()?);
    Some(Asked { draw, work: Work { seed: seed? as u64, tries }, horses, cows })
}

/// A whole number from the least to the most.
fn whole(doc: &Object<'_>, key: &str, least: f64, most: f64) -> Option<f64> {
    let value = doc.within(key, least, most)?;
    if value.fract() == 0.0 {
        return Some(value);
    }
    doc.get(key)?.say(format!("{value} is not a whole number"));
    None
}

fn span(doc: &Object<'_>) -> Option<Slots> {
    let from = whole(doc, "from", 1.0, f64::from(u16::MAX));
    let to = whole(doc, "to", 1.0, f64::from(u16::MAX));
    let (from, to) = (from?, to?);
    if to < from {
        doc.get("to")?.say(format!("ends at {to}, before it starts at {from}"));
        return None;
    }
    Some(Slots { from: from as u16, to: to as u16 })
}

/// The ids of a list, in order. One that stands there twice is said.
fn ids<'a>(nodes: &[Node<'a>], most: usize) -> Vec<Option<&'a str>> {
    let mut found: Vec<Option<&str>> = vec![];
    for (n, node) in nodes.iter().enumerate() {
        let id = node.peek("id");
        let text = id.as_ref().and_then(Node::text);
        if text.is_some() && found.contains(&text) {
            id.iter().for_each(|id| id.say(format!("\"{}\" stands here twice", text.unwrap_or_default())));
        }
        if n == most {
            node.say(format!("at most {most}"));
        }
        found.push(text);
    }
    found
}

/// Indices of others, by their ids.
fn others(node: &Node<'_>, known: &HashMap<&str, usize>) -> Option<Vec<usize>> {
    let one = |n: &Node<'_>| {
        let id = n.text()?;
        let at = known.get(id).copied();
        if at.is_none() {
            n.say(format!("there is no \"{id}\""));
        }
        at
    };
    node.list().iter().map(one).collect()
}

fn horse(node: &Node<'_>, horses: &HashMap<&str, usize>, cows: &HashMap<&str, usize>) -> Option<DrawHorse> {
    let keys = ["id", "from", "to", "helper", "worth", "loss", "least_honour", "speed", "manners", "not", "after"];
    let doc = node.object(&keys, &[])?;
    let there = span(&doc);
    let helper = doc.get("helper").and_then(|n| n.boolean());
    let worth = doc.get("worth").map(|n| worth(&n));
    let loss = whole(&doc, "loss", 0.0, LARGEST);
    let least_honour = doc.within("least_honour", 0.0, 1_000.0);
    let speed = doc.get("speed").and_then(|n| n.object(&["least", "most"], &[])).and_then(|of| {
        let (least, most) = (of.within("least", 0.0, LARGEST), of.within("most", 0.0, LARGEST));
        let (least, most) = (least?, most?);
        if most < least {
            of.get("most")?.say(format!("{most} is under the least, {least}"));
            return None;
        }
        Some([least, most])
    });
    let manners: Option<Vec<Manner>> = doc.get("manners").and_then(|n| n.list().iter().map(Node::word).collect());
    let not = doc.get("not").and_then(|n| others(&n, cows));
    let after = doc.get("after").and_then(|n| others(&n, horses));
    Some(DrawHorse {
        there: there?,
        helper: helper?,
        worth: worth??,
        loss: loss? as i64,
        least_honour: least_honour?,
        speed: speed?,
        manners: manners?,
        not: not?,
        after: after?,
    })
}

/// What goes are worth, in thousandths.
fn worth(node: &Node<'_>) -> Option<Vec<i64>> {
    let mut all: Vec<i64> = vec![];
    for n in node.list() {
        let worth = n.number()?;
        let thousandths = (worth * 1000.0).round();
        if !(0.0..=LARGEST).contains(&worth) || (worth * 1000.0 - thousandths).abs() > 1e-6 {
            n.say(format!("{worth} is not a worth from 0 to {LARGEST}, to three decimals"));
            return None;
        }
        let thousandths = thousandths as i64;
        if all.last().is_some_and(|last| *last < thousandths) {
            n.say("a worth does not rise from go to go");
        }
        all.push(thousandths);
    }
    Some(all)
}

fn cow(node: &Node<'_>, wear: Wear, go_minutes: Option<f64>) -> Option<DrawCow> {
    let keys = ["id", "manner", "speed", "cost", "from", "rest", "day", "week", "start", "log"];
    let doc = node.object(&keys, &[])?;
    let manner = doc.get("manner").and_then(|n| n.word());
    let speed = doc.get("speed").and_then(|n| n.object(&["now", "falls", "least"], &[])).and_then(|of| {
        let (now, falls) = (of.within("now", 0.0, LARGEST), of.within("falls", 0.0, LARGEST));
        let least = of.within("least", 0.0, LARGEST);
        Some((now?, falls?, least?))
    });
    let cost = doc.within("cost", 0.0, LARGEST);
    let from = whole(&doc, "from", 1.0, f64::from(u16::MAX));
    let rest = whole(&doc, "rest", 0.0, f64::from(MOST_SLOTS));
    let (day, week) = (whole(&doc, "day", 0.0, 100.0), whole(&doc, "week", 0.0, 1_000.0));
    let start = doc.get("start").and_then(|n| n.object(&["honoured", "tried"], &[])).and_then(|of| {
        let tried = of.over_zero("tried", LARGEST);
        let honoured = of.within("honoured", 0.0, tried.unwrap_or(LARGEST));
        Some(Start { tried: tried?, honoured: honoured? })
    });
    let log = doc.get("log").and_then(|n| log(&n));
    let (log, (now, falls, least)) = (log?, speed?);
    let worked = |since: i32| log.iter().filter(|w| w.day >= since).count() as f64;
    let room = (day? - worked(0)).min(week? - worked(-6)).max(0.0) as u32;
    let stands = CowDay::of(&log, start?, wear);
    let minutes = go_minutes?;
    Some(DrawCow {
        manner: manner?,
        cost: (cost? * 1000.0).round() as i64,
        from: from? as u16,
        rest: rest? as u16,
        honour: (0..=room).map(|k| stands.honour(f64::from(k) * minutes)).collect(),
        speed: (0..=room).map(|k| least.max(now - f64::from(k) * falls)).collect(),
    })
}

fn log(node: &Node<'_>) -> Option<Vec<WorkDone>> {
    let mut works: Vec<WorkDone> = vec![];
    for n in node.list() {
        let doc = n.object(&["day", "minutes", "tried", "honoured"], &[])?;
        let day = whole(&doc, "day", -10_000.0, 0.0);
        let minutes = doc.within("minutes", 0.0, 10_000.0);
        let tried = doc.within("tried", 0.0, LARGEST);
        let honoured = doc.within("honoured", 0.0, tried.unwrap_or(LARGEST));
        let work = WorkDone { day: day? as i32, minutes: minutes?, tried: tried?, honoured: honoured? };
        if works.last().is_some_and(|last| last.day > work.day) {
            doc.get("day")?.say("works stand in order of their days");
        }
        works.push(work);
    }
    Some(works)
}

/// Says where horses come after each other in a ring.
fn in_a_ring(horses: &[DrawHorse], nodes: &[Node<'_>]) {
    for (n, horse) in horses.iter().enumerate() {
        let (mut open, mut seen) = (horse.after.clone(), vec![false; horses.len()]);
        while let Some(at) = open.pop() {
            if !std::mem::replace(&mut seen[at], true) {
                open.extend(&horses[at].after);
            }
        }
        if seen[n]
            && let Some(after) = nodes[n].peek("after")
        {
            after.say("these come after this horse too: a ring");
            return;
        }
    }
}
