//! Everything that is cached of the horses, within bounds of memory.

use std::sync::Arc;

use crate::services::{
    flights::Flights,
    standing::{
        barn_weeks::BarnCache,
        cache::{Cache, Made, Weighed},
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
            barns: Arc::default(),
            horses_at_work: Arc::default(),
        }
    }
}

impl Weighed for WatchedRecord {
    fn bytes(&self) -> usize {
        self.watched.bytes()
    }
}

impl Weighed for StandingOut {
    fn bytes(&self) -> usize {
        // A step with its sides, reasons and forecast; the rest of a standing is small beside them.
        2_000 + 3_000 * (self.steps.len() + self.waiting.len())
    }
}
