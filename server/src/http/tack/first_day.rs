//! The list of a first day in a leverage bit.

use cavesson_core::{
    curriculum::RoadStep,
    ride::Mouthpiece,
    tack::{Came, Corner, FirstDay, StepNoted, StepWhy, TackEvent, first_day, lacks_before_leverage},
};
use cavesson_store::{
    gear::{self, Gear},
    log::ride::RideToLog,
    tack_event::{self, KeptTackEvent},
};
use chrono::{Days, NaiveDate};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::on_road::{OnRoad, road_of};
use crate::{App, Problem, auth::SignedIn};

/// Lists of so many days are looked at.
const DAYS: u64 = 730;

/// How one step of the list came out, each time that it was done.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StepNotedOut {
    id: Uuid,
    ride_id: Uuid,
    on: NaiveDate,
    who: String,
    step: usize,
    came: Came,
    tossed: bool,
    hole: Option<u8>,
    /// Radians.
    turned: Option<f64>,
    corner: Option<Corner>,
    version: i32,
}

/// The list of a first day in a leverage bit.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FirstDayOut {
    steps: Vec<RoadStep>,
    /// What is lacking before it may begin.
    lacks: Vec<String>,
    /// Who signed for beginning all the same, and why.
    anyway: Option<String>,
    /// The step that is next, counted from 0; none where every step is passed.
    next: Option<usize>,
    /// Whether that waits for another day.
    another_day: bool,
    /// Every step is passed, since this day.
    done: Option<NaiveDate>,
    says: String,
    /// What was noted, oldest first.
    noted: Vec<StepNotedOut>,
}

impl FirstDayOut {
    /// Whether there is anything left of it to do.
    pub(crate) fn is_running(&self) -> bool {
        self.done.is_none()
    }

    /// Whether anything of it was noted.
    pub(crate) fn is_begun(&self) -> bool {
        !self.noted.is_empty()
    }

    /// Where it stands, in words.
    pub(crate) fn says(&self) -> &str {
        &self.says
    }
}

fn noted(events: &[&KeptTackEvent]) -> Vec<StepNotedOut> {
    let one = |kept: &&KeptTackEvent| match kept.event {
        TackEvent::Step { step, came, tossed, hole, turned, corner } => Some(StepNotedOut {
            id: kept.id,
            ride_id: kept.ride_id,
            on: kept.on,
            who: kept.who.clone(),
            step: step.into(),
            came,
            tossed,
            hole,
            turned,
            corner,
            version: kept.version,
        }),
        _ => None,
    };
    events.iter().filter_map(one).collect()
}

fn says(steps: &[RoadStep], at: FirstDay, today: NaiveDate) -> String {
    let name = |step: usize| steps.get(step).map_or("", |s| s.name.as_str());
    let short = |on: NaiveDate| on.format("%b %-d");
    match at {
        FirstDay::Done(on) if on == today => "Every step is passed".into(),
        FirstDay::Done(on) => format!("Every step was passed on {}", short(on)),
        FirstDay::AnotherDay(step) => format!("Enough for today. {} waits for another day", name(step)),
        FirstDay::Next(step, why) => match why {
            StepWhy::Begins => format!("{} comes first", name(step)),
            StepWhy::Passed => format!("{} is next", name(step)),
            StepWhy::Fretted => format!("It fretted: back to {}", name(step).to_lowercase()),
            StepWhy::Strap => format!(
                "A tossed head or a pinched corner is the strap's until shown otherwise: {}",
                name(step).to_lowercase()
            ),
            StepWhy::LeftOn(on) => format!("Left on {}: go on with {}", short(on), name(step).to_lowercase()),
            StepWhy::BrokenOff(on) => format!("Broken off on {}: go on with {}", short(on), name(step).to_lowercase()),
        },
    }
}

/// The list of a horse as of a day; none where it has no leverage bit, or its road has no such day.
pub(crate) async fn of_horse(
    app: &App,
    signed: &SignedIn,
    horse: Uuid,
    on: NaiveDate,
    road: &OnRoad,
) -> Result<Option<FirstDayOut>, Problem> {
    if road.first_day().is_none() {
        return Ok(None);
    }
    let gear = gear::of_horse(&app.db, &signed.scope, horse, on).await?;
    let events = events_of(app, signed, &[horse], on).await?;
    Ok(list(&gear.iter().collect::<Vec<_>>(), &events.iter().collect::<Vec<_>>(), on, road))
}

/// What happened with the tack of horses, as far back as lists are looked at.
pub(super) async fn events_of(
    app: &App,
    signed: &SignedIn,
    horses: &[Uuid],
    on: NaiveDate,
) -> Result<Vec<KeptTackEvent>, Problem> {
    Ok(tack_event::of_horses(&app.db, &signed.scope, horses, on - Days::new(DAYS)).await?)
}

/// The list as of a day of a horse with this gear, from what happened with its tack.
pub(super) fn list(gear: &[&Gear], events: &[&KeptTackEvent], on: NaiveDate, road: &OnRoad) -> Option<FirstDayOut> {
    let (stage, rung) = road.first_day()?;
    let bit = gear.iter().find(|g| g.mouthpiece == Some(Mouthpiece::Leverage) && !g.archived)?;
    let noted = noted(events);
    // A horse that was ridden in leverage before anything was noted here had its first day.
    if noted.is_empty() && road.is_ridden(rung) {
        return None;
    }
    let anyway = events.iter().rev().find_map(|kept| match &kept.event {
        TackEvent::Anyway { why } => Some(format!("{}: {why}", kept.who)),
        _ => None,
    });
    let not_owned = road.not_owned_before(rung);
    let not_owned: Vec<&str> = not_owned.iter().map(String::as_str).collect();
    let lacks = lacks_before_leverage(bit.mouth_seen.is_some(), bit.teeth_seen.is_some(), &not_owned);
    let notes: Vec<StepNoted> = noted
        .iter()
        .map(|n| StepNoted { on: n.on, step: n.step, came: n.came, tossed: n.tossed, corner: n.corner })
        .collect();
    let at = first_day(&stage.step, &notes, on);
    let (next, another_day, done) = match at {
        FirstDay::Next(step, _) => (Some(step), false, None),
        FirstDay::AnotherDay(step) => (Some(step), true, None),
        FirstDay::Done(on) => (None, false, Some(on)),
    };
    let says = says(&stage.step, at, on);
    Some(FirstDayOut { steps: stage.step.clone(), lacks, anyway, next, another_day, done, says, noted })
}

/// Whether a step of the list may be noted on a ride.
pub(crate) async fn may_note(app: &App, signed: &SignedIn, ride: &RideToLog, step: usize) -> Result<(), Problem> {
    let road = road_of(app, signed, ride.horse_id).await?;
    let list = of_horse(app, signed, ride.horse_id, ride.ridden_on, &road).await?;
    let Some(list) = list else {
        return Err(Problem::field(
            "event.step",
            "this horse has no first day in leverage to note: it needs a leverage bit, and its road one",
        ));
    };
    if step >= list.steps.len() {
        return Err(Problem::field("event.step", format!("the list has {} steps", list.steps.len())));
    }
    // What is under way goes on: only the beginning is kept shut.
    if !list.lacks.is_empty() && list.anyway.is_none() && list.noted.is_empty() {
        let lacks = list.lacks.join("; ").to_lowercase();
        return Err(Problem::field("event.step", format!("not yet: {lacks}. A trainer may sign for it")));
    }
    Ok(())
}
