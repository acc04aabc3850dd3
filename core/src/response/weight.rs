use crate::words::words;

words! {
    "a weight";
    /// What an answer took in the hand, per rein, lightest first. The order of the variants is the order of the scale.
    ///
    /// Common practice in the trade; the nominal forces have no published source.
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
}

impl Weight {
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

    /// The word in a sentence: `an egg`, `two fingers`.
    ///
    /// ```
    /// use cavesson_core::response::Weight;
    /// assert_eq!((Weight::Fingers.word(), Weight::Fingers.phrase()), ("fingers", "two fingers"));
    /// assert!(Weight::Feather < Weight::Tug);
    /// ```
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

/// A word that is not on the weight scale.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("\"{0}\" is not a weight; the scale is none, feather, egg, lemon, orange, fingers, hand, tug")]
pub struct UnknownWeight(pub String);
