//! The demo barn: an invented stable whose history is ridden out by the stand-in horse, up to today.

mod cast;
mod cattle;
mod diary;
mod exercises;
mod known;
mod patterns;
mod people;
mod roads;
mod tack;
mod week;
mod written;

use anyhow::Context;
use cast::{HORSES, Member};
use cavesson_core::{
    advice::Posture,
    barn::{GearKind, Ground, RideState, Role, Surface, Units},
    curriculum::{Change, Course, Curriculum, DatedChange, Place},
    load::{LayOff, OffReason},
    ride::Mouthpiece,
};
use cavesson_sim::{Layoff, SimRide, Story, Subject, Trouble, ride_out};
use cavesson_store::{
    Scope,
    barn::{self, BarnSettings},
    curriculum,
    gear::{self, GearFields},
    ground::{self, GroundFields},
    horse::{self, HorseFields},
    hours::{self, Hours, PlaceHours},
    layoff::{self, LayOffFields},
    log::bulk::{self, WholeRide, WholeSet},
    person::{self, PersonFields},
};
use chrono::{Datelike, Days, NaiveDate, NaiveTime};
use people::PEOPLE;
use sqlx::PgPool;
use uuid::Uuid;

pub use week::publish as publish_week;

/// Where the demo barn is.
const ZONE: chrono_tz::Tz = chrono_tz::America::Denver;

/// The demo barn's day.
pub fn today() -> NaiveDate {
    chrono::Utc::now().with_timezone(&ZONE).date_naive()
}

/// The record goes back so many days at most.
const DAYS: u64 = 160;

/// So many days ago nobody rode, and every week before that. A Sunday would make another story of each day that the demo is
/// loaded on.
const FREE_DAY: u64 = 5;

/// Ids of the demo are made from names, so that every demo has the same ones.
fn id(name: &str) -> Uuid {
    Uuid::new_v5(&Uuid::NAMESPACE_URL, format!("cavesson-demo/{name}").as_bytes())
}

/// Loads the demo barn with its dates hung on `today`.
///
/// # Errors
/// A query that fails.
pub async fn load(db: &PgPool, today: NaiveDate) -> anyhow::Result<()> {
    let barn_id = id("barn");
    let settings = BarnSettings {
        name: "Three Cedars".into(),
        posture: Posture::Steady,
        units: Units::Imperial,
        time_zone: ZONE.name().into(),
    };
    let mut tx = db.begin().await?;
    barn::create(&mut *tx, barn_id, &settings, Some(today)).await?;
    for person in PEOPLE {
        let email = format!("{}@threecedars.example", person.name.to_lowercase().replace(' ', "."));
        let fields = PersonFields { name: person.name.into(), email, role: person.role };
        person::insert(&mut tx, barn_id, id(person.name), &fields, None).await?;
    }
    tx.commit().await?;
    let scope = Scope::staff_of(barn_id, id(PEOPLE[0].name));
    for (name, fields) in grounds() {
        ground::put(db, &scope, id(name), &fields).await?;
    }
    let (mut rides, mut schools) = (vec![], vec![]);
    for (n, member) in HORSES.iter().enumerate() {
        let fields = HorseFields {
            name: member.name.into(),
            foaled: Some(today.year() - member.age),
            sex: Some(member.sex),
            owner_id: member.owner.map(id),
            usual_rider_id: Some(id(member.rider)),
            posture: None,
            traits: member.traits.to_vec(),
            note: member.note.into(),
        };
        horse::put(db, &scope, id(member.name), &fields).await?;
        let school =
            member.school.map(|(school, choice)| Change::School { school: school.into(), choice: choice.into() });
        let school = school.map(|change| DatedChange { on: today - Days::new(member.here_for), change });
        let taught = Curriculum::standard().changed(&school).unwrap_or_else(|_| Curriculum::standard().clone());
        rides.extend(history(&taught.course(), member, n, today));
        rides.extend(planned(member, today));
        if let Some(dated) = school {
            schools.push((id(member.name), dated));
        }
    }
    let mut tx = db.begin().await?;
    bulk::insert(&mut tx, barn_id, &rides).await.context("the demo's rides")?;
    tx.commit().await?;
    bulk::count_anew(db).await.context("the demo's rides")?;
    for member in &HORSES {
        gear_of(db, &scope, member, today).await?;
    }
    for (horse, dated) in schools {
        curriculum::put(db, &scope, Some(horse), &[(id(&format!("{horse}/school")), dated)]).await?;
    }
    week_of(db, &scope).await?;
    layoffs(db, &scope, today).await?;
    diary::load(db, &scope, today).await?;
    patterns::load(db, &scope, today).await?;
    tack::measure(db, &scope, today).await?;
    tack::shares(db, &scope, today).await?;
    roads::load(db, &scope, &rides).await?;
    cattle::load(db, &scope, &rides, today).await?;
    exercises::load(db, &scope, &rides, today).await?;
    written::load(db, &scope, today).await
}

