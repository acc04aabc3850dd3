//! What happened to accounts: who signed in or failed to, changed a role, made a link, took records away.

use chrono::{DateTime, Utc};
use sqlx::PgExecutor;
use uuid::Uuid;

use crate::{Page, Result, Scope};

/// What happened.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum What {
    SignedIn,
    SignInFailed,
    SignedOut,
    SessionEnded,
    PasswordSet,
    LinkMade,
    LinkUsed,
    CodesOn,
    CodesOff,
    PersonAdded,
    PersonChanged,
    FeedMade,
    FeedRevoked,
    Exported,
}

impl What {
    /// The word it is kept by.
    pub fn word(self) -> &'static str {
        match self {
            What::SignedIn => "signed-in",
            What::SignInFailed => "sign-in-failed",
            What::SignedOut => "signed-out",
            What::SessionEnded => "session-ended",
            What::PasswordSet => "password-set",
            What::LinkMade => "link-made",
            What::LinkUsed => "link-used",
            What::CodesOn => "codes-on",
            What::CodesOff => "codes-off",
            What::PersonAdded => "person-added",
            What::PersonChanged => "person-changed",
            What::FeedMade => "feed-made",
            What::FeedRevoked => "feed-revoked",
            What::Exported => "exported",
        }
    }
}

/// Where a request comes from.
#[derive(Debug, Clone, Default)]
#[allow(missing_docs)]
pub struct Origin {
    pub address: Option<String>,
    pub device: String,
}

/// Something that happened.
#[derive(Debug, Clone)]
#[allow(missing_docs)]
pub struct Event<'a> {
    pub what: What,
    /// Who did it, where that is known.
    pub by: Option<Uuid>,
    /// Whose account it is about.
    pub about: Option<Uuid>,
    pub detail: &'a str,
}

/// Writes down what happened.
pub async fn note(db: impl PgExecutor<'_>, barn: Uuid, event: &Event<'_>, origin: &Origin) -> Result<()> {
    sqlx::query!(
        "insert into security_event (barn_id, what, person_id, about_id, detail, address, device)
         values ($1, $2, $3, $4, $5, $6, $7)",
        barn,
        event.what.word(),
        event.by,
        event.about,
        event.detail,
        origin.address,
        origin.device
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A line of the security log.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Entry {
    pub id: i64,
    pub at: DateTime<Utc>,
    pub what: String,
    pub by: Option<String>,
    pub about: Option<String>,
    pub detail: String,
    pub address: Option<String>,
    pub device: String,
}

/// The security log, the latest first.
pub async fn list(db: impl PgExecutor<'_>, scope: &Scope, offset: i64, limit: i64) -> Result<Page<Entry>> {
    let barn = scope.staff()?;
    let rows = sqlx::query_as!(
        Entry,
        r#"select e.id, e.at, e.what, p.name as "by?", a.name as "about?", e.detail, e.address, e.device
           from security_event e
           left join person p on p.barn_id = e.barn_id and p.id = e.person_id
           left join person a on a.barn_id = e.barn_id and a.id = e.about_id
           where e.barn_id = $1 order by e.id desc offset $2 limit $3"#,
        barn,
        offset,
        limit + 1
    )
    .fetch_all(db)
    .await?;
    Ok(Page::of(rows, offset, limit))
}
