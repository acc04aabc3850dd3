//! People, horses, the barn's settings, the curriculum, and what every answer has in common.

use axum::{
    body::Body,
    http::{Request, header},
};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn};

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn horses_are_added_once_changed_and_archived(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let me = ada.my_id().await;
    let path = format!("/api/horses/{}", Uuid::new_v4());
    let horse = json!({ "name": "  Wren ", "foaled": 2021, "sex": "mare", "owner_id": me, "posture": "patient", "note": "kind" });
    let made = ada.put(&path, horse.clone()).await.is(201);
    assert_eq!((made["name"].as_str(), made["version"].as_i64()), (Some("Wren"), Some(1)));
    let same =
        json!({ "name": "Wren", "foaled": 2021, "sex": "mare", "owner_id": me, "posture": "patient", "note": "kind" });
    ada.put(&path, same).await.is(200);
    ada.put(&path, json!({ "name": "Another" })).await.is(409);
    let archived = ada.put(&path, json!({ "version": 1, "name": "Wren", "archived": true })).await.is(200);
    assert_eq!((archived["archived"].as_bool(), archived["version"].as_i64()), (Some(true), Some(2)));
    assert_eq!(ada.get("/api/horses?archived=true").await.is(200)["items"][0]["name"], "Wren");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn bad_horses_are_told_by_field(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let table: [(Value, &str); 9] = [
        (json!({ "name": "" }), "name"),
        (json!({ "name": "x".repeat(61) }), "name"),
        (json!({ "name": 7 }), "name"),
        (json!({ "name": "a\u{0}b" }), "name"),
        (json!({ "name": "A", "foaled": 12 }), "foaled"),
        (json!({ "name": "A", "sex": "stud" }), "sex"),
        (json!({ "name": "A", "posture": "bold" }), "posture"),
        (json!({ "name": "A", "note": "x".repeat(2001) }), "note"),
        (json!({ "name": "A", "owner_id": Uuid::new_v4() }), "owner_id"),
    ];
    for (body, field) in table {
        ada.put(&format!("/api/horses/{}", Uuid::new_v4()), body).await.names(422, field);
    }
    let extra =
        ada.put(&format!("/api/horses/{}", Uuid::new_v4()), json!({ "name": "A", "colour": "bay" })).await.is(422);
    assert!(extra["detail"].as_str().unwrap().contains("colour"), "{extra}");
    assert_eq!(ada.get("/api/horses").await.is(200)["items"], json!([]));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn people_keep_one_address_each(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let taken = json!({ "name": "Eve", "email": "ADA@low.example", "role": "assistant" });
    ada.put(&format!("/api/people/{}", Uuid::new_v4()), taken).await.names(422, "email");
    for email in ["", "nobody", "a@b", "a b@c.example", "a@b@c.example"] {
        let body = json!({ "name": "Eve", "email": email, "role": "owner" });
        ada.put(&format!("/api/people/{}", Uuid::new_v4()), body).await.names(422, "email");
    }
    let (id, email) = ada.person("Dee", "assistant").await;
    let path = format!("/api/people/{id}");
    let changed =
        ada.put(&path, json!({ "version": 1, "name": "Dee Two", "email": email, "role": "owner" })).await.is(200);
    assert_eq!((changed["role"].as_str(), changed["can_sign_in"].as_bool()), (Some("owner"), Some(true)));
    ada.put(&path, json!({ "version": 1, "name": "Late", "email": email, "role": "owner" })).await.is(409);
    ada.post(&format!("/api/people/{}/link", Uuid::new_v4()), json!(null)).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn two_trainers_who_demote_each_other_at_once_leave_one_trainer(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (bea_id, email) = ada.person("Bea", "trainer").await;
    let mut bea = ada.visitor();
    bea.sign_in(&email).await;
    let ada_id = ada.my_id().await;
    let demote = |name: &str, email: &str| json!({ "version": 1, "name": name, "email": email, "role": "assistant" });
    let (of_ada, of_bea) = (demote("Ada", "ada@low.example"), demote("Bea", &email));
    // Both rows are held until both requests wait for them: each has by then seen that the other is a trainer.
    let mut held = db.begin().await.unwrap();
    sqlx::query("select from person for update").fetch_all(&mut *held).await.unwrap();
    let let_go = async {
        let waiting =
            "select count(*) from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()";
        while sqlx::query_scalar::<_, i64>(waiting).fetch_one(&db).await.unwrap() < 2 {
            tokio::time::sleep(std::time::Duration::from_millis(5)).await;
        }
        held.rollback().await.unwrap();
    };
    let (ada_path, bea_path) = (format!("/api/people/{ada_id}"), format!("/api/people/{bea_id}"));
    let (first, second, ()) = tokio::join!(ada.put(&bea_path, of_bea), bea.put(&ada_path, of_ada), let_go);
    let mut told = [first.status.as_u16(), second.status.as_u16()];
    told.sort_unstable();
    assert_eq!(told, [200, 422], "one is demoted, and the other is told that nobody else could manage the barn");
    let left = "select count(*) from person where role = 'trainer'";
    assert_eq!(sqlx::query_scalar::<_, i64>(left).fetch_one(&db).await.unwrap(), 1);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_barns_settings_are_checked_and_versioned(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let settings = |version: i32, zone: &str| json!({ "version": version, "name": "Low Meadow", "posture": "go-ahead", "units": "metric", "time_zone": zone });
    ada.put("/api/barn", settings(1, "Nowhere")).await.names(422, "time_zone");
    let changed = ada.put("/api/barn", settings(1, "America/Denver")).await.is(200);
    assert_eq!((changed["posture"].as_str(), changed["version"].as_i64()), (Some("go-ahead"), Some(2)));
    ada.put("/api/barn", settings(1, "UTC")).await.is(409);
    // The date is the barn's: at any moment Kiritimati and Pago Pago are a day apart.
    let mut dates = vec![];
    for (version, zone) in [(2, "Pacific/Kiritimati"), (3, "Pacific/Pago_Pago")] {
        ada.put("/api/barn", settings(version, zone)).await.is(200);
        dates.push(ada.get("/api/me").await.is(200)["today"].as_str().unwrap().to_owned());
    }
    assert_ne!(dates[0], dates[1]);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_curriculum_tells_all_that_the_pages_show(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let book = ada.get("/api/curriculum").await.is(200);
    let rungs = book["rungs"].as_array().unwrap();
    let stop = rungs.iter().find(|r| r["id"] == "T2").unwrap();
    assert_eq!(stop["answer"], json!(["feet stopped", "off the bridle"]));
    assert_eq!(stop["standard"]["words"], "8 of 10 at a lemon or less, within 2.0 s, on 3 days");
    let tags: Vec<&str> = book["faults"].as_array().unwrap().iter().map(|f| f["tag"].as_str().unwrap()).collect();
    for rung in rungs {
        for fault in rung["faults"].as_array().unwrap() {
            assert!(tags.contains(&fault.as_str().unwrap()));
        }
    }
    let ids: Vec<&str> = book["steps"].as_array().unwrap().iter().map(|s| s["id"].as_str().unwrap()).collect();
    assert!(rungs.len() > 85 && ids.len() > rungs.len(), "every rung at each of its gaits");
    assert!(ids.contains(&"S6@jog") && ids.contains(&"T5@walk") && ids.contains(&"O9@lope"));
    assert_eq!(book["schools"][0]["picked"], "leverage");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn every_answer_is_guarded_and_every_error_is_a_problem(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (_, headers, _) = ada.raw(Request::get("/api/setup").body(Body::empty()).unwrap()).await;
    let policy = headers[header::CONTENT_SECURITY_POLICY].to_str().unwrap();
    assert!(policy.contains("default-src 'self'") && policy.contains("frame-ancestors 'none'"));
    assert_eq!(headers[header::X_CONTENT_TYPE_OPTIONS], "nosniff");
    assert_eq!(headers[header::CACHE_CONTROL], "no-store");

    assert_eq!(ada.get("/api/nonesuch").await.is(404)["type"], "/problems/no-such-route");
    ada.get("/api/horses/not-an-id").await.is(400);
    assert_eq!(ada.get(&format!("/api/horses/{}", Uuid::new_v4())).await.is(404)["title"], "Not here");
    ada.get(&format!("/api/horses/{}/trace?step=S1", Uuid::new_v4())).await.is(404);
    let horse = ada.horse("Wren").await;
    ada.get(&format!("/api/horses/{horse}/trace?step=Z9")).await.is(404);
    ada.get(&format!("/api/horses/{horse}/trace")).await.is(400);
    let huge = json!({ "name": "x".repeat(2_000_000) });
    let answer = ada.put(&format!("/api/horses/{}", Uuid::new_v4()), huge).await;
    assert!(answer.status.is_client_error(), "{}", answer.status);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_unknown_session_or_a_changed_cookie_is_nobody(db: PgPool) {
    let ada = first_barn(&db).await;
    for cookie in ["cavesson_session=forged", "cavesson_session=", "other=1"] {
        let mut nobody = Client { cookie: Some(cookie.into()), ..ada.clone() };
        nobody.get("/api/horses").await.is(401);
    }
}
