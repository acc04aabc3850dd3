//! The built site as the server gives it out.

use std::{fs, path::PathBuf};

use axum::{
    body::Body,
    http::{HeaderMap, Request, StatusCode, header},
};
use cavesson::Options;
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::Client;

/// A folder as the build leaves it, gone with the test.
struct Built(PathBuf);

impl Built {
    fn new() -> Built {
        let folder = std::env::temp_dir().join(format!("cavesson-site-{}", Uuid::new_v4()));
        fs::create_dir_all(folder.join("assets")).unwrap();
        let page = format!("<!doctype html><title>Cavesson</title>{}", " ".repeat(2_000));
        fs::write(folder.join("index.html"), page).unwrap();
        fs::write(folder.join("assets/page-1a2b.js"), "export const page = 1;".repeat(200)).unwrap();
        fs::write(folder.join("worker.js"), "self.skipWaiting();").unwrap();
        Built(folder)
    }
}

impl Drop for Built {
    fn drop(&mut self) {
        let _ = fs::remove_dir_all(&self.0);
    }
}

async fn get(client: &mut Client, path: &str, accepts: &str) -> (StatusCode, HeaderMap, Vec<u8>) {
    let request = Request::builder().uri(path).header(header::ACCEPT_ENCODING, accepts);
    client.raw(request.body(Body::empty()).unwrap()).await
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn files_are_kept_for_good_the_page_is_asked_for_each_time_and_what_is_gone_is_gone(db: PgPool) {
    let built = Built::new();
    let options = Options { site: built.0.clone(), ..Options::default() };
    let mut client = Client::with(&db, options);

    let (status, headers, body) = get(&mut client, "/assets/page-1a2b.js", "identity").await;
    assert_eq!(
        (status, headers[header::CACHE_CONTROL].to_str().unwrap()),
        (StatusCode::OK, "public, max-age=31536000, immutable")
    );
    assert!(headers[header::CONTENT_TYPE].to_str().unwrap().contains("javascript") && body.starts_with(b"export"));
    let (_, packed, small) = get(&mut client, "/assets/page-1a2b.js", "gzip").await;
    assert_eq!(packed[header::CONTENT_ENCODING], "gzip");
    assert!(small.len() < body.len());

    // Every address of the application is its page, which a newer build may replace at any time.
    for path in ["/", "/week", "/horses/some-id", "/index.html"] {
        let (status, headers, body) = get(&mut client, path, "identity").await;
        assert_eq!((status, &headers[header::CACHE_CONTROL]), (StatusCode::OK, &"no-cache".parse().unwrap()), "{path}");
        assert!(body.starts_with(b"<!doctype html>"), "{path}");
        assert!(headers.contains_key(header::CONTENT_SECURITY_POLICY), "{path}");
    }
    let (_, headers, _) = get(&mut client, "/worker.js", "identity").await;
    assert_eq!(headers[header::CACHE_CONTROL], "no-cache");

    // A script of an older build is not answered with the page, nor remembered as one.
    let (status, headers, body) = get(&mut client, "/assets/page-0000.js", "identity").await;
    assert_eq!((status, &headers[header::CACHE_CONTROL]), (StatusCode::NOT_FOUND, &"no-cache".parse().unwrap()));
    assert!(!body.starts_with(b"<!doctype html>"));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn nothing_outside_of_the_folder_is_given_out(db: PgPool) {
    let built = Built::new();
    let secret =
        built.0.parent().unwrap().join(format!("{}-secret.txt", built.0.file_name().unwrap().to_str().unwrap()));
    fs::write(&secret, "not for you").unwrap();
    let name = secret.file_name().unwrap().to_str().unwrap().to_owned();
    let options = Options { site: built.0.clone(), ..Options::default() };
    let mut client = Client::with(&db, options);
    for path in [
        format!("/../{name}"),
        format!("/%2e%2e/{name}"),
        format!("/assets/../../{name}"),
        format!("/assets/%2e%2e%2f%2e%2e%2f{name}"),
    ] {
        let (_, _, body) = get(&mut client, &path, "identity").await;
        assert!(!String::from_utf8_lossy(&body).contains("not for you"), "{path}");
    }
    let (_, _, api) = get(&mut client, "/api/no-such-thing", "identity").await;
    assert!(String::from_utf8_lossy(&api).contains("\"status\":404"), "what is under /api is never the page");
    fs::remove_file(secret).unwrap();
}
