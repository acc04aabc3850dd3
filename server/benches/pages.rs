//! How long the pages' requests take with forty horses and three years of rides:
//!
//!     DATABASE_URL=postgres://…/scratch cargo bench -p cavesson
//!
//! Fills the database it is given, so give it an empty one. Prints the median and the slowest of forty requests each. A server
//! on that database (`cavesson serve --demo`) then has a barn of that size to open in a browser.

use std::time::{Duration, Instant};

use axum::{
    Router,
    body::Body,
    http::{Request, header},
};
use cavesson::{App, Options, http};
use cavesson_core::curriculum::{Course, Curriculum};
use cavesson_sim::{Nature, Story, Subject, ride_out};
use cavesson_store::{
    Scope,
    barn::{self, BarnSettings},
    horse::{self, HorseFields},
    log::bulk::{self, WholeRide, WholeSet},
    person::{self, PersonFields},
};
use chrono::{Days, NaiveDate, Utc};
use http_body_util::BodyExt;
use sqlx::PgPool;
use tower::ServiceExt;
use uuid::Uuid;

const HORSES: u64 = 40;
const RIDERS: usize = 4;
const DAYS: u64 = 3 * 365;

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let Ok(url) = std::env::var("DATABASE_URL") else {
        println!("set DATABASE_URL to an empty database to measure the pages");
        return Ok(());
    };
    let db = cavesson_store::open(&url).await?;
    let today = Utc::now().date_naive();
    let horses = fill(&db, today).await?;
    let counts: (i64, i64) =
        sqlx::query_as("select (select count(*) from ride), (select count(*) from rep)").fetch_one(&db).await?;
    println!("{HORSES} horses, {} rides, {} reps", counts.0, counts.1);
    let router = http::app(App::new(db.clone(), Options { site: "no-site".into(), ..Options::default() }));
    let cookie = sign_in(&router).await?;
    let from = Instant::now();
    get(&router, &cookie, "/api/today").await?;
    println!("{:<28} {:>9.1?} (every standing computed again)", "Today, first of the day", from.elapsed());
    let horse = horses[7];
    let last: Uuid = sqlx::query_scalar("select id from ride where horse_id = $1 order by ridden_on desc, id limit 1")
        .bind(horse)
        .fetch_one(&db)
        .await?;
    for (name, path) in [
        ("Today", "/api/today".to_owned()),
        ("Horse, standing", format!("/api/horses/{horse}/standing")),
        ("Horse, trace of a step", format!("/api/horses/{horse}/trace?step=S6@stand")),
        ("Horse, a page of rides", format!("/api/horses/{horse}/rides?limit=8")),
        ("A ride's plan", format!("/api/rides/{last}/plan")),
        ("Horses", "/api/horses?limit=100".to_owned()),
        ("Curriculum", "/api/curriculum".to_owned()),
        ("WeekProblem, the next", format!("/api/weeks/{}", today + Days::new(7))),
        ("Balance of a year", "/api/balance?weeks=52".to_owned()),
        ("Appointments", "/api/appointments".to_owned()),
    ] {
        let mut times = vec![];
        for _ in 0..40 {
            let from = Instant::now();
            get(&router, &cookie, &path).await?;
            times.push(from.elapsed());
        }
        times.sort_unstable();
        let (median, slowest): (Duration, Duration) = (times[20], times[39]);
        println!("{name:<28} {median:>9.1?} median, {slowest:.1?} slowest");
    }
    Ok(())
}

async fn fill(db: &PgPool, today: NaiveDate) -> anyhow::Result<Vec<Uuid>> {
    let course = Course::of(Curriculum::standard())?;
    let barn_id = Uuid::new_v4();
    let riders: [Uuid; RIDERS] = std::array::from_fn(|_| Uuid::new_v4());
    let settings = BarnSettings {
        name: "Bench".into(),
        posture: "steady".parse().unwrap(),
        units: "imperial".parse().unwrap(),
        time_zone: "UTC".into(),
    };
    barn::create(db, barn_id, &settings, Some(today)).await?;
    for (n, rider) in riders.into_iter().enumerate() {
        let role = if n == 0 { "trainer" } else { "assistant" };
        let email = format!("rider{n}@bench.example");
        let fields = PersonFields { name: format!("Rider {n}"), email, role: role.parse().unwrap() };
        person::insert(db, barn_id, rider, &fields, None).await?;
    }
    let scope = Scope::staff_of(barn_id, riders[0]);
    let mut horses = vec![];
    for n in 0..HORSES {
        let id = Uuid::new_v4();
        let name = format!("Horse {n}");
        let rider = riders[n as usize % RIDERS];
        let fields = HorseFields {
            name,
            foaled: None,
            sex: None,
            owner_id: None,
            usual_rider_id: Some(rider),
            posture: None,
            traits: vec![],
            note: String::new(),
        };
        horse::put(db, &scope, id, &fields).await?;
        let known: [&[&str]; 3] =
            [&[], &["G7", "G8", "S1", "S4"], &["G7", "G8", "S1", "S2", "S4", "S5", "S6", "T1", "T2"]];
        let nature = Nature { knows: known[n as usize % 3], ..Nature::default() };
        let (from, to) = (today - Days::new(DAYS), today - Days::new(1));
        let story = Story {
            nature,
            from,
            to,
            rides_a_week: 5,
            free_day: chrono::Weekday::Sun,
            layoff: None,
            troubles: vec![],
            subject: Subject::Planned,
            seed: n,
        };
        let rides: Vec<WholeRide> = ride_out(&course, &story)
            .into_iter()
            .map(|r| WholeRide {
                id: Uuid::new_v4(),
                horse_id: id,
                rider_id: rider,
                ridden_on: r.date,
                starts_at: None,
                place: "arena".parse().unwrap(),
                state: "closed".parse().unwrap(),
                note: r.note.unwrap_or_default(),
                signs: vec![],
                bit: None,
                hot: None,
                ground_id: None,
                sets: r
                    .sets
                    .into_iter()
                    .map(|s| WholeSet {
                        rung: course.step(s.step).rung.clone(),
                        gait: course.step(s.step).gait,
                        side: s.side,
                        count: None,
                        reps: s.reps.into_iter().map(|r| (r.rep, r.fault)).collect(),
                    })
                    .collect(),
            })
            .chain([planned(id, rider, today)])
            .collect();
        let mut tx = db.begin().await?;
        bulk::insert(&mut tx, barn_id, &rides).await?;
        tx.commit().await?;
        horses.push(id);
    }
    sqlx::query("analyze").execute(db).await?;
    Ok(horses)
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

async fn sign_in(router: &Router) -> anyhow::Result<String> {
    let request = Request::post("/api/demo-sign-in").body(Body::from(r#"{"role":"trainer"}"#))?;
    let response = router.clone().oneshot(request).await?;
    let cookie = response.headers().get(header::SET_COOKIE).and_then(|c| c.to_str().ok()).unwrap_or_default();
    Ok(cookie.split(';').next().unwrap_or_default().to_owned())
}

async fn get(router: &Router, cookie: &str, path: &str) -> anyhow::Result<()> {
    let request = Request::get(path).header(header::COOKIE, cookie).body(Body::empty())?;
    let response = router.clone().oneshot(request).await?;
    anyhow::ensure!(response.status().is_success(), "{path} answered {}", response.status());
    response.into_body().collect().await?;
    Ok(())
}
