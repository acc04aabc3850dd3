//! What a timer tells of a run.

/// A moment that a timer tells of, seconds by its own clock.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub enum TimerEvent {
    Start(f64),
    Split(f64),
    Finish(f64),
    /// The beam was blocked: a moment that may be lost.
    Blocked(f64),
    /// What was started did not count.
    FalseStart(f64),
    /// The timer could not be heard.
    NoSignal(f64),
}

/// A run as a timer told it.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct TimerRun {
    /// Seconds from the start of each split.
    pub splits: Vec<f64>,
    /// Seconds in all, where it finished.
    pub finish: Option<f64>,
    /// What to know of it, in words.
    pub notes: Vec<String>,
}

/// Why events tell of no run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[allow(missing_docs)]
pub enum NoRun {
    #[error("the timer was never started")]
    NoStart,
    #[error("event {} comes before the one above it", .0 + 1)]
    Backwards(usize),
}

/// Two ticks nearer than this are one, seconds: a nose and a tail.
const ONE_TICK: f64 = 0.3;

/// Reads a run off a timer's events. What was begun before the last start does not count; a second tick within 0.3 s is one tick.
///
/// ```
/// use cavesson_core::pattern::{TimerEvent::{Finish, Split, Start}, timer_run};
/// let run = timer_run(&[Start(3.0), Split(6.1), Split(6.2), Finish(20.5)]).unwrap();
/// assert_eq!(run.finish, Some(17.5));
/// assert_eq!((run.splits.len(), run.notes.len()), (1, 1));
/// ```
///
/// # Errors
/// [`NoRun`]: it was never started, or its clock ran backwards.
pub fn timer_run(events: &[TimerEvent]) -> Result<TimerRun, NoRun> {
    let at = |event: &TimerEvent| match *event {
        TimerEvent::Start(t)
        | TimerEvent::Split(t)
        | TimerEvent::Finish(t)
        | TimerEvent::Blocked(t)
        | TimerEvent::FalseStart(t)
        | TimerEvent::NoSignal(t) => t,
    };
    if let Some(n) = events.windows(2).position(|w| at(&w[1]) < at(&w[0])) {
        return Err(NoRun::Backwards(n + 1));
    }
    let mut run = TimerRun::default();
    let mut start = None;
    let mut last = f64::NEG_INFINITY;
    for event in events {
        let t = at(event);
        let twice = t - last < ONE_TICK;
        match event {
            TimerEvent::Start(_) => {
                if start.is_some() {
                    run.notes.push("It was started again: what came before does not count".into());
                }
                (run.splits, run.finish, start) = (vec![], None, Some(t));
            }
            TimerEvent::FalseStart(_) => {
                run.notes.push("A false start".into());
                (run.splits, run.finish, start) = (vec![], None, None);
            }
            TimerEvent::Split(_) | TimerEvent::Finish(_) if twice => {
                run.notes.push(format!("It ticked twice at {t:.2} s: taken once"));
            }
            TimerEvent::Split(_) => run.splits.extend(start.map(|start| t - start)),
            TimerEvent::Finish(_) if run.finish.is_none() => run.finish = start.map(|start| t - start),
            TimerEvent::Finish(_) => {}
            TimerEvent::Blocked(_) => run.notes.push(format!("The beam was blocked at {t:.2} s: a split may be lost")),
            TimerEvent::NoSignal(_) => run.notes.push(format!("No signal from {t:.2} s on")),
        }
        if matches!(event, TimerEvent::Start(_) | TimerEvent::Split(_) | TimerEvent::Finish(_)) {
            last = t;
        }
    }
    start.map(|_| run).ok_or(NoRun::NoStart)
}
