//! The built site: fingerprinted files are kept by the browser for good, the page itself is asked for each time.

use std::path::Path;

use axum::{
    Router,
    extract::Request,
    http::{HeaderValue, header},
    middleware::{self, Next},
    response::Response,
};
use tower_http::services::{ServeDir, ServeFile};

pub(crate) fn site<S: Clone + Send + Sync + 'static>(folder: &Path) -> Router<S> {
    let page = ServeFile::new(folder.join("index.html"));
    // A file that a newer build no longer has is not there: the page in its place would be kept as a script.
    let files = ServeDir::new(folder.join("assets")).precompressed_gzip();
    Router::new()
        .nest_service("/assets", files)
        .fallback_service(ServeDir::new(folder).precompressed_gzip().fallback(page))
        .layer(middleware::from_fn(cache_headers))
}

async fn cache_headers(request: Request, next: Next) -> Response {
    let fingerprinted = request.uri().path().starts_with("/assets/");
    let mut response = next.run(request).await;
    let for_good = fingerprinted && response.status().is_success();
    let value = if for_good { "public, max-age=31536000, immutable" } else { "no-cache" };
    response.headers_mut().insert(header::CACHE_CONTROL, HeaderValue::from_static(value));
    response
}
