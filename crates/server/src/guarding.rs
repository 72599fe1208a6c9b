//! What every answer says to the browser about how it may be used.

use axum::extract::{Request, State};
use axum::http::{HeaderName, HeaderValue, header};
use axum::middleware::Next;
use axum::response::Response;

use crate::assets;

/// Only what this server sends itself is run, shown or asked.
const CONTENT: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; \
                       connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

const ALWAYS: [(HeaderName, &str); 6] = [
    (header::CONTENT_SECURITY_POLICY, CONTENT),
    (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
    (header::REFERRER_POLICY, "no-referrer"),
    (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
    // A client's story is open to whoever has its link, and to nobody who searches.
    (HeaderName::from_static("x-robots-tag"), "noindex, nofollow"),
    (HeaderName::from_static("permissions-policy"), "geolocation=(), microphone=(), payment=(), usb=()"),
];

/// The front end this server belongs to: a page that was opened from another version can say so.
const PAGE: HeaderName = HeaderName::from_static("yardwand-page");

/// Whether cookies go over HTTPS only: then the browser is told to come over HTTPS only.
#[derive(Clone, Copy)]
pub(crate) struct Secure(pub(crate) bool);

/// The middleware.
pub(crate) async fn guard(State(Secure(secure)): State<Secure>, request: Request, next: Next) -> Response {
    let is_api = request.uri().path().starts_with("/api/");
    let mut answer = next.run(request).await;
    let headers = answer.headers_mut();
    for (name, value) in ALWAYS {
        headers.insert(name, HeaderValue::from_static(value));
    }
    if is_api {
        // Readings and pictures of clients: the machine that shows them keeps none.
        headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("no-store"));
        if let Some(name) = assets::begins_with() {
            headers.insert(PAGE, name);
        }
    }
    if secure {
        headers.insert(header::STRICT_TRANSPORT_SECURITY, HeaderValue::from_static("max-age=31536000"));
    }
    answer
}