/// What weeks are made of: who rides when, the cattle's days, and rides agreed on.
async fn week_of(db: &PgPool, scope: &Scope) -> anyhow::Result<()> {
    let stretch = |weekday: i16, from: i16, to: i16| Hours { weekday, from: from * 60, to: to * 60 };
    for person in PEOPLE.iter().filter(|p| p.role != Role::Owner) {
        let mut own: Vec<Hours> = (0..6).map(|day| stretch(day, 7, 12)).collect();
        let afternoons: &[i16] = if person.role == Role::Trainer { &[1, 3] } else { &[0, 1, 2, 3, 4] };
        own.extend(afternoons.iter().map(|&day| stretch(day, 14, 17)));
        hours::set_for_person(db, scope, id(person.name), &own).await?;
    }
    for (place, at_once) in [(Place::RoundPen, 4), (Place::Arena, 6)] {
        hours::set_place(db, scope, &PlaceHours { place, at_once, from: 6 * 60, to: 20 * 60 }).await?;
    }
    hours::set_cattle(db, scope, &[0, 6, 0, 6, 0, 6, 0]).await?;
    for member in &HORSES {
        let rides = member.rides_a_week as i16;
        hours::set_agreed(db, scope, id(member.name), Some((rides - 1, rides))).await?;
    }
    Ok(())
}

/// Its own places to ride: a round pen, a small one, an arena, a pasture and a trail.
fn grounds() -> [(&'static str, GroundFields); 5] {
    let ground = |name: &'static str, place, surface, size| {
        (name, GroundFields { name: name.into(), ground: Ground { place, surface, size } })
    };
    [
        ground("Round pen", Place::RoundPen, Surface::Sand, Some((1830, 1830))),
        ground("Small pen", Place::RoundPen, Surface::Dirt, Some((1220, 1220))),
        ground("Big arena", Place::Arena, Surface::Sand, Some((7620, 3960))),
        ground("Back pasture", Place::Outside, Surface::Grass, None),
        ground("Creek trail", Place::Trail, Surface::Dirt, None),
    ]
}

/// Where the demo's horses are ridden at a place of a kind.
fn ground_of(place: Place) -> &'static str {
    match place {
        Place::RoundPen => "Round pen",
        Place::Arena => "Big arena",
        Place::Outside => "Back pasture",
        Place::Trail => "Creek trail",
    }
}

/// Two that were off: a splint, and weeks that nobody had time.
async fn layoffs(db: &PgPool, scope: &Scope, today: NaiveDate) -> anyhow::Result<()> {
    for (horse, off, back, why, vet_said) in [
        ("Bramble", 50, 6, OffReason::Injury, "Splint cold and set. Walk a week, then short jogs"),
        ("Marlow", 44, 22, OffReason::Rest, ""),
    ] {
        let (off_since, back_on) = (today - Days::new(off), today - Days::new(back));
        let layoff = LayOff { off_since, back_on, why, vet_agrees: why == OffReason::Injury };
        let fields = LayOffFields { layoff, vet_said: vet_said.into(), ended: false };
        layoff::put(db, scope, id(horse), id(&format!("{horse}/off")), &fields).await?;
    }
    Ok(())
}

