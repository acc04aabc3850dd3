//! What to mind about a piece as it hangs.

use super::{
    INCH,
    hung::{Hung, TakesHold},
    measures::Measures,
};

/// Shanks over this are not shown in: purchase and shank together, 8½ in (association rule books, from memory).
const LONGEST: f64 = 8.5 * INCH;
/// Snaffle rings that may be shown in, 2 to 4 in (association rule books, from memory).
const RINGS: [f64; 2] = [2.0 * INCH, 4.0 * INCH];
/// The thickest bosal that may be shown in, 3/4 in (association rule books, from memory).
const THICKEST: f64 = 0.75 * INCH;
/// Lengths are told apart to this, metres.
const ROUNDING: f64 = 1e-6;

/// The cautions for a piece, in few words; `hung` where it is a leverage bit.
pub fn tack_cautions(measures: &Measures, hung: Option<&Hung>) -> Vec<String> {
    let mut out: Vec<String> = vec![];
    if let Some(hung) = hung {
        match hung.takes_hold() {
            TakesHold::Tight => out.push("The strap holds at once: let it out until the shank turns first".into()),
            TakesHold::Long | TakesHold::Loose => {
                out.push("Late strap: look at the corner of the mouth with the shank turned, and take the strap up if it pinches".into());
            }
            TakesHold::Never => out.push("The strap never holds: take it up before anyone picks up a rein".into()),
            TakesHold::Snug | TakesHold::Good => {}
        }
        out.push("First asks to the side, never straight back. Someone who has hung such a bit before looks on".into());
    }
    out.extend(over_the_limits(measures).map(|over| format!("{over}; local rules decide")));
    if measures.mouthpiece() != crate::ride::Mouthpiece::Bitless {
        out.push("No new bit on a sore mouth; teeth by a dentist or vet first".into());
    }
    out
}

/// What is over the limits of rule books for showing, in words; none where nothing is.
pub(super) fn over_the_limits(measures: &Measures) -> Option<String> {
    match measures {
        Measures::Leverage(m) if m.purchase + m.shank > LONGEST + ROUNDING => {
            Some("Longer than the 8½ in that rule books allow".into())
        }
        Measures::Snaffle(m) if m.ring < RINGS[0] - ROUNDING || m.ring > RINGS[1] + ROUNDING => {
            Some("Rings are not 2 to 4 in, as rule books ask".into())
        }
        Measures::Bosal(m) if m.thick > THICKEST + ROUNDING => {
            Some("Thicker than the ¾ in that rule books allow".into())
        }
        _ => None,
    }
}
