//! Stepping down with a spoiled mouth: whether the brace on two reins goes, and how the weeks go on.

use chrono::{Days, NaiveDate, Weekday};
use statrs::distribution::{Beta, ContinuousCDF, Normal};

use super::brace::{Pair, PairedAsk, Reins, pairs};
use crate::{curriculum::Gait, words::words};

words! {
    "a height of the head";
    /// Where the head was at an ask.
    pub enum HeadAt { Low, Level, Up }
}

/// A week of the test.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PairWeek {
    /// Its Monday.
    pub week: NaiveDate,
    /// Pairs of the same day and gait, one ask on one rein and one on two.
    pub pairs: usize,
    /// Of which it braced on two only.
    pub on_two_only: usize,
    /// Of which it braced on one only.
    pub on_one_only: usize,
}

/// How the difference between two reins and one goes over the weeks.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BraceTrend {
    /// Change of the share of pairs that brace on two only less that on one only, a week, with its 90 % interval.
    pub a_week: f64,
    /// Lower end.
    pub low: f64,
    /// Upper end.
    pub high: f64,
}

/// Whether two reins may be asked on at a gait.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TwoReins {
    /// The gait.
    pub gait: Gait,
    /// Pairs of the last two weeks.
    pub pairs: usize,
    /// Of which it braced on two only.
    pub on_two_only: usize,
    /// How likely it is that fewer than one pair in five braces on two only, 0 to 1.
    pub likely: f64,
    /// Whether that is likely enough to ask softly on two.
    pub may: bool,
}

/// Fewer than this share of pairs that brace on two only is as good as none (an assumption).
const AS_GOOD_AS_NONE: f64 = 0.2;
/// As sure as one wants to be before the first ask on two (an assumption).
const SURE: f64 = 0.8;
/// Pairs of so many days say how it is now.
const LATELY: u64 = 14;

impl PairWeek {
    /// The share of pairs that brace on two only less that on one only, and its variance: of paired proportions (Agresti, from memory),
    /// with half a pair added on each side, so that a week without a brace is not held for certain.
    fn difference(&self) -> (f64, f64) {
        let n = self.pairs as f64 + 1.0;
        let (two, one) = ((self.on_two_only as f64 + 0.5) / n, (self.on_one_only as f64 + 0.5) / n);
        (two - one, (two + one - (two - one).powi(2)) / n)
    }
}

fn pair_weeks(pairs: &[Pair]) -> Vec<PairWeek> {
    let mut weeks: Vec<PairWeek> = vec![];
    for pair in pairs {
        let week = pair.on.week(Weekday::Mon).first_day();
        if weeks.last().is_none_or(|last| last.week != week) {
            weeks.push(PairWeek { week, pairs: 0, on_two_only: 0, on_one_only: 0 });
        }
        let Some(last) = weeks.last_mut() else { continue };
        last.pairs += 1;
        last.on_two_only += usize::from(pair.on_two && !pair.on_one);
        last.on_one_only += usize::from(pair.on_one && !pair.on_two);
    }
    weeks
}

/// The test week by week, asks oldest first.
pub fn brace_weeks(asks: &[PairedAsk]) -> Vec<PairWeek> {
    pair_weeks(&pairs(asks))
}

/// How the difference goes, by weighted least squares over the weeks. None before the third week.
///
/// ```
/// use cavesson_core::tack::{PairWeek, brace_trend};
/// let week = |n: u64, on_two_only| PairWeek {
///     week: chrono::NaiveDate::default() + chrono::Days::new(7 * n), pairs: 12, on_two_only, on_one_only: 0 };
/// let trend = brace_trend(&[week(0, 10), week(1, 8), week(2, 5), week(3, 2), week(4, 1)]).unwrap();
/// assert!(trend.high < 0.0, "it shrinks");
/// assert!(brace_trend(&[week(0, 10), week(1, 8)]).is_none());
/// ```
pub fn brace_trend(weeks: &[PairWeek]) -> Option<BraceTrend> {
    let [first, _, _, ..] = weeks else { return None };
    let points: Vec<(f64, f64, f64)> = weeks
        .iter()
        .map(|week| {
            let (difference, variance) = week.difference();
            ((week.week - first.week).num_days() as f64 / 7.0, difference, 1.0 / variance)
        })
        .collect();
    let weight: f64 = points.iter().map(|p| p.2).sum();
    let mean = |of: fn(&(f64, f64, f64)) -> f64| points.iter().map(|p| p.2 * of(p)).sum::<f64>() / weight;
    let (x, y) = (mean(|p| p.0), mean(|p| p.1));
    let spread: f64 = points.iter().map(|p| p.2 * (p.0 - x).powi(2)).sum();
    let a_week = points.iter().map(|p| p.2 * (p.0 - x) * (p.1 - y)).sum::<f64>() / spread;
    let off = Normal::standard().inverse_cdf(0.95) / spread.sqrt();
    Some(BraceTrend { a_week, low: a_week - off, high: a_week + off })
}

/// At each gait that the test was ridden at: whether two reins may be asked on today. The share of pairs that brace on two only has a
/// Beta(½, ½) prior (Jeffreys).
pub fn two_reins(asks: &[PairedAsk], today: NaiveDate) -> Vec<TwoReins> {
    let all = pairs(asks);
    let gaits = Gait::ALL.into_iter().filter(|gait| all.iter().any(|pair| pair.gait == *gait));
    let says = gaits.map(|gait| {
        let lately = all.iter().filter(|p| p.gait == gait && p.on + Days::new(LATELY) > today && p.on <= today);
        let (mut pairs, mut on_two_only) = (0, 0);
        for pair in lately {
            pairs += 1;
            on_two_only += usize::from(pair.on_two && !pair.on_one);
        }
        let (a, b) = (0.5 + on_two_only as f64, 0.5 + (pairs - on_two_only) as f64);
        let likely = Beta::new(a, b).map_or(0.0, |share| share.cdf(AS_GOOD_AS_NONE));
        TwoReins { gait, pairs, on_two_only, likely, may: likely >= SURE }
    });
    says.collect()
}

/// A stage of the way down in the calendar.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PlannedStage {
    /// Which stage of the road, counted from 0.
    pub stage: usize,
    /// Its first day and the day behind its last, as it usually goes.
    pub from: NaiveDate,
    /// See `from`.
    pub to: NaiveDate,
}

/// The weeks from today on: the stage that the horse is on, and those behind it, each for as many weeks as is usual. What was ridden in
/// the stage counts; one that takes longer than is usual is given another week, since the horse and not the calendar ends it.
pub fn weeks_ahead(usual_weeks: &[u8], now: usize, since: NaiveDate, today: NaiveDate) -> Vec<PlannedStage> {
    let days = |weeks: u8| Days::new(7 * u64::from(weeks));
    let mut from = since;
    let stages = usual_weeks.iter().enumerate().skip(now);
    stages
        .map(|(stage, weeks)| {
            let to = (from + days(*weeks)).max(if stage == now { today + Days::new(7) } else { from });
            let planned = PlannedStage { stage, from, to };
            from = to;
            planned
        })
        .collect()
}

/// How often the head was up at an ask on so many reins: of how many, how many.
pub fn heads_up(asks: &[(PairedAsk, HeadAt)], reins: Reins) -> (usize, usize) {
    let alike = asks.iter().filter(|(ask, _)| ask.reins == reins);
    alike.fold((0, 0), |(n, up), (_, head)| (n + 1, up + usize::from(*head == HeadAt::Up)))
}
