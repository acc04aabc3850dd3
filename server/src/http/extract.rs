//! Reading requests, with problems that name the field at fault.

use std::time::Duration;

use axum::{
    body::Bytes,
    extract::{FromRequest, FromRequestParts, Path, Query, Request},
    http::{header, request::Parts},
};
use serde::{Deserialize, de::DeserializeOwned};
use serde_json::Value;
use utoipa::IntoParams;
use uuid::Uuid;

use crate::Problem;

/// So long a body may take: the largest is a megabyte.
const BODY: Duration = Duration::from_secs(30);

/// A JSON body. A value of the wrong type is told with the path of its field.
pub(crate) struct Body<T>(pub(crate) T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequest<S> for Body<T> {
    type Rejection = Problem;

    async fn from_request(request: Request, state: &S) -> Result<Self, Problem> {
        let kind = request.headers().get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
        let kind = kind.split(';').next().unwrap_or_default().trim();
        if !kind.eq_ignore_ascii_case("application/json") {
            return Err(Problem::no_json());
        }
        let sent = tokio::time::timeout(BODY, Bytes::from_request(request, state)).await;
        let bytes = sent.map_err(|_| Problem::too_slow())?.map_err(|e| Problem::of_body(e.status(), e.body_text()))?;
        if let Some(field) = serde_json::from_slice(&bytes).ok().and_then(|body| field_with_nul(&body)) {
            return Err(Problem::field(&field, "this holds a character that cannot be kept; type it again without it"));
        }
        let mut json = serde_json::Deserializer::from_slice(&bytes);
        let read: Result<T, _> = serde_path_to_error::deserialize(&mut json);
        let read = read.map_err(|e| {
            let path = e.path().to_string();
            let inner = e.into_inner();
            if inner.is_data() {
                let text = inner.to_string();
                let detail = text.split(" at line ").next().unwrap_or_default();
                Problem::field(if path == "." { "body" } else { &path }, detail)
            } else {
                Problem::malformed(format!("The body is not JSON: {inner}"))
            }
        })?;
        json.end().map_err(|_| Problem::malformed("The body goes on behind its JSON"))?;
        Ok(Body(read))
    }
}

/// The path of the first text of a body that holds a NUL character, which the database cannot keep.
fn field_with_nul(body: &Value) -> Option<String> {
    let below = |name: String, value: &Value| {
        let path = field_with_nul(value)?;
        let joined = path.is_empty() || path.starts_with('[');
        Some(if joined { format!("{name}{path}") } else { format!("{name}.{path}") })
    };
    match body {
        Value::String(text) => text.contains('\0').then(String::new),
        Value::Array(items) => items.iter().enumerate().find_map(|(n, item)| below(format!("[{n}]"), item)),
        Value::Object(fields) => fields.iter().find_map(|(name, value)| below(name.clone(), value)),
        _ => None,
    }
}

/// An id in the path. A text that is no UUID is no thing of this barn.
pub(crate) struct Id(pub(crate) Uuid);

impl<S: Send + Sync> FromRequestParts<S> for Id {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let Path(text) =
            Path::<String>::from_request_parts(parts, state).await.map_err(|e| Problem::malformed(e.body_text()))?;
        text.parse().map(Id).map_err(|_| Problem::malformed(format!("\"{text}\" is not an id; ids are UUIDs")))
    }
}

/// Two ids in the path.
pub(crate) struct Ids(pub(crate) Uuid, pub(crate) Uuid);

impl<S: Send + Sync> FromRequestParts<S> for Ids {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        Path::<(Uuid, Uuid)>::from_request_parts(parts, state)
            .await
            .map(|Path((a, b))| Ids(a, b))
            .map_err(|_| Problem::malformed("An id in the address is not a UUID"))
    }
}

/// Where a page of a list begins and how long it is.
#[derive(Debug, Clone, Copy, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Paging {
    /// Rows to pass over.
    #[serde(default)]
    #[param(minimum = 0)]
    pub(crate) offset: i64,
    /// Rows to send, 1 to 200.
    #[serde(default = "default_limit")]
    #[param(minimum = 1, maximum = 200)]
    pub(crate) limit: i64,
    /// Archived ones instead of those in work.
    #[serde(default)]
    pub(crate) archived: bool,
}

/// Rows of a page where nobody says how many.
pub(crate) fn default_limit() -> i64 {
    50
}

/// How many rows of a page are asked for, where that many may be.
pub(crate) fn checked_limit(limit: i64) -> Result<i64, Problem> {
    if (1..=200).contains(&limit) { Ok(limit) } else { Err(Problem::field("limit", "limit must be from 1 to 200")) }
}

/// A query string, with problems as problem documents.
pub(crate) struct QueryParams<T>(pub(crate) T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequestParts<S> for QueryParams<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let Query(value) =
            Query::from_request_parts(parts, state).await.map_err(|e| Problem::malformed(e.body_text()))?;
        Ok(QueryParams(value))
    }
}

impl Paging {
    pub(crate) fn checked(self) -> Result<Paging, Problem> {
        if self.offset < 0 || self.offset > 10_000_000 {
            return Err(Problem::field("offset", "offset must be 0 or more"));
        }
        checked_limit(self.limit)?;
        Ok(self)
    }
}
