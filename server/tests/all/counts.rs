//! Rungs that are counted in something else than asks: logged in their own measure, with faults, corrected, and seen by coach,
//! call and trace.

use cavesson_core::curriculum::Curriculum;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::*;

/// One count of each measure, with the rung, gait and side that it is of, and what is said of it.
fn each() -> [(&'static str, &'static str, &'static str, Value, &'static str); 8] {
    [
        ("R2", "walk", "left", json!({ "kind": "laps", "laps": 2, "soft": true }), "soft after 2 laps"),
        ("S7", "walk", "right", json!({ "kind": "nose-ups", "circles": 1, "ups": 0 }), "0 nose-ups in 1 circle"),
        ("L1", "walk", "left", json!({ "kind": "set-ups", "asked": 1, "accepted": 0 }), "went on the set-up"),
        ("O2", "walk", "both", json!({ "kind": "tries", "tries": ["looks", "two-feet"] }), "looks, two feet on"),
        (
            "B22",
            "walk",
            "both",
            json!({ "kind": "rein-share", "bridle": 30, "soft": true }),
            "soft at 30% on the bridle rein",
        ),
        ("G6", "stand", "left", json!({ "kind": "mounts", "mounts": 1, "loose": 1 }), "stood loose"),
        ("S8", "jog", "both", json!({ "kind": "held", "seconds": 6, "lost": true }), "held 6 s, then lost it"),
        ("T1", "walk", "both", json!({ "kind": "steps", "steps": 7, "broke": false }), "7 steps"),
    ]
}

fn set(rung: &str, gait: &str, side: &str) -> Value {
    json!({ "id": Uuid::new_v4(), "position": 0, "rung": rung, "gait": gait, "side": side })
}

fn address(ride: Uuid, set: &Value) -> String {
    format!("/api/rides/{ride}/counts/{}", set["id"].as_str().unwrap())
}

