//! A horse's record that was watched to its end, with snapshots from along the way: after a rep only its day is watched again, and not
//! the horse's whole life.

use std::{collections::BTreeSet, sync::Arc};

use chrono::{Datelike, Days, NaiveDate};

use super::{Advisor, AdvisorSnapshot, Posture, TrainerInput};
use crate::{
    belief::{BarnWeeks, Day, ModelSettings},
    curriculum::Course,
};

/// All that the calls on a horse follow from.
#[derive(Debug, Clone)]
pub struct History {
    /// The course that it is on.
    pub course: Arc<Course>,
    /// How sure the trainer wants to be.
    pub posture: Posture,
    /// The settings of the model.
    pub settings: ModelSettings,
    /// What was written down beside the reps.
    pub trainer_input: TrainerInput,
    /// The days, in their order.
    pub days: Arc<Vec<Arc<Day>>>,
    /// What its barn had shown, week by week.
    pub barn: Arc<BarnWeeks>,
    /// The place of the horse in that.
    pub horse: usize,
}

/// A history that was watched, and the advisor at some mornings of it and at its end.
#[derive(Debug, Clone)]
pub struct WatchedHistory {
    history: History,
    /// By the number of days that were watched before.
    snapshots: Vec<(usize, Arc<AdvisorSnapshot>)>,
    watched: usize,
}

impl WatchedHistory {
    /// Watches a history. What `before` has seen of it is not watched again. Snapshots are kept of the end, of the morning of the last day,
    /// and of the morning of the first day from each date in `keep` on. The result is the same, to the last bit, whatever was watched
    /// before.
    ///
    /// ```
    /// use std::sync::Arc;
    /// use cavesson_core::{
    ///     advice::{History, Posture, TrainerInput, WatchedHistory},
    ///     belief::{BarnWeeks, Day, ModelSettings, Work},
    ///     curriculum::{Course, Gait, Side, Sides, Step},
    ///     response::{Answer, Rep, Standard, Weight},
    /// };
    /// let course = Course::new(vec![(Step::plain("flex", Gait::Stand, Sides::Each, Standard::default()), vec![])])?;
    /// let course = Arc::new(course);
    /// let rep = Rep { answer: Answer::Gave, weight: Weight::Egg, time: None };
    /// let day = |d: u32, reps| Arc::new(Day::new(format!("2026-03-{d:02}").parse().unwrap(), vec![Work::reps(0, Side::Left, vec![rep; reps])]));
    /// let settings = ModelSettings::default();
    /// let mut history = History {
    ///     course,
    ///     posture: Posture::Steady,
    ///     settings,
    ///     trainer_input: TrainerInput::default(),
    ///     days: Arc::new((1..=20).map(|d| day(d, 8)).collect()),
    ///     barn: Arc::new(BarnWeeks::new(&settings, 1)),
    ///     horse: 0,
    /// };
    /// let before = WatchedHistory::watch(history.clone(), None, &[]);
    /// assert_eq!(before.days_watched(), 20);
    /// Arc::make_mut(&mut history.days)[19] = day(20, 9);
    /// let after = WatchedHistory::watch(history, Some(&before), &[]);
    /// assert_eq!(after.days_watched(), 1, "one more rep costs a day");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn watch(history: History, before: Option<&WatchedHistory>, keep: &[NaiveDate]) -> WatchedHistory {
        let len = history.days.len();
        let wanted = mornings(&history.days, keep);
        let good = before.map_or(vec![], |before| before.good_for(&history));
        let is_there = |at: &usize| good.iter().any(|(n, _)| n == at);
        let missing = wanted.iter().copied().find(|at| !is_there(at));
        let mut snapshots: Vec<_> =
            good.iter().filter(|(n, _)| wanted.contains(n) && missing.is_none_or(|m| *n < m)).cloned().collect();
        let Some(missing) = missing else { return WatchedHistory { history, snapshots, watched: 0 } };
        let start = good.iter().rfind(|(n, _)| *n < missing);
        let from = start.map_or(0, |(n, _)| *n);
        let mut advisor = match start {
            Some((_, snapshot)) => history.restore(snapshot),
            None => Advisor::with(&history.course, history.posture, history.settings, history.trainer_input.clone()),
        };
        let mut known = from.checked_sub(1).and_then(|last| history.barn.starts_on(history.days[last].date));
        for (n, day) in history.days.iter().enumerate().skip(from) {
            if n >= missing && wanted.contains(&n) {
                snapshots.push((n, Arc::new(advisor.clone().snapshot())));
            }
            let starts = history.barn.starts_on(day.date);
            if starts != known {
                advisor.begin_week(&history.barn.facts(history.horse, day.date));
                known = starts;
            }
            let _in_order = advisor.watch(day);
        }
        snapshots.push((len, Arc::new(advisor.snapshot())));
        WatchedHistory { history, snapshots, watched: len - from }
    }

    /// A history that an advisor has watched already, with its snapshots by the number of days before them.
    pub(super) fn of(history: History, snapshots: Vec<(usize, Arc<AdvisorSnapshot>)>) -> WatchedHistory {
        let watched = history.days.len();
        WatchedHistory { history, snapshots, watched }
    }

    /// How many days were watched for it.
    pub fn days_watched(&self) -> usize {
        self.watched
    }

    /// About how many bytes its snapshots take up.
    pub fn bytes(&self) -> usize {
        self.snapshots.iter().map(|(_, snapshot)| snapshot.bytes()).sum()
    }

    /// What was watched.
    pub fn history(&self) -> &History {
        &self.history
    }

    /// The advisor that has seen all of it.
    pub fn at_end(&self) -> Advisor<'_> {
        self.at(self.history.days.len()).unwrap_or_else(|| unreachable!("the end is always kept"))
    }

    /// The snapshot behind [`WatchedHistory::on_morning`]: where it is the one of an earlier watching, so is what follows from it.
    pub fn snapshot_of(&self, date: NaiveDate) -> Option<&Arc<AdvisorSnapshot>> {
        let at = self.history.day_from(date);
        self.snapshots.iter().find(|(n, _)| *n == at && at < self.history.days.len()).map(|(_, snapshot)| snapshot)
    }

    /// The advisor on the morning of the first day from a date on that was to be kept, or on that of the last day; `None` where no day
    /// came since.
    pub fn on_morning(&self, date: NaiveDate) -> Option<Advisor<'_>> {
        let at = self.history.day_from(date);
        (at < self.history.days.len()).then(|| self.at(at))?
    }

    fn at(&self, days: usize) -> Option<Advisor<'_>> {
        let (_, snapshot) = self.snapshots.iter().find(|(n, _)| *n == days)?;
        Some(self.history.restore(snapshot))
    }

    /// The snapshots that another history would have come to as well.
    fn good_for(&self, history: &History) -> Vec<(usize, Arc<AdvisorSnapshot>)> {
        let Some(agreed) = self.history.agrees_for(history) else { return vec![] };
        self.snapshots.iter().filter(|(n, _)| *n <= agreed).cloned().collect()
    }
}

