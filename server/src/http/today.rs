//! The day: rides in order of the clock, what each is for, and what changed since.

use axum::extract::State;
use cavesson_core::{
    advice::{Call, Status},
    schedule::unanswered_days,
};
use cavesson_store::{horse, layoff, log::ride};
use chrono::NaiveDate;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::rides::RideOut,
    services::{
        book::{Book, book},
        responses::{JsonResponse, kept_or_made},
        standing::{Changed, HorseCallOut, LineOut, response::StandingOut, standings},
    },
};

/// Today in the barn.
#[derive(Serialize, ToSchema)]
pub(crate) struct TodayOut {
    date: NaiveDate,
    rides: Vec<TodayRide>,
    /// Planned rides of the last week that were neither ridden nor said why not, latest first.
    unanswered: Vec<RideOut>,
    /// Horses to be looked at or left alone, those to be looked at first.
    calls: Vec<CalledHorse>,
    /// What each horse's last day of rides changed, worst first.
    changes: Vec<HorseChange>,
}

/// A ride of today, with what it is for.
#[derive(Serialize, ToSchema)]
pub(crate) struct TodayRide {
    ride: RideOut,
    line: LineOut,
    /// The call on the main subject; none before its first rep.
    call: Option<Call>,
    /// The deciding reason of that call.
    why: String,
    /// What else slips, by name, besides the main subject.
    slipping: Vec<String>,
    /// What its way back after time off says of today.
    comeback: Option<String>,
    /// A call on the whole horse, before any on a rung.
    horse: Option<HorseCallOut>,
    /// Short cautions of the main subject.
    cautions: Vec<String>,
    /// What the last ride left to fix.
    last_note: String,
    last_ridden: Option<NaiveDate>,
}

/// A horse with a call on the whole of it.
#[derive(Serialize, ToSchema)]
pub(crate) struct CalledHorse {
    horse_id: Uuid,
    horse_name: String,
    call: HorseCallOut,
}

/// What a horse's last day of rides changed.
#[derive(Serialize, ToSchema)]
pub(crate) struct HorseChange {
    horse_id: Uuid,
    horse_name: String,
    change: Changed,
}

/// The day's rides.
#[utoipa::path(get, path = "/api/today", responses((status = 200, body = TodayOut)))]
pub(crate) async fn read(State(app): State<App>, signed: SignedIn) -> Result<JsonResponse, Problem> {
    kept_or_made(&app, &signed, "today".into(), async || today(&app, &signed).await).await
}

async fn today(app: &App, signed: &SignedIn) -> Result<TodayOut, Problem> {
    let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
    let date = crate::services::barn_clock::today_in(&barn);
    let rides = ride::on_day(&app.db, &signed.scope, date).await?;
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let standings = standings(app, &signed.scope, &horses, barn.posture, date).await?;
    let ridden: Vec<Uuid> = rides.iter().map(|r| r.horse_id).collect();
    let notes = ride::last_notes(&app.db, &signed.scope, &ridden, date).await?;
    let mut calls: Vec<CalledHorse> = horses
        .iter()
        .filter_map(|h| {
            let call = standings.get(&h.id)?.horse.clone()?;
            Some(CalledHorse { horse_id: h.id, horse_name: h.name.clone(), call })
        })
        .collect();
    calls.sort_by_key(|c| c.call.call != Call::LookAt);
    let mut changes: Vec<HorseChange> = horses
        .iter()
        .filter_map(|h| standings.get(&h.id).map(|s| (h, s)))
        .flat_map(|(h, s)| {
            s.changed.iter().map(|c| HorseChange { horse_id: h.id, horse_name: h.name.clone(), change: c.clone() })
        })
        .collect();
    changes.sort_by_key(|c| (c.change.to != Status::Slipping, std::cmp::Reverse(c.change.on)));
    changes.truncate(20);
    let book = book(app, &signed.scope, None).await?;
    let layoffs = layoff::current(&app.db, &signed.scope).await?;
    let rides = rides
        .into_iter()
        .filter_map(|ride| {
            let standing = standings.get(&ride.horse_id)?;
            let note = notes.iter().find(|n| n.0 == ride.horse_id);
            let off = layoffs.iter().find(|l| l.horse_id == ride.horse_id);
            let comeback = off.and_then(|l| l.layoff().on(date)).map(|back| back.in_words());
            Some(today_ride(ride, standing, note, &book, comeback))
        })
        .collect::<Result<_, _>>()?;
    let (from, to) = unanswered_days(date);
    let earlier = ride::unanswered(&app.db, &signed.scope, from, to).await?;
    let unanswered = earlier.into_iter().map(RideOut::try_from).collect::<Result<_, _>>()?;
    Ok(TodayOut { date, rides, unanswered, calls, changes })
}

fn today_ride(
    ride: ride::Ride,
    standing: &StandingOut,
    note: Option<&(Uuid, NaiveDate, String)>,
    book: &Book,
    comeback: Option<String>,
) -> Result<TodayRide, Problem> {
    let main = standing.line.main.as_ref();
    let step = main.and_then(|m| standing.steps.iter().find(|s| s.id == m.id));
    let rung = main.and_then(|m| book.curriculum.rung(m.id.split('@').next().unwrap_or_default()));
    Ok(TodayRide {
        ride: RideOut::try_from(ride)?,
        line: standing.line.clone(),
        call: step.and_then(|s| s.call),
        why: step.and_then(|s| s.why.first().cloned()).unwrap_or_default(),
        slipping: standing
            .steps
            .iter()
            .filter(|s| s.status == Status::Slipping && main.is_none_or(|m| m.id != s.id))
            .map(|s| s.name.clone())
            .collect(),
        comeback,
        horse: standing.horse.clone(),
        cautions: rung.map(|r| book.curriculum.as_taught(r).cautions).unwrap_or_default(),
        last_note: note.map(|n| n.2.clone()).unwrap_or_default(),
        last_ridden: note.map(|n| n.1),
    })
}
