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

#[cfg(test)]
mod tests {
    use std::sync::{
        Arc,
        atomic::{AtomicUsize, Ordering},
    };

    use super::Flights;

    #[tokio::test(flavor = "multi_thread", worker_threads = 4)]
    async fn one_at_a_time_is_at_a_key_and_nobody_waits_for_ever() {
        let flights = Arc::new(Flights::default());
        let at_work: Arc<Vec<AtomicUsize>> = Arc::new((0..8).map(|_| AtomicUsize::new(0)).collect());
        let tasks = (0..200_usize).map(|n| {
            let (flights, at_work) = (Arc::clone(&flights), Arc::clone(&at_work));
            // Overlapping keys, in either order.
            let mut keys: Vec<usize> = (0..3).map(|k| (n + k * (1 + n % 3)) % 8).collect();
            if n % 2 == 0 {
                keys.reverse();
            }
            tokio::spawn(async move {
                let _alone = flights.alone(&keys).await;
                keys.iter().for_each(|k| assert_eq!(at_work[*k].fetch_add(1, Ordering::SeqCst), 0, "key {k}"));
                tokio::task::yield_now().await;
                keys.iter().for_each(|k| assert_eq!(at_work[*k].fetch_sub(1, Ordering::SeqCst), 1, "key {k}"));
            })
        });
        for task in tasks.collect::<Vec<_>>() {
            task.await.unwrap();
        }
    }
}
