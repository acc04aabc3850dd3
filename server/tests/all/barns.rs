//! One barn cannot see or touch another: every route of the OpenAPI document is walked with another barn's ids.

use axum::http::Method;
use chrono::{Days, Utc};
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{first_barn, rep_body, ride_body, second_barn, today};

/// A body that the route would take, so that a refusal is about the barn and not about the form.
fn body_for(method: &str, path: &str, rider: Uuid) -> Option<Value> {
    Some(match (method, path) {
        ("put", "/api/people/{id}") => {
            json!({ "version": 1, "name": "X", "email": "x@y.example", "role": "assistant" })
        }
        ("post", "/api/people/{id}/link" | "/api/barns/{id}/enter") => Value::Null,
        ("put", "/api/horses/{id}") => json!({ "version": 1, "name": "Taken" }),
        ("patch", "/api/rides/{id}") => {
            json!({ "version": 2, "rider_id": rider, "place": "trail", "state": "closed", "note": "taken", "signs": [] })
        }
        ("put", "/api/rides/{ride}/reps/{rep}") => rep_body(Uuid::new_v4(), "S1", "stand", "left"),
        ("patch", "/api/reps/{id}") => json!({ "version": 1, "outcome": "none", "weight": "tug", "removed": true }),
        ("patch", "/api/counts/{id}") => {
            json!({ "version": 1, "removed": true, "count": { "kind": "laps", "laps": 9, "soft": false } })
        }
        ("put", "/api/rides/{ride}/counts/{rep}") => {
            json!({ "set": { "id": Uuid::new_v4(), "position": 0, "rung": "R2", "gait": "walk", "side": "left" },
                    "count": { "kind": "laps", "laps": 2, "soft": true } })
        }
        ("put", "/api/horses/{horse}/overrules/{id}") => json!({ "step": "S1", "made": "advance", "reason": "taken" }),
        ("put", "/api/horses/{horse}/findings/{id}") => json!({ "looked": "vet", "found": "taken" }),
        ("put", "/api/horses/{horse}/incidents/{id}") => {
            json!({ "kind": "bucked", "rider_id": rider, "before": "taken", "may_ride": "nobody" })
        }
        ("put", "/api/horses/{horse}/layoffs/{id}") => {
            json!({ "version": 1, "off_since": today() - Days::new(9), "back_on": today(), "why": "rest" })
        }
        ("put", "/api/horses/{id}/claims") => {
            json!({ "said_by": "They hoped", "claims": [{ "id": Uuid::new_v4(), "step": "S1" }] })
        }
        ("put", "/api/sets/{id}/rider") => json!({ "rider_id": rider }),
        ("put", "/api/rides/{ride}/plan/{id}") => json!({ "edit": "drop", "step": "S1" }),
        ("put", "/api/rides/{ride}/checks/{check}") => json!({ "side": "both", "answer": "well" }),
        ("put", "/api/rides/{id}/gear") => json!({ "gear": [] }),
        ("put", "/api/horses/{horse}/gear/{id}") => {
            json!({ "kind": "saddle", "name": "Taken", "mouthpiece": null, "since": today() })
        }
        ("put", "/api/grounds/{id}") => json!({ "version": 1, "name": "Taken", "place": "arena", "surface": "hard" }),
        ("put", "/api/grounds/{id}/pen") => {
            json!({ "version": 1, "pen": { "outline": { "kind": "rectangle", "width": 30.0, "length": 60.0 } } })
        }
        ("put", "/api/set-ups/{id}") => {
            json!({ "version": 1, "ground_id": Uuid::new_v4(), "name": "Taken", "set_up": one_barrel() })
        }
        ("put", "/api/figures/{id}") => json!({ "version": 1, "name": "Taken", "text": "jog" }),
        ("put", "/api/horses/{horse}/passes/{id}") => {
            json!({ "set_up_id": Uuid::new_v4(), "gait": "jog", "told": { "barrels": [{}] } })
        }
        ("patch", "/api/passes/{id}") => json!({ "version": 1, "gait": "walk", "told": { "barrels": [{}] } }),
        ("put", "/api/passes/{id}/track") => json!({ "text": "taken" }),
        ("put", "/api/rides/{id}/shares") => json!({ "version": 0, "seconds": 2400, "begins": 10, "moves": [] }),
        ("put", "/api/rides/{ride}/tack/{id}") => {
            json!({ "at": Utc::now(), "version": 2, "event": { "kind": "share", "bridle": 90, "asked": null } })
        }
        ("put", "/api/rides/{ride}/cattle/{id}") => {
            json!({ "at": Utc::now(), "version": 2, "event": { "kind": "left" } })
        }
        ("put", "/api/rides/{ride}/exercises/{id}") => {
            json!({ "at": Utc::now(), "version": 2, "event": a_move("taken") })
        }
        ("put", "/api/horses/{id}/strides") => json!({ "version": 1, "walk": 1.5, "jog": 2.0, "lope": 3.0 }),
        ("put", "/api/scored-runs/{id}") => json!({ "horse_id": Uuid::new_v4(), "name": "Taken", "text": "jog\nstop" }),
        ("put", "/api/scored-runs/{id}/sheet") => json!({ "version": 2, "marks": [{ "score": 3 }], "done": true }),
        ("put", "/api/cattle/{id}") => {
            json!({ "version": 1, "tag": "taken", "manner": "sour", "health": "sick", "came_on": today() })
        }
        ("put", "/api/cattle-rules") => {
            json!({ "version": 0, "rules": { "rest_half_days": 3.0, "wear_half_minutes": 15.0, "day": 2, "week": 6,
                    "go_minutes": 2, "bring": 5 } })
        }
        ("put", "/api/cattle-draw") => json!({ "version": 0, "goes": [] }),
        ("put", "/api/gear/{id}/measures") => {
            json!({ "version": 1, "measures": { "kind": "snaffle", "width": 0.13, "ring": 0.08 } })
        }
        ("put", "/api/people/{id}/hours") => json!({ "hours": [{ "weekday": 0, "from": "07:00", "to": "09:00" }] }),
        ("put", "/api/rides/{id}/missed") => json!({ "why": "time" }),
        ("put", "/api/horses/{id}/rides-a-week") => json!({ "least": 1, "most": 2 }),
        ("get" | "delete", _) => return None,
        (method, path) => panic!("{method} {path} is new: say here what its body is"),
    })
}

