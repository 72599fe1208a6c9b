//! The front end, inside the binary (read from `web/dist` in a debug build).

use axum::http::{HeaderValue, StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

use crate::error::ApiError;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Dist;

/// The file this front end begins with; its name changes with every version. A page that began with another one is of another
/// version than this server.
pub(crate) fn begins_with() -> Option<HeaderValue> {
    let index = Dist::get("index.html")?;
    let text = std::str::from_utf8(&index.data).ok()?;
    let (_, rest) = text.split_once("src=\"/assets/")?;
    HeaderValue::from_str(rest.split_once('"')?.0).ok()
}

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
