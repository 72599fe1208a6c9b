//! A request that was begun is finished, even where whoever asked has gone: a drag sends previews faster than it waits
//! for them, a page is left while it loads. Stopped in the middle of a statement, a connection to the database would
//! have to be thrown away.

use axum::extract::Request;
use axum::middleware::Next;
use axum::response::Response;

/// Runs work to its end, whatever becomes of the caller.
///
/// # Panics
///
/// Where the work does.
pub(crate) async fn finished<T: Send + 'static>(work: impl Future<Output = T> + Send + 'static) -> T {
    match tokio::spawn(work).await {
        Ok(done) => done,
        // Nothing here aborts a task, so it can only have panicked.
        Err(ended) => std::panic::resume_unwind(ended.into_panic()),
    }
}

/// The middleware.
pub(crate) async fn finish(request: Request, next: Next) -> Response {
    finished(next.run(request)).await
}
