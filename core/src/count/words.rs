//! Counts and their standards in words.

use super::{Count, ObstacleStage};
use crate::{curriculum::Measure, response::Standard};

fn of(n: u32, one: &str) -> String {
    if n == 1 { format!("1 {one}") } else { format!("{n} {one}s") }
}

impl ObstacleStage {
    /// In a list: `two feet`.
    pub const fn phrase(self) -> &'static str {
        match self {
            ObstacleStage::Looks => "looks",
            ObstacleStage::Toward => "steps toward it",
            ObstacleStage::OneFoot => "one foot on",
            ObstacleStage::TwoFeet => "two feet on",
            ObstacleStage::FourFeet => "four feet on",
            ObstacleStage::Stands => "stands on it",
            ObstacleStage::Crosses => "crosses",
        }
    }
}

impl Count {
    /// In a line: `soft after 3 laps`.
    ///
    /// ```
    /// use cavesson_core::count::Count;
    /// assert_eq!(Count::Laps { laps: 3, soft: true }.in_words(), "soft after 3 laps");
    /// assert_eq!(Count::Steps { steps: 7, broke: true }.in_words(), "7 steps, then lost it");
    /// ```
    pub fn in_words(&self) -> String {
        match self {
            Count::Laps { laps, soft: true } => format!("soft after {}", of(u32::from(*laps), "lap")),
            Count::Laps { laps, soft: false } => format!("still stiff after {}", of(u32::from(*laps), "lap")),
            Count::NoseUps { circles, ups } => {
                format!("{} in {}", of(u32::from(*ups), "nose-up"), of(u32::from(*circles), "circle"))
            }
            Count::SetUps { asked: 1, accepted } => {
                if *accepted == 1 { "accepted the set-up" } else { "went on the set-up" }.to_owned()
            }
            Count::SetUps { asked, accepted } => format!("accepted {accepted} of {asked} set-ups"),
            Count::Tries { tries } => {
                let each: Vec<&str> = tries.iter().map(|t| t.phrase()).collect();
                each.join(", ")
            }
            Count::ReinShare { bridle, soft, .. } => {
                format!("{} at {bridle}% on the bridle rein", if *soft { "soft" } else { "stiff" })
            }
            Count::Mounts { mounts: 1, loose } => if *loose == 1 { "stood loose" } else { "stood tight" }.to_owned(),
            Count::Mounts { mounts, loose } => format!("stood loose for {loose} of {mounts} mounts"),
            Count::Held { seconds, lost: true } => format!("held {seconds} s, then lost it"),
            Count::Held { seconds, lost: false } => format!("held {seconds} s"),
            Count::Steps { steps, broke: true } => format!("{}, then lost it", of(u32::from(*steps), "step")),
            Count::Steps { steps, broke: false } => of(u32::from(*steps), "step"),
        }
    }
}

impl Measure {
    /// What is counted, several of them: `laps until soft`.
    pub const fn noun(self) -> &'static str {
        match self {
            Measure::Reps => "asks",
            Measure::Laps { .. } => "laps until soft",
            Measure::NoseUps => "nose-ups a circle",
            Measure::SetUps => "set-ups",
            Measure::Tries { .. } => "tries",
            Measure::ReinShare { .. } => "stretches on the bridle rein",
            Measure::Mounts { .. } => "mounts",
            Measure::Held { .. } => "seconds held",
            Measure::Steps { .. } => "steps",
        }
    }

    /// What owning a rung means, in its own measure.
    ///
    /// ```
    /// use cavesson_core::{curriculum::Measure, response::Standard};
    /// let standard = Standard::default();
    /// assert_eq!(Measure::Laps { most: 2 }.standard_in_words(&standard), "soft within 2 laps, 8 times in 10, on 3 days");
    /// assert_eq!(Measure::Reps.standard_in_words(&standard), standard.in_words());
    /// ```
    pub fn standard_in_words(self, standard: &Standard) -> String {
        let (of_ten, times) = (standard.share_in_words(), standard.share_in_times());
        let words = match self {
            Measure::Reps => return standard.in_words(),
            Measure::Laps { most } => format!("soft within {}, {times}", of(u32::from(most), "lap")),
            Measure::NoseUps => format!("{of_ten} circles without a nose-up"),
            Measure::SetUps => format!("{of_ten} set-ups accepted"),
            Measure::Tries { within } => match within {
                1 => format!("across at the first try, {times}"),
                n => format!("across within {n} tries, {times}"),
            },
            Measure::ReinShare { bridle } => {
                format!("soft on {of_ten} stretches with {bridle}% or more on the bridle rein")
            }
            Measure::Mounts { count } => format!("stands loose for {of_ten} mounts, {count} of them"),
            Measure::Held { seconds } => format!("off the hand for {seconds} s, {times}"),
            Measure::Steps { count } => format!("{} on end, {times}", of(u32::from(count), "step")),
        };
        format!("{words}, on {}", standard.days_in_words())
    }

    /// How `missed` of so many fell short: `needed more than 2 laps in 3 of 5`.
    pub(crate) fn shortfall_in_words(self, missed: u32, all: u32) -> String {
        let some = format!("{missed} of {all}");
        match self {
            Measure::Reps => format!("gave no whole answer in {some} asks"),
            Measure::Laps { most } => format!("was not soft within {} in {some} tries", of(u32::from(most), "lap")),
            Measure::NoseUps => format!("brought the nose up in {some} circles"),
            Measure::SetUps => format!("went on {some} set-ups"),
            Measure::Tries { .. } => format!("did not cross in {some} tries"),
            Measure::ReinShare { bridle } => {
                format!("was stiff in {some} stretches with {bridle}% or more on the bridle rein")
            }
            Measure::Mounts { .. } => format!("stood tight for {some} mounts"),
            Measure::Held { seconds } => format!("came back onto the hand before {seconds} s in {some} asks"),
            Measure::Steps { count } => format!("lost it before {} in {some} asks", of(u32::from(count), "step")),
        }
    }
}
