//! What a server of its own does under load, with what it takes: `scripts/load` prints the tables.
//!
//! Times are what a client on the same machine sees; computing is the server's own, without the database's. Machines are shared, so
//! both are told.

use std::{
    path::PathBuf,
    time::{Duration, Instant},
};

use chrono::{NaiveDate, Utc};
use sqlx::PgPool;
use uuid::Uuid;

#[path = "support/barn.rs"]
mod barn;
#[path = "support/client.rs"]
mod client;
#[path = "support/figures.rs"]
mod figures;

use barn::{BIG, CROWDED, Filled, Size, fill, filled};
use client::{Client, Server};
use figures::{Times, growth};

const SCENARIOS: [&str; 6] = ["history", "big", "writes", "planners", "stale", "many"];

/// What every scenario has: an empty database, and the program to start on it.
struct Bench {
    db: PgPool,
    url: String,
    program: PathBuf,
    today: NaiveDate,
}

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let (Ok(url), Ok(program)) = (std::env::var("DATABASE_URL"), std::env::var("CAVESSON")) else {
        println!("scripts/load starts this on a database of its own");
        return Ok(());
    };
    let asked: Vec<String> = std::env::args().skip(1).filter(|a| SCENARIOS.contains(&a.as_str())).collect();
    let db = cavesson_store::open(&url).await?;
    let bench = Bench { db, url, program: program.into(), today: Utc::now().date_naive() };
    // Filling many barns takes minutes: with KEEP those of the last time are taken.
    let keep = std::env::var_os("KEEP").is_some();
    for scenario in SCENARIOS.iter().filter(|s| asked.is_empty() || asked.iter().any(|a| a == *s)) {
        if !keep {
            bench.empty().await?;
        }
        println!("\n{scenario}");
        match *scenario {
            "history" => bench.history().await?,
            "big" => bench.big().await?,
            "writes" => bench.writes().await?,
            "planners" => bench.planners().await?,
            "stale" => bench.stale().await?,
            _ => bench.many().await?,
        }
    }
    Ok(())
}

impl Bench {
    async fn empty(&self) -> anyhow::Result<()> {
        sqlx::query("truncate barn, account cascade").execute(&self.db).await?;
        Ok(())
    }

    async fn serve(&self) -> anyhow::Result<Server> {
        sqlx::query("analyze").execute(&self.db).await?;
        Server::start(&self.program, &self.url, 8299).await
    }

    async fn client(&self, server: &Server, barn: &Filled, rider: usize) -> anyhow::Result<Client> {
        Client::of(&self.db, server.port, (barn.id, barn.riders[rider % barn.riders.len()])).await
    }

    /// A rep and the standing after it, on horses of longer and longer lives.
    async fn history(&self) -> anyhow::Result<()> {
        let mut points = vec![];
        println!("  {:>9} {:>12} {:>12}", "sessions", "a rep", "standing");
        for days in [140, 560, 1680, 3500, 7000] {
            self.empty().await?;
            let barn = fill(&self.db, &Size { horses: 1, riders: 1, days }, 0, self.today).await?;
            let server = self.serve().await?;
            let mut client = self.client(&server, &barn, 0).await?;
            let standing = format!("/api/horses/{}/standing", barn.horses[0]);
            client.get(&standing).await?;
            let (mut reps, mut standings, mut set) = (Times::default(), Times::default(), SetOf::new(barn.rides[0]));
            for _ in 0..40 {
                reps.time(set.rep(&mut client)).await?;
                standings.time(client.get(&standing)).await?;
            }
            let sessions: i64 =
                sqlx::query_scalar("select count(distinct ridden_on) from ride").fetch_one(&self.db).await?;
            println!("  {sessions:>9} {:>9.1} ms {:>9.1} ms", reps.median(), standings.median());
            points.push((sessions as f64, standings.median()));
        }
        println!("  the standing grows with the sessions to the power {:.2}", growth(&points));
        Ok(())
    }

