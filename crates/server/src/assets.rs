//! The front end, inside the binary (read from `web/dist` in a debug build).

use axum::http::{StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

use crate::error::ApiError;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Dist;

/// A file of the front end; any other path is the application itself, which knows its own pages.
pub(crate) async fn serve(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return ApiError::NotFound("there is nothing at this address".to_owned()).into_response();
    }
    let (name, cache) = match Dist::get(path) {
        // Names under assets/ carry a hash of what they hold.
        Some(_) if path.starts_with("assets/") => (path, "public, max-age=31536000, immutable"),
        Some(_) => (path, "no-cache"),
        None => ("index.html", "no-cache"),
    };
    match Dist::get(name) {
        Some(file) => {
            let kind = file.metadata.mimetype().to_owned();
            ([(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, cache.to_owned())], file.data)
                .into_response()
        }
        None => (StatusCode::SERVICE_UNAVAILABLE, "The front end is not built: run `cargo xtask demo`.")
            .into_response(),
    }
}
