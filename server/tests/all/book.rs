//! The Book: what a barn makes of the curriculum, the file of it, counts, and what is written against the calls.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{first_barn, today};

fn change(horse: Option<Uuid>, change: &Value) -> Value {
    json!({ "horse_id": horse, "change": change })
}

fn new_path() -> String {
    format!("/api/curriculum/changes/{}", Uuid::new_v4())
}

fn rung<'a>(book: &'a Value, id: &str) -> &'a Value {
    book["rungs"].as_array().unwrap().iter().find(|r| r["id"] == id).unwrap_or_else(|| panic!("{id} is missing"))
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_change_holds_for_the_barn_or_for_one_horse_and_is_made_once(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, other) = (ada.horse("Juniper").await, ada.horse("Gravel").await);
    let standard = json!({ "kind": "standard", "rung": "T2",
        "standard": { "share": 90, "weight": "egg", "seconds": 1.5, "days": 4 } });
    let path = new_path();
    ada.put(&path, change(Some(horse), &standard)).await.is(201);
    ada.put(&path, change(Some(horse), &standard)).await.is(200);
    ada.put(&path, change(Some(horse), &json!({ "kind": "leave-out", "rung": "T2" }))).await.is(409);
    let of = |id: Uuid| format!("/api/curriculum?horse={id}");
    let mine = ada.get(&of(horse)).await.is(200);
    assert_eq!(rung(&mine, "T2")["standard"]["words"], "9 of 10 at an egg or less, within 1.5 s, on 4 days");
    assert_eq!(rung(&mine, "T2")["before"][0]["standard"]["days"], 3);
    assert_eq!(rung(&ada.get(&of(other)).await.is(200), "T2")["standard"]["days"], 3);
    // A school changes what is taught; the horse's own answer comes after the barn's.
    let road = |choice: &str| json!({ "kind": "school", "school": "road", "choice": choice });
    ada.put(&new_path(), change(None, &road("bridle"))).await.is(201);
    ada.put(&new_path(), change(Some(other), &road("spoiled"))).await.is(201);
    assert_eq!(rung(&ada.get(&of(horse)).await.is(200), "B22")["taught"], true);
    let others = ada.get(&of(other)).await.is(200);
    assert_eq!((&rung(&others, "B22")["taught"], &rung(&others, "B31")["taught"]), (&json!(false), &json!(true)));
    let all = ada.get("/api/curriculum/changes").await.is(200);
    assert_eq!((all["items"].as_array().unwrap().len(), &all["items"][0]["change"]["rung"]), (3, &json!("T2")));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_cannot_be_is_refused_with_the_reason(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let cases = [
        (json!({ "kind": "standard", "rung": "Z9", "standard": {} }), "Z9: there is no such rung"),
        (json!({ "kind": "standard", "rung": "T1", "standard": { "share": 0 } }), "cannot be a standard"),
        (json!({ "kind": "school", "school": "head", "choice": "low" }), "is not one of its answers"),
        (json!({ "kind": "ladder", "ladder": { "letter": "T", "name": "Mine" } }), "the letter T is another ladder's"),
        (json!({ "kind": "nonsense" }), "nonsense"),
    ];
    for (what, told) in cases {
        let refused = ada.put(&new_path(), change(None, &what)).await.is(422).to_string();
        assert!(refused.contains(told), "{told}: {refused}");
    }
    assert!(ada.get("/api/curriculum/changes").await.is(200)["items"].as_array().unwrap().is_empty());
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_rung_of_ones_own_is_ridden_and_the_book_travels_as_a_file(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    ada.put(&new_path(), change(None, &json!({ "kind": "ladder", "ladder": { "letter": "X", "name": "Roping" } })))
        .await
        .is(201);
    let own = json!({ "kind": "rung", "rung": { "id": "X1", "name": "Stand to the rope", "needs": ["T2"], "sides": "both",
        "gaits": ["stand"], "ask": ["swing"], "answer": ["stands"], "faults": ["wont-stand"], "cautions": ["Gloves"] } });
    ada.put(&new_path(), change(None, &own)).await.is(201);
    let rep = json!({ "id": Uuid::new_v4(), "outcome": "gave", "weight": "none" });
    let ride = json!({ "horse_id": horse, "rider_id": me, "date": today(), "place": "arena", "entered": "afterwards",
        "sets": [{ "id": Uuid::new_v4(), "position": 0, "rung": "X1", "gait": "stand", "side": "both", "reps": [rep] }] });
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), ride).await.is(201);
    let standing = ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
    assert!(standing["steps"].as_array().unwrap().iter().any(|s| s["id"] == "X1" && s["call"] == "hold"));

    let file = ada.get("/api/curriculum/file").await.is(200);
    let mut bo = crate::support::second_barn(&db, &ada).await;
    let import = |dry: bool| json!({ "id": "7d5f3c1e-3b1a-4c53-9d06-0e7c31b8a6d1", "dry_run": dry, "file": file });
    let told = bo.post("/api/curriculum/import", import(true)).await.is(200);
    assert_eq!(told["lines"], json!(["New ladder X Roping", "New rung X1 Stand to the rope"]));
    assert!(
        bo.get("/api/curriculum/changes").await.is(200)["items"].as_array().unwrap().is_empty(),
        "a dry run changes nothing"
    );
    bo.post("/api/curriculum/import", import(false)).await.is(200);
    assert_eq!(rung(&bo.get("/api/curriculum").await.is(200), "X1")["needs"], json!(["T2"]));
    assert_eq!(
        bo.post("/api/curriculum/import", import(true)).await.is(200)["lines"],
        json!([]),
        "nothing is left to change"
    );
    let mut broken = import(false);
    broken["file"]["rungs"][3]["needs"] = json!(["Q1"]);
    assert!(
        bo.post("/api/curriculum/import", broken)
            .await
            .is(422)
            .to_string()
            .contains("it needs Q1, which does not exist")
    );
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn overrules_and_findings_are_checked_kept_and_told(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let overrule = |step: &str, made: &str, reason: &str| json!({ "step": step, "made": made, "reason": reason });
    let path = format!("/api/horses/{horse}/overrules/{}", Uuid::new_v4());
    assert_eq!(ada.put(&path, overrule("S1", "advance", " ")).await.is(422)["errors"][0]["field"], "reason");
    assert_eq!(ada.put(&path, overrule("S77", "hold", "x")).await.is(422)["errors"][0]["field"], "step");
    assert_eq!(ada.put(&path, overrule("S1", "look-at", "x")).await.is(422)["errors"][0]["field"], "made");
    ada.put(&path, overrule("S1", "advance", "I know this mare")).await.is(201);
    ada.put(&path, overrule("S1", "advance", "I know this mare")).await.is(200);
    ada.put(&path, overrule("S1", "hold", "I know this mare")).await.is(409);
    let told = ada.get("/api/overrules").await.is(200);
    assert_eq!((&told["people"][0]["open"], &told["items"][0]["overrule"]["was"]), (&json!(1), &json!("hold")));

    let path = format!("/api/horses/{horse}/findings/{}", Uuid::new_v4());
    assert_eq!(ada.put(&path, json!({ "looked": "vet", "found": "" })).await.is(422)["errors"][0]["field"], "found");
    let found = json!({ "looked": "vet", "found": "Sound; a tight girth" });
    ada.put(&path, found.clone()).await.is(201);
    ada.put(&path, found).await.is(200);
    let list = ada.get(&format!("/api/horses/{horse}/findings")).await.is(200);
    assert_eq!((&list["items"][0]["looked"], &list["items"][0]["on"]), (&json!("vet"), &json!(today())));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_forecast_answers_for_half_a_year(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let by = |days: u64| format!("/api/horses/{horse}/forecast?by={}", today() + Days::new(days));
    let soon = ada.get(&by(7)).await.is(200);
    let later = ada.get(&by(180)).await.is(200);
    let chance = |told: &Value| told["items"][0]["chance"].as_f64().unwrap();
    assert!(chance(&soon) < chance(&later) && chance(&later) <= 1.0);
    assert_eq!(ada.get(&by(400)).await.is(422)["errors"][0]["field"], "by");
    let owned = ada.get("/api/owned").await.is(200);
    assert_eq!((&owned["horses"][0]["name"], &owned["horses"][0]["steps"]), (&json!("Juniper"), &json!({})));
}
