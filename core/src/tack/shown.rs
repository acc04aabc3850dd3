//! What a horse of an age may be shown in.

use super::{cautions::over_the_limits, measures::Measures};
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

/// Whether a piece may be shown in, in a kind of class as rule books have them.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ShownIn {
    /// The class.
    pub class: &'static str,
    /// Whether the horse may be shown so.
    pub may: bool,
    /// Why, or what is in the way.
    pub why: String,
}

/// What rule books say of a piece on a horse, class by class: its age, the hands and the equipment (association rule books, from memory).
/// Local rules and the class decide.
///
/// ```
/// use cavesson_core::{ride::Mouthpiece, tack::shown_in};
/// let [two, one] = shown_in(Some(4), Mouthpiece::Snaffle, None);
/// assert!(two.may && !one.may);
/// assert!(!shown_in(Some(6), Mouthpiece::Snaffle, None)[0].may);
/// ```
pub fn shown_in(years: Option<u16>, wears: Mouthpiece, measures: Option<&Measures>) -> [ShownIn; 2] {
    let limits = measures.and_then(over_the_limits);
    let fits = |class, stands: Result<&str, String>| match (stands, &limits) {
        (Ok(_), Some(over)) => ShownIn { class, may: false, why: over.clone() },
        (Ok(why), None) if measures.is_none() => ShownIn { class, may: true, why: format!("{why}; not measured yet") },
        (Ok(why), None) => ShownIn { class, may: true, why: why.into() },
        (Err(why), _) => ShownIn { class, may: false, why },
    };
    let two_handed = match (wears, years) {
        (Mouthpiece::Leverage, _) => Err("a snaffle or a bosal is ridden in it".into()),
        (_, None) => Err("nobody said how old the horse is".into()),
        (_, Some(years)) if years > TWO_HANDED_TO => Err(format!("for horses of five and under, and it is {years}")),
        _ => Ok("five and under"),
    };
    let one_handed = match wears {
        Mouthpiece::Leverage => Ok("at any age"),
        _ => Err("a bridle with shanks is ridden in it".into()),
    };
    [fits("Snaffle or hackamore, two hands", two_handed), fits("Bridle, one hand", one_handed)]
}
