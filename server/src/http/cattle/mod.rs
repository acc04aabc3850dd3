//! Cattle: the herd, today's draw, and what is logged on cattle from the saddle.

mod draw;
mod events;
mod fence;
mod flag;
mod herd;
mod known;
mod practice;

pub(crate) use self::events::{RideCattleOut, read as ride_cattle};
use utoipa_axum::{router::OpenApiRouter, routes};

use crate::App;

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(herd::read))
        .routes(routes!(herd::put))
        .routes(routes!(herd::put_rules))
        .routes(routes!(draw::read))
        .routes(routes!(draw::put, draw::forget))
        .routes(routes!(events::read))
        .routes(routes!(events::put))
        .routes(routes!(fence::ask))
        .routes(routes!(flag::drive))
        .routes(routes!(flag::programme))
        .routes(routes!(practice::go_on))
}
