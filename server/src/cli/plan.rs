//! `cavesson plan`: a week in, rides with their score out, and what was left out with the reason.

use std::{
    collections::{BTreeMap, BTreeSet},
    time::{Duration, Instant},
};

use cavesson_core::schedule::{
    Before, DAYS, Effort, Heat, Horse, Ix, NotATimeOfDay, Pacer, Place, Ride, Rider, Span, TimeOfDay, WeekProblem,
    Work, left_out, plan as search, score, short,
};
use serde_json::{Value, json};

use crate::cli::document::{Node, Problem};

/// Rounds of the search for each second of the limit: what two idle cores do with the largest weeks too. On a slower or a busy
/// machine the rounds become smaller, and the clock ends a search that is late all the same.
const ROUNDS_A_SECOND: f64 = 28.0;
/// Milliseconds of the limit that starting, reading and writing are given.
const AROUND_MS: u64 = 150;
/// What the clock allows over the limit.
const BRAKE: Duration = Duration::from_millis(200);

struct Asked {
    week: WeekProblem,
    seed: u64,
    limit_ms: u64,
}

/// Answers the contract.
///
/// # Errors
/// Every problem of a document that cannot be used.
pub fn plan(text: &str) -> Result<Value, Vec<Problem>> {
    let began = Instant::now();
    let value: Value = serde_json::from_str(text).map_err(|e| vec![Problem::whole(format!("not JSON: {e}"))])?;
    let root = Node::root(&value);
    let asked = read(&root);
    let problems = root.problems();
    let asked = asked.filter(|_| problems.is_empty()).ok_or(problems)?;
    let effort = Effort { seed: asked.seed, rounds: rounds(asked.limit_ms) };
    let limit = Duration::from_millis(asked.limit_ms);
    let mut pacer = Pacer::new(effort.rounds, limit);
    let rides = search(&asked.week, effort, &mut |progress| {
        let spent = began.elapsed();
        (spent < limit + BRAKE).then(|| pacer.after(progress.rounds, spent))
    });
    Ok(answer(&asked.week, &rides))
}

/// The amount of work that a limit stands for.
fn rounds(limit_ms: u64) -> u32 {
    let ms = limit_ms.saturating_sub(AROUND_MS) as f64;
    (ms / 1000.0 * ROUNDS_A_SECOND).floor().clamp(1.0, 1e9) as u32
}

fn answer(week: &WeekProblem, rides: &[Ride]) -> Value {
    let told: Vec<Value> = rides
        .iter()
        .map(|r| {
            json!({
                "work": week.works[r.work].id,
                "day": r.day,
                "start": TimeOfDay::from_minutes(r.start).map(|t| t.to_string()),
                "place": week.places[r.place].id,
                "rider": week.riders[r.rider].id,
            })
        })
        .collect();
    let left: Vec<Value> = left_out(week, rides)
        .into_iter()
        .map(|l| json!({ "work": week.works[l.work].id, "missed": l.missed, "why": l.why }))
        .collect();
    let short: Vec<Value> = short(week, rides)
        .into_iter()
        .map(|s| json!({ "horse": week.horses[s.horse].id, "rides": s.rides, "least": s.least, "why": s.why }))
        .collect();
    json!({ "score": score(week, rides), "rides": told, "left_out": left, "short": short })
}

/// Ids of a list, with their places.
type Ids<'a> = BTreeMap<&'a str, Ix>;

