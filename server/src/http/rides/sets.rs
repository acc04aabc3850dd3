//! Sets: what reps and counts belong to, and who rode them.

use axum::{extract::State, http::StatusCode};
use cavesson_core::curriculum::{Gait, Rung, Side};
use cavesson_store::log::{rep::SetKey, set};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::Rider,
    http::{
        extract::{Body, Id},
        validate::Check,
    },
    services::book::Book,
};

/// The set that a rep belongs to; it is made with its first rep.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SetIn {
    pub(crate) id: Uuid,
    /// Place among the ride's sets.
    pub(crate) position: i32,
    pub(crate) rung: String,
    pub(crate) gait: Gait,
    pub(crate) side: Side,
    /// Who rode it, where the ride was handed over.
    #[serde(default)]
    pub(crate) rider_id: Option<Uuid>,
    /// Which cow, on cattle.
    #[serde(default)]
    pub(crate) cow: Option<String>,
}

/// Checks a set against the curriculum; problems stand under `at`.
pub(crate) fn check_set<'a>(check: &mut Check, at: &str, set: &SetIn, book: &'a Book) -> Option<&'a Rung> {
    let field = |name: &str| format!("{at}{name}");
    check.that((0..10_000).contains(&set.position), &field("position"), "a place in the ride is 0 or more");
    let cow = set.cow.as_deref().unwrap_or("-");
    check.that(
        (1..=40).contains(&cow.chars().count()),
        &field("cow"),
        "a cow has a name or number of 1 to 40 characters",
    );
    let Some(rung) = book.curriculum.rung(&set.rung) else {
        check.say(&field("rung"), format!("there is no rung \"{}\"", set.rung.chars().take(20).collect::<String>()));
        return None;
    };
    let gaits: Vec<&str> = rung.gaits.iter().map(|g| g.word()).collect();
    check.that(
        rung.gaits.contains(&set.gait),
        &field("gait"),
        format!("{} is not trained at the {}; it is at {}", rung.name, set.gait, gaits.join(", ")),
    );
    let sides: Vec<&str> = rung.sides.list().iter().map(|s| s.word()).collect();
    check.that(
        rung.sides.has(set.side),
        &field("side"),
        format!("{} has no side \"{}\"; it has {}", rung.name, set.side, sides.join(" and ")),
    );
    Some(rung)
}

pub(crate) fn set_key(ride_id: Uuid, set: SetIn) -> SetKey {
    SetKey {
        id: set.id,
        ride_id,
        position: set.position,
        rung: set.rung,
        gait: set.gait,
        side: set.side,
        rider_id: set.rider_id,
        cow: set.cow,
    }
}

/// Who rode a set after all.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SetRider {
    rider_id: Uuid,
}

/// Gives a set that was ridden to the rider who rode it; who said so is kept.
#[utoipa::path(put, path = "/api/sets/{id}/rider", params(("id" = Uuid, Path)), request_body = SetRider,
    responses((status = 204), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn give_set(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<SetRider>,
) -> Result<StatusCode, Problem> {
    match set::give_set(&app.db, &signed.scope, id, sent.rider_id).await? {
        true => Ok(StatusCode::NO_CONTENT),
        false => Err(Problem::missing("set")),
    }
}
