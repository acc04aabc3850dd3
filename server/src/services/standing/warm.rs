//! What is worked out before anyone asks for it.

use std::{
    collections::HashMap,
    sync::{Mutex, PoisonError},
    time::{Duration, Instant},
};

use cavesson_store::{
    Scope, ahead,
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
        standing::{standings, watched},
    },
};

/// When each barn was last written to through this server and when it was last looked after, so that a barn where nothing happens costs
/// nothing. What another server wrote is not seen: then the first look computes what is stale.
#[derive(Debug, Default)]
pub(crate) struct Warmth(Mutex<HashMap<Uuid, BarnWarmth>>);

#[derive(Debug, Default)]
struct BarnWarmth {
    written: Option<Instant>,
    /// For which day, and when that began.
    warmed: Option<(NaiveDate, Instant)>,
}

/// A request that writes may take so long until what it wrote is there.
const WRITING: Duration = Duration::from_secs(60);

impl Warmth {
    /// Something is being written to a barn.
    pub(crate) fn wrote(&self, barn: Uuid) {
        self.with(barn, |of| of.written = Some(Instant::now()));
    }

    fn is_due(&self, barn: Uuid, today: NaiveDate) -> bool {
        self.with(barn, |of| match (of.warmed, of.written) {
            (Some((day, began)), written) => day != today || written.is_some_and(|at| at + WRITING >= began),
            (None, _) => true,
        })
    }

    fn warmed(&self, barn: Uuid, today: NaiveDate, began: Instant) {
        self.with(barn, |of| of.warmed = Some((today, began)));
    }

    fn with<T>(&self, barn: Uuid, change: impl FnOnce(&mut BarnWarmth) -> T) -> T {
        // What is behind the lock is whole at all times.
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        change(all.entry(barn).or_default())
    }
}

/// Computes ahead what the first look at each barn would otherwise wait for: at start, after each midnight, and after something was
/// written.
pub async fn keep_warm(app: App) {
    loop {
        warm_up(&app).await;
        tokio::time::sleep(Duration::from_secs(300)).await;
    }
}

/// Computes what the next pages of each barn ask for, where something changed since the last time. Gives how many barns that were; one
/// that fails does not keep the others waiting, and one that another server is at is left to it until the next time.
pub async fn warm_up(app: &App) -> usize {
    let app = &app.ahead();
    let barns = match barn::all(&app.db).await {
        Ok(barns) => barns,
        Err(error) => {
            tracing::warn!(%error, "standings were not computed ahead");
            return 0;
        }
    };
    let mut done = 0;
    for barn in barns {
        let (today, began) = (today_in(&barn), Instant::now());
        if !app.warmth.is_due(barn.id, today) {
            continue;
        }
        match warm_alone(app, &barn, today).await {
            Ok(true) => {
                app.warmth.warmed(barn.id, today, began);
                done += 1;
            }
            Ok(false) => {}
            Err(problem) => tracing::warn!(problem.detail, barn = %barn.id, "standings were not computed ahead"),
        }
    }
    done
}

/// Whether it was this server's to do, and is done.
async fn warm_alone(app: &App, barn: &Barn, today: NaiveDate) -> Result<bool, Problem> {
    if !ahead::take(&app.db, barn.id).await? {
        return Ok(false);
    }
    let warmed = warm(app, barn, today).await;
    ahead::give_back(&app.db, barn.id).await?;
    warmed.map(|()| true)
}

async fn warm(app: &App, barn: &Barn, today: NaiveDate) -> Result<(), Problem> {
    let scope = Scope::staff_of(barn.id, Uuid::nil());
    stand(app, &scope, barn, today).await?;
    watch_todays(app, &scope, barn, today).await
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

/// The records of the horses that are ridden today, for the plans of their rides.
async fn watch_todays(app: &App, scope: &Scope, barn: &Barn, today: NaiveDate) -> Result<(), Problem> {
    let rides = ride::on_day(&app.db, scope, today).await?;
    let ridden: Vec<Uuid> = rides.iter().map(|r| r.horse_id).collect();
    let horses: Vec<Horse> =
        horse::in_work(&app.db, scope).await?.into_iter().filter(|h| ridden.contains(&h.id)).collect();
    watched(app, scope, &horses, barn, today).await?;
    Ok(())
}
