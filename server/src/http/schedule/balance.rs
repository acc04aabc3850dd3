//! How the work was spread over months: by horse, by rider, by subject.

use std::{
    collections::{BTreeMap, BTreeSet, HashMap},
    hash::Hash,
};

use axum::extract::State;
use cavesson_core::{
    barn::MissedReason,
    load::{self, LoggedRide, mondays},
    schedule::usual_minutes,
};
use cavesson_store::{
    Scope,
    barn::{self, Barn},
    horse::{self, Horse},
    hours, person,
    week::{self as kept, Worked},
};
use chrono::{Datelike, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::{
    App, Problem,
    auth::SignedIn,
    http::extract::QueryParams,
    services::{
        barn_clock::today_in,
        book::book,
        diary,
        responses::{JsonResponse, kept_or_made},
    },
};

/// How far back.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Back {
    /// Weeks, this one the last; 13 where it is left out, at most 52.
    weeks: Option<usize>,
}

/// The work of some weeks.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Balance {
    /// Their Mondays, oldest first. The last is this week's, which is not over.
    weeks: Vec<NaiveDate>,
    horses: Vec<HorseBalance>,
    /// Rides of each rider in each week.
    riders: Vec<Row>,
    /// Rides in which each ladder was worked, in each week.
    subjects: Vec<Row>,
    /// Planned rides that were not ridden, and why, commonest first.
    missed: Vec<Missed>,
    /// From this monotony on days are too much alike.
    too_much_alike: f64,
}

/// A name with a number for each week.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Row {
    id: String,
    name: String,
    rides: Vec<u32>,
}

/// A horse's weeks.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HorseBalance {
    id: Uuid,
    name: String,
    /// Rides a week that were agreed on.
    least: Option<i16>,
    most: Option<i16>,
    /// Of the weeks that are judged, those in which the least was ridden; none where nothing was agreed on.
    kept: Option<u32>,
    /// Weeks that are over, from the one after its first ride on.
    judged: usize,
    weeks: Vec<HorseWeek>,
}

/// A week of a horse.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HorseWeek {
    rides: u32,
    /// Days out of the pen.
    out: u32,
    load: u32,
    /// Mean over standard deviation of the daily loads; none where every day was the same.
    monotony: Option<f64>,
    /// Load × monotony.
    strain: Option<f64>,
    /// Whether the days were too much alike.
    too_much_alike: bool,
    /// Whether the rides agreed on were ridden; none where the week is not judged.
    kept: Option<bool>,
}

/// Planned rides that were not ridden for a reason; none where nobody said why.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Missed {
    why: Option<MissedReason>,
    rides: u32,
}

/// How the work was spread.
#[utoipa::path(get, path = "/api/balance", params(Back),
    responses((status = 200, body = Balance), (status = 422, body = Problem)))]
pub(crate) async fn read(
    State(app): State<App>,
    signed: SignedIn,
    QueryParams(back): QueryParams<Back>,
) -> Result<JsonResponse, Problem> {
    let number = back.weeks.unwrap_or(13);
    if !(1..=52).contains(&number) {
        return Err(Problem::field("weeks", "from 1 to 52 weeks"));
    }
    kept_or_made(&app, &signed, format!("balance {number}"), async || balance(&app, &signed, number).await).await
}

async fn balance(app: &App, signed: &SignedIn, number: usize) -> Result<Balance, Problem> {
    let barn = barn::get(&app.db, &signed.scope).await?;
    let today = today_in(&barn);
    let first = kept::first_ridden(&app.db, &signed.scope).await?;
    let weeks = mondays(today, number);
    let from = weeks.first().copied().unwrap_or(today);
    let rides = kept::worked(&app.db, &signed.scope, from, today).await?;
    let horses = horse::in_work(&app.db, &signed.scope).await?;
    let agreed = hours::agreed(&app.db, &signed.scope).await?;
    let away = away(app, &signed.scope, &barn, from, today).await?;
    let people = person::in_barn(&app.db, &signed.scope).await?;
    let ridden: Vec<&Worked> = rides.iter().filter(|r| !r.waits).collect();
    let mut of_horses: HashMap<Uuid, Vec<&Worked>> = HashMap::new();
    ridden.iter().for_each(|r| of_horses.entry(r.horse_id).or_default().push(r));
    let horses = horses
        .iter()
        .map(|h| {
            let age = h.foaled.and_then(|y| u32::try_from(today.year() - y).ok());
            let mine: Vec<LoggedRide> = of_horses.get(&h.id).into_iter().flatten().map(|r| done(r, age)).collect();
            let agreed = agreed.iter().find(|a| a.0 == h.id).map(|a| (a.1, a.2));
            // The week in which it came is not held against anyone.
            let came = first.iter().find(|f| f.0 == h.id).map_or(number, |f| weeks.partition_point(|w| *w <= f.1));
            let sums = load::weeks(from, number, &mine, away.get(&h.id).unwrap_or(&BTreeSet::new()));
            horse_balance(h, agreed, &sums, came)
        })
        .collect();
    let mut of_riders = by_week(&ridden, (from, number), |r| [r.rider_id]);
    let riders = people
        .iter()
        .filter_map(|p| Some(Row { id: p.id.to_string(), name: p.name.clone(), rides: of_riders.remove(&p.id)? }))
        .collect();
    let book = book(app, &signed.scope, None).await?;
    let mut of_ladders = by_week(&ridden, (from, number), letters);
    let subjects = book
        .curriculum
        .ladders()
        .iter()
        .filter_map(|l| {
            Some(Row { id: l.letter.to_string(), name: l.name.clone(), rides: of_ladders.remove(&l.letter)? })
        })
        .collect();
    Ok(Balance { weeks, horses, riders, subjects, missed: missed(&rides, today), too_much_alike: load::TOO_MUCH_ALIKE })
}

