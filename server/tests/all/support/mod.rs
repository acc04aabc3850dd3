//! Drives the real router on a real database.

use axum::{
    Router,
    body::Body,
    http::{Method, Request, StatusCode, header},
};
use cavesson::{App, Options, http};
use chrono::{NaiveDate, Utc};
use http_body_util::BodyExt;
use serde_json::{Value, json};
use sqlx::PgPool;
use tower::ServiceExt;
use uuid::Uuid;

pub(crate) const PASSWORD: &str = "a quiet hand and time";

/// The application with a browser's cookie and token.
#[derive(Clone)]
pub(crate) struct Client {
    pub(crate) router: Router,
    pub(crate) cookie: Option<String>,
    /// The cookie by which a device is known again.
    pub(crate) device: Option<String>,
    pub(crate) csrf: String,
}

pub(crate) struct Answer {
    pub(crate) status: StatusCode,
    pub(crate) body: Value,
}

impl Answer {
    pub(crate) fn is(self, status: u16) -> Value {
        assert_eq!(self.status.as_u16(), status, "{}", self.body);
        self.body
    }

    /// The answer is a problem document with this status that names this field.
    pub(crate) fn names(self, status: u16, field: &str) -> String {
        let body = self.is(status);
        let errors = body["errors"].as_array().cloned().unwrap_or_default();
        let error = errors.iter().find(|e| e["field"] == field).unwrap_or_else(|| panic!("no {field} in {body}"));
        error["detail"].as_str().unwrap().to_owned()
    }
}

pub(crate) fn today() -> NaiveDate {
    Utc::now().date_naive()
}

impl Client {
    pub(crate) fn new(db: &PgPool) -> Client {
        Client::with(db, Options { site: "no-site".into(), ..Options::default() })
    }

    pub(crate) fn with(db: &PgPool, options: Options) -> Client {
        Client { router: http::app(App::new(db.clone(), options)), cookie: None, device: None, csrf: String::new() }
    }

    pub(crate) async fn raw(&mut self, request: Request<Body>) -> (StatusCode, axum::http::HeaderMap, Vec<u8>) {
        let response = self.router.clone().oneshot(request).await.unwrap();
        let (status, headers) = (response.status(), response.headers().clone());
        for set in headers.get_all(header::SET_COOKIE) {
            let pair = set.to_str().unwrap().split(';').next().unwrap().to_owned();
            match pair.split_once('=').unwrap() {
                (name, _) if name.ends_with("cavesson_device") => self.device = Some(pair),
                (_, "") => self.cookie = None,
                _ => self.cookie = Some(pair),
            }
        }
        (status, headers, response.into_body().collect().await.unwrap().to_bytes().to_vec())
    }

    pub(crate) async fn call(&mut self, method: Method, path: &str, body: Option<&Value>) -> Answer {
        let mut request = Request::builder().method(method).uri(path).header("x-csrf-token", &self.csrf);
        for cookie in self.cookie.iter().chain(&self.device) {
            request = request.header(header::COOKIE, cookie);
        }
        let body = body.map_or_else(Body::empty, |b| Body::from(b.to_string()));
        let (status, headers, bytes) =
            self.raw(request.header(header::CONTENT_TYPE, "application/json").body(body).unwrap()).await;
        let body: Value = serde_json::from_slice(&bytes).unwrap_or(Value::Null);
        if status.is_client_error() || status.is_server_error() {
            assert_eq!(headers[header::CONTENT_TYPE], "application/problem+json", "{path}");
            assert_eq!(body["status"], status.as_u16(), "{path}");
        }
        Answer { status, body }
    }

    pub(crate) async fn get(&mut self, path: &str) -> Answer {
        self.call(Method::GET, path, None).await
    }
    /// A file's text.
    pub(crate) async fn text(&mut self, path: &str) -> String {
        let cookie = self.cookie.clone().unwrap_or_default();
        let request = Request::builder().uri(path).header(header::COOKIE, cookie).body(Body::empty()).unwrap();
        let (status, _, body) = self.raw(request).await;
        assert_eq!(status, StatusCode::OK, "{path}");
        String::from_utf8(body).unwrap()
    }
    pub(crate) async fn put(&mut self, path: &str, body: Value) -> Answer {
        self.call(Method::PUT, path, Some(&body)).await
    }
    pub(crate) async fn post(&mut self, path: &str, body: Value) -> Answer {
        self.call(Method::POST, path, Some(&body)).await
    }
    pub(crate) async fn delete(&mut self, path: &str) -> Answer {
        self.call(Method::DELETE, path, None).await
    }
    pub(crate) async fn patch(&mut self, path: &str, body: Value) -> Answer {
        self.call(Method::PATCH, path, Some(&body)).await
    }

