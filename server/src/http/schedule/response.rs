//! The week as it is told, and as it is sent back.

use cavesson_core::{
    curriculum::Place,
    schedule::{Break, Ix, Motive, Ride, SlotRequest, Span, breaks, left_out, score, short},
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    Problem,
    http::{
        schedule::{
            RoomIn,
            clock::{clock, minutes},
            overlays::{AwayOut, HeatSpan, WeekAppointment},
        },
        validate::Check,
    },
    services::{diary::ShowWarning, planning::PlanningContext},
};

/// A stretch of a day of the week.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct SpanOut {
    /// 0 for Monday.
    day: u8,
    /// `07:30`
    from: String,
    to: String,
}

/// Someone who rides.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct WeekRider {
    id: Uuid,
    name: String,
    hours: Vec<SpanOut>,
}

/// A place.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct WeekPlace {
    place: Place,
    at_once: u16,
}

/// A horse with what it may carry.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct WeekHorse {
    id: Uuid,
    name: String,
    least: u8,
    most: u8,
    two_days: u32,
    week: u32,
    /// Where these figures come from.
    why: String,
}

/// A work with its figures and their reasons.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct WeekWork {
    id: String,
    horse_id: Uuid,
    /// What is worked, without the horse's name.
    name: String,
    motive: Option<Motive>,
    minutes: u16,
    load: u32,
    worth: Vec<i64>,
    gap_days: u8,
    cows: u16,
    places: Vec<Place>,
    riders: Vec<Uuid>,
    /// Where the figures come from, one sentence each.
    why: Vec<String>,
}

/// A ride of the week.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WeekRide {
    pub(crate) work: String,
    /// 0 for Monday.
    pub(crate) day: u8,
    /// `07:30`
    pub(crate) start: String,
    pub(crate) place: Place,
    pub(crate) rider: Uuid,
    /// The planner leaves it as it is.
    #[serde(default)]
    pub(crate) locked: bool,
    /// It was ridden, or is being ridden.
    #[serde(default)]
    pub(crate) ridden: bool,
}

/// A work that has fewer rides than it could, or a horse under its least, with the reason.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct LeftOutOut {
    work: String,
    missed: usize,
    why: String,
}

/// A horse under its least.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct ShortOut {
    horse_id: Uuid,
    rides: usize,
    least: usize,
    why: String,
}

/// A rule that the rides break.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct BreakOut {
    rule: u8,
    says: String,
}

/// How good some rides are.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct WeekJudged {
    score: i64,
    breaks: Vec<BreakOut>,
    left_out: Vec<LeftOutOut>,
    short: Vec<ShortOut>,
}

/// How far the plan of a week is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum WeekState {
    /// Nothing is planned.
    Empty,
    /// Planned, and seen by the trainer alone.
    Draft,
    /// Everyone sees it, as it stands.
    Published,
}

/// A week with everything that it is planned from.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct WeekOut {
    start: NaiveDate,
    /// The first day of the week before.
    previous: NaiveDate,
    /// The first day of the week after.
    next: NaiveDate,
    /// The number of today in this week, if it is this week's.
    today: Option<u8>,
    /// The first day that can still be planned; 7 when the week is over.
    first_open: u8,
    /// The times of a day at which a ride can start, in order.
    starts: Vec<String>,
    state: WeekState,
    /// To be sent back with the next change; 0 for a week that was not begun.
    version: i32,
    riders: Vec<WeekRider>,
    places: Vec<WeekPlace>,
    horses: Vec<WeekHorse>,
    works: Vec<WeekWork>,
    heat: Vec<HeatSpan>,
    away: Vec<AwayOut>,
    appointments: Vec<WeekAppointment>,
    /// What shows ahead will not see of their horses, and what could be dropped.
    warnings: Vec<ShowWarning>,
    rides: Vec<WeekRide>,
    judged: WeekJudged,
    /// Rides of the plan whose work nobody calls for any more: they are left out.
    gone: Vec<String>,
}

fn span_out(s: &Span) -> SpanOut {
    SpanOut { day: s.day, from: clock(s.from), to: clock(s.to) }
}

