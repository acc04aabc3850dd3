//! What must not come in, and what the server says when it cannot do its work.

use axum::{
    body::Body,
    http::{Method, Request, StatusCode, header},
};
use cavesson::{App, Options, http, listen};
use serde_json::json;
use sqlx::PgPool;
use tokio::{
    io::{AsyncReadExt, AsyncWriteExt},
    net::{TcpListener, TcpStream},
};
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, today};

async fn plain(client: &mut Client, path: &str) -> (StatusCode, String) {
    let (status, _, body) = client.raw(Request::builder().uri(path).body(Body::empty()).unwrap()).await;
    (status, String::from_utf8_lossy(&body).into_owned())
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn characters_that_cannot_be_kept_or_seen_are_refused_at_every_door(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let path = format!("/api/horses/{}", Uuid::new_v4());
    // Escape, next line, an override and an isolate of direction (Unicode Standard Annex 9), and a name of two lines.
    for name in ["Ju\u{1b}niper", "Ju\u{85}niper", "Ju\u{202e}repin", "Ju\u{2066}niper", "Ju\nniper"] {
        ada.put(&path, json!({ "name": name })).await.names(422, "name");
    }
    ada.put(&path, json!({ "name": "Zoë of the Łąka", "note": "two\nlines\tand a tab" })).await.is(201);
    // NUL is refused before any field is looked at: in a name, a cow, a word of the barn's own.
    let ride = ada.ride(horse).await;
    let mut rep = rep_body(Uuid::new_v4(), "S1", "stand", "left");
    rep["set"]["cow"] = json!("red\0cow");
    ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.names(422, "set.cow");
    ada.put("/api/aliases", json!({ "word": "flex\0", "rung": "S1" })).await.names(422, "word");
    let said = json!({ "said_by": "Owner", "claims": [{ "id": Uuid::new_v4(), "step": "S1\0" }] });
    ada.put(&format!("/api/horses/{horse}/claims"), said).await.names(422, "claims[0].step");
    // A backslash before it is text.
    let written = json!({ "version": 1, "name": "Zoë", "note": "\\u0000 is how it is written" });
    assert_eq!(ada.put(&path, written).await.is(200)["note"], "\\u0000 is how it is written");
    let answer = json!({ "side": "both", "answer": "well" });
    ada.put(&format!("/api/rides/{ride}/checks/te%00eth"), answer).await.names(422, "check");
    // A body ends where its JSON ends.
    let token = ada.csrf.clone();
    let cookie = ada.cookie.clone().unwrap();
    let request = |kind: &str, body: &'static str| {
        let request = Request::builder().method("PUT").uri(&path).header(header::CONTENT_TYPE, kind);
        request.header("x-csrf-token", &token).header(header::COOKIE, &cookie).body(Body::from(body)).unwrap()
    };
    for (kind, body, status) in [
        ("application/json", "{\"name\":\"A\"} {}", StatusCode::BAD_REQUEST),
        ("text/plain", "{\"name\":\"A\"}", StatusCode::UNSUPPORTED_MEDIA_TYPE),
        ("application/json; charset=utf-8", "[]", StatusCode::UNPROCESSABLE_ENTITY),
    ] {
        assert_eq!(ada.raw(request(kind, body)).await.0, status, "{kind} {body}");
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_day_before_1990_or_after_2199_comes_in_at_no_door(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, rider) = (ada.horse("Juniper").await, ada.my_id().await);
    let id = Uuid::new_v4();
    for day in ["-0044-03-15", "0001-01-01", "1989-12-31", "2200-01-01", "+10000-01-01"] {
        for (path, field, body) in [
            (
                format!("/api/rides/{id}"),
                "date",
                json!({ "horse_id": horse, "rider_id": rider, "place": "arena", "entered": "pen" }),
            ),
            (
                format!("/api/horses/{horse}/gear/{id}"),
                "since",
                json!({ "kind": "saddle", "name": "S", "mouthpiece": null }),
            ),
            (
                format!("/api/horses/{horse}/layoffs/{id}"),
                "off_since",
                json!({ "back_on": "2026-03-02", "why": "rest" }),
            ),
            (
                format!("/api/away/{id}"),
                "day",
                json!({ "horse_id": horse, "from": "00:00", "to": "24:00", "why": "x" }),
            ),
            (
                format!("/api/horses/{horse}/incidents/{id}"),
                "happened_on",
                json!({ "kind": "bucked", "rider_id": rider, "before": "x", "may_ride": "nobody" }),
            ),
        ] {
            let mut body = body;
            body[field] = json!(day);
            ada.put(&path, body).await.names(422, field);
        }
        let written = json!({ "id": id, "form": "shorthand", "text": "S1 L 3/5 egg", "date": day, "dry_run": true });
        ada.post("/api/shorthand", written).await.names(422, "date");
        for path in [
            format!("/api/weeks/{day}"),
            format!("/api/horses/{horse}/forecast?by={day}"),
            format!("/api/horses/{horse}/planned?date={day}"),
            format!("/api/appointments?from={day}"),
        ] {
            let path = path.replace('+', "%2B");
            let status = ada.get(&path).await.status.as_u16();
            assert!([400, 404, 422].contains(&status), "{path} gives {status}");
        }
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn without_its_database_the_server_says_so_and_asks_to_come_again(db: PgPool) {
    let mut ada = first_barn(&db).await;
    assert_eq!(plain(&mut ada, "/healthz").await, (StatusCode::OK, "alive\n".into()));
    assert_eq!(plain(&mut ada, "/readyz").await, (StatusCode::OK, "ready\n".into()));
    sqlx::query("delete from _sqlx_migrations where version = (select max(version) from _sqlx_migrations)")
        .execute(&db)
        .await
        .unwrap();
    assert_eq!(plain(&mut ada, "/readyz").await.0, StatusCode::SERVICE_UNAVAILABLE, "an older schema");
    db.close().await;
    assert_eq!(plain(&mut ada, "/readyz").await.0, StatusCode::SERVICE_UNAVAILABLE);
    assert_eq!(plain(&mut ada, "/healthz").await.0, StatusCode::OK, "alive all the same");
    let gone = ada.get("/api/today").await.is(503);
    assert!(gone["detail"].as_str().unwrap().contains("can be sent again"), "{gone}");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn of_a_text_of_nothing_but_typos_the_first_are_offered_the_nearest_word(db: PgPool) {
    let mut ada = first_barn(&db).await;
    ada.horse("Juniper").await;
    let text = "Juniper: flx Lft 6x8 eeg\n".repeat(1_500);
    let body = json!({ "id": Uuid::new_v4(), "form": "shorthand", "text": text, "date": today(), "dry_run": true });
    let told = ada.post("/api/shorthand", body).await.is(200);
    let diagnostics = told["diagnostics"].as_array().unwrap();
    assert!(diagnostics.len() >= 1_500 * 4, "{}", diagnostics.len());
    let offered = diagnostics.iter().filter(|d| !d["nearest"].is_null()).count();
    assert!((1..=60).contains(&offered), "the first so many are offered the nearest word: {offered}");
}

/// Thirty at once: each waits for the others, none fails, and one of them stands.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_many_save_at_once_is_saved_by_each_in_turn(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let ride = ada.ride(horse).await;
    let mut saddles = vec![];
    for name in ["Old saddle", "New saddle"] {
        let id = Uuid::new_v4();
        let saddle = json!({ "kind": "saddle", "name": name, "mouthpiece": null, "since": today() });
        ada.put(&format!("/api/horses/{horse}/gear/{id}"), saddle).await.is(201);
        saddles.push(id);
    }
    let all = (0..30).map(|n| {
        let (mut ada, saddle) = (ada.clone(), saddles[n % 2]);
        tokio::spawn(async move {
            let hours = json!({ "hours": [{ "weekday": 0, "from": "07:00", "to": format!("{:02}:00", 8 + n % 10) }] });
            let hours = ada.put(&format!("/api/people/{me}/hours"), hours).await.status;
            let gear = ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [saddle] })).await.status;
            (hours, gear)
        })
    });
    for saved in all.collect::<Vec<_>>() {
        assert_eq!(saved.await.unwrap(), (StatusCode::OK, StatusCode::OK));
    }
    let worn: i64 = sqlx::query_scalar("select count(*) from ride_gear").fetch_one(&db).await.unwrap();
    let hours: i64 = sqlx::query_scalar("select count(*) from person_hours").fetch_one(&db).await.unwrap();
    assert_eq!((worn, hours), (1, 1), "the last of each stands alone");
}

