//! The demo barn: its horses are at different points, and its dates hang on the day.

use cavesson::{Options, demo};
use chrono::{Days, NaiveDate};
use serde_json::{Value, json};
use sqlx::PgPool;

use crate::support::{Client, rep_body};

fn as_demo(db: &PgPool) -> Client {
    Client::with(db, Options { site: "no-site".into(), demo: true, ..Options::default() })
}

async fn horse_ids(client: &mut Client) -> Vec<String> {
    let horses = client.get("/api/horses").await.is(200);
    horses["items"].as_array().unwrap().iter().map(|h| h["id"].as_str().unwrap().to_owned()).collect()
}

async fn as_trainer(db: &PgPool) -> Client {
    let mut client = as_demo(db);
    client.post("/api/demo-sign-in", json!({ "role": "trainer" })).await.is(204);
    client.learn_token().await;
    client
}

async fn standing(client: &mut Client, name: &str) -> Value {
    let horses = client.get("/api/horses").await.is(200);
    let horse = horses["items"].as_array().unwrap().iter().find(|h| h["name"] == name).unwrap().clone();
    client.get(&format!("/api/horses/{}/standing", horse["id"].as_str().unwrap())).await.is(200)
}

fn count(standing: &Value, word: &str) -> usize {
    standing["steps"].as_array().unwrap().iter().filter(|s| s["status"] == word).count()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn horses_are_at_different_points(db: PgPool) {
    // The history hangs on the day of the week, since Sundays are free: every day of a week must tell the same stories. Three of them
    // each time: in a week of runs all had their turn.
    for back in [0, 2, 5] {
        sqlx::query("truncate barn cascade").execute(&db).await.unwrap();
        let loaded = demo::today() - Days::new(back);
        demo::load(&db, loaded).await.unwrap();
        cavesson_store::barn::redate_demo(&db, demo::today()).await.unwrap();
        let mut mara = as_trainer(&db).await;
        assert_eq!(mara.get("/api/horses").await.is(200)["items"].as_array().unwrap().len(), 23);
        assert!(mara.get("/api/today").await.is(200)["rides"].as_array().unwrap().len() >= 9);
        assert!(count(&standing(&mut mara, "Old Copper").await, "owned") >= 9, "finished, loaded on {loaded}");
        assert!(count(&standing(&mut mara, "Marlow").await, "slipping") >= 1, "slipping, loaded on {loaded}");
        assert_eq!(count(&standing(&mut mara, "Fennel").await, "owned"), 0, "starting, loaded on {loaded}");
        let stuck = standing(&mut mara, "Biscuit").await;
        let left = stuck["steps"].as_array().unwrap().iter().any(|s| s["weaker"] == "left");
        assert!(left, "stuck on the left, loaded on {loaded}");
    }
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn the_demo_never_looks_old(db: PgPool) {
    let loaded = demo::today() - Days::new(23);
    demo::load(&db, loaded).await.unwrap();
    let latest = || sqlx::query_scalar::<_, NaiveDate>("select max(ridden_on) from ride").fetch_one(&db);
    assert_eq!(latest().await.unwrap(), loaded);
    for _ in 0..2 {
        cavesson_store::barn::redate_demo(&db, demo::today()).await.unwrap();
        assert_eq!(latest().await.unwrap(), demo::today());
    }
}

/// Horses that lost something, or may have: Ransom and Bristle have a rung spoiled, and Bramble comes back from weeks off.
const MAY_SLIP: [&str; 5] = ["Marlow", "Wren", "Ransom", "Bristle", "Bramble"];

/// What is simulated of the demo's horses is known: Marlow was spoiled on two reins, Wren is sore on the left, and most lost nothing.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_alarm_stands_on_a_horse_that_lost_nothing(db: PgPool) {
    demo::load(&db, demo::today()).await.unwrap();
    let mut mara = as_trainer(&db).await;
    let horses = mara.get("/api/horses").await.is(200)["items"].as_array().unwrap().clone();
    let mut false_alarms = 0;
    for horse in &horses {
        let standing = mara.get(&format!("/api/horses/{}/standing", horse["id"].as_str().unwrap())).await.is(200);
        let steps = standing["steps"].as_array().unwrap();
        for step in steps.iter().filter(|s| s["status"] == "slipping") {
            let ready = |side: &Value| side["ready"].as_f64().unwrap();
            let sides = step["sides"].as_array().unwrap();
            assert!(
                sides.iter().any(|side| ready(side) < 0.5),
                "slipping, and believed to be over its standard: {step}"
            );
        }
        for forecast in steps.iter().filter(|s| s["status"] == "untried").filter_map(|s| s["forecast"].as_object()) {
            assert!(
                forecast["early"].is_null() || forecast["early"] != forecast["late"],
                "a spread of no days: {forecast:?}"
            );
            assert!(forecast["by_week"].as_array().unwrap().iter().all(|p| p.as_f64().unwrap() < 1.0), "{forecast:?}");
        }
        let alarm = count(&standing, "slipping") > 0 || standing["horse"]["call"] == "look-at";
        let lost = horse["name"] == "Marlow" || horse["name"] == "Wren";
        assert!(alarm || !lost, "{} has lost something", horse["name"]);
        false_alarms += usize::from(alarm && !MAY_SLIP.contains(&horse["name"].as_str().unwrap()));
    }
    assert!(false_alarms * 10 <= horses.len(), "{false_alarms} of {} horses carry a false alarm", horses.len());
}

/// With all that was kept thrown away, and the horses asked after in another order, the same is worked out, to the last digit.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_order_of_horses_changes_what_is_worked_out(db: PgPool) {
    demo::load(&db, demo::today()).await.unwrap();
    let mut worked_out: Vec<std::collections::BTreeMap<String, String>> = vec![];
    for backward in [false, true] {
        sqlx::query("delete from standing").execute(&db).await.unwrap();
        let mut mara = as_trainer(&db).await;
        let mut ids = horse_ids(&mut mara).await;
        if backward {
            ids.reverse();
        }
        let mut all = std::collections::BTreeMap::new();
        for id in ids {
            let standing = mara.get(&format!("/api/horses/{id}/standing")).await.is(200).to_string();
            all.insert(id, standing);
        }
        worked_out.push(all);
    }
    assert_eq!(worked_out[0], worked_out[1]);
}

