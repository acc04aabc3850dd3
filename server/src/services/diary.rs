//! What stands on the days: each appointment on each of its days, and what shows ahead ask of their horses.

use std::collections::BTreeSet;

use cavesson_core::{
    advice::Status,
    curriculum::{Course, StepIx},
    schedule::{Aim, AppointmentKind, DAYS_AHEAD, Outlook, Span, StepFacts, Want, chance_by, could_wait, warning},
};
use cavesson_store::{
    Scope,
    appointment::{self, Appointment},
    barn::Barn,
};
use chrono::{Days, NaiveDate};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{
    App, Problem,
    services::{
        barn_clock::{today_in, zone},
        book::Book,
        occurrences::times,
        standing::response::{StandingOut, StepStanding},
    },
};

/// An appointment on one of its days.
#[derive(Debug, Clone)]
pub(crate) struct Occurrence {
    pub(crate) of: usize,
    pub(crate) day: NaiveDate,
}

/// The appointments of a stretch of days, and the shows after it.
pub(crate) struct Diary {
    start: NaiveDate,
    today: NaiveDate,
    pub(crate) all: Vec<Appointment>,
    pub(crate) on_days: Vec<Occurrence>,
    /// The first days of shows from today on, soonest first.
    shows: Vec<Occurrence>,
}

/// A show that asks something of a horse.
pub(crate) struct ShowAhead {
    title: String,
    days: u32,
    /// The steps that it wants, and all that they rest on.
    steps: BTreeSet<StepIx>,
}

/// How a step that a show asks for will stand on its day.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct WantOut {
    step: String,
    name: String,
    outlook: Outlook,
    /// Probability that it is owned by then, in per cent; none where what it needs comes first.
    chance: Option<u8>,
}

/// The days, from a start to an end, both included.
pub(crate) async fn diary(
    app: &App,
    scope: &Scope,
    barn: &Barn,
    start: NaiveDate,
    end: NaiveDate,
) -> Result<Diary, Problem> {
    let today = today_in(barn);
    let zone = zone(&barn.time_zone);
    let last = end.max(today + Days::new(DAYS_AHEAD));
    let all = appointment::between(&app.db, scope, start.min(today), last).await?;
    let mut diary = Diary { start, today, all, on_days: vec![], shows: vec![] };
    for (of, a) in diary.all.iter().enumerate() {
        for first in times(a, zone, start.min(today), last) {
            let days = (0..a.days.max(1) as u64).map(|n| first + Days::new(n));
            diary.on_days.extend(days.filter(|d| (start..=end).contains(d)).map(|day| Occurrence { of, day }));
            if a.kind == AppointmentKind::Show && first >= today {
                diary.shows.push(Occurrence { of, day: first });
            }
        }
    }
    diary.on_days.sort_by_key(|o| (o.day, diary.all[o.of].from, diary.all[o.of].id));
    diary.shows.sort_by_key(|o| (o.day, diary.all[o.of].id));
    Ok(diary)
}

impl Diary {
    fn spans<'d>(&'d self, takes: impl Fn(&Appointment) -> bool + 'd) -> impl Iterator<Item = Span> + 'd {
        self.on_days.iter().filter(move |o| takes(&self.all[o.of])).map(|o| {
            let a = &self.all[o.of];
            Span { day: (o.day - self.start).num_days() as u8, from: a.from as u16, to: a.to as u16 }
        })
    }

