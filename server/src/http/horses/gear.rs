//! What horses are ridden in.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{barn::GearKind, ride::Mouthpiece};
use cavesson_store::{
    Put, StoreError, Update,
    gear::{self, Gear, GearFields},
    log::ride,
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        validate::{Check, within_years, within_years_if_any},
    },
    services::barn_clock::today,
};

/// A piece of gear.
#[derive(Serialize, ToSchema)]
pub(crate) struct GearOut {
    pub(crate) id: Uuid,
    horse_id: Uuid,
    pub(crate) kind: GearKind,
    pub(crate) name: String,
    pub(crate) mouthpiece: Option<Mouthpiece>,
    since: NaiveDate,
    mouth_seen: Option<NaiveDate>,
    pub(crate) teeth_seen: Option<NaiveDate>,
    note: String,
    archived: bool,
    version: i32,
    /// Days on which the horse was ridden in it before today.
    pub(crate) days: i64,
}

/// The gear of a horse.
#[derive(Serialize, ToSchema)]
pub(crate) struct GearList {
    items: Vec<GearOut>,
    /// Ids of what the horse wore on its last ride.
    last_worn: Vec<Uuid>,
}

/// A piece of gear to add (without a version) or to change.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct GearIn {
    version: Option<i32>,
    kind: GearKind,
    #[schema(min_length = 1, max_length = 60)]
    name: String,
    /// Of a bit or a bosal, and of nothing else.
    mouthpiece: Option<Mouthpiece>,
    #[serde(deserialize_with = "within_years")]
    since: NaiveDate,
    /// When someone last looked into the mouth. A bit needs it.
    #[serde(default, deserialize_with = "within_years_if_any")]
    mouth_seen: Option<NaiveDate>,
    /// When a vet or dentist last saw the teeth. A bit needs it.
    #[serde(default, deserialize_with = "within_years_if_any")]
    teeth_seen: Option<NaiveDate>,
    #[serde(default)]
    #[schema(max_length = 500)]
    note: String,
    #[serde(default)]
    archived: bool,
}

/// What a ride is ridden in.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Worn {
    gear: Vec<Uuid>,
}

impl TryFrom<Gear> for GearOut {
    type Error = Problem;
    fn try_from(g: Gear) -> Result<Self, Problem> {
        Ok(GearOut {
            id: g.id,
            horse_id: g.horse_id,
            kind: g.kind,
            name: g.name,
            mouthpiece: g.mouthpiece,
            since: g.since,
            mouth_seen: g.mouth_seen,
            teeth_seen: g.teeth_seen,
            note: g.note,
            archived: g.archived,
            version: g.version,
            days: g.days,
        })
    }
}

/// The gear of a horse, that in use first.
#[utoipa::path(get, path = "/api/horses/{id}/gear", params(("id" = Uuid, Path)),
    responses((status = 200, body = GearList), (status = 404, body = Problem)))]
