//! What happens with the tack while a horse is ridden, as it is logged from the saddle.

use serde::{Deserialize, Serialize};

use super::{Asker, Came, Corner, HeadAt, Reins};
use crate::curriculum::Gait;

/// Something about the tack on a ride. `Piece` names a piece of gear.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum TackEvent<Piece> {
    /// Ridden in these pieces from here on: a new stretch of the ride.
    Worn {
        /// All that is worn, and nothing twice.
        #[cfg_attr(feature = "schema", schema(min_items = 1, max_items = 20))]
        gear: Vec<Piece>,
    },
    /// The share of the work that is on the bridle rein from here on.
    Share {
        /// Per cent.
        #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 100))]
        bridle: u8,
        /// Who asked, where that was told.
        asked: Option<Asker>,
    },
    /// An ask of the test for a brace.
    Ask {
        /// At which gait.
        gait: Gait,
        /// On how many reins.
        reins: Reins,
        /// Whether the horse braced: head up, jaw set, or against the hand.
        braced: bool,
        /// Where the head was at the ask.
        head: HeadAt,
    },
    /// A step of the first day in a leverage bit.
    Step {
        /// Which, counted from 0.
        #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 50))]
        step: u8,
        /// How it came out.
        came: Came,
        /// Whether the horse tossed its head.
        tossed: bool,
        /// The hole of the strap, counted from the tightest.
        #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 20))]
        hole: Option<u8>,
        /// How far the shank turned before the strap took hold, radians.
        turned: Option<f64>,
        /// What the corner of the mouth did.
        corner: Option<Corner>,
    },
    /// The first day is begun although something is lacking: whoever signs says why.
    Anyway {
        /// Why.
        #[cfg_attr(feature = "schema", schema(min_length = 1, max_length = 500))]
        why: String,
    },
}

/// What is wrong with an event, and at which field.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct WrongEvent {
    pub field: &'static str,
    pub text: &'static str,
}

/// The furthest that a shank turns, radians.
const FURTHEST: f64 = std::f64::consts::FRAC_PI_2;

impl<Piece: PartialEq> TackEvent<Piece> {
    /// What cannot be, where something cannot.
    ///
    /// ```
    /// use cavesson_core::tack::TackEvent;
    /// let over = TackEvent::<u8>::Share { bridle: 110, asked: None };
    /// assert_eq!(over.wrong().unwrap().field, "bridle");
    /// assert!(TackEvent::Worn { gear: vec![1, 2] }.wrong().is_none());
    /// ```
    pub fn wrong(&self) -> Option<WrongEvent> {
        let wrong = |field, text| Some(WrongEvent { field, text });
        match self {
            TackEvent::Worn { gear } if gear.is_empty() || gear.len() > 20 => wrong("gear", "1 to 20 pieces"),
            TackEvent::Worn { gear } if gear.iter().enumerate().any(|(n, g)| gear[..n].contains(g)) => {
                wrong("gear", "a piece stands here twice")
            }
            TackEvent::Share { bridle: 101.., .. } => wrong("bridle", "a share is 0 to 100 percent"),
            TackEvent::Step { hole: Some(0 | 21..), .. } => wrong("hole", "hole 1 to 20, counted from the tightest"),
            TackEvent::Step { turned: Some(turned), .. } if !(0.0..=FURTHEST).contains(turned) => {
                wrong("turned", "a shank turns 0 to 90 degrees")
            }
            TackEvent::Step { came: Came::Passed, corner: Some(Corner::Pinched), .. } => wrong(
                "came",
                "a step that pinches the corner of the mouth is not passed: let the strap out or take it up first",
            ),
            TackEvent::Step { came: Came::Passed, tossed: true, .. } => {
                wrong("came", "a step with a tossed head is not passed: look at the strap first")
            }
            TackEvent::Anyway { why } if why.trim().is_empty() || why.chars().count() > 500 => {
                wrong("why", "say why in 1 to 500 characters")
            }
            _ => None,
        }
    }
}
