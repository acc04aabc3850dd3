//! Today's draw: which cow for which horse, in which order, and why; changed by hand, and what that costs.

use std::{collections::HashSet, sync::Arc};

use axum::{Json, extract::State, http::StatusCode};
use cavesson_core::{
    advice::Status,
    barn::RideState,
    cattle::{
        CattleRide, CowNeeds, Draw, Go, Goes, Manner, Turn, WhyLeftOut, Work, cattle_day, draw as search, fastest,
    },
    curriculum::Curriculum,
};
use cavesson_store::{
    Update,
    cattle::{self, KeptGo},
    horse, hours,
    log::ride::{self, Ride},
};
use chrono::{Datelike, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::known::{Herd, limits, slower};
use crate::{
    App, FieldProblem, Problem,
    auth::{Rider, SignedIn},
    http::extract::Body,
    services::{
        barn_clock::today,
        book::books,
        standing::{response::StandingOut, standings},
    },
};

/// Goes that a horse is given at most on a day.
const GOES: u8 = 3;
/// Draws that each thread tries: a fifth of a second or so.
const TRIES: u64 = 150_000;
/// More slots than this are not drawn.
const MOST_SLOTS: u16 = 60;

/// A horse on cattle today.
#[derive(Debug, Clone)]
pub(super) struct OnCattle {
    ride: Ride,
    rung: String,
    most: f64,
    own_limit: bool,
}

/// A day's problem with what it was made from.
pub(super) struct Day {
    on: Vec<OnCattle>,
    draw: Draw,
    /// Works of the cattle that the week counts on for this day, where it has any.
    works: Option<u16>,
}

async fn works_of_the_week(app: &App, signed: &SignedIn, day: NaiveDate) -> Result<Option<u16>, Problem> {
    let weekday = day.weekday().num_days_from_monday();
    let all = hours::cattle(&app.db, &signed.scope).await?;
    let of_day = all.into_iter().find(|(n, _)| i64::from(*n) == i64::from(weekday));
    Ok(of_day.and_then(|(_, works)| u16::try_from(works).ok()).filter(|works| *works > 0))
}

/// What a horse's next rung on a single cow asks, and whether it is not owned yet; none where it is on none.
fn next_needs(curriculum: &Curriculum, standing: &StandingOut) -> Option<(String, CowNeeds, bool)> {
    let main = standing.line.main.as_ref();
    let main_step = main.and_then(|main| standing.steps.iter().find(|step| step.id == main.id));
    let begun = |rung: &str| standing.steps.iter().any(|s| s.rung == rung && s.status != Status::Untried);
    let owned = |rung: &str| standing.steps.iter().filter(|s| s.rung == rung).all(|s| s.status == Status::Owned);
    let on_cows = curriculum.rungs().iter().filter_map(|rung| {
        let needs = curriculum.work_needs(rung).cow.clone()?;
        Some((rung.id.clone(), needs))
    });
    let on_cows: Vec<(String, CowNeeds)> = on_cows.collect();
    let of_main = on_cows.iter().find(|(rung, _)| main_step.is_some_and(|step| step.rung == *rung));
    let next = of_main.or_else(|| on_cows.iter().find(|(rung, _)| begun(rung) && !owned(rung)));
    let next = next.or_else(|| on_cows.iter().rev().find(|(rung, _)| begun(rung)))?;
    Some((next.0.clone(), next.1.clone(), !owned(&next.0)))
}

impl Day {
    /// The horses that are ridden today, are on cattle, and were not on them yet today; by the clock.
    pub(super) async fn of(app: &App, signed: &SignedIn, herd: &Herd, day: NaiveDate) -> Result<Day, Problem> {
        let rides = ride::on_day(&app.db, &signed.scope, day).await?;
        let horses = horse::in_work(&app.db, &signed.scope).await?;
        let ridden: Vec<_> = horses.into_iter().filter(|h| rides.iter().any(|r| r.horse_id == h.id)).collect();
        let barn = cavesson_store::barn::get(&app.db, &signed.scope).await?;
        let standing = standings(app, &signed.scope, &ridden, barn.posture, day).await?;
        let keys: Vec<Option<Uuid>> = ridden.iter().map(|h| Some(h.id)).collect();
        let books = books(app, &signed.scope, &keys).await?;
        let works = herd.works();
        let done: HashSet<Uuid> = works.iter().filter(|w| w.on == day).map(|w| w.ride).collect();
        let (mut on, mut goes) = (vec![], vec![]);
        for ride in rides.into_iter().filter(|r| r.state != RideState::Closed && !done.contains(&r.id)) {
            let Some(n) = ridden.iter().position(|h| h.id == ride.horse_id) else { continue };
            let Some(known) = standing.get(&ride.horse_id) else { continue };
            let Some((rung, needs, learns)) = next_needs(&books[n].curriculum, known) else { continue };
            let mine = works.iter().filter(|w| w.horse == ride.horse_id);
            let turns: Vec<Turn> = mine.flat_map(|w| w.work.turns.iter().copied()).collect();
            let limit = slower(limits(&turns));
            let asked = CattleRide { needs, limit, from: 1, goes: GOES, learns };
            on.push(OnCattle { ride, rung, most: fastest(&asked), own_limit: limit.is_some() });
            goes.push(asked);
        }
        // What the week counts on is not gone over: so many goes, and a change from each horse to the next.
        let works = works_of_the_week(app, signed, day).await?;
        let changes = goes.len().saturating_sub(1) as u16;
        let most = works.map_or(MOST_SLOTS, |works| works + changes).min(MOST_SLOTS);
        let slots = (goes.len() as u16 * (u16::from(GOES) + 1)).clamp(1, most.max(1));
        let mut draw = cattle_day(&goes, &herd.known, &herd.rules, slots, true);
        // In the order of the clock.
        for n in 0..draw.horses.len() {
            draw.horses[n].after = (0..n).collect();
        }
        Ok(Day { on, draw, works })
    }

    /// The best draw of the day.
    async fn best(self: &Arc<Day>, app: &App, signed: &SignedIn, day: NaiveDate) -> Result<(Goes, i64), Problem> {
        let seed = u64::from(day.num_days_from_ce().unsigned_abs());
        let it = Arc::clone(self);
        app.compute.run(signed.scope.shared(), move || search(&it.draw, Work { seed, tries: TRIES })).await
    }

    /// What was kept by hand, of horses and cows that are still there.
    fn goes_of(&self, herd: &Herd, kept: &[KeptGo]) -> Goes {
        let mut goes: Goes = vec![None; self.draw.slots.into()];
        for (slot, go) in kept.iter().enumerate().take(goes.len()) {
            let Some((horse, cow)) = go else { continue };
            let horse = self.on.iter().position(|on| on.ride.horse_id == *horse);
            if let (Some(horse), Some(cow)) = (horse, herd.place(*cow)) {
                goes[slot] = Some(Go { horse: horse as u8, cow: cow as u8 });
            }
        }
        goes
    }
}

/// A go of the draw.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct GoOut {
    slot: usize,
    ride_id: Uuid,
    horse_id: Uuid,
    horse: String,
    /// What the horse is on.
    rung: String,
    cow_id: Uuid,
    tag: String,
    manner: Manner,
    /// Of a thousand turns it honours so many then.
    honour: u32,
    /// How fast it goes then, feet a second.
    speed: f64,
    /// Why this one, and what the next best would cost.
    why: String,
    /// Rules that it breaks, where it was put there by hand.
    broken: Vec<String>,
}

