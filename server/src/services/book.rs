//! The curriculum as a barn has it, for the barn or for one horse, kept until the barn changes it. Most horses have the same one, and most
//! barns do: it is in memory once.

use std::{collections::HashMap, sync::Arc, time::Duration};

use cavesson_core::{
    barn::Trait,
    curriculum::{Course, Curriculum},
};
use cavesson_store::{Scope, curriculum, horse};
use chrono::NaiveDate;
use sha2::{Digest, Sha256};
use uuid::Uuid;

use crate::{App, Problem};

/// A curriculum and its course.
#[derive(Debug)]
pub(crate) struct Book {
    pub(crate) curriculum: Curriculum,
    pub(crate) course: Arc<Course>,
    /// A hash of the curriculum: the same where nothing in it differs.
    pub(crate) fingerprint: String,
    /// A hash of which steps its course has, in their order: a log that was read by it can be used with another that has the same.
    pub(crate) steps: String,
}

impl Book {
    fn of(curriculum: Curriculum, fingerprint: String) -> Book {
        let course = Arc::new(curriculum.course());
        let steps = self::fingerprint(&course.steps().iter().map(|s| s.id.as_str()).collect::<Vec<_>>());
        Book { curriculum, course, fingerprint, steps }
    }

    /// A hash of all that what was watched before a day can follow from: a standard that holds from that day on, or a rung that is left out,
    /// changes nothing of it.
    pub(crate) fn watched_before(&self, day: NaiveDate) -> String {
        fingerprint(&[&format!("{:?}", self.course.watched_before(day))])
    }
}

/// A short hash of some texts: 16 hexadecimal digits of SHA-256.
pub(crate) fn fingerprint(texts: &[&str]) -> String {
    let mut hash = Sha256::new();
    texts.iter().for_each(|text| hash.update(text));
    hash.finalize().iter().take(8).map(|byte| format!("{byte:02x}")).collect()
}

type Key = (Uuid, Option<Uuid>);

/// Which book a barn or a horse has.
#[derive(Debug, Clone)]
struct Has {
    /// The number of the barn's change that it was made after.
    revision: i64,
    /// What the horse is like for good, which some standards follow.
    traits: Vec<Trait>,
    book: Arc<Book>,
}

/// The books made so far.
#[derive(Debug)]
pub(crate) struct Books {
    /// By barn and horse.
    of_horses: moka::sync::Cache<Key, Has>,
    /// By their fingerprints.
    all: moka::sync::Cache<String, Arc<Book>>,
}

/// How many horses' books are known, and how many different ones stay: they are quick to make.
const MOST_HORSES: u64 = 20_000;
const MOST_BOOKS: u64 = 500;
const IDLE: Duration = Duration::from_secs(24 * 60 * 60);

impl Default for Books {
    fn default() -> Self {
        Books {
            of_horses: moka::sync::Cache::builder().max_capacity(MOST_HORSES).time_to_idle(IDLE).build(),
            all: moka::sync::Cache::builder().max_capacity(MOST_BOOKS).time_to_idle(IDLE).build(),
        }
    }
}

impl Books {
    fn get(&self, key: Key, revision: i64, traits: &[Trait]) -> Option<Arc<Book>> {
        let has = self.of_horses.get(&key).filter(|has| has.revision == revision && has.traits == traits);
        has.map(|has| has.book)
    }

    /// Keeps which curriculum a horse has from a change on, as its book.
    fn keep(&self, key: Key, curriculum: Curriculum, revision: i64, traits: Vec<Trait>) -> Arc<Book> {
        let curriculum = curriculum.with_rein_time(Trait::rein_time(&traits));
        let fingerprint = fingerprint(&[&serde_json::to_string(&curriculum).unwrap_or_default()]);
        let book = self.all.get_with_by_ref(&fingerprint, || Arc::new(Book::of(curriculum, fingerprint.clone())));
        self.of_horses.insert(key, Has { revision, traits, book: Arc::clone(&book) });
        book
    }
}

/// The book of the barn, or of one of its horses.
pub(crate) async fn book(app: &App, scope: &Scope, horse: Option<Uuid>) -> Result<Arc<Book>, Problem> {
    let mut books = books(app, scope, &[horse]).await?;
    books.pop().ok_or_else(Problem::broken)
}

/// The book of a horse, where it is at hand by what tells which it is.
pub(crate) fn at_hand(app: &App, scope: &Scope, horse: Uuid, revision: i64, traits: &[Trait]) -> Option<Arc<Book>> {
    app.books.get((scope.shared(), Some(horse)), revision, traits)
}

/// The books of several horses, in their order; `None` is the barn's. They are kept for everyone, so they are made from all of
/// the barn, whoever asks.
pub(crate) async fn books(app: &App, scope: &Scope, horses: &[Option<Uuid>]) -> Result<Vec<Arc<Book>>, Problem> {
    let scope = &scope.whole();
    let revision = curriculum::revision(&app.db, scope).await?;
    let traits: HashMap<Uuid, Vec<Trait>> = horse::traits(&app.db, scope).await?.into_iter().collect();
    let traits = |horse: Option<Uuid>| horse.and_then(|h| traits.get(&h).cloned()).unwrap_or_default();
    let kept: Vec<Option<Arc<Book>>> =
        horses.iter().map(|&h| app.books.get((scope.shared(), h), revision, &traits(h))).collect();
    if kept.iter().all(Option::is_some) {
        return Ok(kept.into_iter().flatten().collect());
    }
    let changes = curriculum::changes(&app.db, scope).await?;
    let mut made = vec![];
    for (&horse, kept) in horses.iter().zip(kept) {
        let book = match kept {
            Some(book) => book,
            None => {
                let mine = changes.iter().filter(|c| c.horse_id.is_none() || c.horse_id == horse).map(|c| &c.dated);
                // Changes were checked when they were made; a version that ships less than they stand on falls back.
                let curriculum = Curriculum::standard().changed(mine).unwrap_or_else(|errors| {
                    tracing::error!(?errors, "a barn's curriculum cannot be read; the one that ships is used");
                    Curriculum::standard().clone()
                });
                app.books.keep((scope.shared(), horse), curriculum, revision, traits(horse))
            }
        };
        made.push(book);
    }
    Ok(made)
}
