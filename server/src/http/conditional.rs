//! Responses that are only sent where they are not the ones that the asker has.
//!
//! A page asks for the same things again and again. Each response carries a hash of itself as its `ETag`; the browser keeps it, asks
//! whether it is still good, and hears 304 where it is. Such a response is never an old one, but it is neither packed nor sent.

use axum::{
    body::{Body, HttpBody, to_bytes},
    extract::Request,
    http::{HeaderMap, HeaderValue, Method, StatusCode, header},
    middleware::Next,
    response::{IntoResponse, Response},
};

use crate::{Problem, services::responses::tag};

/// Adds an `ETag` to JSON that is read, and says only that nothing changed to someone who has it.
pub(super) async fn conditional(request: Request, next: Next) -> Response {
    let is_read = request.method() == Method::GET;
    let has = request.headers().get_all(header::IF_NONE_MATCH).iter().cloned().collect::<Vec<_>>();
    let response = next.run(request).await;
    if !is_read || response.status() != StatusCode::OK || !is_whole_json(&response) {
        return response;
    }
    let (mut parts, body) = response.into_parts();
    // It is in memory already, so it can be as long as it is.
    let Ok(body) = to_bytes(body, usize::MAX).await else { return Problem::broken().into_response() };
    // One that is kept brings its tag along.
    let told = parts.headers.get(header::ETAG).cloned();
    let Some(tag) = told.or_else(|| tag(&body)) else { return Response::from_parts(parts, Body::from(body)) };
    parts.headers.insert(header::ETAG, tag.clone());
    // The browser may keep it for this person, and asks each time.
    parts.headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("private, no-cache"));
    if has.iter().any(|list| names(list, &tag)) {
        return unchanged(&parts.headers);
    }
    Response::from_parts(parts, Body::from(body))
}

/// Whether a response is JSON of which all is there: what is told line by line is passed on as it comes.
fn is_whole_json(response: &Response) -> bool {
    let of_type = response.headers().get(header::CONTENT_TYPE);
    of_type.is_some_and(|t| t == "application/json") && response.body().size_hint().exact().is_some()
}

/// Whether a list of tags, as it is sent, has one or any (RFC 9110, 13.1.2). Tags are compared weakly.
fn names(list: &HeaderValue, tag: &HeaderValue) -> bool {
    let (Ok(list), Ok(tag)) = (list.to_str(), tag.to_str()) else { return false };
    let bare = |tag: &str| tag.trim().trim_start_matches("W/").to_owned();
    list.trim() == "*" || list.split(',').any(|one| bare(one) == bare(tag))
}

fn unchanged(headers: &HeaderMap) -> Response {
    let mut response = StatusCode::NOT_MODIFIED.into_response();
    for name in [header::ETAG, header::CACHE_CONTROL] {
        if let Some(value) = headers.get(&name) {
            response.headers_mut().insert(name, value.clone());
        }
    }
    response
}
