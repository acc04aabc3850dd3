//! The HTTP interface: handlers, requests and responses by part of the job.

pub(crate) mod account;
pub(crate) mod barn;
mod cattle;
mod conditional;
pub(crate) mod curriculum;
mod day;
mod document;
mod exercises;
pub(crate) mod extract;
mod figures;
mod health;
pub(crate) mod horses;
pub(crate) mod patterns;
mod ride_event;
pub(crate) mod rides;
pub(crate) mod schedule;
mod scores;
pub(crate) mod site;
pub(crate) mod tack;
pub(crate) mod today;
pub(crate) mod validate;
pub(crate) mod weather;

pub use crate::services::standing::{keep_warm, warm_up};
pub use account::{NewBarn, add_barn, reset_link};
pub use document::openapi;

use std::time::Duration;

use axum::{
    Router,
    extract::{DefaultBodyLimit, Request},
    http::{HeaderValue, Method, header},
    middleware::{self, Next},
    response::{IntoResponse, Response},
};
use tower_http::{
    CompressionLevel,
    catch_panic::CatchPanicLayer,
    compression::{CompressionLayer, DefaultPredicate, Predicate, predicate::NotForContentType},
};
use utoipa::OpenApi;
use utoipa_axum::{router::OpenApiRouter, routes};

use crate::{App, Problem, http::site::site, observe::observe};

#[derive(OpenApi)]
#[openapi(info(
    title = "Cavesson",
    description = "Training log and second opinion for western performance horses. \
                   Ids are UUIDs made by the client; writing the same thing twice is harmless. \
                   Errors are problem documents (RFC 9457). What is read of a barn carries an `ETag`: with `If-None-Match`, 304 says that \
                   it is as it was. Requests other than GET carry the session's token in `x-csrf-token`."
))]
struct Document;

fn routes() -> OpenApiRouter<App> {
    // What is told of an account is not kept anywhere.
    OpenApiRouter::with_openapi(Document::openapi()).merge(account::routes()).merge(of_barn())
}

/// What is told of a barn.
fn of_barn() -> OpenApiRouter<App> {
    OpenApiRouter::new()
        .merge(barn::routes())
        .merge(horses::routes())
        .merge(rides::routes())
        .merge(schedule::routes())
        .merge(patterns::routes())
        .merge(figures::routes())
        .merge(exercises::routes())
        .merge(scores::routes())
        .merge(tack::routes())
        .merge(cattle::routes())
        .merge(curriculum::routes())
        .routes(routes!(today::read))
        .routes(routes!(day::read))
        .routes(routes!(weather::read, weather::put))
        .layer(middleware::from_fn(conditional::conditional))
}

/// What is told line by line is not gathered to be compressed.
fn as_a_whole() -> impl Predicate {
    DefaultPredicate::new().and(NotForContentType::const_new("application/x-ndjson"))
}

/// The whole application.
pub fn app(state: App) -> Router {
    let (api, _) = routes().split_for_parts();
    let api = api
        .route("/api/{*rest}", axum::routing::any(|| async { Problem::unknown_route() }))
        .method_not_allowed_fallback(|| async { Problem::wrong_method() })
        .layer(middleware::from_fn(same_origin_only))
        .layer(middleware::map_response(no_store))
        .layer(middleware::from_fn(in_time))
        .layer(DefaultBodyLimit::max(1024 * 1024))
        .route("/calendar/{file}", axum::routing::get(schedule::feeds::read))
        .route("/healthz", axum::routing::get(health::alive))
        .route("/readyz", axum::routing::get(health::ready));
    let secure = state.options.secure_cookies;
    api.layer(CompressionLayer::new().quality(RESPONSES).compress_when(as_a_whole()))
        .merge(site(&state.options.site))
        .layer(middleware::map_response(move |response| security_headers(secure, response)))
        .layer(CompressionLayer::new().compress_when(as_a_whole()))
        .layer(CatchPanicLayer::custom(|_: Box<dyn std::any::Any + Send>| Problem::broken().into_response()))
        .layer(middleware::from_fn(observe))
        .with_state(state)
}

/// How hard responses are packed: of a day of 1.4 MB the default (6) makes 297 kB in 66 ms, this 335 kB in 21 ms. The site's files, which
/// a device fetches once, are packed by the default.
const RESPONSES: CompressionLevel = CompressionLevel::Precise(3);

/// Refuses requests that another site made the browser send.
async fn same_origin_only(request: Request, next: Next) -> Response {
    let unsafe_method = !matches!(*request.method(), Method::GET | Method::HEAD);
    let headers = request.headers();
    let foreign_fetch = headers.get("sec-fetch-site").is_some_and(|v| v != "same-origin" && v != "none");
    let origin = headers.get(header::ORIGIN).and_then(|v| v.to_str().ok());
    let host = headers.get(header::HOST).and_then(|v| v.to_str().ok());
    let foreign_origin = origin.is_some_and(|o| o.split_once("://").map(|(_, rest)| rest) != host);
    if unsafe_method && (foreign_fetch || foreign_origin) {
        return Problem::forbidden("The request comes from another site").into_response();
    }
    next.run(request).await
}

/// So long a request takes at the most, until its response begins.
const WHOLE: Duration = Duration::from_secs(60);

/// Gives a request up that takes too long: whoever sent it hears so.
async fn in_time(request: Request, next: Next) -> Response {
    match tokio::time::timeout(WHOLE, next.run(request)).await {
        Ok(response) => response,
        Err(_) => Problem::busy(5).into_response(),
    }
}

/// What does not say otherwise is not kept by the browser.
async fn no_store(mut response: Response) -> Response {
    let kept = response.headers_mut().entry(header::CACHE_CONTROL);
    kept.or_insert(HeaderValue::from_static("no-store"));
    response
}

async fn security_headers(secure: bool, mut response: Response) -> Response {
    // The styling library writes style elements as it runs, hence 'unsafe-inline' for styles alone.
    let policy = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; object-src 'none'; \
                  base-uri 'none'; form-action 'self'; frame-ancestors 'none'";
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_SECURITY_POLICY, HeaderValue::from_static(policy));
    headers.insert(header::X_CONTENT_TYPE_OPTIONS, HeaderValue::from_static("nosniff"));
    headers.insert(header::REFERRER_POLICY, HeaderValue::from_static("same-origin"));
    if secure {
        headers.insert(header::STRICT_TRANSPORT_SECURITY, HeaderValue::from_static("max-age=31536000"));
    }
    response
}
