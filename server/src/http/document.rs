//! The OpenAPI document: what the routes say of themselves, and what holds for all of them.

use utoipa::openapi::{
    ContentBuilder, Ref, RefOr, Response, ResponseBuilder, Schema,
    path::{Operation, ParameterIn},
    schema::AdditionalProperties,
    security::{ApiKey, ApiKeyValue, SecurityRequirement, SecurityScheme},
};

use crate::http::routes;

/// Operations that need no session.
const OPEN: [&str; 6] =
    ["/api/setup", "/api/sign-in", "/api/demo-sign-in", "/api/links/look", "/api/links/use", "/api/password-strength"];
/// Names of the two parts that a session is proved by.
const COOKIE: &str = "session";
const TOKEN: &str = "token";

/// The OpenAPI document of every route.
pub fn openapi() -> utoipa::openapi::OpenApi {
    let mut document = routes().split_for_parts().1;
    // The generator writes an empty licence where the package names none.
    document.info.license = None;
    for (path, item) in &mut document.paths.paths {
        let name = path.trim_start_matches("/api/").replace(['{', '}'], "").replace(['/', '-'], "_");
        let operations = [
            ("get", &mut item.get),
            ("put", &mut item.put),
            ("post", &mut item.post),
            ("patch", &mut item.patch),
            ("delete", &mut item.delete),
        ];
        for (method, operation) in operations {
            let Some(operation) = operation else { continue };
            // Handlers are named for their module ("read", "put"); in the document each operation needs a name of its own.
            operation.operation_id = Some(format!("{method}_{name}"));
            complete(path, method, operation);
        }
    }
    let components = document.components.get_or_insert_default();
    let key = |name: &str, says: &str| ApiKeyValue::with_description(name, says);
    components.add_security_scheme(
        COOKIE,
        SecurityScheme::ApiKey(ApiKey::Cookie(key(
            "cavesson_session",
            "Set by signing in; over HTTPS its name begins with __Host-",
        ))),
    );
    components.add_security_scheme(
        TOKEN,
        SecurityScheme::ApiKey(ApiKey::Header(key("x-csrf-token", "Told by /api/me; on every request that is no GET"))),
    );
    open_what_is_part_of_more(&mut components.schemas);
    document
}

/// Says of an operation who may call it, and every status that it can give.
fn complete(path: &str, method: &str, operation: &mut Operation) {
    let open = OPEN.contains(&path);
    let has_body = operation.request_body.is_some();
    let parameters = operation.parameters.iter().flatten();
    let (mut in_path, mut any) = (false, false);
    for parameter in parameters {
        any = true;
        if let RefOr::T(parameter) = parameter {
            in_path |= parameter.parameter_in == ParameterIn::Path;
        }
    }
    let can = [
        (any || has_body, 400, "It cannot be read"),
        (!open, 401, "Not signed in"),
        (!open || method != "get", 403, "Not yours to do"),
        (in_path, 404, "Not here"),
        (has_body, 408, "The body did not come in time"),
        (has_body, 413, "Too long"),
        (has_body, 415, "No JSON"),
        (any || has_body, 422, "Fields need another look"),
        (true, 503, "Busy, or the database cannot be reached"),
    ];
    for (_, status, says) in can.iter().filter(|(can, ..)| *can) {
        let answer = ResponseBuilder::new().description(*says).build();
        operation.responses.responses.entry(status.to_string()).or_insert(RefOr::T(answer));
    }
    for (status, response) in &mut operation.responses.responses {
        if let RefOr::T(response) = response
            && status.starts_with(['4', '5'])
        {
            *response = problem(response);
        }
    }
    if !open {
        let mut needs = SecurityRequirement::new(COOKIE, Vec::<String>::new());
        if method != "get" {
            needs = needs.add(TOKEN, Vec::<String>::new());
        }
        operation.security = Some(vec![needs]);
    }
}

/// A refusal is a problem document (RFC 9457), always.
fn problem(response: &Response) -> Response {
    let content = ContentBuilder::new().schema(Some(Ref::from_schema_name("Problem"))).build();
    ResponseBuilder::new()
        .description(response.description.clone())
        .content("application/problem+json", content)
        .build()
}

/// A schema that is part of another takes the other's fields beside its own: closed, the two could never hold together.
fn open_what_is_part_of_more(schemas: &mut std::collections::BTreeMap<String, RefOr<Schema>>) {
    let mut parts = vec![];
    for schema in schemas.values() {
        parts_of(schema, &mut parts);
    }
    for part in parts {
        if let Some(RefOr::T(Schema::Object(object))) = schemas.get_mut(&part)
            && matches!(object.additional_properties.as_deref(), Some(AdditionalProperties::FreeForm(false)))
        {
            object.additional_properties = None;
        }
    }
}

/// The names of what a schema is put together from, as a whole or in one of its alternatives.
fn parts_of(schema: &RefOr<Schema>, parts: &mut Vec<String>) {
    match schema {
        RefOr::T(Schema::AllOf(all)) => parts.extend(all.items.iter().filter_map(|part| match part {
            RefOr::Ref(part) => part.ref_location.rsplit('/').next().map(str::to_owned),
            RefOr::T(_) => None,
        })),
        RefOr::T(Schema::OneOf(one)) => one.items.iter().for_each(|item| parts_of(item, parts)),
        _ => {}
    }
}
