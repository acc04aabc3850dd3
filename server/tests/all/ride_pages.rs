//! A horse's rides page by page: each once, latest first, whatever comes in between two pages.

use chrono::Days;
use serde_json::json;
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Client, first_barn, rep_body, ride_body, today};

/// A ride some days ago at some hour, with a rep.
async fn ridden(ada: &mut Client, horse: Uuid, ago: u64, hour: Option<&str>) -> String {
    let (id, me) = (Uuid::new_v4(), ada.my_id().await);
    let mut body = ride_body(horse, me, today() - Days::new(ago));
    body["starts_at"] = json!(hour);
    ada.put(&format!("/api/rides/{id}"), body).await.is(201);
    ada.put(&format!("/api/rides/{id}/reps/{}", Uuid::new_v4()), rep_body(Uuid::new_v4(), "S1", "stand", "left"))
        .await
        .is(201);
    id.to_string()
}

/// The ids of a page, and whether older ones follow.
async fn page(ada: &mut Client, horse: Uuid, query: &str) -> (Vec<String>, bool) {
    let page = ada.get(&format!("/api/horses/{horse}/rides?{query}")).await.is(200);
    let ids = page["items"].as_array().unwrap().iter().map(|ride| ride["id"].as_str().unwrap().to_owned()).collect();
    (ids, page["more"].as_bool().unwrap())
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn every_ride_is_on_one_page_whatever_is_logged_meanwhile(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let horse = ada.horse("Juniper").await;
    // One that is only planned is on none.
    ada.ride(horse).await;
    let mut expected = vec![];
    // Latest first; of a day the one without an hour, then those with one from the evening on. Two stand at the same hour.
    for ago in 0..4 {
        for hour in [None, Some("17:00:00"), Some("08:30:00"), Some("06:00:00")] {
            expected.push(ridden(&mut ada, horse, ago, hour).await);
        }
    }
    let twin = ridden(&mut ada, horse, 3, Some("06:00:00")).await;
    let at = expected.len() - if expected.last().unwrap() < &twin { 1 } else { 0 };
    expected.insert(at, twin);
    for limit in 1..=expected.len() {
        let (mut seen, mut query) = (vec![], format!("limit={limit}"));
        loop {
            let (ids, more) = page(&mut ada, horse, &query).await;
            seen.extend(ids);
            if !more {
                break;
            }
            query = format!("limit={limit}&after={}", seen.last().unwrap());
        }
        assert_eq!(seen, expected, "pages of {limit}");
    }
    // What is logged between two pages moves none of the second one's.
    let (first, _) = page(&mut ada, horse, "limit=5").await;
    let next = format!("limit=5&after={}", first[4]);
    let before = page(&mut ada, horse, &next).await;
    ridden(&mut ada, horse, 0, Some("18:00:00")).await;
    assert_eq!(page(&mut ada, horse, &next).await, before);
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_page_follows_a_ride_of_its_horse(db: PgPool) {
    let mut ada = first_barn(&db).await;
    let (horse, other) = (ada.horse("Juniper").await, ada.horse("Biscuit").await);
    let of_other = ridden(&mut ada, other, 1, None).await;
    let last = ridden(&mut ada, horse, 1, None).await;
    for after in [of_other, Uuid::new_v4().to_string()] {
        ada.get(&format!("/api/horses/{horse}/rides?after={after}")).await.names(422, "after");
    }
    ada.get(&format!("/api/horses/{horse}/rides?after=yesterday")).await.is(400);
    for limit in [0, 201] {
        ada.get(&format!("/api/horses/{horse}/rides?limit={limit}")).await.names(422, "limit");
    }
    assert_eq!(page(&mut ada, horse, &format!("after={last}")).await, (vec![], false));
}
