//! What was worked out of logs before, at hand: reading it back or watching years of rides again takes longer than all else that a
//! page asks for. What it was made from tells whether it is still good, so nothing has to be taken off in time.

use std::{
    collections::HashMap,
    sync::{Arc, Mutex, PoisonError},
};

use cavesson_core::advice::Stored;
use cavesson_store::standing::MadeFrom;
use uuid::Uuid;

use super::{Record, StandingOut, logs::Logs};

/// By barn and horse.
type Key = (Uuid, Uuid);

/// What is at hand of each horse.
#[derive(Debug)]
pub(super) struct Shelf<T>(Mutex<HashMap<Key, (MadeFrom, Arc<T>)>>);

/// All that is at hand.
#[derive(Debug, Clone, Default)]
pub(crate) struct AtHand {
    /// Standings: they are kept in the database all the same.
    pub(super) standings: Arc<Shelf<StandingOut>>,
    /// Records that were watched to their end.
    pub(super) watched: Arc<Shelf<WatchedRecord>>,
    /// Logs, whatever was worked out of them.
    pub(super) logs: Arc<Logs>,
}

/// A record, and the advisor that has watched all of it.
#[derive(Debug)]
pub(super) struct WatchedRecord {
    pub(super) record: Record,
    pub(super) advisor: Stored,
}

/// More than this many are not held, so that memory stays within bounds.
const MOST: usize = 400;

impl<T> Default for Shelf<T> {
    fn default() -> Self {
        Shelf(Mutex::default())
    }
}

impl<T> Shelf<T> {
    pub(super) fn get(&self, key: Key, from: &MadeFrom) -> Option<Arc<T>> {
        let held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        held.get(&key).filter(|(made_from, _)| made_from == from).map(|(_, it)| Arc::clone(it))
    }

    pub(super) fn put(&self, key: Key, from: MadeFrom, it: &Arc<T>) {
        let mut held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if held.len() >= MOST && !held.contains_key(&key) {
            held.clear();
        }
        // Of two requests that computed at once, the one that knew more stays.
        if held.get(&key).is_none_or(|(there, _)| (there.revision, there.as_of) <= (from.revision, from.as_of)) {
            held.insert(key, (from, Arc::clone(it)));
        }
    }
}
