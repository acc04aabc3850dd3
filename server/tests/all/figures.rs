//! Figures over HTTP: kept with versions, ridden in a pen, and what is wrong with them.

use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body};

async fn arena(ada: &mut Client) -> Uuid {
    let id = Uuid::new_v4();
    let place = json!({ "name": "Arena", "place": "arena", "surface": "sand" });
    ada.put(&format!("/api/grounds/{id}"), place).await.is(201);
    let outline = json!({ "kind": "rectangle", "width": 40.0, "length": 60.0 });
    let pen = json!({ "version": 0, "pen": { "outline": outline, "posts": [{ "x": 20.0, "y": 30.0 }] } });
    ada.put(&format!("/api/grounds/{id}/pen"), pen).await.is(200);
    id
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_figure_is_kept_and_nobody_overwrites_another(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let url = format!("/api/figures/{}", Uuid::new_v4());
    let body = json!({ "name": "Laps", "text": "jog\ncircle left 12 m\n" });
    assert_eq!(ada.put(&url, body.clone()).await.is(201)["version"], 1);
    assert_eq!(ada.put(&url, body.clone()).await.is(200)["version"], 1, "the same twice is once");
    let mut changed = body.clone();
    changed["text"] = json!("jog\ncircle lft 12 m\n");
    ada.put(&url, changed.clone()).await.is(409);
    changed["version"] = json!(1);
    assert_eq!(ada.put(&url, changed.clone()).await.is(200)["version"], 2, "a text that is not in order yet is kept");
    let problem = ada.put(&url, changed.clone()).await.is(409);
    assert_eq!(problem["current"]["version"], 2);
    let all = ada.get("/api/figures").await.is(200);
    assert_eq!(all["items"][0]["text"], changed["text"]);
    assert!(all["ready"].as_array().unwrap().len() >= 6);
    (changed["version"], changed["archived"]) = (json!(2), json!(true));
    ada.put(&url, changed).await.is(200);
    assert_eq!(ada.get("/api/figures").await.is(200)["items"], json!([]));
    for (field, wrong) in [("name", json!(" ")), ("text", json!("")), ("text", json!("#".repeat(20_001)))] {
        let mut bad = body.clone();
        bad[field] = wrong;
        ada.put(&format!("/api/figures/{}", Uuid::new_v4()), bad).await.names(422, field);
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_figure_is_ridden_in_the_pen_on_a_horse(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (ground, horse) = (arena(&mut ada).await, ada.horse("Juniper").await);
    let ride = ada.ride(horse).await;
    let reps = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
    ada.put(&reps, rep_body(Uuid::new_v4(), "S3", "walk", "left")).await.is(201);
    let asked = |text: &str| json!({ "text": text, "ground_id": ground, "horse_id": horse });
    let told = ada.post("/api/figures/ride", asked("jog\ncircle lft 20\nline to nowhere\n")).await.is(200);
    let faults: Vec<(u64, u64, &str)> = (told["faults"].as_array().unwrap().iter())
        .map(|f| (f["line"].as_u64().unwrap(), f["column"].as_u64().unwrap(), f["code"].as_str().unwrap()))
        .collect();
    assert_eq!(faults, [(2, 8, "expected"), (3, 9, "name")]);
    assert_eq!(told["ridden"], Value::Null);

    // From the middle of the near fence on a circle of 5 m to the left, then over the post in the middle.
    let text = "start 20m 10m heading 0\nmark far 20m 50m\nwalk\ncircle left 5m\nline to post1\n";
    let told = ada.post("/api/figures/ride", asked(text)).await.is(200);
    let ridden = &told["ridden"];
    assert_eq!((ridden["path"].as_array().unwrap().len(), &ridden["closes"]), (2, &json!(false)), "{told}");
    assert!((ridden["length"].as_f64().unwrap() - (10.0 * std::f64::consts::PI + 20.0)).abs() < 1e-9);
    let near = |n: usize| &ridden["near"][n];
    assert_eq!((&near(0)["name"], &near(0)["fits"]), (&Value::Null, &json!(true)));
    assert!((near(0)["distance"].as_f64().unwrap() - 5.0).abs() < 1e-9, "the circle comes 5 m from the near fence");
    assert_eq!(
        (&near(1)["name"], &near(1)["distance"], &near(1)["fits"]),
        (&json!("post1"), &json!(0.0), &json!(false))
    );
    let places = ridden["places"].as_array().unwrap();
    assert_eq!((&places[0]["name"], &places[0]["line"]), (&json!("far"), &json!(2)));
    assert_eq!((&places[1]["name"], &places[1]["line"]), (&json!("post1"), &Value::Null));
    let rung = &ridden["rungs"][0];
    assert_eq!((&rung["rung"], &rung["hand"], &rung["lines"]), (&json!("S3"), &json!("left"), &json!([4])));
    assert_eq!(rung["status"], "learning", "it was asked once: {rung}");
    let out = ada.post("/api/figures/ride", asked("start 20m 10m heading 180\nwalk\nline 20m\n")).await.is(200);
    assert!((out["ridden"]["outside"].as_f64().unwrap() - 10.0).abs() < 1e-6);
    let nobodys = json!({ "text": "jog", "ground_id": Uuid::new_v4(), "horse_id": null });
    ada.post("/api/figures/ride", nobodys).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_drill_is_made_from_what_the_horse_was_asked(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (ground, horse) = (arena(&mut ada).await, ada.horse("Juniper").await);
    let asked = |seed: u32| json!({ "ground_id": ground, "horse_id": horse, "needs": ["stiff-left"], "minutes": 5, "seed": seed });
    ada.post("/api/figures/drill", asked(1)).await.names(422, "horse_id");
    let ride = ada.ride(horse).await;
    for (rung, side) in [("S3", "left"), ("S3", "right"), ("T2", "both")] {
        let url = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
        ada.put(&url, rep_body(Uuid::new_v4(), rung, "walk", side)).await.is(201);
    }
    let made = ada.post("/api/figures/drill", asked(6)).await.is(200);
    let text = made["text"].as_str().unwrap();
    assert!(text.starts_with("# For: stiff left. 5 minutes.\nstart 65.5 98.5 heading 0\nwalk\n"), "{text}");
    assert!(text.contains("circle left") && !text.contains("rollback") && made["bits"].as_f64().unwrap() > 1.0);
    assert_eq!(ada.post("/api/figures/drill", asked(6)).await.is(200), made, "the same number, the same drill");
    assert_ne!(ada.post("/api/figures/drill", asked(7)).await.is(200)["text"], made["text"]);
    let body = json!({ "text": text, "ground_id": ground, "horse_id": horse });
    let told = ada.post("/api/figures/ride", body).await.is(200);
    assert_eq!((&told["faults"], &told["ridden"]["closes"]), (&json!([]), &json!(true)));
    let mut long = asked(1);
    long["minutes"] = json!(31);
    ada.post("/api/figures/drill", long).await.names(422, "minutes");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn measured_strides_are_kept_and_count_on_the_course(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let url = format!("/api/horses/{horse}/strides");
    let none = ada.get(&url).await.is(200);
    assert_eq!((&none["version"], &none["jog"]), (&json!(0), &Value::Null));
    let course = json!({ "horse_id": horse, "text": "jog\npoles 4 spacing 38 in\nline 12\npoles 4 spacing 38 in\n" });
    let before = ada.post("/api/figures/ride", course.clone()).await.is(200)["ridden"].clone();
    assert_eq!(before["near"], json!([]), "without a pen nothing is said of a fence");
    assert!((before["course"][1]["from_before"]["strides"].as_f64().unwrap() - 12.0 / 6.4).abs() < 1e-9);
    assert_eq!(before["course"][1]["straight"], 3);

    let measured = json!({ "walk": null, "jog": 1.2192, "lope": null, "version": 0 });
    assert_eq!(ada.put(&url, measured.clone()).await.is(200)["version"], 1);
    assert_eq!(ada.put(&url, measured).await.is(200)["version"], 1, "the same twice is once");
    let after = ada.post("/api/figures/ride", course).await.is(200)["ridden"].clone();
    let between = &after["course"][1]["from_before"];
    assert!(
        (between["strides"].as_f64().unwrap() - 3.0).abs() < 1e-9,
        "four feet go three times into twelve: {between}"
    );
    assert_eq!((&after["obstacles"][0]["asks"], &between["whole"]), (&json!("reach"), &json!(3)));
    let lay = after["lay"].as_array().unwrap().iter().find(|it| it["gait"] == "jog").unwrap();
    assert!(lay["text"].as_str().unwrap().contains("spacing 36 in"), "{lay}");
    ada.put(&url, json!({ "walk": 0.2, "jog": null, "lope": null, "version": 1 })).await.names(422, "walk");
    let late = json!({ "walk": 1.3, "jog": null, "lope": null, "version": 0 });
    assert_eq!(ada.put(&url, late).await.is(409)["current"]["jog"], 1.2192);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_figure_is_held_against_the_horse_by_a_date(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    for _ in 0..3 {
        let reps = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
        ada.put(&reps, rep_body(Uuid::new_v4(), "O1", "walk", "both")).await.is(201);
    }
    let by = crate::support::today() + chrono::Days::new(90);
    let asked = json!({ "horse_id": horse, "by": by, "text": "walk\npoles 4 spacing 22 in\nstop\ngate left\n" });
    let ridden = ada.post("/api/figures/ride", asked.clone()).await.is(200)["ridden"].clone();
    let rungs = ridden["rungs"].as_array().unwrap();
    let poles = rungs.iter().find(|rung| rung["rung"] == "O1").unwrap();
    assert!((0.0..=0.95).contains(&poles["chance"].as_f64().unwrap()), "{poles}");
    let weakest = &rungs[ridden["weakest"]["rung"].as_u64().unwrap() as usize];
    assert_ne!(weakest["rung"], "O1", "what was never asked is further off than what was: {ridden}");
    // At another gait the same rung is another matter.
    let mut jog = asked;
    jog["text"] = json!("jog\npoles 4 spacing 38 in\n");
    let at_jog = ada.post("/api/figures/ride", jog).await.is(200)["ridden"]["rungs"][0].clone();
    assert_ne!(at_jog["chance"], poles["chance"], "{at_jog}");
}
