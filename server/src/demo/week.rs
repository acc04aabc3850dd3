//! The demo's week as its trainer published it: today's rides as they stand, and the rest of the week planned around them.

use anyhow::{Context, anyhow};
use cavesson_core::{
    barn::RideState,
    schedule::{self, Effort, Pace, Ride, still_open},
};
use cavesson_store::{Scope, barn, log::ride, week};
use chrono::{Datelike, Timelike};

use super::{id, people::PEOPLE};
use crate::{
    App, Problem,
    http::schedule::{document, planned},
    services::{
        barn_clock::today_in,
        planning::{PlanningContext, facts, monday_of},
    },
};

/// Rounds of the search: a good week, not the best.
const ROUNDS: u32 = 5;

/// Publishes the week of today where the demo has none. On a Sunday there is nothing left to plan.
///
/// # Errors
/// A query that fails.
pub async fn publish(app: &App) -> anyhow::Result<()> {
    let told = |problem: Problem| anyhow!("{problem:?}");
    let Some(barn_id) = barn::demo(&app.db).await? else { return Ok(()) };
    let scope = Scope::staff_of(barn_id, id(PEOPLE[0].name));
    let barn = barn::get(&app.db, &scope).await?;
    let today = today_in(&barn);
    let start = monday_of(today);
    let tomorrow = today.weekday().num_days_from_monday() as u8 + 1;
    if week::get(&app.db, &scope, start).await?.is_some() || tomorrow > 6 {
        return Ok(());
    }
    let facts = std::sync::Arc::new(facts(app, &scope, &barn, start).await.map_err(told)?);
    let of_today = ride::on_day(&app.db, &scope, today).await?;
    let stands = standing(&facts, &of_today);
    let fixed = facts.ridden.iter().map(|r| r.0).chain(stands.iter().copied()).collect();
    let to_plan = still_open(&facts.planning.week, fixed, tomorrow, None);
    let seed = start.num_days_from_ce().unsigned_abs().into();
    let rides = app
        .searches
        .run(scope.shared(), move || {
            let rides = schedule::plan(&to_plan, Effort { seed, rounds: ROUNDS }, &mut |_| Some(Pace::FULL));
            schedule::shift_early(&to_plan, &rides)
        })
        .await
        .map_err(told)?;
    let new: Vec<Ride> = rides.into_iter().filter(|r| facts.ridden.iter().all(|(x, _)| x != r)).collect();
    let draft: Vec<_> = new.iter().map(|r| facts.ride_out(r, false, false)).collect();
    let document = document::write(&draft).map_err(told)?;
    week::save(&app.db, &scope, start, 0, &document).await?;
    let later = new.iter().filter(|r| r.day >= tomorrow);
    let later: Vec<_> = later.filter_map(|r| planned(&facts, r)).collect();
    week::publish(&app.db, &scope, start, 1, facts.date(tomorrow), &later).await.context("the week")?;
    Ok(())
}

/// Today's rides as rides of the week, each of the first thing its horse is on that can be worked where it is ridden and is not too
/// much after yesterday. A horse that nothing is planned for has none.
fn standing(facts: &PlanningContext, rides: &[ride::Ride]) -> Vec<Ride> {
    let week = &facts.planning.week;
    let of = |r: &ride::Ride| {
        let horse = facts.horses.iter().position(|h| h.id == r.horse_id)?;
        let rider = facts.people.iter().position(|p| p.id == r.rider_id)?;
        let place = facts.places.iter().position(|p| *p == r.place)?;
        let day = r.ridden_on.weekday().num_days_from_monday() as u8;
        let start = r.starts_at.map(|t| (t.hour() * 60 + t.minute()) as u16)?;
        let left = week.horses[horse].two_days.saturating_sub(load_before(facts, horse, day));
        let fits = |n: &usize| {
            let work = &week.works[*n];
            let called_for = !facts.works[*n].starts_with("ridden/");
            called_for
                && work.horse == horse
                && work.load <= left
                && work.places.contains(&place)
                && work.riders.iter().any(|(x, _)| *x == rider)
        };
        let work = (0..week.works.len()).find(fits)?;
        Some(Ride { work, day, start, place, rider })
    };
    rides.iter().filter(|r| r.state == RideState::Planned).filter_map(of).collect()
}

/// What a horse carried on the day before one of this week.
fn load_before(facts: &PlanningContext, horse: usize, day: u8) -> u32 {
    let week = &facts.planning.week;
    let here = facts.ridden.iter().filter(|(r, _)| r.day + 1 == day && week.works[r.work].horse == horse);
    let last_week = week.before.iter().filter(|b| day == 0 && b.day == -1 && week.works[b.work].horse == horse);
    here.map(|(r, _)| week.works[r.work].load).sum::<u32>() + last_week.map(|b| b.load).sum::<u32>()
}
