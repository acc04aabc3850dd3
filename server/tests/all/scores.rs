//! Practice runs scored by two people: nobody sees what the other gave before the own sheet is done.

use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn};

const TEXT: &str =
    "start 65 60 heading 0\nlope right\ncircle right 28 times 2\nchange simple 12\ncircle left 20\nstop\n";

async fn begun(ada: &mut Client, horse: Uuid) -> String {
    let url = format!("/api/scored-runs/{}", Uuid::new_v4());
    let body = json!({ "horse_id": horse, "name": "Large and small", "text": TEXT });
    ada.put(&url, body.clone()).await.is(201);
    ada.put(&url, body).await.is(200);
    url
}

fn sheet(scores: [i64; 4], version: i32, done: bool) -> Value {
    let marks: Vec<Value> = scores.iter().map(|score| json!({ "score": score, "penalties": [] })).collect();
    json!({ "marks": marks, "version": version, "done": done })
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn two_score_a_run_on_their_own_and_then_see_each_other(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let url = begun(&mut ada, horse).await;
    let (_, email) = ada.person("Bo", "assistant").await;
    let mut bo = ada.visitor();
    bo.sign_in(&email).await;
    let open = ada.get(&url).await.is(200);
    let names: Vec<&str> = open["manoeuvres"].as_array().unwrap().iter().map(|m| m["name"].as_str().unwrap()).collect();
    assert_eq!(names, ["Circles right", "Change lead, simple", "Circle left", "Stop"]);
    assert_eq!((&open["mine"]["total"], &open["mine"]["version"]), (&json!("70"), &json!(0)));

    ada.put(&format!("{url}/sheet"), sheet([1, -1, 0, 2], 1, true)).await.is(204);
    let alone = ada.get(&url).await.is(200);
    assert_eq!((&alone["mine"]["total"], &alone["others"], &alone["agree"]), (&json!("71"), &json!([]), &Value::Null));
    // Bo has begun and is not done: neither sees the other.
    let mut half = sheet([1, 0, 0, 0], 1, false);
    half["marks"][3]["score"] = Value::Null;
    bo.put(&format!("{url}/sheet"), half).await.is(204);
    assert_eq!(ada.get(&url).await.is(200)["open"], json!(["Bo"]));
    assert_eq!(bo.get(&url).await.is(200)["others"], json!([]));
    let mut done = sheet([1, -2, 0, 1], 2, true);
    done["marks"][1]["penalties"] = json!([4]);
    bo.put(&format!("{url}/sheet"), done).await.is(204);

    let both = ada.get(&url).await.is(200);
    assert_eq!((&both["others"][0]["who"], &both["others"][0]["total"]), (&json!("Bo"), &json!("68")));
    // The change: -½ of Ada's, -1 - 2 of Bo's, on average -1.75.
    assert_eq!((&both["points"][0]["manoeuvre"], &both["points"][0]["mean"]), (&json!(1), &json!(-1.75)));
    assert_eq!(
        (&both["agree"]["pairs"], &both["agree"]["same"], &both["agree"]["higher"]),
        (&json!(4), &json!(2), &json!(-0.25))
    );
    assert_eq!(both["agree"]["kappa"], Value::Null, "four are too few to tell");
    let listed = ada.get(&format!("/api/horses/{horse}/scored-runs")).await.is(200);
    let totals: Vec<&str> =
        listed["items"][0]["totals"].as_array().unwrap().iter().map(|t| t["total"].as_str().unwrap()).collect();
    assert_eq!(totals.len(), 2);
    assert!(totals.contains(&"71") && totals.contains(&"68"));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn how_well_two_agree_is_told_over_all_their_runs(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (_, email) = ada.person("Bo", "assistant").await;
    let mut bo = ada.visitor();
    bo.sign_in(&email).await;
    let (horse, mut last) = (ada.horse("Juniper").await, String::new());
    for scores in [[1, -1, 0, 2], [-2, 0, 1, 1], [3, -3, 0, 0]] {
        let url = begun(&mut ada, horse).await;
        ada.put(&format!("{url}/sheet"), sheet(scores, 1, true)).await.is(204);
        bo.put(&format!("{url}/sheet"), sheet(scores, 1, true)).await.is(204);
        last = url;
    }
    let agree = ada.get(&last).await.is(200)["agree"].clone();
    assert_eq!((&agree["pairs"], &agree["same"]), (&json!(12), &json!(12)));
    assert_eq!((&agree["kappa"]["value"], &agree["kappa"]["strength"]), (&json!(1.0), &json!("almost as one")));
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_higher_version_of_a_sheet_stands_and_a_wrong_mark_is_named(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let url = begun(&mut ada, horse).await;
    let to = format!("{url}/sheet");
    ada.put(&to, sheet([0, 0, 0, 0], 3, false)).await.is(204);
    ada.put(&to, sheet([1, 1, 1, 1], 2, false)).await.is(204);
    assert_eq!(ada.get(&url).await.is(200)["mine"]["total"], "70", "the earlier one came late");
    ada.put(&to, sheet([0, 0, 0, 0], 3, false)).await.is(204);
    ada.put(&to, sheet([1, 0, 0, 0], 3, false)).await.is(409);
    for (pointer, wrong, field) in [
        ("/marks/2/score", json!(4), "marks[2].score"),
        ("/marks/1/penalties", json!([3]), "marks[1].penalties"),
        ("/marks/3/score", Value::Null, "marks[3].score"),
        ("/version", json!(0), "version"),
        ("/marks", json!([]), "marks"),
    ] {
        let mut body = sheet([0, 0, 0, 0], 9, true);
        *body.pointer_mut(pointer).unwrap() = wrong;
        ada.put(&to, body).await.names(422, field);
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_figure_that_is_not_in_order_is_not_scored(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let url = format!("/api/scored-runs/{}", Uuid::new_v4());
    for text in ["jog\ncircle lft 20\n", "line 20\n", "jog\nline 20\n"] {
        let body = json!({ "horse_id": horse, "name": "Laps", "text": text });
        ada.put(&url, body).await.names(422, "text");
    }
    let body = json!({ "horse_id": Uuid::new_v4(), "name": "Laps", "text": TEXT });
    ada.put(&url, body).await.is(404);
}
