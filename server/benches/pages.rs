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
use chrono::{Days, Utc};
use http_body_util::BodyExt;
use tower::ServiceExt;
use uuid::Uuid;

#[path = "support/barn.rs"]
mod barn;

use barn::{BIG, fill};

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let Ok(url) = std::env::var("DATABASE_URL") else {
        println!("set DATABASE_URL to an empty database to measure the pages");
        return Ok(());
    };
    let db = cavesson_store::open(&url).await?;
    let today = Utc::now().date_naive();
    let barn = fill(&db, &BIG, 0, today).await?;
    let horses = barn.horses;
    let counts: (i64, i64) =
        sqlx::query_as("select (select count(*) from ride), (select count(*) from rep)").fetch_one(&db).await?;
    println!("{} horses, {} rides, {} reps", horses.len(), counts.0, counts.1);
    let router = http::app(App::new(db.clone(), Options { site: "no-site".into(), demo: true, ..Options::default() }));
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
