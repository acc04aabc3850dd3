//! Logs that were read before, at hand: a horse of three years has tens of thousands of reps, and a ride changes one day of them.

use std::{collections::HashSet, sync::Arc};

use cavesson_core::{
    advice::{AskContext, FAULT_WINDOW_DAYS},
    belief::{Day, Off, Work, week_of},
    curriculum::Course,
};
use cavesson_store::{
    Scope,
    log::{
        evidence::{self, Counted, Evidence, Of},
        revision,
    },
};
use chrono::{Days, NaiveDate};
use futures_util::{
    future::{BoxFuture, FutureExt, try_join4},
    stream::{self, StreamExt, TryStreamExt},
};
use uuid::Uuid;

use crate::{
    App, Problem,
    services::{
        book::Book,
        standing::{asked, cache::OfLog, of},
    },
};

/// The days of a log, in their order: those that did not change are shared with what was read before.
pub(crate) type LogDays = Arc<Vec<Arc<Day>>>;

/// What was read of a horse.
#[derive(Debug, Clone)]
pub(crate) struct HorseLog {
    pub(crate) days: LogDays,
    /// Its asks of the last months with what stood around them, in their order.
    pub(crate) asks: Arc<Vec<AskContext>>,
    /// About how many bytes the days take up.
    bytes_of_days: usize,
}

/// A log as it was read: up to which count, on which day, in which steps.
#[derive(Debug, Clone)]
pub(crate) struct Log {
    count: i64,
    on: NaiveDate,
    /// [`Book::steps`].
    steps: String,
    log: HorseLog,
}

impl HorseLog {
    /// About how many bytes it takes up.
    pub(crate) fn bytes(&self) -> usize {
        // An ask has three or four short words.
        self.bytes_of_days + self.asks.len() * (size_of::<AskContext>() + 64)
    }

    /// Its asks since a day, where that is not longer ago than those that were read.
    pub(crate) fn asks_since(&self, day: NaiveDate) -> &[AskContext] {
        &self.asks[self.asks.partition_point(|ask| ask.date < day)..]
    }
}

impl OfLog for Log {
    fn bytes(&self) -> usize {
        self.log.bytes()
    }

    fn knew(&self) -> (NaiveDate, i64) {
        (self.on, self.count)
    }
}

impl Log {
    /// Whether it was read today in the same steps: the demo moves its days at midnight, and steps are known by their places.
    fn is_of(&self, book: &Book, on: NaiveDate) -> bool {
        self.on == on && self.steps == book.steps
    }
}

/// The logs of several horses, each up to at least the count of its log that is asked for. Of what was read before, only the days
/// that changed since are read again.
pub(crate) async fn logs(
    app: &App,
    scope: &Scope,
    asked: &[(Uuid, i64, Arc<Book>)],
    today: NaiveDate,
) -> Result<Vec<HorseLog>, Problem> {
    // A few at a time: the rows of whole years do not have to be in memory at once, nor be sorted on the disk.
    let mut some: Vec<BoxFuture<'_, _>> = vec![];
    for asked in asked.chunks(HORSES_AT_ONCE) {
        some.push(logs_of_some(app, scope, asked, today).boxed());
    }
    // While some are read, days are made of the others.
    let read: Vec<Vec<HorseLog>> = stream::iter(some).buffered(READS_AT_ONCE).try_collect().await?;
    Ok(read.into_iter().flatten().collect())
}

/// Horses whose logs are read in one go, and how many such goes there are at once.
const HORSES_AT_ONCE: usize = 4;
const READS_AT_ONCE: usize = 2;

async fn logs_of_some(
    app: &App,
    scope: &Scope,
    asked: &[(Uuid, i64, Arc<Book>)],
    today: NaiveDate,
) -> Result<Vec<HorseLog>, Problem> {
    let caches = |(horse, _, book): &(Uuid, i64, Arc<Book>)| {
        app.caches.logs.find((scope.shared(), *horse), |log| log.is_of(book, today))
    };
    let held: Vec<Option<Log>> = asked.iter().map(caches).collect();
    let new: Vec<Uuid> = asked.iter().zip(&held).filter(|(_, h)| h.is_none()).map(|(a, _)| a.0).collect();
    // The week before this one is looked at as of its end.
    let since = week_of(today) - Days::new(FAULT_WINDOW_DAYS);
    let all = Read::of(app, scope, Of::Horses(&new), since).await?;
    let old = asked.iter().zip(&held).filter_map(|(a, h)| Some((a.0, h.as_ref()?.count)).filter(|(_, c)| *c < a.1));
    let old: Vec<(Uuid, i64)> = old.collect();
    let changed = if old.is_empty() { vec![] } else { revision::changed_since(&app.db, scope, &old).await? };
    let again = Read::of(app, scope, Of::Days(&changed), since).await?;
    let is_at_hand = new.is_empty() && changed.is_empty();
    let asked = asked.to_vec();
    let made = move || {
        let one = |((horse, count, book), held): ((Uuid, i64, Arc<Book>), Option<Log>)| {
            let log = match held {
                None => all.log(horse, &book),
                Some(h) if h.count >= count => h.log,
                Some(h) => {
                    let gone = changed.iter().filter(|c| c.0 == horse).map(|c| c.1).collect();
                    h.log.with_days(&gone, &again.log(horse, &book))
                }
            };
            (horse, Log { count, on: today, steps: book.steps.clone(), log })
        };
        asked.into_iter().zip(held).map(one).collect::<Vec<_>>()
    };
    // Of what is at hand nothing is made that would have to wait for its turn.
    let made = if is_at_hand { made() } else { app.compute.run(scope.shared(), made).await? };
    let kept = |(horse, log): (Uuid, Log)| {
        let read = log.log.clone();
        app.caches.logs.hold((scope.shared(), horse), log);
        read
    };
    Ok(made.into_iter().map(kept).collect())
}

