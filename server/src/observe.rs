//! What whoever runs the server can see: each request under an id that its problem carries, and figures for Prometheus.

use std::time::Instant;

use axum::{
    Router,
    extract::{MatchedPath, Request},
    http::{HeaderValue, header},
    middleware::Next,
    response::Response,
    routing::get,
};
use metrics::{counter, gauge, histogram};
use metrics_exporter_prometheus::{BuildError, Matcher, PrometheusBuilder, PrometheusHandle};
use sqlx::PgPool;
use tracing::{Instrument, info_span};
use uuid::Uuid;

tokio::task_local! {
    static REQUEST: Uuid;
}

/// The id of the request that is being answered, if one is.
pub(crate) fn request_id() -> Option<Uuid> {
    REQUEST.try_with(|id| *id).ok()
}

/// Gives a request its id, and counts and times it by its route. Addresses are never written down: some hold tokens.
pub(crate) async fn observe(request: Request, next: Next) -> Response {
    let id = Uuid::new_v4();
    let route = request.extensions().get::<MatchedPath>().map_or("none", MatchedPath::as_str).to_owned();
    let method = request.method().as_str().to_owned();
    let span = info_span!("request", %id, method, route);
    let since = Instant::now();
    let mut response = REQUEST.scope(id, next.run(request).instrument(span.clone())).await;
    let (status, took) = (response.status(), since.elapsed());
    let labels = [("route", route), ("method", method)];
    histogram!("http_request_seconds", &labels).record(took.as_secs_f64());
    counter!("http_requests_total", &[labels.as_slice(), &[("status", status.as_str().to_owned())]].concat())
        .increment(1);
    let millis = took.as_millis();
    span.in_scope(|| match status.as_u16() {
        500.. => tracing::error!(status = status.as_u16(), millis, "answered"),
        _ => tracing::debug!(status = status.as_u16(), millis, "answered"),
    });
    if let Ok(value) = HeaderValue::from_str(&id.to_string()) {
        response.headers_mut().insert("x-request-id", value);
    }
    response
}

/// Bounds of the times that are counted, in seconds: pages take milliseconds, searches seconds.
const TIMES: [f64; 11] = [0.001, 0.003, 0.01, 0.03, 0.1, 0.3, 1.0, 3.0, 10.0, 30.0, 60.0];
/// Bounds of the ages at which reps arrive, in seconds: at once, after a ride without network, after days.
const AGES: [f64; 8] = [1.0, 10.0, 60.0, 600.0, 3_600.0, 21_600.0, 86_400.0, 604_800.0];

/// Begins to gather figures. Once in a process.
///
/// # Errors
/// Something gathers them already.
pub fn gather() -> Result<PrometheusHandle, BuildError> {
    PrometheusBuilder::new()
        .set_buckets_for_metric(Matcher::Suffix("_seconds".to_owned()), &TIMES)?
        .set_buckets_for_metric(Matcher::Full("rep_age_seconds".to_owned()), &AGES)?
        .install_recorder()
}

/// The figures, on an address of their own: they are not for whoever can reach the application.
pub fn figures(handle: PrometheusHandle, db: PgPool) -> Router {
    let read = move || {
        let (handle, db) = (handle.clone(), db.clone());
        async move {
            gauge!("database_connections").set(db.size());
            gauge!("database_connections_idle").set(db.num_idle() as f64);
            handle.run_upkeep();
            ([(header::CONTENT_TYPE, "text/plain; version=0.0.4")], handle.render())
        }
    };
    Router::new().route("/metrics", get(read))
}
