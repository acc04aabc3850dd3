//! A leverage bit as it hangs on a horse: how far the shank turns before the strap takes hold.

use std::f64::consts::FRAC_PI_2;

use crate::{plane::Point, words::words};

/// A cosine this far under −1 is −1: the strap is tight where ring, mouthpiece and chin are in line.
const ROUNDING: f64 = 1e-12;

/// A bit with shanks and a curb strap.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LeverageBit {
    /// From the mouthpiece up to the ring where headstall and strap hang, metres.
    pub purchase: f64,
    /// From the mouthpiece down to the rein ring in a straight line, metres.
    pub shank: f64,
    /// How far that line is swept back from the purchase drawn on downwards, radians.
    pub sweep: f64,
}

/// Where the strap lies in the chin groove.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Chin {
    /// Behind the mouthpiece, metres, over 0.
    pub behind: f64,
    /// Below it, metres; under 0 where it is above.
    pub below: f64,
}

impl Chin {
    pub(super) fn at(self) -> Point {
        Point::new(self.behind, -self.below)
    }
}

/// What holds the bit up.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Headstall {
    /// From the ring to the poll, metres.
    pub length: f64,
    /// How far leather and flesh give for each newton, metres. No figure is published.
    pub give: f64,
}

/// A leverage bit as it hangs. Made by [`Hung::new`], so that it is one that can turn.
///
/// By hand: purchase 1.75 in, chin 2 in straight behind, slack 1.2 in. The strap is tight where its run is
/// sqrt(1.75² + 2²) + 0.6 = 3.2575 in, so sin t = (3.2575² − 1.75² − 2²) / (2 · 1.75 · 2) and t = 30.46°.
///
/// ```
/// use cavesson_core::tack::{Chin, Headstall, Hung, INCH, LeverageBit, TakesHold};
/// let bit = LeverageBit { purchase: 1.75 * INCH, shank: 5.0 * INCH, sweep: 0.0 };
/// let chin = Chin { behind: 2.0 * INCH, below: 0.0 };
/// let headstall = Headstall { length: 18.0 * INCH, give: 0.05 * INCH };
/// let hung = Hung::new(bit, chin, headstall, 1.2 * INCH, 0.0)?;
/// assert!((hung.tight().unwrap().to_degrees() - 30.46).abs() < 0.005);
/// assert_eq!(hung.takes_hold(), TakesHold::Good);
/// # Ok::<(), cavesson_core::tack::HungFault>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hung {
    pub(super) bit: LeverageBit,
    pub(super) chin: Chin,
    pub(super) headstall: Headstall,
    pub(super) slack: f64,
    pub(super) pull: f64,
}

/// Why a bit cannot be thought of as hanging.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[allow(missing_docs)]
pub enum HungFault {
    #[error("every length is over 0, and the strap's slack is 0 or more")]
    Length,
    #[error("rein and shank must stand less than 90 degrees apart from square: the rein cannot turn this bit")]
    InLine,
}

words! {
    "a way to take hold";
    /// By the angle at which the strap is tight: when the bit takes hold (common practice; 45 degrees is the trade's figure).
    pub enum TakesHold {
        /// Under 20 degrees: at once, without warning.
        Tight,
        /// From 20 to under 30.
        Snug,
        /// From 30 to 50.
        Good,
        /// Over 50, to 60.
        Long,
        /// Over 60: it pinches the corner of the mouth before it holds.
        Loose,
        /// The strap never takes hold.
        Never,
    }
}

impl TakesHold {
    /// Of an angle in radians; none where the strap is never tight.
    pub fn at(angle: Option<f64>) -> TakesHold {
        match angle.map(f64::to_degrees) {
            None => TakesHold::Never,
            Some(t) if t < 20.0 => TakesHold::Tight,
            Some(t) if t < 30.0 => TakesHold::Snug,
            Some(t) if t <= 50.0 => TakesHold::Good,
            Some(t) if t <= 60.0 => TakesHold::Long,
            Some(_) => TakesHold::Loose,
        }
    }

    /// What that means for the horse.
    pub const fn means(self) -> &'static str {
        match self {
            TakesHold::Tight => "it takes hold at once, with no warning",
            TakesHold::Snug => "it takes hold early, with little warning",
            TakesHold::Good => "the shank turns first and warns, then it takes hold",
            TakesHold::Long => "late: look at the corner of the mouth",
            TakesHold::Loose => "too late: it pinches the corner of the mouth before it holds",
            TakesHold::Never => "the strap never takes hold: the bit only turns and pulls on the poll",
        }
    }
}

/// The strap with a little more or less slack.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Turned {
    /// Metres.
    pub slack: f64,
    /// Radians at which it is tight.
    pub tight: Option<f64>,
    /// What that is called.
    pub takes_hold: TakesHold,
}

