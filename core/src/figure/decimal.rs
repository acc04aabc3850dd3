//! Numbers and measures as they were typed: exact, so that they print as they were meant.

use crate::words::words;

/// Digits before the point, and after it.
const WHOLE_DIGITS: usize = 6;
const FRACTION_DIGITS: usize = 4;
const SCALE: i64 = 10_000;

/// A number with at most six digits before the point and four after it.
///
/// ```
/// use cavesson_core::figure::Decimal;
/// let typed = Decimal::read("-02.50").unwrap();
/// assert_eq!((typed.to_string().as_str(), typed.value()), ("-2.5", -2.5));
/// assert_eq!(Decimal::read("1.23456"), None);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Decimal(i64);

impl Decimal {
    /// Reads `[-] digits [. digits]`; none if it has too many digits, or is no number.
    pub fn read(text: &str) -> Option<Decimal> {
        let (sign, digits) = text.strip_prefix('-').map_or((1, text), |rest| (-1, rest));
        let (whole, fraction) = digits.split_once('.').unwrap_or((digits, "0"));
        let fits = |part: &str, most: usize| {
            (1..=most).contains(&part.len()) && part.bytes().all(|digit| digit.is_ascii_digit())
        };
        if !fits(whole, WHOLE_DIGITS) || !fits(fraction, FRACTION_DIGITS) {
            return None;
        }
        let fraction: i64 = format!("{fraction:0<width$}", width = FRACTION_DIGITS).parse().ok()?;
        Some(Decimal(sign * (whole.parse::<i64>().ok()? * SCALE + fraction)))
    }

    /// The nearest one to a value; values are held within a million.
    pub fn nearest(value: f64) -> Decimal {
        const MOST: f64 = 999_999.0;
        Decimal((value.clamp(-MOST, MOST) * SCALE as f64).round() as i64)
    }

    /// As a number.
    pub fn value(self) -> f64 {
        self.0 as f64 / SCALE as f64
    }

    /// A whole number from 1 to `most`, if it is one.
    pub(super) fn count(self, most: u8) -> Option<u8> {
        let whole = u8::try_from(self.0 / SCALE).ok()?;
        (self.0 % SCALE == 0 && (1..=most).contains(&whole)).then_some(whole)
    }

    /// Whether it is a whole number of quarters.
    pub(super) fn in_quarters(self) -> bool {
        self.0 % (SCALE / 4) == 0
    }

    /// The same on the other side of nought.
    pub(super) fn negated(self) -> Decimal {
        Decimal(-self.0)
    }

    /// A heading seen in a mirror: nought stays nought.
    pub(super) fn mirrored_heading(self) -> Decimal {
        Decimal((360 * SCALE - self.0) % (360 * SCALE))
    }
}

impl std::fmt::Display for Decimal {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let (whole, fraction) = (self.0.abs() / SCALE, self.0.abs() % SCALE);
        let sign = if self.0 < 0 { "-" } else { "" };
        if fraction == 0 {
            return write!(f, "{sign}{whole}");
        }
        let digits = format!("{fraction:04}");
        write!(f, "{sign}{whole}.{}", digits.trim_end_matches('0'))
    }
}

words! {
    "a unit of length";
    /// A unit that a length can be typed in.
    pub enum Unit {
        Ft,
        In,
        Yd,
        M,
    }
}

impl Unit {
    /// How many metres it is: exact by the international yard and pound agreement of 1959.
    pub const fn metres(self) -> f64 {
        match self {
            Unit::Ft => 0.3048,
            Unit::In => 0.0254,
            Unit::Yd => 0.9144,
            Unit::M => 1.0,
        }
    }
}

/// A length or a coordinate as it was typed.
///
/// ```
/// use cavesson_core::figure::{Decimal, Measure, Unit};
/// let spacing = Measure { number: Decimal::read("22").unwrap(), unit: Unit::In };
/// assert_eq!((spacing.to_string().as_str(), spacing.metres()), ("22 in", 0.5588));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Measure {
    /// The number.
    pub number: Decimal,
    /// What it counts.
    pub unit: Unit,
}

impl Measure {
    /// In metres.
    pub fn metres(self) -> f64 {
        self.number.value() * self.unit.metres()
    }

    pub(super) fn negated(self) -> Measure {
        Measure { number: self.number.negated(), ..self }
    }
}

impl std::fmt::Display for Measure {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self.unit {
            Unit::Ft => write!(f, "{}", self.number),
            unit => write!(f, "{} {unit}", self.number),
        }
    }
}
