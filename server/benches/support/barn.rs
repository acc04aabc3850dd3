//! Barns to measure with: simulated horses, ridden as the coach plans.

use cavesson_core::curriculum::{Course, Curriculum};
use cavesson_sim::{Nature, SimRide, SimSet, Story, Subject, ride_out};
use cavesson_store::{
    Scope,
    barn::{self, BarnSettings},
    horse::{self, HorseFields},
    log::bulk::{self, WholeRide, WholeSet},
    person::{self, PersonFields},
};
use chrono::{Days, NaiveDate};
use sqlx::PgPool;
use uuid::Uuid;

/// How large a barn is.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Size {
    pub(crate) horses: u64,
    pub(crate) riders: usize,
    /// How far its rides go back.
    pub(crate) days: u64,
}

/// Forty horses with three years of rides.
pub(crate) const BIG: Size = Size { horses: 40, riders: 4, days: 3 * 365 };

/// As many horses with a person for each, and some.
#[allow(dead_code, reason = "each bench uses what it measures with")]
pub(crate) const CROWDED: Size = Size { horses: 40, riders: 54, days: 60 };

/// A barn that was filled.
#[derive(Debug, Clone)]
#[allow(dead_code, reason = "each bench uses what it measures with")]
pub(crate) struct Filled {
    pub(crate) id: Uuid,
    pub(crate) riders: Vec<Uuid>,
    pub(crate) horses: Vec<Uuid>,
    /// The ride of today of each horse.
    pub(crate) rides: Vec<Uuid>,
}

/// Fills a barn: the first one signs in with the demo's button.
pub(crate) async fn fill(db: &PgPool, size: &Size, n: u64, today: NaiveDate) -> anyhow::Result<Filled> {
    let course = Course::of(Curriculum::standard())?;
    let barn_id = Uuid::new_v4();
    let riders: Vec<Uuid> = (0..size.riders).map(|_| Uuid::new_v4()).collect();
    let settings = BarnSettings {
        name: format!("Bench {n}"),
        posture: "steady".parse().unwrap(),
        units: "imperial".parse().unwrap(),
        time_zone: "UTC".into(),
    };
    barn::create(db, barn_id, &settings, (n == 0).then_some(today)).await?;
    for (at, rider) in riders.iter().enumerate() {
        let role = if at == 0 { "trainer" } else { "assistant" };
        let email = format!("rider{at}@bench{n}.example");
        let fields = PersonFields { name: format!("Rider {at}"), email, role: role.parse().unwrap() };
        person::insert(&mut *db.acquire().await?, barn_id, *rider, &fields, None).await?;
    }
    let scope = Scope::staff_of(barn_id, riders[0]);
    let (mut horses, mut rides) = (vec![], vec![]);
    for at in 0..size.horses {
        let (id, rider) = (Uuid::new_v4(), riders[at as usize % riders.len()]);
        horse::put(db, &scope, id, &horse_fields(at, rider)).await?;
        let mut ridden: Vec<WholeRide> = story(&course, size, n * 1000 + at, today)
            .into_iter()
            .map(|r| WholeRide {
                ridden_on: r.date,
                state: "closed".parse().unwrap(),
                note: r.note.unwrap_or_default(),
                sets: r.sets.into_iter().map(|s| whole_set(&course, s)).collect(),
                ..planned(id, rider, today)
            })
            .collect();
        ridden.push(planned(id, rider, today));
        rides.extend(ridden.last().map(|r| r.id));
        // No statement takes longer than the database gives it.
        for some in ridden.chunks(1000) {
            let mut tx = db.begin().await?;
            bulk::insert(&mut tx, barn_id, some).await?;
            tx.commit().await?;
        }
        horses.push(id);
    }
    Ok(Filled { id: barn_id, riders, horses, rides })
}

/// A barn, its riders, its horses and their rides.
type Ids = (Uuid, Vec<Uuid>, Vec<Uuid>, Vec<Uuid>);

/// The barns that were filled before on the same day.
#[allow(dead_code, reason = "each bench uses what it measures with")]
pub(crate) async fn filled(db: &PgPool, today: NaiveDate) -> anyhow::Result<Vec<Filled>> {
    let all: Vec<Ids> = sqlx::query_as(
        "select b.id, array(select p.id from person p where p.barn_id = b.id order by p.email),
                array(select h.id from horse h where h.barn_id = b.id order by h.name, h.id),
                array(select r.id from ride r join horse h on h.barn_id = r.barn_id and h.id = r.horse_id
                      where r.barn_id = b.id and r.ridden_on = $1 order by h.name, h.id)
         from barn b order by b.name, b.id",
    )
    .bind(today)
    .fetch_all(db)
    .await?;
    Ok(all.into_iter().map(|(id, riders, horses, rides)| Filled { id, riders, horses, rides }).collect())
}

fn horse_fields(n: u64, rider: Uuid) -> HorseFields {
    HorseFields {
        name: format!("Horse {n}"),
        foaled: None,
        sex: None,
        owner_id: None,
        usual_rider_id: Some(rider),
        posture: None,
        traits: vec![],
        note: String::new(),
    }
}

fn story(course: &Course, size: &Size, seed: u64, today: NaiveDate) -> Vec<SimRide> {
    let known: [&[&str]; 3] = [&[], &["G7", "G8", "S1", "S4"], &["G7", "G8", "S1", "S2", "S4", "S5", "S6", "T1", "T2"]];
    let nature = Nature { knows: known[seed as usize % 3], ..Nature::default() };
    ride_out(
        course,
        &Story {
            nature,
            from: today - Days::new(size.days),
            to: today - Days::new(1),
            rides_a_week: 5,
            free_day: chrono::Weekday::Sun,
            layoff: None,
            troubles: vec![],
            subject: Subject::Planned,
            seed,
        },
    )
}

fn whole_set(course: &Course, set: SimSet) -> WholeSet {
    WholeSet {
        rung: course.step(set.step).rung.clone(),
        gait: course.step(set.step).gait,
        side: set.side,
        count: None,
        reps: set.reps.into_iter().map(|r| (r.rep, r.fault)).collect(),
    }
}

fn planned(horse_id: Uuid, rider_id: Uuid, ridden_on: NaiveDate) -> WholeRide {
    WholeRide {
        id: Uuid::new_v4(),
        horse_id,
        rider_id,
        ridden_on,
        starts_at: None,
        place: "arena".parse().unwrap(),
        state: "planned".parse().unwrap(),
        note: String::new(),
        signs: vec![],
        bit: None,
        hot: None,
        ground_id: None,
        sets: vec![],
    }
}