    pub(crate) fn of_person(&self, id: Uuid) -> impl Iterator<Item = Span> + '_ {
        self.spans(move |a| a.people.contains(&id))
    }

    pub(crate) fn of_horse(&self, id: Uuid) -> impl Iterator<Item = Span> + '_ {
        self.spans(move |a| a.horses.contains(&id))
    }

    /// Whole days on which horses are away.
    pub(crate) fn days_away(&self) -> impl Iterator<Item = (Uuid, NaiveDate)> + '_ {
        let whole = |a: &Appointment| a.from == 0 && a.to == 24 * 60;
        let on_days = self.on_days.iter().map(|o| (&self.all[o.of], o.day)).filter(move |(a, _)| whole(a));
        on_days.flat_map(|(a, day)| a.horses.iter().map(move |&horse| (horse, day)))
    }

    /// The soonest show that asks something of a horse.
    pub(crate) fn show_of(&self, horse: Uuid, course: &Course) -> Option<ShowAhead> {
        let asks = |o: &&Occurrence| !self.all[o.of].wants.is_empty() && self.all[o.of].horses.contains(&horse);
        let show = self.shows.iter().find(asks)?;
        let a = &self.all[show.of];
        let wants = a.wants.iter().filter_map(|w| course.find(w));
        let steps = wants.flat_map(|w| course.down_from(w)).collect();
        Some(ShowAhead { title: a.title.clone(), days: (show.day - self.today).num_days() as u32, steps })
    }

    /// The shows ahead that ask something, with their days, soonest first.
    pub(crate) fn asking(&self) -> impl Iterator<Item = (&Appointment, NaiveDate)> {
        let mut told = BTreeSet::new();
        self.shows
            .iter()
            .map(|o| (&self.all[o.of], o.day))
            .filter(move |(a, _)| !a.wants.is_empty() && told.insert(a.id))
    }
}

impl ShowAhead {
    /// What this show makes of a step; `None` for one that it does not rest on.
    pub(crate) fn aim(&self, step: &StepStanding, course: &Course) -> Option<Aim> {
        let ix = course.find(&step.id).filter(|ix| self.steps.contains(ix))?;
        let chance = chance(Some(step), self.days);
        (course.step(ix).taught).then(|| Aim { show: self.title.clone(), days: self.days, chance })
    }
}

/// How likely a step is owned after so many days, in per cent.
fn chance(step: Option<&StepStanding>, days: u32) -> Option<u8> {
    chance_by(&step?.forecast.as_ref()?.by_week, days)
}

/// The same for one that waits for others.
fn chance_waiting(standing: &StandingOut, id: &str, days: u32) -> Option<u8> {
    chance_by(&standing.waiting.iter().find(|w| w.id == id)?.forecast.by_week, days)
}

/// How a horse will stand at a show, and what follows from it.
pub(crate) fn outlook(
    standing: &StandingOut,
    course: &Course,
    wants: &[String],
    days: u32,
) -> (Vec<WantOut>, Option<String>) {
    let of = |id: &String| {
        let step = standing.steps.iter().find(|s| &s.id == id);
        let name = course.find(id).map_or_else(|| id.clone(), |ix| course.step(ix).name.clone());
        let chance = chance(step, days).or_else(|| chance_waiting(standing, id, days));
        let outlook = Outlook::of(step.map_or(Status::Untried, |s| s.status), chance);
        (id.clone(), Want { name, outlook, chance })
    };
    let all: Vec<(String, Want)> = wants.iter().map(of).collect();
    let serves: BTreeSet<StepIx> =
        wants.iter().filter_map(|w| course.find(w)).flat_map(|w| course.down_from(w)).collect();
    let steps: Vec<StepFacts> = standing.steps.iter().map(|s| s.facts(None, course)).collect();
    let other = could_wait(&steps, |s| course.find(&s.step).is_some_and(|ix| serves.contains(&ix)));
    let told: Vec<Want> = all.iter().map(|(_, w)| w.clone()).collect();
    let warns = warning(&told, &other);
    let out = all.into_iter().map(|(step, w)| WantOut { step, name: w.name, outlook: w.outlook, chance: w.chance });
    (out.collect(), warns)
}

/// A show that will not see all that it asks of a horse.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct ShowWarning {
    show: String,
    day: NaiveDate,
    horse_id: Uuid,
    says: String,
}

/// What the shows ahead will not see of their horses.
pub(crate) fn warnings<'a>(
    diary: &Diary,
    today: NaiveDate,
    horses: &[(Uuid, &'a StandingOut, &'a Book)],
) -> Vec<ShowWarning> {
    let mut out = vec![];
    for (show, day) in diary.asking() {
        let days = (day - today).num_days() as u32;
        for &(id, standing, book) in horses.iter().filter(|h| show.horses.contains(&h.0)) {
            if let (_, Some(says)) = outlook(standing, &book.course, &show.wants, days) {
                out.push(ShowWarning { show: show.title.clone(), day, horse_id: id, says });
            }
        }
    }
    out
}
