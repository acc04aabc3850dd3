//! What happens on cattle while a horse is ridden, as it is logged from the saddle or by a helper on the fence.

use serde::{Deserialize, Serialize};

use super::{StopTold, Way};
use crate::words::words;

words! {
    "a position";
    /// Where the cow's head was before a turn, from the horse's front leg back: the further back, the further outside the horse is.
    pub enum Position { Leg, Pad, Hip, Off }
}

impl Position {
    /// About how far that is behind the horse's nose, feet. Assumed, of a horse eight feet long.
    pub fn behind_nose(self) -> f64 {
        match self {
            Position::Leg => 3.0,
            Position::Pad => 5.0,
            Position::Hip => 8.0,
            Position::Off => 16.0,
        }
    }
}

words! {
    "how a turn ended";
    /// Where the horse stopped when the cow did.
    pub enum Stopped { Short, Even, Past }
}

words! {
    "a cow's speed";
    /// How fast a cow went, as it is told from the saddle.
    pub enum CowSpeed { Slow, Lively, Fast }
}

impl CowSpeed {
    /// About how fast that is, feet a second: a walk or jog, a lope, a run. Assumed; no published figure is known.
    pub fn feet(self) -> f64 {
        match self {
            CowSpeed::Slow => 6.0,
            CowSpeed::Lively => 10.0,
            CowSpeed::Fast => 15.0,
        }
    }
}

/// Something on cattle. `Cow` names one of the herd.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum CattleEvent<Cow> {
    /// From here on this cow is worked.
    Work {
        /// Which.
        cow: Cow,
        /// Why it is worked although something speaks against it.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(min_length = 1, max_length = 500))]
        why: Option<String>,
    },
    /// A turn.
    Turn {
        /// Of which cow.
        cow: Cow,
        /// The way it turned to.
        way: Way,
        /// Where the cow's head was before it.
        position: Position,
        /// Where the horse stopped.
        stopped: Stopped,
        /// Whether both shoulders came through.
        through: bool,
        /// How fast the cow came.
        speed: CowSpeed,
        /// Whether the cow turned away from the horse, as an honest one does.
        honoured: bool,
    },
    /// The cow got past.
    Lost {
        /// Which.
        cow: Cow,
        /// Whether the horse was where it should be: then it was the cow that no longer honours a horse.
        in_position: bool,
    },
    /// A stop on the flag.
    Flag {
        /// How it came out.
        stop: StopTold,
    },
    /// The herd is left for now: nothing more is worked until the next cow.
    Left,
}

impl<Cow: Copy> CattleEvent<Cow> {
    /// The cow that it is about.
    pub fn cow(&self) -> Option<Cow> {
        match self {
            CattleEvent::Work { cow, .. } | CattleEvent::Turn { cow, .. } | CattleEvent::Lost { cow, .. } => Some(*cow),
            CattleEvent::Flag { .. } | CattleEvent::Left => None,
        }
    }
}

/// A turn, whichever cow's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Turn {
    pub way: Way,
    pub position: Position,
    pub stopped: Stopped,
    pub through: bool,
    pub speed: CowSpeed,
    pub honoured: bool,
}

impl Turn {
    /// The turn of an event that is one.
    pub fn of<Cow>(event: &CattleEvent<Cow>) -> Option<Turn> {
        match *event {
            CattleEvent::Turn { way, position, stopped, through, speed, honoured, .. } => {
                Some(Turn { way, position, stopped, through, speed, honoured })
            }
            _ => None,
        }
    }

    /// Whether position was held and the turn was right: even with the cow, and both shoulders through.
    pub fn is_right(&self) -> bool {
        self.stopped == Stopped::Even && self.through
    }
}

/// A horse on a cow, from when it was taken until it was left.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CowWork<Cow> {
    /// Which cow.
    pub cow: Cow,
    /// When it began, seconds of any clock.
    pub begin: i64,
    /// Seconds until the last thing that was logged of it.
    pub seconds: i64,
    /// Its turns, in order.
    pub turns: Vec<Turn>,
    /// How often it got past, and how often with the horse in position.
    pub lost: [u32; 2],
    /// Why it was worked although something spoke against it.
    pub why: Option<String>,
}

/// The shortest work, seconds: a cow that is brought out is worn by it.
const SHORTEST: i64 = 60;
/// A cow of which nothing was logged for so long, seconds, was worked no longer.
const LET_GO: i64 = 600;

impl<Cow> CowWork<Cow> {
    /// Minutes that it took, one at least.
    pub fn minutes(&self) -> f64 {
        self.seconds.max(SHORTEST) as f64 / 60.0
    }

    /// Turns that it was tried on: those that were turned, and where it got past a horse in position.
    pub fn tried(&self) -> u32 {
        self.turns.len() as u32 + self.lost[1]
    }

    /// Of those, how many it honoured.
    pub fn honoured(&self) -> u32 {
        self.turns.iter().filter(|turn| turn.honoured).count() as u32
    }
}

/// The works of a ride from what was logged of it, in order of time, seconds of any clock.
///
/// ```
/// use cavesson_core::cattle::{CattleEvent, cow_works};
/// let work = |cow| CattleEvent::Work { cow, why: None };
/// let all = cow_works(&[(0, work(1)), (90, CattleEvent::Lost { cow: 1, in_position: true }), (100, work(2))]);
/// assert_eq!((all.len(), all[0].minutes(), all[0].tried(), all[1].minutes()), (2, 1.5, 1, 1.0));
/// ```
pub fn cow_works<Cow: Copy + PartialEq>(events: &[(i64, CattleEvent<Cow>)]) -> Vec<CowWork<Cow>> {
    let mut works: Vec<CowWork<Cow>> = vec![];
    let mut on = false;
    for (at, event) in events {
        let Some(cow) = event.cow() else {
            on = false;
            continue;
        };
        let goes_on =
            on && works.last().is_some_and(|work| work.cow == cow && at - work.begin - work.seconds <= LET_GO);
        if !goes_on {
            works.push(CowWork { cow, begin: *at, seconds: 0, turns: vec![], lost: [0; 2], why: None });
        }
        on = true;
        let Some(work) = works.last_mut() else { continue };
        work.seconds = at - work.begin;
        match event {
            CattleEvent::Work { why, .. } => work.why = why.clone().or(work.why.take()),
            CattleEvent::Turn { .. } => work.turns.extend(Turn::of(event)),
            CattleEvent::Lost { in_position, .. } => work.lost[usize::from(*in_position)] += 1,
            CattleEvent::Flag { .. } | CattleEvent::Left => {}
        }
    }
    works
}
