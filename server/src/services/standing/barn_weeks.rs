//! What the horses of a barn had shown at the start of each week: every horse's standing is worked out with it.

use std::{collections::HashMap, fmt::Write as _, sync::Arc};

use cavesson_core::{
    advice::{FAULT_WINDOW_DAYS, RemedyRecord, cures},
    belief::{BarnWeeks, week_of},
};
use cavesson_store::{
    Scope, barn, horse,
    log::revision::{self, HorseRevision},
    trainer_input,
};
use chrono::{Days, NaiveDate};
use tokio::sync::OnceCell;
use uuid::Uuid;

use crate::{
    App, Problem,
    services::{
        book::{Book, books, fingerprint},
        flights::Flights,
        standing::{
            CODE_VERSION,
            barn_days::{BarnDates, BarnDays, BarnSnapshot, CallInput},
            changes::changes,
            logs::{HorseLog, logs},
        },
    },
};

/// Barns of which the fingerprint is at hand.
const MOST: u64 = 10_000;
/// Bytes of snapshots of whole barns.
const MOST_BYTES: u64 = 192 << 20;
/// How many weeks back a barn is taken up again: what is corrected is mostly of the last weeks.
const SNAPSHOT_BEFORE: u64 = 28;

/// What a barn's horses have shown of it by the start of a week. It is worked out when it is asked for: a standing that is kept is known
/// to be good by the fingerprint alone.
#[derive(Debug)]
pub(crate) struct KnownBarn {
    /// Of all that it is worked out from.
    pub(crate) fingerprint: String,
    monday: NaiveDate,
    /// The horses that were ridden before this week, by id.
    horses: Vec<Ridden>,
    shown: OnceCell<Arc<ShownByBarn>>,
}

/// A horse, the count of its log, and its curriculum.
type Ridden = (Uuid, i64, Arc<Book>);

/// What the horses of a barn have shown.
#[derive(Debug)]
pub(crate) struct ShownByBarn {
    pub(crate) weeks: Arc<BarnWeeks>,
    /// What remedies did for its horses.
    pub(crate) remedies: Arc<RemedyRecord>,
    horses: Vec<Uuid>,
}

impl ShownByBarn {
    /// The place of a horse in [`ShownByBarn::weeks`]; past the end for one that has shown nothing.
    pub(crate) fn place_of(&self, horse: Uuid) -> usize {
        self.horses.binary_search(&horse).unwrap_or(self.horses.len())
    }
}

/// What was known of a barn, and the revisions of its horses then.
#[derive(Debug, Clone)]
struct Counted {
    revisions: Arc<Vec<HorseRevision>>,
    known: Arc<KnownBarn>,
}

/// What is at hand of barns.
#[derive(Debug)]
pub(crate) struct BarnCache {
    known: moka::sync::Cache<Uuid, Counted>,
    snapshots: moka::sync::Cache<Uuid, Arc<BarnSnapshot>>,
    /// One at a time works out a barn: whoever else asks for it waits.
    barns_at_work: Flights,
}

impl Default for BarnCache {
    fn default() -> Self {
        let weigh = |_: &Uuid, it: &Arc<BarnSnapshot>| u32::try_from(it.bytes()).unwrap_or(u32::MAX);
        BarnCache {
            known: moka::sync::Cache::new(MOST),
            snapshots: moka::sync::Cache::builder().max_capacity(MOST_BYTES).weigher(weigh).build(),
            barns_at_work: Flights::default(),
        }
    }
}

/// What is known of a barn this week. It changes on Mondays, and where something that was logged before Monday is changed.
pub(crate) async fn known_barn(app: &App, scope: &Scope, today: NaiveDate) -> Result<Arc<KnownBarn>, Problem> {
    let monday = week_of(today);
    let scope = &scope.whole();
    let revisions = Arc::new(revision::of_barn(&app.db, scope).await?);
    let barns = &app.caches.barns;
    let at_hand = || barns.known.get(&scope.shared()).filter(|k| k.known.monday == monday);
    let is_as_it_was = async |at_hand: &Counted| {
        let Some(changed) = changed(&at_hand.revisions, &revisions) else { return Ok(false) };
        Ok::<_, Problem>(changed.is_empty() || !revision::changed_before(&app.db, scope, &changed, monday).await?)
    };
    // Nearly all that is logged is of this week.
    if let Some(at_hand) = at_hand()
        && is_as_it_was(&at_hand).await?
    {
        let known = at_hand.known;
        barns.known.insert(scope.shared(), Counted { revisions, known: Arc::clone(&known) });
        return Ok(known);
    }
    let _alone = barns.barns_at_work.alone([scope.shared()]).await;
    let ridden = revision::ridden_before(&app.db, scope, monday).await?;
    let mut made_from = format!("{monday}");
    for (horse, rides, last) in &ridden {
        let _ = write!(made_from, "/{horse}:{rides}:{last}");
    }
    let keys: Vec<Option<Uuid>> = ridden.iter().map(|r| Some(r.0)).collect();
    let books = books(app, scope, &keys).await?;
    let mut parts = vec![CODE_VERSION.as_str(), made_from.as_str()];
    let of_books = watched_before(&books, monday);
    parts.extend(of_books.iter().map(String::as_str));
    let fingerprint = fingerprint(&parts);
    let known = match at_hand().filter(|k| k.known.fingerprint == fingerprint) {
        Some(at_hand) => at_hand.known,
        None => {
            let count = |horse: Uuid| revisions.iter().find(|h| h.horse_id == horse).map_or(0, |h| h.revision);
            let horses = ridden.iter().zip(books).map(|(r, book)| (r.0, count(r.0), book)).collect();
            Arc::new(KnownBarn { fingerprint, monday, horses, shown: OnceCell::new() })
        }
    };
    barns.known.insert(scope.shared(), Counted { revisions, known: Arc::clone(&known) });
    Ok(known)
}

