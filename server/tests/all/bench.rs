//! The pattern bench over HTTP: a pen, what fits, what it costs, passes, and what a watch and a timer tell.

use cavesson_core::{
    curriculum::Gait,
    pattern::{FOOT, Horse, Point, SetUp, quickest_run},
};
use cavesson_formats::{gpx, timer};
use cavesson_sim::{Mishap, RunTimer, SimTimer, Watch, ridden};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, today};

fn pocket() -> Value {
    json!({ "entry": 4.0 * FOOT, "back": 4.0 * FOOT, "exit": 3.0 * FOOT })
}

async fn pen(ada: &mut Client) -> Uuid {
    let ground = Uuid::new_v4();
    let place = json!({ "name": "Short pen", "place": "arena", "surface": "sand", "length": 60.0, "width": 36.0 });
    ada.put(&format!("/api/grounds/{ground}"), place).await.is(201);
    ground
}

async fn fitted(ada: &mut Client, ground: Uuid) -> Value {
    let asked = json!({ "ground_id": ground, "pocket": pocket(), "first": "right" });
    ada.post("/api/patterns/fit", asked).await.is(200)
}

async fn set_up(ada: &mut Client, ground: Uuid, set_up: &Value) -> Uuid {
    let id = Uuid::new_v4();
    let body = json!({ "ground_id": ground, "name": "Three barrels", "set_up": set_up });
    ada.put(&format!("/api/set-ups/{id}"), body.clone()).await.is(201);
    ada.put(&format!("/api/set-ups/{id}"), body).await.is(200);
    id
}

