//! What the barn knows of a week, made into a week to plan.

use std::{collections::HashMap, sync::Arc};

use cavesson_core::{
    barn::{MissedReason, RideState, Role},
    curriculum::Place,
    load::ComebackDay,
    schedule::{
        self, BarnWeek, HorseContext, Ix, PlanningProblem, Ride, Rider, Span, open_hours, unplanned_work,
        usual_at_once, usual_hours, usual_minutes, usual_start, without,
    },
};
use cavesson_store::{
    Scope,
    barn::Barn,
    horse::{self, Horse},
    hours::{self, Away},
    layoff,
    person::{self, Person},
    week::{self as kept, Ridden},
};
use chrono::{Datelike, Days, NaiveDate, Timelike};
use uuid::Uuid;

use crate::{
    App, Problem,
    services::{
        book::{Book, books},
        diary::{self, Diary, ShowWarning, warnings},
        standing::{
            response::{StandingOut, StepStanding},
            standings,
        },
    },
};

/// Days over which it counts who rode a horse.
const LATELY: u64 = 60;

/// A week of a barn as a problem, with what its indices stand for.
pub(crate) struct PlanningContext {
    pub(crate) start: NaiveDate,
    pub(crate) today: NaiveDate,
    pub(crate) people: Vec<Person>,
    pub(crate) places: Vec<Place>,
    pub(crate) horses: Vec<Horse>,
    pub(crate) planning: PlanningProblem,
    /// For each work: its id, made of horse and step. Works of rides that were ridden without being planned come last.
    pub(crate) works: Vec<String>,
    /// Rides that were ridden: with the ids that they have in the record.
    pub(crate) ridden: Vec<(Ride, Uuid)>,
    pub(crate) away: Vec<Away>,
    pub(crate) diary: Diary,
    pub(crate) warnings: Vec<ShowWarning>,
    /// Horses whose planned ride of a day was not ridden.
    pub(crate) missed: Vec<(Uuid, u8)>,
}

impl PlanningContext {
    pub(crate) fn date(&self, day: u8) -> NaiveDate {
        self.start + Days::new(day.into())
    }

    /// The first day that can still be planned; 7 for a week that is over.
    pub(crate) fn first_open(&self) -> u8 {
        (self.today - self.start).num_days().clamp(0, 7) as u8
    }

    pub(crate) fn work(&self, id: &str) -> Option<Ix> {
        self.works.iter().position(|w| w == id)
    }
}

/// The Monday of a day's week.
pub(crate) fn monday_of(day: NaiveDate) -> NaiveDate {
    day.week(chrono::Weekday::Mon).first_day()
}

/// Everything that the week is made of, in a fixed number of queries.
pub(crate) async fn facts(app: &App, scope: &Scope, barn: &Barn, start: NaiveDate) -> Result<PlanningContext, Problem> {
    let today = crate::services::barn_clock::today_in(barn);
    let end = start + Days::new(6);
    let people = person::in_barn(&app.db, scope).await?;
    let people: Vec<Person> = people.into_iter().filter(|p| p.role != Role::Owner).collect();
    let horses = horse::in_work(&app.db, scope).await?;
    let standings = standings(app, scope, &horses, barn.posture, today).await?;
    let layoffs = layoff::current(&app.db, scope).await?;
    let places = places(&hours::places(&app.db, scope).await?);
    let away = hours::away(&app.db, scope, start, end).await?;
    let agreed = hours::agreed(&app.db, scope).await?;
    // When people work is not for owners: they see the usual hours.
    let person_hours = if scope.is_owner() { vec![] } else { hours::of_people(&app.db, scope).await? };
    let cattle = hours::cattle(&app.db, scope).await?;
    let rides = kept::rides(&app.db, scope, start - Days::new(7), end).await?;
    let diary = diary::diary(app, scope, barn, start, end).await?;
    let of_horse: Vec<Option<Uuid>> = horses.iter().map(|h| Some(h.id)).collect();
    let books = books(app, scope, &of_horse).await?;
    let missed = missed(&rides, start);
    let off = off_today(&rides, start, today);
    let rode = kept::rode(&app.db, scope, start - Days::new(LATELY)).await?;
    let rode: HashMap<(Uuid, Uuid), u32> = rode.into_iter().map(|(h, r, n)| ((h, r), n as u32)).collect();
    let barn_week = BarnWeek {
        riders: people
            .iter()
            .map(|p| {
                let gone = spans(away.iter().filter(|a| a.person_id == Some(p.id)), start);
                rider(p, &person_hours, gone.into_iter().chain(diary.of_person(p.id)).chain(off.of_rider(p.id)))
            })
            .collect(),
        trainers: (0..people.len()).filter(|&n| people[n].role == Role::Trainer).collect(),
        horses: horses
            .iter()
            .zip(&books)
            .map(|(h, book)| {
                let laid_off = layoffs.iter().find(|l| l.horse_id == h.id);
                let comeback = laid_off.and_then(|l| l.layoff().on(start.max(today)));
                let mut mount = mount(h, standings.get(&h.id).map(Arc::as_ref), &diary, book, today, comeback);
                mount.agreed = agreed.iter().find(|a| a.0 == h.id).map(|a| (a.1 as u8, a.2 as u8));
                mount.away = spans(away.iter().filter(|a| a.horse_id == Some(h.id)), start);
                mount.away.extend(diary.of_horse(h.id).chain(off.of_horse(h.id)));
                mount.usual_rider = people.iter().position(|p| Some(p.id) == h.usual_rider_id);
                mount.rode = people.iter().map(|p| rode.get(&(h.id, p.id)).copied().unwrap_or(0)).collect();
                mount.before = before(h, &mount, &rides, start);
                mount
            })
            .collect(),
        air: air(app, start, today),
        cattle: std::array::from_fn(|d| cattle.iter().find(|c| c.0 == d as i16).map_or(0, |c| c.1 as u16)),
        day_names: std::array::from_fn(|d| (start + Days::new(d as u64)).format("%A").to_string()),
        places,
    };
    let known =
        horses.iter().zip(&books).filter_map(|(h, book)| Some((h.id, standings.get(&h.id)?.as_ref(), book.as_ref())));
    let known: Vec<_> = known.collect();
    let warnings = warnings(&diary, today, &known);
    let planning = schedule::build_problem(&barn_week, vec![]);
    let works = ids(&horses, &planning);
    let places = barn_week.places.iter().map(|p| p.0).collect();
    let mut facts = PlanningContext {
        start,
        today,
        people,
        places,
        horses,
        planning,
        works,
        ridden: vec![],
        away,
        diary,
        warnings,
        missed,
    };
    take_ridden(&mut facts, &rides);
    Ok(facts)
}

