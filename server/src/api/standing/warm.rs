//! What is worked out before anyone asks for it.

use std::time::Duration;

use cavesson_store::{
    Scope,
    barn::{self, Barn},
    horse, ride,
};
use chrono::NaiveDate;
use uuid::Uuid;

use super::{standings, watched};
use crate::{App, Problem, api::barn::today_in};

/// Computes ahead what the first look at each barn would otherwise wait for: at start, and after each midnight.
pub async fn keep_warm(app: App) {
    loop {
        if let Err(problem) = warm(&app).await {
            tracing::warn!(problem.detail, "standings were not computed ahead");
        }
        tokio::time::sleep(Duration::from_secs(300)).await;
    }
}

async fn warm(app: &App) -> Result<(), Problem> {
    for barn in barn::all(&app.db).await? {
        let today = today_in(&barn);
        let scope = Scope { barn: barn.id, person: Uuid::nil(), owned_by: None };
        stand(app, &scope, &barn, today).await?;
        watch(app, &scope, &barn, today).await?;
    }
    Ok(())
}

/// Every horse's standing.
async fn stand(app: &App, scope: &Scope, barn: &Barn, today: NaiveDate) -> Result<(), Problem> {
    let mut offset = 0;
    loop {
        let page = horse::list(&app.db, scope, false, offset, 10).await?;
        standings(app, scope, &page.items, &barn.posture, today).await?;
        if !page.more {
            return Ok(());
        }
        offset += 10;
    }
}

/// The records of the horses that are ridden today, for the plans of their rides. One after the other, so that a core is left for
/// whoever asks for something meanwhile.
async fn watch(app: &App, scope: &Scope, barn: &Barn, today: NaiveDate) -> Result<(), Problem> {
    let horses = horse::list(&app.db, scope, false, 0, 200).await?.items;
    let rides = ride::on_day(&app.db, scope, today).await?;
    for horse in horses.iter().filter(|h| rides.iter().any(|r| r.horse_id == h.id)) {
        watched(app, scope, horse, barn, today).await?;
    }
    Ok(())
}
