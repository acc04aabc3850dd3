//! The same answers in two pieces of gear: was the change right, and is it the piece or the training.

use std::collections::{BTreeMap, BTreeSet};

use chrono::NaiveDate;
use statrs::distribution::{ContinuousCDF, StudentsT};

use super::scale::HandScale;
use crate::response::Weight;

/// Which of two pieces the horse wore.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[allow(missing_docs)]
pub enum Piece {
    First,
    Second,
}

/// Answers of one kind that were alike, counted.
#[derive(Debug, Clone, PartialEq)]
pub struct AnswerCount {
    /// The day.
    pub day: NaiveDate,
    /// Rung, gait and side.
    pub ask: String,
    /// What the horse wore.
    pub piece: Piece,
    /// What it took.
    pub weight: Weight,
    /// Whether the answer was whole.
    pub whole: bool,
    /// How many.
    pub asks: u32,
    /// Of how many the seconds were taken, and the mean of their natural logarithm.
    pub seconds: Option<(u32, f64)>,
}

/// What the asks of one kind came to on one day in one piece.
#[derive(Debug, Clone, PartialEq)]
pub struct DayEffort {
    /// The day.
    pub day: NaiveDate,
    /// Rung, gait and side: only like asks are compared.
    pub ask: String,
    /// What the horse wore.
    pub piece: Piece,
    /// How many asks there were.
    pub asks: u32,
    /// The mean of the logarithm to base 2 of the weight, newtons on one rein.
    pub weight: f64,
    /// The mean of the natural logarithm of the seconds, where any were taken.
    pub seconds: Option<f64>,
    /// The share that was whole, 0 to 1.
    pub whole: f64,
}

/// The days of counted answers. Nothing on the rein counts as half a feather: a logarithm needs something.
pub fn day_efforts(counts: &[AnswerCount]) -> Vec<DayEffort> {
    let scale = HandScale::default();
    let newtons = |weight| match weight {
        Weight::None => scale.newtons(Weight::Feather) / 2.0,
        some => scale.newtons(some),
    };
    let mut days: BTreeMap<(NaiveDate, &str, Piece), Vec<&AnswerCount>> = BTreeMap::new();
    for count in counts {
        days.entry((count.day, &count.ask, count.piece)).or_default().push(count);
    }
    let effort = |((day, ask, piece), of): ((NaiveDate, &str, Piece), Vec<&AnswerCount>)| {
        let asks: u32 = of.iter().map(|c| c.asks).sum();
        let share = |value: &dyn Fn(&AnswerCount) -> f64| {
            of.iter().map(|c| f64::from(c.asks) * value(c)).sum::<f64>() / f64::from(asks.max(1))
        };
        let timed: u32 = of.iter().filter_map(|c| c.seconds).map(|(n, _)| n).sum();
        let logs: f64 = of.iter().filter_map(|c| c.seconds).map(|(n, log)| f64::from(n) * log).sum();
        DayEffort {
            day,
            ask: ask.to_owned(),
            piece,
            asks,
            weight: share(&|c| newtons(c.weight).log2()),
            seconds: (timed > 0).then(|| logs / f64::from(timed)),
            whole: share(&|c| f64::from(u8::from(c.whole))),
        }
    };
    days.into_iter().map(effort).collect()
}

/// A difference between the pieces, days and learning taken out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Difference {
    /// Second less first.
    pub by: f64,
    /// It is from here, nine times of ten,
    pub low: f64,
    /// to here.
    pub high: f64,
    /// What thirty days of training change besides, in either piece.
    pub in_a_month: f64,
}

/// Two pieces on one horse.
#[derive(Debug, Clone, PartialEq)]
pub struct Compared {
    /// Kinds of asks that were ridden in both.
    pub kinds: usize,
    /// Days in each on which one of these was asked.
    pub days: [usize; 2],
    /// Asks in each.
    pub asks: [u32; 2],
    /// Of the weight's logarithm to base 2: −1 is half the weight.
    pub weight: Difference,
    /// Of the seconds' natural logarithm, where they were taken.
    pub seconds: Option<Difference>,
    /// Of the share that was whole.
    pub whole: Difference,
}

/// Why two pieces cannot be compared yet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("the same asks were ridden on {} days in the first and {} in the second; it takes {LEAST_DAYS} in each", days[0], days[1])]
pub struct TooFewDays {
    /// Days in each on which something was asked that was asked in both.
    pub days: [usize; 2],
}

/// Fewer days in either piece say nothing of it.
pub const LEAST_DAYS: usize = 3;
/// A day's asks of one kind are alike: more of them than this tell no more.
const MOST_OF_A_DAY: u32 = 8;
/// Of ten intervals nine hold the difference.
const CONFIDENCE: f64 = 0.9;

/// One row of the regression: what is explained, the piece (0 or 1), days since the first, and its weight.
#[derive(Clone, Copy)]
struct Row {
    day: NaiveDate,
    y: f64,
    x: f64,
    t: f64,
    w: f64,
}