fn read(root: &Node<'_>) -> Option<Asked> {
    let keys =
        ["week_start", "slot_minutes", "seed", "time_limit_ms", "riders", "places", "horses", "works", "heat", "cows"];
    let doc = root.object(&keys, &["before", "fixed"])?;
    doc.get("week_start")?.date();
    let slot = whole(&doc.get("slot_minutes")?, 1, 1440);
    let seed = whole(&doc.get("seed")?, 0, i64::MAX);
    let limit = whole(&doc.get("time_limit_ms")?, 0, 86_400_000);
    let (riders_at, places_at, horses_at) =
        (doc.get("riders")?.list(), doc.get("places")?.list(), doc.get("horses")?.list());
    let works_at = doc.get("works")?.list();
    let (rider_ids, place_ids) = (ids(&riders_at), ids(&places_at));
    let (horse_ids, work_ids) = (ids(&horses_at), ids(&works_at));
    let riders: Vec<Rider> = riders_at.iter().filter_map(rider).collect();
    let places: Vec<Place> = places_at.iter().filter_map(place).collect();
    let horses: Vec<Horse> = horses_at.iter().filter_map(horse).collect();
    let works: Vec<Work> = works_at.iter().filter_map(|n| work(n, &horse_ids, &place_ids, &rider_ids)).collect();
    let heat: Vec<Heat> = doc.get("heat")?.list().iter().filter_map(heat).collect();
    let cows = cows(&doc.get("cows")?);
    let list = |key: &str| doc.get(key).map(|n| n.list()).unwrap_or_default();
    let before: Vec<Before> = list("before").iter().filter_map(|n| before(n, &work_ids)).collect();
    let fixed: Vec<Ride> = list("fixed").iter().filter_map(|n| fixed(n, &work_ids, &place_ids, &rider_ids)).collect();
    let slot_minutes = u16::try_from(slot?).ok()?;
    let week = WeekProblem {
        slot_minutes,
        riders,
        places,
        horses,
        works,
        heat,
        cows,
        before,
        day_names: WeekProblem::numbered_days(),
        fixed,
    };
    Some(Asked { week, seed: seed? as u64, limit_ms: limit? as u64 })
}

/// The ids of a list; one that is used twice is a problem where it stands the second time.
fn ids<'a>(list: &[Node<'a>]) -> Ids<'a> {
    let mut out = Ids::new();
    for (ix, node) in list.iter().enumerate() {
        let Some(id) = node.peek("id").and_then(|n| n.quiet_text()) else { continue };
        if out.insert(id, ix).is_some() {
            node.say(format!("the id \"{id}\" is used twice"));
        }
    }
    out
}

fn find(node: &Node<'_>, ids: &Ids<'_>, what: &str) -> Option<Ix> {
    let id = node.text()?;
    let found = ids.get(id).copied();
    if found.is_none() {
        node.say(format!("no {what} has the id \"{id}\""));
    }
    found
}

fn whole(node: &Node<'_>, least: i64, most: i64) -> Option<i64> {
    let n = node.number()?;
    let fits = n.fract() == 0.0 && n >= least as f64 && n <= most as f64;
    if !fits {
        node.say(format!("{n} is not a whole number from {least} to {most}"));
    }
    fits.then_some(n as i64)
}

fn day(node: &Node<'_>) -> Option<u8> {
    whole(node, 0, 6).map(|d| d as u8)
}

fn time(node: &Node<'_>) -> Option<u16> {
    let time = node.text()?.parse().map_err(|e: NotATimeOfDay| node.say(e.to_string()));
    time.ok().map(TimeOfDay::minutes)
}

fn span(node: &Node<'_>) -> Option<Span> {
    let o = node.object(&["day", "from", "to"], &[])?;
    span_of(node, &o.get("day")?, &o.get("from")?, &o.get("to")?)
}

fn span_of(whole: &Node<'_>, on: &Node<'_>, from: &Node<'_>, to: &Node<'_>) -> Option<Span> {
    let (day, from, to) = (day(on), time(from), time(to));
    let span = Span { day: day?, from: from?, to: to? };
    if span.from >= span.to {
        whole.say("it ends before it starts");
        return None;
    }
    Some(span)
}

fn spans(node: &Node<'_>) -> Vec<Span> {
    node.list().iter().filter_map(span).collect()
}

fn rider(node: &Node<'_>) -> Option<Rider> {
    let o = node.object(&["id", "hours"], &[])?;
    let hours = spans(&o.get("hours")?);
    Some(Rider { id: o.get("id")?.text()?.to_owned(), hours })
}

fn place(node: &Node<'_>) -> Option<Place> {
    let o = node.object(&["id", "at_once", "hours"], &[])?;
    let at_once = whole(&o.get("at_once")?, 0, 60_000);
    let hours = spans(&o.get("hours")?);
    Some(Place { id: o.get("id")?.text()?.to_owned(), at_once: at_once? as u16, hours })
}

fn horse(node: &Node<'_>) -> Option<Horse> {
    let o = node.object(&["id", "rides", "load", "away"], &[])?;
    let rides_at = o.get("rides")?;
    let rides = rides_at.object(&["least", "most"], &[]);
    let load = o.get("load")?.object(&["two_days", "week"], &[]);
    let away = spans(&o.get("away")?);
    let (rides, load) = (rides?, load?);
    let (least, most) = (whole(&rides.get("least")?, 0, 255), whole(&rides.get("most")?, 0, 255));
    let (two_days, week) = (whole(&load.get("two_days")?, 0, 1_000_000), whole(&load.get("week")?, 0, 1_000_000));
    let (least, most) = (least? as u8, most? as u8);
    if least > most {
        rides_at.say(format!("least is {least}, which is over most, {most}"));
    }
    let id = o.get("id")?.text()?.to_owned();
    Some(Horse { id, least, most, two_days: two_days? as u32, week: week? as u32, away })
}

