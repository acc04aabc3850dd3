//! Asks with what stood around them, and what the trainer's habits and the faults of late say.

use std::sync::Arc;

use cavesson_core::{
    advice::{AskContext, RemedyRecord, is_late},
    ride::{Habits, Swap},
};
use cavesson_store::{log::evidence::Faulted, planned::Swapped};
use chrono::NaiveDate;
use uuid::Uuid;

use crate::services::book::Book;

/// Reps as they were asked, ride by ride.
pub(crate) fn asked(reps: &[Faulted]) -> Vec<AskContext> {
    let rides = reps.chunk_by(|a, b| a.ride_id == b.ride_id);
    rides
        .flat_map(|ride| {
            ride.iter().enumerate().map(|(n, r)| AskContext {
                date: r.date,
                rung: r.rung.clone(),
                gait: r.gait,
                side: r.side,
                place: r.place,
                rider: r.rider.clone(),
                bit: r.bit.clone(),
                late: is_late(n, ride.len()),
                hot: r.hot,
                faults: r.faults.clone(),
            })
        })
        .collect()
}

/// How the horse is best ridden, from the trainer's swaps, its faults and what it is said to know.
pub(crate) fn habits(
    book: &Book,
    swaps: &[Swapped],
    asked: &[AskContext],
    remedies: &Arc<RemedyRecord>,
    claims: &[(Uuid, String)],
    today: NaiveDate,
) -> Habits {
    let course = &book.course;
    let swap = |s: &Swapped| Some(Swap { on: s.on, from: course.find(&s.from)?, to: course.find(&s.to)? });
    let habits = Habits::of(course, &book.curriculum, swaps.iter().filter_map(swap).collect(), asked, today);
    let claimed = claims.iter().filter_map(|(_, step)| course.find(step)).collect();
    Habits { claimed, counts: habits.counts.clone().with_remedies(Arc::clone(remedies)), ..habits }
}
