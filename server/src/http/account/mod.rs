//! Accounts: the way in and out, passwords and one-time codes, links, devices, and the log of what happened to them.

mod barns;
mod links;
mod own;
mod security_log;
mod sessions;
mod sign_in;

pub use barns::{NewBarn, add_barn};
pub use links::reset_link;

use cavesson_store::security::What;
use utoipa_axum::{router::OpenApiRouter, routes};

use crate::{
    App, Problem,
    auth::{Origin, SignedIn, note_about},
};

pub(crate) fn routes() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .routes(routes!(sign_in::setup, sign_in::create_first_trainer))
        .routes(routes!(sign_in::sign_in))
        .routes(routes!(sign_in::demo_sign_in))
        .routes(routes!(sign_in::confirm))
        .routes(routes!(sign_in::sign_out))
        .routes(routes!(sign_in::sign_out_everywhere))
        .routes(routes!(sign_in::me))
        .routes(routes!(links::make))
        .routes(routes!(links::look))
        .routes(routes!(links::take))
        .routes(routes!(links::join))
        .routes(routes!(barns::enter))
        .routes(routes!(own::read))
        .routes(routes!(own::set_password))
        .routes(routes!(own::judge_password))
        .routes(routes!(own::offer_codes, own::turn_codes_on, own::turn_codes_off))
        .routes(routes!(sessions::list))
        .routes(routes!(sessions::end))
        .routes(routes!(security_log::read))
}

/// Writes down what someone did to their own account.
async fn note_own(app: &App, signed: &SignedIn, what: What, origin: &Origin) -> Result<(), Problem> {
    note_about(app, signed, (what, ""), Some(signed.scope.person()), origin).await
}