fn a_move(says: &str) -> Value {
    json!({ "kind": "move", "figure": "Laps", "call": 0, "says": says, "answer": "done" })
}

pub(crate) fn one_barrel() -> Value {
    json!({ "start": { "x": 10.0, "y": 2.0 }, "finish": { "x": 12.0, "y": 2.0 }, "barrel_radius": 0.3,
            "barrels": [{ "at": { "x": 11.0, "y": 20.0 }, "turn": "left",
                          "pocket": { "entry": 1.2, "back": 1.2, "exit": 0.9 } }] })
}

async fn everything(db: &PgPool, barn: Uuid) -> Vec<String> {
    let mut rows = vec![];
    for table in [
        "barn where id",
        "person where barn_id",
        "session where barn_id",
        "unplaced where barn_id",
        "written where barn_id",
        "account_link where barn_id",
        "ahead_lease where barn_id",
        "barn_change where barn_id",
        "security_event where barn_id",
        "horse where barn_id",
        "horse_revision where barn_id",
        "ride where barn_id",
        "ride_revision where barn_id",
        "ride_set where barn_id",
        "rep where barn_id",
        "curriculum_change where barn_id",
        "overrule where barn_id",
        "finding where barn_id",
        "claim where barn_id",
        "incident where barn_id",
        "layoff where barn_id",
        "ground where barn_id",
        "pen where barn_id",
        "set_up where barn_id",
        "pattern_pass where barn_id",
        "gear where barn_id",
        "gear_measure where barn_id",
        "shared_ride where barn_id",
        "tack_event where barn_id",
        "cow where barn_id",
        "herd_rules where barn_id",
        "cattle_event where barn_id",
        "cattle_draw where barn_id",
        "exercise_event where barn_id",
        "stride where barn_id",
        "scored_run where barn_id",
        "score_sheet where barn_id",
        "ride_gear where barn_id",
        "ride_edit where barn_id",
        "ride_check where barn_id",
        "weather where barn_id",
        "alias where barn_id",
        "set_change where barn_id",
        "person_hours where barn_id",
        "place_hours where barn_id",
        "cattle_day where barn_id",
        "away where barn_id",
        "week_plan where barn_id",
        "feed where barn_id",
        "appointment where barn_id",
        "appointment_who where barn_id",
    ] {
        let (name, key) = table.split_once(" where ").unwrap();
        let sql = format!("select to_jsonb({name})::text from {name} where {key} = $1 order by 1");
        let found: Vec<String> = sqlx::query_scalar(&sql).bind(barn).fetch_all(db).await.unwrap();
        rows.extend(found);
    }
    rows
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_route_reaches_into_another_barn(db: PgPool) {
    walk(db, false).await;
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_route_reaches_into_another_barn_of_the_same_person(db: PgPool) {
    walk(db, true).await;
}

/// Every route with an id, asked by someone in a second barn with ids of the first; who may enter the first too, or may not.
async fn walk(db: PgPool, is_in_both: bool) {
    let mut ada = first_barn(&db).await;
    let mut bo = second_barn(&db, &ada).await;
    if is_in_both {
        sqlx::query(
            "insert into person (barn_id, id, name, email, role, account_id)
             select barn_id, gen_random_uuid(), 'Bo', 'bo@high.example', 'trainer', (select id from account where email = 'bo@high.example')
             from person where name = 'Ada'",
        )
        .execute(&db)
        .await
        .unwrap();
        assert_eq!(bo.get("/api/me").await.is(200)["barns"].as_array().unwrap().len(), 2);
    }
    let (horse, rider) = (ada.horse("Hidden Juniper").await, ada.my_id().await);
    let (ride, rep) = (ada.ride(horse).await, Uuid::new_v4());
    let set = Uuid::new_v4();
    ada.put(&format!("/api/rides/{ride}/reps/{rep}"), rep_body(set, "S1", "stand", "left")).await.is(201);
    let counted = Uuid::new_v4();
    let hidden_count = json!({ "count": { "kind": "laps", "laps": 3, "soft": true },
        "set": { "id": counted, "position": 1, "rung": "R2", "gait": "walk", "side": "left" } });
    ada.put(&format!("/api/rides/{ride}/counts/{counted}"), hidden_count).await.is(201);
    ada.put("/api/aliases", json!({ "word": "hidden", "rung": "S1" })).await.is(200);
    ada.put("/api/weather", json!({ "degrees": 31.5, "scale": "celsius", "humidity": 44 })).await.is(200);
    let saddle = json!({ "kind": "saddle", "name": "Hidden saddle", "mouthpiece": null, "since": today() });
    let gear = Uuid::new_v4();
    ada.put(&format!("/api/horses/{horse}/gear/{gear}"), saddle).await.is(201);
    ada.put(&format!("/api/rides/{ride}/gear"), json!({ "gear": [gear] })).await.is(200);
    let shares = json!({ "version": 0, "seconds": 2411, "begins": 13, "moves": [] });
    ada.put(&format!("/api/rides/{ride}/shares"), shares).await.is(200);
    let hidden_snaffle = Uuid::new_v4();
    let snaffle = json!({ "kind": "bit", "name": "Hidden snaffle", "mouthpiece": "snaffle", "since": today(),
                          "mouth_seen": today(), "teeth_seen": today() });
    ada.put(&format!("/api/horses/{horse}/gear/{hidden_snaffle}"), snaffle).await.is(201);
    let measures = json!({ "version": 0, "measures": { "kind": "snaffle", "width": 0.127, "ring": 0.0765 } });
    ada.put(&format!("/api/gear/{hidden_snaffle}/measures"), measures).await.is(200);
    let hidden_share = json!({ "at": Utc::now(), "version": 1, "event": { "kind": "anyway", "why": "hidden" } });
    ada.put(&format!("/api/rides/{ride}/tack/{}", Uuid::new_v4()), hidden_share).await.is(204);
    let hidden_cow = Uuid::new_v4();
    let cow = json!({ "version": 0, "tag": "hidden", "manner": "slow", "health": "well", "came_on": today() });
    ada.put(&format!("/api/cattle/{hidden_cow}"), cow).await.is(200);
    let hidden_work =
        json!({ "at": Utc::now(), "version": 1, "event": { "kind": "work", "cow": hidden_cow, "why": "hidden" } });
    ada.put(&format!("/api/rides/{ride}/cattle/{}", Uuid::new_v4()), hidden_work).await.is(204);
    let rules =
        json!({ "rest_half_days": 7.5, "wear_half_minutes": 33.0, "day": 1, "week": 3, "go_minutes": 4, "bring": 3 });
    ada.put("/api/cattle-rules", json!({ "version": 0, "rules": rules })).await.is(200);
    ada.put("/api/cattle-draw", json!({ "version": 0, "goes": [] })).await.is(200);
    let hidden_away = Uuid::new_v4();
    let gone = json!({ "horse_id": horse, "day": today(), "from": "00:00", "to": "24:00", "why": "hidden lameness" });
    ada.put(&format!("/api/away/{hidden_away}"), gone).await.is(201);
    let hidden_off =
        json!({ "off_since": today() - Days::new(9), "back_on": today(), "why": "rest", "vet_said": "hidden" });
    ada.put(&format!("/api/horses/{horse}/layoffs/{}", Uuid::new_v4()), hidden_off).await.is(201);
    let hidden_ground = Uuid::new_v4();
    let place = json!({ "name": "Hidden pen", "place": "arena", "surface": "sand" });
    ada.put(&format!("/api/grounds/{hidden_ground}"), place).await.is(201);
    let pen = json!({ "version": 0, "pen": { "outline": { "kind": "oval", "width": 31.5, "length": 60.0 } } });
    ada.put(&format!("/api/grounds/{hidden_ground}/pen"), pen).await.is(200);
    let (hidden_set_up, hidden_pass) = (Uuid::new_v4(), Uuid::new_v4());
    let set_up = json!({ "ground_id": hidden_ground, "name": "Hidden set-up", "set_up": one_barrel() });
    ada.put(&format!("/api/set-ups/{hidden_set_up}"), set_up.clone()).await.is(201);
    let hidden_figure = Uuid::new_v4();
    let figure = json!({ "name": "Hidden figure", "text": "jog\nline 20" });
    ada.put(&format!("/api/figures/{hidden_figure}"), figure).await.is(201);
    let hidden_move = json!({ "at": Utc::now(), "version": 1, "event": a_move("Hidden circle") });
    ada.put(&format!("/api/rides/{ride}/exercises/{}", Uuid::new_v4()), hidden_move).await.is(204);
    ada.put(&format!("/api/horses/{horse}/strides"), json!({ "version": 0, "walk": 1.31, "jog": null, "lope": null }))
        .await
        .is(200);
    let hidden_run = Uuid::new_v4();
    let scored = json!({ "horse_id": horse, "name": "Hidden run", "text": "jog\nstop" });
    ada.put(&format!("/api/scored-runs/{hidden_run}"), scored.clone()).await.is(201);
    let sheet = json!({ "version": 1, "marks": [{ "score": -1 }], "done": true });
    ada.put(&format!("/api/scored-runs/{hidden_run}/sheet"), sheet).await.is(204);
    let pass = json!({ "set_up_id": hidden_set_up, "gait": "jog", "told": { "barrels": [{}], "note": "hidden" } });
    ada.put(&format!("/api/horses/{horse}/passes/{hidden_pass}"), pass.clone()).await.is(201);
    let hidden_feed = Uuid::new_v4();
    ada.put(&format!("/api/feeds/{hidden_feed}"), json!({ "horse_id": horse })).await.is(201);
    let hidden_visit = Uuid::new_v4();
    let visit = json!({ "version": 0, "kind": "farrier", "title": "Hidden farrier", "day": today(), "days": 1, "from": "09:00",
                        "to": "11:00", "rule": "FREQ=WEEKLY", "people": [rider], "horses": [horse] });
    ada.put(&format!("/api/appointments/{hidden_visit}"), visit.clone()).await.is(200);
    ada.put("/api/cattle-days", json!({ "works": [17, 17, 17, 17, 17, 17, 17] })).await.is(200);
    ada.put(&format!("/api/weeks/{}", today()), json!({ "version": 0, "rides": [] })).await.is(200);
    let (bos_horse, bos_id) = (bo.horse("Bo's").await, bo.my_id().await);
    let barn: Uuid =
        sqlx::query_scalar("select barn_id from horse where id = $1").bind(horse).fetch_one(&db).await.unwrap();
    let before = everything(&db, barn).await;
    assert!(before.len() >= 6);

    let document: Value = serde_json::from_str(&cavesson::http::openapi().to_json().unwrap()).unwrap();
    let mut walked = 0;
    for (path, item) in document["paths"].as_object().unwrap() {
        for method in
            item.as_object().unwrap().keys().filter(|m| ["get", "put", "post", "patch", "delete"].contains(&m.as_str()))
        {
            if !path.contains('{') || (method.as_str(), path.as_str()) == ("put", "/api/rides/{id}") {
                continue; // Checked below: routes that answer for the session's own barn, and one that makes a ride.
            }
            let ids: Vec<Uuid> = match path.split('/').nth(2) {
                Some("horses") => vec![horse],
                Some("people") => vec![rider],
                Some("rides") => vec![ride],
                Some("reps") => vec![rep],
                Some("sets") => vec![set],
                Some("grounds") => vec![hidden_ground],
                Some("counts") => vec![counted],
                Some("passes") => vec![hidden_pass],
                Some("gear") => vec![hidden_snaffle],
                Some("cattle") => vec![hidden_cow],
                Some("figures") => vec![hidden_figure],
                Some("scored-runs") => {
                    // Nor a run of one's own on another barn's horse.
                    bo.put(&format!("/api/scored-runs/{}", Uuid::new_v4()), scored.clone()).await.is(404);
                    vec![hidden_run]
                }
                Some("set-ups") => {
                    // Neither another barn's set-up, nor its pen under a set-up of one's own, nor a pass over either.
                    bo.put(&format!("/api/set-ups/{}", Uuid::new_v4()), set_up.clone()).await.is(404);
                    bo.put(&format!("/api/horses/{bos_horse}/passes/{}", Uuid::new_v4()), pass.clone()).await.is(404);
                    vec![hidden_set_up]
                }
                // A change is made under an id of one's own: the horse that it names is what must be one's own.
                Some("curriculum") => {
                    let body = json!({ "horse_id": horse, "change": { "kind": "leave-out", "rung": "S1" } });
                    bo.put(&format!("/api/curriculum/changes/{}", Uuid::new_v4()), body).await.is(404);
                    bo.get(&format!("/api/curriculum?horse={horse}")).await.is(404);
                    continue;
                }
                // Weeks, places and cattle days are the session's own barn's: looked at below.
                Some("weeks" | "places") => continue,
                Some("feeds") => {
                    bo.call(Method::DELETE, &format!("/api/feeds/{hidden_feed}"), None).await.is(404);
                    bo.put(&format!("/api/feeds/{}", Uuid::new_v4()), json!({ "horse_id": horse })).await.is(404);
                    continue;
                }
                Some("appointments") => {
                    let url = format!("/api/appointments/{hidden_visit}");
                    bo.call(Method::DELETE, &url, None).await.is(404);
                    let mut taken = visit.clone();
                    bo.put(&format!("/api/appointments/{}", Uuid::new_v4()), taken.clone()).await.is(404);
                    // The barn's own horse under another barn's id and version: there is no such appointment here.
                    (taken["people"], taken["horses"]) = (json!([]), json!([bos_horse]));
                    taken["version"] = json!(1);
                    bo.put(&url, taken).await.is(404);
                    continue;
                }
                Some("away") => {
                    let url = format!("/api/away/{hidden_away}");
                    bo.call(Method::DELETE, &url, None).await.is(404);
                    let of =
                        json!({ "horse_id": horse, "day": today(), "from": "00:00", "to": "24:00", "why": "taken" });
                    bo.put(&format!("/api/away/{}", Uuid::new_v4()), of).await.is(404);
                    continue;
                }
                Some("unplaced") => {
                    let handed_in = |person: Option<Uuid>| {
                        json!({ "kind": "rep", "ride_id": ride, "person_id": person, "why": "taken",
                                "body": rep_body(Uuid::new_v4(), "S1", "stand", "left") })
                    };
                    let url = format!("/api/unplaced/{}", Uuid::new_v4());
                    bo.put(&url, handed_in(Some(rider))).await.names(422, "person_id");
                    // What the barn has of its own does not go on another's ride.
                    bo.put(&url, handed_in(None)).await.is(201);
                    let id = url.rsplit('/').next().unwrap();
                    bo.post("/api/unplaced/place", json!({ "ids": [id], "ride_id": ride })).await.is(404);
                    assert_eq!(bo.get("/api/unplaced").await.is(200)["items"][0]["horse_name"], Value::Null);
                    continue;
                }
                Some("barns") if is_in_both => continue, // They may enter it: see several_barns.rs.
                Some("barns") => vec![barn],
                Some("sessions") => {
                    let session = ada.get("/api/sessions").await.is(200)["items"][0]["id"].as_str().unwrap().to_owned();
                    bo.call(Method::DELETE, &format!("/api/sessions/{session}"), None).await.is(404);
                    continue;
                }
                other => panic!("{other:?} is a new kind of thing: give it an id here"),
            };
            let url = path
                .replace("{horse}", &ids[0].to_string())
                .replace("{id}", &ids[0].to_string())
                .replace("{ride}", &ids[0].to_string())
                .replace("{rep}", &rep.to_string())
                .replace("{check}", "tack");
            let url = match path.rsplit('/').next() {
                Some("trace") => format!("{url}?step=S1"),
                Some("pieces-compared") => format!("{url}?first={hidden_snaffle}&second={gear}"),
                Some("forecast") => format!("{url}?by={}", today()),
                Some("planned") => format!("{url}?date={}", today()),
                _ => url,
            };
            let body = body_for(method, path, bos_id);
            let answer =
                bo.call(Method::from_bytes(method.to_uppercase().as_bytes()).unwrap(), &url, body.as_ref()).await;
            assert_eq!(answer.status.as_u16(), 404, "{method} {path}: {}", answer.body);
            assert!(!answer.body.to_string().contains("Hidden"), "{method} {path} tells of another barn");
            walked += 1;
        }
    }
    assert!(walked >= 13, "only {walked} routes have ids");
    // Ids are a barn's own: a ride under the same id in Bo's barn is Bo's, and Ada's stays as it is.
    bo.put(&format!("/api/rides/{ride}"), ride_body(bos_horse, bos_id, today())).await.is(201);
    for path in [
        "/api/today",
        "/api/day",
        "/api/horses",
        "/api/people",
        "/api/barn",
        "/api/me",
        "/api/horses?archived=true",
        "/api/owned",
        "/api/overrules",
        "/api/alarms",
        "/api/curriculum/changes",
        "/api/curriculum/gone",
        "/api/aliases",
        "/api/weather",
        "/api/hours",
        "/api/feeds",
        "/api/appointments",
        "/api/balance",
        &format!("/api/weeks/{}", today()),
    ] {
        let told = bo.get(path).await.is(200).to_string();
        assert!(
            !told.contains("Hidden")
                && !told.contains("hidden")
                && !told.contains("31.5")
                && !told.contains(&horse.to_string())
                && !told.contains("[17,")
                && (!told.contains("Low Meadow") || (is_in_both && path == "/api/me"))
                && !told.contains("Ada"),
            "{path} tells of another barn"
        );
    }
    for whose in [format!("horse={horse}"), format!("person={rider}")] {
        bo.get(&format!("/api/calendar?{whose}")).await.is(404);
    }
    let calendar = format!(
        "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:x\r\nSUMMARY:Vet: Hidden Juniper\r\nDTSTART:{}T090000\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n",
        today().format("%Y%m%d")
    );
    let told = bo.post("/api/appointments/import", json!({ "text": calendar, "dry_run": true })).await.is(200);
    assert_eq!(told["lines"][0]["fate"], "nobody");
    // A text that names another barn's horse, and one that is to be that horse's.
    let text = |horse: Option<Uuid>, text: &str| {
        json!({ "id": Uuid::new_v4(), "form": "shorthand", "text": text, "horse_id": horse, "date": today(), "place": "arena",
                "dry_run": false })
    };
    bo.post("/api/shorthand", text(Some(horse), "flex L 6/8")).await.is(404);
    bo.post("/api/shorthand", text(None, "Hidden Juniper: flex L 6/8")).await.is(422);
    // Gear of another barn's horse cannot be worn.
    let mine = bo.ride(bos_horse).await;
    bo.put(&format!("/api/rides/{mine}/gear"), json!({ "gear": [gear] })).await.is(422);
    assert_eq!(everything(&db, barn).await, before, "nothing of the first barn was changed");
}

#[test]
fn the_committed_openapi_document_is_the_servers() {
    let committed: Value = serde_json::from_str(include_str!("../../../web/src/api/openapi.json")).unwrap();
    let served: Value = serde_json::from_str(&cavesson::http::openapi().to_json().unwrap()).unwrap();
    assert!(
        committed == served,
        "web/src/api/openapi.json is old; write it again: cavesson openapi > web/src/api/openapi.json"
    );
}

#[test]
fn no_two_schemas_share_a_name() {
    // The generator keeps the last of two schemas of one name, and the web's types then speak of another thing.
    let mut seen: std::collections::HashMap<String, std::path::PathBuf> = std::collections::HashMap::new();
    let mut folders = vec![std::path::PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/src"))];
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if entry.is_dir() {
                folders.push(entry);
                continue;
            }
            let text = std::fs::read_to_string(&entry).unwrap();
            let mut of_schema = false;
            for line in text.lines() {
                of_schema |= line.starts_with("#[derive(") && line.contains("ToSchema");
                let Some(rest) = ["struct ", "enum "].iter().find_map(|kind| line.split_once(kind)) else { continue };
                let name: String = rest.1.chars().take_while(|c| c.is_alphanumeric()).collect();
                if std::mem::take(&mut of_schema) {
                    let other = seen.insert(name.clone(), entry.clone());
                    assert!(other.is_none(), "{name} is in {} and in {}", entry.display(), other.unwrap().display());
                }
            }
        }
    }
    assert!(seen.len() > 100, "{} schemas were found", seen.len());
}

/// A closed schema refuses the fields of what it is put together with: nothing could satisfy the whole.
#[test]
fn no_schema_is_put_together_from_closed_ones() {
    fn walk(at: &str, value: &Value, schemas: &Value) {
        for part in value["allOf"].as_array().into_iter().flatten() {
            if let Some(name) = part["$ref"].as_str().and_then(|of| of.rsplit('/').next()) {
                assert_ne!(schemas[name]["additionalProperties"], false, "{name} in {at}");
            }
        }
        match value {
            Value::Object(fields) => {
                fields.iter().for_each(|(key, value)| walk(&format!("{at}/{key}"), value, schemas));
            }
            Value::Array(items) => items.iter().for_each(|value| walk(at, value, schemas)),
            _ => {}
        }
    }
    let document: Value = serde_json::from_str(&cavesson::http::openapi().to_json().unwrap()).unwrap();
    let schemas = &document["components"]["schemas"];
    assert!(schemas["Measures"]["oneOf"].is_array());
    walk("", schemas, schemas);
}
