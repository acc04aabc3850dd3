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
}

/// Shorthand.
pub type Result<T> = std::result::Result<T, StoreError>;

impl StoreError {
    /// The name of the violated constraint, if that is what went wrong.
    pub fn constraint(&self) -> Option<&str> {
        match self {
            StoreError::Database(sqlx::Error::Database(e)) => e.constraint(),
            _ => None,
        }
    }
}