/// The letters of the ladders that were worked on a ride.
fn letters(r: &Worked) -> BTreeSet<char> {
    r.steps.split(' ').filter_map(|step| step.chars().next()).collect()
}

/// How many rides there were of each in each of so many weeks; only those with rides are there.
fn by_week<K: Hash + Eq, I: IntoIterator<Item = K>>(
    rides: &[&Worked],
    (from, weeks): (NaiveDate, usize),
    of: impl Fn(&Worked) -> I,
) -> HashMap<K, Vec<u32>> {
    let mut out: HashMap<K, Vec<u32>> = HashMap::new();
    for ride in rides {
        let week = ((ride.ridden_on - from).num_days() / 7) as usize;
        for one in of(ride) {
            out.entry(one).or_insert_with(|| vec![0; weeks])[week] += 1;
        }
    }
    out
}

fn done(r: &Worked, age: Option<u32>) -> LoggedRide {
    let out = r.place.is_out_of_the_pen();
    LoggedRide { on: r.ridden_on, minutes: r.minutes.clone().map_or_else(|| usual_minutes(age), Into::into), out }
}

/// Whole days on which horses were away, in the calendar and by themselves.
async fn away(
    app: &App,
    scope: &Scope,
    barn: &Barn,
    from: NaiveDate,
    today: NaiveDate,
) -> Result<BTreeMap<Uuid, BTreeSet<NaiveDate>>, Problem> {
    let mut out: BTreeMap<Uuid, BTreeSet<NaiveDate>> = BTreeMap::new();
    for (horse, day) in diary::diary(app, scope, barn, from, today).await?.days_away() {
        out.entry(horse).or_default().insert(day);
    }
    let whole = |a: &hours::Away| a.from == 0 && a.to == 24 * 60;
    for a in hours::away(&app.db, scope, from, today).await?.iter().filter(|a| whole(a)) {
        a.horse_id.map(|horse| out.entry(horse).or_default().insert(a.day));
    }
    Ok(out)
}

fn horse_balance(horse: &Horse, agreed: Option<(i16, i16)>, sums: &[load::WeekSummary], came: usize) -> HorseBalance {
    let judged = came.min(sums.len() - 1)..sums.len() - 1;
    let week = |(n, w): (usize, &load::WeekSummary)| HorseWeek {
        rides: w.rides,
        out: w.out,
        load: w.load,
        monotony: w.monotony,
        strain: w.strain,
        too_much_alike: w.too_much_alike(),
        kept: agreed.filter(|_| judged.contains(&n)).map(|(least, _)| w.kept(least as u8)),
    };
    let weeks: Vec<HorseWeek> = sums.iter().enumerate().map(week).collect();
    HorseBalance {
        id: horse.id,
        name: horse.name.clone(),
        least: agreed.map(|a| a.0),
        most: agreed.map(|a| a.1),
        kept: agreed.map(|_| weeks.iter().filter(|w| w.kept == Some(true)).count() as u32),
        judged: judged.len(),
        weeks,
    }
}

/// What was planned before today and not ridden, by reason.
fn missed(rides: &[Worked], today: NaiveDate) -> Vec<Missed> {
    let mut by_why: BTreeMap<Option<MissedReason>, u32> = BTreeMap::new();
    let not_ridden = |r: &&Worked| r.waits && r.from_week;
    for r in rides.iter().filter(not_ridden).filter(|r| r.missed.is_some() || r.ridden_on < today) {
        *by_why.entry(r.missed).or_default() += 1;
    }
    let mut out: Vec<Missed> = by_why.into_iter().map(|(why, rides)| Missed { why, rides }).collect();
    out.sort_by_key(|m| std::cmp::Reverse(m.rides));
    out
}