/// The bits and the saddle of a horse, and what each of its rides was ridden in.
async fn gear_of(db: &PgPool, scope: &Scope, member: &Member, today: NaiveDate) -> anyhow::Result<()> {
    let own = |what: &str| id(&format!("{}/{what}", member.name));
    let piece = |kind: GearKind, name: &str, mouthpiece: Option<Mouthpiece>, ago: u64| GearFields {
        kind,
        name: name.into(),
        mouthpiece,
        since: today - Days::new(ago),
        mouth_seen: mouthpiece.map(|_| today - Days::new(30)),
        teeth_seen: mouthpiece.map(|_| today - Days::new(140)),
        note: String::new(),
    };
    let first = ("first bit", piece(GearKind::Bit, "smooth snaffle", Some(Mouthpiece::Snaffle), 400));
    let mut all = vec![first, ("saddle", piece(GearKind::Saddle, "tooled work saddle", None, 600))];
    if member.in_it_for < 400 {
        all.push(("bit", piece(GearKind::Bit, member.bit, Some(member.mouthpiece), member.in_it_for)));
    }
    for (what, fields) in &all {
        gear::put(db, scope, id(member.name), own(what), fields).await?;
    }
    tack::add(db, scope, member.name, today).await?;
    let worn = if member.in_it_for < 400 { "bit" } else { "first bit" };
    gear::wear_all(db, scope, id(member.name), &[own("first bit"), own("saddle")], None).await?;
    if member.today {
        let mut today = vec![own(worn), own("saddle")];
        today.extend((member.name == tack::IN_TWO_REIN.0).then(|| own("bosal")));
        gear::set_for_ride(&mut *db.acquire().await?, scope, own("today"), &today).await?;
    }
    Ok(())
}

fn history(course: &Course, member: &Member, n: usize, today: NaiveDate) -> Vec<WholeRide> {
    let trouble = |&(days, side, rungs, lack): &_| Trouble { from: today - Days::new(days), side, rungs, lack };
    if member.here_for == 0 {
        return vec![];
    }
    let story = Story {
        nature: member.nature,
        from: today - Days::new(member.here_for.min(DAYS)),
        to: today - Days::new(1),
        rides_a_week: member.rides_a_week,
        free_day: (today - Days::new(FREE_DAY)).weekday(),
        layoff: member.layoff.map(|(from, to)| Layoff { from: today - Days::new(from), to: today - Days::new(to) }),
        troubles: member.trouble.iter().map(trouble).collect(),
        subject: if member.works_on.is_empty() { Subject::Planned } else { Subject::On(member.works_on) },
        seed: 4200 + n as u64,
    };
    ride_out(course, &story).into_iter().map(|ride| whole(course, member, ride, today)).collect()
}

fn whole(course: &Course, member: &Member, ride: SimRide, today: NaiveDate) -> WholeRide {
    let in_it = ride.date + Days::new(member.in_it_for) >= today;
    let bit = if in_it { member.bit } else { "smooth snaffle" };
    // What is asked in leverage was not asked before the horse wore it.
    let not_yet = |rung: &str| !in_it && rung == roads::IN_LEVERAGE;
    let sets = ride.sets.into_iter().filter(|set| !not_yet(&course.step(set.step).rung)).flat_map(|set| {
        let step = course.step(set.step);
        let of = move |reps, count| WholeSet { rung: step.rung.clone(), gait: step.gait, side: set.side, reps, count };
        let asked = (!set.reps.is_empty()).then(|| of(set.reps.into_iter().map(|r| (r.rep, r.fault)).collect(), None));
        asked.into_iter().chain(set.counts.into_iter().map(move |c| of(vec![], Some((c.count, c.fault)))))
    });
    WholeRide {
        id: id(&format!("{}/{}", member.name, ride.date)),
        horse_id: id(member.name),
        rider_id: id(member.rider),
        ridden_on: ride.date,
        starts_at: NaiveTime::from_hms_opt(member.hour.0, member.hour.1, 0),
        place: member.place,
        ground_id: Some(id(ground_of(member.place))),
        state: RideState::Closed,
        note: ride.note.unwrap_or_default(),
        bit: Some(bit.into()),
        hot: None,
        signs: if ride.sets_went_well { vec!["licks".into(), "soft-eye".into()] } else { vec![] },
        sets: sets.collect(),
    }
}

fn planned(member: &Member, today: NaiveDate) -> Option<WholeRide> {
    member.today.then(|| WholeRide {
        id: id(&format!("{}/today", member.name)),
        horse_id: id(member.name),
        rider_id: id(member.rider),
        ridden_on: today,
        starts_at: NaiveTime::from_hms_opt(member.hour.0, member.hour.1, 0),
        place: member.place,
        ground_id: Some(id(ground_of(member.place))),
        state: RideState::Planned,
        note: String::new(),
        signs: vec![],
        bit: Some(member.bit.into()),
        hot: None,
        sets: vec![],
    })
}
