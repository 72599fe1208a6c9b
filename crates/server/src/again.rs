//! Two at once that stood in each other's way: the database turns one of them back, and that one is asked for once more.
//!
//! It happens where two change the same row at the same moment, and in a cluster when a change of another machine came first; then it is
//! told at the commit. What was turned back left nothing behind. A write is asked for again under its key, so that it counts once.

use axum::body::{Body, Bytes};
use axum::extract::Request;
use axum::http::Method;
use axum::http::request::Parts;
use axum::middleware::Next;
use axum::response::Response;

/// On an answer: the database turned this request back.
#[derive(Clone, Copy, Debug)]
pub(crate) struct TurnedBack;

/// Runs a request whose body was read, and once more where it was turned back.
pub(crate) async fn run(parts: Parts, body: Bytes, next: Next) -> Response {
    let request = || Request::from_parts(parts.clone(), Body::from(body.clone()));
    let answer = next.clone().run(request()).await;
    match answer.extensions().get::<TurnedBack>() {
        Some(_) => next.run(request()).await,
        None => answer,
    }
}

/// Runs a request that has no body, or that cannot be asked for twice because it has no key.
pub(crate) async fn run_unread(request: Request, next: Next) -> Response {
    if request.method() == Method::GET {
        return run(request.into_parts().0, Bytes::new(), next).await;
    }
    next.run(request).await
}
