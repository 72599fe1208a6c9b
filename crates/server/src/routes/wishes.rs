//! `/api/orders/{id}/wishes`: what she wishes of a garment, as steps of its recipe.

use axum::Json;
use axum::extract::State;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::compare::{Wish, wishes};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id};
use crate::figures::profile_of_client;

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(of_order))
}

/// What her readings wish of a garment, on the block its pattern was begun from; nothing before one is begun.
#[utoipa::path(get, path = "/api/orders/{id}/wishes", responses((status = 200, body = Vec<Wish>), (status = 404, body = Problem)))]
async fn of_order(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<Vec<Wish>>, ApiError> {
    let facts = state.store.order(id).await?;
    let Some(pattern) = facts.pattern_id else { return Ok(Json(Vec::new())) };
    let profile = profile_of_client(&state.store, facts.order.client_id).await?;
    let pattern = state.store.pattern(pattern).await?;
    Ok(Json(wishes(&profile, &pattern.block, style)))
}
