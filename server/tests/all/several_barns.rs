//! Several barns in one installation, and people who are in more than one.

use axum::http::Method;
use cavesson::http::{NewBarn, add_barn, reset_link};
use serde_json::json;
use sqlx::PgPool;

use crate::support::{Client, PASSWORD, first_barn};

/// A barn beside the first, whose trainer has this address; gives the token of the link by which they come in.
async fn ridge(db: &PgPool, email: &str) -> String {
    let new = NewBarn {
        name: "High Ridge".into(),
        time_zone: "America/Denver".into(),
        trainer: "Ada of the Ridge".into(),
        email: email.into(),
    };
    token(&add_barn(db, &new).await.unwrap())
}

fn token(path: &str) -> String {
    path.split_once('#').unwrap().1.to_owned()
}

/// The id of a barn that someone may enter.
async fn id_of(client: &mut Client, barn: &str) -> String {
    let me = client.get("/api/me").await.is(200);
    let found = me["barns"].as_array().unwrap().iter().find(|b| b["name"] == barn);
    found.unwrap_or_else(|| panic!("not in {barn}: {me}"))["id"].as_str().unwrap().to_owned()
}

async fn enter(client: &mut Client, barn: &str) {
    let id = id_of(client, barn).await;
    client.call(Method::POST, &format!("/api/barns/{id}/enter"), None).await.is(204);
    client.learn_token().await;
}