/// A horse with fewer goes than it could use.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct MissedOut {
    horse_id: Uuid,
    horse: String,
    missed: usize,
    why: String,
}

/// A horse that is on cattle today.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct OnCattleOut {
    horse_id: Uuid,
    horse: String,
    rung: String,
    /// The fastest cow it is given, feet a second.
    most_speed: f64,
    /// Whether that comes from its own turns, or is what any horse begins with.
    own: bool,
}

/// Today's draw.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DrawOut {
    day: NaiveDate,
    slots: u16,
    /// Works of the cattle that the week counts on for today, where it has any: the draw has about as many goes at most.
    works: Option<u16>,
    horses: Vec<OnCattleOut>,
    goes: Vec<GoOut>,
    left_out: Vec<MissedOut>,
    /// Whether it was changed by hand, and the version of that; 0 where it never was.
    by_hand: bool,
    version: i32,
    /// What the changes cost against the best, in goes on a fresh, honest cow; none where a rule is broken.
    cost: Option<f64>,
}

/// What a go on a cow that honours everything is worth, in thousandths.
const A_GO: f64 = 12_000.0;

fn why(day: &Day, goes: &Goes, slot: usize, herd: &Herd, seconds: &[Option<(usize, i64)>]) -> String {
    let Some(Go { horse, cow }) = goes[slot] else { return String::new() };
    let (on, cow) = (&day.on[usize::from(horse)], usize::from(cow));
    let k = goes[..slot].iter().flatten().filter(|go| usize::from(go.cow) == cow).count();
    let held = if on.own_limit { "its own turns say it holds" } else { "a horse with no turns yet is given at most" };
    let of = &day.draw.cows[cow];
    let first = match of.speed.get(k) {
        Some(speed) => format!("about {speed:.0} ft/s, {held} {:.0}", on.most),
        None => "it has no works left".to_owned(),
    };
    match seconds.get(slot).copied().flatten() {
        Some((other, 0)) => format!("{first}; {} would do as well", herd.cows[other].fields.tag),
        Some((other, score)) => {
            let costs = -score as f64 / A_GO;
            format!("{first}; {} instead would cost {costs:.2} of a go", herd.cows[other].fields.tag)
        }
        None => format!("{first}; no other cow would do"),
    }
}

