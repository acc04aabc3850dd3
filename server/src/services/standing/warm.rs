//! What is worked out before anyone asks for it.

use std::time::Duration;

use cavesson_store::{
    Scope,
    barn::{self, Barn},
    horse::{self, Horse},
    log::ride,
};
use chrono::NaiveDate;
use uuid::Uuid;

use crate::{
    App, Problem,
    services::{
        barn_clock::today_in,
        book::books,
        standing::{barn_now, stale_of, standings, watch},
    },
};

/// Computes ahead what the first look at each barn would otherwise wait for: at start, and after each midnight.
pub async fn keep_warm(app: App) {
    loop {
        warm_up(&app).await;
        tokio::time::sleep(Duration::from_secs(300)).await;
    }
}

/// Computes what the next pages ask for, once.
pub async fn warm_up(app: &App) {
    if let Err(problem) = warm(app).await {
        tracing::warn!(problem.detail, "standings were not computed ahead");
    }
}

async fn warm(app: &App) -> Result<(), Problem> {
    for barn in barn::all(&app.db).await? {
        let today = today_in(&barn);
        let scope = Scope::staff_of(barn.id, Uuid::nil());
        stand(app, &scope, &barn, today).await?;
        watch_todays(app, &scope, &barn, today).await?;
    }
    Ok(())
}

/// Every horse's standing.
async fn stand(app: &App, scope: &Scope, barn: &Barn, today: NaiveDate) -> Result<(), Problem> {
    let mut offset = 0;
    loop {
        let page = horse::list(&app.db, scope, false, offset, 10).await?;
        standings(app, scope, &page.items, barn.posture, today).await?;
        if !page.more {
            return Ok(());
        }
        offset += 10;
    }
}

/// The records of the horses that are ridden today, for the plans of their rides: some at a time, all on one core, so that another
/// is left for whoever asks for something meanwhile.
async fn watch_todays(app: &App, scope: &Scope, barn: &Barn, today: NaiveDate) -> Result<(), Problem> {
    let rides = ride::on_day(&app.db, scope, today).await?;
    let ridden: Vec<Uuid> = rides.iter().map(|r| r.horse_id).collect();
    let horses: Vec<Horse> =
        horse::in_work(&app.db, scope).await?.into_iter().filter(|h| ridden.contains(&h.id)).collect();
    let books = books(app, scope, &horses.iter().map(|h| Some(h.id)).collect::<Vec<_>>()).await?;
    let barn_now = barn_now(app, scope, today).await?;
    let mut stale = vec![];
    for (horse, book) in horses.iter().zip(&books) {
        let as_now = stale_of(horse, barn.posture, book, &barn_now, today);
        if app.caches.watched.get((scope.shared(), horse.id), &as_now.2).is_none() {
            stale.push(as_now);
        }
    }
    for some in stale.chunks(8) {
        watch(app, scope, some, &barn_now, today).await?;
    }
    Ok(())
}
