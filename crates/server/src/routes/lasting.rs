//! What lasts of a garment's corrections: into her own block, so that her next garment starts from it.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::compare::{BlockSize, Fitting};
use yardwand_core::fitting::{LastingStep, lasting_steps, own_block};
use yardwand_store::{How, NewBlock};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::body_of_client;
use crate::rights::Cutting;
use crate::views::{Made, OrderView, words};
use crate::workroom::{ease_of_order, own_name};

#[derive(Serialize, ToSchema)]
struct LastingView {
    /// The version it would be taken from.
    version: u32,
    /// What the block would be called.
    name: String,
    /// What this garment began from.
    block: String,
    steps: Vec<LastingStep>,
}

#[derive(Deserialize, ToSchema)]
struct LastingEntry {
    name: String,
    /// The steps that are taken along.
    steps: Vec<u32>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(lasting)).routes(routes!(take))
}

/// The newest version of a garment's pattern.
async fn newest(state: &AppState, order: &OrderView) -> Result<yardwand_store::VersionRow, ApiError> {
    let pattern =
        order.pattern_id.ok_or_else(|| ApiError::field("/steps", "this garment has no pattern yet"))?;
    let versions = state.store.versions(pattern).await?;
    versions
        .into_iter()
        .next()
        .ok_or_else(|| ApiError::field("/steps", "no version of the pattern is saved yet"))
}

/// The steps of the newest version, each with whether it is her posture or frame.
#[utoipa::path(get, path = "/api/orders/{id}/lasting", responses(
    (status = 200, body = LastingView), (status = 422, body = Problem)))]
async fn lasting(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<LastingView>, ApiError> {
    let order: OrderView = state.store.order(id).await?.into();
    let newest = newest(&state, &order).await?;
    let pattern = state.store.pattern(newest.pattern_id).await?;
    Ok(Json(LastingView {
        version: newest.version,
        name: own_name(&order.client, pattern.block.garment()),
        block: pattern.block_name,
        steps: lasting_steps(&newest.recipe, style),
    }))
}

/// Keeps the block with the chosen steps as the client's own; once more makes its next version.
#[utoipa::path(post, path = "/api/orders/{id}/own-block", request_body = LastingEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn take(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(entry): JsonBody<LastingEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let name = words("/name", "The name of the block", &entry.name, 120)?;
    let order: OrderView = state.store.order(id).await?.into();
    let newest = newest(&state, &order).await?;
    let row = state.store.pattern(newest.pattern_id).await?;
    let drawn = own_block(&row.block, &newest.recipe, &entry.steps, style)
        .map_err(|says| ApiError::field("/steps", says))?;
    let figure = body_of_client(&state.store, order.client_id).await?;
    let parent = state.store.block(row.block_id).await.ok();
    let mut own = BlockSize::drawn("own", figure, drawn);
    if let Some(round) = state.store.rounds(id).await?.iter().rfind(|round| round.closed_at.is_some()) {
        let ease = ease_of_order(&state.store, id, row.block.garment()).await?;
        let fitting =
            Fitting { body: &own.figure, ease: &ease, garment: &order.garment, round: round.number };
        let before = parent
            .as_ref()
            .and_then(|parent| parent.sizes.iter().find(|size| size.pattern() == Some(&row.block)));
        let before = before.map_or(&[][..], |size| &size.settled);
        own.settled = own.pattern().map_or_else(Vec::new, |drawn| fitting.settled(&row.block, drawn, before));
    }
    let new = NewBlock {
        name,
        client_id: Some(order.client_id),
        how: How::Traced,
        told: format!("{} with the lasting corrections of “{}”.", row.block_name, order.garment),
        parent_id: parent.as_ref().map(|_| row.block_id),
        method: None,
        ease_set: match parent {
            Some(parent) => parent.ease_set,
            None => state.store.house().await?.ease_set,
        },
        why: format!("Corrections of “{}”, version {}.", order.garment, newest.version),
        sizes: vec![own],
    };
    let id = state.store.add_block(&new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
