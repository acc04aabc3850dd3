//! The pattern bench: pens, set-ups of barrels, what they cost and how to lay them out, and passes over them.

mod bench;
mod event;
mod files;
mod passes;
mod pens;
mod set_ups;
mod sound;
mod tape;
mod today;
mod tracks;

pub(crate) use self::today::{PatternToday, read as pattern_today};
use cavesson_core::pattern::Pen;
use utoipa_axum::{router::OpenApiRouter, routes};
use uuid::Uuid;

use crate::{App, Problem, auth::SignedIn};

/// The pen of a place, as it was drawn, else as large as the place.
pub(super) async fn pen_of(app: &App, signed: &SignedIn, place: Uuid) -> Result<Pen, Problem> {
    Ok(pens::of(app, signed, place).await?.pen)
}

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(pens::read, pens::put))
        .routes(routes!(set_ups::list))
        .routes(routes!(set_ups::put))
        .routes(routes!(event::event))
        .routes(routes!(files::markers))
        .routes(routes!(files::drawing))
        .routes(routes!(bench::run))
        .routes(routes!(bench::fit))
        .routes(routes!(tape::tape))
        .routes(routes!(passes::list))
        .routes(routes!(passes::put))
        .routes(routes!(passes::correct, passes::remove))
        .routes(routes!(tracks::put, tracks::file))
        .routes(routes!(tracks::timer))
        .routes(routes!(today::read))
}
