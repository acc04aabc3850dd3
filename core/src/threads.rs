//! The same work on several threads. Which thread does what makes no difference to what comes out.

use std::sync::{
    Mutex, PoisonError,
    atomic::{AtomicUsize, Ordering},
};

/// Does something to each of a list; so many threads at a time take the next that nobody has.
pub(crate) fn each<T: Send>(threads: usize, all: &[Mutex<T>], work: impl Fn(&mut T) + Sync) {
    let next = AtomicUsize::new(0);
    let take = || {
        while let Some(one) = all.get(next.fetch_add(1, Ordering::Relaxed)) {
            // Whoever panics with one takes the whole scope along, so that nobody sees what is half done.
            work(&mut one.lock().unwrap_or_else(PoisonError::into_inner));
        }
    };
    std::thread::scope(|scope| {
        (1..threads).for_each(|_| drop(scope.spawn(take)));
        take();
    });
}
