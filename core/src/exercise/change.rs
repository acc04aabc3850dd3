//! Changes of lead: the check before one, what came of it, and whether and where the next is asked.

use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use serde::{Deserialize, Serialize};

use crate::{order::drawn, pattern::Hand, words::words};

/// What has to be right before a change is asked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ChangeCheck {
    /// The shoulders move from the rein.
    pub shoulders: bool,
    /// The hip moves from the leg.
    pub hip: bool,
    /// It is relaxed.
    pub relaxed: bool,
    /// It is straight.
    pub straight: bool,
    /// It held the counter-lope until it was told otherwise.
    pub held: bool,
}

words! {
    "a part of the check before a change";
    /// What has to be right before a change is asked, in the order in which it is put right.
    pub enum ChangePart { Relaxed, Shoulders, Hip, Straight, Held }
}

impl ChangePart {
    /// In a sentence: `first straight`.
    pub fn phrase(self) -> &'static str {
        match self {
            ChangePart::Relaxed => "relaxed",
            ChangePart::Shoulders => "shoulders off the rein",
            ChangePart::Hip => "hip off the leg",
            ChangePart::Straight => "straight",
            ChangePart::Held => "holding the counter-lope",
        }
    }

    /// The rung that works on it.
    pub fn rung(self) -> &'static str {
        match self {
            ChangePart::Relaxed => "L3",
            ChangePart::Shoulders | ChangePart::Hip | ChangePart::Straight => "L4",
            ChangePart::Held => "L5",
        }
    }
}

words! {
    "a place of a change";
    /// Where in the pen a change is asked.
    pub enum ChangePlace { Middle, NearEnd, FarEnd, LongSide, Diagonal, Circle }
}

impl ChangePlace {
    /// In a sentence: `in the middle`.
    pub fn phrase(self) -> &'static str {
        match self {
            ChangePlace::Middle => "in the middle",
            ChangePlace::NearEnd => "at the near end",
            ChangePlace::FarEnd => "at the far end",
            ChangePlace::LongSide => "along the side",
            ChangePlace::Diagonal => "on the diagonal",
            ChangePlace::Circle => "out of a circle",
        }
    }
}

/// A change of lead.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LeadChange {
    /// The new lead.
    pub to: Hand,
    /// The check before it.
    pub check: ChangeCheck,
    /// By how many tenths of a second the hind end changed before the front, where it was seen; under 0 the front was first.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(minimum = -50, maximum = 50))]
    pub tenths: Option<i8>,
    /// How many strides the hind end came late, where that was seen.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(maximum = 20))]
    pub strides: Option<u8>,
    /// The side it leaned to.
    #[serde(default)]
    pub lean: Option<Hand>,
    /// Where it was asked.
    pub place: ChangePlace,
}

impl ChangeCheck {
    /// What is not right yet, in the order in which it is put right.
    pub fn missing(self) -> Vec<ChangePart> {
        let good = |part: &ChangePart| match part {
            ChangePart::Relaxed => self.relaxed,
            ChangePart::Shoulders => self.shoulders,
            ChangePart::Hip => self.hip,
            ChangePart::Straight => self.straight,
            ChangePart::Held => self.held,
        };
        ChangePart::ALL.into_iter().filter(|part| !good(part)).collect()
    }
}

impl LeadChange {
    /// The front end changed first.
    pub fn is_front_first(&self) -> bool {
        self.tenths.is_some_and(|tenths| tenths < 0)
    }

    /// The hind end came late by a stride or more.
    pub fn is_late_behind(&self) -> bool {
        self.strides.is_some_and(|strides| strides > 0)
    }

    /// Hind first or both at once, no stride late, and not leaning to the new lead.
    pub fn is_clean(&self) -> bool {
        !self.is_front_first() && !self.is_late_behind() && self.lean != Some(self.to)
    }
}

/// How the changes to a lead went.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
#[allow(missing_docs)]
pub struct ChangeLedger {
    pub all: u32,
    pub clean: u32,
    pub front_first: u32,
    pub late_behind: u32,
    pub leaned: u32,
    /// Half were hind before front by more tenths of a second than this, of those where it was seen.
    pub median_tenths: Option<i8>,
}

