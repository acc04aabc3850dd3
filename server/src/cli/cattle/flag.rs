//! What a recorded work on the flag says.

use cavesson_core::cattle::{EndFound, FlagReport, FlagStop, Recording, Sample, WhoLeft};
use serde_json::{Value, json};

use crate::cli::document::{Node, rounded};

/// No line is longer, feet either way of its middle.
const LONGEST: f64 = 10_000.0;
/// No recording is longer, seconds.
const LATEST: f64 = 1e7;
/// A recording says nothing before it is so long, seconds.
const SHORTEST: f64 = 5.0;
const MOST: usize = 50_000;

pub(super) fn flag(root: &Node<'_>) -> Option<Value> {
    let doc = root.object(&["kind", "line", "samples"], &[])?;
    let line = doc.get("line").and_then(|n| line(&n));
    let samples = doc.get("samples").and_then(|n| samples(&n));
    let ((left, right), samples) = (line?, samples?);
    Some(answer(&Recording { left, right, samples }.read()))
}

fn line(node: &Node<'_>) -> Option<(f64, f64)> {
    let doc = node.object(&["left", "right"], &[])?;
    let left = doc.within("left", -LONGEST, LONGEST);
    let right = doc.within("right", -LONGEST, LONGEST);
    let (left, right) = (left?, right?);
    if right <= left {
        doc.get("right")?.say(format!("the right end, {right}, is not past the left, {left}"));
        return None;
    }
    Some((left, right))
}

fn samples(node: &Node<'_>) -> Option<Vec<Sample>> {
    let rows = node.list();
    if rows.len() > MOST {
        node.say(format!("at most {MOST} rows"));
        return None;
    }
    let mut found: Vec<Sample> = vec![];
    for row in &rows {
        let cells = row.list();
        let [t, flag, horse] = cells.as_slice() else {
            row.say("a row is a time, the flag and the horse");
            continue;
        };
        let time = ranged(t, LATEST);
        if let (Some(time), Some(last)) = (time, found.last())
            && time <= last.t
        {
            t.say(format!("times rise: {time} is not after {}", last.t));
        }
        let (flag, horse) = (place(flag), place(horse));
        if let (Some(t), Some(flag), Some(horse)) = (time, flag, horse) {
            found.push(Sample { t, flag, horse });
        }
    }
    let long = found.first().zip(found.last()).map_or(0.0, |(first, last)| last.t - first.t);
    if long < SHORTEST {
        node.say(format!("a recording is at least {SHORTEST} s long, this one {long}"));
        return None;
    }
    Some(found)
}

fn ranged(node: &Node<'_>, most: f64) -> Option<f64> {
    let value = node.number()?;
    if value.abs() > most {
        node.say(format!("{value} is not within {} to {most}", -most));
        return None;
    }
    Some(value)
}

/// A place along the line, none where it was lost; nothing at all where it cannot be used.
fn place(node: &Node<'_>) -> Option<Option<f64>> {
    if node.is_null() { Some(None) } else { ranged(node, LONGEST).map(Some) }
}

fn answer(report: &FlagReport) -> Value {
    json!({
        "stops": report.stops.iter().map(stop).collect::<Vec<_>>(),
        "ends": report.ends.iter().map(end).collect::<Vec<_>>(),
        "travel": report.travel.map(|travel| json!({ "way": travel.way.word(), "off": travel.off.map(rounded) })),
    })
}

fn stop(stop: &FlagStop) -> Value {
    json!({
        "flag_stop": rounded(stop.flag_stop),
        "flag_leave": stop.left.map(|(t, _)| rounded(t)),
        "at": rounded(stop.at),
        "end": stop.end.word(),
        "came": stop.came.word(),
        "went": stop.left.map(|(_, went)| went.word()),
        "horse_stop": stop.horse.map(|(t, _)| rounded(t)),
        "delay": stop.delay().map(rounded),
        "past": stop.horse.map(|(_, past)| rounded(past)),
        "horse_leave": stop.horse_leave.map(rounded),
        "leave_delay": stop.leave_delay().map(rounded),
        "first": stop.first().map(|first| match first {
            WhoLeft::Horse => "horse",
            WhoLeft::Flag => "flag",
        }),
    })
}

fn end(end: &EndFound) -> Value {
    json!({
        "end": end.end.word(),
        "stops": end.stops,
        "past": end.past.map(rounded),
        "delay": end.delay.map(rounded),
        "leave_delay": end.leave_delay.map(rounded),
        "guesses": end.guesses,
    })
}
