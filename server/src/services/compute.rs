//! Computing off the threads that answer requests, so many at a time and no more.
//!
//! What takes milliseconds or more runs here: standings, plans, the judging of a week. Of more than there are cores the others wait
//! for their turn, and barns take turns: a large one does not keep the others waiting. What is computed ahead of anyone's asking gets a
//! turn when nobody waits, and never the last core. Of more than may wait, the rest is told to come again. A search for a week takes
//! seconds, so searches have a pool of their own: pages do not wait behind them. All of it runs at a lower priority than the threads
//! that answer: what only has to be read is not held up by it.

use std::{
    collections::VecDeque,
    sync::{Arc, Mutex, MutexGuard, PoisonError},
    time::Instant,
};

use metrics::{counter, gauge, histogram};
use tokio::sync::oneshot;
use uuid::Uuid;

use crate::Problem;

/// A bounded pool.
#[derive(Debug, Clone)]
pub(crate) struct ComputePool {
    /// What its figures go by.
    name: &'static str,
    turns: Arc<Turns>,
    slots: usize,
    /// How many of one barn may wait.
    most_waiting: usize,
    /// Seconds after which someone who was sent away may come again.
    retry_after: u64,
    /// How much lower the priority of its threads is, as the system counts it (`nice`): 0 to 19.
    nice: i32,
    kind: Kind,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Kind {
    /// Someone waits for it.
    Asked,
    /// It is computed before anyone asks.
    Ahead,
}

impl ComputePool {
    /// A pool of `slots` at a time, with room for `most_waiting` more of each barn.
    pub(crate) fn new(name: &'static str, slots: usize, most_waiting: usize, retry_after: u64) -> ComputePool {
        let queue =
            Queue { free: slots, free_ahead: (slots - 1).max(1), asked: Line::default(), ahead: Line::default() };
        let turns = Arc::new(Turns(Mutex::new(queue)));
        ComputePool { name, turns, slots, most_waiting, retry_after, nice: ASKED, kind: Kind::Asked }
    }

    /// The same pool for what nobody waits for.
    pub(crate) fn ahead(&self) -> ComputePool {
        ComputePool { kind: Kind::Ahead, nice: AHEAD, ..self.clone() }
    }

    /// The same pool for what someone waits for, or may any moment.
    pub(crate) fn asked(&self) -> ComputePool {
        ComputePool { kind: Kind::Asked, nice: ASKED, ..self.clone() }
    }

    /// Whether nobody waits for what it computes.
    pub(crate) fn is_ahead(&self) -> bool {
        self.kind == Kind::Ahead
    }

    /// The same pool for what takes seconds while pages are asked for.
    pub(crate) fn for_searches(self) -> ComputePool {
        ComputePool { nice: LONG, ..self }
    }

    /// How many threads it is worth to share out a large piece of work among.
    pub(crate) fn threads(&self) -> usize {
        self.slots
    }

    /// Computes something for a barn once it is its turn.
    ///
    /// # Errors
    /// 503 with `Retry-After` where too many of the barn wait already; 500 where the work panics.
    pub(crate) async fn run<T: Send + 'static>(
        &self,
        barn: Uuid,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let Some(turn) = self.turns.enter(barn, self.kind, self.most_waiting) else {
            counter!("compute_refused_total", "pool" => self.name).increment(1);
            return Err(Problem::busy(self.retry_after));
        };
        gauge!("compute_waiting", "pool" => self.name).set(self.turns.waiting() as f64);
        let slot = turn.await.map_err(|_| Problem::broken())?;
        let (name, nice) = (self.name, self.nice);
        let (tell, told) = oneshot::channel();
        // A thread of its own: one whose priority was lowered may not raise it again. The slot goes with the work: a request that is given up
        // does not free it before the work is done.
        let thread = std::thread::Builder::new().name(name.to_owned()).spawn(move || {
            let _slot = slot;
            lower_priority(nice);
            let since = Instant::now();
            let done = work();
            histogram!("compute_seconds", "pool" => name).record(since.elapsed().as_secs_f64());
            // Whoever asked may have gone.
            let _gone = tell.send(done);
        });
        thread.map_err(|_| Problem::broken())?;
        told.await.map_err(|_| Problem::broken())
    }
}

