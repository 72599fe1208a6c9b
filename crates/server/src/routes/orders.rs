//! `/api/orders`: garments in hand.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::NaiveDate;
use serde::Deserialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::NewOrder;

use super::sets::set_of;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::rights::Dates;
use crate::routes::calendar::{checked_toiles, not_before_today};
use crate::views::{Based, Made, OrderView, words};

#[derive(Deserialize, ToSchema)]
struct OrderEntry {
    garment: String,
    #[serde(default)]
    wanted_on: Option<NaiveDate>,
    /// What is measured for it: a set of the catalogue, or `house:` and the number of one of the house's own.
    #[serde(default = "direct")]
    set_code: String,
    /// How many toiles are thought of.
    #[serde(default = "two")]
    toiles: u32,
}

fn two() -> u32 {
    2
}

fn direct() -> String {
    "bodice_direct".to_owned()
}

#[derive(Deserialize, ToSchema)]
struct Finished {
    finished: bool,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list))
        .routes(routes!(get))
        .routes(routes!(take))
        .routes(routes!(finish))
}

/// Every garment, the nearest wanted date first, finished ones last: the Today page.
#[utoipa::path(get, path = "/api/orders", responses((status = 200, body = Vec<OrderView>)))]
async fn list(State(state): State<AppState>, _: SignedIn) -> Result<Json<Vec<OrderView>>, ApiError> {
    let rows = state.store.orders(None).await?;
    Ok(Json(rows.into_iter().map(OrderView::from).collect()))
}

/// One garment.
#[utoipa::path(get, path = "/api/orders/{id}", responses((status = 200, body = OrderView), (status = 404, body = Problem)))]
async fn get(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Json<OrderView>, ApiError> {
    Ok(Json(state.store.order(id).await?.into()))
}

/// Takes an order for a client.
#[utoipa::path(post, path = "/api/clients/{id}/orders", request_body = OrderEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn take(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(client): Id,
    JsonBody(entry): JsonBody<OrderEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let (set_code, set_name, codes) = set_of(&state.store, &entry.set_code).await?;
    let order = NewOrder {
        client_id: client,
        garment: words("/garment", "The garment", &entry.garment, 120)?,
        set_code,
        set_name,
        set_codes: codes,
        wanted_on: entry.wanted_on.map(not_before_today).transpose()?,
        toiles: checked_toiles(entry.toiles)?,
    };
    let id = state.store.add_order(&order, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Marks a garment as handed over, or takes it up again.
#[utoipa::path(put, path = "/api/orders/{id}/finished", request_body = Based<Finished>, responses(
    (status = 204), (status = 409, body = Problem)))]
async fn finish(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<Finished>>,
) -> Result<StatusCode, ApiError> {
    state.store.finish_order(id, based.change.finished, based.revision, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}
