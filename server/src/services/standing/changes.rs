//! What was changed on the horses of a barn lately and may hurt them: shoes, teeth, bits and saddles.

use std::collections::HashMap;

use cavesson_core::{advice::CareChange, barn::GearKind, schedule::AppointmentKind};
use cavesson_store::{
    Scope,
    appointment::{self, Appointment},
    barn, gear,
};
use chrono::{Days, NaiveDate};
use uuid::Uuid;

use crate::{
    App, Problem,
    services::{barn_clock::zone, occurrences::times},
};

/// Days back from today.
const LATELY: u64 = 60;

/// Changes by horse, oldest first.
pub(super) type Changes = HashMap<Uuid, Vec<(NaiveDate, CareChange)>>;

/// The changes of the last weeks. They are the same for whoever asks: what is worked out with them is kept for all.
pub(super) async fn changes(app: &App, scope: &Scope, today: NaiveDate) -> Result<Changes, Problem> {
    let all = scope.whole();
    let from = today - Days::new(LATELY);
    let zone = zone(&barn::get(&app.db, &all).await?.time_zone);
    let mut out = Changes::new();
    for a in appointment::between(&app.db, &all, from, today).await? {
        let Some(change) = change_by(&a) else { continue };
        let days: Vec<NaiveDate> = times(&a, zone, from, today);
        for horse in &a.horses {
            out.entry(*horse).or_default().extend(days.iter().map(|day| (*day, change)));
        }
    }
    for fitted in gear::fitted_since(&app.db, &all, from, today).await? {
        let change = match fitted.kind {
            GearKind::Bit | GearKind::Bosal => CareChange::Bit,
            GearKind::Saddle => CareChange::Saddle,
            _ => continue,
        };
        out.entry(fitted.horse_id).or_default().push((fitted.since, change));
    }
    out.values_mut().for_each(|changes| changes.sort_unstable());
    Ok(out)
}

fn change_by(a: &Appointment) -> Option<CareChange> {
    match a.kind {
        AppointmentKind::Farrier => Some(CareChange::Shoes),
        AppointmentKind::Dentist => Some(CareChange::Teeth),
        _ => None,
    }
}