    /// Learns the session's token, as the page does.
    pub(crate) async fn learn_token(&mut self) {
        self.csrf = self.get("/api/me").await.is(200)["csrf"].as_str().unwrap().to_owned();
    }

    pub(crate) async fn sign_in(&mut self, email: &str) {
        self.post("/api/sign-in", json!({ "email": email, "password": PASSWORD })).await.is(204);
        self.learn_token().await;
    }

    pub(crate) async fn horse(&mut self, name: &str) -> Uuid {
        let id = Uuid::new_v4();
        self.put(&format!("/api/horses/{id}"), json!({ "name": name })).await.is(201);
        id
    }

    /// Adds a person who can sign in.
    pub(crate) async fn person(&mut self, name: &str, role: &str) -> (Uuid, String) {
        let (id, email) = (Uuid::new_v4(), format!("{}@barn.example", Uuid::new_v4()));
        self.put(&format!("/api/people/{id}"), json!({ "name": name, "email": email, "role": role })).await.is(201);
        let link = self.link(id).await;
        self.visitor().post("/api/links/use", json!({ "token": link, "password": PASSWORD })).await.is(204);
        (id, email)
    }

    /// The token of a link by which a person sets their password.
    pub(crate) async fn link(&mut self, person: Uuid) -> String {
        let made = self.post(&format!("/api/people/{person}/link"), Value::Null).await.is(201);
        made["path"].as_str().unwrap().strip_prefix("/join#").unwrap().to_owned()
    }

    /// The same server, and nobody signed in.
    pub(crate) fn visitor(&self) -> Client {
        Client { cookie: None, device: None, csrf: String::new(), ..self.clone() }
    }

    pub(crate) async fn my_id(&mut self) -> Uuid {
        self.get("/api/me").await.is(200)["id"].as_str().unwrap().parse().unwrap()
    }

    /// Puts a ride of a horse on today.
    pub(crate) async fn ride(&mut self, horse: Uuid) -> Uuid {
        let (id, rider) = (Uuid::new_v4(), self.my_id().await);
        self.put(&format!("/api/rides/{id}"), ride_body(horse, rider, today())).await.is(201);
        id
    }
}

pub(crate) fn ride_body(horse: Uuid, rider: Uuid, date: NaiveDate) -> Value {
    json!({ "horse_id": horse, "rider_id": rider, "date": date, "place": "arena", "entered": "pen" })
}

pub(crate) fn rep_body(set: Uuid, rung: &str, gait: &str, side: &str) -> Value {
    json!({ "set": { "id": set, "position": 0, "rung": rung, "gait": gait, "side": side }, "position": 0,
            "outcome": "gave", "weight": "feather", "seconds": 1.2 })
}

/// A new installation with its first trainer signed in.
pub(crate) async fn first_barn(db: &PgPool) -> Client {
    let mut client = Client::new(db);
    let first = json!({ "barn_name": "Low Meadow", "time_zone": "UTC", "name": "Ada", "email": "ada@low.example", "password": PASSWORD });
    client.post("/api/setup", first).await.is(204);
    client.learn_token().await;
    client
}

/// A second barn in the same database, with its trainer signed in.
pub(crate) async fn second_barn(db: &PgPool, first: &Client) -> Client {
    use cavesson_store::{barn, person};
    let (barn_id, person_id) = (Uuid::new_v4(), Uuid::new_v4());
    let settings = barn::BarnSettings {
        name: "High Ridge".into(),
        posture: "steady".parse().unwrap(),
        units: "imperial".parse().unwrap(),
        time_zone: "UTC".into(),
    };
    barn::create(db, barn_id, &settings, None).await.unwrap();
    let hash: String = sqlx::query_scalar("select password_hash from account limit 1").fetch_one(db).await.unwrap();
    let fields =
        person::PersonFields { name: "Bo".into(), email: "bo@high.example".into(), role: "trainer".parse().unwrap() };
    person::insert(&mut db.acquire().await.unwrap(), barn_id, person_id, &fields, Some(&hash)).await.unwrap();
    let mut client = first.visitor();
    client.sign_in("bo@high.example").await;
    client
}