    /// The pages of a big barn, one after the other, with the computing of each, and the week of one with many people.
    async fn big(&self) -> anyhow::Result<()> {
        let barn = fill(&self.db, &BIG, 0, self.today).await?;
        let server = self.serve().await?;
        let mut client = self.client(&server, &barn, 0).await?;
        let from = Instant::now();
        client.get("/api/today").await?;
        println!("  the first Today, with every standing to compute: {:.1} s", from.elapsed().as_secs_f64());
        let horse = barn.horses[7];
        let next_week = format!("/api/weeks/{}", self.today + chrono::Days::new(7));
        let after: Uuid = sqlx::query_scalar(
            "select id from ride where horse_id = $1 and state <> 'planned' order by ridden_on desc offset $2 limit 1",
        )
        .bind(horse)
        .bind(49 * 8 - 1)
        .fetch_one(&self.db)
        .await?;
        let fiftieth = format!("/api/horses/{horse}/rides?limit=8&after={after}");
        println!("  {:<24} {:>10} {:>10} {:>10} {:>9}", "", "median", "slowest", "computing", "bytes");
        // What is kept is made anew after a change of the barn.
        for (name, path, changed) in [
            ("Today", "/api/today".to_owned(), false),
            ("… after a change", "/api/today".to_owned(), true),
            ("the device's day", "/api/day".to_owned(), false),
            ("standing", format!("/api/horses/{horse}/standing"), false),
            ("horses", "/api/horses?limit=100".to_owned(), false),
            ("who owns what", "/api/owned".to_owned(), false),
            ("a ride's plan", format!("/api/rides/{}/plan", barn.rides[7]), false),
            ("next week", next_week.clone(), false),
            ("… after a change", next_week.clone(), true),
            ("balance of a year", "/api/balance?weeks=52".to_owned(), false),
            ("… after a change", "/api/balance?weeks=52".to_owned(), true),
            ("rides, the fiftieth page", fiftieth, false),
        ] {
            self.page(&server, &mut client, name, &path, changed).await?;
        }
        let crowded = fill(&self.db, &CROWDED, 1, self.today).await?;
        let mut client = self.client(&server, &crowded, 0).await?;
        self.page(&server, &mut client, "a week with 54 people", &next_week, true).await?;
        println!("  resident: {:.0} MB", server.taken()?.resident_mb);
        Ok(())
    }

    /// A page, read again and again.
    async fn page(
        &self,
        server: &Server,
        client: &mut Client,
        name: &str,
        path: &str,
        changed: bool,
    ) -> anyhow::Result<()> {
        let (mut times, mut bytes) = (Times::default(), 0);
        client.get(path).await?;
        let before = server.taken()?.cpu;
        for _ in 0..30 {
            if changed {
                sqlx::query("update barn set version = version").execute(&self.db).await?;
            }
            let response = times.time(client.get(path)).await?;
            anyhow::ensure!(response.status == 200, "{path}: {}", response.status);
            bytes = response.bytes;
        }
        let cpu = (server.taken()?.cpu - before) * 1000.0 / 30.0;
        println!("  {name:<24} {:>7.1} ms {:>7.1} ms {cpu:>7.1} ms {bytes:>9}", times.median(), times.at(1.0));
        Ok(())
    }

    /// As many reps as eight phones can send, in rides of eighty.
    async fn writes(&self) -> anyhow::Result<()> {
        let barn = fill(&self.db, &Size { horses: 16, riders: 4, days: 30 }, 0, self.today).await?;
        let server = self.serve().await?;
        let (from, before) = (Instant::now(), server.taken()?.cpu);
        let mut phones = vec![];
        for phone in 0..8 {
            let (mut client, rides) = (self.client(&server, &barn, phone).await?, barn.rides.clone());
            phones.push(tokio::spawn(async move {
                let mut times = Times::default();
                for ride in rides.into_iter().skip(phone * 2).take(2) {
                    let mut set = SetOf::new(ride);
                    for _ in 0..400 {
                        times.time(set.rep(&mut client)).await?;
                    }
                }
                anyhow::Ok(times)
            }));
        }
        let mut all = Times::default();
        for phone in phones {
            all.extend(phone.await??);
        }
        let (seconds, cpu) = (from.elapsed().as_secs_f64(), server.taken()?.cpu - before);
        println!("  {} reps: {:.0} a second; {}", all.len(), all.len() as f64 / seconds, all.told());
        println!("  computing of the server for each: {:.2} ms", cpu * 1000.0 / all.len() as f64);
        Ok(())
    }

