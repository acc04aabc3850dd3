use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use crate::{curriculum::Gait, words::words};

/// Minutes of a ride by gait.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
#[allow(missing_docs)]
pub struct GaitMinutes {
    pub stand: u16,
    pub walk: u16,
    pub jog: u16,
    pub lope: u16,
    pub run: u16,
}

words! {
    "a class of work";
    /// How hard a week of work is (National Research Council, Nutrient Requirements of Horses, 2007; memory).
    pub enum Class {
        Light,
        Moderate,
        Heavy,
        VeryHeavy,
    }
}

impl GaitMinutes {
    /// More than this on one gait of one ride is a slip of the pen.
    pub const MOST: u16 = 600;

    /// The minutes at a gait.
    pub const fn at(self, gait: Gait) -> u16 {
        match gait {
            Gait::Stand => self.stand,
            Gait::Walk => self.walk,
            Gait::Jog => self.jog,
            Gait::Lope => self.lope,
            Gait::Run => self.run,
        }
    }

    /// The same with more at one gait.
    #[must_use]
    pub fn plus(mut self, gait: Gait, minutes: u16) -> GaitMinutes {
        let at = match gait {
            Gait::Stand => &mut self.stand,
            Gait::Walk => &mut self.walk,
            Gait::Jog => &mut self.jog,
            Gait::Lope => &mut self.lope,
            Gait::Run => &mut self.run,
        };
        *at = at.saturating_add(minutes);
        self
    }

    /// Both together.
    #[must_use]
    pub fn and(self, other: GaitMinutes) -> GaitMinutes {
        Gait::ALL.into_iter().fold(self, |m, gait| m.plus(gait, other.at(gait)))
    }

    /// Guessed from asks: each with its gait and its seconds from the first, in order. What lies between two asks goes to the
    /// gait of the earlier; of a longer pause than a minute the rest is stood, and no pause counts for more than ten minutes.
    ///
    /// ```
    /// use cavesson_core::{curriculum::Gait, load::GaitMinutes};
    /// // Two asks at the jog, two minutes apart: one minute of it was ridden, the rest stood.
    /// let minutes = GaitMinutes::estimated(&[(Gait::Jog, 0), (Gait::Jog, 120)]);
    /// assert_eq!((minutes.jog, minutes.stand), (2, 1));
    /// ```
    pub fn estimated(asks: &[(Gait, u32)]) -> GaitMinutes {
        let mut seconds: BTreeMap<Gait, u32> = BTreeMap::new();
        for pair in asks.windows(2) {
            let gap = pair[1].1.saturating_sub(pair[0].1).min(600);
            *seconds.entry(pair[0].0).or_default() += gap.min(60);
            *seconds.entry(Gait::Stand).or_default() += gap.saturating_sub(60);
        }
        if let Some((gait, _)) = asks.last() {
            *seconds.entry(*gait).or_default() += 30;
        }
        let whole = |s: u32| u16::try_from(s.div_ceil(60)).unwrap_or(GaitMinutes::MOST);
        seconds.into_iter().fold(GaitMinutes::default(), |m, (gait, s)| m.plus(gait, whole(s)))
    }

    /// All of them.
    pub fn total(self) -> u32 {
        Gait::ALL.into_iter().map(|g| u32::from(self.at(g))).sum()
    }

    /// The load: minutes × intensity, summed over the gaits (session load, Foster 1998; memory). The intensity of a gait,
    /// 0 to 10, is common practice without a published source.
    ///
    /// ```
    /// use cavesson_core::load::GaitMinutes;
    /// // 15 at the walk × 1 + 10 at the jog × 3.
    /// assert_eq!(GaitMinutes { walk: 15, jog: 10, ..GaitMinutes::default() }.load(), 45);
    /// ```
    pub fn load(self) -> u32 {
        Gait::ALL.into_iter().map(|g| u32::from(self.at(g)) * intensity(g)).sum()
    }

    fn mean_heart_rate(self) -> f64 {
        let beats: u32 = Gait::ALL.into_iter().map(|g| u32::from(self.at(g)) * heart_rate(g)).sum();
        f64::from(beats) / f64::from(self.total().max(1))
    }
}

