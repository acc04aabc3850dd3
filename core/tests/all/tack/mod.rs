//! Tack: what a bit makes of a hand.

mod balance;
mod effort;
mod measures;
mod roads;
mod steps;
mod worked;

use cavesson_core::tack::{Chin, Headstall, Hung, INCH, LeverageBit};

/// A bit in inches and degrees: purchase, shank, sweep; chin behind and below; slack; the rein's direction; 18 in to the poll.
pub(crate) fn hung(bit: [f64; 3], chin: [f64; 2], slack: f64, pull: f64, give: f64) -> Hung {
    Hung::new(
        LeverageBit { purchase: bit[0] * INCH, shank: bit[1] * INCH, sweep: bit[2].to_radians() },
        Chin { behind: chin[0] * INCH, below: chin[1] * INCH },
        Headstall { length: 18.0 * INCH, give: give * INCH },
        slack * INCH,
        pull.to_radians(),
    )
    .unwrap()
}

/// A common bit on a common head: 1.75 in over 5 in, swept back 15 degrees, the nose 30 degrees out, the hand a little high.
pub(crate) fn common(slack: f64) -> Hung {
    hung([1.75, 5.0, 15.0], [2.0, 0.25], slack, 40.0, 0.05)
}
