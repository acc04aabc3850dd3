//! `cavesson figure`: the text of a figure, its ground and a horse in; where it goes, whether it closes and fits, and what it asks out.

use std::collections::BTreeSet;

use cavesson_core::{
    figure::{
        Body, Clearance, Figure, FigureGait, FigureHorse, GaitMeasures, LONGEST_TEXT, Marker, Places, Ridden, Shape,
        State, TextFault, Traced, Turned, between, leads, obstacles, ride, rungs, stops, tightest, totals, turned,
    },
    pattern::{FOOT, Point, Polygon},
};
use serde_json::{Value, json};

use crate::cli::document::{Node, Object, Problem, rounded};

/// No number of a document is further from nought.
const MOST: f64 = 1e9;
const MOST_CORNERS: usize = 200;
const MOST_MARKERS: usize = 100;
/// Limits are kept to so many feet, and degrees.
const NEAR: f64 = 0.001;

struct Asked<'a> {
    text: &'a str,
    pen: Polygon,
    pen_keep: f64,
    markers: Vec<Marker>,
    horse: FigureHorse,
    owned: BTreeSet<&'a str>,
    /// Feet and degrees.
    close: (f64, f64),
}

/// Answers the contract.
///
/// # Errors
/// Every problem of a document that cannot be used, else every fault of its text.
pub fn figure(text: &str) -> Result<Value, Vec<Problem>> {
    let value: Value = serde_json::from_str(text).map_err(|e| vec![Problem::whole(format!("not JSON: {e}"))])?;
    let root = Node::root(&value);
    let asked = read(&root);
    let problems = root.problems();
    let asked = asked.filter(|_| problems.is_empty()).ok_or(problems)?;
    let at_fault = |faults: Vec<TextFault>| faults.iter().map(Problem::in_text).collect::<Vec<_>>();
    let ground: Places = asked.markers.iter().map(|marker| (marker.id.clone(), middle(&marker.body))).collect();
    let figure = Figure::read(asked.text, &ground).map_err(at_fault)?;
    let ridden = ride(&figure).map_err(at_fault)?;
    Ok(answer(&asked, &figure, &ridden))
}

fn middle(body: &Body) -> Point {
    match body {
        Body::Disc { at, .. } => *at,
        Body::Box(ring) => ring.0[0].middle(ring.0[2]),
    }
}

fn read<'a>(root: &Node<'a>) -> Option<Asked<'a>> {
    let doc = root.object(&["text", "pen", "markers", "horse", "owned", "close"], &[])?;
    let text = doc.get("text").and_then(|n| {
        let text = n.text()?;
        if text.chars().count() > LONGEST_TEXT {
            n.say(format!("a text has at most {LONGEST_TEXT} characters"));
        }
        Some(text)
    });
    let pen = doc.get("pen").and_then(|n| pen(&n));
    let markers = doc.get("markers").map(|n| markers(&n));
    let horse = doc.get("horse").and_then(|n| horse(&n));
    let owned = doc.get("owned").map(|n| n.list().iter().filter_map(Node::text).collect());
    let close = doc.get("close").and_then(|n| {
        let of = n.object(&["feet", "degrees"], &[])?;
        of.within("feet", 0.0, MOST).zip(of.within("degrees", 0.0, MOST))
    });
    let (pen, pen_keep) = pen?;
    Some(Asked { text: text?, pen, pen_keep, markers: markers?, horse: horse?, owned: owned?, close: close? })
}

fn in_feet(of: &Object<'_>) -> Option<Point> {
    let (x, y) = (of.within("x", -MOST, MOST), of.within("y", -MOST, MOST));
    Some(Point::new(x?, y?))
}

fn place(of: &Object<'_>) -> Option<Point> {
    in_feet(of).map(|at| at * FOOT)
}

fn feet_of(of: &Object<'_>, key: &str) -> Option<f64> {
    of.over_zero(key, MOST).map(|feet| feet * FOOT)
}

fn keep(of: &Object<'_>) -> Option<f64> {
    of.within("keep", 0.0, MOST).map(|feet| feet * FOOT)
}

fn pen(node: &Node<'_>) -> Option<(Polygon, f64)> {
    let doc = node.object(&["outline", "keep"], &[])?;
    let keep = keep(&doc);
    let outline = doc.get("outline")?;
    let corners = outline.list();
    if !(3..=MOST_CORNERS).contains(&corners.len()) {
        outline.say(format!("{} corners; a pen has 3 to {MOST_CORNERS}", corners.len()));
        return None;
    }
    let read: Vec<Point> = corners.iter().filter_map(|n| in_feet(&n.object(&["x", "y"], &[])?)).collect();
    if read.len() < corners.len() {
        return None;
    }
    // In the numbers as they were given: in metres a corner on a side would be off it by rounding.
    if let Some((a, b)) = Polygon(read.clone()).crossing() {
        outline.say(format!("sides {} and {} cross or touch", a + 1, b + 1));
        return None;
    }
    Some((Polygon(read.into_iter().map(|at| at * FOOT).collect()), keep?))
}

