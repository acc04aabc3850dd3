//! What the horses of a barn had shown at the start of each week: every horse's standing is worked out with it.

use std::{fmt::Write as _, sync::Arc};

use cavesson_core::{
    advice::{Advisor, FAULT_WINDOW_DAYS, HorseRecord, Posture, RemedyRecord, cures, replay_barn},
    belief::{BarnWeeks, Day, ModelSettings, week_of},
};
use cavesson_store::{
    Scope,
    log::evidence::{self, Faulted},
};
use chrono::{Days, NaiveDate};
use uuid::Uuid;

use crate::{
    App, Problem,
    services::{
        book::{Book, books, fingerprint},
        standing::{CODE_VERSION, asked, logs::logs, of},
    },
};

/// Barns of which something is kept.
const MOST: u64 = 64;

/// What a barn's horses have shown of it by the start of a week.
#[derive(Debug)]
pub(crate) struct KnownBarn {
    /// Of all that it was worked out from.
    pub(crate) fingerprint: String,
    pub(crate) weeks: BarnWeeks,
    /// What remedies did for its horses.
    pub(crate) remedies: Arc<RemedyRecord>,
    /// The horses that were ridden before this week, by id.
    horses: Vec<Uuid>,
}

impl KnownBarn {
    /// The place of a horse in [`KnownBarn::weeks`]; past the end for one that has shown nothing.
    pub(crate) fn place_of(&self, horse: Uuid) -> usize {
        self.horses.binary_search(&horse).unwrap_or(self.horses.len())
    }
}

/// How far all logs of a barn were counted, in which week, and what was known then.
type Counted = (i64, NaiveDate, Arc<KnownBarn>);

/// What is at hand of barns.
#[derive(Debug)]
pub(crate) struct BarnCache {
    known: moka::sync::Cache<Uuid, Counted>,
    /// One at a time works out a barn: whoever else asks waits for it.
    computing: tokio::sync::Mutex<()>,
}

impl Default for BarnCache {
    fn default() -> Self {
        BarnCache { known: moka::sync::Cache::new(MOST), computing: tokio::sync::Mutex::new(()) }
    }
}

/// What is known of a barn this week. It changes on Mondays, and where something that was logged before Monday is changed.
pub(crate) async fn known_barn(app: &App, scope: &Scope, today: NaiveDate) -> Result<Arc<KnownBarn>, Problem> {
    let monday = week_of(today);
    let scope = &scope.whole();
    let counts = evidence::counts_of_logs(&app.db, scope).await?;
    let counted: i64 = counts.iter().map(|c| c.1).sum();
    let at_hand = || app.caches.barns.known.get(&scope.shared()).filter(|k| k.1 == monday);
    if let Some((_, _, known)) = at_hand().filter(|k| k.0 == counted) {
        return Ok(known);
    }
    let _alone = app.caches.barns.computing.lock().await;
    let ridden = evidence::ridden_before(&app.db, scope, monday).await?;
    let mut made_from = format!("{monday}");
    for (horse, rides, last) in &ridden {
        let _ = write!(made_from, "/{horse}:{rides}:{last}");
    }
    let keys: Vec<Option<Uuid>> = ridden.iter().map(|r| Some(r.0)).collect();
    let books = books(app, scope, &keys).await?;
    let mut parts = vec![CODE_VERSION.as_str(), made_from.as_str()];
    parts.extend(books.iter().map(|b| b.fingerprint.as_str()));
    let fingerprint = fingerprint(&parts);
    let known = match at_hand().filter(|k| k.2.fingerprint == fingerprint) {
        Some((_, _, known)) => known,
        None => {
            let count = |horse: Uuid| counts.iter().find(|c| c.0 == horse).map_or(0, |c| c.1);
            let asked: Vec<_> = ridden.iter().zip(&books).map(|(r, b)| (r.0, count(r.0), Arc::clone(b))).collect();
            let days = logs(app, scope, &asked, today).await?;
            let horses: Vec<Uuid> = ridden.iter().map(|r| r.0).collect();
            let faulted = evidence::faults(&app.db, scope, &horses, monday - Days::new(FAULT_WINDOW_DAYS)).await?;
            let remedies = Arc::new(remedies(&horses, &books, &faulted, monday));
            let weeks = app
                .compute
                .run(move || {
                    let settings = ModelSettings::default();
                    let blank = |n: usize| Advisor::new(&books[n].course, Posture::default(), settings);
                    let closed = |days: &Arc<Vec<Day>>| days.partition_point(|d| d.date < monday);
                    let mut records: Vec<HorseRecord<'_, '_>> = (days.iter().enumerate())
                        .map(|(n, days)| HorseRecord { advisor: blank(n), days: &days[..closed(days)] })
                        .collect();
                    replay_barn(&settings, &mut records, |_, _, _| {})
                })
                .await?;
            Arc::new(KnownBarn { fingerprint, weeks, remedies, horses })
        }
    };
    app.caches.barns.known.insert(scope.shared(), (counted, monday, Arc::clone(&known)));
    Ok(known)
}

/// What remedies did for the horses of a barn before a day.
fn remedies(horses: &[Uuid], books: &[Arc<Book>], faulted: &[Faulted], before: NaiveDate) -> RemedyRecord {
    let all = horses.iter().zip(books).flat_map(|(&horse, book)| {
        let mut asks = asked(of(faulted, horse, |f| f.horse_id));
        asks.retain(|a| a.date < before);
        cures(book.curriculum.faults(), &asks)
    });
    RemedyRecord::of(&all.collect::<Vec<_>>())
}

/// What remedies did in a barn, as far as it is at hand: nothing is worked out for it while a horse is ridden.
pub(crate) fn remedies_at_hand(app: &App, scope: &Scope) -> Arc<RemedyRecord> {
    app.caches.barns.known.get(&scope.shared()).map(|k| Arc::clone(&k.2.remedies)).unwrap_or_default()
}
