//! The first day in a leverage bit: steps that are passed in order, over days where one frets the horse.

use chrono::NaiveDate;

use crate::{curriculum::RoadStep, words::words};

words! {
    "an outcome of a step";
    /// How a step of the first day came out.
    pub enum Came {
        /// The horse did it quietly.
        Passed,
        /// It fretted: back one step.
        Fretted,
        /// Left for another day.
        Left,
    }
}

words! {
    "a corner of the mouth";
    /// What the corner of the mouth did when the strap took hold.
    pub enum Corner { Quiet, Wrinkled, Pinched }
}

/// A step as it was noted.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct StepNoted {
    pub on: NaiveDate,
    /// Which, counted from 0.
    pub step: usize,
    pub came: Came,
    /// Whether the horse tossed its head.
    pub tossed: bool,
    /// What the corner of the mouth did, where someone looked.
    pub corner: Option<Corner>,
}

/// Why the next step is the next.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum StepWhy {
    /// Nothing was done yet.
    Begins,
    /// The one before it is passed.
    Passed,
    /// The one behind it fretted the horse.
    Fretted,
    /// The horse tossed its head, or the corner of its mouth was pinched: the strap first.
    Strap,
    /// It was left on this day, and today is another.
    LeftOn(NaiveDate),
    /// It was broken off on this day without a word.
    BrokenOff(NaiveDate),
}

/// Where the first day stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FirstDay {
    /// This step is next.
    Next(usize, StepWhy),
    /// Enough for today: this step waits for another day.
    AnotherDay(usize),
    /// Every step is passed, since this day.
    Done(NaiveDate),
}

/// Follows the list through what was noted, in order. A step that was not next does not count: each is passed before the one behind it.
///
/// ```
/// use cavesson_core::{curriculum::{BitRoad, Road}, tack::{Came, FirstDay, StepNoted, StepWhy, first_day}};
/// let road = Road::all().iter().find(|r| r.id == BitRoad::Leverage).unwrap();
/// let steps = &road.stage.iter().find(|s| s.name == "First day in leverage").unwrap().step;
/// let on = "2026-03-02".parse().unwrap();
/// let noted = |step, came| StepNoted { on, step, came, tossed: false, corner: None };
/// assert_eq!(first_day(steps, &[], on), FirstDay::Next(0, StepWhy::Begins));
/// let day = [noted(0, Came::Passed), noted(1, Came::Passed), noted(2, Came::Fretted)];
/// assert_eq!(first_day(steps, &day, on), FirstDay::Next(1, StepWhy::Fretted));
/// ```
pub fn first_day(steps: &[RoadStep], noted: &[StepNoted], today: NaiveDate) -> FirstDay {
    let strap = steps.iter().position(|step| step.strap).unwrap_or(0);
    let (mut at, mut why, mut left) = (0, StepWhy::Begins, None);
    for note in noted.iter().filter(|n| n.step < steps.len()) {
        let is_strap = note.tossed || note.corner == Some(Corner::Pinched);
        if note.step > at || (note.step < at && note.came == Came::Passed && !is_strap) {
            continue;
        }
        left = None;
        (at, why) = match note.came {
            _ if is_strap && note.step >= strap => (strap, StepWhy::Strap),
            Came::Passed => (note.step + 1, StepWhy::Passed),
            Came::Fretted => (note.step.saturating_sub(1), StepWhy::Fretted),
            Came::Left => {
                left = Some(note.on);
                (note.step, StepWhy::LeftOn(note.on))
            }
        };
    }
    let last = noted.last().map(|n| n.on);
    match (left, last) {
        _ if at >= steps.len() => FirstDay::Done(last.unwrap_or(today)),
        (Some(on), _) if on >= today => FirstDay::AnotherDay(at),
        (None, Some(on)) if on < today && why != StepWhy::Strap => FirstDay::Next(at, StepWhy::BrokenOff(on)),
        _ => FirstDay::Next(at, why),
    }
}

/// What is lacking before a first day in leverage begins, in words: mouth and teeth seen, and the snaffle's rungs owned.
pub fn lacks_before_leverage(mouth_seen: bool, teeth_seen: bool, not_owned: &[&str]) -> Vec<String> {
    let seen = [(mouth_seen, "The mouth was not looked into"), (teeth_seen, "No vet or dentist saw the teeth")];
    let mut lacks: Vec<String> = seen.iter().filter(|(seen, _)| !seen).map(|(_, says)| (*says).into()).collect();
    lacks.extend(not_owned.iter().map(|rung| format!("Not owned in the snaffle yet: {rung}")));
    lacks
}
