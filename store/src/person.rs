//! People of a barn and their roles.

use cavesson_core::barn::Role;
use chrono::{DateTime, Utc};
use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use crate::{Owned, Page, Put, Result, Scope, account};

/// A person of a barn.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Person {
    pub id: Uuid,
    pub name: String,
    pub email: String,
    pub role: Role,
    /// Whether a password was set, so that they can sign in.
    pub can_sign_in: bool,
    pub archived_at: Option<DateTime<Utc>>,
    pub version: i32,
}

/// What can be set about a person.
#[derive(Debug, Clone, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct PersonFields {
    pub name: String,
    pub email: String,
    pub role: Role,
}

/// The first person of a barn with this role; the demo signs in so.
pub async fn first_with_role(db: &PgPool, barn: Uuid, role: Role) -> Result<Option<Uuid>> {
    Ok(sqlx::query_scalar!(
        "select id from person where barn_id = $1 and role = $2 and archived_at is null order by created_at, name limit 1",
        barn,
        role.word()
    )
    .fetch_optional(db)
    .await?)
}

/// People of the barn by name. An owner sees who works with the horses, and no other owner.
pub async fn list(db: &PgPool, scope: &Scope, archived: bool, offset: i64, limit: i64) -> Result<Page<Person>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query_as!(
        Person,
        r#"select id, name, email, role as "role: Role", account_id is not null as "can_sign_in!", archived_at, version from person
           where barn_id = $1 and (archived_at is not null) = $2 and ($5::uuid is null or id = $5 or role <> 'owner')
           order by name, id offset $3 limit $4"#,
        barn,
        archived,
        offset,
        limit + 1,
        owner
    )
    .fetch_all(db)
    .await?;
    Ok(Page::of(rows, offset, limit))
}

/// People of the barn who are not archived, all of them, by name; for an owner as in [`list`].
pub async fn in_barn(db: &PgPool, scope: &Scope) -> Result<Vec<Person>> {
    let Owned { barn, owner } = scope.owned();
    Ok(sqlx::query_as!(
        Person,
        r#"select id, name, email, role as "role: Role", account_id is not null as "can_sign_in!", archived_at, version from person
           where barn_id = $1 and archived_at is null and ($2::uuid is null or id = $2 or role <> 'owner')
           order by name, id"#,
        barn,
        owner
    )
    .fetch_all(db)
    .await?)
}

/// What people are in the barn, those whom whoever asks may see.
pub async fn roles(db: &PgPool, scope: &Scope, people: &[Uuid]) -> Result<Vec<(Uuid, Role)>> {
    let Owned { barn, owner } = scope.owned();
    let rows = sqlx::query!(
        r#"select id, role as "role: Role" from person
           where barn_id = $1 and ($2::uuid is null or id = $2 or role <> 'owner') and id = any($3)"#,
        barn,
        owner,
        people
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.id, r.role)).collect())
}

/// One person, if whoever asks may see them.
pub async fn get(db: &PgPool, scope: &Scope, id: Uuid) -> Result<Option<Person>> {
    let Owned { barn, owner } = scope.owned();
    Ok(sqlx::query_as!(
        Person,
        r#"select id, name, email, role as "role: Role", account_id is not null as "can_sign_in!", archived_at, version from person
           where barn_id = $1 and id = $2 and ($3::uuid is null or id = $3 or role <> 'owner')"#,
        barn,
        id,
        owner
    )
    .fetch_optional(db)
    .await?)
}

/// Stores a new person. An e-mail address that is in use in the barn violates the constraint `person_email`.
pub async fn put(db: &PgPool, scope: &Scope, id: Uuid, fields: &PersonFields) -> Result<Put> {
    let barn = scope.staff()?;
    let new = insert(&mut *db.acquire().await?, barn, id, fields, None).await?;
    if new {
        return Ok(Put::Created);
    }
    let there = get(db, scope, id).await?;
    let same = there.is_some_and(|p| p.name == fields.name && p.email == fields.email && p.role == fields.role);
    Ok(if same { Put::Same } else { Put::Taken })
}

/// Inserts a person, with an account where there is a password; false when the id is taken.
pub async fn insert(
    db: &mut PgConnection,
    barn: Uuid,
    id: Uuid,
    fields: &PersonFields,
    password_hash: Option<&str>,
) -> Result<bool> {
    let done = sqlx::query!(
        "insert into person (barn_id, id, name, email, role) values ($1, $2, $3, $4, $5) on conflict (barn_id, id) do nothing",
        barn,
        id,
        fields.name,
        fields.email,
        fields.role.word()
    )
    .execute(&mut *db)
    .await?;
    let is_new = done.rows_affected() == 1;
    if let Some(hash) = password_hash.filter(|_| is_new) {
        account::create(db, barn, id, &fields.email, hash).await?;
    }
    Ok(is_new)
}

/// What became of a change to a person.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum PersonUpdate {
    /// It was made.
    Done(Person),
    /// The person has changed since `version`.
    Stale(Person),
    /// There is no such person.
    Missing,
    /// It would leave the barn without a trainer who can sign in.
    LastTrainer,
}

/// Changes a person if the version is still `version`.
///
/// The barn's row is locked first: of two trainers who demote each other at once, the second sees what the first did.
pub async fn update(
    db: &PgPool,
    scope: &Scope,
    id: Uuid,
    version: i32,
    fields: &PersonFields,
    archived: bool,
) -> Result<PersonUpdate> {
    let barn = scope.staff()?;
    let mut tx = db.begin().await?;
    sqlx::query!("select id from barn where id = $1 for update", barn).fetch_one(&mut *tx).await?;
    let had_trainer = has_trainer(&mut tx, scope).await?;
    let done = sqlx::query!(
        "update person set name = $4, email = $5, role = $6, version = version + 1,
                archived_at = case when $7 then coalesce(archived_at, now()) end
         where barn_id = $1 and id = $2 and version = $3",
        barn,
        id,
        version,
        fields.name,
        fields.email,
        fields.role.word(),
        archived
    )
    .execute(&mut *tx)
    .await?
    .rows_affected();
    if done == 1 {
        // Where the account is in other barns too, the address that it signs in with is not this barn's to change.
        sqlx::query!(
            "update account a set email = $3 from person p where p.barn_id = $1 and p.id = $2 and a.id = p.account_id
               and not exists (select from person o where o.account_id = a.id and o.barn_id <> $1)",
            barn,
            id,
            fields.email
        )
        .execute(&mut *tx)
        .await?;
    }
    if done == 1 && archived {
        sqlx::query!("delete from session where barn_id = $1 and person_id = $2", barn, id).execute(&mut *tx).await?;
    }
    if had_trainer && !has_trainer(&mut tx, scope).await? {
        return Ok(PersonUpdate::LastTrainer);
    }
    tx.commit().await?;
    Ok(match get(db, scope, id).await? {
        Some(person) if done == 1 => PersonUpdate::Done(person),
        Some(person) => PersonUpdate::Stale(person),
        None => PersonUpdate::Missing,
    })
}

/// Whether the barn has a trainer who can sign in: in the demo without a password.
async fn has_trainer(tx: &mut PgConnection, scope: &Scope) -> Result<bool> {
    let barn = scope.staff()?;
    Ok(sqlx::query_scalar!(
        r#"select exists (select from person p join barn b on b.id = p.barn_id
                          where p.barn_id = $1 and p.role = 'trainer' and p.archived_at is null
                            and (p.account_id is not null or b.demo_day is not null)) as "yes!""#,
        barn
    )
    .fetch_one(tx)
    .await?)
}
