//! Everything that is cached of the horses.

use std::sync::Arc;

use cavesson_core::advice::AdvisorSnapshot;

use crate::services::standing::{
    barn_weeks::BarnCache,
    cache::{Cache, Made},
    compute::Record,
    logs::Log,
    response::StandingOut,
};

/// All caches of the horses.
#[derive(Debug, Clone, Default)]
pub(crate) struct StandingCaches {
    /// Standings: they are kept in the database all the same.
    pub(crate) standings: Arc<Cache<Made<StandingOut>>>,
    /// Records that were watched to their end.
    pub(crate) watched: Arc<Cache<Made<WatchedRecord>>>,
    /// Logs, whatever was worked out of them.
    pub(crate) logs: Arc<Cache<Log>>,
    /// What each barn's horses had shown week by week.
    pub(crate) barns: Arc<BarnCache>,
}

/// A record, and the advisor that has watched all of it.
#[derive(Debug)]
pub(crate) struct WatchedRecord {
    pub(crate) record: Record,
    pub(crate) advisor: AdvisorSnapshot,
}
