//! What a hand's weight comes to at mouth, chin and poll: statics of a rigid bit, a strap that does not stretch, no friction.

use super::hung::Hung;
use crate::plane::Point;

/// A force on the bit from the mouth, newtons. It is as large the other way, on the mouth.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Force {
    /// Onto the bars.
    pub back: f64,
    /// Over 0 into the corners of the mouth, under 0 down onto the bars and tongue.
    pub up: f64,
}

impl Force {
    /// How large it is.
    pub fn size(self) -> f64 {
        self.back.hypot(self.up)
    }
}

/// A bit held by a weight on the reins.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Held {
    /// How far it turned, radians.
    pub turn: f64,
    /// Whether the strap is tight.
    pub tight: bool,
    /// The pull of the strap, newtons.
    pub curb: f64,
    /// The pull of the headstall, newtons.
    pub poll: f64,
    /// At the mouthpiece.
    pub mouth: Force,
}

/// Arms shorter than this are none, metres: ring, mouthpiece and chin are in line, and no strap holds them.
const NO_ARM: f64 = 1e-11;
/// Turns are tried so far apart, radians: an eighth of a degree.
const STEP: f64 = std::f64::consts::PI / 1440.0;

impl Hung {
    /// The arm of the rein about the mouthpiece, metres.
    pub fn rein_arm(&self, turn: f64) -> f64 {
        self.bit.shank * (self.bit.sweep + turn - self.pull).cos()
    }

    /// The arm of the strap.
    pub fn strap_arm(&self, turn: f64) -> f64 {
        (self.ring(turn).cross(self.chin.at()).abs() / self.run(turn)).max(NO_ARM)
    }

    /// The arm of the headstall.
    pub fn headstall_arm(&self, turn: f64) -> f64 {
        self.ring(turn).cross(self.poll()).abs() / self.ring(turn).distance(self.poll())
    }

    /// The pull of the headstall, newtons: by how much it is stretched, over its give.
    pub fn headstall_pull(&self, turn: f64) -> f64 {
        ((self.ring(turn).distance(self.poll()) - self.headstall.length) / self.headstall.give).max(0.0)
    }

    /// What is left of the reins' moment about the mouthpiece beside the headstall's, newton metres.
    fn left_over(&self, reins: f64, turn: f64) -> f64 {
        reins * self.rein_arm(turn) - self.headstall_pull(turn) * self.headstall_arm(turn)
    }

    /// The first turn up to `most` at which reins and headstall balance; none where the reins still turn it there.
    fn balance(&self, reins: f64, most: f64) -> Option<f64> {
        let steps = (most / STEP).ceil() as usize;
        let at = |n: usize| (n as f64 * STEP).min(most);
        let past = (1..=steps).find(|n| self.left_over(reins, at(*n)) <= 0.0)?;
        let (mut low, mut high) = (at(past - 1), at(past));
        for _ in 0..60 {
            let middle = (low + high) / 2.0;
            if self.left_over(reins, middle) > 0.0 { low = middle } else { high = middle }
        }
        Some((low + high) / 2.0)
    }

    /// The bit under a weight on **each** of two reins that carry alike, newtons, over 0.
    ///
    /// By hand: purchase 2 in, shank 6 in straight, no slack, chin 3 in behind and 2 in above, rein level and nose plumb, 5 N on each
    /// rein: the strap pulls square to the purchase, so it carries 10 · 6 / 2 = 30 N and the mouth 40 N.
    ///
    /// ```
    /// use cavesson_core::tack::{Chin, Headstall, Hung, INCH, LeverageBit};
    /// let bit = LeverageBit { purchase: 2.0 * INCH, shank: 6.0 * INCH, sweep: 0.0 };
    /// let chin = Chin { behind: 3.0 * INCH, below: -2.0 * INCH };
    /// let hung = Hung::new(bit, chin, Headstall { length: 18.0 * INCH, give: 0.05 * INCH }, 0.0, 0.0)?;
    /// let held = hung.held(5.0);
    /// assert!((held.curb - 30.0).abs() < 1e-9 && (held.mouth.size() - 40.0).abs() < 1e-9);
    /// assert!(held.tight && held.turn == 0.0);
    /// # Ok::<(), cavesson_core::tack::HungFault>(())
    /// ```
    pub fn held(&self, weight: f64) -> Held {
        let reins = 2.0 * weight;
        let tight = self.tight();
        let most = tight.unwrap_or_else(|| self.over());
        let (turn, curb) = match (self.balance(reins, most), tight) {
            (None, Some(tight)) => (tight, self.left_over(reins, tight) / self.strap_arm(tight)),
            (slack, _) => (slack.unwrap_or(most), 0.0),
        };
        let poll = self.headstall_pull(turn);
        let along = |to: Point| {
            let way = to - self.ring(turn);
            way * (1.0 / way.length())
        };
        let sum = Point::polar(self.pull, reins) + along(self.chin.at()) * curb + along(self.poll()) * poll;
        Held { turn, tight: curb > 0.0, curb, poll, mouth: Force { back: sum.x, up: sum.y } }
    }
}