/// Compares the pieces within each kind of ask: weight, seconds and the share that was whole, each on the piece and on time, by least
/// squares with a level for each kind. Asks of one day share how the horse was that day, so the errors are taken by days (the sandwich of
/// clustered errors; Liang and Zeger 1986, from memory), with the degrees of freedom of the piece that was worn on fewer.
///
/// # Errors
/// [`TooFewDays`] where either piece was worn on fewer than [`LEAST_DAYS`] days for an ask that was ridden in both.
pub fn compare_pieces(rows: &[DayEffort]) -> Result<Compared, TooFewDays> {
    let kinds_in =
        |piece| rows.iter().filter(move |r| r.piece == piece).map(|r| r.ask.as_str()).collect::<BTreeSet<_>>();
    let kinds: BTreeSet<&str> = kinds_in(Piece::First).intersection(&kinds_in(Piece::Second)).copied().collect();
    let alike: Vec<&DayEffort> = rows.iter().filter(|r| r.asks > 0 && kinds.contains(r.ask.as_str())).collect();
    let of = |piece| alike.iter().filter(move |r| r.piece == piece);
    let both = [Piece::First, Piece::Second];
    let days = both.map(|piece| of(piece).map(|r| r.day).collect::<BTreeSet<_>>().len());
    let asks = both.map(|piece| of(piece).map(|r| r.asks).sum());
    let explained = |y: &dyn Fn(&DayEffort) -> Option<f64>| difference(&alike, y);
    let weight = explained(&|r| Some(r.weight)).ok_or(TooFewDays { days })?;
    let whole = explained(&|r| Some(r.whole)).ok_or(TooFewDays { days })?;
    Ok(Compared { kinds: kinds.len(), days, asks, weight, seconds: explained(&|r| r.seconds), whole })
}

fn difference(rows: &[&DayEffort], y: &dyn Fn(&DayEffort) -> Option<f64>) -> Option<Difference> {
    let told: Vec<(&str, Row)> = rows.iter().filter_map(|r| Some((r.ask.as_str(), row(r, y(r)?)))).collect();
    let days_in = |x: f64| told.iter().filter(|(_, r)| r.x == x).map(|(_, r)| r.day).collect::<BTreeSet<_>>().len();
    let fewer = days_in(0.0).min(days_in(1.0));
    if fewer < LEAST_DAYS {
        return None;
    }
    let rows = within_kinds(&told);
    let sum = |f: &dyn Fn(&Row) -> f64| rows.iter().map(|r| r.w * f(r)).sum::<f64>();
    let (xx, xt, tt) = (sum(&|r| r.x * r.x), sum(&|r| r.x * r.t), sum(&|r| r.t * r.t));
    let (xy, ty) = (sum(&|r| r.x * r.y), sum(&|r| r.t * r.y));
    // Worn one wholly after the other on one and the same day each, piece and time cannot be told apart.
    let determinant = xx * tt - xt * xt;
    if determinant <= 1e-9 * xx * tt.max(1e-9) {
        return None;
    }
    let by = (xy * tt - ty * xt) / determinant;
    let slope = (ty * xx - xy * xt) / determinant;
    let mut scores: BTreeMap<NaiveDate, f64> = BTreeMap::new();
    for r in &rows {
        let left = r.y - by * r.x - slope * r.t;
        *scores.entry(r.day).or_default() += r.w * left * (r.x * tt - r.t * xt) / determinant;
    }
    let days = scores.len() as f64;
    // Two are estimated from so many days (a small-sample factor; MacKinnon and White 1985, from memory).
    let variance = scores.values().map(|s| s * s).sum::<f64>() * days / (days - 2.0);
    let freedom = (fewer - 1) as f64;
    let quantile = StudentsT::new(0.0, 1.0, freedom).ok()?.inverse_cdf((1.0 + CONFIDENCE) / 2.0);
    let half = quantile * variance.sqrt();
    Some(Difference { by, low: by - half, high: by + half, in_a_month: 30.0 * slope })
}

fn row(r: &DayEffort, y: f64) -> Row {
    let t = (r.day - NaiveDate::default()).num_days() as f64;
    Row { day: r.day, y, x: f64::from(r.piece as u8), t, w: f64::from(r.asks.min(MOST_OF_A_DAY)) }
}

/// Each row less the mean of its kind.
fn within_kinds(told: &[(&str, Row)]) -> Vec<Row> {
    let mut means: BTreeMap<&str, [f64; 4]> = BTreeMap::new();
    for (kind, r) in told {
        let sums = means.entry(kind).or_default();
        for (sum, value) in sums.iter_mut().zip([1.0, r.y, r.x, r.t]) {
            *sum += r.w * value;
        }
    }
    let less = |(kind, r): &(&str, Row)| {
        let [n, y, x, t] = means[kind];
        Row { y: r.y - y / n, x: r.x - x / n, t: r.t - t / n, ..*r }
    };
    told.iter().map(less).collect()
}

/// What a comparison says of the change from the first piece to the second.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Verdict {
    /// Less weight or time in the second, and no fewer whole answers.
    Lighter,
    /// More weight in the second, or fewer whole answers.
    Heavier,
    /// The piece changes little: what changed is the training.
    Alike,
    /// It cannot be told yet.
    Unknown,
}

/// A difference of less than this, in steps of half or double, is little.
const LITTLE: f64 = 0.4;

impl Compared {
    /// What it says.
    pub fn verdict(&self) -> Verdict {
        let worse = self.weight.low > 0.0 || self.whole.high < 0.0;
        let lighter = self.weight.high < 0.0 || self.seconds.is_some_and(|s| s.high < 0.0 && self.weight.by <= LITTLE);
        match (worse, lighter) {
            (true, _) => Verdict::Heavier,
            (false, true) => Verdict::Lighter,
            _ if self.weight.low > -LITTLE && self.weight.high < LITTLE => Verdict::Alike,
            _ => Verdict::Unknown,
        }
    }
}
