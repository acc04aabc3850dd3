//! What was worked out of logs before, at hand: reading it back or watching years of rides again takes longer than all else that a
//! page asks for. What it was made from tells whether it is still good, so nothing has to be taken off in time.

use std::{
    collections::HashMap,
    sync::{Arc, Mutex, PoisonError},
};

use cavesson_core::advice::AdvisorSnapshot;
use cavesson_store::standing::MadeFrom;
use chrono::NaiveDate;
use uuid::Uuid;

use crate::services::standing::{Record, logs::Log, response::StandingOut};

/// By barn and horse.
pub(crate) type Key = (Uuid, Uuid);

/// Something made of a horse's log.
pub(crate) trait OfLog: Clone {
    /// How much of the log was known to it: on which day, up to which count.
    fn knew(&self) -> (NaiveDate, i64);
}

/// What is at hand of each horse.
#[derive(Debug)]
pub(crate) struct Cache<T>(Mutex<HashMap<Key, T>>);

/// Something, and all that it was made from.
#[derive(Debug)]
pub(crate) struct Made<T> {
    from: MadeFrom,
    it: Arc<T>,
}

/// All that is at hand.
#[derive(Debug, Clone, Default)]
pub(crate) struct StandingCaches {
    /// Standings: they are kept in the database all the same.
    pub(crate) standings: Arc<Cache<Made<StandingOut>>>,
    /// Records that were watched to their end.
    pub(crate) watched: Arc<Cache<Made<WatchedRecord>>>,
    /// Logs, whatever was worked out of them.
    pub(crate) logs: Arc<Cache<Log>>,
}

/// A record, and the advisor that has watched all of it.
#[derive(Debug)]
pub(crate) struct WatchedRecord {
    pub(crate) record: Record,
    pub(crate) advisor: AdvisorSnapshot,
}

/// Where this many are held, all are let go before another comes: memory stays within bounds.
const MOST: usize = 400;

impl<T> Default for Cache<T> {
    fn default() -> Self {
        Cache(Mutex::default())
    }
}

impl<T: OfLog> Cache<T> {
    /// What is there, if it is still good.
    pub(crate) fn find(&self, key: Key, is_good: impl Fn(&T) -> bool) -> Option<T> {
        let held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        held.get(&key).filter(|it| is_good(it)).cloned()
    }

    /// Of two that were made at once, the one that knew more stays.
    pub(crate) fn hold(&self, key: Key, it: T) {
        let mut held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if held.len() >= MOST && !held.contains_key(&key) {
            held.clear();
        }
        if held.get(&key).is_none_or(|there| there.knew() <= it.knew()) {
            held.insert(key, it);
        }
    }
}

impl<T> Cache<Made<T>> {
    pub(crate) fn get(&self, key: Key, from: &MadeFrom) -> Option<Arc<T>> {
        self.find(key, |made| made.from == *from).map(|made| made.it)
    }

    pub(crate) fn put(&self, key: Key, from: MadeFrom, it: &Arc<T>) {
        self.hold(key, Made { from, it: Arc::clone(it) });
    }
}

impl<T> Clone for Made<T> {
    fn clone(&self) -> Self {
        Made { from: self.from.clone(), it: Arc::clone(&self.it) }
    }
}

impl<T> OfLog for Made<T> {
    fn knew(&self) -> (NaiveDate, i64) {
        (self.from.as_of, self.from.revision)
    }
}