/// A work's id lasts as long as the work is wanted: the horse and the step.
fn ids(horses: &[Horse], planning: &PlanningProblem) -> Vec<String> {
    let id = |(work, (step, _)): (&schedule::Work, &(String, schedule::WorkReasons))| {
        format!("{}/{step}", horses[work.horse].id)
    };
    planning.week.works.iter().zip(&planning.works).map(id).collect()
}

fn places(set: &[hours::PlaceHours]) -> Vec<(Place, schedule::Place)> {
    let mut out = vec![];
    for place in Place::ALL {
        let own = set.iter().find(|p| p.place == place);
        let at_once = own.map_or(usual_at_once(place), |p| p.at_once as u16);
        let hours = open_hours(own.map(|p| (p.from as u16, p.to as u16)));
        out.push((place, schedule::Place { id: place_name(place).to_owned(), at_once, hours }));
    }
    out
}

/// As it is said: `the round pen`.
pub(crate) const fn place_name(place: Place) -> &'static str {
    match place {
        Place::RoundPen => "the round pen",
        Place::Arena => "the arena",
        Place::Outside => "outside",
        Place::Trail => "the trail",
    }
}

fn rider(person: &Person, hours: &[(Uuid, hours::Hours)], gone: impl Iterator<Item = Span>) -> Rider {
    let mut own: Vec<Span> = hours
        .iter()
        .filter(|h| h.0 == person.id)
        .map(|(_, h)| Span { day: h.weekday as u8, from: h.from as u16, to: h.to as u16 })
        .collect();
    if own.is_empty() {
        own = usual_hours();
    }
    for gone in gone {
        own = own.into_iter().flat_map(|s| without(s, gone)).collect();
    }
    Rider { id: person.name.clone(), hours: own }
}

/// Planned rides that were not ridden, by horse and day.
fn missed(rides: &[Ridden], start: NaiveDate) -> Vec<(Uuid, u8)> {
    let this_week = rides.iter().filter(|r| r.missed.is_some() && r.ridden_on >= start);
    this_week.map(|r| (r.horse_id, (r.ridden_on - start).num_days() as u8)).collect()
}

/// Who is not ridden and who does not ride for the rest of today, because that was the answer to why a ride was not ridden.
struct Off {
    day: u8,
    horses: Vec<Uuid>,
    riders: Vec<Uuid>,
}

fn off_today(rides: &[Ridden], start: NaiveDate, today: NaiveDate) -> Off {
    let of = rides.iter().filter(|r| r.ridden_on == today && today >= start);
    let horses = of.clone().filter(|r| r.missed.is_some()).map(|r| r.horse_id).collect();
    let riders = of.filter(|r| r.missed == Some(MissedReason::Rider)).map(|r| r.rider_id).collect();
    Off { day: (today - start).num_days().clamp(0, 6) as u8, horses, riders }
}