/// How many days ago the forecast is compared with.
pub const FORECAST_BEFORE: u64 = 28;

/// The morning after the day that today's forecast is compared with.
pub fn foreseen_from(today: NaiveDate) -> NaiveDate {
    today - Days::new(FORECAST_BEFORE) + Days::new(1)
}

/// The mornings that a history is taken up from again. What is corrected is mostly of the last weeks, and else mostly of the last months:
/// the second is the first day of the last quarter that began two months ago or before, which stays the same for three months.
///
/// ```
/// use cavesson_core::advice::kept_mornings;
/// let kept = kept_mornings("2026-11-29".parse()?);
/// assert_eq!(kept.map(|day| day.to_string()), ["2026-11-02", "2026-07-01"]);
/// # Ok::<(), chrono::ParseError>(())
/// ```
pub fn kept_mornings(today: NaiveDate) -> [NaiveDate; 2] {
    let day = today - Days::new(60);
    let quarter = NaiveDate::from_ymd_opt(day.year(), day.month0() / 3 * 3 + 1, 1).unwrap_or(day);
    [foreseen_from(today), quarter]
}

/// The mornings of which a snapshot is kept, by the number of days before them: those that are asked for, that of the last day, and the end.
pub(super) fn mornings(days: &[Arc<Day>], keep: &[NaiveDate]) -> BTreeSet<usize> {
    let mut wanted: BTreeSet<usize> = keep.iter().map(|&date| day_from(days, date)).collect();
    wanted.extend([days.len().saturating_sub(1), days.len()]);
    wanted
}

/// The place of the first day from a date on.
fn day_from(days: &[Arc<Day>], date: NaiveDate) -> usize {
    days.partition_point(|d| d.date < date)
}

impl History {
    fn day_from(&self, date: NaiveDate) -> usize {
        day_from(&self.days, date)
    }

    fn restore(&self, snapshot: &AdvisorSnapshot) -> Advisor<'_> {
        let mut advisor = snapshot.restore(&self.course);
        // What was written down after the snapshot steers what comes after it.
        advisor.trainer_input = self.trainer_input.clone();
        advisor
    }

    /// After how many days both have come to the same; none where they never did, not before the first day either.
    fn agrees_for(&self, other: &History) -> Option<usize> {
        let is_same = Arc::ptr_eq(&self.course, &other.course);
        let of_course = if is_same { None } else { self.course.differs_from(&other.course) };
        if self.posture != other.posture || self.settings != other.settings || of_course == Some(NaiveDate::MIN) {
            return None;
        }
        let same = |(a, b): &(&Arc<Day>, &Arc<Day>)| Arc::ptr_eq(a, b) || a == b;
        let days = self.days.iter().zip(other.days.iter()).take_while(same).count();
        let of_barn = self.barn.differs_from(self.horse, &other.barn, other.horse);
        let of_input = self.trainer_input.differs_from(&other.trainer_input);
        let apart = [of_barn, of_input, of_course].into_iter().flatten().map(|date| self.day_from(date));
        Some(apart.fold(days, usize::min))
    }
}

impl TrainerInput {
    /// The first day for which something else was written down.
    fn differs_from(&self, other: &TrainerInput) -> Option<NaiveDate> {
        let overrules = first_apart(&self.overrules, &other.overrules, |o| o.on);
        let findings = first_apart(&sorted(&self.findings), &sorted(&other.findings), |f| *f);
        let changes = first_apart(&sorted(&self.changes), &sorted(&other.changes), |c| c.0);
        [overrules, findings, changes].into_iter().flatten().min()
    }
}

fn sorted<T: Ord + Clone>(list: &[T]) -> Vec<T> {
    let mut list = list.to_vec();
    list.sort_unstable();
    list
}

/// The day from which two lists in order of their days are not the same.
fn first_apart<T: PartialEq>(a: &[T], b: &[T], day: impl Fn(&T) -> NaiveDate) -> Option<NaiveDate> {
    let same = a.iter().zip(b).take_while(|(a, b)| a == b).count();
    a.get(same).into_iter().chain(b.get(same)).map(day).min()
}
