//! The herd: each cow with how fresh it is and what is left of its works, and how the barn works its cattle.

use axum::{Json, extract::State};
use cavesson_core::cattle::{CowHealth, Freshness, HerdCow, HerdRules, Manner};
use cavesson_store::{
    Update,
    cattle::{self, Cow, CowFields},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::known::Herd;
use crate::{
    App, Problem,
    auth::{Rider, SignedIn, Trainer},
    http::{
        extract::{Body, Id},
        validate::{Check, within_years, within_years_if_any},
    },
    services::barn_clock::today,
};

/// A cow as it stands today.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CowOut {
    id: Uuid,
    tag: String,
    looks: String,
    manner: Manner,
    health: CowHealth,
    source: String,
    came_on: NaiveDate,
    left_on: Option<NaiveDate>,
    note: String,
    version: i32,
    /// Of a thousand turns with a horse in position it honours so many now.
    honour: u32,
    /// And when it is rested.
    rested: u32,
    freshness: Freshness,
    works_today: u32,
    /// Works in the seven days to today.
    works_week: u32,
    /// Works that the day and the week leave.
    works_left: u32,
    /// Days since it was last worked.
    rest_days: Option<i32>,
    /// Turns of its own log that its honour rests on.
    turns: f64,
    /// Why it is not worked today.
    spared: Option<&'static str>,
}

/// The herd.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HerdOut {
    /// By tag.
    items: Vec<CowOut>,
    rules: HerdRules,
    /// 0 while nobody has set them: then they are assumed.
    rules_version: i32,
}

pub(super) fn cow_out(cow: Cow, known: &HerdCow, rules: &HerdRules) -> CowOut {
    let today = known.today(rules);
    let left = |limit: u8, had: u32| u32::from(limit).saturating_sub(had);
    let spared = known.spared(rules);
    let left = left(rules.day, today.works[0]).min(left(rules.week, today.works[1]));
    let Cow { id, fields: f, version } = cow;
    CowOut {
        id,
        tag: f.tag,
        looks: f.looks,
        manner: f.manner,
        health: f.health,
        source: f.source,
        came_on: f.came_on,
        left_on: f.left_on,
        note: f.note,
        version,
        honour: today.honour,
        rested: today.rested,
        freshness: today.freshness,
        works_today: today.works[0],
        works_week: today.works[1],
        works_left: if spared.is_some() { 0 } else { left },
        rest_days: today.rest,
        turns: today.tried,
        spared,
    }
}

/// The cattle that are here, as they stand today.
#[utoipa::path(get, path = "/api/cattle", responses((status = 200, body = HerdOut), (status = 403, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<HerdOut>, Problem> {
    let day = today(&app, &signed).await?;
    let Herd { cows, known, rules, rules_version, .. } = Herd::of(&app, &signed, day).await?;
    let items = cows.into_iter().zip(&known).map(|(cow, known)| cow_out(cow, known, &rules)).collect();
    Ok(Json(HerdOut { items, rules, rules_version }))
}

/// What is known of a cow.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct CowIn {
    /// The version that was read; 0 for a cow that is new.
    version: i32,
    /// Its ear tag or brand: one of a kind among those that are here.
    #[schema(min_length = 1, max_length = 20)]
    tag: String,
    #[serde(default)]
    #[schema(max_length = 200)]
    looks: String,
    manner: Manner,
    health: CowHealth,
    #[serde(default)]
    #[schema(max_length = 200)]
    source: String,
    #[serde(deserialize_with = "within_years")]
    came_on: NaiveDate,
    /// When it was sold, died or went back; none while it is here.
    #[serde(default, deserialize_with = "within_years_if_any")]
    left_on: Option<NaiveDate>,
    #[serde(default)]
    #[schema(max_length = 1000)]
    note: String,
}

/// A cow as it is kept.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct KeptCowOut {
    id: Uuid,
    tag: String,
    manner: Manner,
    health: CowHealth,
    came_on: NaiveDate,
    left_on: Option<NaiveDate>,
    version: i32,
}

impl From<Cow> for KeptCowOut {
    fn from(Cow { id, fields: f, version }: Cow) -> KeptCowOut {
        let (tag, manner, health) = (f.tag, f.manner, f.health);
        KeptCowOut { id, tag, manner, health, came_on: f.came_on, left_on: f.left_on, version }
    }
}

fn checked(sent: &CowIn) -> Result<CowFields, Problem> {
    let mut check = Check::default();
    let tag = check.text("tag", &sent.tag, 20);
    let looks = check.note("looks", &sent.looks, 200);
    let source = check.note("source", &sent.source, 200);
    let note = check.note("note", &sent.note, 1000);
    check.that(sent.left_on.is_none_or(|left| left >= sent.came_on), "left_on", "it cannot leave before it came");
    check.done()?;
    let CowIn { manner, health, came_on, left_on, .. } = *sent;
    Ok(CowFields { tag, looks, manner, health, source, came_on, left_on, note })
}

/// Adds a cow, or changes what is known of it.
#[utoipa::path(put, path = "/api/cattle/{id}", params(("id" = Uuid, Path)), request_body = CowIn,
    responses((status = 200, body = KeptCowOut), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Id(id): Id,
    Body(sent): Body<CowIn>,
) -> Result<Json<KeptCowOut>, Problem> {
    let version = sent.version;
    let fields = checked(&sent)?;
    match cattle::put(&app.db, &signed.scope, id, version, &fields).await? {
        Update::Done(cow) => Ok(Json(cow.into())),
        Update::Stale(now) => Err(Problem::stale("cow", &KeptCowOut::from(now))),
        Update::Missing => Err(Problem::missing("cow")),
    }
}

/// How a barn works its cattle, to be set.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RulesIn {
    /// The version that was read; 0 where nobody has set them yet.
    version: i32,
    rules: HerdRules,
}

/// How a barn works its cattle.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RulesOut {
    rules: HerdRules,
    version: i32,
}

/// Sets the limits of the herd, and how fast it wears and rests.
#[utoipa::path(put, path = "/api/cattle-rules", request_body = RulesIn,
    responses((status = 200, body = RulesOut), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put_rules(
    State(app): State<App>,
    Trainer(signed): Trainer,
    Body(sent): Body<RulesIn>,
) -> Result<Json<RulesOut>, Problem> {
    if let Some((field, text)) = sent.rules.wrong() {
        return Err(Problem::field(&format!("rules.{field}"), text));
    }
    match cattle::put_rules(&app.db, &signed.scope, sent.version, &sent.rules).await? {
        Update::Done((rules, version)) => Ok(Json(RulesOut { rules, version })),
        Update::Stale((rules, version)) => Err(Problem::stale("set of limits", &RulesOut { rules, version })),
        Update::Missing => Err(Problem::missing("set of limits")),
    }
}
