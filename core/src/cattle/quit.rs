//! When to quit on cattle: what to do after the last turn, and why.

use super::{CowWork, Stopped, Turn, Way};
use crate::words::words;

words! {
    "what to do next on cattle";
    /// What to do next.
    pub enum NextOnCattle { GoOn, OneMore, QuitHere, AnotherCow, LeaveCattle }
}

/// What to do next, and why.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct CattleAdvice {
    pub next: NextOnCattle,
    pub why: String,
}

/// What a work is held against.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CattleLimits {
    /// Minutes of a go.
    pub go_minutes: u8,
    /// Minutes on cattle that are enough for this horse today.
    pub minutes: u8,
    /// Right turns each way that are enough for today.
    pub right: u8,
}

/// The same thing wrong so often one way is no accident.
const AGAIN: usize = 2;
/// Turns that are looked back on for it.
const BACK: usize = 6;

fn advice(next: NextOnCattle, why: impl Into<String>) -> CattleAdvice {
    CattleAdvice { next, why: why.into() }
}

/// What to do after what was logged on a ride so far; none before the first turn. Quitting on a right turn that the horse made is favoured,
/// and what went wrong twice one way is not tried a third time.
pub fn next_on_cattle<Cow>(works: &[CowWork<Cow>], limits: CattleLimits) -> Option<CattleAdvice> {
    let now = works.last()?;
    let turns: Vec<Turn> = works.iter().flat_map(|work| work.turns.iter().copied()).collect();
    if now.turns.is_empty() && now.lost == [0; 2] {
        return None;
    }
    if let Some(why) = wrong_again(&turns) {
        return Some(advice(NextOnCattle::LeaveCattle, why));
    }
    if let Some(gone) = cow_is_done(now, limits) {
        return Some(gone);
    }
    let last = turns.last()?;
    let minutes: f64 = works.iter().map(CowWork::minutes).sum();
    let right = |way: Way| turns.iter().filter(|turn| turn.way == way && turn.is_right()).count();
    let enough = usize::from(limits.right);
    let both = [Way::Left, Way::Right].map(right);
    if last.is_right() && (both.iter().all(|n| *n >= enough) || minutes >= limits.minutes.into()) {
        let why = format!(
            "{} right turns to the left and {} to the right, and the last was one: quit on it",
            both[0], both[1]
        );
        return Some(advice(NextOnCattle::QuitHere, why));
    }
    if minutes >= limits.minutes.into() {
        return Some(advice(
            NextOnCattle::OneMore,
            "it has done enough: quit on the next right turn, on a slower cow if need be",
        ));
    }
    let [left, to_right] = [Way::Left, Way::Right].map(|way| turns.iter().filter(|turn| turn.way == way).count());
    let why = match left.abs_diff(to_right) {
        0 | 1 => format!("{} of {} turns were right", both[0] + both[1], turns.len()),
        _ if left > to_right => "it turned more to the left so far: wait for one to the right".to_owned(),
        _ => "it turned more to the right so far: wait for one to the left".to_owned(),
    };
    Some(advice(NextOnCattle::GoOn, why))
}

/// What was wrong twice the same way among the last turns, where it has not come right since.
fn wrong_again(turns: &[Turn]) -> Option<String> {
    let back = &turns[turns.len().saturating_sub(BACK)..];
    for way in [Way::Left, Way::Right] {
        let there: Vec<&Turn> = back.iter().filter(|turn| turn.way == way).collect();
        let ends_in = |wrong: fn(&Turn) -> bool| there.iter().rev().take_while(|turn| wrong(turn)).count() >= AGAIN;
        let side = way.word();
        if ends_in(|turn| !turn.through) {
            return Some(format!(
                "the shoulders poked out twice to the {side}: leave the cattle, back up and turn over the hocks in the open pen, \
                 then come back to the same kind of cow"
            ));
        }
        if ends_in(|turn| turn.stopped == Stopped::Past) {
            return Some(format!(
                "it went past twice to the {side}: leave the cattle, stop and wait in the open pen, then take a slower cow"
            ));
        }
    }
    None
}

fn cow_is_done<Cow>(now: &CowWork<Cow>, limits: CattleLimits) -> Option<CattleAdvice> {
    let another = |why: &str| Some(advice(NextOnCattle::AnotherCow, why));
    if now.lost[1] > 0 {
        return another("it got past a horse in position: it no longer honours one");
    }
    if now.lost[0] > 0 {
        return another("it got past: leave it, and take a slower one");
    }
    let last = &now.turns[now.turns.len().saturating_sub(3)..];
    if last.iter().filter(|turn| !turn.honoured).count() >= 2 {
        return another("it did not honour two of the last turns: it has had enough");
    }
    let turned = now.turns.last().is_some_and(Turn::is_right);
    if now.minutes() >= f64::from(limits.go_minutes) * 1.5 && turned {
        return another("it has worked long enough, and the last turn was right");
    }
    None
}