fn counted(ride: &Value) -> Vec<&Value> {
    ride["sets"].as_array().unwrap().iter().map(|s| &s["counted"]).filter(|c| !c.is_null()).collect()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn each_measure_is_logged_with_a_fault_corrected_removed_and_traced(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    // The bits' own road is taught for the share of rein.
    let road = json!({ "kind": "school", "school": "road", "choice": "bridle" });
    let change = json!({ "horse_id": null, "change": road });
    ada.put(&format!("/api/curriculum/changes/{}", Uuid::new_v4()), change).await.is(201);
    for (rung, gait, side, count, says) in each() {
        let ride = ada.ride(horse).await;
        let set = set(rung, gait, side);
        let body = |count: &Value| json!({ "set": set, "count": count, "faults": ["head-up"], "asked_at": "2026-03-02T08:00:00Z" });
        ada.put(&address(ride, &set), body(&count)).await.is(201);
        ada.put(&address(ride, &set), body(&count)).await.is(200);
        let read = ada.get(&format!("/api/rides/{ride}")).await.is(200);
        let logged = counted(&read);
        assert_eq!((logged.len(), &logged[0]["says"], &logged[0]["faults"]), (1, &json!(says), &json!(["head-up"])));
        assert_eq!((&logged[0]["count"], &read["reps"]), (&count, &json!(1)), "{rung}");

        let url = format!("/api/counts/{}", set["id"].as_str().unwrap());
        let to = |version: i32, removed: bool| json!({ "version": version, "count": count, "faults": [], "removed": removed });
        assert_eq!(ada.patch(&url, to(1, false)).await.is(200)["version"], 2);
        assert_eq!(ada.patch(&url, to(1, false)).await.is(200)["version"], 2, "the same again is made already");
        ada.patch(&url, to(1, true)).await.is(409);
        ada.patch(&url, to(2, true)).await.is(200);
        assert!(counted(&ada.get(&format!("/api/rides/{ride}")).await.is(200)).is_empty(), "{rung}");
        ada.patch(&url, to(3, false)).await.is(200);
        let changes = ada.get(&format!("/api/horses/{horse}/changes?limit=3")).await.is(200);
        let words = |n: usize| (changes["items"][n]["before"].clone(), changes["items"][n]["after"].clone());
        assert_eq!(words(1), (json!(says), json!("removed")), "{rung}");
        assert_eq!(words(2).0, json!(format!("{says}, head up")), "{rung}");
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_rung_takes_no_other_measure_than_its_own(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    for rung in Curriculum::standard().rungs().iter().filter(|r| r.measure != Default::default()) {
        let body = rep_body(Uuid::new_v4(), &rung.id, rung.gaits[0].word(), rung.sides.list()[0].word());
        let refused = ada.put(&format!("/api/rides/{ride}/reps/{}", Uuid::new_v4()), body).await.is(422);
        assert_eq!(refused["errors"][0]["field"], "set.rung", "{}", rung.id);
        let says = refused["errors"][0]["detail"].as_str().unwrap();
        assert!(says.contains("is counted in") && says.contains(rung.measure.noun()), "{says}");
    }
    let laps = |n: u8| json!({ "kind": "laps", "laps": n, "soft": true });
    let refused = async |ada: &mut Client, rung: &str, count: Value, says: &str| {
        let set = set(rung, "walk", "left");
        let body = json!({ "set": set, "count": count });
        let told = ada.put(&address(ride, &set), body).await.is(422).to_string();
        assert!(told.contains(says), "{told}");
    };
    refused(&mut ada, "S3", laps(2), "counted in asks").await;
    refused(&mut ada, "R2", laps(0), "at least one").await;
    refused(&mut ada, "R2", json!({ "kind": "set-ups", "asked": 1, "accepted": 1 }), "counted in laps until soft")
        .await;
    refused(&mut ada, "R2", json!({ "kind": "hops", "hops": 1 }), "hops").await;
    let set = set("R2", "walk", "left");
    ada.put(&address(ride, &set), json!({ "set": set, "count": laps(2) })).await.is(201);
    ada.put(&address(ride, &set), json!({ "set": set, "count": laps(3) })).await.is(409);
    let url = format!("/api/counts/{}", set["id"].as_str().unwrap());
    let other = json!({ "version": 1, "count": { "kind": "steps", "steps": 1, "broke": false } });
    assert_eq!(ada.patch(&url, other).await.is(422)["errors"][0]["field"], "count");
    let unknown = json!({ "version": 1, "count": laps(2), "faults": ["purple"] });
    assert_eq!(ada.patch(&url, unknown).await.is(422)["errors"][0]["field"], "faults");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn coach_and_call_see_what_is_counted(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    let ride = ada.ride(horse).await;
    let count = async |ada: &mut Client, n: u32, laps: u8, faults: Value| {
        let mut set = set("R2", "walk", "left");
        set["position"] = json!(n);
        let at = format!("2026-03-02T08:{n:02}:00Z");
        let count = json!({ "kind": "laps", "laps": laps, "soft": true });
        let body = json!({ "set": set, "count": count, "faults": faults, "asked_at": at });
        ada.put(&address(ride, &set), body).await.is(201);
        ada.get(&format!("/api/rides/{ride}/coach")).await.is(200)
    };
    let first = count(&mut ada, 0, 3, json!([])).await;
    assert_eq!((&first["reps"], &first["advice"]), (&json!(1), &json!("another")));
    assert!(first["why"].as_str().unwrap().contains("soft after 3 laps"), "{first}");
    count(&mut ada, 1, 4, json!([])).await;
    let worse = count(&mut ada, 2, 6, json!(["falls-in"])).await;
    assert_eq!(worse["advice"], "stop-asking", "{worse}");
    assert!(worse["why"].as_str().unwrap().contains("worse each time"), "{worse}");
    assert_eq!(worse["remedy"]["fault"], "falls-in", "a fault on a count is answered as any other");

    let standing = ada.get(&format!("/api/horses/{horse}/standing")).await.is(200);
    let step = standing["steps"].as_array().unwrap().iter().find(|s| s["id"] == "R2@walk").unwrap();
    let side = &step["sides"][0];
    assert_eq!((&side["met"], &side["reps"], &step["call"]), (&json!(0), &json!(3), &json!("hold")));
    assert!(step["why"].to_string().contains("was not soft within 2 laps in 3 of 3"), "{}", step["why"]);
    let book = ada.get(&format!("/api/curriculum?horse={horse}")).await.is(200);
    let rung = book["rungs"].as_array().unwrap().iter().find(|r| r["id"] == "R2").unwrap();
    assert_eq!(rung["standard"]["words"], "soft within 2 laps, 8 times in 10, on 3 days");
    let summary = ada.get(&format!("/api/rides/{ride}/summary")).await.is(200);
    assert_eq!((&summary["best"], &summary["calls"][0]["step"]), (&Value::Null, &json!("R2@walk")));
    count(&mut ada, 3, 1, json!([])).await;
    let summary = ada.get(&format!("/api/rides/{ride}/summary")).await.is(200);
    assert_eq!(summary["best"]["words"], "soft after 1 lap");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_ride_entered_afterwards_has_counts_beside_reps(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, me) = (ada.horse("Juniper").await, ada.my_id().await);
    let late = |sets: Value| json!({ "horse_id": horse, "rider_id": me, "date": today(), "place": "arena", "entered": "afterwards", "sets": sets });
    let with = |mut set: Value, more: Value| {
        set.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        set
    };
    let steps = json!({ "count": { "kind": "steps", "steps": 9, "broke": true }, "faults": ["crooked"] });
    let rep = json!([{ "id": Uuid::new_v4(), "outcome": "gave", "weight": "egg" }]);
    let good = [
        with(set("T1", "walk", "both"), json!({ "counted": steps })),
        with(set("S1", "stand", "left"), json!({ "reps": rep })),
    ];
    let kept = ada.put(&format!("/api/rides/{}", Uuid::new_v4()), late(json!(good))).await.is(201);
    assert_eq!((&counted(&kept)[0]["says"], &kept["reps"]), (&json!("9 steps, then lost it"), &json!(2)));
    for (wrong, field) in [
        (with(set("T1", "walk", "both"), json!({ "reps": rep })), "sets[0].rung"),
        (with(set("S1", "stand", "left"), json!({ "counted": steps })), "sets[0].count"),
        (with(set("T1", "walk", "both"), json!({ "counted": steps, "reps": rep })), "sets[0].reps"),
        (with(set("T1", "walk", "both"), json!({})), "sets[0].rung"),
    ] {
        let refused = ada.put(&format!("/api/rides/{}", Uuid::new_v4()), late(json!([wrong]))).await.is(422);
        let fields: Vec<&str> =
            refused["errors"].as_array().unwrap().iter().filter_map(|e| e["field"].as_str()).collect();
        assert!(fields.contains(&field), "{field}: {refused}");
    }
}
