//! Every way to ride a week's works, for checks that try them all.

use cavesson_core::schedule::{DAYS, Ride, Span, WeekProblem, breaks};

/// From an hour to an hour.
pub(crate) fn hours(day: u8, from: u16, to: u16) -> Span {
    Span { day, from: 60 * from, to: 60 * to }
}

/// Every ride that breaks no rule by itself.
pub(crate) fn ways(week: &WeekProblem) -> Vec<Ride> {
    let mut all = vec![];
    for (work, w) in week.works.iter().enumerate() {
        for day in 0..DAYS as u8 {
            for start in (0..24 * 60).step_by(week.slot_minutes.into()) {
                for &place in &w.places {
                    for &(rider, _) in &w.riders {
                        let ride = Ride { work, day, start, place, rider };
                        if breaks(week, &[ride]).is_empty() {
                            all.push(ride);
                        }
                    }
                }
            }
        }
    }
    all
}
