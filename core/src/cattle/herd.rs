//! The herd as it stands today: how fresh each cow is, what is left of its limits, and whether it is worked at all.

use serde::{Deserialize, Serialize};

use super::{CowDay, Manner, Start, Wear, WorkDone};
use crate::words::words;

words! {
    "a cow's health";
    /// How a cow is today.
    pub enum CowHealth { Well, RunnyEyes, Lame, Hot, Sick }
}

words! {
    "a cow's freshness";
    /// How much of its honour a cow has left.
    pub enum Freshness { Fresh, Used, Worn, Spent }
}

/// How a barn works its cattle. Half-lives and limits are invented defaults that a trainer sets.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct HerdRules {
    /// Half of the wear is gone after so many days, 0.5 to 60.
    #[cfg_attr(feature = "schema", schema(minimum = 0.5, maximum = 60))]
    pub rest_half_days: f64,
    /// Half of a cow's honour is gone after so many minutes of wear, 1 to 240.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 240))]
    pub wear_half_minutes: f64,
    /// Works of a cow in a day, 1 to 20.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 20))]
    pub day: u8,
    /// Works of a cow in a week, 1 to 60.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 60))]
    pub week: u8,
    /// Minutes of a go, 1 to 10.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 10))]
    pub go_minutes: u8,
    /// Cows that are brought up at most, 1 to 60.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 60))]
    pub bring: u8,
}

impl Default for HerdRules {
    fn default() -> HerdRules {
        HerdRules { rest_half_days: 4.0, wear_half_minutes: 20.0, day: 3, week: 8, go_minutes: 3, bring: 8 }
    }
}

impl HerdRules {
    /// What is out of its range: the field, and what may stand there.
    pub fn wrong(&self) -> Option<(&'static str, &'static str)> {
        let checks = [
            ((0.5..=60.0).contains(&self.rest_half_days), "rest_half_days", "0.5 to 60 days"),
            ((1.0..=240.0).contains(&self.wear_half_minutes), "wear_half_minutes", "1 to 240 minutes"),
            ((1..=20).contains(&self.day), "day", "1 to 20 works"),
            ((self.day..=60).contains(&self.week), "week", "as many works as in a day at least, and at most 60"),
            ((1..=10).contains(&self.go_minutes), "go_minutes", "1 to 10 minutes"),
            ((1..=60).contains(&self.bring), "bring", "1 to 60 cows"),
        ];
        checks.into_iter().find(|(sound, ..)| !sound).map(|(_, field, text)| (field, text))
    }

    /// How works wear a cow.
    pub fn wear(&self) -> Wear {
        Wear { rest_half_days: self.rest_half_days, wear_half_minutes: self.wear_half_minutes }
    }
}

impl Manner {
    /// What is believed of a cow of this manner before its log says more: of ten turns so many are honoured. Assumed.
    pub fn start(self) -> Start {
        let honoured = match self {
            Manner::Slow | Manner::Honest => 9.0,
            Manner::BobAndWeave => 8.0,
            Manner::Running => 6.0,
            Manner::Sour => 3.0,
        };
        Start { tried: 10.0, honoured }
    }

    /// About how fast it goes fresh, and how slow it gets, feet a second. Assumed.
    pub fn speeds(self) -> [f64; 2] {
        match self {
            Manner::Slow => [7.0, 5.0],
            Manner::Honest => [10.0, 6.0],
            Manner::BobAndWeave => [12.0, 8.0],
            Manner::Running => [16.0, 9.0],
            Manner::Sour => [9.0, 6.0],
        }
    }
}

/// A cow: what is known of it, and its log in order of days, none after today.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct HerdCow {
    pub manner: Manner,
    pub health: CowHealth,
    pub log: Vec<WorkDone>,
}

/// A cow as it stands today.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CowToday {
    /// The chance that it honours a horse in position, thousandths.
    pub honour: u32,
    /// The same, rested.
    pub rested: u32,
    /// Works today, and in the seven days to today.
    pub works: [u32; 2],
    /// Days since it was last worked.
    pub rest: Option<i32>,
    /// How fresh it is.
    pub freshness: Freshness,
    /// Turns that its own log rests on.
    pub tried: f64,
}

impl HerdCow {
    /// As it stands today.
    pub fn today(&self, rules: &HerdRules) -> CowToday {
        let day = CowDay::of(&self.log, self.manner.start(), rules.wear());
        let honour = day.honour(0.0);
        let rested = (1000.0 * day.rested + 0.5).floor() as u32;
        let left = f64::from(honour) / f64::from(rested.max(1));
        CowToday {
            honour,
            rested,
            works: [self.works(0), self.works(-6)],
            rest: self.log.last().map(|work| -work.day),
            freshness: match left {
                left if left >= 0.85 => Freshness::Fresh,
                left if left >= 0.6 => Freshness::Used,
                left if left >= 0.4 => Freshness::Worn,
                _ => Freshness::Spent,
            },
            tried: self.log.iter().map(|work| work.tried).sum(),
        }
    }

    fn works(&self, since: i32) -> u32 {
        self.log.iter().filter(|work| work.day >= since).count() as u32
    }

    /// Why it is not worked today; none where it may be. Sick cattle are left alone, and one that no longer honours a horse teaches it
    /// nothing good.
    pub fn spared(&self, rules: &HerdRules) -> Option<&'static str> {
        let today = self.today(rules);
        match self.health {
            CowHealth::RunnyEyes => Some("runny eyes: leave it, and have it seen"),
            CowHealth::Lame => Some("lame: leave it, and have it seen"),
            CowHealth::Hot => Some("hot: water, shade and rest"),
            CowHealth::Sick => Some("sick: leave it, and have it seen"),
            CowHealth::Well if self.manner == Manner::Sour => Some("sour: it no longer honours a horse"),
            CowHealth::Well if today.works[0] >= rules.day.into() => Some("has had its works of the day"),
            CowHealth::Well if today.works[1] >= rules.week.into() => Some("has had its works of the week"),
            CowHealth::Well => None,
        }
    }
}
