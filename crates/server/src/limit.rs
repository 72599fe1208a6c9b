//! Bodies that are too large: read to their end without keeping them, so that the answer arrives.

use axum::extract::Request;
use axum::http::header;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use http_body_util::BodyExt;

use crate::error::ApiError;
use crate::{BODY_LIMIT, PHOTO_LIMIT};

/// What is read and thrown away before the line is cut, in bytes.
const PATIENCE: usize = 64 << 20;

/// The most bytes a body may have at this address, and what is said of more.
pub(crate) fn limit_of(path: &str) -> (usize, ApiError) {
    if path.ends_with("/photographs") || path.ends_with("/photograph") {
        (PHOTO_LIMIT, ApiError::LARGE_PHOTOGRAPH)
    } else {
        (BODY_LIMIT, ApiError::LARGE)
    }
}

/// Turns down a body that says it is too large. A sender that is still sending would otherwise see a
/// broken line instead of the sentence.
pub(crate) async fn turn_down(request: Request, next: Next) -> Response {
    let length = request.headers().get(header::CONTENT_LENGTH).and_then(|value| value.to_str().ok());
    let (limit, problem) = limit_of(request.uri().path());
    let too_large = length.and_then(|text| text.parse::<usize>().ok()).is_some_and(|bytes| bytes > limit);
    if !too_large {
        return next.run(request).await;
    }
    let mut body = request.into_body();
    let mut read = 0;
    while let Some(Ok(frame)) = body.frame().await {
        read += frame.data_ref().map_or(0, |data| data.len());
        if read > PATIENCE {
            break;
        }
    }
    problem.into_response()
}
