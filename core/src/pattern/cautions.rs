//! What to mind of a set-up before it is ridden.

use super::{
    barrels::SetUp,
    pen::Pen,
    run::{Horse, Run},
};
use crate::plane::{Point, stretches_meet};

/// A horse's track keeps at least so far from a fence and from a barrel that it does not turn, metres.
const CLEAR: f64 = 0.6;
/// To change the lead takes so many strides between slowing down and speeding up again (common practice).
const TO_CHANGE: f64 = 2.0;

/// What to mind, in words: barrels in the way, fences, bad ground, and room to change leads.
pub fn cautions(set_up: &SetUp, run: &Run, horse: &Horse, pen: Option<&Pen>) -> Vec<String> {
    let mut out = vec![];
    for (n, leg) in run.path.legs.iter().enumerate() {
        for (k, barrel) in set_up.barrels.iter().enumerate().filter(|(k, _)| *k != n && *k + 1 != n) {
            if barrel.at.from_stretch(leg.from, leg.to) < set_up.barrel_radius + CLEAR {
                out.push(format!("The straight {} barrel {} runs over barrel {}", way(n), n.max(1), k + 1));
            }
        }
    }
    for (after, _) in run.path.lead_changes() {
        let room = (run.path.legs[after + 1].length() - run.rates[after + 1].before) / horse.stride;
        if room < TO_CHANGE {
            out.push(format!(
                "{room:.1} strides to change the lead between barrels {} and {}: a simple change, or slower",
                after + 1,
                after + 2
            ));
        }
    }
    if let Some(pen) = pen {
        out.extend(in_the_pen(run, pen));
    }
    out
}

fn way(leg: usize) -> &'static str {
    if leg == 0 { "to" } else { "from" }
}

fn in_the_pen(run: &Run, pen: &Pen) -> Vec<String> {
    let Ok(fences) = pen.checked() else { return vec![] };
    let points: Vec<Point> = run.points.iter().step_by(4).map(|p| p.at).collect();
    let mut out = vec![];
    if points.iter().any(|p| fences.room_at(*p) < CLEAR) {
        out.push("The path goes through the fence or within 2 ft of it".to_owned());
    }
    for area in &pen.areas {
        let over = points.windows(2).any(|w| area.corners.sides().any(|side| stretches_meet((w[0], w[1]), side)))
            || points.first().is_some_and(|p| area.corners.holds(*p));
        if over {
            let ground = area.underfoot.word();
            out.push(match area.bad {
                3 => format!("The path goes over ground that is {ground}: move it"),
                _ => format!("The path goes over ground that is {ground}: slower there"),
            });
        }
    }
    out
}

/// Where to sit for the turn (common practice).
///
/// ```
/// use cavesson_core::pattern::where_to_sit;
/// assert!(where_to_sit(true, false).contains("at the barrel"));
/// ```
pub fn where_to_sit(needs_pushing: bool, runs_free: bool) -> &'static str {
    match (needs_pushing, runs_free) {
        (true, false) => "It must be pushed: ride to the first spot and sit at the barrel",
        (false, true) => "It runs free: sit a stride or more before the first spot",
        _ => "Sit at the rate point; a horse that must be pushed later, a free one a stride earlier",
    }
}
