//! What is kept: PostgreSQL through SQLx, one module for each kind of thing.
//!
//! Every query takes a [`Scope`] and reaches only rows of its barn; an owner's scope reaches only that owner's horses, and no
//! query gets at the barn without saying who may read it.
//! Ids are made by the client, so writing the same thing twice is harmless: see [`Put`]. Changes name the version they
//! were made from, so nothing is overwritten unseen: see [`Update`].
//!
//! Queries are checked against the schema when the crate is built; `.sqlx/` in the workspace holds what that check needs, so that
//! building needs no database.

pub mod account;
pub mod ahead;
pub mod appointment;
pub mod attempt;
pub mod barn;
pub mod cattle;
pub mod claim;
pub mod curriculum;
mod error;
pub mod exercise;
pub mod feed;
pub mod figure;
pub mod gear;
pub mod ground;
pub mod horse;
pub mod hours;
pub mod incident;
pub mod layoff;
pub mod log;
pub mod pattern;
pub mod person;
pub mod planned;
pub mod ride_event;
mod scope;
pub mod score;
pub mod security;
pub mod session;
pub mod standing;
pub mod stride;
pub mod tack;
pub mod tack_event;
pub mod trainer_input;
pub mod two_rein;
pub mod week;

pub use error::{Result, StoreError};
pub use scope::{Owned, Page, Put, Scope, Update};
use std::time::Duration;

use sqlx::{
    ConnectOptions, Connection, PgConnection, PgPool,
    postgres::{PgConnectOptions, PgPoolOptions},
};

/// The schema's migrations, run at start.
pub static MIGRATOR: sqlx::migrate::Migrator = sqlx::migrate!();

/// A statement that runs longer is given up: pages take milliseconds.
const STATEMENT_TIMEOUT: &str = "30s";
/// So long one writer waits for another.
const LOCK_TIMEOUT: &str = "5s";
/// So long a request waits for a connection, so that someone hears soon that the database is busy or gone.
const ACQUIRE_TIMEOUT: Duration = Duration::from_secs(2);

/// Connects to a database and brings its schema up to date.
///
/// ```no_run
/// # async fn example() -> cavesson_store::Result<()> {
/// let db = cavesson_store::open("postgres://localhost/barn").await?;
/// assert!(!cavesson_store::barn::any(&db).await?, "nothing is in a new database");
/// # Ok(()) }
/// ```
///
/// # Errors
/// The database cannot be reached, or a migration fails.
pub async fn open(url: &str) -> Result<PgPool> {
    let options: PgConnectOptions = url.parse()?;
    // Migrations take as long as they need.
    let mut plain = options.connect().await?;
    MIGRATOR.run(&mut plain).await?;
    analyze_new_tables(&mut plain).await?;
    plain.close().await?;
    let bounded = options.options([
        ("statement_timeout", STATEMENT_TIMEOUT),
        ("lock_timeout", LOCK_TIMEOUT),
        ("idle_in_transaction_session_timeout", STATEMENT_TIMEOUT),
        // Pages are many small reads beside each other: one that takes all cores, or is compiled first, holds up the others.
        ("max_parallel_workers_per_gather", "0"),
        ("jit", "off"),
        // The same plan for each barn. One made for a barn that is newer than the statistics takes its rows for none, and goes through all
        // of them again and again.
        ("plan_cache_mode", "force_generic_plan"),
    ]);
    Ok(PgPoolOptions::new().max_connections(12).acquire_timeout(ACQUIRE_TIMEOUT).connect_lazy_with(bounded))
}

/// Analyzes the tables that hold rows and were never analyzed, as after a restored copy or an upgrade of PostgreSQL. Until autovacuum gets
/// to them, the planner knows nothing of what is in them, and reading a barn's reps by what it guesses can take minutes.
async fn analyze_new_tables(connection: &mut PgConnection) -> Result<()> {
    let tables: Option<String> = sqlx::query_scalar(
        "select string_agg(oid::regclass::text, ', ') from pg_class
         where relkind = 'r' and relnamespace = current_schema()::regnamespace and reltuples < 0 and pg_relation_size(oid) > 0",
    )
    .fetch_one(&mut *connection)
    .await?;
    if let Some(tables) = tables {
        sqlx::query(&format!("analyze {tables}")).execute(connection).await?;
    }
    Ok(())
}

/// Whether the database answers and its schema is the one of this build.
///
/// # Errors
/// It cannot be reached.
pub async fn is_ready(db: &PgPool) -> Result<bool> {
    let newest: Option<i64> =
        sqlx::query_scalar("select max(version) from _sqlx_migrations where success").fetch_one(db).await?;
    Ok(newest == MIGRATOR.iter().map(|m| m.version).max())
}
