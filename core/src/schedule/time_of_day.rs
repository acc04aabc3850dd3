use std::{fmt, str::FromStr};

/// A time of day in whole minutes after midnight, 0 to 1440: the end of a day is `24:00`.
///
/// ```
/// use cavesson_core::schedule::TimeOfDay;
/// let half_past: TimeOfDay = "07:30".parse()?;
/// assert_eq!((half_past.minutes(), half_past.to_string().as_str()), (450, "07:30"));
/// assert!("7:30".parse::<TimeOfDay>().is_err() && "24:01".parse::<TimeOfDay>().is_err());
/// # Ok::<(), cavesson_core::schedule::NotATimeOfDay>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct TimeOfDay(u16);

/// A text that is no time of day.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("\"{0}\" is not a time; one looks like 07:30, and the end of a day is 24:00")]
pub struct NotATimeOfDay(String);

impl TimeOfDay {
    /// From minutes after midnight; `None` over 1440.
    pub const fn from_minutes(minutes: u16) -> Option<TimeOfDay> {
        if minutes <= 24 * 60 { Some(TimeOfDay(minutes)) } else { None }
    }

    /// Minutes after midnight, 0 to 1440.
    pub const fn minutes(self) -> u16 {
        self.0
    }
}

impl fmt::Display for TimeOfDay {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:02}:{:02}", self.0 / 60, self.0 % 60)
    }
}

impl FromStr for TimeOfDay {
    type Err = NotATimeOfDay;
    fn from_str(text: &str) -> Result<Self, Self::Err> {
        let two = |t: &str| (t.len() == 2 && t.bytes().all(|b| b.is_ascii_digit())).then(|| t.parse().ok()).flatten();
        let read = || {
            let (hours, minutes) = text.split_once(':')?;
            let (hours, minutes): (u16, u16) = (two(hours)?, two(minutes)?);
            TimeOfDay::from_minutes(hours * 60 + minutes).filter(|_| minutes < 60)
        };
        read().ok_or_else(|| NotATimeOfDay(text.chars().take(20).collect()))
    }
}
