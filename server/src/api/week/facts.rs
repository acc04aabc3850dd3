//! What the barn knows of a week, made into a week to plan.

use std::collections::HashMap;

use cavesson_core::{
    advice::{Call, Standing},
    ladder::{Gait, Place},
    load::Minutes,
    week::{self, BarnWeek, Ix, Mount, Posed, Pull, Ride, Rider, Span, Subject, charge},
};
use cavesson_store::{
    Page, Scope,
    barn::Barn,
    horse::{self, Horse},
    hours::{self, Away},
    person::{self, Person},
    week::{self as kept, Ridden},
};
use chrono::{Datelike, Days, NaiveDate, Timelike};
use uuid::Uuid;

use crate::{
    App, Problem,
    api::{
        standing::{StandingOut, standings},
        words::from_word,
    },
};

/// Hours of someone who has set none: mornings and afternoons, Monday to Saturday.
const USUAL: [(u16, u16); 2] = [(7 * 60, 12 * 60), (13 * 60 + 30, 17 * 60)];
/// Rides at a time of a place that the barn has not set.
const AT_ONCE: [(Place, u16); 4] = [(Place::RoundPen, 1), (Place::Arena, 3), (Place::Outside, 4), (Place::Trail, 2)];
const OPEN: (u16, u16) = (6 * 60, 20 * 60);
/// Days over which it counts who rode a horse.
const LATELY: u64 = 60;
/// Load of a ride of which no minutes were told: that of a ride at the jog.
fn usual_load(age: Option<u32>) -> u32 {
    charge(Gait::Jog, age).load
}

/// A week of a barn, posed, with what its indices stand for.
pub(super) struct Facts {
    pub(super) start: NaiveDate,
    pub(super) today: NaiveDate,
    pub(super) people: Vec<Person>,
    pub(super) places: Vec<Place>,
    pub(super) horses: Vec<Horse>,
    pub(super) posed: Posed,
    /// For each work: its id, made of horse and step. Works of rides that were ridden without being planned come last.
    pub(super) works: Vec<String>,
    /// Rides that were ridden: with the ids that they have in the record.
    pub(super) ridden: Vec<(Ride, Uuid)>,
    pub(super) away: Vec<Away>,
}

impl Facts {
    pub(super) fn date(&self, day: u8) -> NaiveDate {
        self.start + Days::new(day.into())
    }

    /// The first day that can still be planned; 7 for a week that is over.
    pub(super) fn first_open(&self) -> u8 {
        (self.today - self.start).num_days().clamp(0, 7) as u8
    }

    pub(super) fn work(&self, id: &str) -> Option<Ix> {
        self.works.iter().position(|w| w == id)
    }
}

/// The Monday of a day's week.
pub(super) fn monday_of(day: NaiveDate) -> NaiveDate {
    day.week(chrono::Weekday::Mon).first_day()
}

