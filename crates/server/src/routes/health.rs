//! Whether the server is up, and whether it can work.

use axum::extract::State;
use axum::http::StatusCode;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::AppState;

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(health)).routes(routes!(ready))
}

/// The process answers.
#[utoipa::path(get, path = "/api/health", responses((status = 200, body = String)))]
async fn health() -> &'static str {
    "up"
}

/// The database answers too.
#[utoipa::path(get, path = "/api/ready", responses((status = 200), (status = 503)))]
async fn ready(State(state): State<AppState>) -> StatusCode {
    match state.store.ping().await {
        Ok(()) => StatusCode::OK,
        Err(_) => StatusCode::SERVICE_UNAVAILABLE,
    }
}
