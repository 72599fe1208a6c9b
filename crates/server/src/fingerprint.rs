//! What the key of a write stands for: the endpoint and the body it was made for.
//!
//! A retried tap sends the same bytes under the same key and saves once; other bytes under the same key
//! are another write and are turned down by the store.

use axum::body::to_bytes;
use axum::extract::Request;
use axum::http::header;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use sha2::{Digest, Sha256};

use crate::again;
use crate::limit::limit_of;

/// SHA-256 of method, address and body.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Fingerprint(pub(crate) [u8; 32]);

/// Takes the fingerprint of a write that carries a key. Requests of nobody signed in are not read for it.
pub(crate) async fn take(request: Request, next: Next) -> Response {
    let headers = request.headers();
    if !headers.contains_key("idempotency-key") || !headers.contains_key(header::COOKIE) {
        return again::run_unread(request, next).await;
    }
    let (limit, problem) = limit_of(request.uri().path());
    let (mut parts, body) = request.into_parts();
    let Ok(bytes) = to_bytes(body, limit).await else { return problem.into_response() };
    let mut digest = Sha256::new();
    // A nought between the parts: none of them can hold one.
    digest.update(parts.method.as_str());
    digest.update([0]);
    digest.update(parts.uri.to_string());
    digest.update([0]);
    digest.update(&bytes);
    parts.extensions.insert(Fingerprint(digest.finalize().into()));
    again::run(parts, bytes, next).await
}
