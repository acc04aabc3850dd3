use std::fmt;

use serde::{Deserialize, Serialize};

use super::{Answer, Part, Rep, ResponseTime, Weight};

/// A share of reps in hundredths of a per cent, 0.01 to 99.99 %.
///
/// 0 and 100 are left out on purpose: no horse can be shown to meet every ask for good.
/// Serialised as per cent.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
pub struct Share(u16);

/// A share that is not between 0 and 100 per cent.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("a share of {0} ({percent:.0}%) cannot be a standard; it must be over 0 and under 1 (100%)", percent = .0 * 100.0)]
pub struct ShareOutOfRange(pub f64);

impl Share {
    /// From whole per cent.
    ///
    /// ```
    /// use cavesson_core::response::Share;
    /// assert_eq!(Share::percent(80).unwrap().fraction(), 0.8);
    /// assert!(Share::percent(100).is_err(), "no horse can be shown to meet every ask for good");
    /// ```
    ///
    /// # Errors
    /// Outside 1 to 99.
    pub fn percent(percent: u8) -> Result<Share, ShareOutOfRange> {
        Share::new(f64::from(percent) / 100.0)
    }

    /// From a fraction, rounded to the nearest hundredth of a per cent.
    ///
    /// # Errors
    /// Under 0.0001, over 0.9999, or not a number.
    pub fn new(fraction: f64) -> Result<Share, ShareOutOfRange> {
        if (0.0001..=0.9999).contains(&fraction) {
            Ok(Share((fraction * 10_000.0).round() as u16))
        } else {
            Err(ShareOutOfRange(fraction))
        }
    }

    /// As a fraction, 0.0001 to 0.9999.
    pub fn fraction(self) -> f64 {
        f64::from(self.0) / 10_000.0
    }
}

impl TryFrom<f64> for Share {
    type Error = ShareOutOfRange;
    fn try_from(percent: f64) -> Result<Self, Self::Error> {
        Share::new(percent / 100.0)
    }
}

impl From<Share> for f64 {
    fn from(share: Share) -> f64 {
        f64::from(share.0) / 100.0
    }
}

impl fmt::Display for Share {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}%", f64::from(self.0) / 100.0)
    }
}

/// What owning a rung means: the share of reps, on an ordinary day, that give the whole answer
/// at or under a weight and a time, shown on a number of separate days.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub struct Standard {
    /// The share of reps that must meet the standard.
    pub share: Share,
    /// The most weight that still meets it.
    pub weight: Weight,
    /// The longest time from ask to give that still meets it.
    pub seconds: ResponseTime,
    /// The fewest separate days with reps before the rung can be called owned.
    pub days: u8,
}

impl Default for Standard {
    /// 80 %, a lemon, 2.0 s, 3 days: common practice where a rung says nothing else.
    fn default() -> Self {
        Standard {
            share: Share(8_000),
            weight: Weight::Lemon,
            seconds: ResponseTime::new(2_000).unwrap_or(ResponseTime::MAX),
            days: 3,
        }
    }
}

/// A way in which a rep fell short of a standard.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Shortfall {
    /// The answer was not whole.
    Answer,
    /// It took more in the hand than the standard allows.
    Weight,
    /// It took longer than the standard allows.
    Time,
}

impl Standard {
    /// The same with another time, in per cent of it; an hour at the most.
    #[must_use]
    pub(crate) fn with_time(self, percent: u32) -> Standard {
        let millis = u64::from(self.seconds.get()) * u64::from(percent) / 100;
        let seconds = u32::try_from(millis).ok().and_then(|m| ResponseTime::new(m).ok()).unwrap_or(ResponseTime::MAX);
        Standard { seconds, ..self }
    }

    /// Whether a rep meets the standard: the whole answer, at or under the weight, and at or under the time
    /// where one was measured.
    ///
    /// ```
    /// use cavesson_core::response::{Answer, Rep, ResponseTime, Standard, Weight};
    /// let rep = |weight| Rep { answer: Answer::Gave, weight, time: ResponseTime::from_seconds(1.5).ok() };
    /// let standard = Standard::default();
    /// assert!(standard.is_met_by(&rep(Weight::Egg)) && !standard.is_met_by(&rep(Weight::Fingers)));
    /// ```
    pub fn is_met_by(&self, rep: &Rep) -> bool {
        self.shortfall(rep).is_none()
    }

    /// The first way in which a rep falls short, in the order answer, weight, time. `None` when it meets the standard.
    ///
    /// ```
    /// use cavesson_core::response::{Answer, Rep, ResponseTime, Shortfall, Standard, Weight};
    /// let rep = |weight| Rep { answer: Answer::Gave, weight, time: ResponseTime::from_seconds(1.5).ok() };
    /// assert_eq!(Standard::default().shortfall(&rep(Weight::Tug)), Some(Shortfall::Weight));
    /// ```
    pub fn shortfall(&self, rep: &Rep) -> Option<Shortfall> {
        if rep.answer != Answer::Gave {
            Some(Shortfall::Answer)
        } else if rep.weight > self.weight {
            Some(Shortfall::Weight)
        } else if rep.time.is_some_and(|t| t > self.seconds) {
            Some(Shortfall::Time)
        } else {
            None
        }
    }

