//! What stands around the rides of a week: heat, who is away, appointments, and shows ahead.

use cavesson_core::schedule::AppointmentKind;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::{http::schedule::clock::clock, services::planning::PlanningContext};

/// Heat in which only so much load is ridden.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct HeatSpan {
    day: u8,
    from: String,
    to: String,
    most_load: u32,
}

/// Someone or a horse that is away.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct AwayOut {
    id: Uuid,
    person_id: Option<Uuid>,
    horse_id: Option<Uuid>,
    day: u8,
    from: String,
    to: String,
    why: String,
}

/// An appointment on a day of the week.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct WeekAppointment {
    id: Uuid,
    kind: AppointmentKind,
    title: String,
    day: u8,
    from: String,
    to: String,
    people: Vec<Uuid>,
    horses: Vec<Uuid>,
}

impl PlanningContext {
    pub(crate) fn heat_out(&self) -> Vec<HeatSpan> {
        let span = |h: &cavesson_core::schedule::Heat| HeatSpan {
            day: h.span.day,
            from: clock(h.span.from),
            to: clock(h.span.to),
            most_load: h.most_load,
        };
        self.planning.week.heat.iter().map(span).collect()
    }

    pub(crate) fn away_out(&self, a: &cavesson_store::hours::Away) -> AwayOut {
        AwayOut {
            id: a.id,
            person_id: a.person_id,
            horse_id: a.horse_id,
            day: (a.day - self.start).num_days() as u8,
            from: clock(a.from as u16),
            to: clock(a.to as u16),
            why: a.why.clone(),
        }
    }

    pub(crate) fn appointments_out(&self) -> Vec<WeekAppointment> {
        let on_day = self.diary.on_days.iter().map(|o| (&self.diary.all[o.of], o.day));
        on_day
            .map(|(a, day)| WeekAppointment {
                id: a.id,
                kind: a.kind,
                title: a.title.clone(),
                day: (day - self.start).num_days() as u8,
                from: clock(a.from as u16),
                to: clock(a.to as u16),
                people: a.people.clone(),
                horses: a.horses.clone(),
            })
            .collect()
    }
}
