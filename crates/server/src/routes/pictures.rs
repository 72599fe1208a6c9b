//! Small drawings that blocks, patterns and versions are recognised by.

use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::make;
use yardwand_core::pattern::Pattern;
use yardwand_paper::small_svg;
use yardwand_store::StoreError;

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id};

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(of_block)).routes(routes!(of_pattern)).routes(routes!(of_version))
}

fn drawn(pattern: &Pattern) -> Response {
    ([(header::CONTENT_TYPE, "image/svg+xml")], small_svg(pattern)).into_response()
}

/// A block, small: its first size that is drawn. A card has none.
#[utoipa::path(get, path = "/api/blocks/{id}/picture", responses(
    (status = 200, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
async fn of_block(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Response, ApiError> {
    let block = state.store.block(id).await?;
    let pattern = block.sizes.iter().find_map(|size| size.pattern());
    let picture = pattern.map(drawn);
    picture.ok_or_else(|| StoreError::NotFound { what: "drawing of a card", id }.into())
}

/// A pattern as its recipe makes it now, small.
#[utoipa::path(get, path = "/api/patterns/{id}/picture", responses(
    (status = 200, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
async fn of_pattern(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Response, ApiError> {
    let row = state.store.pattern(id).await?;
    Ok(drawn(&make(&row.block, &row.recipe, style).pattern))
}

/// A frozen version, small.
#[utoipa::path(get, path = "/api/versions/{id}/picture", responses(
    (status = 200, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
async fn of_version(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Response, ApiError> {
    Ok(drawn(&state.store.version(id).await?.pattern))
}