fn horse() -> Value {
    serde_json::to_value(Horse::of_gait(Gait::Run).unwrap()).unwrap()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_pen_is_drawn_once_and_two_who_draw_at_once_lose_nothing(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let ground = pen(&mut ada).await;
    let url = format!("/api/grounds/{ground}/pen");
    let undrawn = ada.get(&url).await.is(200);
    assert_eq!(
        (&undrawn["version"], &undrawn["pen"]["outline"]["width"]),
        (&json!(0), &json!(36.0)),
        "as the place is"
    );
    let rut = json!({ "corners": [{ "x": 15, "y": 25 }, { "x": 20, "y": 25 }, { "x": 20, "y": 32 }], "underfoot": "rutted", "bad": 2 });
    let mut drawn = json!({ "version": 0, "pen": { "outline": { "kind": "rectangle", "width": 36.0, "length": 60.0 },
        "north": 90.0, "gate": { "x": 18.0, "y": 0.0 }, "posts": [{ "x": 0.0, "y": 30.0 }], "areas": [rut] } });
    assert_eq!(ada.put(&url, drawn.clone()).await.is(200)["version"], 1);
    assert_eq!(ada.put(&url, drawn.clone()).await.is(200)["version"], 1, "the same again is harmless");
    drawn["pen"]["north"] = json!(45.0);
    ada.put(&url, drawn.clone()).await.is(409);
    drawn["version"] = json!(1);
    assert_eq!(ada.put(&url, drawn.clone()).await.is(200)["version"], 2);
    drawn["pen"]["outline"] = json!({ "kind": "corners", "corners":
        [{ "x": 0, "y": 0 }, { "x": 30, "y": 40 }, { "x": 30, "y": 0 }, { "x": 0, "y": 40 }] });
    let crossed = ada.put(&url, drawn).await.is(422);
    assert!(crossed.to_string().contains("sides 1 and 3 of the pen cross"), "{crossed}");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn what_fits_is_laid_out_and_costed(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let ground = pen(&mut ada).await;
    let fit = fitted(&mut ada, ground).await;
    let scale = fit["scale"].as_f64().unwrap();
    assert!((0.5..1.0).contains(&scale) && fit["with_a_foot_more"].as_f64().unwrap() > scale, "{fit}");
    let run = |set_up: &Value| json!({ "set_up": set_up, "horse": horse(), "ground_id": ground });
    let now = ada.post("/api/patterns/run", run(&fit["set_up"])).await.is(200);
    let mut wider = fit["set_up"].clone();
    let entry = &mut wider["barrels"][1]["pocket"]["entry"];
    *entry = json!(entry.as_f64().unwrap() + FOOT);
    let then = ada.post("/api/patterns/run", run(&wider)).await.is(200);
    let cost = now["costs"].as_array().unwrap().iter().find(|c| c["barrel"] == 1 && c["spot"] == "entry").unwrap();
    let changed = then["seconds"].as_f64().unwrap() - now["seconds"].as_f64().unwrap();
    assert!((cost["more"].as_f64().unwrap() - changed).abs() < 0.002, "{cost} against {changed}");
    assert!(now["quickest_seconds"].as_f64().unwrap() <= now["seconds"].as_f64().unwrap());

    let sheet = ada.post("/api/patterns/tape", json!({ "ground_id": ground, "set_up": fit["set_up"] })).await.is(200);
    assert_eq!(sheet["marks"].as_array().unwrap().len(), 4, "the line and three barrels");
    let number = |v: &Value| v.as_f64().unwrap();
    for mark in sheet["marks"].as_array().unwrap() {
        let from = |post: &str| {
            (number(&mark["at"]["x"]) - number(&sheet[post]["x"]))
                .hypot(number(&mark["at"]["y"]) - number(&sheet[post]["y"]))
        };
        assert!((number(&mark["a"]) - from("a")).abs() < 1e-9 && (number(&mark["b"]) - from("b")).abs() < 1e-9);
    }
    let id = set_up(&mut ada, ground, &fit["set_up"]).await;
    let csv = ada.text(&format!("/api/set-ups/{id}/markers")).await;
    assert!(csv.starts_with("marker,x_ft,y_ft,x_m,y_m,turn\n") && csv.contains("barrel 3,"), "{csv}");
    let svg = ada.text(&format!("/api/set-ups/{id}/drawing")).await;
    assert!(svg.starts_with("<svg") && svg.matches("<circle").count() == 3);
    let zero = json!({ "entry": 0.0, "back": 1.0, "exit": 1.0 });
    let mut none = fit["set_up"].clone();
    none["barrels"][0]["pocket"] = zero;
    ada.post("/api/patterns/run", run(&none)).await.names(422, "set_up.barrels[0].pocket.entry");
    let mut near = fit["set_up"].clone();
    near["barrels"][1]["at"] = near["barrels"][0]["at"].clone();
    ada.post("/api/patterns/run", run(&near)).await.names(422, "set_up.barrels[1]");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_failed_pass_changes_what_is_ridden_next(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (ground, juniper) = (pen(&mut ada).await, ada.horse("Juniper").await);
    let fit = fitted(&mut ada, ground).await;
    let id = set_up(&mut ada, ground, &fit["set_up"]).await;
    let today_of = format!("/api/horses/{juniper}/pattern-today");
    let before = ada.get(&today_of).await.is(200);
    assert_eq!(before["blocks"][0]["gait"], "walk", "a horse that owns nothing walks it: {before}");
    assert_eq!(before["blocks"][0]["pockets"][1]["why"], Value::Null);
    let pass = Uuid::new_v4();
    let fell = json!({ "pocket": ["close", "close", "as-planned"], "rate": "late", "faults": ["fell-in"] });
    let body = json!({ "set_up_id": id, "gait": "jog", "told": { "barrels": [{}, fell, {}], "seconds": 52.5 } });
    let url = format!("/api/horses/{juniper}/passes/{pass}");
    ada.put(&url, body.clone()).await.is(201);
    ada.put(&url, body.clone()).await.is(200);
    let mut other = body.clone();
    other["gait"] = json!("lope");
    ada.put(&url, other).await.is(409);
    let after = ada.get(&today_of).await.is(200);
    let why = after["blocks"][0]["pockets"][1]["why"].as_str().unwrap();
    assert!(why.starts_with("fell in on") && why.contains("a foot more pocket"), "{why}");
    let list = ada.get(&format!("/api/horses/{juniper}/passes")).await.is(200);
    assert_eq!(list["items"][0]["official"], 52.5);
    assert_eq!(list["drifts"][0]["drift"].as_f64(), Some(-2.0 / 3.0));
    let gone = format!("/api/passes/{pass}");
    ada.delete(&gone).await.is(204);
    assert_eq!(ada.get(&today_of).await.is(200)["blocks"][0]["pockets"][1]["why"], Value::Null);
    ada.delete(&format!("{gone}?back=true")).await.is(204);
    let mut short = body;
    short["told"]["barrels"] = json!([{}]);
    ada.put(&format!("/api/horses/{juniper}/passes/{}", Uuid::new_v4()), short).await.names(422, "told.barrels");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_pass_that_a_device_kept_says_what_it_was_ridden_over(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (ground, juniper) = (pen(&mut ada).await, ada.horse("Juniper").await);
    let fit = fitted(&mut ada, ground).await;
    let id = set_up(&mut ada, ground, &fit["set_up"]).await;
    let ride = ada.ride(juniper).await;
    // The set-up was changed before the device had its signal back.
    let mut wider = fit["set_up"].clone();
    wider["barrels"][0]["pocket"]["entry"] = json!(2.5);
    let tomorrow = today() + chrono::Days::new(1);
    let body = json!({ "set_up_id": id, "ride_id": ride, "gait": "jog", "on": tomorrow, "set_up": wider,
                       "told": { "barrels": [{}, {}, {}] } });
    ada.put(&format!("/api/horses/{juniper}/passes/{}", Uuid::new_v4()), body.clone()).await.is(201);
    let kept = ada.get(&format!("/api/horses/{juniper}/passes")).await.is(200)["items"][0].clone();
    assert_eq!(kept["set_up"]["barrels"][0]["pocket"]["entry"], 2.5);
    assert_eq!((&kept["ride_id"], &kept["on"]), (&json!(ride), &json!(today())), "the device's clock was ahead");

    let mut bad = body.clone();
    bad["set_up"]["barrels"][0]["pocket"]["entry"] = json!(0);
    let again = format!("/api/horses/{juniper}/passes/{}", Uuid::new_v4());
    ada.put(&again, bad).await.names(422, "set_up.barrels[0].pocket.entry");
    let mut later = body.clone();
    later["on"] = json!(today() + chrono::Days::new(2));
    ada.put(&again, later).await.names(422, "on");
    // A ride of another horse, and one that is not there.
    let briar = ada.horse("Briar").await;
    ada.put(&format!("/api/horses/{briar}/passes/{}", Uuid::new_v4()), body.clone()).await.names(422, "ride_id");
    let mut nowhere = body;
    nowhere["ride_id"] = json!(Uuid::new_v4());
    ada.put(&again, nowhere).await.names(422, "ride_id");
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_pass_is_corrected_by_whoever_read_it_last(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (ground, juniper) = (pen(&mut ada).await, ada.horse("Juniper").await);
    let fit = fitted(&mut ada, ground).await;
    let id = set_up(&mut ada, ground, &fit["set_up"]).await;
    let pass = Uuid::new_v4();
    let body = json!({ "set_up_id": id, "gait": "jog", "told": { "barrels": [{}, {}, {}], "seconds": 52.5 } });
    ada.put(&format!("/api/horses/{juniper}/passes/{pass}"), body).await.is(201);
    let url = format!("/api/passes/{pass}");
    let told = json!({ "barrels": [{}, { "faults": ["fell-in"] }, {}], "seconds": 51.5 });
    let correction = json!({ "version": 1, "gait": "lope", "told": told });
    let now = ada.patch(&url, correction.clone()).await.is(200);
    assert_eq!((&now["gait"], &now["seconds"], &now["version"]), (&json!("lope"), &json!(51.5), &json!(2)));
    // The same once more changes nothing; something else on what was read before is refused with what is there.
    assert_eq!(ada.patch(&url, correction.clone()).await.is(200)["version"], 2);
    let mut other = correction.clone();
    other["told"]["seconds"] = json!(50.0);
    let stale = ada.patch(&url, other).await.is(409);
    assert_eq!(stale["current"]["seconds"], 51.5);
    let mut short = correction;
    short["told"]["barrels"] = json!([{}]);
    ada.patch(&url, short).await.names(422, "told.barrels");
    let listed = ada.get(&format!("/api/horses/{juniper}/passes")).await.is(200);
    assert_eq!(listed["items"][0]["barrels"][1]["faults"], json!(["fell-in"]));
    ada.delete(&url).await.is(204);
    ada.patch(&url, json!({ "version": 2, "gait": "jog", "told": { "barrels": [{}, {}, {}] } })).await.is(404);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_watch_and_a_timer_tell_of_a_pass(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (ground, juniper) = (pen(&mut ada).await, ada.horse("Juniper").await);
    let fit = fitted(&mut ada, ground).await;
    let id = set_up(&mut ada, ground, &fit["set_up"]).await;
    let plan: SetUp = serde_json::from_value(fit["set_up"].clone()).unwrap();
    let able = Horse::of_gait(Gait::Lope).unwrap();
    let rode = ridden(&plan, &able, &[0.9, 0.0, 0.0], 3).unwrap();

    let events = timer::write(&SimTimer::of(&rode, Mishap::TicksTwice, 5).events());
    let told = ada.post("/api/patterns/timer", json!({ "text": events })).await.is(200);
    assert_eq!(told["splits"].as_array().unwrap().len(), 3);
    assert!(told["notes"][0].as_str().unwrap().starts_with("It ticked twice"));
    assert!((told["seconds"].as_f64().unwrap() - rode.time()).abs() < 0.05);
    ada.post("/api/patterns/timer", json!({ "text": "split,1\nfinish,0.5" })).await.names(422, "text");

    let pass = Uuid::new_v4();
    let body = json!({ "set_up_id": id, "gait": "lope", "told": { "barrels": [{}, {}, {}],
        "behind": told["splits"], "seconds": told["seconds"] } });
    ada.put(&format!("/api/horses/{juniper}/passes/{pass}"), body).await.is(201);
    let track = Watch { off: 0.2, per_second: 10.0, seed: 9 }.track(&rode);
    // South of the equator, across the line where days change.
    let text = gpx::write("A pass", &track, (-33.0, 179.9999), 1_770_000_000.0);
    let url = format!("/api/passes/{pass}/track");
    let laid = ada.put(&url, json!({ "text": text })).await.is(200);
    let wide = laid["pockets"][0][1].as_f64().unwrap() - laid["pockets"][1][1].as_f64().unwrap();
    assert!((wide - 0.9).abs() < 0.6, "the first barrel was ridden wide: {}", laid["pockets"]);
    assert!((laid["seconds"].as_f64().unwrap() - rode.time()).abs() < 3.0);
    // As a file again, it lies where it was recorded: to ten centimetres, at the same moments.
    let given = gpx::read(&ada.text(&url).await).unwrap();
    let recorded = gpx::read(&text).unwrap();
    let metres_north = (given.origin.0 - recorded.origin.0).to_radians() * 6_371_008.8;
    let east = (given.origin.1 - recorded.origin.1 + 540.0).rem_euclid(360.0) - 180.0;
    let shift = Point::new(east.to_radians() * 6_371_008.8 * recorded.origin.0.to_radians().cos(), metres_north);
    for p in &given.points {
        let t = p.t + given.began - recorded.began;
        let after = recorded.points.partition_point(|r| r.t < t).clamp(1, recorded.points.len() - 1);
        let (a, b) = (recorded.points[after - 1], recorded.points[after]);
        let there = a.at + (b.at - a.at) * ((t - a.t) / (b.t - a.t));
        assert!(there.distance(p.at + shift) < 0.1, "{p:?} {there:?}");
    }
    ada.put(&url, json!({ "text": "<gpx" })).await.names(422, "text");
    let no_times = "<gpx version=\"1.1\" creator=\"x\" xmlns=\"http://www.topografix.com/GPX/1/1\"><trk><trkseg>\
                    <trkpt lat=\"1\" lon=\"1\"/></trkseg></trk></gpx>";
    let refused = ada.put(&url, json!({ "text": no_times })).await.is(422);
    assert!(refused.to_string().contains("point 1 has no time"), "{refused}");
    let shown = ada.get(&format!("/api/horses/{juniper}/pattern-today")).await.is(200);
    let able = shown["able"].as_array().unwrap().iter().find(|a| a["gait"] == "lope").unwrap();
    assert_eq!(able["times"], 4, "three splits and the finish");
    assert!(able["spread"][0].as_f64().unwrap() < 0.2);
    let quickest = quickest_run(&plan, &Horse::of_gait(Gait::Lope).unwrap()).unwrap().time();
    assert!(rode.time() > quickest);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn runs_of_a_day_are_placed_by_divisions(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let ground = pen(&mut ada).await;
    let fit = fitted(&mut ada, ground).await;
    let id = set_up(&mut ada, ground, &fit["set_up"]).await;
    for (name, seconds, knocked) in
        [("Ash", 17.9, false), ("Briar", 17.2, false), ("Clove", 17.1, true), ("Dill", 17.8, false)]
    {
        let horse = ada.horse(name).await;
        let told = json!({ "barrels": [{}, { "knocked": knocked }, {}], "seconds": seconds });
        let pass = json!({ "set_up_id": id, "gait": "run", "told": told });
        ada.put(&format!("/api/horses/{horse}/passes/{}", Uuid::new_v4()), pass).await.is(201);
    }
    let event = ada.get(&format!("/api/set-ups/{id}/event")).await.is(200);
    let told: Vec<(String, u64, u64)> = event["items"]
        .as_array()
        .unwrap()
        .iter()
        .map(|r| {
            (r["horse"].as_str().unwrap().to_owned(), r["division"].as_u64().unwrap(), r["place"].as_u64().unwrap())
        })
        .collect();
    let of = |name: &str, division, place| (name.to_owned(), division, place);
    // Half a second and more from Briar's 17.2 s is the second division; five seconds for a barrel are the fourth.
    assert_eq!(told, [of("Briar", 1, 1), of("Dill", 2, 1), of("Ash", 2, 2), of("Clove", 4, 1)]);
    assert_eq!(event["items"][3]["official"], 22.1);
    assert!(
        ada.get(&format!("/api/set-ups/{id}/event?on=2026-01-02")).await.is(200)["items"]
            .as_array()
            .unwrap()
            .is_empty()
    );
}
