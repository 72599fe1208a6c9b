//! Whether the server is up, and whether it can work.

use std::time::Duration;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::AppState;

/// The database answers within this time, or not at all.
const AT_ONCE: Duration = Duration::from_millis(900);

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(health)).routes(routes!(ready))
}

/// Whether something answers.
#[derive(Serialize, ToSchema)]
struct Up {
    up: bool,
}

/// The process answers.
#[utoipa::path(get, path = "/api/health", security(()), responses((status = 200, body = Up)))]
async fn health() -> Json<Up> {
    Json(Up { up: true })
}

/// The database answers too.
#[utoipa::path(get, path = "/api/ready", security(()), responses((status = 200, body = Up), (status = 503, body = Up)))]
async fn ready(State(state): State<AppState>) -> (StatusCode, Json<Up>) {
    // Whoever asks wants to know now.
    let up = tokio::time::timeout(AT_ONCE, state.store.ping()).await.is_ok_and(|answer| answer.is_ok());
    let status = if up { StatusCode::OK } else { StatusCode::SERVICE_UNAVAILABLE };
    (status, Json(Up { up }))
}