    /// The standard in plain words: `8 of 10 at a lemon or less, within 2.0 s, on 3 days`.
    ///
    /// ```
    /// use cavesson_core::response::Standard;
    /// assert_eq!(Standard::default().in_words(), "8 of 10 at a lemon or less, within 2.0 s, on 3 days");
    /// ```
    pub fn in_words(&self) -> String {
        let hand = match self.weight {
            Weight::None => "with nothing on the rein".to_owned(),
            w => format!("at {} or less", w.phrase()),
        };
        format!("{} {hand}, within {}, on {}", self.share_in_words(), self.seconds, self.days_in_words())
    }

    /// `8 of 10`, or `85%`.
    pub(crate) fn share_in_words(&self) -> String {
        match self.share.0 {
            s if s.is_multiple_of(1_000) => format!("{} of 10", s / 1_000),
            _ => self.share.to_string(),
        }
    }

    /// `8 times in 10`, or `85% of the time`.
    pub(crate) fn share_in_times(&self) -> String {
        match self.share.0 {
            s if s.is_multiple_of(1_000) => format!("{} times in 10", s / 1_000),
            _ => format!("{} of the time", self.share),
        }
    }

    pub(crate) fn days_in_words(&self) -> String {
        if self.days == 1 { "1 day".to_owned() } else { format!("{} days", self.days) }
    }
}

/// The best answer of a step so far: lightest first, then quickest. Only answers at the standard count.
///
/// ```
/// use cavesson_core::response::{Answer, Rep, Standard, Weight, best};
/// let rep = |answer, weight| Rep { answer, weight, time: None };
/// let reps = [rep(Answer::Gave, Weight::Orange), rep(Answer::Gave, Weight::Egg), rep(Answer::None, Weight::Feather)];
/// assert_eq!(best(&Standard::default(), &reps), Some(&reps[1]));
/// ```
pub fn best<'r>(standard: &Standard, reps: impl IntoIterator<Item = &'r Rep>) -> Option<&'r Rep> {
    reps.into_iter().filter(|r| standard.is_met_by(r)).min_by_key(|r| rank(r))
}

/// The lighter first, then the quicker; a time that was not taken is no better than the slowest.
pub(crate) fn rank(rep: &Rep) -> (Weight, u32) {
    (rep.weight, rep.time.map_or(u32::MAX, ResponseTime::get))
}

/// Reps counted against a standard.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Tally {
    /// All reps.
    pub reps: u32,
    /// Those that met the standard.
    pub met: u32,
    /// Those whose answer was not whole.
    pub not_whole: u32,
    /// Those whose first half did not come, and those whose second half did not.
    pub lacked: [u32; 2],
    /// Those that were whole but too heavy.
    pub heavy: u32,
    /// Those that were whole and light enough, but too slow.
    pub slow: u32,
}

impl Tally {
    /// Counts reps against a standard.
    ///
    /// ```
    /// use cavesson_core::response::{Answer, Rep, ResponseTime, Standard, Tally, Weight};
    /// let rep = |weight| Rep { answer: Answer::Gave, weight, time: ResponseTime::from_seconds(1.5).ok() };
    /// let tally = Tally::of(&Standard::default(), &[rep(Weight::Egg), rep(Weight::Tug)]);
    /// assert_eq!((tally.reps, tally.met, tally.heavy), (2, 1, 1));
    /// ```
    pub fn of<'a>(standard: &Standard, reps: impl IntoIterator<Item = &'a Rep>) -> Tally {
        let mut tally = Tally::default();
        for rep in reps {
            tally.reps += 1;
            match rep.answer {
                Answer::Tried { missing: Some(Part::First) } => tally.lacked[0] += 1,
                Answer::Tried { missing: Some(Part::Second) } => tally.lacked[1] += 1,
                _ => {}
            }
            match standard.shortfall(rep) {
                None => tally.met += 1,
                Some(Shortfall::Answer) => tally.not_whole += 1,
                Some(Shortfall::Weight) => tally.heavy += 1,
                Some(Shortfall::Time) => tally.slow += 1,
            }
        }
        tally
    }

    /// The commonest shortfall and its count, if any rep fell short. Ties go to the earlier in answer, weight, time.
    ///
    /// ```
    /// use cavesson_core::response::{Answer, Rep, ResponseTime, Shortfall, Standard, Tally, Weight};
    /// let rep = |weight| Rep { answer: Answer::Gave, weight, time: ResponseTime::from_seconds(1.5).ok() };
    /// let tally = Tally::of(&Standard::default(), &[rep(Weight::Tug), rep(Weight::Tug)]);
    /// assert_eq!(tally.main_shortfall(), Some((Shortfall::Weight, 2)));
    /// ```
    pub fn main_shortfall(&self) -> Option<(Shortfall, u32)> {
        [(Shortfall::Time, self.slow), (Shortfall::Weight, self.heavy), (Shortfall::Answer, self.not_whole)]
            .into_iter()
            .filter(|&(_, n)| n > 0)
            .max_by_key(|&(_, n)| n)
    }
}

impl std::ops::AddAssign for Tally {
    fn add_assign(&mut self, more: Tally) {
        self.reps += more.reps;
        self.met += more.met;
        self.not_whole += more.not_whole;
        self.lacked.iter_mut().zip(more.lacked).for_each(|(sum, more)| *sum += more);
        self.heavy += more.heavy;
        self.slow += more.slow;
    }
}