    /// Thirty-two reps a second, with and without four who plan a week of the big barn.
    async fn planners(&self) -> anyhow::Result<()> {
        let barn = fill(&self.db, &Size { days: 120, ..BIG }, 0, self.today).await?;
        let server = self.serve().await?;
        self.client(&server, &barn, 0).await?.get("/api/today").await?;
        println!("  alone:                 {}", self.thirty_two_a_second(&server, &barn).await?.told());
        let mut planners = vec![];
        for planner in 0..4 {
            let mut client = self.client(&server, &barn, 0).await?;
            let today = self.today;
            planners.push(tokio::spawn(async move {
                // Each time another week, of which there is no draft yet.
                for n in 0.. {
                    let week = today + chrono::Days::new(7 * (1 + planner + 4 * n));
                    let body = r#"{"version":0,"keep":"locked"}"#;
                    let planned = client.send("POST", &format!("/api/weeks/{week}/plan"), body).await;
                    if !planned.is_ok_and(|response| response.status == 200) {
                        tokio::time::sleep(Duration::from_millis(500)).await;
                    }
                }
            }));
        }
        println!("  beside four planners:  {}", self.thirty_two_a_second(&server, &barn).await?.told());
        planners.iter().for_each(tokio::task::JoinHandle::abort);
        Ok(())
    }

    async fn thirty_two_a_second(&self, server: &Server, barn: &Filled) -> anyhow::Result<Times> {
        let mut phones = vec![];
        for phone in 0..8 {
            let (mut client, ride) = (self.client(server, barn, phone).await?, barn.rides[phone]);
            phones.push(tokio::spawn(async move {
                let (mut times, mut set) = (Times::default(), SetOf::new(ride));
                let mut every = tokio::time::interval(Duration::from_millis(250));
                for _ in 0..80 {
                    every.tick().await;
                    times.time(set.rep(&mut client)).await?;
                }
                anyhow::Ok(times)
            }));
        }
        let mut all = Times::default();
        for phone in phones {
            all.extend(phone.await??);
        }
        Ok(all)
    }

    /// Nothing is kept of a big barn, and four people look at it at once; somebody else looks at a small barn meanwhile.
    async fn stale(&self) -> anyhow::Result<()> {
        let barn = fill(&self.db, &BIG, 0, self.today).await?;
        let other = fill(&self.db, &Size { horses: 4, riders: 1, days: 30 }, 1, self.today).await?;
        for (what, sql) in [
            ("nothing kept", "truncate standing"),
            ("a restart", "select 1"),
            ("a changed posture", "update barn set posture = 'patient', version = version + 1"),
        ] {
            let server = self.serve().await?;
            sqlx::query(sql).execute(&self.db).await?;
            self.visit(what, &server, &barn, &other).await?;
        }
        // As it is on any day but the first: what was watched is at hand. The server before was killed with its lease on that.
        sqlx::query("delete from ahead_lease").execute(&self.db).await?;
        let server = self.serve().await?;
        until_computed_ahead(&server).await?;
        let mut trainer = self.client(&server, &barn, 0).await?;
        for (what, horse) in [("another standard", None), ("… for one horse", Some(barn.horses[0]))] {
            let standard = serde_json::json!({ "days": if horse.is_some() { 5 } else { 4 } });
            let change = serde_json::json!({ "kind": "standard", "rung": "T2", "standard": standard });
            let body = serde_json::json!({ "horse_id": horse, "change": change }).to_string();
            let response = trainer.put(&format!("/api/curriculum/changes/{}", Uuid::new_v4()), &body).await?;
            anyhow::ensure!(response.status == 201, "{}", String::from_utf8_lossy(&response.body));
            self.visit(what, &server, &barn, &other).await?;
        }
        Ok(())
    }

    /// Four visitors of one barn, and what somebody of another waits for meanwhile.
    async fn visit(&self, what: &str, server: &Server, barn: &Filled, other: &Filled) -> anyhow::Result<()> {
        let mut bystander = self.client(server, other, 0).await?;
        let (from, before) = (Instant::now(), server.taken()?.cpu);
        let mut visitors = vec![];
        for visitor in 0..4 {
            let mut client = self.client(server, barn, visitor).await?;
            visitors.push(tokio::spawn(async move {
                for path in ["/api/today", "/api/overview", "/api/owned"] {
                    let response = client.get(path).await?;
                    anyhow::ensure!(response.status == 200, "{path}: {}", response.status);
                }
                anyhow::Ok(())
            }));
        }
        let mut stalls = Times::default();
        while !visitors.iter().all(tokio::task::JoinHandle::is_finished) {
            stalls.time(bystander.get("/api/horses?limit=100")).await?;
            tokio::time::sleep(Duration::from_millis(20)).await;
        }
        for visitor in visitors {
            visitor.await??;
        }
        let (wall, taken) = (from.elapsed().as_secs_f64(), server.taken()?);
        let cpu = taken.cpu - before;
        println!(
            "  {what:<18} {wall:>5.1} s for four visitors, {cpu:>5.1} s of computing, {:.0} MB; a bystander: {}",
            taken.resident_mb,
            stalls.told()
        );
        Ok(())
    }

