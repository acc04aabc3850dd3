use serde::{Deserialize, Serialize};

use crate::words::words;

words! {
    "a gait";
    /// A gait, slowest first. Every faster gait costs softness.
    pub enum Gait {
        Stand,
        Walk,
        Jog,
        Lope,
        Run,
    }
}

impl Gait {
    /// In a sentence: `at the jog`, `standing`.
    ///
    /// ```
    /// use cavesson_core::curriculum::Gait;
    /// assert_eq!((Gait::Jog.word(), Gait::Jog.phrase(), Gait::Stand.phrase()), ("jog", "at the jog", "standing"));
    /// assert_eq!("lope".parse(), Ok(Gait::Lope));
    /// ```
    pub const fn phrase(self) -> &'static str {
        match self {
            Gait::Stand => "standing",
            Gait::Walk => "at the walk",
            Gait::Jog => "at the jog",
            Gait::Lope => "at the lope",
            Gait::Run => "at the run",
        }
    }
}

words! {
    "a side";
    /// The side of an ask, seen from the saddle.
    pub enum Side {
        Left,
        Right,
        /// Both reins at once, on rungs that have no left and right.
        Both,
    }
}

impl Side {
    /// The same side in a mirror.
    ///
    /// ```
    /// use cavesson_core::curriculum::Side;
    /// assert_eq!((Side::Left.mirrored(), Side::Both.mirrored()), (Side::Right, Side::Both));
    /// ```
    pub const fn mirrored(self) -> Side {
        match self {
            Side::Left => Side::Right,
            Side::Right => Side::Left,
            Side::Both => Side::Both,
        }
    }
}

/// The sides on which a rung is trained and owned.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Sides {
    /// Left and right, each owned for itself.
    Each,
    /// One answer of the whole horse.
    Both,
}

impl Sides {
    /// The sides, left before right.
    ///
    /// ```
    /// use cavesson_core::curriculum::{Side, Sides};
    /// assert_eq!(Sides::Each.list(), [Side::Left, Side::Right]);
    /// ```
    pub const fn list(self) -> &'static [Side] {
        match self {
            Sides::Each => &[Side::Left, Side::Right],
            Sides::Both => &[Side::Both],
        }
    }

    /// Whether the rung is trained on this side.
    pub fn has(self, side: Side) -> bool {
        self.list().contains(&side)
    }
}
