//! The alarms of the last months: how many came, what was done about them, and how they turned out.

use axum::{Json, extract::State};
use cavesson_core::advice::{AlarmAnswer, Posture, TurnedOut};
use cavesson_store::horse;
use chrono::NaiveDate;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::Trainer,
    http::extract::{Paging, QueryParams},
    services::standing::{
        alarms::{AlarmOut, alarms_from},
        standings,
    },
};

/// Alarms over the barn, latest first.
#[derive(Serialize, ToSchema)]
pub(crate) struct Alarms {
    /// The first day that is looked at.
    from: NaiveDate,
    /// Horses in work.
    horses: usize,
    /// How sure the barn wants to be.
    posture: Posture,
    raised: usize,
    /// Horses on which one was raised.
    on_horses: usize,
    answers: Vec<AnswerCount>,
    outcomes: Vec<OutcomeCount>,
    /// How many of them each posture would have raised.
    by_posture: Vec<PostureCount>,
    items: Vec<HorseAlarm>,
    offset: i64,
    more: bool,
}

/// How many alarms were answered so.
#[derive(Serialize, ToSchema)]
pub(crate) struct AnswerCount {
    answered: AlarmAnswer,
    alarms: usize,
}

/// How many alarms turned out so.
#[derive(Serialize, ToSchema)]
pub(crate) struct OutcomeCount {
    turned_out: TurnedOut,
    alarms: usize,
}

/// How many alarms a posture raises.
#[derive(Serialize, ToSchema)]
pub(crate) struct PostureCount {
    posture: Posture,
    /// How likely a loss must be before it does, 0 to 1.
    sure_of_loss: f64,
    alarms: usize,
}

/// An alarm on a horse.
#[derive(Serialize, ToSchema)]
pub(crate) struct HorseAlarm {
    horse_id: Uuid,
    horse_name: String,
    alarm: AlarmOut,
}

/// The alarms of the last ninety days.
#[utoipa::path(get, path = "/api/alarms", params(Paging),
    responses((status = 200, body = Alarms), (status = 403, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    Trainer(signed): Trainer,
    QueryParams(paging): QueryParams<Paging>,
) -> Result<Json<Alarms>, Problem> {
    let paging = paging.checked()?;
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let today = crate::services::barn_clock::today_in(&barn);
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let standings = standings(&app, &signed.scope, &horses, barn.posture, today).await?;
    let mut all: Vec<HorseAlarm> = vec![];
    for h in &horses {
        let alarms = standings.get(&h.id).into_iter().flat_map(|s| &s.alarms);
        all.extend(alarms.map(|a| HorseAlarm { horse_id: h.id, horse_name: h.name.clone(), alarm: a.clone() }));
    }
    all.sort_by(|a, b| (b.alarm.since, &a.horse_name).cmp(&(a.alarm.since, &b.horse_name)));
    let count = |of: &dyn Fn(&AlarmOut) -> bool| all.iter().filter(|a| of(&a.alarm)).count();
    let answer = |answered| AnswerCount { answered, alarms: count(&|a| a.answered == answered) };
    let outcome = |turned_out| OutcomeCount { turned_out, alarms: count(&|a| a.turned_out == turned_out) };
    let by_posture = |posture: Posture| PostureCount {
        posture,
        sure_of_loss: posture.sure_of_loss(),
        alarms: count(&|a| a.raised_by.contains(&posture)),
    };
    let mut on: Vec<Uuid> = all.iter().map(|a| a.horse_id).collect();
    on.sort_unstable();
    on.dedup();
    let (offset, limit) = (paging.offset as usize, paging.limit as usize);
    Ok(Json(Alarms {
        from: alarms_from(today),
        horses: horses.len(),
        posture: barn.posture,
        raised: all.len(),
        on_horses: on.len(),
        answers: AlarmAnswer::ALL.into_iter().map(answer).collect(),
        outcomes: TurnedOut::ALL.into_iter().map(outcome).collect(),
        by_posture: Posture::ALL.into_iter().map(by_posture).collect(),
        more: all.len() > offset + limit,
        items: all.into_iter().skip(offset).take(limit).collect(),
        offset: paging.offset,
    }))
}
