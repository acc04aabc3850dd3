//! The barn's own places to ride.

use crate::{curriculum::Place, words::words};

words! {
    "a surface";
    /// What is underfoot.
    pub enum Surface {
        Sand,
        Dirt,
        Grass,
        /// A road, stones, or ground that has dried hard.
        Hard,
    }
}

/// One of the barn's own places to ride.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Ground {
    /// Its kind.
    pub place: Place,
    /// What is underfoot.
    pub surface: Surface,
    /// Length and width, centimetres, where they were measured.
    pub size: Option<(u32, u32)>,
}

/// A pen narrower than this, in centimetres, is too small a circle for a lope (15 m; common practice, no published source).
const SMALL: u32 = 1500;

impl Ground {
    /// Why its footing or its size keeps speed out of it; nothing where it does not.
    ///
    /// ```
    /// use cavesson_core::{barn::{Ground, Surface}, curriculum::Place};
    /// let pen = Ground { place: Place::RoundPen, surface: Surface::Sand, size: Some((1_300, 1_300)) };
    /// assert_eq!(pen.caution(), Some("A small pen: no lope, the circle is too tight"));
    /// assert_eq!(Ground { size: None, ..pen }.caution(), None);
    /// ```
    pub fn caution(&self) -> Option<&'static str> {
        if self.surface == Surface::Hard {
            return Some("Hard ground: no speed, no slides, no rollbacks");
        }
        let narrow = self.size.is_some_and(|(length, width)| length.min(width) < SMALL);
        narrow.then_some("A small pen: no lope, the circle is too tight")
    }
}