/// How the changes to a lead went.
pub fn change_ledger(all: &[LeadChange], to: Hand) -> ChangeLedger {
    let of: Vec<&LeadChange> = all.iter().filter(|it| it.to == to).collect();
    let count = |is: fn(&LeadChange) -> bool| of.iter().filter(|it| is(it)).count() as u32;
    let mut tenths: Vec<i8> = of.iter().filter_map(|it| it.tenths).collect();
    tenths.sort_unstable();
    ChangeLedger {
        all: of.len() as u32,
        clean: count(LeadChange::is_clean),
        front_first: count(LeadChange::is_front_first),
        late_behind: count(LeadChange::is_late_behind),
        leaned: count(|it| it.lean == Some(it.to)),
        median_tenths: tenths.get(tenths.len() / 2).copied(),
    }
}

/// Whether a change is asked now, and where.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ChangeAdvice {
    /// Whether.
    pub offered: bool,
    /// In a sentence.
    pub why: String,
    /// Where, if it is asked: another place than the last ones.
    pub place: ChangePlace,
    /// The rung to ride instead.
    pub instead: Option<&'static str>,
}

/// Few in a day (common practice): so many.
const A_DAY: usize = 6;
/// Places that count as the last ones.
const LAST_PLACES: usize = 4;

/// Whether a change to a lead is asked now: only where the check before it is good, not after two that went wrong the same way, and few in
/// a day. `before` has the changes of earlier days, `today` those of today, in order.
///
/// ```
/// use cavesson_core::{exercise::{ChangeCheck, change_advice}, pattern::Hand};
/// let good = ChangeCheck { shoulders: true, hip: true, relaxed: true, straight: true, held: true };
/// assert!(change_advice(&[], &[], Hand::Left, good, 1).offered);
/// let crooked = ChangeCheck { straight: false, ..good };
/// let advice = change_advice(&[], &[], Hand::Left, crooked, 1);
/// assert_eq!((advice.offered, advice.instead), (false, Some("L4")));
/// ```
pub fn change_advice(
    before: &[LeadChange],
    today: &[LeadChange],
    to: Hand,
    check: ChangeCheck,
    seed: u64,
) -> ChangeAdvice {
    let place = next_place(before, today, seed);
    let no = |why: String, instead| ChangeAdvice { offered: false, why, place, instead };
    let latest: Vec<&LeadChange> = before.iter().chain(today).filter(|it| it.to == to).collect();
    let twice = |is: fn(&LeadChange) -> bool| matches!(latest.as_slice(), [.., a, b] if is(a) && is(b));
    if today.len() >= A_DAY {
        return no(format!("{A_DAY} changes today are enough."), None);
    }
    if !today.is_empty() && twice(LeadChange::is_front_first) {
        return no("The front end changed first twice. Hold the counter-lope first.".to_owned(), Some("L5"));
    }
    if !today.is_empty() && twice(LeadChange::is_late_behind) {
        return no("It was late behind twice. Move the hip at the lope first.".to_owned(), Some("L4"));
    }
    let missing = check.missing();
    if let Some(first) = missing.first() {
        let parts: Vec<&str> = missing.iter().map(|part| part.phrase()).collect();
        return no(format!("Not yet: first {}.", parts.join(", ")), Some(first.rung()));
    }
    let why = format!("Ask {}: straight, off the new inside, and wait for the hind end.", place.phrase());
    ChangeAdvice { offered: true, why, place, instead: None }
}

/// By lot, among the places where it was asked least lately.
fn next_place(before: &[LeadChange], today: &[LeadChange], seed: u64) -> ChangePlace {
    let asked = before.iter().chain(today).rev().take(LAST_PLACES);
    let lately: Vec<ChangePlace> = asked.map(|it| it.place).collect();
    let used = |place: ChangePlace| lately.iter().filter(|it| **it == place).count();
    let least = ChangePlace::ALL.into_iter().map(used).min().unwrap_or(0);
    let weights: Vec<(ChangePlace, f64)> =
        ChangePlace::ALL.into_iter().filter(|place| used(*place) == least).map(|place| (place, 1.0)).collect();
    let mut rng = ChaCha8Rng::seed_from_u64(seed ^ (before.len() + today.len()) as u64);
    drawn(&weights, &mut rng).unwrap_or(ChangePlace::Middle)
}
