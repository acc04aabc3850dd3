//! The draw: which cow for which horse, in which order, today.
//!
//! The pen is worked in slots, one horse on one cow in each: a go. A horse's goes follow each other, horses change with a pause,
//! cows rest between works and wear with each.

mod check;
mod explain;
mod search;
mod value;

use crate::words::words;

pub use check::Broken;
pub use explain::{LeftOut, WhyLeftOut};
pub use search::{Work, draw};

words! {
    "a manner";
    /// How a cow behaves.
    pub enum Manner { Slow, Honest, BobAndWeave, Running, Sour }
}

/// Slots from one to another, both in, counted from 1.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Slots {
    pub from: u16,
    pub to: u16,
}

impl Slots {
    fn has(self, slot: u16) -> bool {
        (self.from..=self.to).contains(&slot)
    }
}

/// A horse that may be worked on cattle today.
#[derive(Debug, Clone, PartialEq)]
pub struct DrawHorse {
    /// When it is there.
    pub there: Slots,
    /// Whether someone has to help.
    pub helper: bool,
    /// What its first go is worth, its second and so on, in thousandths; never rising.
    pub worth: Vec<i64>,
    /// What each thousandth of honour costs that a cow lacks.
    pub loss: i64,
    /// The least honour of a cow that it may be put on, thousandths.
    pub least_honour: f64,
    /// How fast its cows may be, feet a second: least and most.
    pub speed: [f64; 2],
    /// Which manners they may have.
    pub manners: Vec<Manner>,
    /// Cows that it is not put on, by index.
    pub not: Vec<usize>,
    /// Horses that it comes after, where they go, by index.
    pub after: Vec<usize>,
}

/// A cow that may be worked today.
#[derive(Debug, Clone, PartialEq)]
pub struct DrawCow {
    /// How it behaves.
    pub manner: Manner,
    /// What bringing it costs for each go, in thousandths.
    pub cost: i64,
    /// From which slot on it works.
    pub from: u16,
    /// Slots of rest between two works.
    pub rest: u16,
    /// Its honour before its first go of the draw, its second and so on, thousandths; one more than it may have.
    pub honour: Vec<u32>,
    /// Its speed before each of them, feet a second.
    pub speed: Vec<f64>,
}

impl DrawCow {
    /// How many goes its day and its week leave.
    pub fn room(&self) -> usize {
        self.honour.len().saturating_sub(1)
    }
}

/// Today's draw: what is asked.
#[derive(Debug, Clone, PartialEq)]
pub struct Draw {
    /// How many slots there are.
    pub slots: u16,
    /// At most so many different cows.
    pub bring: usize,
    /// Empty slots between two horses, at least.
    pub change: u16,
    /// When someone is there to help.
    pub helper: Vec<Slots>,
    /// At most 64.
    pub horses: Vec<DrawHorse>,
    /// At most 200.
    pub cows: Vec<DrawCow>,
}

/// A horse on a cow, by index.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Go {
    pub horse: u8,
    pub cow: u8,
}

/// What is in each slot, from the first.
pub type Goes = Vec<Option<Go>>;
