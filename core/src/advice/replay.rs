//! Horses taken through their records: one with what its barn had shown, or all of a barn at once.

use std::collections::BTreeSet;

use chrono::NaiveDate;

use super::Advisor;
use crate::belief::{BarnWeeks, Day, HorseWeek, ModelSettings, ReadingTally, week_of};

/// One horse of a barn and what it was ridden through, in order of the days.
#[derive(Debug)]
pub struct HorseRecord<'r, 'a> {
    /// Who knows nothing of it yet.
    pub advisor: Advisor<'a>,
    /// Its days.
    pub days: &'r [Day],
}

impl<'a> Advisor<'a> {
    /// Watches days with what its barn had shown at the start of each week. `before` sees the advisor on the morning of each day.
    ///
    /// Days that are out of order are left out.
    pub fn replay(
        &mut self,
        days: &[Day],
        barn: &BarnWeeks,
        horse: usize,
        mut before: impl FnMut(&Advisor<'a>, usize),
    ) {
        let mut known: Option<NaiveDate> = None;
        for (n, day) in days.iter().enumerate() {
            let starts = barn.starts_on(day.date);
            if starts != known {
                self.begin_week(&barn.facts(horse, day.date));
                known = starts;
            }
            before(self, n);
            let _in_order = self.watch(day);
        }
    }
}

/// Takes all horses of a barn through their records week by week, so that each is judged with what all had shown before. `after` sees
/// each advisor at the end of each day, with the horse and the day by their places.
///
/// ```
/// use cavesson_core::{
///     advice::{Advisor, HorseRecord, Posture, replay_barn},
///     belief::{Day, ModelSettings, Work},
///     curriculum::{Course, Gait, Side, Sides, Step},
///     response::{Answer, Rep, Standard, Weight},
/// };
/// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
/// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
/// let days = ["2026-03-02", "2026-03-09"].map(|d| Day::new(d.parse().unwrap(), vec![Work::reps(0, Side::Left, vec![rep; 8])]));
/// let settings = ModelSettings::default();
/// let horse = HorseRecord { advisor: Advisor::new(&course, Posture::Steady, settings), days: &days };
/// let mut seen = vec![];
/// let barn = replay_barn(&settings, &mut [horse], |horse, day, _| seen.push((horse, day)));
/// assert_eq!(seen, [(0, 0), (0, 1)]);
/// assert!(barn.starts_on("2026-03-10".parse()?).is_some());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn replay_barn(
    settings: &ModelSettings,
    horses: &mut [HorseRecord<'_, '_>],
    mut after: impl FnMut(usize, usize, &Advisor<'_>),
) -> BarnWeeks {
    let mut barn = BarnWeeks::new(settings, horses.len());
    let weeks: BTreeSet<NaiveDate> = horses.iter().flat_map(|h| h.days.iter().map(|d| week_of(d.date))).collect();
    let mut next = vec![0; horses.len()];
    for monday in weeks {
        let mut shown = vec![];
        for (n, horse) in horses.iter_mut().enumerate() {
            let days = &horse.days[next[n]..];
            let days = &days[..days.iter().take_while(|d| week_of(d.date) <= monday).count()];
            if days.is_empty() {
                continue;
            }
            horse.advisor.begin_week(&barn.facts(n, monday));
            let mut readings = ReadingTally::default();
            for (at, day) in (next[n]..).zip(days) {
                let _in_order = horse.advisor.watch(day);
                readings.note(horse.advisor.observer().course(), day);
                after(n, at, &horse.advisor);
            }
            next[n] += days.len();
            shown.push((n, HorseWeek { readings, evidence: horse.advisor.observer().evidence() }));
        }
        barn.end_week(monday, &shown);
    }
    barn
}
