//! When to quit, on cattle and on the flag: what to do after the last turn or stop, and why.

use super::{CattleFault, CowWork, FixElsewhere, StopTold, Turn, Way, end_habit, fix_elsewhere};
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
    if let Some(fix) = fix_elsewhere(&turns) {
        return Some(advice(NextOnCattle::LeaveCattle, leave_for(fix)));
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

fn leave_for(fix: FixElsewhere) -> String {
    let side = fix.way;
    match fix.fault {
        CattleFault::PokesOut => format!(
            "the shoulders poked out twice to the {side}: leave the cattle, back up and turn over the hocks in the open pen, then \
             come back to the same kind of cow"
        ),
        CattleFault::GoesPast => format!(
            "it went past twice to the {side}: leave the cattle, stop and wait in the open pen, then take a slower cow"
        ),
    }
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

/// Stops from which a work on the flag may end, and after which it should.
const FLAG_STOPS: (usize, usize) = (5, 10);
/// The share of them that is right where it may, in hundredths.
const FLAG_RIGHT: usize = 60;
/// Feet past on average from which a stop by itself there is worth the whole work.
const USED_TO_GO_PAST: f64 = 1.0;

/// What to do after the last stop on the flag: `before` are the stops of earlier works, `now` those of this one. A stop that the horse
/// made by itself, at the end where it used to go past, ends the work.
///
/// ```
/// use cavesson_core::cattle::{FlagEnd, NextOnCattle, StopTold, next_on_flag};
/// let stop = |past| StopTold { end: FlagEnd::Left, past, late: false, guessed: false };
/// let advice = next_on_flag(&[stop(25); 4], &[stop(20), stop(5)]).unwrap();
/// assert_eq!(advice.next, NextOnCattle::QuitHere);
/// ```
pub fn next_on_flag(before: &[StopTold], now: &[StopTold]) -> Option<CattleAdvice> {
    let (last, earlier) = now.split_last()?;
    let right = now.iter().filter(|stop| stop.is_right()).count();
    let habit = end_habit(&[before, earlier].concat(), last.end);
    if last.is_right() && habit.remedy.is_some() && habit.past >= USED_TO_GO_PAST {
        let why = "it stopped by itself where it used to go past: quit, step off, loosen the cinch";
        return Some(advice(NextOnCattle::QuitHere, why));
    }
    let told = format!("{right} of {} stops were right", now.len());
    Some(if now.len() >= FLAG_STOPS.0 && last.is_right() && right * 100 >= FLAG_RIGHT * now.len() {
        advice(NextOnCattle::QuitHere, format!("{told}, and the last was one: quit on it"))
    } else if now.len() >= FLAG_STOPS.1 {
        advice(
            NextOnCattle::OneMore,
            format!("{told}, and that is enough: slow it down, and quit on the next right one"),
        )
    } else {
        advice(NextOnCattle::GoOn, told)
    })
}
