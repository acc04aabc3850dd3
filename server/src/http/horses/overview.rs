//! Every horse in work on one page: what it is on, what is called, and what comes next.

use std::collections::BTreeMap;

use axum::{Json, extract::State};
use cavesson_core::{advice::Call, curriculum::Side, schedule::AppointmentKind};
use cavesson_store::{appointment, horse, planned};
use chrono::{Days, NaiveDate};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    services::{
        barn_clock::{today_in, zone},
        book::book,
        occurrences::times,
        standing::standings,
    },
};

/// Appointments are looked for so many days ahead.
const AHEAD: u64 = 45;

/// Every horse in work, by name; an owner's own.
#[derive(Serialize, ToSchema)]
pub(crate) struct Overview {
    date: NaiveDate,
    horses: Vec<OverviewHorse>,
}

/// One horse in a line.
#[derive(Serialize, ToSchema)]
pub(crate) struct OverviewHorse {
    id: Uuid,
    name: String,
    foaled: Option<i32>,
    owner_id: Option<Uuid>,
    /// The ladder of what it is on.
    ladder: Option<String>,
    /// What it is on: what is not owned and was asked last, else what its next ride is about.
    subject: Option<String>,
    /// The call on the whole horse, else on that step.
    call: Option<Call>,
    /// The deciding reason of that call.
    why: String,
    last_ridden: Option<NaiveDate>,
    /// The side that lags over all that was asked on both.
    stiff: Option<Side>,
    next: Option<NextDate>,
}

/// What stands in the calendar next for a horse.
#[derive(Clone, Serialize, ToSchema)]
pub(crate) struct NextDate {
    date: NaiveDate,
    /// What it is; none for a ride.
    kind: Option<AppointmentKind>,
    title: String,
}

/// Every horse in a line.
#[utoipa::path(get, path = "/api/overview", responses((status = 200, body = Overview)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<Json<Overview>, Problem> {
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let date = today_in(&barn);
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let standings = standings(&app, &signed.scope, &horses, barn.posture, date).await?;
    let book = book(&app, &signed.scope, None).await?;
    let mut next: BTreeMap<Uuid, NextDate> = BTreeMap::new();
    for (horse, day) in planned::next_of_each(&app.db, &signed.scope, date).await? {
        next.insert(horse, NextDate { date: day, kind: None, title: "Ride".to_owned() });
    }
    let to = date + Days::new(AHEAD);
    for a in appointment::between(&app.db, &signed.scope, date, to).await? {
        let Some(&day) = times(&a, zone(&barn.time_zone), date, to).first() else { continue };
        let coming = NextDate { date: day.max(date), kind: Some(a.kind), title: a.title.clone() };
        for horse in a.horses {
            // What is not a ride is told before the ride of the same day.
            if next.get(&horse).is_none_or(|n| coming.date <= n.date) {
                next.insert(horse, coming.clone());
            }
        }
    }
    let ladder_of = |step: &str| {
        let letter = step.chars().next()?;
        book.curriculum.ladders().iter().find(|l| l.letter == letter).map(|l| l.name.clone())
    };
    let horses = horses.into_iter().filter_map(|h| {
        let standing = standings.get(&h.id)?;
        let step = standing.steps.iter().find(|s| standing.subject.as_ref() == Some(&s.id));
        let whole = standing.horse.as_ref();
        Some(OverviewHorse {
            ladder: step.and_then(|s| ladder_of(&s.id)),
            subject: step.map(|s| s.name.clone()),
            call: whole.map(|w| w.call).or_else(|| step.and_then(|s| s.call)),
            why: whole
                .map_or_else(|| step.map(|s| &s.why), |w| Some(&w.why))
                .and_then(|w| w.first().cloned())
                .unwrap_or_default(),
            last_ridden: standing.last_ridden,
            stiff: standing.stiff,
            next: next.get(&h.id).cloned(),
            id: h.id,
            name: h.name,
            foaled: h.foaled,
            owner_id: h.owner_id,
        })
    });
    Ok(Json(Overview { date, horses: horses.collect() }))
}