impl HorseLog {
    /// The log with some days as they are now.
    fn with_days(&self, changed: &HashSet<NaiveDate>, now: &HorseLog) -> HorseLog {
        let stays = |day: &NaiveDate| !changed.contains(day);
        let gone: usize = self.days.iter().filter(|d| !stays(&d.date)).map(|d| bytes_of(d)).sum();
        HorseLog {
            bytes_of_days: self.bytes_of_days - gone + now.bytes_of_days,
            days: Arc::new(spliced(&self.days, &now.days, |d| d.date, stays)),
            asks: Arc::new(spliced(&self.asks, &now.asks, |a| a.date, stays)),
        }
    }
}

fn bytes_of(day: &Day) -> usize {
    let work = |w: &Work| size_of_val(w) + size_of_val(&w.reps[..]) + size_of_val(&w.counts[..]);
    size_of_val(day) + day.work.iter().map(work).sum::<usize>()
}

/// What stays of a list and what is there now, in order of the days; what is of one day stays in its order.
fn spliced<T: Clone>(
    before: &[T],
    now: &[T],
    day: impl Fn(&T) -> NaiveDate,
    stays: impl Fn(&NaiveDate) -> bool,
) -> Vec<T> {
    let mut out: Vec<T> = before.iter().filter(|it| stays(&day(it))).chain(now).cloned().collect();
    out.sort_by_key(day);
    out
}

/// What was read of the record, by horse.
#[derive(Default)]
struct Read {
    reps: Vec<evidence::Evidence>,
    counts: Vec<evidence::Counted>,
    signs: Vec<(Uuid, NaiveDate, Vec<String>)>,
    faulted: Vec<evidence::Faulted>,
}

impl Read {
    /// Some part of the record, with the asks since a day.
    async fn of(app: &App, scope: &Scope, part: Of<'_>, since: NaiveDate) -> Result<Read, Problem> {
        let db = &app.db;
        let faulted = async {
            match part {
                Of::Horses(horses) => evidence::faults(db, scope, horses, since).await,
                Of::Days(days) => evidence::faults_of_days(db, scope, days).await,
            }
        };
        let _turn = match part {
            Of::Horses([]) | Of::Days([]) => return Ok(Read::default()),
            Of::Horses(_) => Some(app.record_reads.acquire().await.map_err(|_| Problem::broken())?),
            Of::Days(_) => None,
        };
        let (reps, counts) = (evidence::reps(db, scope, part), evidence::counts(db, scope, part));
        let (reps, counts, signs, mut faulted) =
            try_join4(reps, counts, evidence::signs(db, scope, part), faulted).await?;
        faulted.retain(|f| f.date >= since);
        Ok(Read { reps, counts, signs, faulted })
    }

    fn log(&self, horse: Uuid, book: &Book) -> HorseLog {
        let asks = asked(of(&self.faulted, horse, |f| f.horse_id));
        let days = self.days(horse, book);
        let bytes_of_days = days.iter().map(|day| bytes_of(day)).sum();
        HorseLog { days: Arc::new(days), asks: Arc::new(asks), bytes_of_days }
    }

    fn days(&self, horse: Uuid, book: &Book) -> Vec<Arc<Day>> {
        let days = days(
            &book.course,
            of(&self.reps, horse, |e| e.horse_id),
            of(&self.counts, horse, |c| c.horse_id),
            of(&self.signs, horse, |s| s.0),
        );
        days.into_iter().map(Arc::new).collect()
    }
}

/// Reps, counts and signs gathered into days, in order.
fn days(course: &Course, reps: &[Evidence], counts: &[Counted], signs: &[(Uuid, NaiveDate, Vec<String>)]) -> Vec<Day> {
    let mut days: Vec<Day> = vec![];
    for e in reps {
        // A step that has left the course since is no evidence on what is in it.
        let Some(step) = course.find_at(&e.rung, e.gait) else { continue };
        if days.last().is_none_or(|d| d.date != e.date) {
            days.push(Day::new(e.date, vec![]));
        }
        let Some(day) = days.last_mut() else { continue };
        let (place, hands) = (Some(e.place), Some(e.hands));
        let same = |w: &&mut Work| w.step == step && w.side == e.side && w.place == place && w.hands == hands;
        match day.work.iter_mut().find(same) {
            Some(work) => work.reps.push(e.rep),
            None => day.work.push(Work { place, hands, ..Work::reps(step, e.side, vec![e.rep]) }),
        }
    }
    for c in counts {
        let Some(step) = course.find_at(&c.rung, c.gait) else { continue };
        let (place, hands) = (Some(c.place), Some(c.hands));
        let work = Work { counts: vec![c.count.clone()], place, hands, ..Work::reps(step, c.side, vec![]) };
        day_of(&mut days, c.date).work.push(work);
    }
    for (_, date, tags) in signs {
        let off: Vec<Off> = tags.iter().filter_map(|t| Off::of_tag(t)).collect();
        if !off.is_empty() {
            day_of(&mut days, *date).off.extend(off);
        }
    }
    days
}

fn day_of(days: &mut Vec<Day>, date: NaiveDate) -> &mut Day {
    let at = days.partition_point(|d| d.date < date);
    if days.get(at).is_none_or(|d| d.date != date) {
        days.insert(at, Day::new(date, vec![]));
    }
    &mut days[at]
}
