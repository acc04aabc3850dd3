//! What a horse owns, its calls, and the traces behind them.

pub(crate) mod ahead;
pub(crate) mod alarms;
mod asks;
mod barn_days;
mod barn_weeks;
pub(crate) mod cache;
mod caches;
mod changes;
mod compute;
pub(crate) mod logs;
pub(crate) mod response;
mod warm;

use std::{
    collections::HashMap,
    fmt::Write as _,
    sync::{Arc, LazyLock},
};

use cavesson_core::{
    advice::{FAULT_WINDOW_DAYS, Posture, Standing},
    belief::ModelSettings,
};
use cavesson_store::{
    Scope,
    barn::Barn,
    claim,
    horse::Horse,
    log::evidence::{self, Of},
    planned,
    standing::{self, ComputedFrom},
    trainer_input,
};
use chrono::{Days, NaiveDate};
use futures_util::{
    future::{BoxFuture, FutureExt, try_join, try_join_all, try_join5},
    stream::{self, StreamExt, TryStreamExt},
};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        book::{Book, books, fingerprint},
        standing::{
            asks::habits,
            barn_weeks::{KnownBarn, ShownByBarn, known_barn},
            changes::{Changes, changes},
            compute::standing_of,
            logs::{HorseLog, logs},
        },
    },
};

pub(crate) use crate::services::standing::asks::asked;
pub(crate) use crate::services::standing::barn_weeks::remedies_at_hand;
pub(crate) use crate::services::standing::caches::StandingCaches;
pub(crate) use crate::services::standing::compute::{Record, WatchedRecord};
pub(crate) use crate::services::standing::response::{Changed, HorseCallOut, LineOut, OverruleOut, StandingOut};
pub(crate) use crate::services::standing::warm::Warmth;
pub use crate::services::standing::warm::{keep_warm, warm_up};

/// Changes with the rules of the core and with what is made of them here, so that what an older build kept is computed again.
static CODE_VERSION: LazyLock<String> = LazyLock::new(|| {
    let settings = format!("{:?}", ModelSettings::default());
    fingerprint(&[
        cavesson_core::FINGERPRINT,
        &settings,
        include_str!("ahead.rs"),
        include_str!("alarms.rs"),
        include_str!("compute.rs"),
        include_str!("logs.rs"),
        include_str!("barn_days.rs"),
        include_str!("barn_weeks.rs"),
        include_str!("response.rs"),
    ])
});

/// The standing of one horse, as of today.
pub(crate) async fn of_horse(app: &App, signed: &SignedIn, id: Uuid) -> Result<Arc<StandingOut>, Problem> {
    let horse = crate::services::horses::find(app, signed, id).await?;
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let today = crate::services::barn_clock::today_in(&barn);
    let mut all = standings(app, &signed.scope, &[horse], barn.posture, today).await?;
    all.remove(&id).ok_or_else(Problem::broken)
}

/// The standings of several horses: kept ones where they are still good, the others computed at once and kept.
pub(crate) async fn standings(
    app: &App,
    scope: &Scope,
    horses: &[Horse],
    barn_posture: Posture,
    today: NaiveDate,
) -> Result<HashMap<Uuid, Arc<StandingOut>>, Problem> {
    let keys: Vec<Option<Uuid>> = horses.iter().map(|h| Some(h.id)).collect();
    let (books, barn_now) = try_join(books(app, scope, &keys), barn_now(app, scope, today)).await?;
    let mut out = HashMap::new();
    let mut missing: Vec<Stale> = vec![];
    for (horse, book) in horses.iter().zip(&books) {
        let stale = stale_of(horse, barn_posture, book, &barn_now, today);
        match app.caches.standings.get((scope.shared(), horse.id), &stale.2) {
            Some(standing) => drop(out.insert(horse.id, standing)),
            None => missing.push(stale),
        }
    }
    let asked: Vec<(Uuid, &ComputedFrom)> = missing.iter().map(|s| (s.0, &s.2)).collect();
    let mut kept = read_kept(app, scope, &asked).await?;
    let mut stale = vec![];
    for (horse, posture, from) in missing {
        match kept.remove(&horse) {
            Some(standing) => {
                let standing = Arc::new(standing);
                app.caches.standings.put((scope.shared(), horse), from, &standing);
                out.insert(horse, standing);
            }
            None => stale.push((horse, posture, from)),
        }
    }
    // A few at a time: a string of years of rides does not have to be in memory at once.
    let mut jobs: Vec<BoxFuture<'_, _>> = vec![];
    for some in stale.chunks(HORSES_AT_ONCE) {
        jobs.push(compute(app, scope, some, &barn_now, today).boxed());
    }
    let made: Vec<_> = stream::iter(jobs).buffer_unordered(CHUNKS_AT_ONCE).try_collect().await?;
    out.extend(made.into_iter().flatten());
    Ok(out)
}

