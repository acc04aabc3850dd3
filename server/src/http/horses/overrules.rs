//! What trainers write against or beside the calls: overrules, and what was found on a horse.

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::advice::{Call, Verdict};
use cavesson_store::{
    Put, horse,
    trainer_input::{self, Finding, NewOverrule},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::{Rider, SignedIn},
    http::{
        extract::{Body, Id, Ids},
        validate::Check,
    },
    services::{
        barn_clock::today,
        book::book,
        standing::{self, OverruleOut, standings},
    },
};

/// A call against the record's, with the reason.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct OverruleIn {
    /// Id of a step.
    step: String,
    /// Advance, hold or back.
    made: Call,
    #[schema(min_length = 1, max_length = 500)]
    reason: String,
}

/// What someone found who looked at a horse.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FindingIn {
    /// Who looked: vet, dentist, farrier, saddler, the trainer.
    #[schema(min_length = 1, max_length = 80)]
    looked: String,
    #[schema(min_length = 1, max_length = 1000)]
    found: String,
}

/// What was found.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FindingOut {
    id: Uuid,
    on: NaiveDate,
    looked: String,
    found: String,
    who: String,
}

/// What was found on a horse, oldest first.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Findings {
    items: Vec<FindingOut>,
}

/// How often someone who overrules was right.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Judged {
    person_id: Uuid,
    person: String,
    right: u32,
    wrong: u32,
    /// Too few days with reps since.
    open: u32,
}

/// An overrule with its horse.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HorseOverrule {
    horse_id: Uuid,
    horse: String,
    overrule: OverruleOut,
}

/// The overrules of the barn's horses in work: who was how often right, and over what.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Overrules {
    people: Vec<Judged>,
    items: Vec<HorseOverrule>,
}

/// Writes an overrule. From today on it steers the calls on that step, and the record judges it later.
#[utoipa::path(put, path = "/api/horses/{horse}/overrules/{id}", params(("horse" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = OverruleIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put_overrule(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(horse, id): Ids,
    Body(sent): Body<OverruleIn>,
) -> Result<StatusCode, Problem> {
    let standing = standing::of_horse(&app, &signed, horse).await?;
    let book = book(&app, &signed.scope, Some(horse)).await?;
    let mut check = Check::default();
    let reason = check.text("reason", &sent.reason, 500);
    check.that(
        matches!(sent.made, Call::Advance | Call::Hold | Call::Back),
        "made",
        "a trainer's call is to advance, to hold or to go back",
    );
    check.that(book.course.find(&sent.step).is_some(), "step", "there is no such step");
    check.done()?;
    let own = standing.steps.iter().find(|s| s.id == sent.step).and_then(|s| s.call);
    let was = own.filter(|c| matches!(c, Call::Advance | Call::Hold | Call::Back)).unwrap_or(Call::Hold);
    let new = NewOverrule { step: sent.step, was, made: sent.made, reason, on: today(&app, &signed).await? };
    created(trainer_input::put_overrule(&app.db, &signed.scope, horse, id, &new).await?, "overrule")
}

/// Writes down what was found; from then on the horse may be trained again.
#[utoipa::path(put, path = "/api/horses/{horse}/findings/{id}", params(("horse" = Uuid, Path), ("id" = Uuid, Path)),
    request_body = FindingIn,
    responses((status = 200), (status = 201), (status = 404, body = Problem), (status = 409, body = Problem),
              (status = 422, body = Problem)))]
pub(crate) async fn put_finding(
    State(app): State<App>,
    Rider(signed): Rider,
    Ids(horse, id): Ids,
    Body(sent): Body<FindingIn>,
) -> Result<StatusCode, Problem> {
    crate::services::horses::find(&app, &signed, horse).await?;
    let mut check = Check::default();
    let looked = check.text("looked", &sent.looked, 80);
    let found = check.text("found", &sent.found, 1000);
    check.done()?;
    let on = today(&app, &signed).await?;
    created(trainer_input::put_finding(&app.db, &signed.scope, horse, id, on, &looked, &found).await?, "finding")
}

fn created(put: Put, what: &str) -> Result<StatusCode, Problem> {
    match put {
        Put::Created => Ok(StatusCode::CREATED),
        Put::Same => Ok(StatusCode::OK),
        Put::Taken => Err(Problem::taken(what)),
        Put::Missing => Err(Problem::missing("horse")),
    }
}

/// What was found on a horse, oldest first.
#[utoipa::path(get, path = "/api/horses/{id}/findings", params(("id" = Uuid, Path)),
    responses((status = 200, body = Findings), (status = 404, body = Problem)))]
pub(crate) async fn findings(State(app): State<App>, signed: SignedIn, Id(id): Id) -> Result<Json<Findings>, Problem> {
    crate::services::horses::find(&app, &signed, id).await?;
    let out = |f: Finding| FindingOut { id: f.id, on: f.on, looked: f.looked, found: f.found, who: f.made_by_name };
    let items = trainer_input::findings(&app.db, &signed.scope, &[id]).await?.into_iter().map(out).collect();
    Ok(Json(Findings { items }))
}

/// Overrules of the horses in work, latest first, and how often each person was right.
#[utoipa::path(get, path = "/api/overrules", responses((status = 200, body = Overrules)))]
pub(crate) async fn overrules(State(app): State<App>, signed: SignedIn) -> Result<Json<Overrules>, Problem> {
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let today = crate::services::barn_clock::today_in(&barn);
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let standings = standings(&app, &signed.scope, &horses, barn.posture, today).await?;
    let mut items: Vec<HorseOverrule> = vec![];
    for horse in horses {
        let overrules = standings.get(&horse.id).map(|s| s.overrules.clone()).unwrap_or_default();
        let of = |overrule| HorseOverrule { horse_id: horse.id, horse: horse.name.clone(), overrule };
        items.extend(overrules.into_iter().map(of));
    }
    items.sort_by_key(|i| std::cmp::Reverse(i.overrule.on));
    let mut people: Vec<Judged> = vec![];
    for o in items.iter().map(|i| &i.overrule) {
        let at = people.iter().position(|p| p.person_id == o.who_id).unwrap_or_else(|| {
            people.push(Judged { person_id: o.who_id, person: o.who.clone(), right: 0, wrong: 0, open: 0 });
            people.len() - 1
        });
        let person = &mut people[at];
        match o.verdict {
            Verdict::Right => person.right += 1,
            Verdict::Wrong => person.wrong += 1,
            Verdict::Open => person.open += 1,
        }
    }
    Ok(Json(Overrules { people, items }))
}
