//! What a horse of an age may be shown in.

use crate::ride::Mouthpiece;

/// Horses of so many years and under may be shown two-handed in snaffle or hackamore (association rule books, from memory).
const TWO_HANDED_TO: u16 = 5;

/// What rule books let a horse of an age be shown in, held against what it wears: in few words, for the class as such books have it. Local
/// rules and the class decide.
///
/// ```
/// use cavesson_core::{ride::Mouthpiece, tack::may_show};
/// assert_eq!(may_show(4, Mouthpiece::Snaffle), "shown two-handed, until five");
/// assert_eq!(may_show(7, Mouthpiece::Bitless), "not shown in it from six on");
/// ```
pub const fn may_show(years: u16, wears: Mouthpiece) -> &'static str {
    match wears {
        Mouthpiece::Leverage => "shown one-handed",
        Mouthpiece::Snaffle | Mouthpiece::Bitless if years <= TWO_HANDED_TO => "shown two-handed, until five",
        Mouthpiece::Snaffle | Mouthpiece::Bitless => "not shown in it from six on",
    }
}