/// For what someone waits for, for what takes seconds, and for what nobody waits for.
const ASKED: i32 = 5;
const LONG: i32 = 10;
const AHEAD: i32 = 15;
/// The lowest priority.
const MOST: i32 = 19;

/// Lowers the priority of this thread, and so of those that it starts.
fn lower_priority(nice: i32) {
    // Whoever starts the server may have lowered it already. A system that refuses computes at its usual priority.
    let now = rustix::process::getpriority_process(None).unwrap_or(0);
    let _refused = rustix::process::setpriority_process(None, (now + nice).min(MOST));
}

/// Whose turn it is.
#[derive(Debug)]
struct Turns(Mutex<Queue>);

#[derive(Debug)]
struct Queue {
    free: usize,
    /// How many more may be taken for what nobody waits for.
    free_ahead: usize,
    asked: Line,
    ahead: Line,
}

/// A turn that was given; it goes on to the next when it is dropped.
#[derive(Debug)]
struct Slot {
    turns: Arc<Turns>,
    kind: Kind,
}

impl Drop for Slot {
    fn drop(&mut self) {
        self.turns.leave(self.kind);
    }
}

impl Turns {
    /// A place in the line of a barn, which becomes a slot in time; none where too many of the barn stand there.
    fn enter(self: &Arc<Self>, barn: Uuid, kind: Kind, most: usize) -> Option<oneshot::Receiver<Slot>> {
        let (sender, receiver) = oneshot::channel();
        let mut queue = self.queue();
        queue.line(kind).push(barn, sender, most)?;
        self.pass_on(queue);
        Some(receiver)
    }

    fn leave(self: &Arc<Self>, kind: Kind) {
        let mut queue = self.queue();
        queue.free += 1;
        queue.free_ahead += usize::from(kind == Kind::Ahead);
        self.pass_on(queue);
    }

    /// Gives what is free to those whose turn it is.
    fn pass_on(self: &Arc<Self>, mut queue: MutexGuard<'_, Queue>) {
        let mut given = vec![];
        while let Some((sender, kind)) = queue.next() {
            given.push((sender, Slot { turns: Arc::clone(self), kind }));
        }
        drop(queue);
        // Of someone who has gone meanwhile the slot comes back and is passed on.
        given.into_iter().for_each(|(sender, slot)| drop(sender.send(slot)));
    }

    fn waiting(&self) -> usize {
        self.queue().asked.0.iter().map(|(_, of_barn)| of_barn.len()).sum()
    }

    fn queue(&self) -> MutexGuard<'_, Queue> {
        // What is behind the lock is whole at all times.
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

impl Queue {
    fn line(&mut self, kind: Kind) -> &mut Line {
        match kind {
            Kind::Asked => &mut self.asked,
            Kind::Ahead => &mut self.ahead,
        }
    }

    /// Takes what is free for whoever is next.
    fn next(&mut self) -> Option<(oneshot::Sender<Slot>, Kind)> {
        if self.free == 0 {
            return None;
        }
        let asked = self.asked.pop().map(|sender| (sender, Kind::Asked));
        let next = match asked {
            Some(next) => next,
            None if self.free_ahead > 0 => (self.ahead.pop()?, Kind::Ahead),
            None => return None,
        };
        self.free -= 1;
        self.free_ahead -= usize::from(next.1 == Kind::Ahead);
        Some(next)
    }
}

/// Those who wait, by barn: one of each in turn.
#[derive(Debug, Default)]
struct Line(VecDeque<(Uuid, VecDeque<oneshot::Sender<Slot>>)>);

impl Line {
    fn push(&mut self, barn: Uuid, sender: oneshot::Sender<Slot>, most: usize) -> Option<()> {
        let Some((_, of_barn)) = self.0.iter_mut().find(|(of, _)| *of == barn) else {
            self.0.push_back((barn, VecDeque::from([sender])));
            return Some(());
        };
        of_barn.retain(|waits| !waits.is_closed());
        (of_barn.len() < most).then(|| of_barn.push_back(sender))
    }