/// Intensity on a scale from 0 to 10.
const fn intensity(gait: Gait) -> u32 {
    match gait {
        Gait::Stand => 0,
        Gait::Walk => 1,
        Gait::Jog => 3,
        Gait::Lope => 5,
        Gait::Run => 9,
    }
}

/// Beats a minute that a fit horse has at a gait (common practice, no published source).
const fn heart_rate(gait: Gait) -> u32 {
    match gait {
        Gait::Stand => 40,
        Gait::Walk => 65,
        Gait::Jog => 95,
        Gait::Lope => 120,
        Gait::Run => 180,
    }
}

/// Seven days of work.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct LoadWeek {
    /// The minutes of each day; a day off has none.
    pub days: [GaitMinutes; 7],
}

impl LoadWeek {
    /// The loads of the days.
    pub fn loads(&self) -> [u32; 7] {
        self.days.map(GaitMinutes::load)
    }

    /// The load of the week.
    pub fn load(&self) -> u32 {
        self.loads().iter().sum()
    }

    /// Mean over standard deviation of the daily loads (Foster 1998; memory), by the sample's standard deviation. `None`
    /// where every day is the same, a week without work included.
    ///
    /// ```
    /// use cavesson_core::load::{GaitMinutes, LoadWeek};
    /// let mut week = LoadWeek::default();
    /// assert_eq!(week.monotony(), None, "every day is the same");
    /// week.days[0] = GaitMinutes { lope: 10, ..GaitMinutes::default() };
    /// assert!(week.monotony().is_some_and(|m| m < 1.0));
    /// ```
    pub fn monotony(&self) -> Option<f64> {
        let loads = self.loads().map(f64::from);
        let mean = loads.iter().sum::<f64>() / 7.0;
        let sd = (loads.iter().map(|l| (l - mean).powi(2)).sum::<f64>() / 6.0).sqrt();
        (sd > 0.0).then(|| mean / sd)
    }

    /// Load × monotony (Foster 1998; memory).
    pub fn strain(&self) -> Option<f64> {
        self.monotony().map(|m| m * f64::from(self.load()))
    }

    /// The class of a week's work: the harder of what its hours and its mean heart rate say; `None` without work. Light is up
    /// to 3 hours at about 80 beats a minute, moderate up to 5 at about 90, heavy at about 110, very heavy beyond (National
    /// Research Council 2007; memory; the edges lie half way between the named rates).
    pub fn class(&self) -> Option<Class> {
        let mut all = GaitMinutes::default();
        for day in self.days {
            for gait in Gait::ALL {
                all = all.plus(gait, day.at(gait));
            }
        }
        let worked = all.total() - u32::from(all.stand);
        if worked == 0 {
            return None;
        }
        let by_hours = match worked {
            0..=180 => Class::Light,
            181..=300 => Class::Moderate,
            301..=720 => Class::Heavy,
            _ => Class::VeryHeavy,
        };
        let by_heart = match (GaitMinutes { stand: 0, ..all }).mean_heart_rate() {
            r if r < 85.0 => Class::Light,
            r if r < 100.0 => Class::Moderate,
            r if r < 115.0 => Class::Heavy,
            _ => Class::VeryHeavy,
        };
        Some(by_hours.max(by_heart))
    }
}

impl Class {
    /// Energy over maintenance.
    pub const fn energy_factor(self) -> f64 {
        match self {
            Class::Light => 1.2,
            Class::Moderate => 1.4,
            Class::Heavy => 1.6,
            Class::VeryHeavy => 1.9,
        }
    }

    /// Digestible energy a day in Mcal: factor × 0.0333 Mcal/kg × body weight (National Research Council 2007; memory).
    ///
    /// ```
    /// use cavesson_core::load::Class;
    /// // A horse of 500 kg at moderate work: 1.4 × 0.0333 × 500 Mcal.
    /// assert!((Class::Moderate.energy(500.0) - 23.31).abs() < 1e-9);
    /// ```
    pub fn energy(self, kilograms: f64) -> f64 {
        self.energy_factor() * 0.0333 * kilograms
    }
}
