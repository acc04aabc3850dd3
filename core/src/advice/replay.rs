//! All horses of a barn taken through their records together.

use std::{
    borrow::Borrow,
    collections::BTreeSet,
    sync::{Mutex, PoisonError},
};

use chrono::NaiveDate;

use super::Advisor;
use crate::{
    belief::{BarnFacts, BarnWeeks, Day, HorseWeek, ModelSettings, Observer, ReadingTally, week_of},
    threads,
};

/// Who takes in the days of one horse: an advisor, or an observer where no calls are asked for.
pub trait Follower {
    /// A week begins: what the barn's horses had shown before it.
    fn begin_week(&mut self, facts: &BarnFacts);
    /// Takes in one whole day. One that is out of order is left out.
    fn follow(&mut self, day: &Day);
    /// What was seen.
    fn observer(&self) -> &Observer<'_>;
}

impl Follower for Advisor<'_> {
    fn begin_week(&mut self, facts: &BarnFacts) {
        Advisor::begin_week(self, facts);
    }

    fn follow(&mut self, day: &Day) {
        let _in_order = self.watch(day);
    }

    fn observer(&self) -> &Observer<'_> {
        Advisor::observer(self)
    }
}

impl Follower for Observer<'_> {
    fn begin_week(&mut self, facts: &BarnFacts) {
        self.set_barn(facts);
    }

    fn follow(&mut self, day: &Day) {
        let _in_order = self.watch(day);
    }

    fn observer(&self) -> &Observer<'_> {
        self
    }
}

/// One horse of a barn and what it was ridden through, in order of the days.
#[derive(Debug)]
pub struct HorseRecord<'r, F, D = Day> {
    /// Who has seen nothing of these days yet.
    pub follower: F,
    /// Its days.
    pub days: &'r [D],
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
/// let horse = HorseRecord { follower: Advisor::new(&course, Posture::Steady, settings), days: &days };
/// let mut seen = vec![];
/// let barn = replay_barn(&settings, &mut [horse], |horse, day, _| seen.push((horse, day)));
/// assert_eq!(seen, [(0, 0), (0, 1)]);
/// assert!(barn.starts_on("2026-03-10".parse()?).is_some());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn replay_barn<F: Follower, D: Borrow<Day>>(
    settings: &ModelSettings,
    horses: &mut [HorseRecord<'_, F, D>],
    after: impl FnMut(usize, usize, &F),
) -> BarnWeeks {
    let mut barn = BarnWeeks::new(settings, horses.len());
    replay_barn_on(&mut barn, horses, after);
    barn
}

/// The same from a Monday on, with what `barn` knew by then; the followers have seen all before it, and their days begin with it. In two
/// parts or in one, the result is the same.
///
/// ```
/// use cavesson_core::{
///     advice::{HorseRecord, replay_barn, replay_barn_on},
///     belief::{Day, ModelSettings, Observer, Work},
///     curriculum::{Course, Gait, Side, Sides, Step},
///     response::{Answer, Rep, Standard, Weight},
/// };
/// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
/// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
/// let days = ["2026-03-02", "2026-03-09"].map(|d| Day::new(d.parse().unwrap(), vec![Work::reps(0, Side::Left, vec![rep; 8])]));
/// let settings = ModelSettings::default();
/// let mut first = [HorseRecord { follower: Observer::new(&course, settings), days: &days[..1] }];
/// let mut barn = replay_barn(&settings, &mut first, |_, _, _| {});
/// let [HorseRecord { follower, .. }] = first;
/// replay_barn_on(&mut barn, &mut [HorseRecord { follower, days: &days[1..] }], |_, _, _| {});
/// let whole = replay_barn(&settings, &mut [HorseRecord { follower: Observer::new(&course, settings), days: &days }], |_, _, _| {});
/// assert_eq!(barn.differs_from(0, &whole, 0), None);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn replay_barn_on<F: Follower, D: Borrow<Day>>(
    barn: &mut BarnWeeks,
    horses: &mut [HorseRecord<'_, F, D>],
    mut after: impl FnMut(usize, usize, &F),
) {
    let mondays = mondays(horses);
    let mut all: Vec<_> = horses.iter_mut().enumerate().map(HorseReplay::new).collect();
    for monday in mondays {
        let shown: Vec<_> =
            all.iter_mut().filter_map(|horse| Some((horse.n, horse.through_week(barn, monday, &mut after)?))).collect();
        barn.end_week(monday, &shown);
    }
}

/// The same on so many threads, where nobody looks on: within a week horses have nothing to do with each other.
pub fn replay_barn_on_threads<F: Follower + Send, D: Borrow<Day> + Sync>(
    threads: usize,
    barn: &mut BarnWeeks,
    horses: &mut [HorseRecord<'_, F, D>],
) {
    let mondays = mondays(horses);
    let mut all: Vec<_> =
        horses.iter_mut().enumerate().map(|horse| Mutex::new((HorseReplay::new(horse), None))).collect();
    for monday in mondays {
        let known = &*barn;
        threads::each(threads, &all, |(horse, shown)| *shown = horse.through_week(known, monday, &mut |_, _, _| {}));
        let shown: Vec<_> = all
            .iter_mut()
            .filter_map(|horse| {
                let (horse, shown) = horse.get_mut().unwrap_or_else(PoisonError::into_inner);
                Some((horse.n, shown.take()?))
            })
            .collect();
        barn.end_week(monday, &shown);
    }
}

/// The Mondays of all weeks in which a horse was ridden.
fn mondays<F, D: Borrow<Day>>(horses: &[HorseRecord<'_, F, D>]) -> BTreeSet<NaiveDate> {
    horses.iter().flat_map(|h| h.days.iter().map(|day| week_of(day.borrow().date))).collect()
}

/// A horse on its way through its days.
struct HorseReplay<'h, 'r, F, D> {
    /// Its place in the barn.
    n: usize,
    horse: &'h mut HorseRecord<'r, F, D>,
    /// The place of its next day.
    next: usize,
}

impl<'h, 'r, F: Follower, D: Borrow<Day>> HorseReplay<'h, 'r, F, D> {
    fn new((n, horse): (usize, &'h mut HorseRecord<'r, F, D>)) -> Self {
        HorseReplay { n, horse, next: 0 }
    }

    /// Takes in the days of a week, and tells what the horse has shown by the end of it; none where it was not ridden.
    fn through_week(
        &mut self,
        barn: &BarnWeeks,
        monday: NaiveDate,
        after: &mut impl FnMut(usize, usize, &F),
    ) -> Option<HorseWeek> {
        let HorseRecord { follower, days } = &mut *self.horse;
        let days = &days[self.next..];
        let days = &days[..days.iter().take_while(|day| week_of((*day).borrow().date) <= monday).count()];
        if days.is_empty() {
            return None;
        }
        // Before anyone has shown anything, nothing is known that was not known at first.
        if barn.starts_on(monday).is_some() {
            follower.begin_week(&barn.facts(self.n, monday));
        }
        let mut readings = ReadingTally::default();
        for day in days {
            let day = day.borrow();
            follower.follow(day);
            readings.note(follower.observer().course(), day);
            after(self.n, self.next, follower);
            self.next += 1;
        }
        Some(HorseWeek { readings, evidence: follower.observer().evidence() })
    }
}
