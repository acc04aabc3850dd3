//! `cavesson pattern`: a set-up of barrels and a horse in, the path and the quickest run out.

use std::collections::BTreeSet;

use cavesson_core::pattern::{Barrel, FOOT, Hand, Horse, NoPath, Pocket, Point, Run, SetUp, quickest_run};
use serde_json::{Value, json};

use crate::cli::document::{Node, Problem, rounded};

/// Nothing lies further out than this, feet: a quarter of a mile, far over any arena.
const FARTHEST: f64 = 1_320.0;
/// No pocket is wider, feet.
const WIDEST: f64 = 300.0;
/// The most barrels of a pattern.
const MOST_BARRELS: usize = 60;
/// Points of the path are at most so far apart, metres: a foot.
const APART: f64 = FOOT;

struct Asked {
    ids: Vec<String>,
    set_up: SetUp,
    horse: Horse,
}

/// Answers the contract.
///
/// # Errors
/// Every problem of a document that cannot be used.
pub fn pattern(text: &str) -> Result<Value, Vec<Problem>> {
    let value: Value = serde_json::from_str(text).map_err(|e| vec![Problem::whole(format!("not JSON: {e}"))])?;
    let root = Node::root(&value);
    let asked = read(&root);
    let problems = root.problems();
    let asked = asked.filter(|_| problems.is_empty()).ok_or(problems)?;
    quickest_run(&asked.set_up, &asked.horse).map(|run| answer(&asked, &run)).map_err(|why| {
        at_fault(&root, &asked.ids, why);
        root.problems()
    })
}

fn read(root: &Node<'_>) -> Option<Asked> {
    let doc = root.object(&["kind", "start", "finish", "barrel_radius", "barrels", "horse"], &[])?;
    let kind = doc.get("kind").filter(|kind| kind.quiet_text() != Some("barrels"));
    if let Some(kind) = kind {
        kind.say("is not a kind of pattern that is known; it is \"barrels\"");
    }
    let start = doc.get("start").and_then(|n| point(&n));
    let finish = doc.get("finish").and_then(|n| point(&n));
    let barrel_radius = doc.over_zero("barrel_radius", WIDEST).map(|feet| feet * FOOT);
    let (ids, barrels) = doc.get("barrels").map(|n| barrels(&n)).unwrap_or_default();
    let horse = doc.get("horse").and_then(|n| horse(&n));
    let set_up = SetUp { start: start?, finish: finish?, barrel_radius: barrel_radius?, barrels };
    Some(Asked { ids, set_up, horse: horse? })
}

fn point(node: &Node<'_>) -> Option<Point> {
    let doc = node.object(&["x", "y"], &[])?;
    let (x, y) = (doc.within("x", -FARTHEST, FARTHEST), doc.within("y", -FARTHEST, FARTHEST));
    Some(Point::new(x?, y?) * FOOT)
}

fn barrels(node: &Node<'_>) -> (Vec<String>, Vec<Barrel>) {
    let nodes = node.list();
    if nodes.len() > MOST_BARRELS {
        node.say(format!("{} barrels are too many; a pattern has at most {MOST_BARRELS}", nodes.len()));
        return (vec![], vec![]);
    }
    let mut seen = BTreeSet::from(["start", "finish"]);
    nodes
        .iter()
        .filter_map(|n| {
            let (id, barrel) = barrel(n)?;
            if !seen.insert(id) {
                n.peek("id")?.say(format!("\"{id}\" names something else already"));
            }
            Some((id.to_owned(), barrel))
        })
        .unzip()
}

fn barrel<'a>(node: &Node<'a>) -> Option<(&'a str, Barrel)> {
    let doc = node.object(&["id", "x", "y", "turn", "entry", "back", "exit"], &[])?;
    let id = doc.get("id").and_then(|n| n.text());
    let at = doc.within("x", -FARTHEST, FARTHEST).zip(doc.within("y", -FARTHEST, FARTHEST));
    let turn = doc.get("turn").and_then(|n| n.word::<Hand>());
    let [entry, back, exit] = ["entry", "back", "exit"].map(|key| doc.over_zero(key, WIDEST));
    let pocket = Pocket { entry: entry? * FOOT, back: back? * FOOT, exit: exit? * FOOT };
    let (x, y) = at?;
    Some((id?, Barrel { at: Point::new(x, y) * FOOT, turn: turn?, pocket, early: 0.0 }))
}

