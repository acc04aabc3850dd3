//! What the server tells whoever runs it: ids, figures and a log, and no secret in any of them.

use std::{
    io,
    sync::{Arc, Mutex},
};

use axum::{body::Body, http::Request};
use cavesson::{http, observe};
use http_body_util::BodyExt;
use serde_json::{Value, json};
use sqlx::PgPool;
use tower::ServiceExt;
use tracing::instrument::WithSubscriber;
use uuid::Uuid;

use crate::support::{PASSWORD, first_barn};

/// A log that is kept to be read.
#[derive(Clone, Default)]
struct Kept(Arc<Mutex<Vec<u8>>>);

impl io::Write for Kept {
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
        self.0.lock().unwrap().write(bytes)
    }
    fn flush(&mut self) -> io::Result<()> {
        Ok(())
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_problem_carries_the_id_that_the_log_has_its_request_under(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let kept = Kept::default();
    let writer = kept.clone();
    let log =
        tracing_subscriber::fmt().json().with_max_level(tracing::Level::TRACE).with_writer(move || writer.clone());
    let (headers, body) = async {
        // A table is gone from under the server.
        sqlx::query("alter table ride rename to ride_gone").execute(&db).await.unwrap();
        let request = Request::get("/api/today").header("cookie", ada.cookie.clone().unwrap());
        let (status, headers, body) = ada.raw(request.body(Body::empty()).unwrap()).await;
        assert_eq!(status, 500);
        (headers, serde_json::from_slice::<Value>(&body).unwrap())
    }
    .with_subscriber(log.finish())
    .await;
    let id = headers["x-request-id"].to_str().unwrap();
    assert_eq!(body["instance"], format!("urn:uuid:{id}"));
    let log = String::from_utf8(kept.0.lock().unwrap().clone()).unwrap();
    let of_request: Vec<Value> =
        log.lines().filter(|l| l.contains(id)).map(|l| serde_json::from_str(l).unwrap()).collect();
    let cause = of_request.iter().find(|l| l["fields"]["message"] == "a query failed").unwrap();
    assert!(cause["fields"]["error"].as_str().unwrap().contains("ride"), "{cause}");
    assert_eq!(cause["span"]["route"], "/api/today");
    assert!(of_request.iter().any(|l| l["fields"]["status"] == 500));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_token_and_no_password_is_logged_at_any_level(db: PgPool) {
    let kept = Kept::default();
    let writer = kept.clone();
    let log = tracing_subscriber::fmt().with_max_level(tracing::Level::TRACE).with_writer(move || writer.clone());
    let secrets = async {
        let mut ada = first_barn(&db).await;
        let (dee, email) = ada.person("Dee", "assistant").await;
        let feed = json!({ "person_id": dee });
        let feed = ada.put(&format!("/api/feeds/{}", Uuid::new_v4()), feed).await.is(201);
        let address = feed["address"].as_str().unwrap().to_owned();
        ada.get(&address).await.is(200);
        let link = ada.link(dee).await;
        ada.visitor().post("/api/links/look", json!({ "token": link })).await.is(200);
        ada.visitor().post("/api/sign-in", json!({ "email": email, "password": "wrong-but-close" })).await.is(401);
        let session = ada.cookie.clone().unwrap().split_once('=').unwrap().1.to_owned();
        let token = address.trim_start_matches("/calendar/").trim_end_matches(".ics").to_owned();
        [token, link, session, ada.csrf.clone(), "wrong-but-close".to_owned(), PASSWORD.to_owned()]
    }
    .with_subscriber(log.finish())
    .await;
    let log = String::from_utf8(kept.0.lock().unwrap().clone()).unwrap();
    assert!(log.contains("/calendar/{file}"), "the log is there: {}", log.len());
    for secret in secrets {
        assert!(!log.contains(&secret), "{secret} is in the log");
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn figures_are_told_by_route_on_an_address_of_their_own(db: PgPool) {
    let handle = observe::gather().unwrap();
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Pilgrim").await;
    ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
    let figures = observe::figures(handle, db.clone());
    let answer = figures.oneshot(Request::get("/metrics").body(Body::empty()).unwrap()).await.unwrap();
    let text = String::from_utf8(answer.into_body().collect().await.unwrap().to_bytes().to_vec()).unwrap();
    for figure in [
        "http_requests_total{route=\"/api/horses/{id}/standing\",method=\"GET\",status=\"200\"}",
        "http_request_seconds_bucket{route=\"/api/setup\",method=\"POST\",le=\"60\"}",
        "compute_seconds_count{pool=\"pages\"}",
        "standings_computed_total",
        "database_connections ",
    ] {
        assert!(text.contains(figure), "{figure} is not in {text}");
    }
    assert!(!text.contains(&horse.to_string()), "a route is not an address");
    let (status, ..) = ada.raw(Request::get("/metrics").body(Body::empty()).unwrap()).await;
    assert_eq!(status, 404);
    assert!(!http::openapi().paths.paths.contains_key("/metrics"));
}
