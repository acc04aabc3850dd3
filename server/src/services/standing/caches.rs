//! Everything that is cached of the horses, within bounds of memory.

use std::sync::Arc;

use cavesson_core::advice::WatchedHistory;

use crate::services::{
    flights::Flights,
    standing::{
        barn_weeks::BarnCache,
        cache::{Cache, Key, Made, Weighed},
        compute::WatchedRecord,
        logs::Log,
        response::StandingOut,
    },
};

const MB: u64 = 1 << 20;

/// All caches of the horses.
#[derive(Debug, Clone)]
pub(crate) struct StandingCaches {
    /// Standings: they are kept in the database all the same.
    pub(crate) standings: Arc<Cache<Made<StandingOut>>>,
    /// Records that were watched to their end.
    pub(crate) watched: Arc<Cache<Made<WatchedRecord>>>,
    /// Logs, whatever was worked out of them.
    pub(crate) logs: Arc<Cache<Log>>,
    /// Histories that were watched together with their barn, until someone asks for the horse.
    pub(crate) with_barn: Arc<WatchedWithBarn>,
    /// What each barn's horses had shown week by week.
    pub(crate) barns: Arc<BarnCache>,
    /// What of a horse is computed just now.
    pub(crate) horses_at_work: Arc<Flights>,
}

impl Default for StandingCaches {
    fn default() -> Self {
        StandingCaches {
            standings: Arc::new(Cache::of_bytes(64 * MB)),
            watched: Arc::new(Cache::of_bytes(192 * MB)),
            logs: Arc::new(Cache::of_bytes(192 * MB)),
            with_barn: Arc::default(),
            barns: Arc::default(),
            horses_at_work: Arc::default(),
        }
    }
}

/// Histories up to Monday.
#[derive(Debug)]
pub(crate) struct WatchedWithBarn(moka::sync::Cache<Key, Arc<WatchedHistory>>);

impl Default for WatchedWithBarn {
    fn default() -> Self {
        let weigh = |_: &Key, it: &Arc<WatchedHistory>| u32::try_from(it.bytes()).unwrap_or(u32::MAX);
        WatchedWithBarn(moka::sync::Cache::builder().max_capacity(128 * MB).weigher(weigh).build())
    }
}

impl WatchedWithBarn {
    pub(crate) fn put(&self, key: Key, history: WatchedHistory) {
        self.0.insert(key, Arc::new(history));
    }

    /// The history of a horse, once: what is watched on from it is kept elsewhere.
    pub(crate) fn take(&self, key: Key) -> Option<Arc<WatchedHistory>> {
        self.0.remove(&key)
    }
}

impl Weighed for WatchedRecord {
    fn bytes(&self) -> usize {
        self.watched.bytes() + self.record.log.bytes()
    }
}

impl Weighed for StandingOut {
    fn bytes(&self) -> usize {
        // A step with its sides, reasons and forecast; the rest of a standing is small beside them.
        2_000 + 3_000 * (self.steps.len() + self.waiting.len())
    }
}