/// A ride is taken off its day while someone logs on it: the rep is kept, every time.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_rep_is_lost_to_a_ride_that_is_dropped_in_that_very_moment(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    for n in 0..30 {
        let ride = ada.ride(horse).await;
        let (mut one, mut other) = (ada.clone(), ada.clone());
        let rep = Uuid::new_v4();
        let drop =
            tokio::spawn(async move { other.call(Method::DELETE, &format!("/api/rides/{ride}"), None).await.status });
        let logged = tokio::spawn(async move {
            let body = rep_body(Uuid::new_v4(), "S1", "stand", "left");
            one.put(&format!("/api/rides/{ride}/reps/{rep}"), body).await.status
        });
        let (drop, logged) = (drop.await.unwrap(), logged.await.unwrap());
        assert_eq!(logged, StatusCode::CREATED, "round {n}");
        assert!([StatusCode::NO_CONTENT, StatusCode::CONFLICT].contains(&drop), "round {n}: {drop}");
        let kept = ada.get(&format!("/api/rides/{ride}")).await.is(200);
        assert_eq!(kept["reps"], 1, "round {n}, {drop}");
    }
}

/// Hundreds that send half a request do not keep others waiting, and the end does not wait for them.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn half_sent_requests_keep_nobody_waiting(db: PgPool) {
    let options = Options { site: "no-site".into(), ..Options::default() };
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap();
    let (stop, stopped) = tokio::sync::oneshot::channel::<()>();
    let app = http::app(App::new(db, options));
    let server = tokio::spawn(listen::serve(listener, app, async move {
        let _ = stopped.await;
    }));
    let mut half_sent = vec![];
    for _ in 0..300 {
        let mut stream = TcpStream::connect(address).await.unwrap();
        stream.write_all(b"POST /api/sign-in HTTP/1.1\r\nhost: barn\r\n").await.unwrap();
        half_sent.push(stream);
    }
    for _ in 0..20 {
        let mut stream = TcpStream::connect(address).await.unwrap();
        stream.write_all(b"GET /healthz HTTP/1.1\r\nhost: barn\r\nconnection: close\r\n\r\n").await.unwrap();
        let mut answer = String::new();
        stream.read_to_string(&mut answer).await.unwrap();
        assert!(answer.starts_with("HTTP/1.1 200") && answer.ends_with("alive\n"), "{answer}");
    }
    stop.send(()).unwrap();
    server.await.unwrap();
    assert!(TcpStream::connect(address).await.is_err(), "it has ended");
}
