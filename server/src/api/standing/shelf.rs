//! Standings that were read or computed before, at hand: what is kept in the database is large, and reading it takes longer than all
//! else that a page asks for. What it was made from tells whether it is still good, so nothing has to be taken off in time.

use std::{
    collections::HashMap,
    sync::{Arc, Mutex, PoisonError},
};

use cavesson_store::standing::MadeFrom;
use uuid::Uuid;

use super::StandingOut;

/// By barn and horse.
type Key = (Uuid, Uuid);

/// The standings at hand.
#[derive(Debug, Default)]
pub(crate) struct Shelf(Mutex<HashMap<Key, (MadeFrom, Arc<StandingOut>)>>);

/// More than this many are not held: they are kept in the database all the same.
const MOST: usize = 1_000;

impl Shelf {
    pub(super) fn get(&self, key: Key, from: &MadeFrom) -> Option<Arc<StandingOut>> {
        let held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        held.get(&key).filter(|(made_from, _)| made_from == from).map(|(_, standing)| Arc::clone(standing))
    }

    pub(super) fn put(&self, key: Key, from: MadeFrom, standing: &Arc<StandingOut>) {
        let mut held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if held.len() >= MOST && !held.contains_key(&key) {
            held.clear();
        }
        // Of two requests that computed at once, the one that knew more stays.
        if held.get(&key).is_none_or(|(there, _)| (there.revision, there.as_of) <= (from.revision, from.as_of)) {
            held.insert(key, (from, Arc::clone(standing)));
        }
    }
}
