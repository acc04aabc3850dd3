//! What is kept: PostgreSQL through SQLx, one module for each kind of thing.
//!
//! Every query takes a [`Scope`] and reaches only rows of its barn; an owner's scope reaches only that owner's horses.
//! Ids are made by the client, so writing the same thing twice is harmless: see [`Put`]. Changes name the version they
//! were made from, so nothing is overwritten unseen: see [`Update`].
//!
//! Queries are checked against the schema when the crate is built; `.sqlx/` in the workspace holds what that check needs, so that
//! building needs no database.

pub mod appointment;
pub mod barn;
pub mod claim;
pub mod curriculum;
mod error;
pub mod feed;
pub mod gear;
pub mod ground;
pub mod horse;
pub mod hours;
pub mod incident;
pub mod layoff;
pub mod log;
pub mod person;
pub mod planned;
mod scope;
pub mod session;
pub mod standing;
pub mod trainer_input;
pub mod week;

pub use error::{Result, StoreError};
pub use scope::{Page, Put, Scope, Update};
use sqlx::{
    PgPool,
    postgres::{PgConnectOptions, PgPoolOptions},
};

/// The schema's migrations, run at start.
pub static MIGRATOR: sqlx::migrate::Migrator = sqlx::migrate!();

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
    let pool = PgPoolOptions::new().max_connections(12).connect_with(options).await?;
    MIGRATOR.run(&pool).await?;
    Ok(pool)
}
