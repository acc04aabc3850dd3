//! Where a ride is: on one of the barn's own grounds, at a place of a kind, or where the horse was ridden last.

use std::collections::HashMap;

use cavesson_core::curriculum::Place;
use cavesson_store::{Scope, ground};
use uuid::Uuid;

use crate::{App, Problem};

/// Where a ride is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Where {
    pub(crate) place: Place,
    pub(crate) ground: Option<Uuid>,
}

/// Where a ride is that is said to be on a ground or at a place; where neither is said, there is none.
///
/// # Errors
/// A ground that the barn does not have.
pub(crate) async fn said(
    app: &App,
    scope: &Scope,
    place: Option<Place>,
    ground: Option<Uuid>,
) -> Result<Option<Where>, Problem> {
    let Some(id) = ground else { return Ok(place.map(|place| Where { place, ground: None })) };
    let kept = ground::get(&app.db, scope, id).await?;
    let kept = kept.ok_or_else(|| Problem::field("ground_id", "the barn has no such place; pick one from the list"))?;
    Ok(Some(Where { place: kept.place, ground }))
}

impl Where {
    /// Where a horse is ridden of which nobody knows better.
    pub(crate) const UNKNOWN: Where = Where { place: Place::Arena, ground: None };
}

/// Where horses are ridden when nobody says: where this rider rode each last, else where it was ridden last. A horse that was never
/// ridden is left out.
pub(crate) async fn usual(
    app: &App,
    scope: &Scope,
    horses: &[Uuid],
    rider: Uuid,
) -> Result<HashMap<Uuid, Where>, Problem> {
    let last = ground::last_ridden_at(&app.db, scope, horses, rider).await?;
    Ok(last.into_iter().map(|(horse, place, ground)| (horse, Where { place, ground })).collect())
}