/// The standings in the database that are still good. One that cannot be read is computed anew.
async fn read_kept(
    app: &App,
    scope: &Scope,
    asked: &[(Uuid, &ComputedFrom)],
) -> Result<HashMap<Uuid, StandingOut>, Problem> {
    if asked.is_empty() {
        return Ok(HashMap::new());
    }
    let kept = standing::made_from(&app.db, scope, asked).await?;
    if kept.is_empty() {
        return Ok(HashMap::new());
    }
    let read = |(horse, text): (Uuid, String)| Some((horse, serde_json::from_str(&text).ok()?));
    app.compute.run(scope.shared(), move || kept.into_iter().filter_map(read).collect()).await
}

/// Horses whose records are read in one go, and how many such goes there are at once.
const HORSES_AT_ONCE: usize = 4;
const CHUNKS_AT_ONCE: usize = 2;

/// What is known of the barn around a horse on a day.
struct BarnNow {
    known: Arc<KnownBarn>,
    changes: Changes,
}

async fn barn_now(app: &App, scope: &Scope, today: NaiveDate) -> Result<BarnNow, Problem> {
    let (known, changes) = try_join(known_barn(app, scope, today), changes(app, scope, today)).await?;
    Ok(BarnNow { known, changes })
}

/// A horse, how its calls are made, and what something that is worked out of its log now is made from.
type Stale = (Uuid, Posture, ComputedFrom);

/// What is worked out of a horse's log is good as long as none of this changes.
fn stale_of(horse: &Horse, barn_posture: Posture, book: &Book, barn_now: &BarnNow, today: NaiveDate) -> Stale {
    let posture = horse.posture.unwrap_or(barn_posture);
    let mut computed_with =
        format!("{}/{}/{}/{}", *CODE_VERSION, posture.word(), book.fingerprint, barn_now.known.fingerprint);
    for (day, change) in barn_now.changes.get(&horse.id).into_iter().flatten() {
        let _ = write!(computed_with, "/{day} {}", change.word());
    }
    (horse.id, posture, ComputedFrom { revision: horse.log_revision, as_of: today, computed_with })
}

/// Computes the standings of some horses, or waits for whoever does already.
async fn compute(
    app: &App,
    scope: &Scope,
    stale: &[Stale],
    barn_now: &BarnNow,
    today: NaiveDate,
) -> Result<Vec<(Uuid, Arc<StandingOut>)>, Problem> {
    let key = |stale: &Stale| (scope.shared(), stale.0);
    let _alone = app.caches.horses_at_work.alone(stale.iter().map(key)).await;
    let (mut out, mut left) = (vec![], vec![]);
    for one in stale {
        match app.caches.standings.get(key(one), &one.2) {
            Some(standing) => out.push((one.0, standing)),
            None => left.push(one.clone()),
        }
    }
    let watched = watch_alone(app, scope, &left, barn_now, today).await?;
    let stand = |watched: Arc<WatchedRecord>| {
        let standing = move || standing_of(&watched, today);
        app.compute.run(scope.shared(), standing)
    };
    let made = try_join_all(watched.into_iter().map(stand)).await?;
    metrics::counter!("standings_computed_total").increment(left.len() as u64);
    for (standing, one) in made.into_iter().zip(&left) {
        let standing = Arc::new(standing);
        app.caches.standings.put(key(one), one.2.clone(), &standing);
        let kept = keep(app.clone(), *scope, one.clone(), Arc::clone(&standing));
        // Nobody who asked waits for it.
        if app.compute.is_ahead() {
            kept.await;
        } else {
            drop(tokio::spawn(kept));
        }
        out.push((one.0, standing));
    }
    Ok(out)
}