/// What of each curriculum matters to what was seen before a day. Most horses have the same one.
fn watched_before(books: &[Arc<Book>], day: NaiveDate) -> Vec<String> {
    let mut known: HashMap<&str, String> = HashMap::new();
    let mut all = vec![];
    for book in books {
        all.push(known.entry(&book.fingerprint).or_insert_with(|| book.watched_before(day)).clone());
    }
    all
}

/// The horses whose revision is another than before, each with the one before; none where a horse has another curriculum.
fn changed(before: &[HorseRevision], now: &[HorseRevision]) -> Option<Vec<(Uuid, i64)>> {
    let mut changed = vec![];
    for now in now {
        let was = before.binary_search_by_key(&now.horse_id, |h| h.horse_id).ok().map(|at| &before[at]);
        if was.is_some_and(|was| (was.curriculum, &was.traits) != (now.curriculum, &now.traits)) {
            return None;
        }
        let was = was.map_or(0, |was| was.revision);
        if was != now.revision {
            changed.push((now.horse_id, was));
        }
    }
    Some(changed)
}

impl KnownBarn {
    /// What the horses have shown: at hand, or worked out now, once for all who ask.
    pub(crate) async fn shown(
        self: &Arc<Self>,
        app: &App,
        scope: &Scope,
        today: NaiveDate,
    ) -> Result<Arc<ShownByBarn>, Problem> {
        // Whoever asks next waits for it, too, so it is computed as something that is asked for, whoever asked first.
        let (known, app, scope) = (Arc::clone(self), app.as_asked(), *scope);
        // A task of its own: whoever asked first may leave, and it is worked out all the same.
        let shown = async move { known.shown.get_or_try_init(|| known.work_out(&app, &scope, today)).await.cloned() };
        tokio::spawn(shown).await.map_err(|_| Problem::broken())?
    }

    async fn work_out(&self, app: &App, scope: &Scope, today: NaiveDate) -> Result<Arc<ShownByBarn>, Problem> {
        let scope = &scope.whole();
        let horses: Vec<Uuid> = self.horses.iter().map(|r| r.0).collect();
        let books: Vec<Arc<Book>> = self.horses.iter().map(|r| Arc::clone(&r.2)).collect();
        let logs = logs(app, scope, &self.horses, today).await?;
        let calls = self.calls(app, scope, today).await?;
        let before = app.caches.barns.snapshots.get(&scope.shared());
        let dates = BarnDates { today, monday: self.monday, snapshot_on: self.monday - Days::new(SNAPSHOT_BEFORE) };
        let threads = app.compute.threads();
        let worked_out = move || {
            let remedies = Arc::new(remedies(&books, &logs, dates.monday));
            let barn = BarnDays { horses, books, days: logs.into_iter().map(|log| log.days).collect() };
            let watched = barn.watch(before.as_deref(), calls, dates, threads);
            (watched, remedies, barn.horses)
        };
        let (watched, remedies, horses) = app.compute.run(scope.shared(), worked_out).await?;
        app.caches.barns.snapshots.insert(scope.shared(), Arc::new(watched.snapshot));
        for (history, (horse, _, _)) in watched.histories.into_iter().zip(&self.horses) {
            if let Some(history) = history {
                app.caches.with_barn.put((scope.shared(), *horse), history);
            }
        }
        Ok(Arc::new(ShownByBarn { weeks: watched.weeks, remedies, horses }))
    }

    /// How calls are made on each of its horses that is in work.
    async fn calls(&self, app: &App, scope: &Scope, today: NaiveDate) -> Result<Vec<Option<CallInput>>, Problem> {
        let barn = barn::get(&app.db, scope).await?;
        let in_work = horse::in_work(&app.db, scope).await?;
        let ids: Vec<Uuid> = in_work.iter().map(|h| h.id).collect();
        let overrules = trainer_input::overrules(&app.db, scope, &ids).await?;
        let findings = trainer_input::findings(&app.db, scope, &ids).await?;
        let mut changes = changes(app, scope, today).await?;
        let calls = |(id, _, book): &Ridden| {
            let horse = in_work.iter().find(|h| h.id == *id)?;
            let changes = changes.remove(id).unwrap_or_default();
            let input = trainer_input::for_advisor(&book.course, *id, &overrules, &findings, changes);
            Some((horse.posture.unwrap_or(barn.posture), input))
        };
        Ok(self.horses.iter().map(calls).collect())
    }
}

/// What remedies did for the horses of a barn before a day.
fn remedies(books: &[Arc<Book>], logs: &[HorseLog], before: NaiveDate) -> RemedyRecord {
    let all = books.iter().zip(logs).flat_map(|(book, log)| {
        let asks = log.asks_since(before - Days::new(FAULT_WINDOW_DAYS));
        cures(book.curriculum.faults(), &asks[..asks.partition_point(|ask| ask.date < before)])
    });
    RemedyRecord::of(&all.collect::<Vec<_>>())
}

/// What remedies did in a barn, as far as it is at hand: nothing is worked out for it while a horse is ridden.
pub(crate) fn remedies_at_hand(app: &App, scope: &Scope) -> Arc<RemedyRecord> {
    let known = app.caches.barns.known.get(&scope.shared());
    known.and_then(|k| k.known.shown.get().map(|shown| Arc::clone(&shown.remedies))).unwrap_or_default()
}
