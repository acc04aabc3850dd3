//! Time off and the way back, and what lasts about a horse.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{first_barn, today};

fn stages(layoff: &Value) -> Vec<&str> {
    layoff["stages"].as_array().unwrap().iter().map(|s| s["stage"].as_str().unwrap()).collect()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_horse_comes_back_by_days_and_its_ride_waits_for_the_vet(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let path = format!("/api/horses/{horse}/layoffs/{}", Uuid::new_v4());
    let off = |ago: u64, back: u64| json!({ "off_since": today() - Days::new(ago), "back_on": today() - Days::new(back), "why": "injury" });
    ada.put(&path, off(3, 3)).await.names(422, "back_on");
    ada.put(&path, off(5_000, 3)).await.names(422, "off_since");
    let kept = ada.put(&path, off(31, 1)).await.is(201);
    assert_eq!((stages(&kept), &kept["days_off"]), (vec!["in-hand", "walk", "jog", "lope"], &json!(30)));
    assert_eq!(kept["today"]["says"], "Day 2 of 20 back in work: walk in hand, at most 24% of its usual load");
    ada.put(&path, off(31, 1)).await.is(200);
    ada.put(&path, off(30, 1)).await.is(409);

    let plan = ada.get(&format!("/api/rides/{ride}/plan")).await.is(200);
    assert_eq!((&plan["waits_for"], plan["parts"].as_array().unwrap().len()), (&json!(["vet"]), 1), "{plan}");
    let day = ada.get("/api/today").await.is(200);
    assert_eq!(day["rides"][0]["comeback"], kept["today"]["says"]);
    // Nobody rides a horse that is led, so the week has nothing for it.
    let week = ada.get(&format!("/api/weeks/{}", today())).await.is(200);
    let horses = week["horses"].as_array().unwrap();
    assert!(horses[0].to_string().contains("Nobody rides it yet"), "{}", horses[0]);

    let mut agreed = off(31, 1);
    agreed["version"] = json!(1);
    agreed["vet_agrees"] = json!(true);
    agreed["vet_said"] = json!("Sound at the trot-up");
    let kept = ada.put(&path, agreed.clone()).await.is(200);
    assert_eq!((&kept["today"]["vet_asked"], &kept["vet_said"]), (&json!(false), &json!("Sound at the trot-up")));
    ada.put(&path, agreed.clone()).await.is(409);
    assert_eq!(ada.get(&format!("/api/rides/{ride}/plan")).await.is(200)["waits_for"], json!([]));
    agreed["version"] = json!(2);
    agreed["ended"] = json!(true);
    ada.put(&path, agreed).await.is(200);
    assert!(ada.get("/api/today").await.is(200)["rides"][0]["comeback"].is_null());
    let all = ada.get(&format!("/api/horses/{horse}/layoffs")).await.is(200);
    assert!(all["items"][0]["ended"] == true && all["items"][0]["today"].is_null());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_idle_mouth_is_given_longer_and_a_quick_horse_is_asked_less(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, ride) = {
        let horse = ada.horse("Juniper").await;
        (horse, ada.ride(horse).await)
    };
    let book = format!("/api/curriculum?horse={horse}");
    let plan = format!("/api/rides/{ride}/plan");
    let seconds = |book: &Value| {
        let rung = book["rungs"].as_array().unwrap().iter().find(|r| r["id"] == "S1").cloned().unwrap();
        rung["standard"]["seconds"].as_f64().unwrap()
    };
    let usual = seconds(&ada.get(&book).await.is(200));
    let reps = |plan: &Value| {
        plan["parts"].as_array().unwrap().iter().find(|p| p["purpose"] == "main").unwrap()["reps"].as_u64().unwrap()
    };
    let many = reps(&ada.get(&plan).await.is(200));
    let with = |version: i32, traits: Value| json!({ "version": version, "name": "Juniper", "traits": traits });
    let path = format!("/api/horses/{horse}");
    ada.put(&path, with(1, json!(["lazy"]))).await.is(422);
    let kept = ada.put(&path, with(1, json!(["idle-mouth", "quick-learner", "idle-mouth"]))).await.is(200);
    assert_eq!(kept["traits"], json!(["quick-learner", "idle-mouth"]));
    assert!((seconds(&ada.get(&book).await.is(200)) - 1.5 * usual).abs() < 1e-9);
    let asked = ada.get(&plan).await.is(200);
    assert!(reps(&asked) < many, "{asked}");
    assert!(asked["why"].to_string().contains("three quarters of the reps"), "{}", asked["why"]);
    // Taken back, the standard is the barn's again.
    ada.put(&path, with(2, json!([]))).await.is(200);
    assert!((seconds(&ada.get(&book).await.is(200)) - usual).abs() < 1e-9);
}
