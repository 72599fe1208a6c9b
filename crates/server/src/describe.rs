//! What the description of every operation has in common, said once: its name, its path's parameters, who may call it, and the
//! problems that its kind of request can be turned down with. What is particular to an operation stands beside its handler.

use axum::http::StatusCode;
use utoipa::openapi::path::{Operation, ParameterBuilder, ParameterIn};
use utoipa::openapi::schema::{ObjectBuilder, SchemaType, Type};
use utoipa::openapi::security::{ApiKey, ApiKeyValue, Http, HttpAuthScheme, SecurityScheme};
use utoipa::openapi::{
    Components, ContentBuilder, OpenApi, Ref, RefOr, Required, Response, SecurityRequirement,
};

use crate::auth::COOKIE;

/// How a person is known: by the cookie of a sign-in.
const PERSON: &str = "person";
/// How a digital tape is known: by the token of its pairing.
pub(crate) const TAPE: &str = "tape";

/// Completes the description the handlers give.
pub(crate) fn complete(doc: &mut OpenApi) {
    let components = doc.components.get_or_insert_with(Components::new);
    components.add_security_scheme(PERSON, SecurityScheme::ApiKey(ApiKey::Cookie(ApiKeyValue::new(COOKIE))));
    components.add_security_scheme(TAPE, SecurityScheme::Http(Http::new(HttpAuthScheme::Bearer)));
    doc.security = Some(vec![SecurityRequirement::new::<_, [&str; 0], &str>(PERSON, [])]);
    for (path, item) in &mut doc.paths.paths {
        let operations = [
            ("get", &mut item.get),
            ("post", &mut item.post),
            ("put", &mut item.put),
            ("delete", &mut item.delete),
        ];
        for (method, operation) in operations {
            if let Some(operation) = operation {
                operation.operation_id = Some(name(method, path));
                with_path_parameters(operation, path);
                with_problems(operation, method);
                for (status, response) in &mut operation.responses.responses {
                    as_sent(status, response);
                }
            }
        }
    }
}

/// Handlers of different resources share names; an operation's own name is its method and path.
fn name(method: &str, path: &str) -> String {
    let place = path.trim_start_matches("/api/").replace(['/', '-', '.'], "_").replace(['{', '}'], "");
    format!("{method}_{place}")
}

/// The names between braces.
fn parameters(path: &str) -> impl Iterator<Item = &str> {
    path.split('/').filter_map(|part| part.strip_prefix('{')?.strip_suffix('}'))
}

/// A parameter of the path is the number of a row, unless the handler says otherwise.
fn with_path_parameters(operation: &mut Operation, path: &str) {
    let said = operation.parameters.get_or_insert_default();
    for name in parameters(path) {
        let is_said = said.iter().any(|each| matches!(each, RefOr::T(each) if each.name == name));
        if !is_said {
            let number = ObjectBuilder::new().schema_type(SchemaType::Type(Type::Integer)).minimum(Some(0));
            let parameter = ParameterBuilder::new()
                .name(name)
                .parameter_in(ParameterIn::Path)
                .required(Required::True)
                .schema(Some(number));
            said.push(parameter.build().into());
        }
    }
    if said.is_empty() {
        operation.parameters = None;
    }
}

/// Problems that come of the kind of request: not signed in, not allowed, nothing there, not to be read, too late, too large,
/// something failed here, or the book is closed.
fn with_problems(operation: &mut Operation, method: &str) {
    use StatusCode as S;
    let is_for_anybody = operation.security.is_some();
    let is_write = method != "get";
    let has_body = operation.request_body.is_some();
    let is_asked = |place: ParameterIn| {
        let said = operation.parameters.iter().flatten();
        said.into_iter().any(|each| matches!(each, RefOr::T(each) if each.parameter_in == place))
    };
    let of_this_kind = [
        (!is_for_anybody, S::UNAUTHORIZED),
        // Who may only look, and another site's page.
        (is_write, S::FORBIDDEN),
        (is_asked(ParameterIn::Path), S::NOT_FOUND),
        (has_body || is_write || is_asked(ParameterIn::Query), S::BAD_REQUEST),
        // A key that was used for something else, a row that was changed meanwhile.
        (is_write && !is_for_anybody, S::CONFLICT),
        (has_body, S::PAYLOAD_TOO_LARGE),
        (has_body, S::UNPROCESSABLE_ENTITY),
        (true, S::INTERNAL_SERVER_ERROR),
        // The database does not answer.
        (true, S::SERVICE_UNAVAILABLE),
    ];
    for (_, status) in of_this_kind.into_iter().filter(|(applies, _)| *applies) {
        let known = &mut operation.responses.responses;
        known.entry(status.as_str().to_owned()).or_insert_with(|| RefOr::T(problem()));
    }
}

/// A problem; `as_sent` says the status in words.
fn problem() -> Response {
    let mut response = Response::new("");
    let schema = Ref::from_schema_name("Problem");
    let content = ContentBuilder::new().schema(Some(schema)).build();
    response.content.insert("application/problem+json".to_owned(), content.into());
    response
}

/// A response as it is sent: a problem under its own media type, every status with a word.
fn as_sent(status: &str, response: &mut RefOr<Response>) {
    let RefOr::T(response) = response else { return };
    if response.description.is_empty() {
        let known = status.parse().ok().and_then(|code| StatusCode::from_u16(code).ok()?.canonical_reason());
        response.description = known.unwrap_or_default().to_owned();
    }
    let is_problem = |content: &RefOr<utoipa::openapi::Content>| {
        let RefOr::T(content) = content else { return false };
        matches!(&content.schema, Some(RefOr::Ref(schema)) if schema.ref_location.ends_with("/Problem"))
    };
    if let Some(content) = response.content.get("application/json").cloned().filter(is_problem) {
        response.content.clear();
        response.content.insert("application/problem+json".to_owned(), content);
    }
}