/// Ratios of levers.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lever {
    /// Shank over purchase.
    pub by_length: f64,
    /// Arm of the rein over arm of the strap with the bit at rest.
    pub at_rest: f64,
    /// The same where the strap is tight; none where it never is.
    pub tight: Option<f64>,
}

impl Hung {
    /// A bit as it hangs: `slack` is by how much the strap is longer than when it lies snug with the bit at rest, metres; `pull` the
    /// rein's direction over level plus how far the nose is out from plumb, radians.
    ///
    /// # Errors
    /// [`HungFault`]: a length that is none, or a rein that cannot turn the bit.
    pub fn new(bit: LeverageBit, chin: Chin, headstall: Headstall, slack: f64, pull: f64) -> Result<Hung, HungFault> {
        let lengths = [bit.purchase, bit.shank, chin.behind, headstall.length, headstall.give];
        if !(lengths.iter().all(|l| *l > 0.0 && l.is_finite()) && slack >= 0.0 && chin.below.is_finite()) {
            return Err(HungFault::Length);
        }
        let apart = (pull - bit.sweep).abs();
        if apart >= FRAC_PI_2 || apart.is_nan() {
            return Err(HungFault::InLine);
        }
        Ok(Hung { bit, chin, headstall, slack, pull })
    }

    /// The ring where headstall and strap hang, with the bit turned so far.
    pub fn ring(&self, turn: f64) -> Point {
        let (sin, cos) = turn.sin_cos();
        Point::new(-sin, cos) * self.bit.purchase
    }

    /// The rein ring.
    pub fn rein_ring(&self, turn: f64) -> Point {
        let (sin, cos) = (self.bit.sweep + turn).sin_cos();
        Point::new(sin, -cos) * self.bit.shank
    }

    /// The poll.
    pub fn poll(&self) -> Point {
        Point::new(0.0, self.bit.purchase + self.headstall.length)
    }

    /// From the ring to the chin, metres.
    pub fn run(&self, turn: f64) -> f64 {
        self.ring(turn).distance(self.chin.at())
    }

    /// The strap's length beyond snug, metres.
    pub fn slack(&self) -> f64 {
        self.slack
    }

    /// Where the chin is.
    pub fn chin(&self) -> Chin {
        self.chin
    }

    /// The turn at which rein, shank and mouthpiece are in line, radians: the rein turns it no further.
    pub fn over(&self) -> f64 {
        FRAC_PI_2 + self.pull - self.bit.sweep
    }

    /// The most slack of a strap that still comes tight, metres: the strap goes double, and the run is longest where ring, mouthpiece
    /// and chin are in line.
    pub fn most_slack(&self) -> f64 {
        2.0 * (self.bit.purchase + self.chin.at().length() - self.run(0.0))
    }

    /// The turn at which the strap is tight, radians; none where it never is before the bit is over. By the law of cosines in the
    /// triangle of ring, mouthpiece and chin.
    pub fn tight(&self) -> Option<f64> {
        if self.slack == 0.0 {
            return Some(0.0);
        }
        let (a, g) = (self.bit.purchase, self.chin.at().length());
        let run = self.run(0.0) + self.slack / 2.0;
        let cosine = (a * a + g * g - run * run) / (2.0 * a * g);
        if cosine < -1.0 - ROUNDING {
            return None;
        }
        let rest = FRAC_PI_2 - self.chin.at().angle();
        let turn = (cosine.clamp(-1.0, 1.0).acos() - rest).max(0.0);
        (turn < self.over()).then_some(turn)
    }

    /// The angle in words.
    pub fn takes_hold(&self) -> TakesHold {
        TakesHold::at(self.tight())
    }

    /// The same bit on a strap with so much slack, 0 at the least.
    #[must_use]
    pub fn with_slack(&self, slack: f64) -> Hung {
        Hung { slack: slack.max(0.0), ..*self }
    }

    /// The same bit with the chin elsewhere.
    #[must_use]
    pub fn with_chin(&self, chin: Chin) -> Hung {
        Hung { chin, ..*self }
    }

    /// What so much more slack (under 0: less) does.
    pub fn turned_by(&self, more: f64) -> Turned {
        let other = self.with_slack(self.slack + more);
        Turned { slack: other.slack, tight: other.tight(), takes_hold: other.takes_hold() }
    }

    /// Its levers.
    pub fn lever(&self) -> Lever {
        let at = |turn: f64| self.rein_arm(turn) / self.strap_arm(turn);
        Lever { by_length: self.bit.shank / self.bit.purchase, at_rest: at(0.0), tight: self.tight().map(at) }
    }
}
