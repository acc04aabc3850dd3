//! Errors as problem documents (RFC 9457): what went wrong, on which field, and what mends it.

use axum::{
    Json,
    http::{HeaderValue, StatusCode, header},
    response::{IntoResponse, Response},
};
use cavesson_store::StoreError;
use serde::Serialize;
use utoipa::ToSchema;

use crate::observe::request_id;

/// What is wrong with one field, and what would be right.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct FieldProblem {
    /// Path of the field in the body: `sets[0].gait`.
    pub field: String,
    /// What is wrong and how to mend it.
    pub detail: String,
}

/// A problem document (RFC 9457), sent as `application/problem+json`.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Problem {
    /// A short, stable name of the kind of problem.
    pub r#type: String,
    /// The same for every problem of this kind.
    pub title: String,
    /// The HTTP status.
    pub status: u16,
    /// What went wrong this time.
    pub detail: String,
    /// Fields at fault, where the problem lies in fields.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub errors: Vec<FieldProblem>,
    /// The thing as it is now, where a change was made from an older version of it.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<Object>)]
    pub current: Option<serde_json::Value>,
    /// The request that it went wrong in, as `urn:uuid:` and the id that the server's log has it under.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub instance: Option<String>,
    /// Seconds to wait before trying again.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub retry_after: Option<u64>,
}

impl Problem {
    fn new(status: StatusCode, kind: &str, title: &str, detail: impl Into<String>) -> Problem {
        Problem {
            r#type: format!("/problems/{kind}"),
            title: title.to_owned(),
            status: status.as_u16(),
            detail: detail.into(),
            errors: vec![],
            current: None,
            instance: request_id().map(|id| format!("urn:uuid:{id}")),
            retry_after: None,
        }
    }

    pub(crate) fn fields(errors: Vec<FieldProblem>) -> Problem {
        let detail = match errors.as_slice() {
            [one] => one.detail.clone(),
            many => format!("{} fields need another look", many.len()),
        };
        let problem = Problem::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", "Not quite right yet", detail);
        Problem { errors, ..problem }
    }

    pub(crate) fn field(field: &str, detail: impl Into<String>) -> Problem {
        Problem::fields(vec![FieldProblem { field: field.to_owned(), detail: detail.into() }])
    }

