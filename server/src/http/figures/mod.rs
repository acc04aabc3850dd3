//! Figures, drills and trail courses as text: what the barn keeps, and what comes of riding one.

mod asked;
mod drill;
mod kept;
mod known;
mod ride;
mod strides;
mod told;

pub(super) use self::{
    known::{Known, status_of},
    ride::posts_of,
};
use utoipa_axum::{router::OpenApiRouter, routes};

use crate::App;

/// The routes of this part.
pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(kept::list))
        .routes(routes!(kept::put))
        .routes(routes!(ride::ride))
        .routes(routes!(drill::make))
        .routes(routes!(strides::read, strides::put))
}