fn work(node: &Node<'_>, horses: &Ids<'_>, places: &Ids<'_>, riders: &Ids<'_>) -> Option<Work> {
    let keys = ["id", "horse", "minutes", "load", "places", "riders", "worth", "gap_days", "cows"];
    let o = node.object(&keys, &[])?;
    let horse = find(&o.get("horse")?, horses, "horse");
    let minutes = whole(&o.get("minutes")?, 1, 1440);
    let load = whole(&o.get("load")?, 0, 1_000_000);
    let mut where_: Vec<Ix> = o.get("places")?.list().iter().filter_map(|n| find(n, places, "place")).collect();
    where_.sort_unstable();
    where_.dedup();
    let who: Vec<(Ix, i64)> = o.get("riders")?.list().iter().filter_map(|n| cost(n, riders)).collect();
    if who.iter().map(|w| w.0).collect::<BTreeSet<_>>().len() < who.len() {
        o.get("riders")?.say("a rider is named twice");
    }
    let worth_at = o.get("worth")?;
    let worth: Vec<i64> = worth_at.list().iter().filter_map(|n| whole(n, 0, 1_000_000)).collect();
    if !worth.is_sorted_by(|a, b| a >= b) {
        worth_at.say("what a ride is worth never rises from one to the next");
    }
    let gap = whole(&o.get("gap_days")?, 1, 255);
    let cows = whole(&o.get("cows")?, 0, 60_000);
    Some(Work {
        id: o.get("id")?.text()?.to_owned(),
        horse: horse?,
        minutes: minutes? as u16,
        load: load? as u32,
        places: where_,
        riders: who,
        worth,
        gap_days: gap? as u8,
        cows: cows? as u16,
    })
}

fn cost(node: &Node<'_>, riders: &Ids<'_>) -> Option<(Ix, i64)> {
    let o = node.object(&["id", "cost"], &[])?;
    let cost = whole(&o.get("cost")?, -1_000_000, 1_000_000);
    Some((find(&o.get("id")?, riders, "rider")?, cost?))
}

fn heat(node: &Node<'_>) -> Option<Heat> {
    let o = node.object(&["day", "from", "to", "most_load"], &[])?;
    let most_load = whole(&o.get("most_load")?, 0, 1_000_000);
    let span = span_of(node, &o.get("day")?, &o.get("from")?, &o.get("to")?)?;
    Some(Heat { span, most_load: most_load? as u32 })
}

fn cows(node: &Node<'_>) -> [u16; DAYS] {
    let mut out = [0; DAYS];
    let mut seen = BTreeSet::new();
    for entry in node.list() {
        let Some(o) = entry.object(&["day", "works"], &[]) else { continue };
        let (Some(at), Some(works)) = (o.get("day"), o.get("works")) else { continue };
        let (Some(on), Some(works)) = (day(&at), whole(&works, 0, 60_000)) else { continue };
        if !seen.insert(on) {
            entry.say(format!("day {on} has two entries"));
        }
        out[usize::from(on)] = works as u16;
    }
    out
}

fn before(node: &Node<'_>, works: &Ids<'_>) -> Option<Before> {
    let o = node.object(&["work", "day", "load"], &[])?;
    let work = find(&o.get("work")?, works, "work");
    let on = whole(&o.get("day")?, -7, -1);
    let load = whole(&o.get("load")?, 0, 1_000_000);
    Some(Before { work: work?, day: on? as i8, load: load? as u32 })
}

fn fixed(node: &Node<'_>, works: &Ids<'_>, places: &Ids<'_>, riders: &Ids<'_>) -> Option<Ride> {
    let o = node.object(&["work", "day", "start", "place", "rider"], &[])?;
    let work = find(&o.get("work")?, works, "work");
    let on = day(&o.get("day")?);
    let start = time(&o.get("start")?);
    let place = find(&o.get("place")?, places, "place");
    let rider = find(&o.get("rider")?, riders, "rider");
    Some(Ride { work: work?, day: on?, start: start?, place: place?, rider: rider? })
}