/// Everything that the week is made of, in a fixed number of queries.
pub(super) async fn facts(app: &App, scope: &Scope, barn: &Barn, start: NaiveDate) -> Result<Facts, Problem> {
    let today = crate::api::barn::today_in(barn);
    let end = start + Days::new(6);
    let Page { items: people, .. } = person::list(&app.db, scope, false, 0, 200).await?;
    let people: Vec<Person> = people.into_iter().filter(|p| p.role != "owner").collect();
    let horses = horse::list(&app.db, scope, false, 0, 200).await?.items;
    let standings = standings(app, scope, &horses, &barn.posture, today).await?;
    let places = places(&hours::places(&app.db, scope).await?)?;
    let mut away = hours::away(&app.db, scope, start, end).await?;
    if scope.owned_by.is_some() {
        away.retain(|a| horses.iter().any(|h| Some(h.id) == a.horse_id));
    }
    let agreed = hours::agreed(&app.db, scope).await?;
    let person_hours = hours::of_people(&app.db, scope).await?;
    let cattle = hours::cattle(&app.db, scope).await?;
    let rides = kept::rides(&app.db, scope, start - Days::new(7), end).await?;
    let rode = kept::rode(&app.db, scope, start - Days::new(LATELY)).await?;
    let rode: HashMap<(Uuid, Uuid), u32> = rode.into_iter().map(|(h, r, n)| ((h, r), n as u32)).collect();
    let barn_week = BarnWeek {
        riders: people.iter().map(|p| rider(p, &person_hours, &away, start)).collect(),
        trainers: (0..people.len()).filter(|&n| people[n].role == "trainer").collect(),
        horses: horses
            .iter()
            .map(|h| {
                let mut mount = mount(h, standings.get(&h.id), today);
                mount.agreed = agreed.iter().find(|a| a.0 == h.id).map(|a| (a.1 as u8, a.2 as u8));
                mount.away = spans(away.iter().filter(|a| a.horse_id == Some(h.id)), start);
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
    let posed = week::pose(&barn_week, vec![]);
    let works = ids(&horses, &posed);
    let places = barn_week.places.iter().map(|p| p.0).collect();
    let mut facts = Facts { start, today, people, places, horses, posed, works, ridden: vec![], away };
    take_ridden(&mut facts, &rides);
    Ok(facts)
}

/// A work's id lasts as long as the work is wanted: the horse and the step.
fn ids(horses: &[Horse], posed: &Posed) -> Vec<String> {
    let id = |(work, (step, _)): (&week::Work, &(String, week::Worth))| format!("{}/{step}", horses[work.horse].id);
    posed.week.works.iter().zip(&posed.works).map(id).collect()
}

fn places(set: &[hours::PlaceHours]) -> Result<Vec<(Place, week::Place)>, Problem> {
    let mut out = vec![];
    for (place, at_once) in AT_ONCE {
        let own = set.iter().find(|p| p.place == place.word());
        let at_once = own.map_or(at_once, |p| p.at_once as u16);
        let (from, to) = own.map_or(OPEN, |p| (p.from as u16, p.to as u16));
        let hours = (0..7).map(|day| Span { day, from, to }).collect();
        out.push((place, week::Place { id: place_name(place).to_owned(), at_once, hours }));
    }
    Ok(out)
}

/// As it is said: `the round pen`.
pub(super) const fn place_name(place: Place) -> &'static str {
    match place {
        Place::RoundPen => "the round pen",
        Place::Arena => "the arena",
        Place::Outside => "outside",
        Place::Trail => "the trail",
    }
}

fn rider(person: &Person, hours: &[(Uuid, hours::Hours)], away: &[Away], start: NaiveDate) -> Rider {
    let mut own: Vec<Span> = hours
        .iter()
        .filter(|h| h.0 == person.id)
        .map(|(_, h)| Span { day: h.weekday as u8, from: h.from as u16, to: h.to as u16 })
        .collect();
    if own.is_empty() {
        own = (0..6).flat_map(|day| USUAL.map(|(from, to)| Span { day, from, to })).collect();
    }
    for gone in spans(away.iter().filter(|a| a.person_id == Some(person.id)), start) {
        own = own.into_iter().flat_map(|s| without(s, gone)).collect();
    }
    Rider { id: person.name.clone(), hours: own }
}

/// What is left of a stretch when another is cut out of it.
fn without(span: Span, gone: Span) -> Vec<Span> {
    if span.day != gone.day || gone.to <= span.from || span.to <= gone.from {
        return vec![span];
    }
    [Span { to: gone.from.max(span.from), ..span }, Span { from: gone.to.min(span.to), ..span }]
        .into_iter()
        .filter(|s| s.from < s.to)
        .collect()
}

fn spans<'a>(away: impl Iterator<Item = &'a Away>, start: NaiveDate) -> Vec<Span> {
    let span = |a: &Away| Span { day: (a.day - start).num_days() as u8, from: a.from as u16, to: a.to as u16 };
    away.map(span).collect()
}

/// A horse with what there is to work on it.
fn mount(horse: &Horse, standing: Option<&StandingOut>, today: NaiveDate) -> Mount {
    Mount {
        name: horse.name.clone(),
        age: horse.foaled.and_then(|y| u32::try_from(today.year() - y).ok()),
        agreed: None,
        away: vec![],
        usual_rider: None,
        rode: vec![],
        call: standing.and_then(|s| s.horse.as_ref()).map(|c| c.call),
        subjects: standing.map(subjects).unwrap_or_default(),
        before: vec![],
    }
}

/// What slips, what is next, what else is under way, what is due, and a day out: at most six, each step once.
fn subjects(standing: &StandingOut) -> Vec<Subject> {
    let main = standing.line.main.as_ref().map(|m| m.id.as_str());
    let steps = &standing.steps;
    let slipping = steps.iter().filter(|s| s.standing == Standing::Slipping).take(2).map(|s| (s, Pull::Slipping));
    let next = steps.iter().filter(|s| Some(s.id.as_str()) == main).map(|s| (s, Pull::Next));
    let open =
        steps.iter().filter(|s| s.standing == Standing::Learning && s.holes.is_empty() && s.call != Some(Call::Back));
    let due = steps.iter().filter(|s| s.standing == Standing::Owned && s.due).take(1).map(|s| (s, Pull::Keep));
    let all = slipping.chain(next).chain(open.take(2).map(|s| (s, Pull::UnderWay))).chain(due);
    let mut out: Vec<Subject> = vec![];
    for (step, pull) in all {
        if out.iter().all(|s| s.step != step.id) {
            out.push(Subject { step: step.id.clone(), name: step.name.clone(), gait: step.gait, pull });
        }
    }
    let keeps = steps.iter().rfind(|s| s.standing == Standing::Owned);
    if let Some(step) = keeps.filter(|s| out.len() < 3 && out.iter().all(|o| o.step != s.id)) {
        out.push(Subject { step: step.id.clone(), name: step.name.clone(), gait: step.gait, pull: Pull::Keep });
    }
    out.push(Subject { step: "out".to_owned(), name: "a day out".to_owned(), gait: Gait::Walk, pull: Pull::Out });
    out
}

fn load_of(ridden: &Ridden, age: Option<u32>) -> u32 {
    let told: Option<Minutes> = ridden.minutes.clone().and_then(|m| serde_json::from_value(m).ok());
    told.map_or_else(|| usual_load(age), Minutes::load)
}

/// Rides of the week before. One that worked several of the horse's subjects counts for the first of them.
fn before(horse: &Horse, mount: &Mount, rides: &[Ridden], start: NaiveDate) -> Vec<(i8, u32, Option<String>)> {
    rides
        .iter()
        .filter(|r| r.horse_id == horse.id && r.ridden_on < start && r.state != "planned")
        .map(|r| {
            let step = mount.subjects.iter().map(|s| &s.step).find(|s| r.steps.contains(s));
            ((r.ridden_on - start).num_days() as i8, load_of(r, mount.age), step.cloned())
        })
        .collect()
}

/// The air of each hour, today and later; what is over is over.
fn air(app: &App, start: NaiveDate, today: NaiveDate) -> Vec<[Option<cavesson_core::load::Air>; 24]> {
    let at = |date: NaiveDate, hour: usize| app.weather.as_ref().filter(|_| date >= today)?.at(date, hour as u32);
    (0..7).map(|d| std::array::from_fn(|hour| at(start + Days::new(d), hour))).collect()
}

/// Rides of this week that were begun or ridden stand as they were. One of no work that is wanted now gets a work of its own, worth
/// nothing, so that its load and its rider's time count.
fn take_ridden(facts: &mut Facts, rides: &[Ridden]) {
    for r in rides.iter().filter(|r| r.ridden_on >= facts.start && r.state != "planned") {
        let (Some(rider), Some(horse)) = (
            facts.people.iter().position(|p| p.id == r.rider_id),
            facts.horses.iter().position(|h| h.id == r.horse_id),
        ) else {
            continue;
        };
        let Ok(place) = from_word::<Place>(&r.place) else { continue };
        let place = facts.places.iter().position(|p| *p == place).unwrap_or(0);
        let age = facts.horses[horse].foaled.and_then(|y| u32::try_from(facts.today.year() - y).ok());
        let known = r.work.as_deref().and_then(|w| facts.work(w));
        let work = known.unwrap_or_else(|| {
            facts.posed.week.works.push(week::Work {
                id: format!("{}: ridden", facts.horses[horse].name),
                horse,
                minutes: charge(Gait::Jog, age).total,
                load: load_of(r, age),
                places: vec![place],
                riders: vec![(rider, 0)],
                worth: vec![0],
                gap_days: 1,
                cows: 0,
            });
            facts.works.push(format!("ridden/{}", r.id));
            facts.works.len() - 1
        });
        let start = r.starts_at.map_or(USUAL[0].0, |t| (t.hour() * 60 + t.minute()) as u16);
        let day = (r.ridden_on - facts.start).num_days() as u8;
        facts.ridden.push((Ride { work, day, start, place, rider }, r.id));
    }
}
