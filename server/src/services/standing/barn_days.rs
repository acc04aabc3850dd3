//! All horses of a barn taken through their days together, from the first or from a snapshot: nothing here touches the database.

use std::sync::Arc;

use cavesson_core::{
    advice::{HorseRecord, ObserverSnapshot, replay_barn_on},
    belief::{BarnWeeks, Day, ModelSettings, Observer},
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

impl BarnDays {
    /// What all have shown by `until`, and a snapshot on a Monday before it. Taken up from an older snapshot where nothing before that
    /// was changed since; the result is the same.
    pub(super) fn watch(
        &self,
        before: Option<&BarnSnapshot>,
        snapshot_on: NaiveDate,
        until: NaiveDate,
    ) -> (BarnWeeks, BarnSnapshot) {
        let good = before.filter(|b| b.on <= snapshot_on && b.is_good_for(self));
        let settings = ModelSettings::default();
        let blank = |book: &Arc<Book>| Observer::new(&book.course, settings).snapshot();
        let (from, mut weeks, observers) = match good {
            Some(b) => (b.on, b.weeks.clone(), b.observers.clone()),
            None => {
                let weeks = BarnWeeks::new(&settings, self.horses.len());
                (NaiveDate::MIN, weeks, self.books.iter().map(blank).collect())
            }
        };
        let observers = self.replay(&mut weeks, observers, from, snapshot_on);
        let of = BarnDays { horses: self.horses.clone(), books: self.books.clone(), days: self.days.clone() };
        let snapshot = BarnSnapshot { on: snapshot_on, weeks: weeks.clone(), of, observers: observers.clone() };
        self.replay(&mut weeks, observers, snapshot_on, until);
        (weeks, snapshot)
    }

    /// Takes all through the days from a Monday to before another.
    fn replay(
        &self,
        weeks: &mut BarnWeeks,
        observers: Vec<ObserverSnapshot>,
        from: NaiveDate,
        until: NaiveDate,
    ) -> Vec<ObserverSnapshot> {
        let mut all = vec![];
        for ((days, book), observer) in self.days.iter().zip(&self.books).zip(observers) {
            let days = &days[place(days, from)..place(days, until)];
            all.push(HorseRecord { follower: observer.restore(&book.course), days });
        }
        replay_barn_on(weeks, &mut all, |_, _, _| {});
        all.into_iter().map(|horse| horse.follower.snapshot()).collect()
    }
}

/// The place of the first day from a date on.
fn place(days: &[Arc<Day>], date: NaiveDate) -> usize {
    days.partition_point(|d| d.date < date)
}

impl BarnSnapshot {
    /// Whether a barn has the same horses, the same curricula and the same days before it.
    fn is_good_for(&self, barn: &BarnDays) -> bool {
        let before = |days: &LogDays| place(days, self.on);
        let same_days = |(a, b): (&LogDays, &LogDays)| {
            let (a, b) = (&a[..before(a)], &b[..before(b)]);
            a.len() == b.len() && a.iter().zip(b).all(|(a, b)| Arc::ptr_eq(a, b) || a == b)
        };
        self.of.horses == barn.horses
            && self.of.books.iter().zip(&barn.books).all(|(a, b)| a.fingerprint == b.fingerprint)
            && self.of.days.iter().zip(&barn.days).all(same_days)
    }

    /// About how many bytes its observers take up.
    pub(super) fn bytes(&self) -> usize {
        self.observers.iter().map(ObserverSnapshot::bytes).sum()
    }
}
