//! What holds where a barn has set nothing of its own (common practice, no published source).

use chrono::{Days, NaiveDate};

use super::ride_load::ride_load;
use crate::{
    curriculum::{Gait, Place},
    load::GaitMinutes,
    schedule::{DAYS, Span},
};

/// Mornings and afternoons.
const RIDDEN: [(u16, u16); 2] = [(7 * 60, 12 * 60), (13 * 60 + 30, 17 * 60)];
/// When places are open.
const OPEN: (u16, u16) = (6 * 60, 20 * 60);

/// The hours of someone who has set none: Monday to Saturday, mornings and afternoons.
///
/// ```
/// use cavesson_core::schedule::usual_hours;
/// assert!(usual_hours().iter().all(|s| s.day < 6), "Sundays are free");
/// ```
pub fn usual_hours() -> Vec<Span> {
    (0..6).flat_map(|day| RIDDEN.map(|(from, to)| Span { day, from, to })).collect()
}

/// When the first ride of an ordinary day begins, in minutes after midnight.
pub const fn usual_start() -> u16 {
    RIDDEN[0].0
}

/// When a place is open, the same on each day.
pub fn open_hours(own: Option<(u16, u16)>) -> Vec<Span> {
    let (from, to) = own.unwrap_or(OPEN);
    (0..DAYS as u8).map(|day| Span { day, from, to }).collect()
}

/// Rides at a time of a place that was not set.
pub const fn usual_at_once(place: Place) -> u16 {
    match place {
        Place::RoundPen => 1,
        Place::Arena => 3,
        Place::Outside => 4,
        Place::Trail => 2,
    }
}

/// Minutes of a ride of which none were told: those of a ride at the jog.
pub fn usual_minutes(age: Option<u32>) -> GaitMinutes {
    ride_load(Gait::Jog, age).minutes
}

/// The first and the last day of the planned rides that are still asked after: what was not ridden longer ago, nobody remembers.
///
/// ```
/// use cavesson_core::schedule::unanswered_days;
/// let (first, last) = unanswered_days("2026-03-10".parse().unwrap());
/// assert_eq!((first.to_string(), last.to_string()), ("2026-03-03".to_owned(), "2026-03-09".to_owned()));
/// ```
pub fn unanswered_days(today: NaiveDate) -> (NaiveDate, NaiveDate) {
    (today - Days::new(DAYS as u64), today - Days::new(1))
}

/// What is left of a stretch when another is cut out of it.
///
/// ```
/// use cavesson_core::schedule::{Span, without};
/// let day = Span { day: 0, from: 420, to: 720 };
/// let left = without(day, Span { day: 0, from: 480, to: 540 });
/// assert_eq!(left, [Span { to: 480, ..day }, Span { from: 540, ..day }]);
/// ```
pub fn without(span: Span, gone: Span) -> Vec<Span> {
    if span.day != gone.day || gone.to <= span.from || span.to <= gone.from {
        return vec![span];
    }
    [Span { to: gone.from.max(span.from), ..span }, Span { from: gone.to.min(span.to), ..span }]
        .into_iter()
        .filter(|s| s.from < s.to)
        .collect()
}
