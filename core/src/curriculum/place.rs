use std::{fmt, str::FromStr};

use serde::{Deserialize, Serialize};

/// Where a horse is ridden, from the smallest outward. A rung owned in one place starts lower in the next.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Place {
    /// Round or indoor pen.
    RoundPen,
    /// The arena.
    Arena,
    /// The range outside.
    Outside,
    /// The trail, and away from home.
    Trail,
}

impl Place {
    /// All places, the smallest first.
    pub const ALL: [Place; 4] = [Place::RoundPen, Place::Arena, Place::Outside, Place::Trail];

    /// The word: `round-pen`.
    pub const fn word(self) -> &'static str {
        match self {
            Place::RoundPen => "round-pen",
            Place::Arena => "arena",
            Place::Outside => "outside",
            Place::Trail => "trail",
        }
    }

    /// In a sentence: `in the round pen`.
    pub const fn phrase(self) -> &'static str {
        match self {
            Place::RoundPen => "in the round pen",
            Place::Arena => "in the arena",
            Place::Outside => "outside",
            Place::Trail => "on the trail",
        }
    }
}

impl Place {
    /// Whether it is out of the pen: a horse wants such days as well.
    pub fn is_out_of_the_pen(self) -> bool {
        self >= Place::Outside
    }

    /// Whether the horse is away from home.
    pub fn is_away(self) -> bool {
        self == Place::Trail
    }

    /// As a next step: `take it outside`.
    pub const fn next(self) -> &'static str {
        match self {
            Place::RoundPen => "take it to the round pen",
            Place::Arena => "take it to the arena",
            Place::Outside => "take it outside",
            Place::Trail => "take it on the trail",
        }
    }
}

impl FromStr for Place {
    type Err = String;
    fn from_str(word: &str) -> Result<Self, Self::Err> {
        Place::ALL.into_iter().find(|p| p.word() == word).ok_or_else(|| format!("\"{word}\" is not a place"))
    }
}

/// In whose hands a horse is, from the most to the least experienced.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Hands {
    /// The trainer's.
    Trainer,
    /// An experienced rider's.
    Assistant,
    /// The owner's.
    Owner,
}

impl Hands {
    /// All hands, the most experienced first.
    pub const ALL: [Hands; 3] = [Hands::Trainer, Hands::Assistant, Hands::Owner];

    /// The word: `trainer`.
    pub const fn word(self) -> &'static str {
        match self {
            Hands::Trainer => "trainer",
            Hands::Assistant => "assistant",
            Hands::Owner => "owner",
        }
    }

    /// As a next step: `put the owner up`.
    pub const fn next(self) -> &'static str {
        match self {
            Hands::Trainer => "put the trainer up",
            Hands::Assistant => "put an assistant up",
            Hands::Owner => "put the owner up",
        }
    }
}

impl FromStr for Hands {
    type Err = String;
    fn from_str(word: &str) -> Result<Self, Self::Err> {
        Hands::ALL.into_iter().find(|h| h.word() == word).ok_or_else(|| format!("\"{word}\" is nobody's hands"))
    }
}

impl fmt::Display for Place {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}
