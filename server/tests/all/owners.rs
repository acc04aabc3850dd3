//! What an owner may read: every route that reads is asked, and nothing of another owner's comes back.

use axum::http::{Method, Request, header};
use cavesson::http;
use chrono::Days;
use serde_json::{Value, json};
use sqlx::PgPool;
use uuid::Uuid;

use crate::{
    barns::one_barrel,
    support::{first_barn, rep_body, today},
};

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn no_route_shows_an_owner_what_belongs_to_another(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (olive, email) = ada.person("Olive", "owner").await;
    let (other_owner, other_email) = ada.person("Zebedee", "owner").await;
    let hers = Uuid::new_v4();
    ada.put(&format!("/api/horses/{hers}"), json!({ "name": "Hers", "owner_id": olive })).await.is(201);
    let secret = Uuid::new_v4();
    let horse = json!({ "name": "Quicksilver", "owner_id": other_owner, "note": "sold-for-much" });
    ada.put(&format!("/api/horses/{secret}"), horse).await.is(201);
    let ride = ada.ride(secret).await;
    let rep = format!("/api/rides/{ride}/reps/{}", Uuid::new_v4());
    ada.put(&rep, rep_body(Uuid::new_v4(), "S1", "stand", "left")).await.is(201);
    let finding = json!({ "looked": "vet", "found": "sore-hock-secret" });
    ada.put(&format!("/api/horses/{secret}/findings/{}", Uuid::new_v4()), finding).await.is(201);
    let rider = ada.my_id().await;
    let incident = json!({ "kind": "bucked", "rider_id": rider, "before": "spooked-at-secret", "may_ride": "trainer" });
    ada.put(&format!("/api/horses/{secret}/incidents/{}", Uuid::new_v4()), incident).await;
    let hours = json!({ "hours": [{ "weekday": 0, "from": "04:07", "to": "09:00" }] });
    ada.put(&format!("/api/people/{rider}/hours"), hours).await.is(200);
    let agreed = json!({ "least": 1, "most": 2 });
    ada.put(&format!("/api/horses/{secret}/rides-a-week"), agreed).await.is(200);
    let (ground, set_up) = (Uuid::new_v4(), Uuid::new_v4());
    ada.put(&format!("/api/grounds/{ground}"), json!({ "name": "Pen", "place": "arena", "surface": "sand" }))
        .await
        .is(201);
    ada.put(
        &format!("/api/set-ups/{set_up}"),
        json!({ "ground_id": ground, "name": "Set-up", "set_up": one_barrel() }),
    )
    .await
    .is(201);
    let pass = json!({ "set_up_id": set_up, "gait": "jog", "told": { "barrels": [{}], "note": "pass-secret" } });
    ada.put(&format!("/api/horses/{secret}/passes/{}", Uuid::new_v4()), pass).await.is(201);
    let hidden = [
        secret.to_string(),
        ride.to_string(),
        other_owner.to_string(),
        other_email,
        "Quicksilver".into(),
        "Zebedee".into(),
        "-secret".into(),
        "sold-for-much".into(),
        "04:07".into(),
        "ada@low.example".into(),
    ];

    let mut as_olive = ada.visitor();
    as_olive.sign_in(&email).await;
    let mut asked = 0;
    let document = serde_json::to_value(http::openapi()).unwrap();
    for (path, item) in document["paths"].as_object().unwrap() {
        let Some(operation) = item.get("get") else { continue };
        for (own, date) in [(true, today()), (false, today()), (true, today() + Days::new(1))] {
            let horse = if own { hers } else { secret };
            let id = if path.contains("rides/{") { ride } else { horse };
            let filled = path
                .split('/')
                .map(|part| match part {
                    "{horse}" => horse.to_string(),
                    "{ride}" => ride.to_string(),
                    "{day}" | "{date}" | "{monday}" => date.to_string(),
                    part if part.starts_with('{') => id.to_string(),
                    part => part.to_owned(),
                })
                .collect::<Vec<_>>()
                .join("/");
            let query: Vec<_> = operation["parameters"]
                .as_array()
                .into_iter()
                .flatten()
                .filter_map(|p| match p["name"].as_str().unwrap() {
                    "horse" => Some(format!("horse={horse}")),
                    name @ ("date" | "from" | "monday" | "on") => Some(format!("{name}={date}")),
                    "to" => Some(format!("to={}", date + Days::new(6))),
                    "rung" => Some("rung=S1".to_owned()),
                    _ => None,
                })
                .collect();
            let address = format!("{filled}?{}", query.join("&"));
            let request = Request::builder()
                .method(Method::GET)
                .uri(&address)
                .header(header::COOKIE, as_olive.cookie.as_deref().unwrap())
                .body(axum::body::Body::empty())
                .unwrap();
            let (status, _, body) = as_olive.raw(request).await;
            assert!(!status.is_server_error(), "{address} gives {status}");
            let text = String::from_utf8_lossy(&body);
            // A problem may repeat what was asked for.
            if status.is_success() {
                asked += 1;
                for word in &hidden {
                    assert!(!text.contains(word.as_str()), "{address} shows {word}: {text}");
                }
            }
        }
    }
    assert!(asked > 40, "only {asked} answers were looked at");
    let seen = as_olive.get("/api/people").await.is(200);
    let names: Vec<_> = seen["items"].as_array().unwrap().iter().map(|p| &p["name"]).collect();
    assert_eq!(names, [&json!("Ada"), &json!("Olive")]);
    assert_ne!(as_olive.get("/api/hours").await.status, 200);
    assert_eq!(ada.get("/api/people").await.is(200)["items"].as_array().map(Vec::len), Some(3));
    let _: Value = ada.get(&format!("/api/horses/{secret}")).await.is(200);
}
