use std::{fmt, str::FromStr};

use serde::{Deserialize, Serialize};

/// How sure the trainer wants to be before a horse moves on. The trade disagrees, so the tool carries each view.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Posture {
    /// Never sets a date; nine times in ten sure.
    Patient,
    /// Three times in four sure.
    #[default]
    Steady,
    /// Too much care does harm as well; three times in five sure.
    GoAhead,
}

impl Posture {
    /// All postures, the most patient first.
    pub const ALL: [Posture; 3] = [Posture::Patient, Posture::Steady, Posture::GoAhead];

    /// The probability of being ready at which a side may advance.
    pub const fn sure(self) -> f64 {
        match self {
            Posture::Patient => 0.90,
            Posture::Steady => 0.76,
            Posture::GoAhead => 0.60,
        }
    }

    /// Days running that a horse is ridden before it is left alone (common practice, no published source).
    pub const fn days_running(self) -> u32 {
        match self {
            Posture::Patient => 4,
            Posture::Steady => 5,
            Posture::GoAhead => 6,
        }
    }

    /// Days after which what is owned is due for a few reps (common practice, no published source).
    pub const fn keep_days(self) -> u32 {
        match self {
            Posture::Patient => 14,
            Posture::Steady => 21,
            Posture::GoAhead => 28,
        }
    }

    /// The word: `go-ahead`.
    pub const fn word(self) -> &'static str {
        match self {
            Posture::Patient => "patient",
            Posture::Steady => "steady",
            Posture::GoAhead => "go-ahead",
        }
    }
}

impl fmt::Display for Posture {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

impl FromStr for Posture {
    type Err = String;
    fn from_str(word: &str) -> Result<Self, Self::Err> {
        Posture::ALL
            .into_iter()
            .find(|p| p.word() == word)
            .ok_or_else(|| format!("\"{word}\" is not a posture; it is patient, steady or go-ahead"))
    }
}
