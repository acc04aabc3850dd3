//! What stands in the demo's next weeks besides rides.

use cavesson_core::schedule::AppointmentKind;
use cavesson_store::{
    Scope,
    appointment::{self, Appointment},
};
use chrono::{Datelike, Days, NaiveDate};
use sqlx::PgPool;

use crate::demo::{cast::HORSES, id};

/// This week a farrier and a show; a farrier's round every six weeks and one of last week, the dentist, a show ahead, and days off.
pub(super) async fn load(db: &PgPool, scope: &Scope, today: NaiveDate) -> anyhow::Result<()> {
    let next_monday = today + Days::new(u64::from(7 - today.weekday().num_days_from_monday()));
    let all: Vec<&str> = HORSES.iter().map(|h| h.name).collect();
    let mut farrier =
        plain(AppointmentKind::Farrier, "Farrier, the front half", next_monday + Days::new(2), (9, 11), &all[..6]);
    farrier.rule = Some("FREQ=WEEKLY;INTERVAL=6".to_owned());
    // Her left is sore since.
    let shod = plain(AppointmentKind::Farrier, "Farrier, all round", today - Days::new(5), (9, 10), &["Wren"]);
    let dentist = plain(AppointmentKind::Dentist, "Teeth", next_monday + Days::new(3), (14, 15), &["Wren", "Pilgrim"]);
    let visit = plain(AppointmentKind::Owner, "Lomax comes to see", next_monday + Days::new(4), (10, 11), &["Fennel"]);
    let mut show = plain(
        AppointmentKind::Show,
        "Valley stock horse show",
        next_monday + Days::new(32),
        (0, 24),
        &["Hollis", "Ransom"],
    );
    (show.days, show.wants) = (3, ["L6", "L5", "L7"].map(str::to_owned).to_vec());
    let mut rest =
        plain(AppointmentKind::LayUp, "Turned out for a week", next_monday + Days::new(9), (0, 24), &["Sorrel Tom"]);
    rest.days = 7;
    let this_monday = next_monday - Days::new(7);
    let friday = this_monday + Days::new(4);
    let shoes = plain(AppointmentKind::Farrier, "Farrier, two sets", friday, (13, 14), &["Spool", "Lantern"]);
    let saturday =
        plain(AppointmentKind::Show, "Saturday jackpot", this_monday + Days::new(5), (0, 24), &["Quarter Moon"]);
    appointment::add_all(db, scope, &[farrier, shod, dentist, visit, show, rest, shoes, saturday]).await?;
    Ok(())
}

fn plain(kind: AppointmentKind, title: &str, day: NaiveDate, (from, to): (i16, i16), horses: &[&str]) -> Appointment {
    let mut horses: Vec<_> = horses.iter().map(|h| id(h)).collect();
    horses.sort_unstable();
    Appointment {
        id: id(title),
        kind,
        title: title.to_owned(),
        day,
        days: 1,
        from: from * 60,
        to: to * 60,
        rule: None,
        skipped: vec![],
        wants: vec![],
        uid: None,
        version: 0,
        people: vec![],
        horses,
    }
}