fn left_out_words(why: WhyLeftOut) -> &'static str {
    match why {
        WhyLeftOut::FitsNone => "no cow suits what it is on today",
        WhyLeftOut::NoSlot => "no slot is left for it",
        WhyLeftOut::NoCow => "no cow that suits it has a work left",
        WhyLeftOut::NotWorth => "another go would cost the herd more than it brings",
    }
}

async fn out(app: &App, signed: &SignedIn, day: NaiveDate) -> Result<DrawOut, Problem> {
    let herd = Herd::of(app, signed, day).await?;
    let it = Arc::new(Day::of(app, signed, &herd, day).await?);
    let (best, value) = it.best(app, signed, day).await?;
    let kept = cattle::draw(&app.db, &signed.scope, day).await?;
    let version = kept.as_ref().map_or(0, |(_, version)| *version);
    let by_hand = kept.is_some();
    let goes = kept.map_or(best, |(kept, _)| it.goes_of(&herd, &kept));
    let broken = it.draw.broken(&goes);
    let worth = it.draw.value(&goes);
    let seconds = if worth.is_some() { it.draw.seconds(&goes) } else { vec![] };
    let left_out = if worth.is_some() { it.draw.left_out(&goes) } else { vec![] };
    let go_out = |(slot, go): (usize, &Option<Go>)| {
        let Go { horse, cow } = (*go)?;
        let (on, cow) = (&it.on[usize::from(horse)], usize::from(cow));
        let k = goes[..slot].iter().flatten().filter(|go| usize::from(go.cow) == cow).count();
        let of = &it.draw.cows[cow];
        Some(GoOut {
            slot: slot + 1,
            ride_id: on.ride.id,
            horse_id: on.ride.horse_id,
            horse: on.ride.horse_name.clone(),
            rung: on.rung.clone(),
            cow_id: herd.cows[cow].id,
            tag: herd.cows[cow].fields.tag.clone(),
            manner: of.manner,
            honour: of.honour.get(k).copied().unwrap_or_default(),
            speed: of.speed.get(k).copied().unwrap_or_default(),
            why: why(&it, &goes, slot, &herd, &seconds),
            broken: broken.iter().filter(|b| b.slot == slot).map(|b| b.why.clone()).collect(),
        })
    };
    let missed = left_out.iter().map(|out| MissedOut {
        horse_id: it.on[out.horse].ride.horse_id,
        horse: it.on[out.horse].ride.horse_name.clone(),
        missed: out.missed,
        why: left_out_words(out.why).to_owned(),
    });
    let horses = it.on.iter().map(|on| OnCattleOut {
        horse_id: on.ride.horse_id,
        horse: on.ride.horse_name.clone(),
        rung: on.rung.clone(),
        most_speed: on.most,
        own: on.own_limit,
    });
    Ok(DrawOut {
        day,
        slots: it.draw.slots,
        works: it.works,
        horses: horses.collect(),
        goes: goes.iter().enumerate().filter_map(go_out).collect(),
        left_out: missed.collect(),
        by_hand,
        version,
        cost: worth.map(|worth| (value - worth).max(0) as f64 / A_GO),
    })
}

