//! Accounts under attack and in use: guessing, links, one-time codes, devices, the password asked again, the security log.

use std::collections::BTreeMap;

use axum::{
    body::Body,
    http::{Request, header},
};
use cavesson::{Options, http};
use serde_json::{Value, json};
use sqlx::PgPool;
use totp_rs::{Builder, Secret};
use uuid::Uuid;

use crate::support::{Client, PASSWORD, first_barn};

const ADA: &str = "ada@low.example";

fn guess(email: &str) -> Value {
    json!({ "email": email, "password": "guess after guess" })
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn sixty_guesses_at_once_are_counted_before_a_password_is_checked(db: PgPool) {
    let ada = first_barn(&db).await;
    let guesses: Vec<_> = (0..60)
        .map(|_| {
            let mut guesser = ada.visitor();
            tokio::spawn(async move { guesser.post("/api/sign-in", guess(ADA)).await })
        })
        .collect();
    let mut by_status = BTreeMap::new();
    for guess in guesses {
        let answer = guess.await.unwrap();
        if answer.status == 429 {
            assert!(answer.body["retry_after"].as_u64().unwrap() >= 1);
        }
        *by_status.entry(answer.status.as_u16()).or_insert(0) += 1;
    }
    assert_eq!(by_status, BTreeMap::from([(401, 5), (429, 55)]));
    sqlx::query("update sign_in_attempt set at = now()").execute(&db).await.unwrap();
    ada.visitor().post("/api/sign-in", json!({ "email": ADA, "password": PASSWORD })).await.is(429);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_stranger_who_guesses_does_not_lock_a_known_device_out(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (_, other) = ada.person("Dee", "assistant").await;
    let mut stranger = ada.visitor();
    for _ in 0..5 {
        stranger.post("/api/sign-in", guess(ADA)).await.is(401);
    }
    // Hashing takes as long as it takes; the wait is from the last of them.
    let just_now = async || sqlx::query("update sign_in_attempt set at = now()").execute(&db).await.unwrap();
    just_now().await;
    stranger.post("/api/sign-in", guess(ADA)).await.is(429);
    stranger.sign_in(&other).await;
    ada.post("/api/sign-out", json!(null)).await.is(204);
    // The same browser, signed out: its device is known.
    ada.sign_in(ADA).await;
    just_now().await;
    let mut forged = Client { device: Some("cavesson_device=made-up".into()), ..ada.visitor() };
    forged.post("/api/sign-in", guess(ADA)).await.is(429);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn one_address_that_tries_many_accounts_is_slowed_down(db: PgPool) {
    first_barn(&db).await;
    let mut client = Client::with(&db, Options { site: "no-site".into(), behind_proxy: true, ..Options::default() });
    let from = |address: &str, n: usize| {
        Request::post("/api/sign-in")
            .header(header::CONTENT_TYPE, "application/json")
            .header("x-forwarded-for", format!("10.9.8.7, {address}"))
            .body(Body::from(guess(&format!("nobody{n}@low.example")).to_string()))
            .unwrap()
    };
    for n in 0..40 {
        assert_eq!(client.raw(from("203.0.113.5", n)).await.0, 401, "guess {n}");
    }
    assert_eq!(client.raw(from("203.0.113.5", 40)).await.0, 429);
    assert_eq!(client.raw(from("203.0.113.6", 41)).await.0, 401, "another address is not held up");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_link_sets_a_password_once(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let id = Uuid::new_v4();
    let dee = json!({ "name": "Dee", "email": "dee@low.example", "role": "assistant" });
    ada.put(&format!("/api/people/{id}"), dee).await.is(201);
    let replaced = ada.link(id).await;
    let token = ada.link(id).await;
    let mut visitor = ada.visitor();
    let ended = visitor.post("/api/links/look", json!({ "token": replaced })).await.is(404);
    assert_eq!(ended["type"], "/problems/link-ended");
    let whose = visitor.post("/api/links/look", json!({ "token": token })).await.is(200);
    assert_eq!((&whose["name"], &whose["barn"], &whose["is_new"]), (&json!("Dee"), &json!("Low Meadow"), &json!(true)));
    for weak in ["short", "password1234", "qwertyuiopas", "dee@low.example", "aaaaaaaaaaaaaaaa"] {
        visitor.post("/api/links/use", json!({ "token": token, "password": weak })).await.names(422, "password");
    }
    let kept: Vec<Vec<u8>> = sqlx::query_scalar("select token_hash from account_link").fetch_all(&db).await.unwrap();
    assert!(kept.iter().all(|k| k != token.as_bytes()), "only a hash of the token is stored");

    let uses: Vec<_> = (0..6)
        .map(|_| {
            let (mut visitor, body) = (ada.visitor(), json!({ "token": token, "password": PASSWORD }));
            tokio::spawn(async move { visitor.post("/api/links/use", body).await.status.as_u16() })
        })
        .collect();
    let mut statuses = vec![];
    for used in uses {
        statuses.push(used.await.unwrap());
    }
    statuses.sort_unstable();
    assert_eq!(statuses, [204, 404, 404, 404, 404, 404], "a link holds once, also for six at once");
    ada.visitor().sign_in("dee@low.example").await;
    sqlx::query("update account_link set used_at = null, expires_at = now()").execute(&db).await.unwrap();
    visitor.post("/api/links/look", json!({ "token": token })).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_command_line_makes_a_link_where_no_trainer_can(db: PgPool) {
    let ada = first_barn(&db).await;
    assert_eq!(http::reset_link(&db, "nobody@low.example").await.unwrap(), None);
    let path = http::reset_link(&db, "ADA@low.example").await.unwrap().unwrap();
    let token = path.strip_prefix("/join#").unwrap();
    let body = json!({ "token": token, "password": "five plain words and a gate" });
    ada.visitor().post("/api/links/use", body).await.is(204);
    let old = json!({ "email": ADA, "password": PASSWORD });
    ada.visitor().post("/api/sign-in", old).await.is(401);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn ones_own_password_is_changed_with_the_current_one(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let mut elsewhere = ada.visitor();
    elsewhere.sign_in(ADA).await;
    let new = "gate hinge apple thunder";
    ada.put("/api/account/password", json!({ "current": "not it at all", "password": new })).await.is(401);
    let named = json!({ "current": PASSWORD, "password": "ada@low.example1" });
    ada.put("/api/account/password", named).await.names(422, "password");
    ada.put("/api/account/password", json!({ "current": PASSWORD, "password": new })).await.is(204);
    ada.get("/api/me").await.is(200);
    elsewhere.get("/api/me").await.is(401);
    let judged = async |password: &str| {
        let mut visitor = ada.visitor();
        visitor.post("/api/password-strength", json!({ "password": password })).await.is(200)
    };
    assert_eq!(judged("password1234").await["strength"], 1);
    assert_eq!(judged(new).await["why_not"], Value::Null);
    judged(&"x".repeat(100_000)).await;
}

/// The code of a key so many steps from now.
fn code(key: &str, steps: i64) -> String {
    let codes =
        Builder::new().with_secret(Secret::try_from_base32(key).unwrap()).with_account_name("x").build().unwrap();
    let time = chrono::Utc::now().timestamp() + 30 * steps;
    codes.generate(time.try_into().unwrap()).to_string()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn one_time_codes_are_asked_for_and_hold_once(db: PgPool) {
    let mut ada = first_barn(&db).await;
    ada.put("/api/account/codes", json!({ "code": "123456" })).await.is(409);
    let offered = ada.post("/api/account/codes", json!(null)).await.is(200);
    let key = offered["key"].as_str().unwrap();
    assert!(offered["picture"].as_str().unwrap().contains("<svg"));
    ada.visitor().sign_in(ADA).await;
    ada.put("/api/account/codes", json!({ "code": code(key, 40) })).await.names(422, "code");
    ada.put("/api/account/codes", json!({ "code": code(key, -1) })).await.is(204);
    assert_eq!(ada.get("/api/account").await.is(200)["codes"], true);

    let visitor = ada.visitor();
    let sign_in = async |code: Option<&str>| {
        let body = json!({ "email": ADA, "password": PASSWORD, "code": code });
        visitor.clone().post("/api/sign-in", body).await
    };
    assert_eq!(sign_in(None).await.is(401)["type"], "/problems/code-needed");
    assert_eq!(sign_in(Some("000000")).await.is(401)["type"], "/problems/code-needed");
    let now = code(key, 0);
    sign_in(Some(&now)).await.is(204);
    sign_in(Some(&now)).await.is(401);
    ada.delete("/api/account/codes").await.is(204);
    sign_in(None).await.is(204);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn whoever_knows_the_password_does_not_guess_codes_anew_by_leaving_the_code_out(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let offered = ada.post("/api/account/codes", json!(null)).await.is(200);
    ada.put("/api/account/codes", json!({ "code": code(offered["key"].as_str().unwrap(), 0) })).await.is(204);
    let mut stranger = ada.visitor();
    for _ in 0..5 {
        sqlx::query("update sign_in_attempt set at = now() - interval '5 minutes'").execute(&db).await.unwrap();
        let wrong = json!({ "email": ADA, "password": PASSWORD, "code": "000000" });
        stranger.post("/api/sign-in", wrong).await.is(401);
        stranger.post("/api/sign-in", json!({ "email": ADA, "password": PASSWORD })).await;
    }
    let failures: i64 = sqlx::query_scalar("select count(*) from sign_in_attempt").fetch_one(&db).await.unwrap();
    assert_eq!(failures, 5, "asking for the code takes no failure off the count");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_session_ends_without_use_and_for_good_and_one_by_one(db: PgPool) {
    let mut office = first_barn(&db).await;
    let mut phone = office.visitor();
    let body = json!({ "email": ADA, "password": PASSWORD, "barn_phone": true });
    phone.post("/api/sign-in", body).await.is(204);
    phone.learn_token().await;
    let idle = async |minutes: i32| {
        sqlx::query("update session set seen_at = now() - make_interval(mins => $1)")
            .bind(minutes)
            .execute(&db)
            .await
            .unwrap();
    };
    idle(29).await;
    office.get("/api/me").await.is(200);
    phone.get("/api/me").await.is(200);
    idle(31).await;
    office.get("/api/me").await.is(401);
    phone.get("/api/me").await.is(200);
    let devices = phone.get("/api/sessions").await.is(200);
    let devices = devices["items"].as_array().unwrap();
    assert_eq!(devices.len(), 1, "what ran out is not listed");
    assert_eq!((&devices[0]["barn_phone"], &devices[0]["this_one"]), (&json!(true), &json!(true)));

    let mut again = office.visitor();
    again.sign_in(ADA).await;
    let other = again.get("/api/sessions").await.is(200)["items"].as_array().unwrap().clone();
    let id = other.iter().find(|d| d["this_one"] == false).unwrap()["id"].as_str().unwrap().to_owned();
    again.delete(&format!("/api/sessions/{id}")).await.is(204);
    again.delete(&format!("/api/sessions/{id}")).await.is(404);
    phone.get("/api/me").await.is(401);
    sqlx::query("update session set expires_at = now()").execute(&db).await.unwrap();
    again.get("/api/me").await.is(401);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn accounts_are_changed_only_with_the_password_given_lately(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (dee, email) = ada.person("Dee", "assistant").await;
    let horse = ada.horse("Pilgrim").await;
    sqlx::query("update session set confirmed_at = now() - interval '11 minutes'").execute(&db).await.unwrap();
    let role = json!({ "version": 1, "name": "Dee", "email": email, "role": "trainer" });
    let asked = ada.put(&format!("/api/people/{dee}"), role.clone()).await.is(403);
    assert_eq!(asked["type"], "/problems/confirm-needed");
    ada.post(&format!("/api/people/{dee}/link"), json!(null)).await.is(403);
    ada.post("/api/account/codes", json!(null)).await.is(403);
    let archive = json!({ "version": 1, "name": "Pilgrim", "archived": true });
    ada.put(&format!("/api/horses/{horse}"), archive.clone()).await.is(403);
    ada.put(&format!("/api/horses/{}", Uuid::new_v4()), json!({ "name": "Juniper" })).await.is(201);

    ada.post("/api/confirm", json!({ "password": "not it at all" })).await.is(401);
    ada.post("/api/confirm", json!({ "password": PASSWORD })).await.is(204);
    ada.put(&format!("/api/people/{dee}"), role).await.is(200);
    ada.put(&format!("/api/horses/{horse}"), archive).await.is(200);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_security_log_says_who_did_what_and_only_to_trainers(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (dee, email) = ada.person("Dee", "assistant").await;
    ada.visitor().post("/api/sign-in", guess(&email)).await.is(401);
    let mut as_dee = ada.visitor();
    as_dee.sign_in(&email).await;
    as_dee.get("/api/security-log").await.is(403);
    let role = json!({ "version": 1, "name": "Dee", "email": email, "role": "owner" });
    ada.put(&format!("/api/people/{dee}"), role).await.is(200);
    ada.get(&format!("/api/calendar?person={dee}")).await.is(200);
    ada.get("/api/curriculum/file").await.is(200);
    let log = ada.get("/api/security-log").await.is(200);
    let lines: Vec<_> = log["items"]
        .as_array()
        .unwrap()
        .iter()
        .map(|e| ["what", "by", "about", "detail"].map(|k| e[k].as_str().unwrap_or_default().to_owned()).join(" | "))
        .collect();
    assert_eq!(
        lines,
        [
            "exported | Ada |  | the curriculum",
            "exported | Ada |  | calendar of Dee",
            "person-changed | Ada | Dee | owner",
            "signed-in | Dee | Dee | ",
            "sign-in-failed |  | Dee | wrong password",
            "signed-in | Dee | Dee | ",
            "link-used | Dee | Dee | ",
            "link-made | Ada | Dee | ",
            "person-added | Ada | Dee | assistant",
            "signed-in | Ada | Ada | ",
        ]
    );
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn over_https_cookies_are_the_hosts_alone_and_browsers_told_to_stay(db: PgPool) {
    first_barn(&db).await;
    let mut client = Client::with(&db, Options { site: "no-site".into(), secure_cookies: true, ..Options::default() });
    let body = json!({ "email": ADA, "password": PASSWORD }).to_string();
    let (status, headers, _) = client
        .raw(
            Request::post("/api/sign-in")
                .header(header::CONTENT_TYPE, "application/json")
                .body(Body::from(body))
                .unwrap(),
        )
        .await;
    assert_eq!(status, 204);
    let set: Vec<_> = headers.get_all(header::SET_COOKIE).iter().map(|v| v.to_str().unwrap()).collect();
    assert_eq!(set.len(), 2);
    for cookie in set {
        assert!(cookie.starts_with("__Host-cavesson_") && cookie.contains("; Secure"), "{cookie}");
        assert!(cookie.contains("HttpOnly") && cookie.contains("Path=/") && !cookie.contains("Domain"), "{cookie}");
    }
    assert_eq!(headers[header::STRICT_TRANSPORT_SECURITY], "max-age=31536000");
    client.get("/api/me").await.is(200);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_demos_people_sign_in_with_a_button_only_where_the_demo_was_asked_for(db: PgPool) {
    first_barn(&db).await;
    sqlx::query("update barn set demo_day = current_date").execute(&db).await.unwrap();
    let mut plain = Client::new(&db);
    assert_eq!(plain.get("/api/setup").await.is(200)["demo"], false);
    plain.post("/api/demo-sign-in", json!({ "role": "trainer" })).await.is(404);
    let mut demo = Client::with(&db, Options { site: "no-site".into(), demo: true, ..Options::default() });
    demo.post("/api/demo-sign-in", json!({ "role": "trainer" })).await.is(204);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_calendar_address_ends_with_the_role(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (dee, email) = ada.person("Dee", "assistant").await;
    let (bea, bea_email) = ada.person("Bea", "trainer").await;
    let horse = ada.horse("Pilgrim").await;
    let mut as_bea = ada.visitor();
    as_bea.sign_in(&bea_email).await;
    let give = async |client: &mut Client, whose: Value| {
        let out = client.put(&format!("/api/feeds/{}", Uuid::new_v4()), whose).await.is(201);
        out["address"].as_str().unwrap().to_owned()
    };
    let (hers, of_horse) =
        (give(&mut ada, json!({ "person_id": dee })).await, give(&mut as_bea, json!({ "horse_id": horse })).await);
    for address in [&hers, &of_horse] {
        ada.get(address).await.is(200);
    }
    let role = |name: &str, email: &str| json!({ "version": 1, "name": name, "email": email, "role": "owner" });
    ada.put(&format!("/api/people/{dee}"), role("Dee", &email)).await.is(200);
    ada.put(&format!("/api/people/{bea}"), role("Bea", &bea_email)).await.is(200);
    for address in [&hers, &of_horse] {
        ada.get(address).await.is(404);
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn horses_in_work_are_told_apart_by_name(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let first = ada.horse("Juniper").await;
    let second = format!("/api/horses/{}", Uuid::new_v4());
    ada.put(&second, json!({ "name": "juniper" })).await.names(422, "name");
    ada.put(&second, json!({ "name": "Juniper 2021" })).await.is(201);
    ada.put(&second, json!({ "version": 1, "name": "Juniper" })).await.names(422, "name");
    ada.put(&format!("/api/horses/{first}"), json!({ "version": 1, "name": "Juniper", "archived": true }))
        .await
        .is(200);
    ada.put(&second, json!({ "version": 1, "name": "Juniper" })).await.is(200);
}
