//! Computing off the threads that answer requests, so many at a time and no more.
//!
//! What takes milliseconds or more runs here: standings, plans, the judging of a week. Of more than there are cores the others wait
//! for their turn; of more than may wait, the rest is told to come again. A search for a week takes seconds, so searches have a pool
//! of their own: pages do not wait behind them.

use std::{
    sync::{
        Arc,
        atomic::{AtomicUsize, Ordering},
    },
    time::Instant,
};

use metrics::{counter, gauge, histogram};
use tokio::sync::Semaphore;

use crate::Problem;

/// A bounded pool.
#[derive(Debug, Clone)]
pub(crate) struct ComputePool {
    /// What its figures go by.
    name: &'static str,
    slots: Arc<Semaphore>,
    waiting: Arc<AtomicUsize>,
    most_waiting: usize,
    /// Seconds after which someone who was sent away may come again.
    retry_after: u64,
}

/// Counts someone who waits, until they do not any more.
struct Waiting<'w>(&'w AtomicUsize);

impl Drop for Waiting<'_> {
    fn drop(&mut self) {
        self.0.fetch_sub(1, Ordering::Relaxed);
    }
}

impl ComputePool {
    /// A pool of `slots` at a time, with room for `most_waiting` more.
    pub(crate) fn new(name: &'static str, slots: usize, most_waiting: usize, retry_after: u64) -> ComputePool {
        ComputePool { name, slots: Arc::new(Semaphore::new(slots)), waiting: Arc::default(), most_waiting, retry_after }
    }

    /// Computes something once it is its turn.
    ///
    /// # Errors
    /// 503 with `Retry-After` where too many wait already; 500 where the work panics.
    pub(crate) async fn run<T: Send + 'static>(&self, work: impl FnOnce() -> T + Send + 'static) -> Result<T, Problem> {
        let before = self.waiting.fetch_add(1, Ordering::Relaxed);
        let waiting = Waiting(&self.waiting);
        if before >= self.most_waiting && self.slots.available_permits() == 0 {
            counter!("compute_refused_total", "pool" => self.name).increment(1);
            return Err(Problem::busy(self.retry_after));
        }
        gauge!("compute_waiting", "pool" => self.name).set(before as f64);
        let slot = Arc::clone(&self.slots).acquire_owned().await.map_err(|_| Problem::broken())?;
        drop(waiting);
        let name = self.name;
        // The slot goes with the work: a request that is given up does not free it before the work is done.
        let done = tokio::task::spawn_blocking(move || {
            let _slot = slot;
            let since = Instant::now();
            let done = work();
            histogram!("compute_seconds", "pool" => name).record(since.elapsed().as_secs_f64());
            done
        });
        done.await.map_err(|_| Problem::broken())
    }
}
