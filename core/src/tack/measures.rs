//! What a piece measures, and what it is on the horse that wears it.

use std::ops::RangeInclusive;

use serde::{Deserialize, Serialize};

use super::{
    INCH,
    hung::{Chin, Headstall, Hung, LeverageBit},
    measured::chin_from_angle,
    plain::Bosal,
};
use crate::ride::Mouthpiece;

/// A bit with shanks as it is and as it hangs: metres and radians.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LeverageMeasures {
    /// From the mouthpiece up to the ring of headstall and strap.
    pub purchase: f64,
    /// From the mouthpiece down to the rein ring, straight.
    pub shank: f64,
    /// How far that line is swept back.
    pub sweep: f64,
    /// By how much the strap is longer than snug.
    pub slack: f64,
    /// How far the chin groove is behind the mouthpiece.
    pub chin_behind: f64,
    /// Where the chin groove is otherwise.
    pub chin: ChinTold,
    /// From the ring to the poll.
    pub headstall: f64,
    /// How far the headstall gives for each newton, metres: a guess.
    pub give: f64,
}

/// How the height of the chin groove was told.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "by", rename_all = "kebab-case", deny_unknown_fields)]
pub enum ChinTold {
    /// By a tape.
    Tape {
        /// Below the mouthpiece, metres; under 0 where it is above.
        below: f64,
    },
    /// By the angle of the shank at which the strap came tight: a phone laid on it.
    Angle {
        /// Radians.
        tight: f64,
    },
}

/// A snaffle: metres.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SnaffleMeasures {
    /// Of the mouthpiece, between the rings.
    pub width: f64,
    /// Across a ring.
    pub ring: f64,
}

/// A bosal: metres and radians.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct BosalMeasures {
    /// From the nose button to the heel knot.
    pub length: f64,
    /// To where it bears under the jaw.
    pub jaw: f64,
    /// How thick the noseband is.
    pub thick: f64,
    /// The rein's lean off its own line.
    pub lean: f64,
}

/// What a piece measures.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
#[allow(missing_docs)]
pub enum Measures {
    Leverage(LeverageMeasures),
    Snaffle(SnaffleMeasures),
    Bosal(BosalMeasures),
}

/// What is wrong with a measure, and at which.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct WrongMeasure {
    pub field: &'static str,
    pub text: String,
}

/// A length or an angle as it may be.
struct May {
    field: &'static str,
    value: f64,
    range: RangeInclusive<f64>,
    length: bool,
}

/// A length in inches.
fn inches(field: &'static str, value: f64, range: RangeInclusive<f64>) -> May {
    May { field, value: value / INCH, range, length: true }
}

/// An angle in degrees.
fn degrees(field: &'static str, value: f64, range: RangeInclusive<f64>) -> May {
    May { field, value: value.to_degrees(), range, length: false }
}

/// Rounding of a length that was typed in inches.
const ROUNDING: f64 = 1e-6;
/// Millimetres in an inch.
const MM: f64 = 25.4;

impl May {
    fn wrong(&self) -> Option<WrongMeasure> {
        let (least, most) = (self.range.start(), self.range.end());
        let fits = |value: f64| value >= least - ROUNDING && value <= most + ROUNDING;
        if fits(self.value) {
            return None;
        }
        let unit = if self.length { " in" } else { "°" };
        let text = format!("{least} to {most}{unit}");
        // Asked, not guessed: nothing is converted before someone says so.
        let other = match self.value {
            v if self.length && fits(v / MM) => {
                Some(format!("were these {v:.0} millimetres? That is {:.2} in", v / MM))
            }
            v if self.length && fits(v * MM) => Some(format!("were these {:.2} inches, typed as millimetres?", v * MM)),
            _ => None,
        };
        Some(WrongMeasure {
            field: self.field,
            text: [Some(text), other].into_iter().flatten().collect::<Vec<_>>().join("; "),
        })
    }
}

impl Measures {
    /// What mouthpiece has such measures.
    pub const fn mouthpiece(&self) -> Mouthpiece {
        match self {
            Measures::Leverage(_) => Mouthpiece::Leverage,
            Measures::Snaffle(_) => Mouthpiece::Snaffle,
            Measures::Bosal(_) => Mouthpiece::Bitless,
        }
    }

    /// Everything that is wrong with them; nothing where they can be. Ranges are wider than any piece that is made.
    ///
    /// ```
    /// use cavesson_core::tack::{INCH, Measures, SnaffleMeasures};
    /// let snaffle = |width: f64| Measures::Snaffle(SnaffleMeasures { width: width * INCH, ring: 3.0 * INCH });
    /// assert!(snaffle(5.0).wrong().is_empty());
    /// assert_eq!(snaffle(127.0).wrong()[0].text, "3 to 8 in; were these 127 millimetres? That is 5.00 in");
    /// ```
    pub fn wrong(&self) -> Vec<WrongMeasure> {
        let mays = match self {
            Measures::Leverage(m) => vec![
                inches("purchase", m.purchase, 0.5..=6.0),
                inches("shank", m.shank, 0.5..=12.0),
                degrees("sweep", m.sweep, -45.0..=60.0),
                inches("slack", m.slack, 0.0..=8.0),
                inches("chin_behind", m.chin_behind, 0.5..=6.0),
                match m.chin {
                    ChinTold::Tape { below } => inches("chin.below", below, -3.0..=3.0),
                    ChinTold::Angle { tight } => degrees("chin.tight", tight, 1.0..=179.0),
                },
                inches("headstall", m.headstall, 6.0..=40.0),
                inches("give", m.give, 0.005..=10.0),
            ],
            Measures::Snaffle(m) => vec![inches("width", m.width, 3.0..=8.0), inches("ring", m.ring, 1.0..=6.0)],
            Measures::Bosal(m) => vec![
                inches("length", m.length, 2.0..=20.0),
                inches("jaw", m.jaw, 1.0..=(m.length / INCH).clamp(1.0, 20.0)),
                inches("thick", m.thick, 0.2..=2.0),
                degrees("lean", m.lean, 0.0..=90.0),
            ],
        };
        mays.iter().filter_map(May::wrong).collect()
    }
}

impl LeverageMeasures {
    /// As it hangs under a rein that pulls in a direction, radians.
    ///
    /// # Errors
    /// What cannot be, and at which measure.
    pub fn hung(&self, pull: f64) -> Result<Hung, WrongMeasure> {
        let wrong = |field, text: String| WrongMeasure { field, text };
        let bit = LeverageBit { purchase: self.purchase, shank: self.shank, sweep: self.sweep };
        let below = match self.chin {
            ChinTold::Tape { below } => below,
            ChinTold::Angle { .. } => 0.0,
        };
        let chin = Chin { behind: self.chin_behind, below };
        let headstall = Headstall { length: self.headstall, give: self.give };
        let hung = Hung::new(bit, chin, headstall, self.slack, pull).map_err(|why| wrong("sweep", why.to_string()))?;
        match self.chin {
            ChinTold::Tape { .. } => Ok(hung),
            ChinTold::Angle { tight } => chin_from_angle(&hung, tight, 3.0 * INCH)
                .map(|chin| hung.with_chin(chin))
                .map_err(|why| wrong("chin.tight", why.to_string())),
        }
    }
}

impl BosalMeasures {
    /// As a lever about the nose.
    pub fn lever(&self) -> Bosal {
        Bosal { length: self.length, jaw: self.jaw, lean: self.lean }
    }
}
