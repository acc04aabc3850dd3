//! All horses of a barn taken through their days together, from the first or from a snapshot: nothing here touches the database.

use std::sync::Arc;

use cavesson_core::{
    advice::{
        Follower, HorseRecord, ObserverSnapshot, Posture, TrainerInput, WatchedHistory, WatchingAdvisor, kept_mornings,
        replay_barn_on_threads,
    },
    belief::{BarnFacts, BarnWeeks, Day, ModelSettings, Observer},
};
use chrono::NaiveDate;
use uuid::Uuid;

use crate::services::{book::Book, standing::logs::LogDays};

/// The horses of a barn, by id, with their curricula and all their days.
#[derive(Debug)]
pub(super) struct BarnDays {
    pub(super) horses: Vec<Uuid>,
    pub(super) books: Vec<Arc<Book>>,
    pub(super) days: Vec<LogDays>,
}

/// A barn on the morning of a Monday.
#[derive(Debug)]
pub(super) struct BarnSnapshot {
    on: NaiveDate,
    weeks: BarnWeeks,
    of: BarnDays,
    observers: Vec<ObserverSnapshot>,
}

/// How calls are made on a horse, and what was written down of it.
pub(super) type CallInput = (Posture, TrainerInput);

/// The days that a pass over a barn goes by.
#[derive(Debug, Clone, Copy)]
pub(super) struct BarnDates {
    pub(super) today: NaiveDate,
    /// The Monday of its week: what was logged since is of no other horse's concern.
    pub(super) monday: NaiveDate,
    /// A Monday before that, of which a snapshot is made.
    pub(super) snapshot_on: NaiveDate,
}

/// What came of it.
#[derive(Debug)]
pub(super) struct WatchedBarn {
    pub(super) weeks: Arc<BarnWeeks>,
    pub(super) snapshot: BarnSnapshot,
    /// The history of each horse by its place, where an advisor went with it.
    pub(super) histories: Vec<Option<WatchedHistory>>,
}

impl BarnDays {
    /// What all have shown by Monday. Taken up from an older snapshot where nothing before that was changed since; the result is the same.
    /// From the first day on, an advisor goes with each horse that calls are made on (`calls`, in the order of the horses), so that its days
    /// are not gone through a second time for them.
    pub(super) fn watch(
        &self,
        before: Option<&BarnSnapshot>,
        calls: Vec<Option<CallInput>>,
        dates: BarnDates,
        threads: usize,
    ) -> WatchedBarn {
        let good = before.filter(|b| b.on <= dates.snapshot_on && b.is_good_for(self));
        let settings = ModelSettings::default();
        let (from, mut weeks, mut followers): (_, _, Vec<BarnFollower<'_>>) = match good {
            Some(b) => (b.on, b.weeks.clone(), self.restored(&b.observers)),
            None => {
                let weeks = BarnWeeks::new(&settings, self.horses.len());
                (NaiveDate::MIN, weeks, self.at_first(calls, settings, dates))
            }
        };
        followers = self.replay(threads, &mut weeks, followers, (from, dates.snapshot_on));
        let of = BarnDays { horses: self.horses.clone(), books: self.books.clone(), days: self.days.clone() };
        let observers = followers.iter().map(|f| f.observer().clone().snapshot()).collect();
        let snapshot = BarnSnapshot { on: dates.snapshot_on, weeks: weeks.clone(), of, observers };
        followers = self.replay(threads, &mut weeks, followers, (dates.snapshot_on, dates.monday));
        let weeks = Arc::new(weeks);
        let history = |(n, follower)| match follower {
            BarnFollower::Advisor(advisor) => advisor.watched(Arc::clone(&weeks), n),
            BarnFollower::Observer(_) => None,
        };
        let histories = followers.into_iter().enumerate().map(history).collect();
        WatchedBarn { weeks, snapshot, histories }
    }