    /// Many barns, and fifty riders who log and look at Today with a second's pause.
    async fn many(&self) -> anyhow::Result<()> {
        let count: u64 = std::env::var("BARNS").ok().and_then(|n| n.parse().ok()).unwrap_or(200);
        let mut barns = filled(&self.db, self.today).await?;
        for n in barns.len() as u64..count {
            barns.push(fill(&self.db, &Size { horses: 12, riders: 3, days: 42 }, n, self.today).await?);
        }
        let server = self.serve().await?;
        let from = Instant::now();
        until_computed_ahead(&server).await?;
        println!(
            "  {count} barns: computed ahead in {:.0} s with {:.0} s of computing, {:.0} MB",
            from.elapsed().as_secs_f64(),
            server.taken()?.cpu,
            server.taken()?.resident_mb
        );
        let idle = server.taken()?.cpu;
        tokio::time::sleep(Duration::from_secs(60)).await;
        println!("  idle: {:.2} % of a core over a minute", (server.taken()?.cpu - idle) / 60.0 * 100.0);
        let mut riders = vec![];
        for rider in 0..50 {
            let barn = barns[rider * barns.len() / 50].clone();
            let mut client = self.client(&server, &barn, rider).await?;
            riders.push(tokio::spawn(async move {
                let (mut reps, mut todays, mut set) = (Times::default(), Times::default(), SetOf::new(barn.rides[0]));
                // Nobody waits for the others: each begins at another moment of the five seconds from one look at Today to the next.
                tokio::time::sleep(Duration::from_millis(100 * rider as u64)).await;
                for n in 0..30 {
                    reps.time(set.rep(&mut client)).await?;
                    if n % 5 == 4 {
                        todays.time(client.get("/api/today")).await?;
                    }
                    tokio::time::sleep(Duration::from_secs(1)).await;
                }
                anyhow::Ok((reps, todays))
            }));
        }
        let (mut reps, mut todays) = (Times::default(), Times::default());
        for rider in riders {
            let (r, t) = rider.await??;
            reps.extend(r);
            todays.extend(t);
        }
        println!("  reps of fifty riders:   {}", reps.told());
        println!("  Today after five reps:  {}", todays.told());
        println!("  resident: {:.0} MB", server.taken()?.resident_mb);
        Ok(())
    }
}

/// Waits until a server has computed ahead what it would: then it rests.
async fn until_computed_ahead(server: &Server) -> anyhow::Result<()> {
    let mut last = -1.0;
    while server.taken()?.cpu - last > 0.1 {
        last = server.taken()?.cpu;
        tokio::time::sleep(Duration::from_secs(5)).await;
    }
    Ok(())
}

/// A set of a ride that reps are logged into; a new one each eight.
struct SetOf {
    ride: Uuid,
    set: Uuid,
    logged: u32,
}

impl SetOf {
    fn new(ride: Uuid) -> SetOf {
        SetOf { ride, set: Uuid::new_v4(), logged: 0 }
    }

    async fn rep(&mut self, client: &mut Client) -> anyhow::Result<()> {
        if self.logged.is_multiple_of(8) {
            self.set = Uuid::new_v4();
        }
        let side = if (self.logged / 8).is_multiple_of(2) { "left" } else { "right" };
        let body = serde_json::json!({
            "set": { "id": self.set, "position": self.logged / 8, "rung": "S1", "gait": "stand", "side": side },
            "position": self.logged % 8, "outcome": "gave", "weight": "feather", "seconds": 1.2
        });
        let path = format!("/api/rides/{}/reps/{}", self.ride, Uuid::new_v4());
        let response = client.put(&path, &body.to_string()).await?;
        anyhow::ensure!(response.status == 201, "{}: {}", response.status, String::from_utf8_lossy(&response.body));
        self.logged += 1;
        Ok(())
    }
}