pub(crate) async fn list(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<GearList>, Problem> {
    crate::services::horses::find(&app, &signed, id).await?;
    let day = today(&app, &signed).await?;
    let items = gear::of_horse(&app.db, &signed.scope, id, day).await?;
    let last_worn = gear::of_last_rides(&app.db, &signed.scope, &[id], day + Days::new(1)).await?;
    Ok(Json(GearList::of(id, &items, &last_worn)?))
}

impl GearList {
    /// The gear of a horse, from that of several and from what they wore last.
    pub(crate) fn of(horse: Uuid, gear: &[Gear], last_worn: &[(Uuid, Uuid)]) -> Result<GearList, Problem> {
        let items = gear.iter().filter(|g| g.horse_id == horse).cloned().map(GearOut::try_from);
        let last_worn = last_worn.iter().filter(|worn| worn.0 == horse).map(|worn| worn.1);
        Ok(GearList { last_worn: last_worn.collect(), items: items.collect::<Result<_, _>>()? })
    }
}

/// Adds or changes a piece of gear.
#[utoipa::path(put, path = "/api/horses/{horse}/gear/{id}", params(("horse" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = GearIn,
    responses((status = 200, body = GearOut), (status = 201, body = GearOut), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(horse, id): Ids,
    Body(sent): Body<GearIn>,
) -> Result<(StatusCode, Json<GearOut>), Problem> {
    crate::services::horses::find(&app, &signed, horse).await?;
    let day = today(&app, &signed).await?;
    let fields = checked(&sent, day)?;
    let (status, gear) = match sent.version {
        None => match gear::put(&app.db, &signed.scope, horse, id, &fields).await? {
            Put::Taken | Put::Missing => return Err(Problem::taken("piece of gear")),
            put => {
                let status = if put == Put::Created { StatusCode::CREATED } else { StatusCode::OK };
                (status, gear::get(&app.db, &signed.scope, id, day).await?.ok_or_else(Problem::broken)?)
            }
        },
        Some(version) => {
            let there = gear::get(&app.db, &signed.scope, id, day).await?.filter(|g| g.horse_id == horse);
            let there = there.ok_or_else(|| Problem::missing("piece of gear"))?;
            if there.kind != fields.kind || there.mouthpiece != fields.mouthpiece {
                return Err(Problem::field("kind", "a piece stays what it is: archive it and add the other one"));
            }
            if sent.archived && !there.archived && gear::is_worn(&app.db, &signed.scope, id, day).await? {
                return Err(Problem::field("archived", "a ride that is not closed wears it: take it off there first"));
            }
            match gear::update(&app.db, &signed.scope, id, version, &fields, sent.archived, day).await? {
                Update::Done(gear) => (StatusCode::OK, gear),
                Update::Stale(now) => return Err(Problem::stale("piece of gear", &GearOut::try_from(now)?)),
                Update::Missing => return Err(Problem::missing("piece of gear")),
            }
        }
    };
    Ok((status, Json(gear.try_into()?)))
}

fn checked(sent: &GearIn, today: NaiveDate) -> Result<GearFields, Problem> {
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 60);
    let note = check.note("note", &sent.note, 500);
    let in_mouth = matches!(sent.kind, GearKind::Bit | GearKind::Bosal);
    check.that(
        in_mouth == sent.mouthpiece.is_some(),
        "mouthpiece",
        if in_mouth { "a bit is a snaffle or leverage, a bosal bitless" } else { "only bits and bosals have one" },
    );
    let bosal = sent.kind == GearKind::Bosal;
    let fits = sent.mouthpiece.is_none_or(|m| (m == Mouthpiece::Bitless) == bosal);
    check.that(fits, "mouthpiece", "a bosal is bitless, a bit is not");
    if sent.kind == GearKind::Bit {
        check.that(sent.mouth_seen.is_some(), "mouth_seen", "a bit needs the day on which the mouth was looked into");
        check.that(sent.teeth_seen.is_some(), "teeth_seen", "a bit needs the day on which the teeth were seen");
    }
    for (field, day) in [("since", Some(sent.since)), ("mouth_seen", sent.mouth_seen), ("teeth_seen", sent.teeth_seen)]
    {
        check.that(day.is_none_or(|d| d <= today), field, "this day has not come yet");
    }
    check.done()?;
    Ok(GearFields {
        kind: sent.kind,
        name,
        mouthpiece: sent.mouthpiece,
        since: sent.since,
        mouth_seen: sent.mouth_seen,
        teeth_seen: sent.teeth_seen,
        note,
    })
}

/// Sets what a ride is ridden in.
#[utoipa::path(put, path = "/api/rides/{id}/gear", params(("id" = Uuid, Path)), request_body = Worn,
    responses((status = 200, body = Worn), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn wear(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(mut sent): Body<Worn>,
) -> Result<Json<Worn>, Problem> {
    ride::get(&app.db, &signed.scope, id).await?.ok_or_else(|| Problem::missing("ride"))?;
    sent.gear.sort_unstable();
    sent.gear.dedup();
    let mut tx = app.db.begin().await.map_err(StoreError::from)?;
    if sent.gear.len() > 20 || !gear::set_for_ride(&mut tx, &signed.scope, id, &sent.gear).await? {
        return Err(Problem::field("gear", "pick from this horse's own gear"));
    }
    tx.commit().await.map_err(StoreError::from)?;
    Ok(Json(sent))
}
