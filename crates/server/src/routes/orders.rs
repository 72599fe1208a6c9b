//! `/api/orders`: garments in hand.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::{CarriedStep, Recipe, Source, carry_over};
use yardwand_store::{NewOrder, NewPattern, OrderChange, Orders};

use super::sets::set_of;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, QueryString, Writer};
use crate::rights::{Cutting, Dates};
use crate::routes::calendar::{checked_toiles, not_before_today};
use crate::views::{Based, Made, OrderView, PutAwayName, words};

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

/// The set of a bodice that is drafted from her figures.
pub(super) const USUAL_SET: &str = "bodice_direct";

fn direct() -> String {
    USUAL_SET.to_owned()
}

#[derive(Deserialize, ToSchema)]
struct Finished {
    finished: bool,
}

#[derive(Deserialize, ToSchema)]
struct GarmentChange {
    garment: String,
    /// What is measured for it: a set of the catalogue, or `house:` and the number of one of the house's own.
    set_code: String,
}

#[derive(Deserialize, ToSchema)]
struct PuttingAway {
    /// None brings it back.
    put_away: Option<PutAwayName>,
}

#[derive(Deserialize, ToSchema)]
struct CopyEntry {
    /// For whom the new garment is.
    client_id: u64,
    garment: String,
    #[serde(default)]
    wanted_on: Option<NaiveDate>,
}

/// A garment that was copied, and what became of the recipe's steps.
#[derive(Serialize, ToSchema)]
struct Copied {
    id: u64,
    steps: Vec<CarriedStep>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list))
        .routes(routes!(get, change))
        .routes(routes!(take))
        .routes(routes!(put_away))
        .routes(routes!(copy))
        .routes(routes!(finish))
}

/// So many of the garments handed over last are told of beside those in hand.
const LATELY: u32 = 50;
/// So many garments are found at most.
const FOUND: u32 = 20;

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct GarmentsAsked {
    /// Words of the garment's and its client's name. Without them it is what is in hand, and what was handed over last.
    #[serde(default)]
    q: String,
    /// This client's come first: all of hers where no words are given, and those found where some are.
    client: Option<u64>,
}

/// The garments in hand, the nearest wanted date first, and fifty of those handed over last; or those that are looked for.
#[utoipa::path(get, path = "/api/orders", params(GarmentsAsked), responses((status = 200, body = Vec<OrderView>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    QueryString(asked): QueryString<GarmentsAsked>,
) -> Result<Json<Vec<OrderView>>, ApiError> {
    let words = asked.q.trim();
    let which = match words {
        "" => Orders::InHandAndLately(LATELY),
        words => Orders::Found { words, most: FOUND },
    };
    let mut rows = state.store.orders(which).await?;
    // Of one who is asked for all are told that may be chosen, however long ago they were made.
    if let (Some(client), "") = (asked.client, words) {
        rows.retain(|row| row.order.client_id != client);
        rows.extend(state.store.orders(Orders::OfClient(client)).await?);
    }
    rows.sort_by_key(|row| Some(row.order.client_id) != asked.client);
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

/// Renames a garment, and changes what is measured for it.
#[utoipa::path(put, path = "/api/orders/{id}", request_body = Based<GarmentChange>, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<GarmentChange>>,
) -> Result<StatusCode, ApiError> {
    let (set_code, set_name, set_codes) = set_of(&state.store, &based.change.set_code).await?;
    let garment = words("/garment", "The garment", &based.change.garment, 120)?;
    let change = OrderChange { garment, set_code, set_name, set_codes };
    state.store.change_order(id, &change, based.revision, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Cancels a garment, archives one that was handed over, or brings it back.
#[utoipa::path(put, path = "/api/orders/{id}/put-away", request_body = Based<PuttingAway>, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn put_away(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<PuttingAway>>,
) -> Result<StatusCode, ApiError> {
    let why = based.change.put_away.map(Into::into);
    state.store.put_away(id, why, based.revision, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes an order for the same garment once more, for the same client or another: with its block and its corrections.
/// Nothing that was said of one client is written on another's pattern.
#[utoipa::path(post, path = "/api/orders/{id}/copy", request_body = CopyEntry, responses(
    (status = 201, body = Copied), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn copy(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(entry): JsonBody<CopyEntry>,
) -> Result<(StatusCode, Json<Copied>), ApiError> {
    let from = state.store.order(id).await?;
    let new = NewOrder {
        client_id: entry.client_id,
        garment: words("/garment", "The garment", &entry.garment, 120)?,
        set_code: from.order.set_code,
        set_name: from.order.set_name,
        set_codes: from.order.set_codes,
        wanted_on: entry.wanted_on.map(not_before_today).transpose()?,
        toiles: from.order.toiles,
    };
    let Some(pattern) = from.pattern_id else {
        return Err(ApiError::field("/garment", "this garment has no pattern yet: take a new order instead"));
    };
    let pattern = state.store.pattern(pattern).await?;
    let is_hers = from.order.client_id == entry.client_id;
    // Her own block is hers alone.
    if !is_hers && state.store.block(pattern.block_id).await?.summary.client_id.is_some() {
        return Err(ApiError::field(
            "/client_id",
            "this garment was begun from her own block: begin the other one from a master, and carry the corrections over there",
        ));
    }
    let source = if is_hers { Source::SameClient(&from.order.garment) } else { Source::OtherClient };
    let carried = carry_over(&pattern.block, &Recipe::default(), &pattern.recipe, None, source, style);
    let begun = NewPattern {
        block_id: pattern.block_id,
        block_name: &pattern.block_name,
        block: &pattern.block,
        recipe: &carried.recipe,
    };
    let copy = state.store.add_order_with_pattern(&new, begun, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Copied { id: copy, steps: carried.report })))
}