/// The cows that the day's draw has for a ride, in order: none for one that is over, or on another day.
pub(super) async fn drawn_for(app: &App, signed: &SignedIn, herd: &Herd, ride: &Ride) -> Result<Vec<Uuid>, Problem> {
    let day = today(app, signed).await?;
    if ride.ridden_on != day {
        return Ok(vec![]);
    }
    let it = Arc::new(Day::of(app, signed, herd, day).await?);
    if it.on.iter().all(|on| on.ride.id != ride.id) {
        return Ok(vec![]);
    }
    let goes = match cattle::draw(&app.db, &signed.scope, day).await? {
        Some((kept, _)) => it.goes_of(herd, &kept),
        None => it.best(app, signed, day).await?.0,
    };
    let mine = goes.iter().flatten().filter(|go| it.on[usize::from(go.horse)].ride.id == ride.id);
    let mut cows: Vec<Uuid> = vec![];
    for cow in mine.map(|go| herd.cows[usize::from(go.cow)].id) {
        if !cows.contains(&cow) {
            cows.push(cow);
        }
    }
    Ok(cows)
}

/// Which cow for which horse today, and why: from what each horse is on, how fast a cow it holds, and the herd as it stands. Horses that have
/// had their cattle today are done; the rest is drawn anew each time.
#[utoipa::path(get, path = "/api/cattle-draw", responses((status = 200, body = DrawOut), (status = 403, body = Problem)))]
pub(crate) async fn read(State(app): State<App>, Rider(signed): Rider) -> Result<Json<DrawOut>, Problem> {
    let day = today(&app, &signed).await?;
    Ok(Json(out(&app, &signed, day).await?))
}

/// A go put by hand.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct GoIn {
    horse_id: Uuid,
    cow_id: Uuid,
}

/// A draw changed by hand.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct DrawIn {
    /// The version that was read; 0 where it was not changed yet.
    version: i32,
    /// Slot by slot; null where none goes.
    #[schema(max_items = 60)]
    goes: Vec<Option<GoIn>>,
}

/// Changes today's draw by hand. What breaks a rule is refused, with the rule.
#[utoipa::path(put, path = "/api/cattle-draw", request_body = DrawIn,
    responses((status = 200, body = DrawOut), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub(crate) async fn put(
    State(app): State<App>,
    Rider(signed): Rider,
    Body(sent): Body<DrawIn>,
) -> Result<Json<DrawOut>, Problem> {
    let day = today(&app, &signed).await?;
    let herd = Herd::of(&app, &signed, day).await?;
    let it = Day::of(&app, &signed, &herd, day).await?;
    if sent.goes.len() > usize::from(it.draw.slots) {
        return Err(Problem::field("goes", format!("today has {} slots", it.draw.slots)));
    }
    let mut wrong = vec![];
    for (n, go) in sent.goes.iter().enumerate() {
        let Some(go) = go else { continue };
        let mut say = |field: &str, detail: &str| {
            wrong.push(FieldProblem { field: format!("goes[{n}].{field}"), detail: detail.to_owned() });
        };
        if it.on.iter().all(|on| on.ride.horse_id != go.horse_id) {
            say("horse_id", "this horse has no cattle left today: pick one that is drawn");
        }
        if herd.place(go.cow_id).is_none() {
            say("cow_id", "the herd has no such cow: pick one that is here");
        }
    }
    if !wrong.is_empty() {
        return Err(Problem::fields(wrong));
    }
    let kept: Vec<KeptGo> = sent.goes.iter().map(|go| go.map(|go| (go.horse_id, go.cow_id))).collect();
    let broken = it.draw.broken(&it.goes_of(&herd, &kept));
    if !broken.is_empty() {
        let field = |slot: usize| format!("goes[{slot}]");
        return Err(Problem::fields(
            broken.into_iter().map(|b| FieldProblem { field: field(b.slot), detail: b.why }).collect(),
        ));
    }
    match cattle::put_draw(&app.db, &signed.scope, day, sent.version, &kept).await? {
        Update::Done(_) => Ok(Json(out(&app, &signed, day).await?)),
        Update::Stale(_) => Err(Problem::stale("draw", &out(&app, &signed, day).await?)),
        Update::Missing => Err(Problem::missing("draw")),
    }
}

/// Takes back what was changed by hand: the best draw stands again.
#[utoipa::path(delete, path = "/api/cattle-draw", responses((status = 204)))]
pub(crate) async fn forget(State(app): State<App>, Rider(signed): Rider) -> Result<StatusCode, Problem> {
    let day = today(&app, &signed).await?;
    cattle::drop_draw(&app.db, &signed.scope, day).await?;
    Ok(StatusCode::NO_CONTENT)
}
