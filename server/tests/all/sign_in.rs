//! The way in and out: first trainer, passwords, slowed guessing, forged requests, roles.

use axum::{
    body::Body,
    http::{Request, header},
};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, PASSWORD, first_barn};

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_new_installation_begins_with_one_first_trainer(db: PgPool) {
    let mut visitor = Client::new(&db);
    assert_eq!(visitor.get("/api/setup").await.is(200), json!({ "needs_first_trainer": true, "demo": false }));
    visitor.post("/api/demo-sign-in", json!({ "role": "trainer" })).await.is(404);
    let bad = json!({ "barn_name": " ", "time_zone": "Mars/Olympus", "name": "x".repeat(81), "email": "nobody", "password": "short" });
    let refused = visitor.post("/api/setup", bad).await.is(422);
    let fields: Vec<_> = refused["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect();
    assert_eq!(fields, ["barn_name", "name", "email", "password", "time_zone"]);

    let mut ada = first_barn(&db).await;
    let me = ada.get("/api/me").await.is(200);
    assert_eq!(
        (me["name"].as_str(), me["role"].as_str(), me["barn"]["name"].as_str()),
        (Some("Ada"), Some("trainer"), Some("Low Meadow"))
    );
    let second =
        json!({ "barn_name": "B", "time_zone": "UTC", "name": "C", "email": "c@d.example", "password": PASSWORD });
    visitor.post("/api/setup", second).await.is(409);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn passwords_are_kept_as_argon2id_and_checked(db: PgPool) {
    first_barn(&db).await;
    let hash: String = sqlx::query_scalar("select password_hash from account").fetch_one(&db).await.unwrap();
    assert!(hash.starts_with("$argon2id$"), "{hash}");
    let mut visitor = Client::new(&db);
    visitor.get("/api/today").await.is(401);
    let wrong =
        visitor.post("/api/sign-in", json!({ "email": "ada@low.example", "password": "not it at all" })).await.is(401);
    let unknown =
        visitor.post("/api/sign-in", json!({ "email": "eve@low.example", "password": "not it at all" })).await.is(401);
    let without_id = |mut body: Value| {
        body.as_object_mut().unwrap().remove("instance");
        body
    };
    assert_eq!(without_id(wrong), without_id(unknown), "an unknown address looks like a wrong password");
    visitor.sign_in("ADA@low.example").await;
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_cookie_is_out_of_reach_of_scripts_and_other_sites(db: PgPool) {
    first_barn(&db).await;
    let mut visitor = Client::new(&db);
    let body = json!({ "email": "ada@low.example", "password": PASSWORD }).to_string();
    let sign_in = |origin: &str| {
        Request::post("/api/sign-in")
            .header(header::CONTENT_TYPE, "application/json")
            .header("host", "barn.example")
            .header("origin", origin.to_owned())
            .body(Body::from(body.clone()))
            .unwrap()
    };
    let (status, ..) = visitor.raw(sign_in("https://elsewhere.example")).await;
    assert_eq!(status, 403);
    let (status, headers, _) = visitor.raw(sign_in("https://barn.example")).await;
    assert_eq!(status, 204);
    let cookie = headers[header::SET_COOKIE].to_str().unwrap();
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict") && cookie.contains("Path=/"), "{cookie}");
    let token = cookie.split(['=', ';']).nth(1).unwrap();
    let kept: Vec<Vec<u8>> = sqlx::query_scalar("select token_hash from session").fetch_all(&db).await.unwrap();
    assert!(kept.iter().all(|k| k != token.as_bytes()), "only a hash of the token is stored");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_change_without_the_sessions_token_is_refused(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let id = Uuid::new_v4();
    for wrong in ["", "not-the-token"] {
        let mut forged = Client { csrf: wrong.into(), ..ada.clone() };
        forged.put(&format!("/api/horses/{id}"), json!({ "name": "Forged" })).await.is(403);
    }
    ada.get(&format!("/api/horses/{id}")).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn signing_out_ends_this_session_and_everywhere_ends_all(db: PgPool) {
    let mut here = first_barn(&db).await;
    let mut there = Client::new(&db);
    there.sign_in("ada@low.example").await;
    let mut third = Client::new(&db);
    third.sign_in("ada@low.example").await;
    let kept = here.clone();
    here.post("/api/sign-out", json!(null)).await.is(204);
    kept.clone().get("/api/me").await.is(401);
    there.get("/api/me").await.is(200);
    there.post("/api/sign-out-everywhere", json!(null)).await.is(204);
    third.get("/api/me").await.is(401);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_session_that_ran_out_is_told_and_a_new_password_ends_old_ones(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (dee, email) = ada.person("Dee", "assistant").await;
    let mut as_dee = Client::new(&db);
    as_dee.sign_in(&email).await;
    let token = ada.link(dee).await;
    ada.visitor().post("/api/links/use", json!({ "token": token, "password": PASSWORD })).await.is(204);
    as_dee.get("/api/me").await.is(401);
    sqlx::query("update session set expires_at = now() - interval '1 second'").execute(&db).await.unwrap();
    let told = ada.get("/api/today").await.is(401);
    assert_eq!(told["type"], "/problems/signed-out");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn roles_hold(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (owner_id, owner) = ada.person("Olive", "owner").await;
    let (_, assistant) = ada.person("Dee", "assistant").await;
    let hers = Uuid::new_v4();
    ada.put(&format!("/api/horses/{hers}"), json!({ "name": "Hers", "owner_id": owner_id })).await.is(201);
    let other = ada.horse("Another's").await;
    let ride = ada.ride(other).await;

    let mut olive = Client::new(&db);
    olive.sign_in(&owner).await;
    let seen = olive.get("/api/horses").await.is(200);
    assert_eq!(seen["items"].as_array().unwrap().len(), 1);
    for path in [
        format!("/api/horses/{other}"),
        format!("/api/horses/{other}/standing"),
        format!("/api/horses/{other}/rides"),
        format!("/api/rides/{ride}"),
    ] {
        olive.get(&path).await.is(404);
    }
    assert_eq!(olive.get("/api/today").await.is(200)["rides"], json!([]));
    olive
        .put(
            &format!("/api/rides/{}", Uuid::new_v4()),
            crate::support::ride_body(hers, owner_id, crate::support::today()),
        )
        .await
        .is(403);

    let mut dee = Client::new(&db);
    dee.sign_in(&assistant).await;
    dee.ride(other).await;
    dee.put(&format!("/api/horses/{}", Uuid::new_v4()), json!({ "name": "No" })).await.is(403);
    let people = dee.get("/api/people").await.is(200);
    assert!(people["items"].as_array().unwrap().iter().all(|p| p.get("email").is_none()));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_last_trainer_cannot_leave(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let id = ada.my_id().await;
    let path = format!("/api/people/{id}");
    let archive =
        json!({ "version": 1, "name": "Ada", "email": "ada@low.example", "role": "trainer", "archived": true });
    ada.put(&path, archive.clone()).await.names(422, "role");
    ada.person("Cal", "trainer").await;
    ada.put(&path, archive).await.is(200);
    ada.get("/api/me").await.is(401);
}