/// Keeps a standing in the database, for when this server has it no longer. One that is lost is computed again.
async fn keep(app: App, scope: Scope, (horse, _, from): Stale, standing: Arc<StandingOut>) {
    if let Err(error) = standing::put(&app.db, &scope, horse, &from, &*standing).await {
        tracing::warn!(%error, "a standing was not kept");
    }
}

async fn records(
    app: &App,
    scope: &Scope,
    stale: &[Stale],
    barn_now: &BarnNow,
    shown: &ShownByBarn,
    today: NaiveDate,
) -> Result<Vec<Record>, Problem> {
    let ids: Vec<Uuid> = stale.iter().map(|s| s.0).collect();
    let keys: Vec<Option<Uuid>> = ids.iter().copied().map(Some).collect();
    let books: Vec<Arc<Book>> = books(app, scope, &keys).await?;
    let of_books = stale.iter().zip(&books).map(|(s, b)| (s.0, s.2.revision, Arc::clone(b)));
    let of_books: Vec<_> = of_books.collect();
    let lately = today - Days::new(FAULT_WINDOW_DAYS);
    let db = &app.db;
    // Beside each other: each is a short way to the database and back.
    let input = async {
        let overrules = trainer_input::overrules(db, scope, &ids);
        let (findings, claims) = (trainer_input::findings(db, scope, &ids), claim::steps_of(db, scope, &ids));
        let (signs, swaps) = (evidence::signs(db, scope, Of::Horses(&ids)), planned::swaps(db, scope, &ids, lately));
        Ok::<_, Problem>(try_join5(overrules, findings, claims, signs, swaps).await?)
    };
    let (logs, (overrules, findings, claims, signs, swaps)) =
        try_join(logs(app, scope, &of_books, today), input).await?;
    let remedies = &shown.remedies;
    let record = |((&(horse, posture, _), book), log): ((&Stale, Arc<Book>), HorseLog)| Record {
        horse,
        posture,
        habits: habits(
            &book,
            of(&swaps, horse, |s| s.horse_id),
            log.asks_since(lately),
            remedies,
            of(&claims, horse, |c| c.0),
            today,
        ),
        signs: of(&signs, horse, |s| s.0).iter().map(|s| (s.1, s.2.clone())).collect(),
        log,
        trainer_input: trainer_input::for_advisor(
            &book.course,
            horse,
            &overrules,
            &findings,
            barn_now.changes.get(&horse).cloned().unwrap_or_default(),
        ),
        overrules: overrules.iter().filter(|o| o.horse_id == horse).cloned().collect(),
        book,
    };
    Ok(stale.iter().zip(books).zip(logs).map(record).collect())
}

/// Works something out from where a horse stands on a day at the end of its record, off the threads that answer requests.
pub(crate) async fn standing_on<T: Send + 'static>(
    app: &App,
    scope: &Scope,
    watched: Arc<WatchedRecord>,
    today: NaiveDate,
    work: impl FnOnce(&Standing<'_, '_>, &Record) -> T + Send + 'static,
) -> Result<T, Problem> {
    let at_end = move || {
        let advisor = watched.watched.at_end();
        work(&advisor.standing(today), &watched.record)
    };
    app.compute.run(scope.shared(), at_end).await
}