fn horse(node: &Node<'_>) -> Option<Horse> {
    let keys = ["top_speed", "speed_up", "slow_down", "side_grip", "start_speed", "stride"];
    let doc = node.object(&keys, &[])?;
    let feet = |key: &str| doc.over_zero(key, 1000.0).map(|feet| feet * FOOT);
    let (top_speed, speed_up, slow_down) = (feet("top_speed"), feet("speed_up"), feet("slow_down"));
    let (side_grip, stride) = (feet("side_grip"), feet("stride"));
    let start_speed = doc.within("start_speed", 0.0, 1000.0)? * FOOT;
    Some(Horse {
        top_speed: top_speed?,
        speed_up: speed_up?,
        slow_down: slow_down?,
        side_grip: side_grip?,
        start_speed,
        stride: stride?,
    })
}

/// Says why there is no path, in feet, at the value that stands in the way.
fn at_fault(root: &Node<'_>, ids: &[String], why: NoPath) {
    let feet = |metres: f64| metres / FOOT;
    let barrel = |n: usize| root.peek("barrels").and_then(|list| list.list().into_iter().nth(n));
    let (node, text) = match why {
        NoPath::NoBarrels => (root.peek("barrels"), "there is no barrel".to_owned()),
        NoPath::StartInside { distance, least } => (root.peek("start"), inside(feet(distance), feet(least), "first")),
        NoPath::FinishInside { distance, least } => (root.peek("finish"), inside(feet(distance), feet(least), "last")),
        NoPath::BarrelInside { inside, about, distance, least } => (
            barrel(inside),
            format!(
                "stands inside the turn about barrel \"{}\": {:.2} ft apart, and must be over {:.2} ft",
                ids[about],
                feet(distance),
                feet(least)
            ),
        ),
        NoPath::NoStraight { from, to, distance, least } => (
            barrel(to.min(ids.len() - 1)),
            format!(
                "no straight leads here from barrel \"{}\": {:.2} ft apart, and the pockets need {:.2} ft",
                ids[from],
                feet(distance),
                feet(least)
            ),
        ),
    };
    node.as_ref().unwrap_or(root).say(text);
}

fn inside(distance: f64, least: f64, which: &str) -> String {
    format!(
        "{distance:.2} ft from the middle of the {which} barrel, inside its pocket: it must be over {least:.2} ft away"
    )
}

fn feet(metres: f64) -> f64 {
    rounded(metres / FOOT)
}

fn answer(asked: &Asked, run: &Run) -> Value {
    let stride = asked.horse.stride;
    let xy = |p: Point| json!({ "x": feet(p.x), "y": feet(p.y) });
    let name = |n: usize| match n {
        0 => "start",
        n => asked.ids.get(n - 1).map_or("finish", String::as_str),
    };
    let legs: Vec<Value> = (run.path.legs.iter().enumerate())
        .map(|(n, leg)| {
            let length = leg.length();
            json!({ "from": name(n), "to": name(n + 1), "length": feet(length), "strides": rounded(length / stride) })
        })
        .collect();
    let turns: Vec<Value> = (run.path.turns.iter().enumerate())
        .map(|(n, turn)| {
            let round = run.round(n);
            json!({
                "barrel": asked.ids[n],
                "degrees": rounded(turn.sweep.to_degrees()),
                "length": feet(round[round.len() - 1].s - round[0].s),
                "slowest": feet(run.slowest(n)),
                "time": rounded(run.turn_time(n)),
                "spots": turn.spots().map(xy),
            })
        })
        .collect();
    let rate: Vec<Value> = (run.rates.iter().enumerate())
        .map(|(n, rate)| {
            let strides = rounded(rate.before / stride);
            json!({ "barrel": asked.ids[n], "before": feet(rate.before), "strides": strides })
        })
        .collect();
    let mut changes: Vec<Value> =
        run.path.lead_changes().into_iter().map(|(n, at)| json!({ "after": asked.ids[n], "at": xy(at) })).collect();
    // One stands by itself, as the contract shows it.
    let lead_change = match changes.len() {
        0 => Value::Null,
        1 => changes.remove(0),
        _ => Value::Array(changes),
    };
    let path: Vec<Value> = (run.thinned(APART).iter())
        .map(|p| {
            let (x, y) = (feet(p.at.x), feet(p.at.y));
            json!({ "x": x, "y": y, "s": feet(p.s), "speed": feet(p.speed), "t": rounded(p.t) })
        })
        .collect();
    json!({
        "length": feet(run.length()),
        "time": rounded(run.time()),
        "strides": (run.length() / stride).round() as u64,
        "legs": legs,
        "turns": turns,
        "rate": rate,
        "lead_change": lead_change,
        "path": path,
    })
}
