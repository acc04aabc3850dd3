use uuid::Uuid;

use crate::{Result, StoreError};

/// Whose eyes a query looks with.
///
/// The barn is not to be had without saying who may read what the query reads: an owner's own horses ([`Scope::owned`]),
/// the staff alone ([`Scope::staff`]), everyone in the barn ([`Scope::shared`]), or what hangs on a horse or a ride that
/// was read before ([`Scope::of_seen`]). A query that forgets the owner does not compile, or refuses owners.
///
/// ```
/// use cavesson_store::Scope;
/// use uuid::Uuid;
///
/// let (barn, person) = (Uuid::from_u128(1), Uuid::from_u128(2));
/// assert_eq!(Scope::staff_of(barn, person).staff().unwrap(), barn);
/// let owner = Scope::owner_in(barn, person);
/// assert!(owner.staff().is_err());
/// assert_eq!(owner.owned().owner, Some(person));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Scope {
    barn: Uuid,
    person: Uuid,
    owner: bool,
}

/// Rows of a barn, and for an owner only those of this owner's horses. A query binds both.
#[derive(Debug, Clone, Copy)]
pub struct Owned {
    /// Only rows of this barn.
    pub barn: Uuid,
    /// Only rows of this person's horses; none for the staff, who see all.
    pub owner: Option<Uuid>,
}

impl Scope {
    /// A trainer's or an assistant's: the whole barn.
    pub fn staff_of(barn: Uuid, person: Uuid) -> Scope {
        Scope { barn, person, owner: false }
    }

    /// An owner's: this person's horses and their rides.
    pub fn owner_in(barn: Uuid, person: Uuid) -> Scope {
        Scope { barn, person, owner: true }
    }

    /// Who asks.
    pub fn person(&self) -> Uuid {
        self.person
    }

    /// Whether an owner asks.
    pub fn is_owner(&self) -> bool {
        self.owner
    }

    /// The same reach in the name of another person of the barn, whose log is handed in.
    pub fn for_person(&self, person: Uuid) -> Scope {
        Scope { person, ..*self }
    }

    /// The whole barn, for work whose outcome is kept for everyone and shown to an owner only for their horses.
    pub fn whole(&self) -> Scope {
        Scope { owner: false, ..*self }
    }

    /// For rows that belong to horses.
    pub fn owned(&self) -> Owned {
        Owned { barn: self.barn, owner: self.owner.then_some(self.person) }
    }

    /// The barn, for whatever only a trainer or an assistant reads or writes.
    ///
    /// # Errors
    /// [`StoreError::StaffOnly`]: an owner asks.
    pub fn staff(&self) -> Result<Uuid> {
        if self.owner { Err(StoreError::StaffOnly) } else { Ok(self.barn) }
    }

    /// The barn, for what everyone in it may read, such as its settings and its places, and for a person's own account.
    pub fn shared(&self) -> Uuid {
        self.barn
    }

    /// The barn, for rows asked for by the id of a horse or a ride that was itself read through [`Scope::owned`].
    pub fn of_seen(&self) -> Uuid {
        self.barn
    }
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

/// As many rows as were asked for, of one more than that, and whether there are more.
pub(crate) fn first<T>(mut rows: Vec<T>, limit: i64) -> (Vec<T>, bool) {
    let more = rows.len() as i64 > limit;
    rows.truncate(limit as usize);
    (rows, more)
}

impl<T> Page<T> {
    /// From rows fetched with one more than `limit`, so that "more" needs no second query.
    pub(crate) fn of(items: Vec<T>, offset: i64, limit: i64) -> Page<T> {
        let (items, more) = first(items, limit);
        Page { items, offset, more }
    }
}
