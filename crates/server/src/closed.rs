//! While the database is away one request now and then tries whether it is back; the others are told at once, and do not wait for a
//! connection that nobody gives them.

use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use axum::extract::{Request, State};
use axum::http::StatusCode;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::again::TurnedBack;
use crate::error::ApiError;

/// So long after a try that failed the next one may.
const BETWEEN: Duration = Duration::from_millis(250);
/// A try takes no longer than this: the time that is waited for a connection, and a little.
const A_TRY: Duration = Duration::from_secs(3);

/// Whether the database was away when it was asked last: then the moment from which the next one may ask it. Cheap to clone.
#[derive(Clone, Debug, Default)]
pub struct Closed(Arc<Mutex<Option<Instant>>>);

impl Closed {
    /// Whether this one is told at once; where not, and it was away, this one tries.
    fn is_now(&self) -> bool {
        let mut next = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let now = Instant::now();
        match *next {
            None => false,
            Some(at) if at > now => true,
            Some(_) => {
                *next = Some(now + A_TRY);
                false
            }
        }
    }

    /// What an answer says of it.
    fn learns_from(&self, status: StatusCode) {
        let mut next = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if status == StatusCode::SERVICE_UNAVAILABLE {
            *next = Some(Instant::now() + BETWEEN);
        } else if status.is_success() {
            *next = None;
        } else if next.is_some() {
            // Turned down, perhaps without a look at the database: it says nothing, and the next one tries.
            *next = Some(Instant::now());
        }
    }
}

/// The middleware.
pub(crate) async fn at_once(State(closed): State<Closed>, request: Request, next: Next) -> Response {
    let path = request.uri().path();
    // How the server is, and the pages themselves, take no database.
    if !path.starts_with("/api/") || path == "/api/health" {
        return next.run(request).await;
    }
    // Whoever asks whether it is ready asks the database itself.
    if path != "/api/ready" && closed.is_now() {
        return ApiError::Closed.into_response();
    }
    let answer = next.run(request).await;
    // A request that was turned back did speak with the database.
    if answer.extensions().get::<TurnedBack>().is_none() {
        closed.learns_from(answer.status());
    }
    answer
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_tries_and_the_others_are_told_at_once() {
        let closed = Closed::default();
        assert!(!closed.is_now(), "nothing is known");
        closed.learns_from(StatusCode::NOT_FOUND);
        assert!(!closed.is_now(), "still nothing");
        closed.learns_from(StatusCode::SERVICE_UNAVAILABLE);
        assert!(closed.is_now() && closed.is_now());
        std::thread::sleep(BETWEEN + Duration::from_millis(20));
        assert!(!closed.is_now(), "this one tries");
        assert!(closed.is_now(), "and only this one");
        closed.learns_from(StatusCode::UNAUTHORIZED);
        assert!(!closed.is_now(), "it was turned down and found nothing out: the next one tries");
        assert!(closed.is_now());
        closed.learns_from(StatusCode::OK);
        assert!(!closed.is_now() && !closed.is_now());
    }
}
