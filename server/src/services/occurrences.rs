//! The days on which an appointment comes.

use cavesson_formats::calendar::recurrence::Recurrence;
use cavesson_store::appointment::Appointment;
use chrono::{Days, NaiveDate, NaiveTime};
use chrono_tz::Tz;

/// The first days of those of an appointment's times that reach into a window. One that lasts for days may have begun before it.
pub(crate) fn times(a: &Appointment, zone: Tz, from: NaiveDate, to: NaiveDate) -> Vec<NaiveDate> {
    let from = from - Days::new(a.days.max(1) as u64 - 1);
    let Some(rule) = &a.rule else {
        return if (from..=to).contains(&a.day) { vec![a.day] } else { vec![] };
    };
    let at = NaiveTime::from_num_seconds_from_midnight_opt(a.from as u32 * 60, 0).unwrap_or_default();
    // Rules are checked when they are written down.
    Recurrence::new(rule, a.day.and_time(at), zone, &a.skipped)
        .map(|r| r.between(from, to).iter().map(chrono::NaiveDateTime::date).collect())
        .unwrap_or_default()
}