    fn pop(&mut self) -> Option<oneshot::Sender<Slot>> {
        loop {
            let (barn, mut of_barn) = self.0.pop_front()?;
            let next = of_barn.pop_front();
            if !of_barn.is_empty() {
                self.0.push_back((barn, of_barn));
            }
            match next {
                Some(gone) if gone.is_closed() => {}
                Some(next) => return Some(next),
                None => {}
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use std::sync::Mutex;

    use super::*;

    const BUSY: Uuid = Uuid::from_u128(1);
    const QUIET: Uuid = Uuid::from_u128(2);

    /// Holds the only slot until told otherwise.
    async fn held(pool: &ComputePool) -> (std::sync::mpsc::Sender<()>, tokio::task::JoinHandle<Result<(), Problem>>) {
        let (go, wait) = std::sync::mpsc::channel::<()>();
        let (pool, (begun, has_begun)) = (pool.clone(), oneshot::channel());
        let work = move || {
            let _ = begun.send(());
            let _ = wait.recv();
        };
        let running = tokio::spawn(async move { pool.run(BUSY, work).await });
        has_begun.await.unwrap();
        (go, running)
    }

    #[tokio::test]
    async fn barns_take_turns_and_what_nobody_waits_for_comes_last() {
        let pool = ComputePool::new("test", 1, 8, 1);
        let (go, running) = held(&pool).await;
        let order = Arc::new(Mutex::new(vec![]));
        let mut all = vec![];
        let ahead = pool.ahead();
        for (name, barn, pool) in [
            ("ahead", QUIET, &ahead),
            ("busy 1", BUSY, &pool),
            ("busy 2", BUSY, &pool),
            ("busy 3", BUSY, &pool),
            ("quiet", QUIET, &pool),
        ] {
            let (pool, order) = (pool.clone(), Arc::clone(&order));
            all.push(tokio::spawn(async move { pool.run(barn, move || order.lock().unwrap().push(name)).await }));
            tokio::task::yield_now().await;
        }
        go.send(()).unwrap();
        running.await.unwrap().unwrap();
        for one in all {
            one.await.unwrap().unwrap();
        }
        assert_eq!(*order.lock().unwrap(), ["busy 1", "quiet", "busy 2", "busy 3", "ahead"]);
    }

    #[tokio::test]
    async fn who_is_one_too_many_is_sent_away_and_other_barns_are_not() {
        let pool = ComputePool::new("test", 1, 2, 1);
        let (go, running) = held(&pool).await;
        let wait = |barn| {
            let pool = pool.clone();
            tokio::spawn(async move { pool.run(barn, || ()).await })
        };
        let mut waiting = [wait(BUSY), wait(BUSY)];
        tokio::task::yield_now().await;
        assert!(pool.run(BUSY, || ()).await.is_err());
        let quiet = wait(QUIET);
        tokio::task::yield_now().await;
        // One who gives up makes room.
        waiting[0].abort();
        let _ = (&mut waiting[0]).await;
        let again = wait(BUSY);
        tokio::task::yield_now().await;
        go.send(()).unwrap();
        running.await.unwrap().unwrap();
        let [_, second] = waiting;
        for one in [second, quiet, again] {
            one.await.unwrap().unwrap();
        }
    }

    #[tokio::test]
    async fn what_is_computed_has_a_lower_priority_than_what_answers() {
        let nice = || rustix::process::getpriority_process(None).unwrap();
        let answers = nice();
        let pool = ComputePool::new("test", 2, 2, 1);
        let back = |by: i32| (answers + by).min(MOST);
        let with_its_threads = move || (nice(), std::thread::spawn(nice).join().unwrap());
        assert_eq!(pool.run(BUSY, with_its_threads).await.unwrap(), (back(ASKED), back(ASKED)));
        assert_eq!(pool.ahead().run(BUSY, nice).await.unwrap(), back(AHEAD));
        assert_eq!(pool.ahead().asked().run(BUSY, nice).await.unwrap(), back(ASKED));
        assert_eq!(pool.for_searches().run(BUSY, nice).await.unwrap(), back(LONG));
        assert_eq!(nice(), answers, "those that answer do not");
    }

    #[tokio::test]
    async fn work_that_panics_gives_its_slot_back() {
        let pool = ComputePool::new("test", 1, 2, 1);
        assert!(pool.run(BUSY, || panic!("on purpose")).await.is_err());
        assert_eq!(pool.run(BUSY, || 7).await.unwrap(), 7);
    }
}
