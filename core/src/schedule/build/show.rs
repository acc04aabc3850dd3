//! A show date: what it asks of a horse, how likely that is owned by then, and what follows for the work.

use super::barn::{Aim, StepFacts};
use crate::{
    advice::{Call, Status},
    words::words,
};

words! {
    "an outlook";
    /// How a step that a show asks for will stand on the day. Where the edges lie is common practice, with no published source.
    pub enum Outlook {
        /// It is owned today.
        Owned,
        /// Three in four or better.
        OnCourse,
        /// From two in five.
        Close,
        /// From one in ten.
        Unlikely,
        /// Less, or what it needs comes first.
        NotInSight,
    }
}

impl Outlook {
    /// From how the step stands and how likely it is owned by the day, in per cent.
    ///
    /// ```
    /// use cavesson_core::{advice::Status, schedule::Outlook};
    /// assert_eq!(Outlook::of(Status::Learning, Some(80)), Outlook::OnCourse);
    /// assert_eq!(Outlook::of(Status::Learning, None), Outlook::NotInSight);
    /// ```
    pub const fn of(status: Status, chance: Option<u8>) -> Outlook {
        match (status, chance) {
            (Status::Owned, _) => Outlook::Owned,
            (_, Some(75..)) => Outlook::OnCourse,
            (_, Some(40..)) => Outlook::Close,
            (_, Some(10..)) => Outlook::Unlikely,
            _ => Outlook::NotInSight,
        }
    }
}

impl Aim {
    /// What the rides of a step are worth with this show ahead, and why. Where more work can still decide it, half as much
    /// again; what is safe or out of sight is worth what it is worth anyway.
    pub fn weigh(&self, worth: &[i64]) -> (Vec<i64>, String) {
        let weeks = match self.days.div_ceil(7) {
            0 | 1 => "within a week".to_owned(),
            n => format!("in {n} weeks"),
        };
        let plain = worth.to_vec();
        let show = &self.show;
        match self.chance {
            Some(90..) => (plain, format!("Wanted for {show} {weeks}, and safe: no more for that")),
            Some(chance @ 10..) => (
                worth.iter().map(|w| w + (w + 1) / 2).collect(),
                format!("Wanted for {show} {weeks}, {chance} % by then: half as much again"),
            ),
            Some(chance) => (plain, format!("{show} {weeks} will not see it ({chance} %): no more for that")),
            None => (plain, format!("Wanted for {show} {weeks}; what it needs comes first")),
        }
    }
}

/// Days ahead in which a show is looked for: half a year, as far as a forecast says anything (common practice, no published source).
pub const DAYS_AHEAD: u64 = 182;

/// How likely a step is owned after so many days, in per cent, from the probabilities week by week; the last of them holds on.
///
/// ```
/// use cavesson_core::schedule::chance_by;
/// assert_eq!(chance_by(&[0.1, 0.5, 0.9], 8), Some(50));
/// assert_eq!(chance_by(&[0.1, 0.5, 0.9], 100), Some(90));
/// assert_eq!(chance_by(&[], 8), None);
/// ```
pub fn chance_by(by_week: &[f64], days: u32) -> Option<u8> {
    let week = (days / 7) as usize;
    by_week.get(week).or(by_week.last()).map(|p| (p * 100.0).round().clamp(0.0, 100.0) as u8)
}

/// What a show asks of a horse, and how that stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Want {
    /// The step in words.
    pub name: String,
    /// How it will stand.
    pub outlook: Outlook,
    /// How likely, in per cent.
    pub chance: Option<u8>,
}

/// The most that are named as what could wait.
const NAMED: usize = 2;

/// The work under way on a horse that a show does not rest on, and so could wait for it: the first of them, by name (common
/// practice, no published source).
pub fn could_wait(steps: &[StepFacts], serves_it: impl Fn(&StepFacts) -> bool) -> Vec<&str> {
    let learning = |s: &&StepFacts| s.status == Status::Learning && s.open && s.call != Some(Call::Back);
    steps.iter().filter(learning).filter(|s| !serves_it(s)).take(NAMED).map(|s| s.name.as_str()).collect()
}

/// Whether a horse will be ready, what of the show could be dropped, and which other work could make room: `None` while all is
/// owned or on course.
pub fn warning(wants: &[Want], other_work: &[&str]) -> Option<String> {
    let names = |outlooks: &[Outlook]| -> Vec<&str> {
        wants.iter().filter(|w| outlooks.contains(&w.outlook)).map(|w| w.name.as_str()).collect()
    };
    let lost = names(&[Outlook::Unlikely, Outlook::NotInSight]);
    let close = names(&[Outlook::Close]);
    let room = match other_work {
        [] => String::new(),
        some => format!("; {} could wait for it", some.join(", ")),
    };
    match (lost.as_slice(), close.as_slice()) {
        ([], []) => None,
        ([], close) => Some(format!("{} hangs in the balance{room}", close.join(", "))),
        ([one], _) => Some(format!("{one} will not be owned by then: drop it from the show{room}")),
        (lost, _) => Some(format!("{} will not be owned by then: drop them from the show{room}", lost.join(", "))),
    }
}
