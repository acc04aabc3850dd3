//! Tack: the wall of bits and bosals, what each does under a hand, and the same answers in two of them.

mod bench;
mod compared;
mod events;
mod first_day;
mod horse;
mod on_road;
mod two_rein;
mod wall;

pub(crate) use self::{
    events::{RideTackOut, TackLog},
    on_road::OnRoad,
};
use cavesson_core::tack::WrongMeasure;
use utoipa_axum::{router::OpenApiRouter, routes};

use crate::{App, Problem, http::validate::Check};

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(wall::read))
        .routes(routes!(wall::measure))
        .routes(routes!(bench::held))
        .routes(routes!(compared::compare))
        .routes(routes!(two_rein::read))
        .routes(routes!(two_rein::put))
        .routes(routes!(horse::read))
        .routes(routes!(events::read))
        .routes(routes!(events::put))
}

/// Everything that is wrong with measures, at its field.
fn sound(wrong: &[WrongMeasure]) -> Result<(), Problem> {
    let mut check = Check::default();
    for one in wrong {
        check.that(false, &format!("measures.{}", one.field), one.text.clone());
    }
    check.done()
}
