//! What a word of the shorthand means by itself: gaits, sides, seconds and tallies.

use cavesson_core::{
    curriculum::{Gait, Side},
    response::{ResponseTime, TimeOutOfRange, Weight},
};

use super::set::{STAGES, Tally};

/// Words that join others and mean nothing by themselves.
pub(super) const JOINS: [&str; 10] = ["a", "an", "at", "the", "in", "on", "and", "with", "of", "or"];

/// Whether a word means something by itself, so that no rung can be called by it.
pub(super) fn is_plain(word: &str) -> bool {
    JOINS.contains(&word)
        || gait(word).is_some()
        || side(word).is_some()
        || word.parse::<Weight>().is_ok()
        || matches!(word, "soft" | "stiff" | "s" | "sec" | "lap" | "laps" | "step" | "steps")
        || seconds(word, None).is_some()
        || tally(word, None).is_some()
}

pub(super) fn gait(word: &str) -> Option<Gait> {
    match word {
        "standing" => Some(Gait::Stand),
        "trot" => Some(Gait::Jog),
        "canter" => Some(Gait::Lope),
        _ => word.parse().ok(),
    }
}

pub(super) fn side(word: &str) -> Option<Side> {
    match word {
        "l" => Some(Side::Left),
        "r" => Some(Side::Right),
        "b" => Some(Side::Both),
        _ => word.parse().ok(),
    }
}

/// `1.5s`, or `1.5` with `s` behind it; and how many words that took.
pub(super) fn seconds(word: &str, next: Option<&str>) -> Option<(Result<ResponseTime, TimeOutOfRange>, usize)> {
    let (number, used) = match word.strip_suffix("sec").or_else(|| word.strip_suffix('s')) {
        Some(number) => (number, 1),
        None if matches!(next, Some("s" | "sec" | "seconds")) => (word, 2),
        None => return None,
    };
    let plain = !number.is_empty() && number.chars().all(|c| c.is_ascii_digit() || c == '.');
    let seconds: f64 = plain.then(|| number.parse().ok()).flatten()?;
    let tenth = (seconds * 1000.0).round() / 1000.0;
    Some((ResponseTime::from_seconds(tenth), used))
}

/// `6/8`, `6+1/8`, `3laps`, `3` with `laps` behind it, `8steps`, `30%`, `looks>two`; and how many words that took.
pub(super) fn tally(word: &str, next: Option<&str>) -> Option<(Tally, usize)> {
    if let Some((good, all)) = word.split_once('/') {
        let (good, tried) = match good.split_once('+') {
            Some((good, tried)) => (good, Some(tried.parse().ok()?)),
            None => (good, None),
        };
        return Some((Tally::Of { good: good.parse().ok()?, tried, all: all.parse().ok()? }, 1));
    }
    if let Some(share) = word.strip_suffix('%') {
        return share.parse().ok().map(|s| (Tally::Share(s), 1));
    }
    type Unit = fn(u8) -> Tally;
    for (several, one, tally) in [("laps", "lap", Tally::Laps as Unit), ("steps", "step", Tally::Steps as Unit)] {
        if let Some(number) = word.strip_suffix(several).or_else(|| word.strip_suffix(one)) {
            return number.parse().ok().map(|n| (tally(n), 1));
        }
        if next == Some(several) || next == Some(one) {
            return word.parse().ok().map(|n| (tally(n), 2));
        }
    }
    let tries: Option<Vec<_>> = word.split('>').map(|w| STAGES.iter().find(|(s, _)| *s == w).map(|s| s.1)).collect();
    tries.map(|t| (Tally::Tries(t), 1))
}
