//! The barn's own places to ride.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    barn::{Ground, Surface},
    curriculum::Place,
};
use cavesson_store::{
    Put, Update,
    ground::{self, GroundFields, KeptGround},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{SignedIn, Trainer},
    http::{
        extract::{Body, Id},
        validate::Check,
    },
};

/// The shortest and the longest side, metres.
const SIDE: std::ops::RangeInclusive<f64> = 3.0..=100_000.0;

/// One of the barn's own places to ride.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct GroundOut {
    id: Uuid,
    name: String,
    /// Its kind.
    place: Place,
    surface: Surface,
    /// Metres.
    length: Option<f64>,
    /// Metres.
    width: Option<f64>,
    /// Why its footing or its size keeps speed out of it.
    caution: Option<&'static str>,
    archived: bool,
    version: i32,
}

/// The barn's own places to ride, from the smallest kind outward.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Grounds {
    items: Vec<GroundOut>,
}

/// A ground to add (without a version) or to change (with the version that was read).
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct GroundIn {
    version: Option<i32>,
    #[schema(min_length = 1, max_length = 60)]
    name: String,
    /// Its kind, which stays.
    place: Place,
    surface: Surface,
    /// Metres; with the width, or neither.
    length: Option<f64>,
    /// Metres.
    width: Option<f64>,
    #[serde(default)]
    archived: bool,
}

impl From<KeptGround> for GroundOut {
    fn from(kept: KeptGround) -> GroundOut {
        let ground = kept.ground();
        let metres = |cm: u32| f64::from(cm) / 100.0;
        GroundOut {
            id: kept.id,
            name: kept.name,
            place: ground.place,
            surface: ground.surface,
            length: ground.size.map(|s| metres(s.0)),
            width: ground.size.map(|s| metres(s.1)),
            caution: ground.caution(),
            archived: kept.archived,
            version: kept.version,
        }
    }
}

/// The barn's own places to ride.
#[utoipa::path(get, path = "/api/grounds", responses((status = 200, body = Grounds)))]
pub(crate) async fn list(State(app): State<App>, signed: SignedIn) -> Result<Json<Grounds>, Problem> {
    let all = ground::list(&app.db, &signed.scope).await?;
    Ok(Json(Grounds { items: all.into_iter().map(Into::into).collect() }))
}

/// Adds or changes a place to ride. One that was ridden on is archived, not deleted.
#[utoipa::path(put, path = "/api/grounds/{id}", params(("id" = Uuid, Path)), request_body = GroundIn,
    responses((status = 200, body = GroundOut), (status = 201, body = GroundOut), (status = 404, body = Problem),
              (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Id(id): Id,
    Body(sent): Body<GroundIn>,
) -> Result<(StatusCode, Json<GroundOut>), Problem> {
    let fields = checked(&sent)?;
    let scope = &signed.scope;
    let (status, kept) = match sent.version {
        None => match ground::put(&app.db, scope, id, &fields).await? {
            Put::Taken | Put::Missing => return Err(Problem::taken("place")),
            put => {
                let status = if put == Put::Created { StatusCode::CREATED } else { StatusCode::OK };
                (status, ground::get(&app.db, scope, id).await?.ok_or_else(Problem::broken)?)
            }
        },
        Some(version) => {
            let there = ground::get(&app.db, scope, id).await?.ok_or_else(|| Problem::missing("place"))?;
            if there.place != fields.ground.place {
                return Err(Problem::field("place", "a place stays of its kind: archive it and add the other one"));
            }
            match ground::update(&app.db, scope, id, version, &fields, sent.archived).await? {
                Update::Done(kept) => (StatusCode::OK, kept),
                Update::Stale(now) => return Err(Problem::stale("place", &GroundOut::from(now))),
                Update::Missing => return Err(Problem::missing("place")),
            }
        }
    };
    Ok((status, Json(kept.into())))
}

fn checked(sent: &GroundIn) -> Result<GroundFields, Problem> {
    let mut check = Check::default();
    let name = check.text("name", &sent.name, 60);
    for (field, side) in [("length", sent.length), ("width", sent.width)] {
        check.that(side.is_none_or(|m| SIDE.contains(&m)), field, "a side has 3 metres (10 ft) or more");
    }
    let both = sent.length.is_some() == sent.width.is_some();
    check.that(both, "width", "give length and width, or neither; a round pen is as wide as it is long");
    check.done()?;
    let cm = |metres: f64| (metres * 100.0).round() as u32;
    let size = sent.length.zip(sent.width).map(|(l, w)| (cm(l), cm(w)));
    Ok(GroundFields { name, ground: Ground { place: sent.place, surface: sent.surface, size } })
}
