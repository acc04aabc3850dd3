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
    /// About how many bytes it takes up.
    fn bytes(&self) -> usize;

    /// How much of the log was known to it: on which day, up to which count.
    fn knew(&self) -> (NaiveDate, i64);
}

/// How long something stays that nobody asks for.
const IDLE: Duration = Duration::from_secs(24 * 60 * 60);

/// What is cached of each horse, up to so many bytes: what is asked for least goes first.
#[derive(Debug)]
pub(crate) struct Cache<T: Clone + Send + Sync + 'static>(moka::sync::Cache<Key, T>);

/// Something of which its size is known.
pub(crate) trait Weighed {
    /// About how many bytes it takes up.
    fn bytes(&self) -> usize;
}

/// Something, and all that it was made from.
#[derive(Debug)]
pub(crate) struct Made<T> {
    from: ComputedFrom,
    it: Arc<T>,
}

impl<T: OfLog + Send + Sync + 'static> Cache<T> {
    /// An empty cache that holds this many bytes.
    pub(crate) fn of_bytes(most: u64) -> Self {
        let weigh = |_: &Key, it: &T| u32::try_from(it.bytes()).unwrap_or(u32::MAX);
        Cache(moka::sync::Cache::builder().max_capacity(most).weigher(weigh).time_to_idle(IDLE).build())
    }

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

impl<T: Weighed + Send + Sync + 'static> Cache<Made<T>> {
    /// What was made last, whether or not it is still good.
    pub(crate) fn latest(&self, key: Key) -> Option<Arc<T>> {
        self.0.get(&key).map(|made| made.it)
    }

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

impl<T: Weighed> OfLog for Made<T> {
    fn bytes(&self) -> usize {
        self.it.bytes()
    }

    fn knew(&self) -> (NaiveDate, i64) {
        (self.from.as_of, self.from.revision)
    }
}