/// Ada, who trains in both barns, in the one that she joined last.
async fn in_both(db: &PgPool) -> Client {
    let ada = first_barn(db).await;
    let token = ridge(db, "Ada@Low.example").await;
    let mut both = ada.visitor();
    both.post("/api/links/join", json!({ "token": token, "password": PASSWORD })).await.is(204);
    both.learn_token().await;
    both
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_barn_is_added_and_its_trainer_joins_with_the_account_they_have(db: PgPool) {
    let ada = first_barn(&db).await;
    let link = ridge(&db, "ada@low.example").await;
    let mut visitor = ada.visitor();
    let told = visitor.post("/api/links/look", json!({ "token": link })).await.is(200);
    assert_eq!((&told["barn"], &told["has_account"]), (&json!("High Ridge"), &json!(true)));
    // An account is not taken over by an invitation: its password is asked for, and not set.
    visitor.post("/api/links/use", json!({ "token": link, "password": "another long password" })).await.is(409);
    visitor.post("/api/links/join", json!({ "token": link, "password": "a guess" })).await.is(401);
    visitor.post("/api/links/join", json!({ "token": link, "password": PASSWORD })).await.is(204);
    visitor.learn_token().await;
    let me = visitor.get("/api/me").await.is(200);
    assert_eq!(me["barn"]["name"], "High Ridge");
    let barns: Vec<_> = me["barns"].as_array().unwrap().iter().map(|b| b["name"].as_str().unwrap()).collect();
    assert_eq!(barns, ["High Ridge", "Low Meadow"]);
    // The link is spent, for whoever has it.
    visitor.post("/api/links/join", json!({ "token": link, "password": PASSWORD })).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn someone_new_sets_a_password_and_is_in_that_barn_alone(db: PgPool) {
    let ada = first_barn(&db).await;
    let link = ridge(&db, "cy@ridge.example").await;
    // Lost before it was used: another one is made where no trainer can help.
    let again = token(&reset_link(&db, "CY@ridge.example").await.unwrap().unwrap());
    let mut cy = ada.visitor();
    cy.post("/api/links/look", json!({ "token": link })).await.is(404);
    assert_eq!(cy.post("/api/links/look", json!({ "token": again })).await.is(200)["has_account"], false);
    cy.post("/api/links/use", json!({ "token": again, "password": "a long new password" })).await.is(204);
    cy.learn_token().await;
    let me = cy.get("/api/me").await.is(200);
    assert_eq!((&me["role"], me["barns"].as_array().unwrap().len()), (&json!("trainer"), 1));
    assert!(add_barn(&db, &NewBarn { time_zone: "Nowhere".into(), ..new_barn() }).await.is_err());
    assert!(add_barn(&db, &NewBarn { email: "nobody".into(), ..new_barn() }).await.is_err());
}

fn new_barn() -> NewBarn {
    NewBarn { name: "X".into(), time_zone: "UTC".into(), trainer: "X".into(), email: "x@x.example".into() }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn each_barn_has_its_own_horses_and_the_last_one_is_where_the_next_sign_in_leads(db: PgPool) {
    let mut ada = in_both(&db).await;
    let ridge_horse = ada.horse("Ridge Runner").await;
    enter(&mut ada, "Low Meadow").await;
    let meadow_horse = ada.horse("Meadow Lark").await;
    ada.get(&format!("/api/horses/{ridge_horse}")).await.is(404);
    assert!(!ada.get("/api/horses").await.is(200).to_string().contains("Ridge Runner"));
    enter(&mut ada, "High Ridge").await;
    ada.get(&format!("/api/horses/{ridge_horse}")).await.is(200);
    ada.get(&format!("/api/horses/{meadow_horse}")).await.is(404);

    let mut other_device = ada.visitor();
    other_device.sign_in("ada@low.example").await;
    assert_eq!(other_device.get("/api/me").await.is(200)["barn"]["name"], "High Ridge");
    enter(&mut other_device, "Low Meadow").await;
    assert_eq!(ada.get("/api/me").await.is(200)["barn"]["name"], "High Ridge", "each device is where it is");
    // Both are seen and ended from either barn.
    assert_eq!(ada.get("/api/sessions").await.is(200)["items"].as_array().unwrap().len(), 3);
    ada.call(Method::POST, "/api/sign-out-everywhere", None).await.is(204);
    other_device.get("/api/me").await.is(401);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn who_was_let_go_in_one_barn_joins_another(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let bo = uuid::Uuid::new_v4();
    let mut person = json!({ "name": "Bo", "email": "bo@both.example", "role": "assistant" });
    ada.put(&format!("/api/people/{bo}"), person.clone()).await.is(201);
    let link = ada.call(Method::POST, &format!("/api/people/{bo}/link"), None).await.is(201);
    let mut client = ada.visitor();
    let sent = json!({ "token": token(link["path"].as_str().unwrap()), "password": PASSWORD });
    client.post("/api/links/use", sent).await.is(204);
    (person["version"], person["archived"]) = (json!(1), json!(true));
    ada.put(&format!("/api/people/{bo}"), person).await.is(200);
    client.post("/api/sign-in", json!({ "email": "bo@both.example", "password": PASSWORD })).await.is(401);
    let link = ridge(&db, "bo@both.example").await;
    client.post("/api/links/join", json!({ "token": link, "password": PASSWORD })).await.is(204);
    client.learn_token().await;
    let me = client.get("/api/me").await.is(200);
    assert_eq!((&me["barn"]["name"], me["barns"].as_array().unwrap().len()), (&json!("High Ridge"), 1));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_role_is_one_barns_own(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let bo = uuid::Uuid::new_v4();
    let person = json!({ "name": "Bo", "email": "bo@both.example", "role": "owner" });
    ada.put(&format!("/api/people/{bo}"), person).await.is(201);
    let link = ada.call(Method::POST, &format!("/api/people/{bo}/link"), None).await.is(201);
    let mut client = ada.visitor();
    let sent = json!({ "token": token(link["path"].as_str().unwrap()), "password": PASSWORD });
    client.post("/api/links/use", sent).await.is(204);
    let link = ridge(&db, "bo@both.example").await;
    client.post("/api/links/join", json!({ "token": link, "password": PASSWORD })).await.is(204);
    client.learn_token().await;
    assert_eq!(client.get("/api/me").await.is(200)["role"], "trainer");
    client.horse("Ridge Runner").await;
    enter(&mut client, "Low Meadow").await;
    assert_eq!(client.get("/api/me").await.is(200)["role"], "owner");
    client.put(&format!("/api/horses/{}", uuid::Uuid::new_v4()), json!({ "name": "Taken" })).await.is(403);
    client.get("/api/security-log").await.is(403);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_barn_takes_over_an_account_that_is_in_another_too(db: PgPool) {
    let mut ada = in_both(&db).await;
    // Another trainer of the ridge, who has nothing to do with the meadow.
    let eve = uuid::Uuid::new_v4();
    let person = json!({ "name": "Eve", "email": "eve@ridge.example", "role": "trainer" });
    ada.put(&format!("/api/people/{eve}"), person).await.is(201);
    let link = ada.call(Method::POST, &format!("/api/people/{eve}/link"), None).await.is(201);
    let mut eve = ada.visitor();
    let sent = json!({ "token": token(link["path"].as_str().unwrap()), "password": "a long password of hers" });
    eve.post("/api/links/use", sent).await.is(204);
    eve.learn_token().await;

    let people = eve.get("/api/people").await.is(200);
    let adas = people["items"].as_array().unwrap().iter().find(|p| p["name"] == "Ada of the Ridge").unwrap();
    let (id, version) = (adas["id"].as_str().unwrap(), &adas["version"]);
    eve.call(Method::POST, &format!("/api/people/{id}/link"), None).await.is(409);
    // Nor is the address that she signs in with changed.
    let renamed = json!({ "version": version, "name": "Ada", "email": "eve2@ridge.example", "role": "trainer" });
    eve.put(&format!("/api/people/{id}"), renamed).await.is(200);
    ada.visitor().sign_in("ada@low.example").await;

    // Who is archived in one barn is out of it at once, and still in the other.
    let gone = json!({ "version": 2, "name": "Ada", "email": "ada@low.example", "role": "trainer", "archived": true });
    eve.put(&format!("/api/people/{id}"), gone).await.is(200);
    ada.get("/api/me").await.is(401);
    let mut back = ada.visitor();
    back.sign_in("ada@low.example").await;
    let me = back.get("/api/me").await.is(200);
    assert_eq!((&me["barn"]["name"], me["barns"].as_array().unwrap().len()), (&json!("Low Meadow"), 1));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_new_password_signs_the_account_out_in_every_barn(db: PgPool) {
    let mut ada = in_both(&db).await;
    let mut elsewhere = ada.visitor();
    elsewhere.sign_in("ada@low.example").await;
    enter(&mut elsewhere, "Low Meadow").await;
    let new = json!({ "current": PASSWORD, "password": "another long password" });
    ada.put("/api/account/password", new).await.is(204);
    ada.get("/api/me").await.is(200);
    elsewhere.get("/api/me").await.is(401);
}