    fn restored(&self, observers: &[ObserverSnapshot]) -> Vec<BarnFollower<'_>> {
        let mut all = vec![];
        for (observer, book) in observers.iter().zip(&self.books) {
            all.push(BarnFollower::Observer(Box::new(observer.restore(&book.course))));
        }
        all
    }

    fn at_first(
        &self,
        calls: Vec<Option<CallInput>>,
        settings: ModelSettings,
        dates: BarnDates,
    ) -> Vec<BarnFollower<'_>> {
        let keep = kept_mornings(dates.today);
        let mut all = vec![];
        for ((book, days), calls) in self.books.iter().zip(&self.days).zip(calls) {
            let course = &book.course;
            all.push(match calls {
                Some((posture, input)) => {
                    let days = Arc::new(days[..place(days, dates.monday)].to_vec());
                    BarnFollower::Advisor(Box::new(WatchingAdvisor::new(
                        course,
                        (posture, settings),
                        input,
                        days,
                        &keep,
                    )))
                }
                None => BarnFollower::Observer(Box::new(Observer::new(course, settings))),
            });
        }
        all
    }

    /// Takes all through the days from a Monday to before another.
    fn replay<'a>(
        &self,
        threads: usize,
        weeks: &mut BarnWeeks,
        followers: Vec<BarnFollower<'a>>,
        (from, until): (NaiveDate, NaiveDate),
    ) -> Vec<BarnFollower<'a>> {
        let mut all = vec![];
        for (follower, days) in followers.into_iter().zip(&self.days) {
            let days = &days[place(days, from)..place(days, until)];
            all.push(HorseRecord { follower, days });
        }
        replay_barn_on_threads(threads, weeks, &mut all);
        all.into_iter().map(|horse| horse.follower).collect()
    }
}

/// Who goes with a horse: where no calls are made, it is only looked at.
enum BarnFollower<'a> {
    Observer(Box<Observer<'a>>),
    Advisor(Box<WatchingAdvisor<'a>>),
}

impl Follower for BarnFollower<'_> {
    fn begin_week(&mut self, facts: &BarnFacts) {
        match self {
            BarnFollower::Observer(observer) => observer.begin_week(facts),
            BarnFollower::Advisor(advisor) => advisor.begin_week(facts),
        }
    }

    fn follow(&mut self, day: &Day) {
        match self {
            BarnFollower::Observer(observer) => observer.follow(day),
            BarnFollower::Advisor(advisor) => advisor.follow(day),
        }
    }

    fn observer(&self) -> &Observer<'_> {
        match self {
            BarnFollower::Observer(observer) => observer,
            BarnFollower::Advisor(advisor) => advisor.observer(),
        }
    }
}

/// The place of the first day from a date on.
fn place(days: &[Arc<Day>], date: NaiveDate) -> usize {
    days.partition_point(|d| d.date < date)
}

impl BarnSnapshot {
    /// Whether a barn has the same horses and, before it, the same days and what they were held to.
    fn is_good_for(&self, barn: &BarnDays) -> bool {
        let before = |days: &LogDays| place(days, self.on);
        let same_days = |(a, b): (&LogDays, &LogDays)| {
            let (a, b) = (&a[..before(a)], &b[..before(b)]);
            a.len() == b.len() && a.iter().zip(b).all(|(a, b)| Arc::ptr_eq(a, b) || a == b)
        };
        let same_books = |(a, b): (&Arc<Book>, &Arc<Book>)| {
            Arc::ptr_eq(a, b) || a.course.differs_from(&b.course).is_none_or(|from| from >= self.on)
        };
        self.of.horses == barn.horses
            && self.of.books.iter().zip(&barn.books).all(same_books)
            && self.of.days.iter().zip(&barn.days).all(same_days)
    }

    /// About how many bytes its observers take up.
    pub(super) fn bytes(&self) -> usize {
        self.observers.iter().map(ObserverSnapshot::bytes).sum()
    }
}
