use uuid::Uuid;

/// Whose eyes a query looks with.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Scope {
    /// Only rows of this barn.
    pub barn: Uuid,
    /// Who asks.
    pub person: Uuid,
    /// For an owner: only this person's horses and their rides.
    pub owned_by: Option<Uuid>,
}

/// What writing a new thing under a client-made id came to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Put {
    /// It is new and stored.
    Created,
    /// The same thing was already there: sending twice is harmless.
    Same,
    /// Something else has this id.
    Taken,
    /// It refers to something that is not there.
    Missing,
}

impl Put {
    /// Of a thing that was not written: whether what stands under its id is the same; none where nothing does.
    pub(crate) fn of_kept(same: Option<bool>) -> Put {
        match same {
            Some(true) => Put::Same,
            Some(false) => Put::Taken,
            None => Put::Missing,
        }
    }
}

/// What changing a thing came to.
#[derive(Debug, Clone, PartialEq)]
pub enum Update<T> {
    /// Changed; this is it now.
    Done(T),
    /// Someone changed it meanwhile; this is it now, and nothing was overwritten.
    Stale(T),
    /// There is no such thing in this scope.
    Missing,
}

/// A page of a list, and where the next begins.
#[derive(Debug, Clone, PartialEq)]
pub struct Page<T> {
    /// The rows.
    pub items: Vec<T>,
    /// How many rows were passed over before these.
    pub offset: i64,
    /// Whether there are more behind them.
    pub more: bool,
}

impl<T> Page<T> {
    /// From rows fetched with one more than `limit`, so that "more" needs no second query.
    pub(crate) fn of(mut items: Vec<T>, offset: i64, limit: i64) -> Page<T> {
        let more = items.len() as i64 > limit;
        items.truncate(limit as usize);
        Page { items, offset, more }
    }
}
