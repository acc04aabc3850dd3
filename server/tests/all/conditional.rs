//! Answers that the asker has already: RFC 9110, 13.1.2 and 15.4.5.

use axum::{
    body::Body,
    http::{HeaderMap, Request, StatusCode, header},
};
use sqlx::PgPool;

use crate::support::{Client, first_barn};

/// Asks for something of which these tags are at hand.
async fn get(client: &mut Client, path: &str, tags: &[&str]) -> (StatusCode, HeaderMap, Vec<u8>) {
    let mut request = Request::get(path);
    for cookie in client.cookie.iter().chain(&client.device) {
        request = request.header(header::COOKIE, cookie);
    }
    for tag in tags {
        request = request.header(header::IF_NONE_MATCH, *tag);
    }
    client.raw(request.body(Body::empty()).unwrap()).await
}

fn tag(headers: &HeaderMap) -> String {
    headers[header::ETAG].to_str().unwrap().to_owned()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_someone_has_is_not_sent_again_until_it_is_another(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Wren").await;
    for path in ["/api/today", "/api/day", "/api/horses", "/api/curriculum", &format!("/api/horses/{horse}/standing")] {
        let (status, headers, body) = get(&mut ada, path, &[]).await;
        assert_eq!((status, &headers[header::CACHE_CONTROL]), (StatusCode::OK, &"private, no-cache".parse().unwrap()));
        assert!(!body.is_empty());
        let tag = tag(&headers);
        let other = "W/\"0\", \"another\"";
        for had in [&[tag.as_str()][..], &[other, tag.as_str()], &[&format!("{other}, {tag}")], &["*"]] {
            let (status, headers, body) = get(&mut ada, path, had).await;
            assert_eq!((status, body.len()), (StatusCode::NOT_MODIFIED, 0), "{path} {had:?}");
            assert_eq!(headers[header::ETAG], tag);
        }
        let (status, ..) = get(&mut ada, path, &[other]).await;
        assert_eq!(status, StatusCode::OK);
    }
    let (_, headers, _) = get(&mut ada, "/api/horses", &[]).await;
    let before = tag(&headers);
    ada.horse("Juniper").await;
    let (status, headers, body) = get(&mut ada, "/api/horses", &[&before]).await;
    assert_eq!(status, StatusCode::OK);
    assert_ne!(tag(&headers), before);
    assert!(String::from_utf8(body).unwrap().contains("Juniper"));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_is_told_of_an_account_is_kept_nowhere_and_a_tag_opens_nothing(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (_, headers, _) = get(&mut ada, "/api/me", &["*"]).await;
    assert_eq!(headers[header::CACHE_CONTROL], "no-store");
    assert!(!headers.contains_key(header::ETAG));
    let (_, headers, _) = get(&mut ada, "/api/horses", &[]).await;
    let tag = tag(&headers);
    let mut visitor = ada.visitor();
    let (status, headers, _) = get(&mut visitor, "/api/horses", &[&tag]).await;
    assert_eq!((status, headers.contains_key(header::ETAG)), (StatusCode::UNAUTHORIZED, false));
    // What is refused is refused again.
    let (status, ..) = get(&mut ada, "/api/horses/not-an-id", &["*"]).await;
    assert_eq!(status, StatusCode::BAD_REQUEST);
    // Whoever signs out leaves nothing behind in the browser.
    let sign_out = Request::post("/api/sign-out").header("x-csrf-token", ada.csrf.clone());
    let sign_out = sign_out.header(header::COOKIE, ada.cookie.clone().unwrap()).body(Body::empty()).unwrap();
    let (status, headers, _) = ada.raw(sign_out).await;
    assert_eq!((status, &headers["clear-site-data"]), (StatusCode::NO_CONTENT, &"\"cache\"".parse().unwrap()));
}
