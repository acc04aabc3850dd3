//! One at a time computes something: whoever else asks for the same waits, and finds it done.

use std::hash::{BuildHasher, Hash, RandomState};

use tokio::sync::{Mutex, MutexGuard};

/// Different things rarely wait for each other, and never for ever.
const STRIPES: usize = 512;

/// Locks by key.
#[derive(Debug)]
pub(crate) struct Flights {
    stripes: Vec<Mutex<()>>,
    hash: RandomState,
}

impl Default for Flights {
    fn default() -> Self {
        Flights { stripes: (0..STRIPES).map(|_| Mutex::default()).collect(), hash: RandomState::new() }
    }
}

impl Flights {
    /// Waits until nobody else is at any of some keys, and keeps the others out until it is dropped. Whoever holds some asks for no more.
    pub(crate) async fn alone<K: Hash>(&self, keys: impl IntoIterator<Item = K>) -> Vec<MutexGuard<'_, ()>> {
        let mut stripes: Vec<usize> = keys.into_iter().map(|key| self.hash.hash_one(key) as usize % STRIPES).collect();
        // All take them in the same order, so that no two wait for each other.
        stripes.sort_unstable();
        stripes.dedup();
        let mut held = vec![];
        for stripe in stripes {
            held.push(self.stripes[stripe].lock().await);
        }
        held
    }
}