fn markers(node: &Node<'_>) -> Vec<Marker> {
    let nodes = node.list();
    if nodes.len() > MOST_MARKERS {
        node.say(format!("{} markers are too many; there are at most {MOST_MARKERS}", nodes.len()));
        return vec![];
    }
    let mut seen = BTreeSet::new();
    nodes
        .iter()
        .filter_map(|n| {
            let marker = marker(n);
            let id = n.peek("id")?;
            if id.quiet_text().is_some_and(|name| !seen.insert(name.to_owned())) {
                id.say("another marker has this id");
            }
            marker
        })
        .collect()
}

fn marker(node: &Node<'_>) -> Option<Marker> {
    let boxed = node.peek("shape").and_then(|n| n.quiet_text()) == Some("box");
    let doc = if boxed {
        node.object(&["id", "shape", "x", "y", "width", "depth", "turn", "keep"], &[])?
    } else {
        node.object(&["id", "shape", "x", "y", "radius", "keep"], &[])?
    };
    let id = doc.get("id").and_then(|n| {
        let id = n.text()?;
        let named = id.starts_with(|c: char| c.is_ascii_alphabetic())
            && id.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '_' | '-'));
        if !named {
            n.say(format!("\"{id}\" is not a name: a letter, then letters, digits, _ and -"));
        }
        named.then(|| id.to_owned())
    });
    if let Some(shape) = doc.get("shape").filter(|n| !matches!(n.quiet_text(), Some("disc" | "box"))) {
        shape.say("is not a shape that is known; it is \"disc\" or \"box\"");
    }
    let (at, keep) = (place(&doc), keep(&doc));
    let body = if boxed {
        let (width, depth) = (feet_of(&doc, "width"), feet_of(&doc, "depth"));
        let turn = doc.within("turn", -MOST, MOST);
        Body::boxed(at?, width?, depth?, turn?)
    } else {
        let radius = feet_of(&doc, "radius");
        Body::Disc { at: at?, radius: radius? }
    };
    Some(Marker { id: id?, body, keep: keep? })
}

fn horse(node: &Node<'_>) -> Option<FigureHorse> {
    let doc = node.object(&["gaits", "turn_rate", "speed_up"], &[])?;
    let gaits = doc.get("gaits").and_then(|n| {
        let words = FigureGait::ALL.map(FigureGait::word);
        let of = n.object(&words[..6], &[])?;
        let each: Vec<_> =
            FigureGait::ALL[..6].iter().map(|&gait| Some((gait, measures(&of.get(gait.word())?, gait)?))).collect();
        each.into_iter().collect::<Option<_>>()
    });
    let (turn_rate, speed_up) = (doc.over_zero("turn_rate", MOST), feet_of(&doc, "speed_up"));
    Some(FigureHorse { gaits: gaits?, turn_rate: turn_rate?, speed_up: speed_up? })
}

fn measures(node: &Node<'_>, gait: FigureGait) -> Option<GaitMeasures> {
    if !gait.moving() {
        let doc = node.object(&["speed", "stride"], &[])?;
        let (speed, stride) = (feet_of(&doc, "speed"), feet_of(&doc, "stride"));
        return Some(GaitMeasures { speed: speed?, stride: stride?, least_radius: 0.0 });
    }
    let doc = node.object(&["speed", "stride", "least_radius"], &[])?;
    let [speed, stride, least_radius] = ["speed", "stride", "least_radius"].map(|key| feet_of(&doc, key));
    Some(GaitMeasures { speed: speed?, stride: stride?, least_radius: least_radius? })
}

fn feet(metres: f64) -> f64 {
    rounded(metres / FOOT)
}

fn minutes(seconds: f64) -> f64 {
    rounded(seconds / 60.0)
}

