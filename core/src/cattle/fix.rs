//! Fixing a fault of the cattle in the open pen: when to leave, with which fault, and whether it is gone after coming back.

use super::{CattleEvent, Stopped, Turn, Way};
use crate::words::words;

words! {
    "a fault on cattle";
    /// What goes wrong in turns, by the tag that the curriculum has for it.
    pub enum CattleFault {
        PokesOut,
        GoesPast,
    }
}

impl CattleFault {
    /// Whether a turn has it.
    pub fn shows_in(self, turn: &Turn) -> bool {
        match self {
            CattleFault::PokesOut => !turn.through,
            CattleFault::GoesPast => turn.stopped == Stopped::Past,
        }
    }
}

/// A fault that is fixed elsewhere.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct FixElsewhere {
    pub way: Way,
    pub fault: CattleFault,
}

/// The same thing wrong so often one way is no accident.
const AGAIN: usize = 2;
/// Turns that are looked back on for it.
const BACK: usize = 6;

/// What was wrong twice the same way among the last turns, where it has not come right since.
pub fn fix_elsewhere(turns: &[Turn]) -> Option<FixElsewhere> {
    let back = &turns[turns.len().saturating_sub(BACK)..];
    Way::ALL.into_iter().find_map(|way| {
        let there = || back.iter().rev().filter(move |turn| turn.way == way);
        let fault = CattleFault::ALL
            .into_iter()
            .find(|fault| there().take_while(|turn| fault.shows_in(turn)).count() >= AGAIN)?;
        Some(FixElsewhere { way, fault })
    })
}

/// How often a fault showed, of how many turns one way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
#[allow(missing_docs)]
pub struct Showed {
    pub wrong: usize,
    pub of: usize,
}

/// A fault before the herd was left for it, and since.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct CameBack {
    pub fix: FixElsewhere,
    pub before: Showed,
    pub since: Showed,
    /// Whether a cow since is of the kind that it showed on.
    pub like: bool,
}

impl CameBack {
    /// `Shoulders out to the left: 3 of 4 turns before, 0 of 3 since, on the same kind of cow`.
    pub fn says(&self) -> String {
        let fault = match self.fix.fault {
            CattleFault::PokesOut => "Shoulders out",
            CattleFault::GoesPast => "Past the cow",
        };
        let Showed { wrong, of } = self.before;
        let since = match self.since {
            Showed { of: 0, .. } => "none yet since".to_owned(),
            Showed { wrong, of } => format!("{wrong} of {of} since"),
        };
        let kind = match (self.since.of, self.like) {
            (0, _) => "",
            (_, true) => ", on the same kind of cow",
            (_, false) => ", on another kind of cow",
        };
        format!("{fault} to the {}: {wrong} of {of} turns before, {since}{kind}", self.fix.way)
    }
}

/// The faults that the herd was left for on a ride, latest first, each with the turns after the horse came back. `like` tells whether
/// two cows are of a kind.
///
/// ```
/// use cavesson_core::cattle::{CattleEvent, CowSpeed, Position, Stopped, Way, came_back};
/// let turn = |through| CattleEvent::Turn {
///     cow: 1, way: Way::Left, position: Position::Leg, stopped: Stopped::Even, through, speed: CowSpeed::Slow, honoured: true,
/// };
/// let events = [turn(true), turn(false), turn(false), CattleEvent::Left, turn(true)];
/// let back = came_back(&events, |a, b| a == b);
/// assert_eq!(back[0].says(), "Shoulders out to the left: 2 of 3 turns before, 0 of 1 since, on the same kind of cow");
/// ```
pub fn came_back<Cow: Copy>(events: &[CattleEvent<Cow>], like: impl Fn(Cow, Cow) -> bool) -> Vec<CameBack> {
    let (mut turns, mut found): (Vec<Turn>, Vec<(CameBack, Cow)>) = (vec![], vec![]);
    let mut last_cow = None;
    for event in events {
        if let (CattleEvent::Left, Some(fix), Some(cow)) = (event, fix_elsewhere(&turns), last_cow) {
            let there: Vec<&Turn> = turns.iter().filter(|turn| turn.way == fix.way).collect();
            let wrong = there.iter().filter(|turn| fix.fault.shows_in(turn)).count();
            let before = Showed { wrong, of: there.len() };
            found.push((CameBack { fix, before, since: Showed::default(), like: false }, cow));
            turns.clear();
        }
        let (Some(turn), Some(cow)) = (Turn::of(event), event.cow()) else { continue };
        for (back, showed_on) in found.iter_mut().filter(|(back, _)| back.fix.way == turn.way) {
            back.since.of += 1;
            back.since.wrong += usize::from(back.fix.fault.shows_in(&turn));
            back.like |= like(*showed_on, cow);
        }
        turns.push(turn);
        last_cow = Some(cow);
    }
    found.into_iter().rev().map(|(back, _)| back).collect()
}
