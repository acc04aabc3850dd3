/// What can go wrong below the queries.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// The database refused or could not be reached.
    #[error(transparent)]
    Database(#[from] sqlx::Error),
    /// The schema could not be brought up to date.
    #[error(transparent)]
    Migration(#[from] sqlx::migrate::MigrateError),
    /// A row holds a word that the core does not know.
    #[error("a stored value cannot be read: {0}")]
    Unreadable(String),
    /// An owner asked for what only the staff reads or writes.
    #[error("only a trainer or an assistant reads or writes this")]
    StaffOnly,
}

/// Shorthand.
pub type Result<T> = std::result::Result<T, StoreError>;

/// Codes of PostgreSQL (appendix A of its manual) that say that it cannot do it now: too many connections, no room on the disk, a
/// statement or a lock that took too long, a server that stops or is not up yet.
const NOT_NOW: [&str; 8] = ["53000", "53100", "53200", "53300", "55P03", "57014", "57P01", "57P03"];

impl StoreError {
    /// Whether the same may well work in a moment: the database is gone, full or too busy, and nothing was kept.
    pub fn is_for_now(&self) -> bool {
        use sqlx::Error::{Database, Io, PoolClosed, PoolTimedOut, Protocol, WorkerCrashed};
        match self {
            StoreError::Database(Io(_) | PoolClosed | PoolTimedOut | Protocol(_) | WorkerCrashed) => true,
            StoreError::Database(Database(e)) => e.code().is_some_and(|code| NOT_NOW.contains(&code.as_ref())),
            _ => false,
        }
    }

    /// The name of the violated constraint, if that is what went wrong.
    pub fn constraint(&self) -> Option<&str> {
        match self {
            StoreError::Database(sqlx::Error::Database(e)) => e.constraint(),
            _ => None,
        }
    }
}