impl Off {
    fn all_day(&self, is_off: bool) -> Option<Span> {
        is_off.then(|| schedule::off_for_the_day(self.day))
    }

    fn of_horse(&self, id: Uuid) -> Option<Span> {
        self.all_day(self.horses.contains(&id))
    }

    fn of_rider(&self, id: Uuid) -> Option<Span> {
        self.all_day(self.riders.contains(&id))
    }
}

fn spans<'a>(away: impl Iterator<Item = &'a Away>, start: NaiveDate) -> Vec<Span> {
    let span = |a: &Away| Span { day: (a.day - start).num_days() as u8, from: a.from as u16, to: a.to as u16 };
    away.map(span).collect()
}

/// A horse with what there is to work on it.
fn mount(
    horse: &Horse,
    standing: Option<&StandingOut>,
    diary: &Diary,
    book: &Book,
    today: NaiveDate,
    comeback: Option<ComebackDay>,
) -> HorseContext {
    let show = diary.show_of(horse.id, &book.course);
    let aim = |s: &StepStanding| show.as_ref().and_then(|show| show.aim(s, &book.course));
    let steps =
        standing.map(|s| s.steps.iter().map(|s| s.facts(aim(s), &book.course)).collect::<Vec<_>>()).unwrap_or_default();
    let next = standing.and_then(|s| s.line.main.as_ref()).map(|m| m.id.as_str());
    HorseContext {
        name: horse.name.clone(),
        age: horse.foaled.and_then(|y| u32::try_from(today.year() - y).ok()),
        agreed: None,
        away: vec![],
        usual_rider: None,
        rode: vec![],
        call: standing.and_then(|s| s.horse.as_ref()).map(|c| c.call),
        comeback,
        subjects: standing.map(|_| schedule::subjects(&steps, next, comeback)).unwrap_or_default(),
        before: vec![],
    }
}

fn load_of(ridden: &Ridden, age: Option<u32>) -> u32 {
    ridden.minutes.clone().map_or_else(|| usual_minutes(age), std::convert::Into::into).load()
}

/// Rides of the week before. One that worked several of the horse's subjects counts for the first of them.
fn before(horse: &Horse, mount: &HorseContext, rides: &[Ridden], start: NaiveDate) -> Vec<(i8, u32, Option<String>)> {
    rides
        .iter()
        .filter(|r| r.horse_id == horse.id && r.ridden_on < start && r.state != RideState::Planned)
        .map(|r| {
            let step = mount.subjects.iter().map(|s| &s.step).find(|s| r.steps.contains(s));
            ((r.ridden_on - start).num_days() as i8, load_of(r, mount.age), step.cloned())
        })
        .collect()
}

/// The air of each hour, today and later; what is over is over.
fn air(app: &App, start: NaiveDate, today: NaiveDate) -> Vec<[Option<cavesson_core::load::Weather>; 24]> {
    let at = |date: NaiveDate, hour: usize| app.weather.as_ref().filter(|_| date >= today)?.at(date, hour as u32);
    (0..7).map(|d| std::array::from_fn(|hour| at(start + Days::new(d), hour))).collect()
}

/// Rides of this week that were begun or ridden stand as they were. One of no work that is wanted now gets a work of its own, worth
/// nothing, so that its load and its rider's time count.
fn take_ridden(facts: &mut PlanningContext, rides: &[Ridden]) {
    for r in rides.iter().filter(|r| r.ridden_on >= facts.start && r.state != RideState::Planned) {
        let (Some(rider), Some(horse)) = (
            facts.people.iter().position(|p| p.id == r.rider_id),
            facts.horses.iter().position(|h| h.id == r.horse_id),
        ) else {
            continue;
        };
        let place = facts.places.iter().position(|p| *p == r.place).unwrap_or(0);
        let age = facts.horses[horse].foaled.and_then(|y| u32::try_from(facts.today.year() - y).ok());
        let known = r.work.as_deref().and_then(|w| facts.work(w));
        let work = known.unwrap_or_else(|| {
            let (name, load) = (&facts.horses[horse].name, load_of(r, age));
            let work = unplanned_work(horse, name, age, load, (rider, place));
            facts.planning.week.works.push(work);
            facts.works.push(format!("ridden/{}", r.id));
            facts.works.len() - 1
        });
        let start = r.starts_at.map_or(usual_start(), |t| (t.hour() * 60 + t.minute()) as u16);
        let day = (r.ridden_on - facts.start).num_days() as u8;
        facts.ridden.push((Ride { work, day, start, place, rider }, r.id));
    }
    // What was ridden is past changing: rules are held against what is planned beside it, and not against itself.
    facts.planning.week.fixed = facts.ridden.iter().map(|r| r.0).collect();
}