fn answer(asked: &Asked<'_>, figure: &Figure, ridden: &Ridden<'_>) -> Value {
    let (curves, in_place) = turned(ridden);
    let (faults, changes) = leads(ridden);
    json!({
        "text": figure.text(),
        "mirrored": figure.mirrored(),
        "steps": ridden.steps.iter().map(|step| {
            let State { gait, lead, at, heading, s } = step.after;
            json!({
                "line": step.line, "do": step.step.word(), "gait": gait, "lead": lead,
                "x": feet(at.x), "y": feet(at.y), "heading": rounded(heading), "s": feet(s),
            })
        }).collect::<Vec<_>>(),
        "path": path(ridden),
        "totals": totals_of(asked, ridden),
        "turned": { "curves": by_hand(curves), "in_place": by_hand(in_place) },
        "close": close(asked, ridden),
        "fit": fit(asked, ridden),
        "tightest": tightest(ridden, &asked.horse).into_iter().map(|of| json!({
            "gait": of.gait, "radius": feet(of.radius), "least": feet(of.least), "under": of.under,
        })).collect::<Vec<_>>(),
        "leads": faults.into_iter().map(|of| json!({
            "step": of.step, "loop": of.curve, "fault": of.kind,
        })).collect::<Vec<_>>(),
        "changes_needed": changes.into_iter().map(|of| json!({
            "step": of.step, "to": of.to, "s": feet(of.s), "x": feet(of.at.x), "y": feet(of.at.y),
        })).collect::<Vec<_>>(),
        "stops": stops(ridden, &asked.horse).into_iter().map(|of| json!({
            "step": of.step, "straight": feet(of.straight), "from": feet(of.from), "speed": feet(of.speed), "needs": feet(of.needs),
        })).collect::<Vec<_>>(),
        "obstacles": obstacles(ridden, &asked.horse).into_iter().map(|of| json!({
            "step": of.step, "kind": ridden.steps[of.step].step.word(), "gait": of.gait, "measure": feet(of.measure),
            "least": feet(of.least), "most": of.most.map(feet), "rule": of.rule,
            "own": of.own.map(|(own, _)| rounded(own)), "horse": of.own.map(|(_, asks)| asks),
        })).collect::<Vec<_>>(),
        "between": between(ridden, &asked.horse).into_iter().map(|of| json!({
            "from": of.from, "to": of.to, "length": feet(of.length), "strides": rounded(of.strides),
        })).collect::<Vec<_>>(),
        "rungs": rungs(ridden).into_iter().map(|of| json!({
            "owned": asked.owned.contains(of.rung.as_str()), "rung": of.rung, "lines": of.lines,
        })).collect::<Vec<_>>(),
        "parts": parts(asked, ridden),
    })
}

fn path(ridden: &Ridden<'_>) -> Vec<Value> {
    (ridden.path.iter())
        .map(|piece| {
            let (kind, hand, radius, degrees) = match piece.shape {
                Shape::Line { sideways } => ("line", sideways, None, None),
                Shape::Arc { hand, radius, degrees } => ("arc", Some(hand), Some(feet(radius)), Some(rounded(degrees))),
            };
            let State { gait, lead, at, heading, .. } = piece.start;
            json!({
                "step": piece.step, "kind": kind, "gait": gait, "lead": lead, "x": feet(at.x), "y": feet(at.y),
                "heading": rounded(heading), "length": feet(piece.length), "hand": hand, "radius": radius, "degrees": degrees,
            })
        })
        .collect()
}

fn totals_of(asked: &Asked<'_>, ridden: &Ridden<'_>) -> Value {
    let sums = totals(ridden, &asked.horse);
    let gaits: serde_json::Map<String, Value> = (sums.iter())
        .map(|(gait, of)| {
            let amount =
                json!({ "length": feet(of.length), "minutes": minutes(of.seconds), "strides": rounded(of.strides) });
            (gait.to_string(), amount)
        })
        .collect();
    let seconds: f64 = sums.values().map(|of| of.seconds).sum();
    json!({ "length": feet(ridden.end().s), "minutes": minutes(seconds), "gaits": gaits })
}

fn by_hand(turned: Turned) -> Value {
    json!({ "left": rounded(turned.left), "right": rounded(turned.right) })
}

fn close(asked: &Asked<'_>, ridden: &Ridden<'_>) -> Value {
    let (start, end) = (ridden.start, ridden.end());
    let gap = start.at.distance(end.at) / FOOT;
    let apart = (end.heading - start.heading).rem_euclid(360.0);
    let degrees = apart.min(360.0 - apart);
    let closes = gap <= asked.close.0 + NEAR && degrees <= asked.close.1 + NEAR;
    json!({ "feet": rounded(gap), "degrees": rounded(degrees), "closes": closes })
}

fn fit(asked: &Asked<'_>, ridden: &Ridden<'_>) -> Value {
    let told = |of: Clearance, fits: bool| json!({ "clearance": feet(of.distance), "s": feet(of.s), "x": feet(of.at.x), "y": feet(of.at.y), "fits": fits });
    let traced = Traced::of(ridden);
    let (of_pen, outside) = traced.pen_clearance(&asked.pen);
    let mut fits = of_pen.keeps(asked.pen_keep) && outside / FOOT <= NEAR;
    let mut pen = told(of_pen, fits);
    pen["outside"] = json!(feet(outside));
    let markers: Vec<Value> = (asked.markers.iter())
        .map(|marker| {
            let of = traced.marker_clearance(&marker.body);
            let keeps = of.keeps(marker.keep);
            fits &= keeps;
            let mut row = told(of, keeps);
            row["id"] = json!(marker.id);
            row
        })
        .collect();
    json!({ "fits": fits, "pen": pen, "markers": markers })
}

/// Lines that ask for a rung, and those that ask for one the horse does not own.
fn parts(asked: &Asked<'_>, ridden: &Ridden<'_>) -> Value {
    let (mut asking, mut not_owned) = (BTreeSet::new(), BTreeSet::new());
    for of in rungs(ridden) {
        asking.extend(of.lines.iter().copied());
        if !asked.owned.contains(of.rung.as_str()) {
            not_owned.extend(of.lines);
        }
    }
    json!({ "asking": asking.len(), "not_owned": not_owned.len() })
}
