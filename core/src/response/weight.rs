use std::{fmt, str::FromStr};

use serde::{Deserialize, Serialize};

/// What an answer took in the hand, per rein, lightest first. The order of the variants is the order of the scale.
///
/// Common practice in the trade; the nominal forces have no published source.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Weight {
    /// Nothing on the rein: seat, voice or leg did it.
    None,
    /// The rein's own weight.
    Feather,
    /// A hen's egg in the palm.
    Egg,
    /// A lemon.
    Lemon,
    /// An orange.
    Orange,
    /// As much as two fingers carry with ease.
    Fingers,
    /// A full hand, steady.
    Hand,
    /// Horse and rider pulling on each other.
    Tug,
}

impl Weight {
    /// The whole scale, lightest first.
    pub const ALL: [Weight; 8] = [
        Weight::None,
        Weight::Feather,
        Weight::Egg,
        Weight::Lemon,
        Weight::Orange,
        Weight::Fingers,
        Weight::Hand,
        Weight::Tug,
    ];

    /// Nominal force on one rein in millinewtons. `Tug` stands for 30 N and up.
    pub const fn millinewtons(self) -> u32 {
        match self {
            Weight::None => 0,
            Weight::Feather => 100,
            Weight::Egg => 500,
            Weight::Lemon => 1_000,
            Weight::Orange => 2_000,
            Weight::Fingers => 5_000,
            Weight::Hand => 15_000,
            Weight::Tug => 30_000,
        }
    }

    /// The word on the scale: `egg`.
    pub const fn word(self) -> &'static str {
        match self {
            Weight::None => "none",
            Weight::Feather => "feather",
            Weight::Egg => "egg",
            Weight::Lemon => "lemon",
            Weight::Orange => "orange",
            Weight::Fingers => "fingers",
            Weight::Hand => "hand",
            Weight::Tug => "tug",
        }
    }

    /// The word in a sentence: `an egg`, `two fingers`.
    pub const fn phrase(self) -> &'static str {
        match self {
            Weight::None => "nothing on the rein",
            Weight::Feather => "a feather",
            Weight::Egg => "an egg",
            Weight::Lemon => "a lemon",
            Weight::Orange => "an orange",
            Weight::Fingers => "two fingers",
            Weight::Hand => "a full hand",
            Weight::Tug => "a tug",
        }
    }
}

impl fmt::Display for Weight {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

/// A word that is not on the weight scale.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("\"{0}\" is not a weight; the scale is none, feather, egg, lemon, orange, fingers, hand, tug")]
pub struct UnknownWeight(pub String);

impl FromStr for Weight {
    type Err = UnknownWeight;

    fn from_str(word: &str) -> Result<Self, Self::Err> {
        Weight::ALL.into_iter().find(|w| w.word() == word).ok_or_else(|| UnknownWeight(word.to_owned()))
    }
}
