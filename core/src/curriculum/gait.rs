use std::{fmt, str::FromStr};

use serde::{Deserialize, Serialize};

/// A gait, slowest first. Every faster gait costs softness.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
#[allow(missing_docs)]
pub enum Gait {
    Stand,
    Walk,
    Jog,
    Lope,
    Run,
}

impl Gait {
    /// All gaits, slowest first.
    pub const ALL: [Gait; 5] = [Gait::Stand, Gait::Walk, Gait::Jog, Gait::Lope, Gait::Run];

    /// The word: `jog`.
    pub const fn word(self) -> &'static str {
        match self {
            Gait::Stand => "stand",
            Gait::Walk => "walk",
            Gait::Jog => "jog",
            Gait::Lope => "lope",
            Gait::Run => "run",
        }
    }

    /// In a sentence: `at the jog`, `standing`.
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

impl fmt::Display for Gait {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

impl FromStr for Gait {
    type Err = String;
    fn from_str(word: &str) -> Result<Self, Self::Err> {
        Gait::ALL.into_iter().find(|g| g.word() == word).ok_or_else(|| format!("\"{word}\" is not a gait"))
    }
}

/// The side of an ask, seen from the saddle.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
#[allow(missing_docs)]
pub enum Side {
    Left,
    Right,
    /// Both reins at once, on rungs that have no left and right.
    Both,
}

impl Side {
    /// The word: `left`.
    pub const fn word(self) -> &'static str {
        match self {
            Side::Left => "left",
            Side::Right => "right",
            Side::Both => "both",
        }
    }

    /// The same side in a mirror.
    pub const fn mirrored(self) -> Side {
        match self {
            Side::Left => Side::Right,
            Side::Right => Side::Left,
            Side::Both => Side::Both,
        }
    }
}

impl fmt::Display for Side {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

impl FromStr for Side {
    type Err = String;
    fn from_str(word: &str) -> Result<Self, Self::Err> {
        [Side::Left, Side::Right, Side::Both]
            .into_iter()
            .find(|s| s.word() == word)
            .ok_or_else(|| format!("\"{word}\" is not a side"))
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
