//! What others say that a horse knows, and the intake ride that finds out.

use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, second_barn, today};

/// A ride of some days ago on which a side of a step gave so many of so many.
async fn ridden(
    ada: &mut Client,
    horse: Uuid,
    ago: u64,
    (rung, gait, side): (&str, &str, &str),
    gave: usize,
    of: usize,
) {
    let me = ada.my_id().await;
    let rep = |n: usize| {
        let (outcome, weight) = if n < gave { ("gave", "feather") } else { ("none", "hand") };
        json!({ "id": Uuid::new_v4(), "outcome": outcome, "weight": weight })
    };
    let reps: Vec<Value> = (0..of).map(rep).collect();
    let set = json!({ "id": Uuid::new_v4(), "position": 0, "rung": rung, "gait": gait, "side": side, "reps": reps });
    let body = json!({ "horse_id": horse, "rider_id": me, "date": today() - Days::new(ago), "place": "arena",
                       "entered": "afterwards", "sets": [set] });
    ada.put(&format!("/api/rides/{}", Uuid::new_v4()), body).await.is(201);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_claim_is_claimed_then_proven_or_disproved_by_the_horses_own_rides(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Larkspur").await;
    let path = format!("/api/horses/{horse}/claims");
    let claim = |step: &str| json!({ "id": Uuid::new_v4(), "step": step });
    ada.put(&path, json!({ "said_by": " ", "claims": [claim("S1")] })).await.names(422, "said_by");
    ada.put(&path, json!({ "said_by": "Owner", "claims": [] })).await.names(422, "claims");
    ada.put(&path, json!({ "said_by": "Owner", "claims": [claim("S1"), claim("Z9")] }))
        .await
        .names(422, "claims[1].step");
    let sent =
        json!({ "said_by": "Her last trainer", "claims": [claim("S1"), claim("T2"), claim("L2"), claim("G7@walk")] });
    ada.put(&path, sent.clone()).await.is(201);
    ada.put(&path, sent).await.is(200);
    let of = |all: &Value, step: &str| {
        all["items"].as_array().unwrap().iter().find(|c| c["step"] == step).cloned().unwrap_or_default()
    };
    let all = ada.get(&path).await.is(200);
    assert_eq!((&of(&all, "L2")["state"], &of(&all, "L2")["says"]), (&json!("claimed"), &json!("not asked here yet")));
    assert_eq!(of(&all, "S1")["said_by"], "Her last trainer");
    // Its rides ask for that first.
    let standing = ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
    let main = &standing["line"]["main"];
    assert_eq!(main["id"], "G7@walk");
    assert!(main["why"].as_str().unwrap().starts_with("It is said to know this"), "{main}");

    for ago in [9, 7, 5, 3] {
        for side in ["left", "right"] {
            ridden(&mut ada, horse, ago, ("S1", "stand", side), 9, 9).await;
        }
    }
    for ago in [8, 6] {
        ridden(&mut ada, horse, ago, ("T2", "walk", "both"), 1, 8).await;
    }
    let all = ada.get(&path).await.is(200);
    assert_eq!((&of(&all, "S1")["state"], &of(&all, "T2")["state"]), (&json!("proven"), &json!("disproved")), "{all}");
    assert_eq!(of(&all, "T2")["says"], "met 2 of 16 on 2 days");

    // Taken back, it is gone; another barn sees none of it.
    let gone = of(&all, "L2")["id"].as_str().unwrap().to_owned();
    let mut bo = second_barn(&db, &ada).await;
    bo.get(&path).await.is(404);
    bo.call(axum::http::Method::DELETE, &format!("{path}/{gone}"), None).await.is(404);
    ada.call(axum::http::Method::DELETE, &format!("{path}/{gone}"), None).await.is(204);
    assert_eq!(ada.get(&path).await.is(200)["items"].as_array().unwrap().len(), 3);
    ada.call(axum::http::Method::DELETE, &format!("{path}/{}", Uuid::new_v4()), None).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_intake_ride_asks_for_the_brake_first_and_ends_where_there_is_none(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Larkspur").await;
    let ride = ada.ride(horse).await;
    let path = format!("/api/rides/{ride}/intake");
    let first = ada.get(&path).await.is(200);
    assert_eq!((&first["is_new"], &first["asks"]), (&json!(true), &json!(0)));
    assert_eq!((&first["next"]["step"], &first["next"]["side"]), (&json!("G7@walk"), &json!("left")), "{first}");
    let mut bo = second_barn(&db, &ada).await;
    bo.get(&path).await.is(404);
    // Each answer leads to another ask, and never to the jog before the brake there.
    let mut asked: Vec<String> = vec![];
    for n in 0..8 {
        let now = ada.get(&path).await.is(200);
        let (step, side) = (now["next"]["step"].as_str().unwrap().to_owned(), now["next"]["side"].as_str().unwrap());
        let (rung, gait) = step.split_once('@').map_or((step.as_str(), None), |(r, g)| (r, Some(g)));
        let gait = gait.unwrap_or(if rung == "S1" { "stand" } else { "walk" });
        assert!(
            gait != "jog" || rung == "G7" || asked.iter().filter(|a| *a == "G7@jog").count() >= 2,
            "{step} {asked:?}"
        );
        if !["G9", "S7", "T1", "R2", "L1", "L3"].contains(&rung) {
            let mut rep = rep_body(Uuid::new_v4(), rung, gait, side);
            (rep["set"]["position"], rep["weight"]) = (json!(n), json!("feather"));
            ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
        }
        asked.push(step);
    }
    assert!(asked.len() == 8 && asked.iter().any(|a| !a.starts_with("G7")), "{asked:?}");

    // What was asked with both reins on an earlier ride counts too: six refusals are heard.
    let known = ada.horse("Seen Before").await;
    ridden(&mut ada, known, 1, ("G10", "walk", "both"), 0, 6).await;
    let ride = ada.ride(known).await;
    let now = ada.get(&format!("/api/rides/{ride}/intake")).await.is(200);
    let owns = |step: &str| now["owned"].as_array().unwrap().iter().any(|s| s["step"] == step);
    assert!(now["is_new"] == false && owns("G7@walk") && !owns("G10@walk"), "{now}");
    assert_eq!(now["next"]["step"], "G7@walk", "the brake is of today");

    let other = ada.horse("No Brake").await;
    let ride = ada.ride(other).await;
    for n in 0..2 {
        let mut rep = rep_body(Uuid::new_v4(), "G7", "walk", "left");
        (rep["set"]["position"], rep["outcome"], rep["weight"]) = (json!(n), json!("none"), json!("tug"));
        ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), rep).await.is(201);
    }
    let done = ada.get(&format!("/api/rides/{ride}/intake")).await.is(200);
    assert!(done["done"].as_str().unwrap().contains("begin from the ground") && done["next"].is_null(), "{done}");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn an_incident_is_kept_for_good_and_says_who_may_ride(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Larkspur").await, ada.my_id().await);
    let path = format!("/api/horses/{horse}/incidents");
    assert_eq!(ada.get(&path).await.is(200)["may_ride"], "anyone");
    let bolted =
        |before: &str, may: &str| json!({ "kind": "bolted", "rider_id": me, "before": before, "may_ride": may });
    let one = format!("{path}/{}", Uuid::new_v4());
    ada.put(&one, bolted(" ", "nobody")).await.names(422, "before");
    let mut late = bolted("A dog under the fence", "nobody");
    late["happened_on"] = json!(today() + Days::new(1));
    ada.put(&one, late).await.names(422, "happened_on");
    ada.put(&one, bolted("A dog under the fence", "nobody")).await.is(201);
    ada.put(&one, bolted("A dog under the fence", "nobody")).await.is(200);
    ada.put(&one, bolted("Nothing at all", "anyone")).await.is(409);
    let mut strange = bolted("Wind", "trainer");
    strange["rider_id"] = json!(Uuid::new_v4());
    ada.put(&format!("{path}/{}", Uuid::new_v4()), strange).await.is(404);
    ada.put(&format!("{path}/{}", Uuid::new_v4()), bolted("Looked at, nothing found; wind", "trainer")).await.is(201);
    let all = ada.get(&path).await.is(200);
    assert_eq!((all["items"].as_array().unwrap().len(), &all["may_ride"]), (2, &json!("trainer")));
    assert_eq!(all["items"][1]["before"], "A dog under the fence");
}

/// The list of horses: what each is on, the side that lags, and what comes next.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_horse_stands_in_the_list_with_its_subject_its_stiff_side_and_its_next_date(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (biscuit, new) = (ada.horse("Biscuit").await, ada.horse("Larkspur").await);
    for ago in [4, 2] {
        ridden(&mut ada, biscuit, ago, ("S1", "stand", "left"), 1, 9).await;
        ridden(&mut ada, biscuit, ago, ("S1", "stand", "right"), 9, 9).await;
    }
    ada.ride(new).await;
    let all = ada.get("/api/overview").await.is(200);
    let of = |name: &str| all["horses"].as_array().unwrap().iter().find(|h| h["name"] == name).cloned().unwrap();
    let biscuit = of("Biscuit");
    assert_eq!((&biscuit["subject"], &biscuit["stiff"]), (&json!("Flexion"), &json!("left")), "{biscuit}");
    assert_eq!((&biscuit["ladder"], &biscuit["call"]), (&json!("Softness and body control"), &json!("hold")));
    assert_eq!(biscuit["last_ridden"], json!(today() - Days::new(2)));
    assert!(biscuit["next"].is_null());
    let new = of("Larkspur");
    assert_eq!((&new["next"]["date"], &new["next"]["title"]), (&json!(today()), &json!("Ride")));
    assert!(new["stiff"].is_null() && new["last_ridden"].is_null() && new["subject"] == "One-rein stop at the walk");
}