/// A server that ran through a day's change, with rides logged and other standards set on the way, says to the last digit what one says that begins with
/// nothing kept and asks in another order.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_server_that_ran_for_days_says_other_than_one_that_starts_now(db: PgPool) {
    demo::load(&db, demo::today()).await.unwrap();
    sqlx::query("update horse set archived_at = now() where name > 'H'").execute(&db).await.unwrap();
    let zone = async |name: &str| {
        sqlx::query("update barn set time_zone = $1, version = version + 1").bind(name).execute(&db).await.unwrap();
    };
    // By the clock of this zone it is a day earlier than by the other, whatever the hour.
    zone("Etc/GMT+12").await;
    let mut mara = as_trainer(&db).await;
    let mut ids = horse_ids(&mut mara).await;
    let day = mara.get("/api/me").await.is(200)["today"].as_str().unwrap().to_owned();
    let all = async |client: &mut Client, ids: &[String]| {
        let mut said = std::collections::BTreeMap::new();
        for id in ids {
            said.insert(id.clone(), client.get(&format!("/api/horses/{id}/standing")).await.is(200).to_string());
        }
        for page in ["/api/overview", "/api/owned", "/api/alarms"] {
            said.insert(page.to_owned(), client.get(page).await.is(200).to_string());
        }
        said
    };
    let before = all(&mut mara, &ids).await;
    let rider = mara.my_id().await;
    for id in &ids[..2] {
        let (ride, set) = (uuid::Uuid::new_v4(), uuid::Uuid::new_v4());
        let new = json!({ "horse_id": id, "rider_id": rider, "date": day, "place": "arena", "entered": "pen" });
        mara.put(&format!("/api/rides/{ride}"), new).await.is(201);
        for position in 0..6 {
            let mut rep = rep_body(set, "S1", "stand", "left");
            rep["position"] = json!(position);
            mara.put(&format!("/api/rides/{ride}/reps/{}", uuid::Uuid::new_v4()), rep).await.is(201);
            mara.get(&format!("/api/horses/{id}/standing")).await.is(200);
        }
    }
    for (horse, change) in [
        (None, json!({ "kind": "standard", "rung": "S1", "standard": { "share": 90 } })),
        (Some(&ids[1]), json!({ "kind": "standard", "rung": "S1", "standard": { "weight": "feather" } })),
        (None, json!({ "kind": "leave-out", "rung": "O3" })),
    ] {
        let path = format!("/api/curriculum/changes/{}", uuid::Uuid::new_v4());
        mara.put(&path, json!({ "horse_id": horse, "change": change })).await.is(201);
        all(&mut mara, &ids).await;
    }
    zone("Pacific/Kiritimati").await;
    let ran = all(&mut mara, &ids).await;
    let mut other = as_trainer(&db).await;
    let with_what_was_kept = all(&mut other, &ids).await;
    sqlx::query("delete from standing").execute(&db).await.unwrap();
    ids.reverse();
    let mut starts_now = as_trainer(&db).await;
    let anew = all(&mut starts_now, &ids).await;
    assert_ne!(before, anew, "a day and two rides change something");
    for (of, said) in &anew {
        assert!(ran[of] == *said, "{of}: the server that ran says {} and one that starts now {said}", ran[of]);
        assert!(with_what_was_kept[of] == *said, "{of}: with what was kept {}", with_what_was_kept[of]);
    }
}

