//! Responses that are kept as they were sent, as long as nothing changes in the barn: a page that is looked at again costs the server one
//! look at how far the barn has changed, and neither reads nor writes any of it again.

use std::{sync::Arc, time::Duration};

use axum::{
    body::Bytes,
    http::{HeaderValue, header},
    response::{IntoResponse, Response},
};
use cavesson_store::log::revision::{BarnState, barn_state};
use chrono::NaiveDate;
use serde::Serialize;
use sha2::{Digest, Sha256};
use uuid::Uuid;

use crate::{App, Problem, auth::SignedIn, services::barn_clock::today_at};

/// Bytes of responses that are kept.
const MOST_BYTES: u64 = 32 << 20;
/// A forecast of the weather may be newer after this, and is not in the barn.
const OLDEST: Duration = Duration::from_secs(600);

/// A response as it is sent: JSON, and a tag that tells it from any other.
#[derive(Debug, Clone)]
pub(crate) struct JsonResponse {
    body: Bytes,
    tag: HeaderValue,
}

impl JsonResponse {
    fn of(value: &impl Serialize) -> Result<JsonResponse, Problem> {
        let body = Bytes::from(serde_json::to_vec(value).map_err(|_| Problem::broken())?);
        let tag = tag(&body).ok_or_else(Problem::broken)?;
        Ok(JsonResponse { body, tag })
    }
}

impl IntoResponse for JsonResponse {
    fn into_response(self) -> Response {
        let json = HeaderValue::from_static("application/json");
        ([(header::CONTENT_TYPE, json), (header::ETAG, self.tag)], self.body).into_response()
    }
}

/// A weak tag of a body, since the same response is packed in different ways.
pub(crate) fn tag(body: &[u8]) -> Option<HeaderValue> {
    let hash = Sha256::digest(body);
    let hex: String = hash.iter().take(16).map(|byte| format!("{byte:02x}")).collect();
    HeaderValue::try_from(format!("W/\"{hex}\"")).ok()
}

/// A response, and when it holds.
#[derive(Debug)]
struct Kept {
    state: BarnState,
    today: NaiveDate,
    response: JsonResponse,
}

/// The kept responses, by barn, by who asked, and by what for.
#[derive(Debug)]
pub(crate) struct ResponseCache(moka::sync::Cache<(Uuid, Uuid, String), Arc<Kept>>);

impl Default for ResponseCache {
    fn default() -> Self {
        let weigh = |key: &(Uuid, Uuid, String), it: &Arc<Kept>| {
            u32::try_from(it.response.body.len() + key.2.len() + 300).unwrap_or(u32::MAX)
        };
        ResponseCache(moka::sync::Cache::builder().max_capacity(MOST_BYTES).weigher(weigh).time_to_live(OLDEST).build())
    }
}

/// The response to what someone asks for, as it was sent before or made now. What it is made from is all in the barn, but for the day that
/// it is there.
pub(crate) async fn kept_or_made<T: Serialize>(
    app: &App,
    signed: &SignedIn,
    what: String,
    make: impl AsyncFnOnce() -> Result<T, Problem>,
) -> Result<JsonResponse, Problem> {
    let state = barn_state(&app.db, &signed.scope).await?;
    let today = today_at(&state.time_zone);
    let key = (signed.scope.shared(), signed.scope.person(), what);
    if let Some(kept) = app.responses.0.get(&key).filter(|kept| kept.state == state && kept.today == today) {
        return Ok(kept.response.clone());
    }
    let response = JsonResponse::of(&make().await?)?;
    app.responses.0.insert(key, Arc::new(Kept { state, today, response: response.clone() }));
    Ok(response)
}
