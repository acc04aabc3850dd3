//! What was computed from logs before, cached: reading it back or watching years of rides again takes longer than all else that a
//! page asks for. What it was made from tells whether it is still good, so nothing has to be taken off in time.

use std::{sync::Arc, time::Duration};

use cavesson_store::standing::ComputedFrom;
use chrono::NaiveDate;
use moka::ops::compute::Op;
use uuid::Uuid;

/// By barn and horse.
pub(crate) type Key = (Uuid, Uuid);

/// Something made of a horse's log.
pub(crate) trait OfLog: Clone {
    /// How much of the log was known to it: on which day, up to which count.
    fn knew(&self) -> (NaiveDate, i64);
}

/// How long something stays that nobody asks for.
const IDLE: Duration = Duration::from_secs(24 * 60 * 60);
/// Horses of which something is kept: memory stays within bounds.
const MOST: u64 = 400;

/// What is cached of each horse.
#[derive(Debug)]
pub(crate) struct Cache<T: Clone + Send + Sync + 'static>(moka::sync::Cache<Key, T>);

/// Something, and all that it was made from.
#[derive(Debug)]
pub(crate) struct Made<T> {
    from: ComputedFrom,
    it: Arc<T>,
}

impl<T: Clone + Send + Sync + 'static> Default for Cache<T> {
    fn default() -> Self {
        Cache(moka::sync::Cache::builder().max_capacity(MOST).time_to_idle(IDLE).build())
    }
}

impl<T: OfLog + Send + Sync + 'static> Cache<T> {
    /// What is there, if it is still good.
    pub(crate) fn find(&self, key: Key, is_good: impl Fn(&T) -> bool) -> Option<T> {
        self.0.get(&key).filter(|it| is_good(it))
    }

    /// Of two that were made at once, the one that knew more stays.
    pub(crate) fn hold(&self, key: Key, it: T) {
        self.0.entry(key).and_compute_with(|there| match there {
            Some(there) if there.value().knew() > it.knew() => Op::Nop,
            _ => Op::Put(it),
        });
    }
}

impl<T: Send + Sync + 'static> Cache<Made<T>> {
    pub(crate) fn get(&self, key: Key, from: &ComputedFrom) -> Option<Arc<T>> {
        self.find(key, |made| made.from == *from).map(|made| made.it)
    }

    pub(crate) fn put(&self, key: Key, from: ComputedFrom, it: &Arc<T>) {
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