    /// Something logged on a ride whose day has not come.
    pub(crate) fn not_yet(on: chrono::NaiveDate) -> Problem {
        let problem = Problem::field("ride", format!("this ride is on {on}, which has not come yet"));
        Problem { r#type: "/problems/not-yet".to_owned(), ..problem }
    }

    pub(crate) fn is_not_yet(&self) -> bool {
        self.r#type == "/problems/not-yet"
    }

    pub(crate) fn malformed(detail: impl Into<String>) -> Problem {
        Problem::new(StatusCode::BAD_REQUEST, "malformed", "The request cannot be read", detail)
    }

    /// A body that was not read, with the status that says why: too long, or cut off.
    pub(crate) fn of_body(status: StatusCode, detail: String) -> Problem {
        match status {
            StatusCode::PAYLOAD_TOO_LARGE => {
                Problem::new(status, "too-long", "Too long", "At most a megabyte is taken at a time; send it in parts")
            }
            _ => Problem::malformed(detail),
        }
    }

    /// A body that is not said to be JSON.
    pub(crate) fn no_json() -> Problem {
        let detail = "Send it as JSON, with the content type application/json";
        Problem::new(StatusCode::UNSUPPORTED_MEDIA_TYPE, "no-json", "Not JSON", detail)
    }

    /// A method that an address does not have.
    pub(crate) fn wrong_method() -> Problem {
        let detail = "This address does not take this method; the header `allow` says which it takes";
        Problem::new(StatusCode::METHOD_NOT_ALLOWED, "no-such-method", "No such method", detail)
    }

    /// A body that did not come to its end in time.
    pub(crate) fn too_slow() -> Problem {
        let detail = "The request did not come to its end in time. Nothing was kept of it; it can be sent again";
        Problem::new(StatusCode::REQUEST_TIMEOUT, "too-slow", "Too slow", detail)
    }

    pub(crate) fn missing(what: &str) -> Problem {
        Problem::new(
            StatusCode::NOT_FOUND,
            "not-found",
            "Not here",
            format!("There is no {what} with this id in this barn"),
        )
    }

    pub(crate) fn taken(what: &str) -> Problem {
        let detail = format!("Another {what} already has this id; make a new id and send it again");
        Problem::new(StatusCode::CONFLICT, "id-taken", "This id is taken", detail)
    }

    pub(crate) fn stale(what: &str, current: &impl Serialize) -> Problem {
        let detail = format!("Someone changed this {what} meanwhile. Nothing was overwritten; look at it as it is now");
        let problem = Problem::new(StatusCode::CONFLICT, "changed-meanwhile", "Changed meanwhile", detail);
        Problem { current: serde_json::to_value(current).ok(), ..problem }
    }

    pub(crate) fn conflict(detail: impl Into<String>) -> Problem {
        Problem::new(StatusCode::CONFLICT, "conflict", "That does not go together", detail)
    }

    pub(crate) fn signed_out() -> Problem {
        let detail = "Sign in to go on; what you logged is still here";
        Problem::new(StatusCode::UNAUTHORIZED, "signed-out", "Not signed in", detail)
    }

    pub(crate) fn wrong_password() -> Problem {
        let detail = "The e-mail address and the password do not go together";
        Problem::new(StatusCode::UNAUTHORIZED, "wrong-password", "Not signed in", detail)
    }

    /// The password was right; a one-time code is asked for too.
    pub(crate) fn code_needed() -> Problem {
        let detail = "Type the six digits from the app on your phone; each code holds once";
        Problem::new(StatusCode::UNAUTHORIZED, "code-needed", "One more step", detail)
    }

    /// The session is a while old: the password is asked for again.
    pub(crate) fn confirm() -> Problem {
        let detail = "Give your password again: this changes an account, or puts records away";
        Problem::new(StatusCode::FORBIDDEN, "confirm-needed", "Password, please", detail)
    }

    /// A link that was used, ran out or never was.
    pub(crate) fn link_ended() -> Problem {
        let detail = "This link was used or has run out; ask your trainer for a new one";
        Problem::new(StatusCode::NOT_FOUND, "link-ended", "The link has ended", detail)
    }

    pub(crate) fn forbidden(detail: impl Into<String>) -> Problem {
        Problem::new(StatusCode::FORBIDDEN, "not-allowed", "Not yours to change", detail)
    }

    pub(crate) fn slow_down(seconds: u64) -> Problem {
        let detail = format!("Too many wrong passwords; try again in {seconds} s");
        let problem = Problem::new(StatusCode::TOO_MANY_REQUESTS, "slow-down", "Slow down", detail);
        Problem { retry_after: Some(seconds), ..problem }
    }

    pub(crate) fn busy(seconds: u64) -> Problem {
        let detail = format!("Too much is being worked out at once; try again in {seconds} s. Nothing was changed");
        let problem = Problem::new(StatusCode::SERVICE_UNAVAILABLE, "busy", "Busy", detail);
        Problem { retry_after: Some(seconds), ..problem }
    }

    /// The database is gone, full or too busy.
    pub(crate) fn unavailable() -> Problem {
        let detail = "The records cannot be reached at the moment. Nothing was kept of this; it can be sent again";
        let problem = Problem::new(StatusCode::SERVICE_UNAVAILABLE, "unavailable", "Not at the moment", detail);
        Problem { retry_after: Some(2), ..problem }
    }

    pub(crate) fn unreadable(what: &str, why: &dyn std::fmt::Display) -> Problem {
        tracing::error!(%why, "{what} cannot be read");
        let detail = format!(
            "{what} was kept in a form that this build cannot read ({why}). It is kept as it is; nothing was changed"
        );
        Problem::new(StatusCode::INTERNAL_SERVER_ERROR, "unreadable", "Cannot be read", detail)
    }

    pub(crate) fn broken() -> Problem {
        let detail = "Something failed here. Nothing you sent was lost on your side; try again in a moment";
        Problem::new(StatusCode::INTERNAL_SERVER_ERROR, "failed", "Something failed", detail)
    }

    pub(crate) fn unknown_route() -> Problem {
        Problem::new(StatusCode::NOT_FOUND, "no-such-route", "Not here", "There is nothing at this address")
    }
}

impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        let retry = self.retry_after;
        let mut response = (status, Json(self)).into_response();
        let headers = response.headers_mut();
        headers.insert(header::CONTENT_TYPE, HeaderValue::from_static("application/problem+json"));
        if let Some(seconds) = retry {
            headers.insert(header::RETRY_AFTER, HeaderValue::from(seconds));
        }
        response
    }
}

/// Foreign keys that a client can run into by naming something that its barn does not have.
const REFERENCES: &[(&str, &str, &str)] = &[
    ("horse_barn_id_owner_id_fkey", "owner_id", "nobody in this barn has this id; pick an owner from the list"),
    (
        "horse_barn_id_usual_rider_id_fkey",
        "usual_rider_id",
        "nobody in this barn has this id; pick a rider from the list",
    ),
    ("ride_barn_id_rider_id_fkey", "rider_id", "nobody in this barn has this id; pick a rider from the list"),
    ("ride_set_barn_id_rider_id_fkey", "rider_id", "nobody in this barn has this id; pick a rider from the list"),
    (
        "horse_name",
        "name",
        "another horse in work has this name; add what tells them apart, such as a year or a colour",
    ),
    ("unplaced_barn_id_person_id_fkey", "person_id", "nobody in this barn has this id; pick a person from the list"),
    ("ground_name", "name", "another place has this name; pick one that tells them apart"),
    ("cow_tag", "tag", "another cow that is here has this tag; look at the tags of both"),
    ("person_email", "email", "someone else signs in with this address; use another"),
];

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Problem {
        if let Some((_, field, detail)) = REFERENCES.iter().find(|(name, ..)| error.constraint() == Some(name)) {
            return Problem::field(field, *detail);
        }
        if matches!(error, StoreError::StaffOnly) {
            return Problem::forbidden("Only a trainer or an assistant reads or writes this");
        }
        tracing::error!(%error, "a query failed");
        if error.is_for_now() { Problem::unavailable() } else { Problem::broken() }
    }
}
