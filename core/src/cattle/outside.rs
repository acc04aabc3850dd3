//! How far outside a horse may be put: a ladder from the cow's head at the leg to a length off, one way at a time.

use super::{Position, Turn, Way};

/// A step of the ladder is held with so many turns and such a share of them right. Assumed.
const TURNS: usize = 4;
const SHARE: f64 = 0.75;

/// How far outside a horse holds one way.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Outside {
    /// Which.
    pub way: Way,
    /// The furthest step that is held, with every nearer one that was tried; none where not even the first is.
    pub held: Option<Position>,
    /// The step to work on: none where the last is held.
    pub next: Option<Position>,
    /// Right turns on that step, and all of them.
    pub seen: [usize; 2],
}

/// How far outside a horse holds, from its turns. A step that was passed over is held where a further one is.
///
/// ```
/// use cavesson_core::cattle::{CowSpeed, Position, Stopped, Turn, Way, outside};
/// let turn = |position, stopped| Turn {
///     way: Way::Left, position, stopped, through: true, speed: CowSpeed::Slow, honoured: true,
/// };
/// let even = [turn(Position::Leg, Stopped::Even); 4];
/// let past = [turn(Position::Pad, Stopped::Past); 2];
/// let found = outside(&[&even[..], &past[..]].concat(), Way::Left);
/// assert_eq!((found.held, found.next, found.seen), (Some(Position::Leg), Some(Position::Pad), [0, 2]));
/// ```
pub fn outside(turns: &[Turn], way: Way) -> Outside {
    let seen = |step: Position| {
        let there = || turns.iter().filter(|turn| turn.way == way && turn.position == step);
        [there().filter(|turn| turn.is_right()).count(), there().count()]
    };
    let holds = |step: Position| {
        let [right, of] = seen(step);
        of >= TURNS && right as f64 >= SHARE * of as f64
    };
    let fails = |step: Position| seen(step)[1] >= TURNS && !holds(step);
    let before_the_first_failed = Position::ALL.into_iter().take_while(|&step| !fails(step));
    let held = before_the_first_failed.filter(|&step| holds(step)).last();
    let next = match held {
        None => Position::ALL.first().copied(),
        Some(held) => Position::ALL.into_iter().find(|&step| step > held),
    };
    Outside { way, held, next, seen: next.map(seen).unwrap_or_default() }
}
