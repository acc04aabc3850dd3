//! Results of a pure function, kept by what they follow from.

use std::{
    collections::HashMap,
    fmt,
    hash::Hash,
    mem,
    sync::{Arc, PoisonError, RwLock},
};

/// Keeps the latest results, and at most twice `most` of them. Clones share what they keep.
pub(super) struct Memo<K, V> {
    most: usize,
    kept: Arc<RwLock<Kept<K, V>>>,
}

/// What was asked for lately, and what was before that: once the first is full it takes the place of the second, so that what is in use
/// stays and what is not goes by and by.
#[derive(Debug)]
struct Kept<K, V> {
    lately: HashMap<K, Arc<V>>,
    before: HashMap<K, Arc<V>>,
}

impl<K, V> fmt::Debug for Memo<K, V> {
    /// Without what is kept: nothing follows from it.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Memo").field("most", &self.most).finish_non_exhaustive()
    }
}

impl<K, V> Clone for Memo<K, V> {
    fn clone(&self) -> Self {
        Memo { most: self.most, kept: Arc::clone(&self.kept) }
    }
}

impl<K: Eq + Hash + Clone, V> Memo<K, V> {
    pub(super) fn new(most: usize) -> Memo<K, V> {
        Memo { most, kept: Arc::new(RwLock::new(Kept { lately: HashMap::new(), before: HashMap::new() })) }
    }

    /// The result for a key: the kept one, or what `work_out` makes of it.
    pub(super) fn get(&self, key: &K, work_out: impl FnOnce() -> V) -> Arc<V> {
        // A result is put in whole, so one who panicked with the lock has left nothing half done.
        let kept = self.kept.read().unwrap_or_else(PoisonError::into_inner);
        if let Some(there) = kept.lately.get(key) {
            return Arc::clone(there);
        }
        let before = kept.before.get(key).cloned();
        drop(kept);
        let value = before.unwrap_or_else(|| Arc::new(work_out()));
        let mut kept = self.kept.write().unwrap_or_else(PoisonError::into_inner);
        if kept.lately.len() >= self.most {
            kept.before = mem::take(&mut kept.lately);
        }
        kept.lately.insert(key.clone(), Arc::clone(&value));
        value
    }
}

#[cfg(test)]
mod tests {
    use super::Memo;

    #[test]
    fn what_is_in_use_stays_and_the_rest_goes() {
        let memo = Memo::new(10);
        for n in 0..1000 {
            assert_eq!(*memo.get(&n, || n * 2), n * 2);
            memo.get(&0, || if n == 0 { 0 } else { panic!("it was asked for all the time") });
        }
        let kept = memo.kept.read().unwrap();
        assert!(kept.lately.len() <= 10 && kept.before.len() <= 10);
        drop(kept);
        assert_eq!(*memo.get(&1, || -1), -1, "worked out anew");
    }
}