/// The alarms of the demo: what its simulated horses lost, once each, with the farrier's visit told beside the mare that is sore since.
#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn alarms_are_counted_with_what_was_done_about_them(db: PgPool) {
    demo::load(&db, demo::today()).await.unwrap();
    let mut mara = as_trainer(&db).await;
    let alarms = mara.get("/api/alarms").await.is(200);
    let items = alarms["items"].as_array().unwrap();
    assert_eq!(alarms["raised"], items.len());
    for counts in ["answers", "outcomes"] {
        let sum: u64 = alarms[counts].as_array().unwrap().iter().map(|c| c["alarms"].as_u64().unwrap()).sum();
        assert_eq!(sum, items.len() as u64, "{counts}");
    }
    assert_eq!(alarms["by_posture"][1]["alarms"], items.len(), "the barn is steady");
    assert!(items.iter().all(|a| MAY_SLIP.contains(&a["horse_name"].as_str().unwrap())), "{items:?}");
    let wren: Vec<&Value> = items.iter().filter(|a| a["horse_name"] == "Wren").collect();
    let pain: Vec<_> = wren.iter().filter(|a| a["alarm"]["step"].is_null()).collect();
    assert!(pain.len() == 1 && pain[0]["alarm"]["side"] == "left", "{wren:?}");
    let id = pain[0]["horse_id"].as_str().unwrap();
    let standing = mara.get(&format!("/api/horses/{id}/standing")).await.is(200);
    let why = standing["horse"]["why"].to_string();
    assert!(why.contains("after new shoes or a trim: ask the farrier first"), "{why}");
    // Someone looks.
    let found = json!({ "looked": "farrier", "found": "a close nail, drawn" });
    mara.put(&format!("/api/horses/{id}/findings/{}", uuid::Uuid::new_v4()), found).await.is(201);
    let after = mara.get("/api/alarms").await.is(200);
    let pain = after["items"].as_array().unwrap().iter().find(|a| a["alarm"]["step"].is_null()).unwrap().clone();
    assert_eq!(pain["alarm"]["answered"], "heeded");
    // A page at a time.
    let first = mara.get("/api/alarms?limit=1").await.is(200);
    assert_eq!((first["items"].as_array().unwrap().len(), &first["more"]), (1, &json!(items.len() > 1)));
    let next = mara.get("/api/alarms?limit=1&offset=1").await.is(200);
    assert_ne!(first["items"][0], next["items"][0]);
    mara.get("/api/alarms?limit=0").await.is(422);
    // It is the trainer's page.
    for role in ["assistant", "owner"] {
        let mut other = as_demo(&db);
        other.post("/api/demo-sign-in", json!({ "role": role })).await.is(204);
        other.get("/api/alarms").await.is(403);
    }
}