impl PlanningContext {
    /// A ride as the core has it; `None` where its work, its rider or its place is not there any more.
    pub(crate) fn ride(&self, r: &WeekRide) -> Option<Ride> {
        Some(Ride {
            work: self.work(&r.work)?,
            day: r.day,
            start: minutes(&r.start)?,
            place: self.places.iter().position(|p| *p == r.place)?,
            rider: self.people.iter().position(|p| p.id == r.rider)?,
        })
    }

    pub(crate) fn ride_out(&self, r: &Ride, locked: bool, ridden: bool) -> WeekRide {
        WeekRide {
            work: self.works[r.work].clone(),
            day: r.day,
            start: clock(r.start),
            place: self.places[r.place],
            rider: self.people[r.rider].id,
            locked,
            ridden,
        }
    }

    /// The rides of a draft that can stand beside what was ridden, and the works of those that are not called for any more. What
    /// lies before today was ridden or was not.
    pub(crate) fn planned(&self, draft: &[WeekRide]) -> (Vec<(Ride, bool)>, Vec<String>) {
        let (mut out, mut gone) = (vec![], vec![]);
        let horse = |r: &Ride| self.planning.week.works[r.work].horse;
        for d in draft.iter().filter(|d| d.day >= self.first_open()) {
            match self.ride(d) {
                Some(r) if self.ridden.iter().any(|(x, _)| x.day == r.day && horse(x) == horse(&r)) => {}
                Some(r) if self.missed.contains(&(self.horses[horse(&r)].id, r.day)) => {}
                Some(r) => out.push((r, d.locked)),
                None => gone.push(d.work.clone()),
            }
        }
        (out, gone)
    }

    pub(crate) fn judged(&self, rides: &[Ride]) -> WeekJudged {
        let week = &self.planning.week;
        let mut broken: Vec<BreakOut> =
            breaks(week, rides).into_iter().map(|Break { rule, says }| BreakOut { rule, says }).collect();
        broken.sort_by(|a, b| (a.rule, &a.says).cmp(&(b.rule, &b.says)));
        broken.dedup_by(|a, b| a.says == b.says);
        // What was ridden without being planned is worth nothing, and is not missing anywhere.
        let planned = |w: Ix| w < self.planning.works.len();
        let left = left_out(week, rides).into_iter().filter(|l| planned(l.work));
        WeekJudged {
            score: score(week, rides),
            breaks: broken,
            left_out: left
                .map(|l| LeftOutOut { work: self.works[l.work].clone(), missed: l.missed, why: l.why })
                .collect(),
            short: short(week, rides)
                .into_iter()
                .map(|s| ShortOut { horse_id: self.horses[s.horse].id, rides: s.rides, least: s.least, why: s.why })
                .collect(),
        }
    }

    pub(crate) fn out(&self, draft: &[WeekRide], version: i32, state: WeekState) -> WeekOut {
        let week = &self.planning.week;
        let (standing, gone) = self.planned(draft);
        let ridden: Vec<Ride> = self.ridden.iter().map(|r| r.0).collect();
        let all: Vec<Ride> = ridden.iter().copied().chain(standing.iter().map(|s| s.0)).collect();
        let mut rides: Vec<WeekRide> = ridden.iter().map(|r| self.ride_out(r, true, true)).collect();
        rides.extend(standing.iter().map(|(r, locked)| self.ride_out(r, *locked, false)));
        rides.sort_by(|a, b| (a.day, &a.start, a.rider, &a.work).cmp(&(b.day, &b.start, b.rider, &b.work)));
        let since = (self.today - self.start).num_days();
        WeekOut {
            start: self.start,
            previous: self.start - Days::new(7),
            next: self.start + Days::new(7),
            today: (0..7).contains(&since).then_some(since as u8),
            first_open: self.first_open(),
            starts: week.starts().map(clock).collect(),
            state,
            version,
            riders: self
                .people
                .iter()
                .zip(&week.riders)
                .map(|(p, r)| WeekRider {
                    id: p.id,
                    name: p.name.clone(),
                    hours: r.hours.iter().map(span_out).collect(),
                })
                .collect(),
            places: self
                .places
                .iter()
                .zip(&week.places)
                .map(|(&place, p)| WeekPlace { place, at_once: p.at_once })
                .collect(),
            horses: self.horses_out(),
            works: (0..week.works.len()).map(|w| self.work_out(w)).collect(),
            heat: self.heat_out(),
            away: self.away.iter().map(|a| self.away_out(a)).collect(),
            appointments: self.appointments_out(),
            warnings: self.warnings.clone(),
            rides,
            judged: self.judged(&all),
            gone,
        }
    }