/// The records of several horses, watched to their end, in their order: at hand, or watched now.
pub(crate) async fn watched(
    app: &App,
    scope: &Scope,
    horses: &[Horse],
    barn: &Barn,
    today: NaiveDate,
) -> Result<Vec<Arc<WatchedRecord>>, Problem> {
    let keys: Vec<Option<Uuid>> = horses.iter().map(|h| Some(h.id)).collect();
    let (books, barn_now) = try_join(books(app, scope, &keys), barn_now(app, scope, today)).await?;
    let mut out: Vec<Option<Arc<WatchedRecord>>> = vec![];
    let mut stale: Vec<(usize, Stale)> = vec![];
    for (n, (horse, book)) in horses.iter().zip(&books).enumerate() {
        let as_now = stale_of(horse, barn.posture, book, &barn_now, today);
        out.push(app.caches.watched.get((scope.shared(), horse.id), &as_now.2));
        if out[n].is_none() {
            stale.push((n, as_now));
        }
    }
    // A few at a time, so that not all of a string's years have to be read before the first is watched.
    for some in stale.chunks(HORSES_AT_ONCE) {
        let (places, some): (Vec<usize>, Vec<Stale>) = some.iter().cloned().unzip();
        for (n, watched) in places.into_iter().zip(watch(app, scope, &some, &barn_now, today).await?) {
            out[n] = Some(watched);
        }
    }
    out.into_iter().collect::<Option<_>>().ok_or_else(Problem::broken)
}

/// Watches the records of several horses to their end and keeps them at hand, or waits for whoever does already.
async fn watch(
    app: &App,
    scope: &Scope,
    stale: &[Stale],
    barn_now: &BarnNow,
    today: NaiveDate,
) -> Result<Vec<Arc<WatchedRecord>>, Problem> {
    let _alone = app.caches.horses_at_work.alone(stale.iter().map(|s| (scope.shared(), s.0))).await;
    watch_alone(app, scope, stale, barn_now, today).await
}

/// The same for who is alone with these horses. What was watched of them before is not watched again.
async fn watch_alone(
    app: &App,
    scope: &Scope,
    stale: &[Stale],
    barn_now: &BarnNow,
    today: NaiveDate,
) -> Result<Vec<Arc<WatchedRecord>>, Problem> {
    let key = |stale: &Stale| (scope.shared(), stale.0);
    let held = stale.iter().map(|one| app.caches.watched.get(key(one), &one.2));
    let held: Vec<Option<Arc<WatchedRecord>>> = held.collect();
    let left: Vec<Stale> = stale.iter().zip(&held).filter(|(_, h)| h.is_none()).map(|(s, _)| s.clone()).collect();
    if left.is_empty() {
        return Ok(held.into_iter().flatten().collect());
    }
    let shown = barn_now.known.shown(app, scope, today).await?;
    let records = records(app, scope, &left, barn_now, &shown, today).await?;
    let watch = |(record, one): (Record, &Stale)| {
        let before = app.caches.watched.latest(key(one));
        let with_barn = app.caches.with_barn.take(key(one));
        let shown = Arc::clone(&shown);
        let watched = move || Arc::new(compute::watch(record, &shown, before.as_deref(), with_barn.as_deref(), today));
        app.compute.run(scope.shared(), watched)
    };
    let made = try_join_all(records.into_iter().zip(&left).map(watch)).await?;
    for (watched, one) in made.iter().zip(&left) {
        app.caches.watched.put(key(one), one.2.clone(), watched);
    }
    let mut made = made.into_iter();
    Ok(held.into_iter().filter_map(|held| held.or_else(|| made.next())).collect())
}

/// What was kept of a horse's standing, however old: what was foreseen of it before what it shows now.
pub(crate) async fn foreseen(app: &App, scope: &Scope, horse: Uuid) -> Result<Option<StandingOut>, Problem> {
    let kept = standing::latest(&app.db, scope, horse).await?;
    Ok(kept.and_then(|body| serde_json::from_value(body).ok()))
}

/// The part of a list, sorted by horse, that is one horse's.
fn of<T>(list: &[T], horse: Uuid, of: impl Fn(&T) -> Uuid) -> &[T] {
    let from = list.partition_point(|t| of(t) < horse);
    let to = list.partition_point(|t| of(t) <= horse);
    &list[from..to]
}