    fn horses_out(&self) -> Vec<WeekHorse> {
        let all = self.horses.iter().zip(&self.planning.week.horses).zip(&self.planning.horses);
        all.map(|((h, w), why)| WeekHorse {
            id: h.id,
            name: h.name.clone(),
            least: w.least,
            most: w.most,
            two_days: w.two_days,
            week: w.week,
            why: why.clone(),
        })
        .collect()
    }

    fn work_out(&self, w: Ix) -> WeekWork {
        let work = &self.planning.week.works[w];
        let told = self.planning.works.get(w).map(|(_, worth)| worth);
        let horse = &self.horses[work.horse];
        let why = told.map(|t| {
            let worth = format!("{}: worth {}", t.worth, list(&work.worth));
            [Some(worth), Some(t.load.clone()), t.gap.clone(), Some(t.riders.clone())].into_iter().flatten().collect()
        });
        WeekWork {
            id: self.works[w].clone(),
            horse_id: horse.id,
            name: work.id.strip_prefix(&format!("{}: ", horse.name)).unwrap_or(&work.id).to_owned(),
            motive: told.map(|t| t.motive),
            minutes: work.minutes,
            load: work.load,
            worth: work.worth.clone(),
            gap_days: work.gap_days,
            cows: work.cows,
            places: work.places.iter().map(|&p| self.places[p]).collect(),
            riders: work.riders.iter().map(|&(r, _)| self.people[r].id).collect(),
            why: why.unwrap_or_default(),
        }
    }

    /// A ride that is asked for, checked for what it names.
    pub(crate) fn request(&self, sent: &RoomIn) -> Result<SlotRequest, Problem> {
        let mut check = Check::default();
        check.that(sent.on < 7, "on", "a day of the week is from 0, Monday, to 6");
        let work = self.work(&sent.work);
        check.that(work.is_some(), "work", "this week has no such work; look at it as it is now");
        let rider = sent.rider.map(|id| self.people.iter().position(|p| p.id == id));
        check.that(rider != Some(None), "rider", "nobody who rides here has this id");
        let place = sent.place.map(|place| self.places.iter().position(|p| *p == place));
        check.that(place != Some(None), "place", "the barn has no such place");
        check.done()?;
        let work = work.ok_or_else(Problem::broken)?;
        Ok(SlotRequest { work, day: sent.on, rider: rider.flatten(), place: place.flatten() })
    }

    /// Rides as someone sends them, each checked for what it names.
    pub(crate) fn checked(&self, rides: &[WeekRide]) -> Result<(), Problem> {
        let mut check = Check::default();
        check.that(rides.len() <= 1000, "rides", "a week has at most 1000 rides");
        for (n, r) in rides.iter().enumerate().take(1000) {
            let at = |field: &str| format!("rides[{n}].{field}");
            check.that(r.day < 7, &at("day"), "a day of the week is from 0, Monday, to 6");
            check.that(minutes(&r.start).is_some_and(|m| m < 1440), &at("start"), "a time looks like 07:30");
            check.that(
                self.work(&r.work).is_some(),
                &at("work"),
                "this week has no such work; look at it as it is now",
            );
            check.that(self.people.iter().any(|p| p.id == r.rider), &at("rider"), "nobody who rides here has this id");
        }
        check.done()
    }
}

fn list(worth: &[i64]) -> String {
    let all: Vec<String> = worth.iter().map(i64::to_string).collect();
    all.join(", then ")
}
